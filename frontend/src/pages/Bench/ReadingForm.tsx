import { useEffect, useRef, useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { type Bench, type Cell, type Finding, Problem, type Schemas, serverNow } from "../../api/client";
import type { EntryInput } from "../../api/entries";
import { useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Choice, Field, Tick } from "../../components/Fields";
import { type Heat, HeatFields, heatBody, UNSAID_HEAT } from "../../components/HeatFields";
import { InstrumentPick } from "../../components/InstrumentPick";
import { Notice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { SiblingStrip } from "../../components/SiblingStrip";
import { useRemembered } from "../../components/useRemembered";
import { figure, METHOD_WORDS, VOLTAGE_STATE_WORDS } from "../../words";
import { SkipMeasurement } from "./SkipMeasurement";

type Quantity = Schemas["ReadingIn"]["quantity"];
type Method = Schemas["ReadingIn"]["method"];
type State = NonNullable<Schemas["ReadingIn"]["state"]>;
type Turned = NonNullable<Schemas["ReadingIn"]["turned"]>;
/** `bench` is what is known beside the cell; null while it is on its way. */
export type FormProps = {
  number: string;
  cell: Cell;
  bench: Bench | null;
  /** What was typed before and came back; null: nothing. */
  again: Draft | null;
  onSend: (entry: EntryInput) => void;
  /** Enter, with nothing typed yet. */
  onNothing: () => void;
  problem: unknown;
  isSending: boolean;
};
/** What stands in a form from the start, and why it is there again; `problem` null: it was typed just now. */
export type Draft = { number: string; value: string; problem: Problem | null; findings?: Finding[] };
/** As the others, also for a number of which nothing is known yet. */
export type FigureProps = Omit<FormProps, "cell"> & { cell: Cell | null };

const UNIT: Record<Quantity, string> = { voltage: "V", capacity: "mAh", resistance: "mΩ" };
const LABEL: Record<Quantity, string> = { voltage: "Resting voltage", capacity: "Capacity", resistance: "Resistance" };
const HINT: Record<Quantity, string> = {
  voltage: "With nothing connected. Comma or point; about 3.7 or 3.6 to 3.7 will do too.",
  capacity: "Comma or point; about 2300 or 2200 to 2400 will do too.",
  resistance: "Comma or point; about 50 or 45 to 55 will do too.",
};
const CAPACITY_METHODS: Method[] = [
  "tester",
  "trace",
  "resistor-clock",
  "resistor-log",
  "charge-counted",
  "usb-linear",
  "usb-switching",
  "usb-step-up",
];
const RESISTANCE_METHODS: Method[] = ["ac-1khz", "dc-10s", "dc-1s", "tester"];
/** Fields that show their own refusal. */
const BESIDE = ["cut_off_v", "current_ma", "cell_degc", "bench_degc"];
const withWords = (methods: Method[]) => methods.map((method) => [method, METHOD_WORDS[method] ?? method] as const);

/** One value, Enter. An odd value is asked about once, a likely slip is offered mended. */
export function ReadingForm({
  number,
  cell,
  bench,
  again,
  quantity,
  onSend,
  onNothing,
  problem,
  isSending,
}: FigureProps & { quantity: Quantity }) {
  const isVoltage = quantity === "voltage";
  const { values, field } = useTyped({ value: again?.value ?? "" });
  const { value } = values;
  const [heat, setHeat] = useState<Heat>(UNSAID_HEAT);
  const stands = useVoltageState(isVoltage ? bench : null);
  const [settings, remember] = useRemembered(quantity, {
    method: (isVoltage ? "meter" : quantity === "capacity" ? "tester" : "ac-1khz") as Method,
    instrument: null as string | null,
  });
  const run = useRun(bench);
  const refused = useRefusal(problem, value);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);

  const send = (typed: string, confirmed: boolean, turned: Turned | null = null) =>
    onSend({
      to: "readings",
      body: {
        quantity,
        value: typed,
        method: settings.method,
        confirmed,
        complete: run.complete,
        state: isVoltage ? stands.state : bench ? "resting" : null,
        turned,
        instrument: settings.instrument,
        typed_at: serverNow(),
        ...(quantity === "capacity"
          ? { current_ma: run.currentMa, cut_off_v: run.cutOffV, started_full: run.complete }
          : { current_ma: null, cut_off_v: null, started_full: null }),
        ...heatBody(heat),
      },
    });
  const measuredBy = (methods: Method[]) => (
    <Pick
      label="Measured by"
      value={settings.method}
      onChange={(method) => remember({ ...settings, method })}
      options={withWords(methods)}
    />
  );
  const isBeside = refused === null || refused.code === "odd-input" || BESIDE.includes(refused.field ?? "");
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (isSending) return;
        if (value.trim() === "") onNothing();
        else if (refused?.suggestion) send(refused.suggestion, false);
        else if (refused?.code !== "negative-voltage") send(value, refused?.code === "odd-input");
      }}
    >
      {stands.question && <StateChoice {...stands} question={stands.question} />}
      {isVoltage && bench?.nothing_reached && <NothingReached />}
      <Field
        label={stands.question ? "Voltage" : LABEL[quantity]}
        unit={UNIT[quantity]}
        size="key"
        numeric
        {...field("value")}
        inputRef={input}
        autoComplete="off"
        maxLength={20}
        error={isBeside ? null : refused.message}
        hint={HINT[quantity]}
      />
      <WhatWasRefused
        refused={refused}
        typed={value}
        unit={UNIT[quantity]}
        onTurned={(turned) => send(value, false, turned)}
      />
      {quantity === "capacity" && (
        <>
          {measuredBy(CAPACITY_METHODS)}
          <RunFields run={run} refused={refused} />
        </>
      )}
      {quantity === "resistance" && measuredBy(RESISTANCE_METHODS)}
      <InstrumentPick
        isQuiet
        value={settings.instrument}
        onChange={(instrument) => remember({ ...settings, instrument })}
      />
      <HeatFields heat={heat} onChange={setHeat} problem={refused} />
      <Button kind="main" type="submit" isDisabled={isSending || refused?.code === "negative-voltage"}>
        {refused?.suggestion
          ? `Take ${refused.suggestion} ${UNIT[quantity]}`
          : refused?.code === "odd-input"
            ? `Keep ${value} ${UNIT[quantity]}`
            : "Keep it"}
      </Button>
      {isVoltage && !stands.question && (
        <Button kind="quiet" onPress={stands.ask}>
          It is not at rest, or still moves
        </Button>
      )}
      {isVoltage && bench && (
        <Wide>
          <SiblingStrip
            siblings={bench.siblings}
            own={cell?.resting_voltage_v ?? null}
            groupV={bench.group_v}
            isOnePack={bench.is_one_pack}
          />
        </Wide>
      )}
      {isVoltage && <SkipMeasurement number={number} quantity="voltage" onSend={onSend} />}
    </Stack>
  );
}

