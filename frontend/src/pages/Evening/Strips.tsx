import styled, { css } from "styled-components";
import type { Evening } from "../../api/evening";
import { Sheet } from "../../components/Page";
import { clockTime, PROGRAM_WORDS } from "../../words";

const HAND_OVER_MS = 2 * 60_000;

/** The plan as strips of tape along the evening: a line a slot, people's hands as a line of their own. */
export function Strips({ evening }: { evening: Evening }) {
  const begins = Math.min(
    ...[evening.planned_at, ...evening.taken.map((each) => each.starts_at)].flatMap((at) => (at ? Date.parse(at) : [])),
  );
  const ends = Date.parse(evening.ends_at);
  const rows = evening.rows.filter((row) => Date.parse(row.starts_at) < ends);
  const place = (from: string, to: string) => {
    const left = (100 * (Date.parse(from) - begins)) / (ends - begins);
    const width = (100 * (Math.min(Date.parse(to), ends) - Date.parse(from))) / (ends - begins);
    return { left: `${Math.max(left, 0)}%`, width: `${Math.max(width, 0.6)}%` };
  };
  const slots = [...new Map([...evening.taken, ...rows].map((each) => [each.slot, each.slot_name])).entries()].sort();
  const hours = hoursBetween(begins, ends);
  const isNow = Date.now() > begins && Date.now() < ends;
  if (slots.length === 0) return null;
  return (
    <Outer aria-label="The plan along the evening">
      <Lines>
        <span />
        <Line as="div">
          {hours.map((hour) => (
            <Hour key={hour} style={{ left: `${(100 * (hour - begins)) / (ends - begins)}%` }}>
              {clockTime(new Date(hour).toISOString())}
            </Hour>
          ))}
        </Line>
        {slots.map(([slot, name]) => (
          <Fragmented key={slot}>
            <Name>
              {name} <small>{slot}</small>
            </Name>
            <Line>
              {evening.taken
                .filter((each) => each.slot === slot)
                .map((each) => (
                  <Taken key={each.slot} style={place(each.starts_at, each.ends_at)} title="runs already">
                    <b>{each.cell}</b> runs
                  </Taken>
                ))}
              {rows
                .filter((row) => row.slot === slot && row.state !== "missed")
                .map((row) => (
                  <Strip
                    key={`${row.cell}-${row.program}`}
                    $state={row.state}
                    style={place(row.starts_at, row.ends_at)}
                    title={`${row.cell}, ${PROGRAM_WORDS[row.program]}, ${clockTime(row.starts_at)} to ${clockTime(row.ends_at)}`}
                  >
                    <b>{row.cell}</b> {PROGRAM_WORDS[row.program]}
                  </Strip>
                ))}
            </Line>
          </Fragmented>
        ))}
        <Name>
          <strong>Hands</strong>
        </Name>
        <Line>
          {rows
            .filter((row) => row.state !== "done" && row.state !== "missed")
            .map((row) => (
              <Hand
                key={`${row.cell}-${row.program}`}
                style={place(row.starts_at, new Date(Date.parse(row.starts_at) + HAND_OVER_MS).toISOString())}
                title={`${clockTime(row.starts_at)} ${row.cell}`}
              />
            ))}
        </Line>
        {isNow && <Now style={{ left: `calc(9rem + (100% - 9rem) * ${(Date.now() - begins) / (ends - begins)})` }} />}
      </Lines>
    </Outer>
  );
}

function hoursBetween(begins: number, ends: number): number[] {
  const half = 30 * 60_000;
  const step = ends - begins > 3 * 3_600_000 ? 2 * half : half;
  const first = Math.ceil(begins / step) * step;
  return Array.from({ length: Math.max(Math.ceil((ends - first) / step), 0) }, (_, at) => first + at * step).filter(
    (at) => at < ends - (ends - begins) / 16,
  );
}

const Outer = styled(Sheet)`margin: var(--block) 0; overflow-x: auto;`;
const Lines = styled.div`
  position: relative;
  display: grid;
  grid-template-columns: 9rem minmax(34rem, 1fr);
  row-gap: var(--slit);
`;
const Fragmented = styled.div`display: contents;`;
const Name = styled.div`
  align-self: center;
  padding-right: var(--near);
  font-size: ${({ theme }) => theme.size.note};
  line-height: 1.2;
  small { color: ${({ theme }) => theme.color.inkSoft}; font-family: ${({ theme }) => theme.font.figure}; }
`;
const Line = styled.div`
  position: relative;
  height: 34px;
  border-bottom: 1px dashed ${({ theme }) => theme.color.matLine};
`;
const Hour = styled.span`
  position: absolute;
  bottom: 2px;
  padding-left: 4px;
  border-left: 2px solid ${({ theme }) => theme.color.ink};
  font: 500 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure};
  white-space: nowrap;
`;
/** What does not fit beside the start goes to a second line, which is not seen: half a number would be none. */
const fitting = css`
  padding: 2px 8px;
  overflow: hidden;
  line-height: 24px;
  &::before { content: ""; display: inline-block; }
`;
const Strip = styled.span<{ $state: string }>`
  position: absolute;
  top: 3px;
  height: 28px;
  ${fitting}
  background: ${({ theme, $state }) => ($state === "done" ? theme.color.matLine : theme.color.tape)};
  color: ${({ theme, $state }) => ($state === "done" ? theme.color.ink : theme.color.onTape)};
  outline: ${({ theme, $state }) => ($state === "late" ? `3px solid ${theme.color.danger}` : "none")};
  font-size: 0.8125rem;
  transform: rotate(-0.25deg);
  clip-path: polygon(0 0, 3px 20%, 0 45%, 4px 70%, 1px 100%, calc(100% - 2px) 100%, 100% 75%, calc(100% - 4px) 50%, 100% 25%, calc(100% - 3px) 0);
  b { font-family: ${({ theme }) => theme.font.figure}; }
`;
const Taken = styled.span`
  position: absolute;
  top: 3px;
  height: 28px;
  ${fitting}
  b { font-family: ${({ theme }) => theme.font.figure}; }
  border: 1px solid ${({ theme }) => theme.color.ink};
  background: repeating-linear-gradient(-45deg, ${({ theme }) => theme.color.paper} 0 6px, ${({ theme }) => theme.color.paperLine} 6px 8px);
  font-size: 0.8125rem;
`;
const Hand = styled.span`
  position: absolute;
  top: 6px;
  height: 22px;
  background: ${({ theme }) => theme.color.pencil};
`;
const Now = styled.span`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 3px;
  background: ${({ theme }) => theme.color.pencil};
`;
