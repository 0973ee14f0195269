import styled from "styled-components";
import type { Cell } from "../api/client";
import { dayAndTime, STEP_WORDS } from "../words";
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
        {cell.not_before && (
          <p>{cell.step === "rest" ? <Clock until={cell.not_before} /> : `Due ${dayAndTime(cell.not_before)}`}</p>
        )}
      </div>
    </Bar>
  );
}

const Bar = styled.div`
  display: flex;
  gap: ${({ theme }) => theme.space.step};
  padding: ${({ theme }) => theme.space.step} 1.125rem;
  background: ${({ theme }) => theme.color.ink};
  color: ${({ theme }) => theme.color.onInk};
  svg { flex: none; margin-top: 0.15rem; }
`;
const Word = styled.p`font-size: ${({ theme }) => theme.size.title}; font-weight: 800; line-height: 1.2;`;
