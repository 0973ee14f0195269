import { useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas, serverNow } from "../../api/client";
import { isGoingOn, type Run, type Slot, useReading, useRunCurve, useSlot } from "../../api/testers";
import { useWrite } from "../../api/writing";
import { RoomyForm, useTyped } from "../../components/AskForm";
import { Button, ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { clockTime, figure, PROGRAM_MEANS, PROGRAM_WORDS, STAGE_WORDS, seconds } from "../../words";
import { RunPicture } from "./RunPicture";
import { doing, doneAt, doneBetween, now } from "./telling";

type Choices = Schemas["ChoicesOut"];

/** One slot: which cell lies in it, what to let run, what it does. */
export default function SlotPage() {
  const { number = "" } = useParams();
  const slot = useSlot(number);
  return (
    <Page
      title={slot.data ? slot.data.slot.name : `Slot ${number}`}
      actions={
        <ButtonLink to="/table" $kind="quiet">
          All slots
        </ButtonLink>
      }
    >
      {slot.data ? <Whole told={slot.data} /> : <Waiting query={slot} what="the slot" />}
    </Page>
  );
}

function Whole({ told }: { told: Choices }) {
  const { slot } = told;
  const run = slot.run;
  const goes = run !== null && isGoingOn(run);
  if (slot.cell === null) return <PutIn slot={slot} />;
  return (
    <TwoColumns $left={1.2}>
      <Sheet aria-label="What runs">
        <Line>
          <Tape to={`/cells/${slot.cell.number}`}>{slot.cell.number}</Tape>
          <span>{slot.cell.step_said}</span>
        </Line>
        {run && <Going slot={slot} run={run} />}
        {!run && <p>Nothing runs yet. Its voltage is looked at before anything flows.</p>}
      </Sheet>
      <Sheet aria-label="What can be done">{goes ? <Stop run={run} /> : <Choose told={told} />}</Sheet>
    </TwoColumns>
  );
}

function Going({ slot, run }: { slot: Slot; run: Run }) {
  const reading = useReading(slot.id);
  const curve = useRunCurve(run);
  const told = now(run, slot.tester_id === null ? undefined : reading);
  const goes = isGoingOn(run);
  const stage = reading?.r === run.id ? (reading.g ?? run.stage) : run.stage;
  return (
    <>
      <Key>
        {told.volts === null ? "–" : figure(told.volts, 3)} <small>V</small>{" "}
        {told.amperes !== null && (
          <>
            {figure(told.amperes, 2)} <small>A</small>
          </>
        )}
      </Key>
      <p>
        <strong>{PROGRAM_WORDS[run.program]}</strong>: {doing(run, reading)}. {figure(told.into)} mAh in,{" "}
        {figure(told.out)} mAh out, believed to hold {figure(run.believed_mah)} mAh.
      </p>
      {(goes || curve) && <RunPicture curve={curve} run={run} height={180} />}
      <Stages aria-label="Stages of the program">
        {run.stages.map((each, at) => (
          <li
            key={at}
            aria-current={goes && at === stage ? "step" : undefined}
            data-done={at < stage || run.state === "ended"}
          >
            {STAGE_WORDS[each.kind]}
            {each.kind !== "rest" && ` ${figure(each.current_a, 2)} A to ${figure(each.limit_v, 2)} V`}
            {each.is_pulse && ", a pulse"} <small>{seconds(each.planned_s)}</small>
          </li>
        ))}
      </Stages>
      {goes && told.left && (
        <p>
          Done <strong>{doneAt(told.left)}</strong>, between {doneBetween(told.left)}.
        </p>
      )}
      {goes && slot.tester_id === null && run.due_at && (
        <p>
          Nobody can ask this charger. It should be done at <strong>{clockTime(run.due_at)}</strong>; look at it now and
          then, and enter the charge at the bench when it is.
        </p>
      )}
      {run.end_said && <Notice kind="error">{run.end_said}</Notice>}
      {run.not_kept_said && (
        <Notice kind="ask">
          <p>Nothing was entered for its cell: {run.not_kept_said}</p>
          {run.log_id && (
            <ButtonLink to={`/logs/${run.log_id}`} $kind="plain">
              Look at its curve
            </ButtonLink>
          )}
        </Notice>
      )}
      {run.log_id && !run.not_kept_said && (
        <ButtonLink to={`/logs/${run.log_id}`} $kind="quiet">
          Its curve
        </ButtonLink>
      )}
    </>
  );
}

function Stop({ run }: { run: Run }) {
  const stop = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/runs/{run_id}/stop", { params: { path: { run_id: run.id } }, body: {}, headers: once(key) }),
    ),
  );
  return (
    <Stack>
      <h2>It is running</h2>
      <ul>
        <li>Metal or ceramic tray, nothing that burns nearby.</li>
        <li>Somebody awake and in the room, until it is done.</li>
        <li>Warm, swelling, smelling: stop it, take it out with the tray.</li>
      </ul>
      <Button kind="danger" onPress={() => stop.mutate(null)} isDisabled={stop.isPending}>
        Stop it now
      </Button>
      <p>What was recorded is kept, as a part.</p>
      <ProblemNotice problem={stop.error} />
    </Stack>
  );
}

