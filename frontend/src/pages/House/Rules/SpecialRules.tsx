import { useState } from "react";
import styled from "styled-components";
import { Button } from "../../../components/Button";
import { Field } from "../../../components/Fields";
import { Pick } from "../../../components/Pick";
import { FAMILY_WORDS } from "../../../words";
import type { Rules, Special } from "./draft";
import { meant } from "./Values";

const A_SIZE = "size";
type Family = NonNullable<Special["family"]>;

/** Rules for one family or one size, which go before the general ones. */
export function SpecialRules({
  limits,
  special,
  wrong,
  mayChange,
  onChange,
}: {
  limits: Rules["limits"];
  special: Special[];
  wrong: { field: string; text: string } | null;
  mayChange: boolean;
  onChange: (special: Special[]) => void;
}) {
  const [about, setAbout] = useState<Family | typeof A_SIZE>(A_SIZE);
  const [size, setSize] = useState("");
  const editable = limits.filter((limit) => !limit.is_fixed);
  const [key, setKey] = useState(editable[0]?.key ?? "");
  const [value, setValue] = useState("");
  const named = (limitKey: string) => limits.find((limit) => limit.key === limitKey);
  const canAdd = value.trim() !== "" && (about !== A_SIZE || size.trim() !== "");
  return (
    <>
      {special.length === 0 && <p>None. The general rules hold for every family and size.</p>}
      <ul>
        {special.map((rule) => (
          <Row key={`${rule.family}-${rule.size_code}-${rule.key}`}>
            <span>
              <strong>{rule.family ? FAMILY_WORDS[rule.family] : rule.size_code}</strong>:{" "}
              {meant(named(rule.key)?.meaning ?? rule.key)}{" "}
              <strong>{`${rule.value} ${named(rule.key)?.unit ?? ""}`}</strong>
            </span>
            {mayChange && (
              <Button kind="quiet" onPress={() => onChange(special.filter((each) => each !== rule))}>
                Take it out
              </Button>
            )}
          </Row>
        ))}
      </ul>
      {wrong && <Wrong role="alert">{wrong.text}</Wrong>}
      {mayChange && (
        <Add>
          <Pick
            label="For"
            value={about}
            onChange={setAbout}
            options={[
              [A_SIZE, "One size"] as const,
              ...(Object.entries(FAMILY_WORDS) as [Family, string][]).filter(([family]) => family !== "primary"),
            ]}
          />
          {about === A_SIZE && (
            <Field label="Size" value={size} onChange={setSize} maxLength={20} hint="As printed, e.g. 18650" />
          )}
          <Pick
            label="Value"
            value={key}
            onChange={setKey}
            options={editable.map((limit) => [limit.key, meant(limit.meaning)] as const)}
          />
          <Field
            label="Is here"
            unit={named(key)?.unit ?? ""}
            numeric
            value={value}
            onChange={setValue}
            maxLength={20}
          />
          <Button
            isDisabled={!canAdd}
            onPress={() => {
              const rule: Special = {
                family: about === A_SIZE ? null : about,
                size_code: about === A_SIZE ? size.trim() : null,
                key,
                value,
              };
              const isSame = (each: Special) =>
                each.family === rule.family && each.size_code === rule.size_code && each.key === rule.key;
              onChange([...special.filter((each) => !isSame(each)), rule]);
              setValue("");
            }}
          >
            Add it
          </Button>
        </Add>
      )}
    </>
  );
}

const Row = styled.li`display: flex; flex-wrap: wrap; align-items: center; gap: 0 var(--block);`;
const Add = styled.div`display: flex; flex-wrap: wrap; align-items: end; gap: var(--step) var(--sheet); margin-top: var(--apart);`;
const Wrong = styled.p`color: ${({ theme }) => theme.color.danger}; font-weight: 700;`;
