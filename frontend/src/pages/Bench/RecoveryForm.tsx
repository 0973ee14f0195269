import { useState } from "react";
import styled from "styled-components";
import type { Bench } from "../../api/client";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Choice, Field, Tick } from "../../components/Fields";
import { Notice } from "../../components/Notice";
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
      {bench.recovery ? <Looks {...props} recovery={bench.recovery} /> : <Start {...props} plan={bench.plan} />}
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
  const { values, field } = useTyped({ current_ma: figure(plan.current_ma), cell_degc: "" });
  return (
    <Stack
      problem={problem}
      onSend={() =>
        onSend({
          to: "recovery-starts",
          body: { current_ma: values.current_ma, cell_degc: values.cell_degc.trim() || null },
        })
      }
      send="The current is on, start the clock"
      isSending={isSending}
    >
      <Pair>
        <Field label="Current that is set" unit="mA" numeric {...field("current_ma")} maxLength={20} />
        <Field
          label="Cell's temperature"
          unit="°C"
          numeric
          {...field("cell_degc")}
          maxLength={10}
          hint="If you have a thermometer."
        />
      </Pair>
    </Stack>
  );
}

const WARMTH = [
  ["unsaid", "not felt"],
  ["cool", "cool"],
  ["warm", "warm"],
  ["too-hot", "too hot to hold"],
] as const;
const NOT_LOOKED = { value: "", cell_degc: "", warmth: "unsaid" as (typeof WARMTH)[number][0] };

function Looks({ recovery, onSend, problem, isSending }: FormProps & { recovery: NonNullable<Bench["recovery"]> }) {
  const { values, field } = useTyped(NOT_LOOKED);
  const { value, cell_degc, warmth } = values;
  const [swells, setSwells] = useState(false);
  const danger = swells || warmth === "warm" || warmth === "too-hot";
  return (
    <Stack
      problem={problem}
      onSend={() =>
        onSend({
          to: "recovery-checks",
          body: { value, cell_degc: cell_degc.trim() || null, warmth: warmth === "unsaid" ? null : warmth, swells },
        })
      }
      send="Keep this look"
      kind={danger ? "danger" : "main"}
      waitsFor={value.trim() === "" ? "First measure its voltage." : null}
      isSending={isSending}
      besides={
        <Button kind="quiet" onPress={() => onSend({ to: "recoveries", body: { outcome: "failed" } })}>
          Taken off, it failed
        </Button>
      }
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
          {...field("value")}
          maxLength={20}
          autoComplete="off"
          autoFocus
        />
        <Field label="Cell's temperature" unit="°C" numeric {...field("cell_degc")} maxLength={10} />
      </Pair>
      <Choice label="It feels" {...field("warmth")} options={WARMTH} />
      <Tick isSelected={swells} onChange={setSwells} danger>
        It swells
      </Tick>
      {danger && <Notice kind="error">Take the current off now. Then keep this look: the cell is a hazard.</Notice>}
    </Stack>
  );
}

const Box = styled.div`display: grid; gap: var(--block);`;
const Stack = styled(AskForm)`display: grid; gap: var(--step); justify-items: start;`;
const Pair = styled.div`display: flex; flex-wrap: wrap; gap: var(--step) var(--room);`;
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
