import styled from "styled-components";
import { type Cell, serverNow } from "../api/client";
import { day, dayAndTime, STEP_WORDS, span } from "../words";
import { Clock } from "./Clock";
import { StepMark } from "./StepMark";

/** What to do next with a cell, the largest sentence on the screen. */
export function NextStep({ cell }: { cell: Cell }) {
  return (
    <Bar>
      <StepMark step={cell.step} size={34} />
      <div>
        <Word>{STEP_WORDS[cell.step]}</Word>
        <p>{cell.step_text}</p>
        <Small>{effort(cell)}</Small>
        {cell.overdue_at && <Overdue at={cell.overdue_at} />}
        {cell.not_before && (
          <p>{cell.step === "rest" ? <Clock until={cell.not_before} /> : `Due ${dayAndTime(cell.not_before)}`}</p>
        )}
      </div>
    </Bar>
  );
}

/** About 2 h, with a charger for its chemistry. */
function effort(cell: Cell): string {
  const takes = cell.step_minutes === null ? null : `about ${span(cell.step_minutes * 60_000)}`;
  const text = [takes, cell.step_needs && `with ${cell.step_needs}`].filter(Boolean).join(", ");
  return text && `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

/** A step that was left too long says so, one that is not says until when. */
function Overdue({ at }: { at: string }) {
  const isOverdue = new Date(at).getTime() < Date.parse(serverNow());
  return <p>{isOverdue ? <strong>Overdue since {day(at)}.</strong> : `Not later than ${day(at)}.`}</p>;
}

const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; opacity: 0.85;`;
const Bar = styled.div`
  display: flex;
  gap: var(--step);
  padding: var(--step) 1.125rem;
  background: ${({ theme }) => theme.color.ink};
  color: ${({ theme }) => theme.color.onInk};
  svg { flex: none; margin-top: 0.15rem; }
`;
const Word = styled.p`font-size: ${({ theme }) => theme.size.title}; font-weight: 800; line-height: 1.2;`;
