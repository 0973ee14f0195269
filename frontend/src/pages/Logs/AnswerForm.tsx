import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import type { Log } from "../../api/measuring";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field, Tick } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { figure, readNumber } from "../../words";

type Answers = Schemas["LogAnswersIn"];
type Role = NonNullable<Answers["columns"]>[number];

const ROLES: [Role, string][] = [
  ["time", "Time"],
  ["voltage", "Voltage"],
  ["current", "Current"],
  ["capacity", "Counted mAh"],
  ["energy", "Energy"],
  ["other", "Something else"],
];
const LEAVE = "as-told";
const UNITS = {
  time_unit: ["s", "ms", "min", "h"],
  voltage_unit: ["V", "mV"],
  current_unit: ["A", "mA"],
  discharge: ["negative", "positive"],
} as const;
const UNIT_LABEL = {
  time_unit: "Time is in",
  voltage_unit: "Voltage is in",
  current_unit: "Current is in",
  discharge: "A discharge is",
} as const;

type UnitKey = keyof typeof UNITS;
const UNIT_KEYS = Object.keys(UNITS) as UnitKey[];

/** What must be guessed is asked here, with the first lines of the file beside it; answered, the next such file needs no question. */
export function AnswerForm({ log, onDone }: { log: Log; onDone: () => void }) {
  const guessed = log.remarks.filter((remark) => remark.asks);
  const guess = (asks: string) => guessed.find((remark) => remark.asks === asks)?.choices;
  const [columns, setColumns] = useState<string[] | null>(guess("columns") ?? log.said.columns ?? null);
  const { values, field } = useTyped({
    resistor_ohm: log.said.resistor_ohm?.toString() ?? "",
    every_s: log.said.every_s?.toString() ?? "",
    ...(Object.fromEntries(UNIT_KEYS.map((key) => [key, log.said[key] ?? guess(key)?.[0] ?? LEAVE])) as Record<
      UnitKey,
      string
    >),
  });
  // Nothing is remembered that nobody asked for.
  const [remembers, setRemembers] = useState(false);
  const send = useWrite(
    (body: Answers, key) =>
      answer(() =>
        api.POST("/api/logs/{log_id}/answers", { params: { path: { log_id: log.id } }, body, headers: once(key) }),
      ),
    onDone,
  );
  const wantsOhm = log.refusal?.code === "no-current" || values.resistor_ohm !== "";
  const wantsPace = log.refusal?.code === "no-time" || values.every_s !== "";
  const units = UNIT_KEYS.filter((key) => values[key] !== LEAVE).map((key) => [key, values[key]]);
  return (
    <Stack
      problem={send.error}
      onSend={() =>
        send.mutate({
          columns: columns as Role[] | null,
          ...(Object.fromEntries(units) as Partial<Answers>),
          resistor_ohm: readNumber(values.resistor_ohm),
          every_s: readNumber(values.every_s),
          remember: remembers,
        })
      }
      send={log.state === "asks" ? "Read it as said here" : "Read it so"}
      isSending={send.isPending}
    >
      {guessed.length > 0 && <h2>Is it read right?</h2>}
      {guessed.map((remark) => (
        <Notice key={remark.text} kind="ask">
          {remark.text}
        </Notice>
      ))}
      {log.state === "asks" && (
        <Outcome>
          <p>
            Read so, it makes <strong>{outcomeOf(log)}</strong>.
          </p>
          <Button kind="main" type="submit" isDisabled={send.isPending}>
            Yes, read it so
          </Button>
        </Outcome>
      )}
      {(wantsOhm || wantsPace) && (
        <Grid>
          {wantsOhm && (
            <Field
              label="It was emptied through"
              unit="Ω"
              numeric
              size="key"
              {...field("resistor_ohm")}
              hint="Resistor and leads together; the current follows from the voltage."
            />
          )}
          {wantsPace && <Field label="From row to row" unit="s" numeric size="key" {...field("every_s")} />}
        </Grid>
      )}
      <Preview aria-label="First lines of the file" tabIndex={0}>
        {log.preview.join("\n")}
      </Preview>
      <Columns log={log} columns={columns} onChange={setColumns} />
      <Grid>
        {UNIT_KEYS.map((key) => (
          <Pick
            key={key}
            label={UNIT_LABEL[key]}
            {...field(key)}
            options={[[LEAVE, "as the log tells"], ...UNITS[key].map((unit) => [unit, unit] as const)]}
          />
        ))}
      </Grid>
      <Tick isSelected={remembers} onChange={setRemembers}>
        Read the next file of this kind the same way{wantsOhm ? "; its resistor is asked for each time" : ""}
      </Tick>
    </Stack>
  );
}

/** What each column is, with what stands in it; not asked before somebody wants to say it. */
function Columns({
  log,
  columns,
  onChange,
}: {
  log: Log;
  columns: string[] | null;
  onChange: (columns: string[]) => void;
}) {
  const parts = partsOf(log);
  if (!columns)
    return (
      parts.length > 0 && (
        <Button kind="quiet" onPress={() => onChange((parts[parts.length - 1] ?? []).map(() => "other"))}>
          Say what each column is
        </Button>
      )
    );
  return (
    <Grid>
      {columns.map((role, index) => (
        <div key={`column ${index + 1}`}>
          <Pick
            label={`Column ${index + 1}`}
            value={role}
            onChange={(next) => onChange(columns.map((each, at) => (at === index ? next : each)))}
            options={ROLES}
          />
          <Small>
            {parts
              .map((line) => line[index] ?? "")
              .slice(0, 3)
              .join("  ")}
          </Small>
        </div>
      ))}
    </Grid>
  );
}

/** What a log measures as it is read now. */
function outcomeOf(log: Log): string {
  const test = log.tests.at(-1);
  if (test?.discharge_capacity_mah === null || test === undefined) return "no discharge";
  const amount = `${figure(test.discharge_capacity_mah)} mAh at ${figure(test.mean_current_ma ?? 0)} mA`;
  return test.discharge_complete
    ? `${amount} down to ${figure(test.cut_off_v ?? 0, 2)} V`
    : `${amount}, not down to a cut-off`;
}

/** The last few lines of the preview, as fields. */
function partsOf(log: Log): string[][] {
  const delimiter =
    log.read_as?.delimiter ?? [";", "\t", ",", "|"].find((each) => log.preview.at(-1)?.includes(each)) ?? " ";
  return log.preview
    .slice(-4, -1)
    .map((line) => (delimiter === " " ? line.trim().split(/\s+/) : line.split(delimiter)));
}

const Stack = styled(AskForm)`display: grid; gap: var(--step); justify-items: start; > * { max-width: 100%; }`;
const Outcome = styled.div`display: grid; gap: var(--near); justify-items: start; font-size: ${({ theme }) => theme.size.lead};`;
const Preview = styled.pre`
  width: 100%;
  max-height: 9rem;
  overflow: auto;
  padding: var(--apart);
  border: 2px solid ${({ theme }) => theme.color.paperLine};
  font: ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure};
`;
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr)); gap: var(--apart); width: 100%;`;
const Small = styled.p`font: ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure}; color: ${({ theme }) => theme.color.inkSoft}; white-space: pre; overflow: hidden;`;