/** In which state a voltage is: asked where the bench has a reason to, or where somebody says that it moves. */
function useVoltageState(bench: Bench | null) {
  const [chosen, choose] = useState<State | null>(null);
  const [isMoving, setMoving] = useState(false);
  const question =
    bench?.question ?? (isMoving ? { text: "It does not stand still.", likely: "climbing" as State } : null);
  // Before anything is known of the cell nobody can ask; the server takes the likely one then.
  const state: State | null = question ? (chosen ?? question.likely) : bench ? "resting" : null;
  return { question, state, choose, ask: () => setMoving(true) };
}

function StateChoice({
  question,
  state,
  choose,
}: {
  question: { text: string; likely: State };
  state: State | null;
  choose: (state: State) => void;
}) {
  return (
    <Question>
      <Choice
        label={`${question.text} In which state is this voltage?`}
        value={state ?? question.likely}
        onChange={choose}
        options={Object.entries(VOLTAGE_STATE_WORDS) as [State, string][]}
      />
      {state !== "resting" && <p>It is kept as that, and decides nothing.</p>}
    </Question>
  );
}

/** How a capacity was run: as the cell's family and size ask for it, until somebody types another way for this cell. */
function useRun(bench: Bench | null) {
  const [complete, setComplete] = useState(true);
  const [current, setCurrent] = useState<string | null>(null);
  const [cutOff, setCutOff] = useState<string | null>(null);
  return {
    complete,
    setComplete,
    currentMa: current ?? (bench ? figure(bench.run_ma) : ""),
    setCurrent,
    cutOffV: cutOff ?? (bench ? figure(bench.cut_off_v, 1) : ""),
    setCutOff,
  };
}

