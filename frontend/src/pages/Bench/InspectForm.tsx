import { type KeyboardEvent, useRef, useState } from "react";
import { flushSync } from "react-dom";
import styled from "styled-components";
import type { Finding } from "../../api/client";
import { serverNow } from "../../api/client";
import { useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { FindingTicks } from "../../components/FindingTicks";
import { findingOf, isHazard } from "../../components/findings";
import { type Heat, HeatFields, heatBody, UNSAID_HEAT } from "../../components/HeatFields";
import { Notice, ProblemNotice } from "../../components/Notice";
import type { FormProps } from "./ReadingForm";

/** Look before measuring: a key for each finding, digits for the voltage after it, Enter keeps what is there. */
export function InspectForm({ bench, again, onSend, problem, isSending }: FormProps) {
  const [found, setFound] = useState<Finding[]>(again?.findings ?? []);
  const [heat, setHeat] = useState<Heat>(UNSAID_HEAT);
  const { values, field: typed, set } = useTyped({ value: again?.value ?? "" });
  const { value } = values;
  // A letter and Enter are quickly typed: what takes over the screen is asked about first.
  const [isAsked, setAsked] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const danger = found.some(isHazard);
  const toggle = (finding: Finding) => {
    setAsked(false);
    setFound((before) => (before.includes(finding) ? before.filter((f) => f !== finding) : [...before, finding]));
  };
  const send = () => {
    if (isSending) return;
    const looked = { findings: found, ...heatBody(heat), typed_at: serverNow() };
    if (danger || value.trim() === "") onSend({ to: "inspections", body: looked });
    else onSend({ to: "first-looks", body: { ...looked, value } });
  };
  const askOrSend = () => {
    if (danger && !isAsked) setAsked(true);
    else send();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const isTyping = event.target instanceof HTMLInputElement && event.target.type === "text";
    const finding = findingOf(event.key);
    if (finding) {
      event.preventDefault();
      toggle(finding);
    } else if (!isTyping && DIGITS.test(event.key)) {
      // Somebody measured already: the voltage goes with the look.
      event.preventDefault();
      flushSync(() => set("value", value + event.key));
      field.current?.focus();
    } else if (event.key === "Enter" && (isTyping || danger)) {
      event.preventDefault();
      askOrSend();
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
      {value !== "" && !danger && (
        <Field
          label="Resting voltage, measured after the look"
          unit="V"
          size="key"
          numeric
          {...typed("value")}
          inputRef={field}
          autoComplete="off"
          maxLength={20}
        />
      )}
      <HeatFields heat={heat} onChange={setHeat} problem={problem} />
      <ProblemNotice problem={problem} />
      {danger && isAsked && (
        <Notice kind="ask">
          <strong>Dangerous? Enter again, and it goes into the fire-safe box.</strong> A slip: take the finding away by
          its letter.
        </Notice>
      )}
      <Button
        kind={danger ? "danger" : "main"}
        autoFocus
        onPress={(press) => (press.pointerType === "keyboard" ? askOrSend() : send())}
        isDisabled={isSending}
      >
        {danger
          ? "Dangerous: into the fire-safe box"
          : found.length === 0
            ? value === ""
              ? "Nothing found"
              : "Nothing found, keep the voltage"
            : found.length === 1
              ? "Keep this finding"
              : `Keep ${found.length} findings`}
      </Button>
    </Box>
  );
}

const DIGITS = /^[0-9.,]$/;

const Box = styled.div`display: grid; gap: var(--block); justify-items: stretch;`;
