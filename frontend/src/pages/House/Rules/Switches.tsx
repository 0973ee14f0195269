import styled from "styled-components";
import { Choice } from "../../../components/Fields";
import { Sheet } from "../../../components/Page";
import type { Draft, Rules } from "./draft";

/** What is settled differently from house to house, and what speaks for each. */
export function Switches({
  rules,
  shown,
  mayChange,
  onChange,
}: {
  rules: Rules;
  shown: Draft;
  mayChange: boolean;
  onChange: (part: Partial<Draft>) => void;
}) {
  return (
    <Sheet>
      <h2>What no arithmetic decides</h2>
      {rules.switches.map((each) => {
        const chosen = each.choices.find((choice) => choice.code === shown.switches[each.key]);
        return (
          <SwitchRow key={each.key}>
            {mayChange ? (
              <Choice
                label={each.question}
                value={shown.switches[each.key] ?? each.chosen}
                onChange={(choice) => onChange({ switches: { ...shown.switches, [each.key]: choice } })}
                options={each.choices.map((choice) => [choice.code, choice.text] as const)}
              />
            ) : (
              <p>
                {each.question} <strong>{chosen?.text}.</strong>
              </p>
            )}
            <Small>{chosen?.why}</Small>
          </SwitchRow>
        );
      })}
    </Sheet>
  );
}

const SwitchRow = styled.div`display: grid; gap: var(--hair); padding: var(--near) 0;`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
