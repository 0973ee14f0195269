import { Link } from "react-router";
import styled from "styled-components";
import { isGoingOn, type Slot, useReading, useRunCurve } from "../../api/testers";
import { Tape } from "../../components/Tape";
import { clockTime, figure, TESTER_STATE_WORDS } from "../../words";
import { RunPicture } from "./RunPicture";
import { doing, doneAt, doneBetween, now, programName } from "./telling";

/** A slot as it stands on the table: its cell, what it does, volts first, and how long it still takes. */
export function SlotSheet({ slot }: { slot: Slot }) {
  const run = slot.run;
  const reading = useReading(slot.id);
  const curve = useRunCurve(run);
  const told = now(run, slot.tester_id === null ? undefined : reading);
  const goes = run !== null && isGoingOn(run);
  const isByHand = slot.tester_id === null;
  return (
    <Place
      $empty={slot.cell === null}
      $wrong={run?.state === "stopped" || run?.state === "refused"}
      aria-label={slot.name}
    >
      <Top>
        <Name to={`/table/${slot.number}`}>
          {slot.channel === null ? slot.name : `Slot ${slot.channel}`}
          <small>{slot.number}</small>
        </Name>
        {slot.cell && (
          <Tape size="small" to={`/cells/${slot.cell.number}`}>
            {slot.cell.number}
          </Tape>
        )}
      </Top>
      {slot.cell === null ? (
        <Empty>
          {slot.tester_state === "silent" || slot.tester_state === "nonsense"
            ? `Its tester ${TESTER_STATE_WORDS[slot.tester_state]}.`
            : "Empty."}{" "}
          <Link to={`/table/${slot.number}`}>Put a cell in</Link>
        </Empty>
      ) : !run ? (
        <Empty>
          Nothing runs. <Link to={`/table/${slot.number}`}>Choose what to do</Link>
        </Empty>
      ) : (
        <>
          <Doing>
            <strong>{programName(run)}</strong>: {isByHand && goes ? "charges, nobody can ask it" : doing(run, reading)}
          </Doing>
          {!isByHand && (
            <Figures>
              <Key>
                {told.volts === null ? "–" : figure(told.volts, 2)}
                <small>V</small>
              </Key>
              <dl>
                <div>
                  <dt>now</dt>
                  <dd>{told.amperes === null ? "–" : `${figure(told.amperes, 2)} A`}</dd>
                </div>
                <div>
                  <dt>in</dt>
                  <dd>{figure(told.into)} mAh</dd>
                </div>
                <div>
                  <dt>out</dt>
                  <dd>{figure(told.out)} mAh</dd>
                </div>
                {told.degrees !== null && (
                  <div>
                    <dt>warm</dt>
                    <dd>{figure(told.degrees)} °C</dd>
                  </div>
                )}
              </dl>
            </Figures>
          )}
          {!isByHand && (goes || curve) && <RunPicture curve={curve} run={run} height={58} />}
          {goes ? (
            <Left>
              {isByHand && run.due_at ? (
                <>
                  Should be done at <strong>{clockTime(run.due_at)}</strong>. Somebody has to look.
                </>
              ) : told.left ? (
                <>
                  Done <strong>{doneAt(told.left)}</strong>, between {doneBetween(told.left)}.
                </>
              ) : (
                "It begins in a moment."
              )}
            </Left>
          ) : (
            <Left role={run.end_said || run.not_kept_said ? "alert" : undefined}>
              {run.end_said ??
                run.not_kept_said ??
                (run.is_settled ? `Entered and judged. ${slot.cell.step_said}` : "Being read.")}
            </Left>
          )}
        </>
      )}
    </Place>
  );
}

const Place = styled.li<{ $empty: boolean; $wrong: boolean }>`
  display: grid;
  grid-template-rows: auto auto auto 1fr;
  align-content: start;
  gap: var(--slit);
  min-height: 12rem;
  padding: var(--near) var(--step);
  border: 2px ${({ $empty }) => ($empty ? "dashed" : "solid")} ${({ theme, $wrong, $empty }) => ($wrong ? theme.color.danger : $empty ? theme.color.inkSoft : theme.color.ink)};
  background: ${({ theme, $empty, $wrong }) => ($wrong ? theme.color.dangerPaper : $empty ? "transparent" : theme.color.paper)};
  ${({ theme }) => theme.narrow} { min-height: 0; }
`;
const Top = styled.div`display: flex; align-items: center; justify-content: space-between; gap: var(--near);`;
const Name = styled(Link)`
  display: inline-flex;
  align-items: baseline;
  gap: var(--near);
  min-height: 32px;
  font-weight: 700;
  small { font: 500 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Empty = styled.p`color: ${({ theme }) => theme.color.inkSoft};`;
const Doing = styled.p``;
const Figures = styled.div`
  display: flex;
  align-items: end;
  justify-content: space-between;
  gap: var(--apart);
  dl { display: grid; gap: 0; font-size: ${({ theme }) => theme.size.note}; }
  dl div { display: grid; grid-template-columns: 2.6rem auto; }
  dt { color: ${({ theme }) => theme.color.inkSoft}; }
  dd { font-family: ${({ theme }) => theme.font.figure}; text-align: right; white-space: nowrap; }
`;
const Key = styled.p`
  font: 700 2.75rem/1 ${({ theme }) => theme.font.figure};
  white-space: nowrap;
  small { margin-left: 0.15em; font-size: 0.5em; }
`;
const Left = styled.p`font-size: ${({ theme }) => theme.size.note};`;
