import { type KeyboardEvent, useState } from "react";
import styled from "styled-components";
import type { Finding } from "../../api/client";
import { serverNow } from "../../api/client";
import { Button } from "../../components/Button";
import { FindingTicks } from "../../components/FindingTicks";
import { findingOf } from "../../components/findings";
import { type Heat, HeatFields, heatBody, UNSAID_HEAT } from "../../components/HeatFields";
import { Notice, ProblemNotice } from "../../components/Notice";
import type { FormProps } from "./ReadingForm";

/** Look before measuring: a key for each finding, Enter for what was found or for nothing. */
export function InspectForm({ bench, onSend, problem, isSending }: FormProps) {
  const [found, setFound] = useState<Finding[]>([]);
  const [heat, setHeat] = useState<Heat>(UNSAID_HEAT);
  const toggle = (finding: Finding) =>
    setFound((before) => (before.includes(finding) ? before.filter((f) => f !== finding) : [...before, finding]));
  const send = () => {
    if (!isSending) onSend({ to: "inspections", body: { findings: found, ...heatBody(heat), typed_at: serverNow() } });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const finding = findingOf(event.key);
    if (finding) {
      event.preventDefault();
      toggle(finding);
    } else if (event.key === "Enter" && event.target instanceof HTMLInputElement) {
      event.preventDefault();
      send();
    }
  };
  const prompts = bench?.prompts ?? [];
  return (
    <Box onKeyDown={onKeyDown}>
      {prompts.map((prompt) => (
        <Notice key={prompt.text} kind="ask">
          {prompt.text}
        </Notice>
      ))}
      <FindingTicks found={found} onChange={setFound} asked={prompts.flatMap((prompt) => prompt.findings)} />
      <HeatFields heat={heat} onChange={setHeat} problem={problem} />
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
