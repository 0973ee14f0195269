import { CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import type { Finding } from "../api/client";
import { FINDING_WORDS } from "../words";
import { FieldLabel, Tick } from "./Fields";
import { FindingMark } from "./FindingMark";
import { DANGERS, MENDABLE } from "./findings";

/** What to look for, each with a drawn example and its key. */
export function FindingTicks({
  found,
  onChange,
  asked = [],
}: {
  found: readonly Finding[];
  onChange: (found: Finding[]) => void;
  asked?: readonly Finding[];
}) {
  const ticks = (findings: typeof DANGERS, danger: boolean) => (
    <Grid>
      {findings.map(([finding, key]) => (
        <Asked key={finding} $asked={asked.includes(finding)}>
          <Tick value={finding} mark={key} danger={danger}>
            <Look>
              <FindingMark finding={finding} width={48} />
              {FINDING_WORDS[finding]}
            </Look>
          </Tick>
        </Asked>
      ))}
    </Grid>
  );
  return (
    <CheckboxGroup value={[...found]} onChange={(next) => onChange(next as Finding[])}>
      <FieldLabel>Dangerous: it goes straight into the fire-safe box</FieldLabel>
      {ticks(DANGERS, true)}
      <Gap />
      <FieldLabel>Can be mended first</FieldLabel>
      {ticks(MENDABLE, false)}
    </CheckboxGroup>
  );
}

const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11.5rem, 1fr));
  gap: 0.375rem;
  label { height: 100%; }
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; font-size: 0.875rem; }
`;
const Asked = styled.div<{ $asked: boolean }>`
  ${({ theme, $asked }) => $asked && `outline: 3px solid ${theme.color.tape}; outline-offset: 1px;`}
`;
const Look = styled.span`
  display: flex;
  align-items: center;
  gap: 0.5rem;
  line-height: 1.15;
  ${({ theme }) => theme.narrow} { flex-direction: column; align-items: flex-start; gap: 0.125rem; svg { width: 36px; height: 22px; } }
`;
const Gap = styled.div`height: 0.75rem;`;
