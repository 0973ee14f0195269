import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { type Bench, Problem } from "../../api/client";
import { Button } from "../../components/Button";
import { Choice, Field, Tick } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { RunningClock } from "../../components/RunningClock";
import { dayAndTime, figure } from "../../words";
import type { FormProps } from "./ReadingForm";
import { ChargingCautions } from "./StepForms";

/** A low cell is brought up slowly under somebody's eyes: plan, start, looks, outcome. Anybody can take it on. */
export function RecoveryForm(props: FormProps) {
  const { bench } = props;
  if (!bench) return <p>One moment …</p>;
  if (!bench.plan) return <p>No recovery is due for this cell.</p>;
  return (
    <Box>
      <Plan plan={bench.plan} />
      {bench.recovery ? (
        <Looks key={bench.recovery.checks.length} {...props} recovery={bench.recovery} />
      ) : (
        <Start {...props} plan={bench.plan} />
      )}
      <ChargingCautions />
    </Box>
  );
}

function Plan({ plan }: { plan: NonNullable<Bench["plan"]> }) {
  return (
    <PlanBox>
      <PlanList>
        <div>
          <dt>Current at most</dt>
          <dd>{figure(plan.current_ma)} mA</dd>
        </div>
        <div>
          <dt>From</dt>
          <dd>{figure(plan.found_v, 2)} V</dd>
        </div>
        <div>
          <dt>Past</dt>
          <dd>{figure(plan.past_v, 2)} V</dd>
        </div>
        <div>
          <dt>Within</dt>
          <dd>{figure(plan.most_min)} min</dd>
        </div>
      </PlanList>
      <p>
        Measure every {figure(plan.check_every_min)} min. Stop at once if it gets warm (more than{" "}
        {figure(plan.most_warmer_k)} K), swells, hisses or smells.
        {plan.watched && " Deeply emptied: stay beside it all the time, on a fireproof base."}
      </p>
    </PlanBox>
  );
}

function Start({ plan, onSend, problem, isSending }: FormProps & { plan: NonNullable<Bench["plan"]> }) {
  const [current, setCurrent] = useState(figure(plan.current_ma));
  const [degrees, setDegrees] = useState("");
  const refused = problem instanceof Problem ? problem : null;
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (!isSending)
          onSend({ to: "recovery-starts", body: { current_ma: current, cell_degc: degrees.trim() || null } });
      }}
    >
      <Pair>
        <Field
          label="Current that is set"
          unit="mA"
          numeric
          value={current}
          onChange={setCurrent}
          maxLength={20}
          error={refused?.field === "current_ma" ? refused.message : null}
        />
        <Field
          label="Cell's temperature"
          unit="°C"
          numeric
          value={degrees}
          onChange={setDegrees}
          maxLength={10}
          hint="If you have a thermometer."
          error={refused?.field === "cell_degc" ? refused.message : null}
        />
      </Pair>
      {refused && refused.field !== "current_ma" && refused.field !== "cell_degc" && (
        <ProblemNotice problem={problem} />
      )}
      <Button kind="main" type="submit" isDisabled={isSending}>
        The current is on, start the clock
      </Button>
    </Stack>
  );
}

function Looks({ recovery, onSend, problem, isSending }: FormProps & { recovery: NonNullable<Bench["recovery"]> }) {
  const [value, setValue] = useState("");
  const [degrees, setDegrees] = useState("");
  const [warmth, setWarmth] = useState<"unsaid" | "cool" | "warm" | "too-hot">("unsaid");
  const [swells, setSwells] = useState(false);
  const danger = swells || warmth === "warm" || warmth === "too-hot";
  const refused = problem instanceof Problem ? problem : null;
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (isSending) return;
        onSend({
          to: "recovery-checks",
          body: { value, cell_degc: degrees.trim() || null, warmth: warmth === "unsaid" ? null : warmth, swells },
        });
      }}
    >
      <RunningClock startedAt={recovery.started_at} nextAt={recovery.next_check_at} endsAt={recovery.ends_at} />
      <p>
        Started {dayAndTime(recovery.started_at)} by {recovery.started_by} with {figure(recovery.set_ma)} mA.
      </p>
      <Checks aria-label="Looks so far">
        {recovery.checks.map((check) => (
          <li key={check.at}>
            {dayAndTime(check.at)}: <strong>{figure(check.value_v, 2)} V</strong>
            {check.warmer_k !== null && `, ${figure(check.warmer_k)} K warmer`}
          </li>
        ))}
      </Checks>
      <Pair>
        <Field
          label="Voltage now"
          unit="V"
          size="key"
          numeric
          value={value}
          onChange={setValue}
          maxLength={20}
          autoComplete="off"
          autoFocus
          error={refused && refused.field !== "cell_degc" ? refused.message : null}
        />
        <Field
          label="Cell's temperature"
          unit="°C"
          numeric
          value={degrees}
          onChange={setDegrees}
          maxLength={10}
          error={refused?.field === "cell_degc" ? refused.message : null}
        />
      </Pair>
      <Choice
        label="It feels"
        value={warmth}
        onChange={setWarmth}
        options={[
          ["unsaid", "not felt"],
          ["cool", "cool"],
          ["warm", "warm"],
          ["too-hot", "too hot to hold"],
        ]}
      />
      <Tick isSelected={swells} onChange={setSwells} danger>
        It swells
      </Tick>
      {danger && <Notice kind="error">Take the current off now. Then keep this look: the cell is a hazard.</Notice>}
      <Row>
        <Button
          kind={danger ? "danger" : "main"}
          type="submit"
          waitsFor={value.trim() === "" ? "First measure its voltage." : null}
          isDisabled={isSending}
        >
          Keep this look
        </Button>
        <Button kind="quiet" onPress={() => onSend({ to: "recoveries", body: { outcome: "failed" } })}>
          Taken off, it failed
        </Button>
      </Row>
    </Stack>
  );
}

const Box = styled.div`display: grid; gap: var(--block);`;
const Stack = styled(Form)`display: grid; gap: var(--step); justify-items: start;`;
const Pair = styled.div`display: flex; flex-wrap: wrap; gap: var(--step) var(--room);`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap);`;
const Checks = styled.ul`display: grid; gap: var(--thread);`;
const PlanBox = styled.div`
  display: grid;
  gap: var(--near);
  padding: var(--apart) var(--step);
  border: 2px solid ${({ theme }) => theme.color.ink};
`;
const PlanList = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: var(--near) 1.75rem;
  dt { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
  dd { font: 700 1.5rem/1.15 ${({ theme }) => theme.font.figure}; }
`;
