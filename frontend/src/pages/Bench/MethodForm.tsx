import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { Problem, type Schemas, serverNow } from "../../api/client";
import { type Method, measuredQuery, methodPlanQuery, useMethods } from "../../api/measuring";
import { Button } from "../../components/Button";
import { Choice } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { Grounds } from "../../components/Grounds";
import { InstrumentPick } from "../../components/InstrumentPick";
import { type Need, NeedFields } from "../../components/NeedFields";
import { Notice } from "../../components/Notice";
import { Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { useRemembered } from "../../components/useRemembered";
import { useSettled } from "../../components/useSettled";
import { doubt, figure, readNumber, unitWord } from "../../words";
import { type FigureProps, Stack } from "./ReadingForm";

type Said = Record<string, "yes" | "no">;

/** A figure worked out by one of the ways that need no log: what it needs, the formula, the result with its doubt. */
export function MethodForm({
  number,
  quantity,
  onSend,
  problem,
  isSending,
}: FigureProps & { quantity: "capacity" | "resistance" }) {
  const methods = useMethods();
  const [settings, remember] = useRemembered(`way-${quantity}`, {
    name: quantity === "capacity" ? "resistor-log" : "two-voltage",
    instrument: null as string | null,
  });
  const ways = methods.data?.methods.filter((method) => method.quantity === quantity) ?? [];
  const method = ways.find((each) => each.name === settings.name) ?? ways[0];
  if (!method) return <Waiting query={methods} what="the ways to measure" />;
  return (
    <Outer>
      <Pick
        label="With"
        value={method.name}
        onChange={(name) => remember({ ...settings, name })}
        options={ways.map((each) => [each.name, each.title] as const)}
      />
      <Way
        key={method.name}
        method={method}
        cellNumber={number}
        instrument={settings.instrument}
        onInstrument={(instrument) => remember({ ...settings, instrument })}
        onKeep={(body) => onSend({ to: "measurements", body })}
        problem={problem instanceof Problem ? problem : null}
        isSending={isSending}
      />
    </Outer>
  );
}

type WayProps = {
  method: Method;
  cellNumber: string;
  instrument: string | null;
  onInstrument: (number: string | null) => void;
  onKeep: (body: Schemas["MeasurementIn"]) => void;
  problem: Problem | null;
  isSending: boolean;
};

/** What is typed and said for one way to measure, and what it comes to while it is typed. */
function useWay({ method, cellNumber, instrument, problem }: WayProps) {
  // Settings such as the meter's last digit stay from one cell to the next, what was read does not; what depends on the
  // cell is filled in as the plan for it says.
  const lasting = method.inputs.filter((need) => LASTING.has(need.key)).map((need) => need.key);
  const [remembered, remember] = useRemembered<Record<string, string>>(`values-${method.name}`, {});
  const plan = useQuery(methodPlanQuery(cellNumber, method.name, instrument));
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [said, setSaid] = useState<Said>({});
  const values = Object.fromEntries(
    method.inputs.map((need) => [
      need.key,
      typed[need.key] ?? filledIn(need, lasting.includes(need.key), remembered[need.key], plan.data?.fills[need.key]),
    ]),
  );
  const body: Schemas["MeasurementIn"] = {
    method: method.name,
    values: Object.fromEntries(Object.entries(values).filter(([, value]) => value.trim() !== "")),
    said,
    instrument,
    confirmed: false,
  };
  const settled = useSettled(body);
  const isReady =
    method.inputs.every((need) => need.optional || (settled.values[need.key] ?? "").trim() !== "") &&
    method.traps.every((trap) => settled.said[trap.key]);
  const measured = useQuery({ ...measuredQuery(settled), enabled: isReady });
  const missing = method.inputs.find((need) => !need.optional && (values[need.key] ?? "").trim() === "");
  const unsaid = method.traps.find((trap) => !said[trap.key]);
  const refusal = isReady && measured.error instanceof Problem ? measured.error : problem;
  const isInField = method.inputs.some((need) => need.key === refusal?.field && need.need !== "choice");
  return {
    ...{ body, said, refusal, isInField },
    say: (key: string, answer: "yes" | "no") => setSaid({ ...said, [key]: answer }),
    measured: isReady ? measured.data : undefined,
    waitsFor: missing ? `First: ${missing.meaning}.` : unsaid ? `First: ${unsaid.question}` : null,
    fields: {
      values,
      onChange: (key: string, value: string) => {
        setTyped({ ...typed, [key]: value });
        if (lasting.includes(key)) remember({ ...remembered, [key]: value });
      },
      wrong: refusal && isInField ? { field: refusal.field, text: refusal.message } : null,
    },
  };
}

function Way(props: WayProps) {
  const { method, cellNumber, instrument, onInstrument, onKeep, problem, isSending } = props;
  const { body, said, say, refusal, isInField, measured, waitsFor, fields } = useWay(props);
  const isOdd = problem?.code === "odd-input";
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (!isSending && measured) onKeep({ ...body, confirmed: isOdd, typed_at: serverNow() });
      }}
    >
      <Small>Needs {method.needs}.</Small>
      <PlanAdvice method={method} number={cellNumber} instrument={instrument} />
      <NeedFields needs={method.inputs.filter((need) => !isDegrees(need))} {...fields} />
      {method.traps.map((trap) => (
        <Trap key={trap.key} trap={trap} said={said[trap.key]} onSay={(answer) => say(trap.key, answer)} />
      ))}
      <Fold title="Temperature" isOpen={method.inputs.some((need) => isDegrees(need) && fields.values[need.key])}>
        <NeedFields needs={method.inputs.filter(isDegrees)} {...fields} />
      </Fold>
      <Wide>
        <InstrumentPick value={instrument} onChange={onInstrument} />
      </Wide>
      {refusal && !isInField && refusal.code !== "spoilt" && (
        <Notice kind={isOdd ? "ask" : "error"}>
          {refusal.message}
          {isOdd && " Enter once more keeps it."}
        </Notice>
      )}
      {measured && <Result measured={measured} />}
      <Button kind="main" type="submit" waitsFor={waitsFor} isDisabled={isSending || !measured}>
        {isOdd ? "Keep it all the same" : "Keep it"}
      </Button>
      <Grounds formula={method.formula} grounds={method.grounds} />
    </Stack>
  );
}

