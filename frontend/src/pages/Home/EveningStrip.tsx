import styled from "styled-components";
import { useEvening } from "../../api/evening";
import { ButtonLink } from "../../components/Button";
import { Tape } from "../../components/Tape";
import { clockTime, PROGRAM_WORDS } from "../../words";
import { useIsOver } from "../Evening/useIsOver";

/** The next thing of the evening's plan, with its minute; nothing where none was planned. */
export function EveningStrip() {
  const evening = useEvening().data?.evening;
  const isOver = useIsOver(evening);
  if (!evening) return null;
  const next = evening.next[0];
  if (isOver)
    return (
      <Strip aria-label="Next on the testers">
        <b>over</b>
        <span>
          The evening was until {clockTime(evening.ends_at)}. <strong>Who is still here?</strong>
          {evening.running.length > 0 &&
            ` ${evening.running.length === 1 ? "One cell runs" : `${evening.running.length} cells run`} yet.`}
        </span>
        <ButtonLink to="/evening" $kind="main">
          The evening
        </ButtonLink>
      </Strip>
    );
  return (
    <Strip aria-label="Next on the testers">
      <b>{next ? (next.state === "ahead" ? clockTime(next.starts_at) : "now") : `${evening.tonight.length} tonight`}</b>
      {next ? (
        <span>
          <Tape size="small" to={`/cells/${next.cell}`}>
            {next.cell}
          </Tape>{" "}
          into <strong>{next.slot_name}</strong>: {PROGRAM_WORDS[next.program]}
        </span>
      ) : (
        <span>Nothing more is to be begun on the testers.</span>
      )}
      <ButtonLink to="/evening" $kind="plain">
        The evening
      </ButtonLink>
    </Strip>
  );
}

const Strip = styled.section`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--near) var(--block);
  margin-bottom: var(--apart);
  padding: var(--near) var(--room);
  background: ${({ theme }) => theme.color.paper};
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  b { font: 700 ${({ theme }) => theme.size.lead} ${({ theme }) => theme.font.figure}; }
  span { flex: 1 1 16rem; }
`;
