import styled from "styled-components";
import { Field } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import { figure, GRADE_WORDS } from "../../../words";
import type { Rules } from "./draft";

/** The house's own values: each with what is usual; one that was changed stands out. */
export function Values({
  limits,
  values,
  wrong,
  mayChange,
  onChange,
}: {
  limits: Rules["limits"];
  values: Record<string, string>;
  wrong: { field: string; text: string } | null;
  mayChange: boolean;
  onChange: (key: string, value: string) => void;
}) {
  return (
    <>
      {[...new Set(limits.map((limit) => limit.group))].map((title) => {
        const members = limits.filter((limit) => limit.group === title);
        const changed = members.filter((limit) => (values[limit.key] ?? "").trim() !== "").length;
        return (
          <Fold
            key={title}
            title={changed > 0 ? `${title} (${changed} of its own)` : title}
            isOpen={members.some((limit) => limit.key === wrong?.field)}
          >
            <Grid>
              {members.map((limit) =>
                mayChange && !limit.is_fixed ? (
                  <Field
                    key={limit.key}
                    label={meant(limit.meaning)}
                    unit={limit.unit}
                    numeric
                    value={values[limit.key] ?? ""}
                    onChange={(value) => onChange(limit.key, value)}
                    maxLength={20}
                    hint={`Usual: ${plain(limit.usual)}`}
                    error={wrong?.field === limit.key ? wrong.text : null}
                  />
                ) : (
                  <p key={limit.key}>
                    {meant(limit.meaning)}: <strong>{`${plain(limit.value)} ${limit.unit}`}</strong>
                    {limit.is_fixed && " (the same in every house: it protects people)"}
                  </p>
                ),
              )}
            </Grid>
          </Fold>
        );
      })}
    </>
  );
}

/** The meaning of a limit as a label; grades by the words people see. */
export const meant = (meaning: string) =>
  `${meaning.charAt(0).toUpperCase()}${meaning.slice(1)}`.replace(
    /for ([ABC])$/,
    (_, grade: "A" | "B" | "C") => `for ${GRADE_WORDS[grade]}`,
  );
const plain = (value: number) => figure(value, Number.isInteger(value) ? 0 : Math.abs(value) < 0.1 ? 3 : 2);
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr)); gap: var(--step) var(--sheet); align-items: end; width: min(72rem, 82vw);`;