function Choose({ told }: { told: Choices }) {
  const { slot, choices, planned } = told;
  const [showsAll, setShowsAll] = useState(false);
  const begin = useWrite((program: Run["program"], key) =>
    answer(() =>
      api.POST("/api/slots/{number}/runs", {
        params: { path: { number: slot.number } },
        body: { program },
        headers: once(key),
      }),
    ),
  );
  const take = useWrite((_: null, key) =>
    answer(() =>
      api.DELETE("/api/slots/{number}/cell", { params: { path: { number: slot.number } }, headers: once(key) }),
    ),
  );
  const possible = choices.filter((choice) => choice.planned_s !== null);
  const usual = possible.find((choice) => choice.is_usual) ?? null;
  const others = possible.filter((choice) => choice !== usual);
  const why = choices.find((choice) => choice.is_usual)?.why_not ?? choices[0]?.why_not;
  return (
    <Stack>
      <h2>{possible.length ? "What shall run?" : "Nothing can run"}</h2>
      {!possible.length && <Notice kind="ask">{why}</Notice>}
      {planned && <Planned planned={planned} slot={slot} />}
      {usual && (
        <>
          <Button kind="main" onPress={() => begin.mutate(usual.program)} isDisabled={begin.isPending}>
            {PROGRAM_WORDS[usual.program]}, about {seconds(usual.planned_s ?? 0)}
          </Button>
          <Longer planned_s={usual.planned_s ?? 0} than={told.evening_ends_at} />
          <p>{PROGRAM_MEANS[usual.program]}</p>
        </>
      )}
      {(showsAll || !usual ? others : []).map((choice) => (
        <div key={choice.program}>
          <Button onPress={() => begin.mutate(choice.program)} isDisabled={begin.isPending}>
            {PROGRAM_WORDS[choice.program]}, about {seconds(choice.planned_s ?? 0)}
          </Button>
          <Longer planned_s={choice.planned_s ?? 0} than={told.evening_ends_at} />
          <p>{PROGRAM_MEANS[choice.program]}</p>
        </div>
      ))}
      {usual && others.length > 0 && !showsAll && (
        <Button kind="quiet" onPress={() => setShowsAll(true)}>
          Something else
        </Button>
      )}
      <ProblemNotice problem={begin.error ?? take.error} />
      <Button onPress={() => take.mutate(null)} isDisabled={take.isPending}>
        The cell is out
      </Button>
    </Stack>
  );
}

/** Tonight's plan has something ahead for the cell, here or in another slot. */
function Planned({ planned, slot }: { planned: NonNullable<Choices["planned"]>; slot: Slot }) {
  const at = clockTime(planned.starts_at);
  if (planned.slot === slot.number) return <p>Tonight's plan has this here at {at}.</p>;
  return (
    <Notice kind="ask">
      Tonight's plan has it in {planned.slot}, {planned.slot_name}, at {at}: {PROGRAM_WORDS[planned.program]}. Put it
      there, or the plan is made anew.
    </Notice>
  );
}

/** What would end after the evening has to be stayed with. */
function Longer({ planned_s, than }: { planned_s: number; than: string | null }) {
  const ends = Date.parse(serverNow()) + 1000 * planned_s;
  if (than === null || ends <= Date.parse(than)) return null;
  return (
    <Notice kind="ask">
      It would end at about {clockTime(new Date(ends).toISOString())}, the evening at {clockTime(than)}. Begin it only
      where somebody stays that long.
    </Notice>
  );
}

function PutIn({ slot }: { slot: Slot }) {
  const typed = useTyped({ cell: "" });
  const put = useWrite((cell: string, key) =>
    answer(() =>
      api.POST("/api/slots/{number}/cell", {
        params: { path: { number: slot.number } },
        body: { cell },
        headers: once(key),
      }),
    ),
  );
  return (
    <Sheet aria-label="Put a cell in">
      <RoomyForm
        problem={put.error}
        standsAt={{ number: "cell" }}
        send="It is in"
        isSending={put.isPending}
        isDisabled={!typed.values.cell.trim()}
        onSend={() => put.mutate(typed.values.cell)}
        aria-label="Put a cell in"
      >
        <Field
          label={`Which cell goes into ${slot.number}?`}
          size="key"
          {...typed.field("cell")}
          maxLength={20}
          autoFocus
        />
        <p>
          Charges with up to {figure(slot.max_charge_ma)} mA, discharges with up to {figure(slot.max_discharge_ma)} mA.
        </p>
      </RoomyForm>
    </Sheet>
  );
}

const Line = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--apart); margin-bottom: var(--block);`;
const Key = styled.p`
  font: 700 ${({ theme }) => theme.size.key}/1.1 ${({ theme }) => theme.font.figure};
  small { font-family: ${({ theme }) => theme.font.text}; font-size: 0.5em; }
  ${({ theme }) => theme.narrow} { font-size: 2.75rem; }
`;
const Stack = styled.div`
  display: grid;
  gap: var(--apart);
  justify-items: start;
  ul { padding-left: 1.1em; list-style: disc; }
`;
const Stages = styled.ol`
  display: grid;
  margin: var(--apart) 0;
  li { padding: var(--hair) var(--near); border-left: 4px solid ${({ theme }) => theme.color.paperLine}; }
  li[data-done="true"] { text-decoration: line-through; color: ${({ theme }) => theme.color.inkSoft}; }
  li[aria-current] { border-left-color: ${({ theme }) => theme.color.pencil}; font-weight: 700; }
  small { margin-left: var(--near); font-weight: 400; color: ${({ theme }) => theme.color.inkSoft}; }
`;
