import { useEffect, useState } from "react";
import styled from "styled-components";
import { isGoingOn, type Slot, useReading, useTable } from "../../api/testers";
import { ALARM_WORDS, clockTime, figure } from "../../words";
import { doing, doneAt, now } from "./telling";

/** The table for a big screen across the room: nothing to touch, readable from five metres. */
export default function WallPage() {
  const table = useTable();
  const time = useTime();
  useEffect(() => {
    document.title = "Wall · Zembric";
  }, []);
  const slots = (table.data?.slots ?? []).filter((slot) => slot.cell !== null);
  const alarm = table.data?.alarms[0];
  const free = (table.data?.slots.length ?? 0) - slots.length;
  return (
    <Wall id="main">
      <Head>
        <h1>On the testers</h1>
        <span>{free} free</span>
        <strong>{time}</strong>
      </Head>
      {alarm && (
        <Alarm role="alert">
          {ALARM_WORDS[alarm.code]}: {alarm.slot_name} {alarm.cell && `cell ${alarm.cell}`}
        </Alarm>
      )}
      {table.data && slots.length === 0 && <Big>Nothing lies in a slot.</Big>}
      {table.isError && <Big>No connection. The testers go on by themselves.</Big>}
      <Cells $many={slots.length > 6}>
        {slots.map((slot) => (
          <Cell key={slot.id} slot={slot} />
        ))}
      </Cells>
    </Wall>
  );
}

function Cell({ slot }: { slot: Slot }) {
  const reading = useReading(slot.id);
  const run = slot.run;
  const told = now(run, slot.tester_id === null ? undefined : reading);
  const goes = run !== null && isGoingOn(run);
  const isWrong = run?.state === "stopped" || run?.state === "refused";
  return (
    <Sheet $wrong={isWrong}>
      <b>{slot.cell?.number}</b>
      <span>{slot.channel === null ? slot.name : `slot ${slot.channel}`}</span>
      <em>
        {told.volts === null ? "–" : figure(told.volts, 2)}
        <small>V</small>
      </em>
      <i>
        {!run ? "waits for you" : slot.tester_id === null && goes ? "charges" : doing(run, reading)}
        {goes && told.left ? `, ${doneAt(told.left)}` : goes && run.due_at ? `, ${clockTime(run.due_at)}` : ""}
      </i>
    </Sheet>
  );
}

function useTime(): string {
  const [time, setTime] = useState(() => clockTime(new Date().toISOString()));
  useEffect(() => {
    const timer = setInterval(() => setTime(clockTime(new Date().toISOString())), 5_000);
    return () => clearInterval(timer);
  }, []);
  return time;
}

const Wall = styled.main`
  display: grid;
  grid-template-rows: auto auto 1fr;
  gap: 1.5vmin;
  min-height: 100vh;
  padding: 2vmin 2.5vmin;
  background: ${({ theme }) => theme.color.mat};
`;
const Head = styled.header`
  display: flex;
  align-items: baseline;
  gap: 4vmin;
  font-size: 4.2vmin;
  h1 { font-size: 5vmin; }
  strong { margin-left: auto; white-space: nowrap; font: 700 6.5vmin ${({ theme }) => theme.font.figure}; }
`;
const Alarm = styled.p`
  padding: 2vmin 3vmin;
  background: ${({ theme }) => theme.color.danger};
  color: ${({ theme }) => theme.color.onDanger};
  font-size: 7vmin;
  font-weight: 800;
`;
const Big = styled.p`font-size: 6vmin;`;
const Cells = styled.ul<{ $many: boolean }>`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(${({ $many }) => ($many ? "21vw" : "29vw")}, 1fr));
  gap: 1.5vmin;
  grid-auto-rows: minmax(0, 1fr);
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr; grid-auto-rows: auto; }
`;
const Sheet = styled.li<{ $wrong: boolean }>`
  display: grid;
  grid-template-columns: auto 1fr;
  align-content: space-evenly;
  align-items: baseline;
  gap: 0.5vmin 2vmin;
  padding: 1.5vmin 2vmin;
  border: 4px solid ${({ theme, $wrong }) => ($wrong ? theme.color.danger : theme.color.ink)};
  background: ${({ theme, $wrong }) => ($wrong ? theme.color.dangerPaper : theme.color.paper)};
  b {
    padding: 0 1.5vmin;
    background: ${({ theme }) => theme.color.tape};
    color: ${({ theme }) => theme.color.onTape};
    font: 700 5.5vmin ${({ theme }) => theme.font.figure};
  }
  span { font-size: 3vmin; color: ${({ theme }) => theme.color.inkSoft}; text-align: right; }
  em { grid-column: 1 / -1; font: 700 13vmin/1.05 ${({ theme }) => theme.font.figure}; }
  em small { margin-left: 0.1em; font-size: 0.45em; }
  i { grid-column: 1 / -1; font-size: 3.6vmin; font-style: normal; }
`;