function RunFields({ run, refused }: { run: ReturnType<typeof useRun>; refused: Problem | null }) {
  const at = (field: string) => (refused?.field === field ? refused.message : null);
  return (
    <>
      <Pair>
        <Field
          label="Current"
          unit="mA"
          numeric
          value={run.currentMa}
          onChange={run.setCurrent}
          maxLength={20}
          error={at("current_ma")}
        />
        <Field
          label="Cut-off"
          unit="V"
          numeric
          value={run.cutOffV}
          onChange={run.setCutOff}
          maxLength={20}
          error={at("cut_off_v")}
        />
      </Pair>
      <Tick isSelected={run.complete} onChange={run.setComplete}>
        From full, down to the cut-off, without a break
      </Tick>
    </>
  );
}

/** What can be done about a refusal with one key or one press. */
function WhatWasRefused({
  refused,
  typed,
  unit,
  onTurned,
}: {
  refused: Problem | null;
  typed: string;
  unit: string;
  onTurned: (turned: Turned) => void;
}) {
  if (refused?.suggestion)
    return (
      <Notice kind="ask">
        Enter takes {refused.suggestion} {unit}. Or type it again.
      </Notice>
    );
  if (refused?.code === "negative-voltage")
    return (
      <Buttons>
        <Button kind="main" onPress={() => onTurned("leads-swapped")}>
          The leads were swapped
        </Button>
        <Button onPress={() => onTurned("can-is-plus")}>Its can is plus</Button>
      </Buttons>
    );
  if (refused?.code === "odd-input")
    return (
      <Notice kind="ask">
        {refused.message} Enter once more keeps {typed}.
      </Notice>
    );
  return null;
}

/** A cell that shows nothing is mostly not empty: the way to its voltage is looked for first. */
function NothingReached() {
  return (
    <Notice kind="ask">
      <strong>It read nothing. That alone does not make it out:</strong>
      <Tree>
        <li>Is a protection board asleep? Measure on the cell itself, before the board.</li>
        <li>Is the wrap between probe and can? Scratch the end, not the wrap.</li>
        <li>Did the inner fuse open? Touch the vent side and the can; a jump tells.</li>
        <li>Does it climb while you watch? Wait until it stands, then type that.</li>
      </Tree>
      Still nothing everywhere: type 0 once more, and it goes out.
    </Notice>
  );
}

/** The refusal of the last value, until something else is typed. */
function useRefusal(problem: unknown, value: string): Problem | null {
  const about = useRef<{ problem: unknown; value: string }>({ problem: null, value: "" });
  if (about.current.problem !== problem) about.current = { problem, value };
  return problem instanceof Problem && about.current.value === value ? problem : null;
}

export const Stack = styled(Form)`display: grid; gap: var(--step); justify-items: start; > * { max-width: 100%; }`;
const Question = styled.div`display: grid; gap: var(--slit);`;
const Buttons = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap);`;
const Wide = styled.div`width: 100%;`;
const Tree = styled.ul`margin: var(--hair) 0; padding-left: var(--sheet); list-style: disc;`;
const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--step);`;
