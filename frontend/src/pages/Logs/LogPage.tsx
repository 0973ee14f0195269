import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation, useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { LOG_STEPS } from "../../api/codes";
import { type Log, logQuery } from "../../api/measuring";
import { useWrite } from "../../api/writing";
import { named } from "../../catalogue";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { dayAndTime, figure, seconds } from "../../words";
import { AnswerForm } from "./AnswerForm";
import { Curves } from "./Curves";
import { KeepForm } from "./KeepForm";

const KIND_WORDS = named("log-step", LOG_STEPS);

type Test = Schemas["LogTestOut"];

/** One log: how it was read, what it asks, what it measured, and keeping that for a cell. */
export default function LogPage() {
  const { id = "" } = useParams();
  const isAgain = Boolean((useLocation().state as { isAgain?: boolean } | null)?.isAgain);
  const log = useQuery({ ...logQuery(Number(id)), enabled: /^\d{1,9}$/.test(id) });
  if (!log.data)
    return (
      <Page title="Log">
        <Waiting query={log} what="the log" />
      </Page>
    );
  return (
    <Page
      title={log.data.file_name}
      wide
      lead={`Taken in ${dayAndTime(log.data.at)} by ${log.data.by}${log.data.instrument ? `, measured with ${log.data.instrument}` : ""}.`}
      actions={<a href={`/api/logs/${log.data.id}/file`}>The file as it came</a>}
    >
      {isAgain && (
        <Notice kind="ask">This file was here already. It is shown as it was taken in; nothing was doubled.</Notice>
      )}
      <LogBody key={log.data.id} log={log.data} />
    </Page>
  );
}

function LogBody({ log }: { log: Log }) {
  const [shown, setShown] = useState(Math.max(0, log.tests.length - 1));
  const [isAsking, setAsking] = useState(false);
  if (log.state === "waiting" || log.state === "reading") return <Reading log={log} />;
  if (log.state === "cancelled")
    return (
      <Sheet>
        <p>Its reading was stopped. The file is kept.</p>
        <AnswerForm log={log} onDone={() => setAsking(false)} />
      </Sheet>
    );
  if (log.state === "refused" || log.state === "asks" || isAsking)
    return (
      <Sheet>
        {log.refusal && (
          <Notice kind="error">
            {log.refusal.line !== null && <strong>Line {log.refusal.line}. </strong>}
            {log.refusal.text}
          </Notice>
        )}
        <AnswerForm log={log} onDone={() => setAsking(false)} />
      </Sheet>
    );
  const test = log.tests[shown] ?? log.tests[0];
  if (!test) return <p>There is no test in it.</p>;
  return (
    <TwoColumns $left={1.7}>
      <Stack>
        {log.tests.length > 1 && (
          <Switch
            label="Which test"
            value={String(shown)}
            onChange={(next) => setShown(Number(next))}
            options={log.tests.map((_, index) => [String(index), `Test ${index + 1}`] as const)}
          />
        )}
        <Sheet aria-label="What it measured">
          <Result test={test} />
        </Sheet>
        <Sheet aria-label="Curve">
          <Curves key={shown} log={log} test={shown} />
          <Exports>
            Take it along:
            <a href={`/api/logs/${log.id}/tests/${shown}/trace.csv`}>CSV</a>
            <a href={`/api/logs/${log.id}/tests/${shown}/trace.parquet`}>Parquet</a>
          </Exports>
        </Sheet>
      </Stack>
      <Stack>
        <KeepForm key={shown} log={log} test={shown} measured={test} />
        <Sheet>
          <h2>Steps</h2>
          <Steps test={test} />
        </Sheet>
        <Sheet>
          <h2>How it was read</h2>
          <ReadAs log={log} />
          <Button kind="quiet" onPress={() => setAsking(true)}>
            {log.said.resistor_ohm ? "Another resistor, or read it another way" : "Read it another way"}
          </Button>
          {log.said.remembered && <Forget log={log} />}
        </Sheet>
      </Stack>
    </TwoColumns>
  );
}

function Reading({ log }: { log: Log }) {
  const stop = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/logs/{log_id}/stop", { params: { path: { log_id: log.id } }, body: {}, headers: once(key) }),
    ),
  );
  return (
    <Sheet role="status">
      <Big>{log.progress_pct} %</Big>
      <Bar aria-hidden="true">
        <i style={{ width: `${log.progress_pct}%` }} />
      </Bar>
      <p>
        {figure(log.bytes / 1e6)} MB are read beside the others' work. You may go on meanwhile; it stands under Testers'
        logs.
      </p>
      <Button onPress={() => stop.mutate(null)} isDisabled={stop.isPending}>
        Stop reading
      </Button>
      <ProblemNotice problem={stop.error} />
    </Sheet>
  );
}

