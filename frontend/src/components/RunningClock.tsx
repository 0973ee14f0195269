import styled from "styled-components";
import { span } from "../words";
import { useNow } from "./useNow";

const SECOND_MS = 1000;

/** A procedure's clock: how long it runs, when the next look is due, and the hour as a bar. Right after a reload too. */
export function RunningClock({
  startedAt,
  nextAt,
  endsAt,
}: {
  startedAt: string;
  nextAt: string | null;
  endsAt: string;
}) {
  const now = useNow(SECOND_MS);
  const started = Date.parse(startedAt);
  const ends = Date.parse(endsAt);
  const next = nextAt ? Date.parse(nextAt) : ends;
  const share = (at: number) => `${Math.min(100, Math.max(0, (100 * (at - started)) / (ends - started)))}%`;
  const isDue = now >= next;
  return (
    <Box role="timer" aria-label="Recovery">
      <Time $due={isDue}>{isDue ? "Measure it now" : `Next look in ${minutes(next - now)}`}</Time>
      <Bar>
        <Done style={{ width: share(now) }} />
        <Next style={{ left: share(next) }} />
      </Bar>
      <Small>
        Runs for {span(now - started)}
        {now >= ends ? "; its time is over, this look decides" : `; over in ${minutes(ends - now)}`}
      </Small>
    </Box>
  );
}

function minutes(milliseconds: number): string {
  const seconds = Math.max(0, Math.round(milliseconds / SECOND_MS));
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")} min`;
}

const Box = styled.div`width: 100%; max-width: 30rem;`;
const Time = styled.p<{ $due: boolean }>`
  font: 800 2rem/1.2 ${({ theme }) => theme.font.figure};
  ${({ theme, $due }) => $due && `padding: 0 var(--near); background: ${theme.color.tape}; color: ${theme.color.onTape};`}
`;
const Bar = styled.div`
  position: relative;
  height: 16px;
  margin: var(--slit) 0;
  border: 2px solid ${({ theme }) => theme.color.ink};
`;
const Done = styled.i`position: absolute; inset: 0 auto 0 0; background: ${({ theme }) => theme.color.pencil};`;
const Next = styled.i`position: absolute; top: -6px; bottom: -6px; width: 4px; margin-left: -2px; background: ${({ theme }) => theme.color.ink};`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note};`;
