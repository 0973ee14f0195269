import { memo } from "react";
import { CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import type { Finding } from "../api/client";
import { FINDING_WORDS } from "../words";
import { FieldLabel, Tick } from "./Fields";
import { FindingMark } from "./FindingMark";
import { DANGERS, MENDABLE } from "./findings";

/** What to look for, each with a drawn example and its key. Many boxes: drawn anew only when one of them changed. */
export const FindingTicks = memo(function FindingTicks({
  found,
  onChange,
  asked = NONE,
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
              <FindingMark finding={finding} width={52} />
              <span>{FINDING_WORDS[finding]}</span>
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
});

const NONE: readonly Finding[] = [];
const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9.5rem, 1fr));
  gap: var(--slit);
  label { position: relative; height: 100%; padding: var(--slit) var(--near); align-items: start; }
  kbd { position: absolute; top: 6px; right: 6px; }
  ${({ theme }) => theme.narrow} { grid-template-columns: repeat(3, minmax(0, 1fr)); label { flex-direction: column; gap: var(--thread); } }
`;
const Asked = styled.div<{ $asked: boolean }>`
  ${({ theme, $asked }) => $asked && `outline: 3px solid ${theme.color.tape}; outline-offset: 1px;`}
`;
const Look = styled.span`
  display: grid;
  gap: var(--thread);
  line-height: 1.15;
  font-size: 0.9375rem;
`;
const Gap = styled.div`height: 0.75rem;`;