function Result({ test }: { test: Test }) {
  const allowance = test.capacity_allowance_pct;
  const charged = test.discharge_capacity_mah === null ? test.charge_capacity_mah : null;
  const value = test.discharge_capacity_mah ?? charged;
  return (
    <>
      {value === null ? (
        <p>Neither a charge nor a discharge is in it.</p>
      ) : (
        <Big>
          <span>{figure(value)} mAh</span>
          {allowance !== null && <small> ± {figure(allowance, allowance < 1 ? 2 : 1)} % by the sampling</small>}
        </Big>
      )}
      {charged !== null && <p>charged; there is no discharge in it.</p>}
      {test.discharge_capacity_mah !== null && (
        <p>
          {test.discharge_complete ? (
            <>
              down to {figure(test.cut_off_v ?? 0, 2)} V at {figure(test.mean_current_ma ?? 0)} mA, complete
            </>
          ) : (
            <strong>
              Unfinished: it ends at {figure(test.end_v ?? 0, 2)} V, before a cut-off. It is kept, and never graded.
            </strong>
          )}
        </p>
      )}
      <Small>
        {test.discharge_energy_mwh !== null && (
          <Pair label="Energy" value={`${figure(test.discharge_energy_mwh / 1000, 2)} Wh`} />
        )}
        {test.resistances.map((found) => (
          <Pair
            key={found.after_s}
            label={`Resistance after ${found.after_s} s`}
            value={`${figure(found.mohm, 0)} mΩ`}
            note={`${found.edges} ${found.edges === 1 ? "step" : "steps"} of current, ± ${figure(Math.max(found.spread_mohm, found.allowance_mohm), 1)} mΩ`}
          />
        ))}
        {test.resistances.length === 0 && (
          <Pair
            label="Resistance"
            value="not to be seen"
            note={test.no_resistance ?? `rows ${seconds(test.sampling_s)} apart`}
          />
        )}
        {test.sag_v !== null && <Pair label="Sag under load" value={`${figure(test.sag_v, 2)} V`} />}
        <Pair
          label="Rows"
          value={figure(test.rows)}
          note={`over ${seconds(test.duration_s)}, one each ${seconds(test.sampling_s)}`}
        />
      </Small>
    </>
  );
}

function Pair({ label, value, note }: { label: string; value: string; note?: string }) {
  return (
    <div>
      <dt>{label}</dt>
      <dd>{value}</dd>
      {note && <dd>{note}</dd>}
    </div>
  );
}

function Steps({ test }: { test: Test }) {
  return (
    <StepList>
      {test.steps.slice(0, 40).map((step) => (
        <li key={step.first_line}>
          <strong>{step.is_pulse ? "Pulse" : KIND_WORDS[step.kind]}</strong> {seconds(step.duration_s)}
          {step.kind !== "rest" && (
            <>
              , {figure(step.capacity_mah, step.capacity_mah < 10 ? 1 : 0)} mAh at{" "}
              {figure(Math.abs(step.mean_current_ma))} mA
            </>
          )}
          , {figure(step.start_voltage_v, 2)} to {figure(step.end_voltage_v, 2)} V
          {step.kind !== "rest" && !step.complete && !step.is_pulse ? ", not to its end" : ""}
          <span>
            {" "}
            lines {step.first_line} to {step.last_line}
            {step.counts ? ", this counts" : ""}
          </span>
        </li>
      ))}
    </StepList>
  );
}

const DELIMITER_WORDS: Record<string, string> = {
  ",": "commas",
  ";": "semicolons",
  "\t": "tabs",
  "|": "bars",
  " ": "blanks",
};

function ReadAs({ log }: { log: Log }) {
  const { read_as } = log;
  return (
    <>
      {read_as && (
        <p>
          {read_as.encoding}, fields parted by {DELIMITER_WORDS[read_as.delimiter] ?? read_as.delimiter}, decimal{" "}
          {read_as.decimal === "," ? "comma" : "point"};{" "}
          {Object.entries(read_as.columns)
            .map(
              ([role, column]) =>
                `${role} from ${column.header ? `“${column.header}”` : `column ${column.place}`}${column.unit ? ` in ${column.unit}` : ""}`,
            )
            .join(", ")}
          ; a discharge is{" "}
          {read_as.discharge_current === "unsigned" ? "not marked by its sign" : read_as.discharge_current}.
        </p>
      )}
      {read_as?.resistor_ohm && (
        <p>
          Emptied through <strong>{figure(read_as.resistor_ohm, 1)} Ω</strong>: the current is worked out, right within
          5 %.
        </p>
      )}
      <RemarkList>
        {log.remarks.map((remark) => (
          <li key={`${remark.code}${remark.line}`}>{remark.text}</li>
        ))}
      </RemarkList>
    </>
  );
}

/** What is remembered for logs of this kind can be forgotten where it shows. */
function Forget({ log }: { log: Log }) {
  const forget = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/logs/{log_id}/forget", { params: { path: { log_id: log.id } }, body: {}, headers: once(key) }),
    ),
  );
  return (
    <>
      <Button kind="quiet" isDisabled={forget.isPending} onPress={() => forget.mutate(null)}>
        Forget what is remembered for logs like this
      </Button>
      <ProblemNotice problem={forget.error} />
    </>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); min-width: 0; > * { min-width: 0; }`;
const Big = styled.p`
  font: 700 ${({ theme }) => theme.size.key}/1.15 ${({ theme }) => theme.font.figure};
  span { white-space: nowrap; }
  small { font: 500 1.125rem ${({ theme }) => theme.font.text}; white-space: nowrap; }
  ${({ theme }) => theme.narrow} { font-size: 2.75rem; }
`;
const Bar = styled.div`
  height: 14px;
  margin: var(--near) 0;
  border: 2px solid ${({ theme }) => theme.color.ink};
  i { display: block; height: 100%; background: ${({ theme }) => theme.color.tape}; }
`;
const Small = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: var(--near) var(--yard);
  margin-top: var(--apart);
  dt { font-size: ${({ theme }) => theme.size.note}; }
  dd { font: 700 1.375rem ${({ theme }) => theme.font.figure}; }
  dd + dd { font: 400 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.text}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Exports = styled.p`display: flex; align-items: center; gap: var(--block); font-size: ${({ theme }) => theme.size.note}; a { display: inline-flex; align-items: center; min-height: 44px; }`;
const StepList = styled.ol`
  display: grid;
  gap: var(--slit);
  padding-left: var(--sheet);
  list-style: decimal;
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const RemarkList = styled.ul`display: grid; gap: var(--hair); margin: var(--near) 0; padding-left: var(--sheet); list-style: disc; font-size: ${({ theme }) => theme.size.note};`;
