import styled from "styled-components";
import type { Schemas } from "../api/client";
import { CHOICE_WORDS } from "../words";
import { Field } from "./Fields";
import { Pick } from "./Pick";

export type Need = Schemas["NeedOut"];

/** The inputs of a sum or a way to measure, each with its unit; made from what the core says it needs. */
export function NeedFields({
  needs,
  values,
  onChange,
  wrong,
}: {
  needs: Need[];
  values: Record<string, string>;
  onChange: (key: string, value: string) => void;
  wrong: { field: string | null; text: string } | null;
}) {
  return (
    <Grid>
      {needs.map((need) => {
        const error = wrong?.field === need.key ? wrong.text : null;
        if (need.need === "choice")
          return (
            <Pick
              key={need.key}
              label={labelOf(need)}
              value={values[need.key] ?? need.example ?? need.choices[0] ?? ""}
              onChange={(value) => onChange(need.key, value)}
              options={need.choices.map((choice) => [choice, CHOICE_WORDS[choice] ?? choice] as const)}
            />
          );
        return (
          <Cell key={need.key} $wide={need.need === "list"}>
            <Field
              label={labelOf(need)}
              unit={need.unit}
              numeric
              value={values[need.key] ?? ""}
              onChange={(value) => onChange(need.key, value)}
              maxLength={need.need === "list" ? 500 : 30}
              autoComplete="off"
              error={error}
              hint={hintOf(need)}
            />
          </Cell>
        );
      })}
    </Grid>
  );
}

const labelOf = (need: Need) => `${need.meaning.charAt(0).toUpperCase()}${need.meaning.slice(1)}`;

function hintOf(need: Need): string | undefined {
  if (need.need === "list") return `Several, parted by blanks or semicolons: ${need.example ?? ""}`;
  const share = need.need === "share" ? "From 0 to 1, as 0.9. " : "";
  return `${share}${need.optional ? "May stay empty." : ""}`.trim() || undefined;
}

const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11.5rem, 1fr));
  gap: var(--apart) var(--block);
  width: 100%;
  align-items: start;
`;
const Cell = styled.div<{ $wide: boolean }>`${({ $wide }) => $wide && "grid-column: 1 / -1;"}`;
