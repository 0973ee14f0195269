import { type KeyboardEvent, useState } from "react";
import { CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import type { Finding } from "../../api/client";
import { Button } from "../../components/Button";
import { FieldLabel, Tick } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { FINDING_WORDS } from "../../words";
import type { FormProps } from "./ReadingForm";

const DANGERS: readonly (readonly [Finding, string])[] = [
  ["swollen", "S"],
  ["leaking", "L"],
  ["hot", "H"],
  ["hiss", "I"],
  ["dented", "D"],
  ["punctured", "P"],
  ["burnt", "B"],
  ["rusted-through", "R"],
  ["vent-open", "V"],
];
const MENDABLE: readonly (readonly [Finding, string])[] = [
  ["torn-wrap", "W"],
  ["tab-remains", "T"],
  ["corroded-ends", "C"],
];
const BY_KEY = new Map([...DANGERS, ...MENDABLE].map(([finding, key]) => [key, finding]));

/** Look before measuring: a key for each finding, Enter for what was found or for nothing. */
export function InspectForm({ onSend, problem, isSending }: FormProps) {
  const [found, setFound] = useState<Finding[]>([]);
  const toggle = (finding: Finding) =>
    setFound((before) => (before.includes(finding) ? before.filter((f) => f !== finding) : [...before, finding]));
  const send = () => {
    if (!isSending) onSend({ to: "inspections", body: { findings: found } });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const finding = BY_KEY.get(event.key.toUpperCase());
    if (finding) {
      event.preventDefault();
      toggle(finding);
    } else if (event.key === "Enter" && event.target instanceof HTMLInputElement) {
      event.preventDefault();
      send();
    }
  };
  return (
    <Box onKeyDown={onKeyDown}>
      <CheckboxGroup value={found} onChange={(next) => setFound(next as Finding[])}>
        <FieldLabel>Dangerous: it goes straight into the fire-safe box</FieldLabel>
        <Grid>
          {DANGERS.map(([finding, key]) => (
            <Tick key={finding} value={finding} mark={key} danger>
              {FINDING_WORDS[finding]}
            </Tick>
          ))}
        </Grid>
        <Gap />
        <FieldLabel>Can be mended first</FieldLabel>
        <Grid>
          {MENDABLE.map(([finding, key]) => (
            <Tick key={finding} value={finding} mark={key}>
              {FINDING_WORDS[finding]}
            </Tick>
          ))}
        </Grid>
      </CheckboxGroup>
      <ProblemNotice problem={problem} />
      <Button kind="main" autoFocus onPress={send} isDisabled={isSending}>
        {found.length === 0
          ? "Nothing found"
          : found.length === 1
            ? "Keep this finding"
            : `Keep ${found.length} findings`}
      </Button>
    </Box>
  );
}

const Box = styled.div`display: grid; gap: 1rem; justify-items: stretch;`;
const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(10.5rem, 1fr));
  gap: 0.375rem;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; font-size: 0.9375rem; }
`;
const Gap = styled.div`height: 0.75rem;`;
