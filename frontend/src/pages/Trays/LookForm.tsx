import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { type Finding, type Problem, type Schemas, serverNow } from "../../api/client";
import type { WaitingEntry } from "../../api/waiting";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { FindingTicks } from "../../components/FindingTicks";
import { findingOf, isHazard } from "../../components/findings";
import { type Heat, HeatFields, heatBody, UNSAID_HEAT } from "../../components/HeatFields";
import { hasKeys } from "../../components/hasKeys";
import { Notice, ProblemNotice } from "../../components/Notice";
import { SiblingStrip } from "../../components/SiblingStrip";
import { Tape } from "../../components/Tape";
import { figure } from "../../words";

export type TrayCell = Schemas["TrayOut"]["cells"][number];
type Turned = NonNullable<Schemas["FirstLookIn"]["turned"]>;
/** What was typed before and came back: it stands in the form again, with why. */
export type Again = { findings: Finding[]; value: string; problem: Problem };
type LookEntry = { to: "first-looks"; body: Schemas["FirstLookIn"] };

export const ALL_DONE = "Every cell of this tray was looked at and measured.";

/** Finding keys, digits, Enter: a look and the voltage after it, of one cell. */
export function LookForm({
  each,
  siblings,
  isOnePack,
  turn,
  waits,
  again,
  isAllDone,
  onKeep,
  onNothing,
  onStep,
}: {
  each: TrayCell;
  siblings: { number: string; value_v: number }[];
  isOnePack: boolean;
  /** Another one begins the form afresh: drawn anew from nothing it would be slower than the hands. */
  turn: string;
  waits: WaitingEntry | null;
  again: Again | null;
  isAllDone: boolean;
  /** Kept at once; what the server says to it comes behind. */
  onKeep: (entry: LookEntry) => void;
  /** Enter, with nothing typed yet where a voltage is wanted. */
  onNothing: () => void;
  onStep: (by: 1 | -1) => void;
}) {
  const { cell } = each;
  const [found, setFound] = useState<Finding[]>(again?.findings ?? []);
  const [heat, setHeat] = useState<Heat>(UNSAID_HEAT);
  const [value, setValue] = useState(again?.value ?? "");
  // A letter and Enter are quickly typed: what takes over the screen is asked about first.
  const [isAsked, setAsked] = useState(false);
  const [shown, setShown] = useState(turn);
  if (shown !== turn) {
    setShown(turn);
    setFound(again?.findings ?? []);
    setHeat(UNSAID_HEAT);
    setValue(again?.value ?? "");
    setAsked(false);
  }
  const input = useRef<HTMLInputElement>(null);
  const form = useRef<HTMLDivElement>(null);
  // Under the finger of somebody at a phone the keyboard must not jump up before the look.
  const isByKeys = useMemo(hasKeys, []);
  const danger = found.some(isHazard);
  // A hazard takes the field away; the keys then belong to the form itself.
  // biome-ignore lint/correctness/useExhaustiveDependencies: each turn gives the field the keys again
  useEffect(() => {
    if (isByKeys) (danger ? form.current : (input.current ?? form.current))?.focus();
  }, [isByKeys, danger, turn]);
  const asked = useMemo(() => each.prompts.flatMap((prompt) => prompt.findings), [each.prompts]);
  const refused = again && again.value === value ? again.problem : null;
  const wantsVoltage = each.needs_voltage && !danger;
  const isReady = danger || !each.needs_voltage || value.trim() !== "";

  const send = (typed: string, confirmed: boolean, turned: Turned | null = null) => {
    const body: Schemas["FirstLookIn"] = {
      findings: found,
      value: danger || typed.trim() === "" ? null : typed,
      confirmed,
      turned,
      ...heatBody(heat),
      state: "resting",
      typed_at: serverNow(),
    };
    onKeep({ to: "first-looks", body });
  };
  const submit = (byKey: boolean) => {
    if (waits || refused?.code === "negative-voltage") return;
    if (!isReady) {
      if (byKey && found.length === 0) onNothing();
    } else if (danger && byKey && !isAsked) setAsked(true);
    else if (refused?.suggestion) send(refused.suggestion, false);
    else send(value, refused?.code === "odd-input");
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const finding = findingOf(event.key);
    if (finding) {
      event.preventDefault();
      setAsked(false);
      setFound((before) => (before.includes(finding) ? before.filter((f) => f !== finding) : [...before, finding]));
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      onStep(event.key === "ArrowDown" ? 1 : -1);
    } else if (event.key === "Enter" && !(event.target instanceof HTMLButtonElement)) {
      event.preventDefault();
      submit(true);
    }
  };
  return (
    <Stack ref={form} tabIndex={-1} onKeyDown={onKeyDown}>
      <Head>
        <Slot>{cell.slot}</Slot>
        <Tape size="large">{cell.number}</Tape>
        <div>
          <strong>{cell.size_code ?? "size unknown"}</strong>
          <Small>{cell.donor_description}</Small>
        </div>
      </Head>
      {waits && (
        <Notice kind="ask">
          {waits.refused
            ? "What you typed for this cell came back. See above."
            : "What you typed for this cell is being kept."}
        </Notice>
      )}
      {each.prompts.map((prompt) => (
        <Notice key={prompt.text} kind="ask">
          {prompt.text}
        </Notice>
      ))}
      {wantsVoltage && (
        <Field
          label="Resting voltage"
          unit="V"
          size="key"
          numeric
          value={value}
          onChange={(next) => setValue(next)}
          inputRef={input}
          autoComplete="off"
          maxLength={20}
          error={refused && refused.code !== "odd-input" ? refused.message : null}
        />
      )}
      {!wantsVoltage && !danger && cell.resting_voltage_v !== null && (
        <p>Measured already: {figure(cell.resting_voltage_v, 2)} V.</p>
      )}
      {refused?.suggestion && <Notice kind="ask">Enter takes {refused.suggestion} V. Or type it again.</Notice>}
      {refused?.code === "negative-voltage" && (
        <Row>
          <Button kind="main" onPress={() => send(value, false, "leads-swapped")}>
            The leads were swapped
          </Button>
          <Button onPress={() => send(value, false, "can-is-plus")}>Its can is plus</Button>
        </Row>
      )}
      {refused?.code === "odd-input" && (
        <Notice kind="ask">
          {refused.message} Enter once more keeps {value}.
        </Notice>
      )}
      {refused && !wantsVoltage && <ProblemNotice problem={refused} />}
      {danger && isAsked && (
        <Notice kind="ask">
          <strong>Dangerous? Enter again, and it goes into the fire-safe box.</strong> A slip: take the finding away by
          its letter.
        </Notice>
      )}
      <Row>
        <Button
          kind={danger ? "danger" : "main"}
          onPress={() => submit(false)}
          waitsFor={!isReady && !danger ? "First the voltage." : null}
          isDisabled={waits !== null || refused?.code === "negative-voltage"}
        >
          {danger
            ? "Dangerous: into the fire-safe box"
            : refused?.suggestion
              ? `Take ${refused.suggestion} V`
              : found.length > 0
                ? `Keep ${found.length} ${found.length === 1 ? "finding" : "findings"}${wantsVoltage ? " and the voltage" : ""}`
                : wantsVoltage
                  ? "Nothing found, keep the voltage"
                  : "Nothing found"}
        </Button>
        {each.needs_voltage && !danger && !isReady && (
          <Button kind="plain" isDisabled={waits !== null} onPress={() => send("", false)}>
            Only looked at
          </Button>
        )}
      </Row>
      <FindingTicks found={found} onChange={setFound} asked={asked} />
      <HeatFields heat={heat} onChange={setHeat} problem={refused} />
      <SiblingStrip siblings={siblings} own={cell.resting_voltage_v} isOnePack={isOnePack} />
      {isAllDone && <Notice kind="kept">{ALL_DONE}</Notice>}
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); &:focus { outline: none; }`;
const Head = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--hair) var(--block);`;
const Slot = styled.span`
  display: grid;
  place-items: center;
  min-width: 3.25rem;
  height: 3.25rem;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 50%;
  font: 800 1.625rem ${({ theme }) => theme.font.figure};
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near) var(--apart);`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