/** What makes a figure wrong without anybody seeing it, asked before it is kept. */
function Trap({
  trap,
  said,
  onSay,
}: {
  trap: Method["traps"][number];
  said: "yes" | "no" | undefined;
  onSay: (answer: "yes" | "no") => void;
}) {
  return (
    <div>
      <Choice
        label={trap.question}
        value={said ?? ("" as "yes")}
        onChange={onSay}
        options={[
          ["yes", "Yes"],
          ["no", "No"],
        ]}
      />
      {said && said !== trap.right && trap.effect !== "note" && (
        <Notice kind={trap.effect === "refuse" ? "error" : "ask"}>{trap.text}</Notice>
      )}
    </div>
  );
}

/** A resistor at hand is kept where it draws about what the plan wants; else what the plan says, or the usual value. */
function filledIn(need: Need, isLasting: boolean, before: string | undefined, planned: number | undefined): string {
  if (planned !== undefined) {
    const atHand = need.unit === "Ω" ? readNumber(before ?? "") : null;
    const isNear = atHand !== null && atHand > planned / 2 && atHand < 2 * planned;
    return isNear && before !== undefined ? before : String(planned);
  }
  if (isLasting) return before ?? need.example ?? "";
  return need.need === "choice" ? (need.example ?? "") : "";
}

const isDegrees = (need: Need) => need.unit === "°C";

const LASTING = new Set([
  "current_ma", "cut_off_v", "r_ohm", "leads_ohm", "r_load_ohm", "after_s", "resolution_v", "through", "subtract_mohm",
  "module_draw_ma", "efficiency", "mean_v", "bench_degc", "i1_a", "i2_a",
]); // biome-ignore format: one list

function Result({ measured }: { measured: Schemas["MeasuredOut"] }) {
  const unit = unitWord(measured.unit);
  return (
    <Shown aria-live="polite">
      <Big>
        {figure(measured.value)} {unit}
        <small>
          {" "}
          {doubt(measured.standard_u)} {unit}
        </small>
      </Big>
      <Formula>{measured.worked}</Formula>
      {measured.adjusted && <Formula>{measured.adjusted}</Formula>}
      <p>Limited by {measured.limited_by}.</p>
      {!measured.complete && <strong>Not complete: it is kept, and never graded.</strong>}
      {measured.cautions.map((caution) => (
        <Notice key={caution} kind="ask">
          {caution}
        </Notice>
      ))}
    </Shown>
  );
}

/** What to set for this cell, how long it takes, and whether the meter sees it, before somebody burns a finger. */
function PlanAdvice({ method, number, instrument }: { method: Method; number: string; instrument: string | null }) {
  const plan = useQuery(methodPlanQuery(number, method.name, instrument));
  // What comes late must not move what a thumb is on its way to.
  if (!plan.data) return plan.isPending && plan.fetchStatus !== "paused" ? <Advice aria-hidden /> : null;
  const { figure: value, unit, text, sees, sees_text } = plan.data;
  return (
    <Advice>
      <strong>
        {figure(value, value < 10 && !Number.isInteger(value) ? 1 : 0)} {unit}
      </strong>
      <div>
        <p>{text}</p>
        <p>{sees ? sees_text : <b>{sees_text}</b>}</p>
      </div>
    </Advice>
  );
}

const Outer = styled.div`display: grid; gap: var(--step);`;
const Wide = styled.div`width: 100%;`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Shown = styled.div`display: grid; gap: var(--hair); width: 100%; padding-top: var(--near); border-top: 3px solid ${({ theme }) => theme.color.ink};`;
const Big = styled.p`
  font: 700 3rem/1.15 ${({ theme }) => theme.font.figure};
  small { font-size: 1.25rem; font-weight: 500; white-space: nowrap; }
`;
const Formula = styled.p`font-family: ${({ theme }) => theme.font.figure}; overflow-wrap: anywhere;`;
const Advice = styled.div`
  display: flex;
  gap: var(--step);
  align-items: baseline;
  width: 100%;
  min-height: 7rem;
  padding: var(--gap) var(--step);
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  strong { flex: none; font: 700 1.625rem ${({ theme }) => theme.font.figure}; }
  p { font-size: ${({ theme }) => theme.size.note}; }
  ${({ theme }) => theme.narrow} { min-height: 12rem; }
`;
