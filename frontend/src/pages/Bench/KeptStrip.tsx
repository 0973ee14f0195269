import styled from "styled-components";
import type { Cell } from "../../api/client";
import { Button } from "../../components/Button";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Tape } from "../../components/Tape";
import { figure, STEP_WORDS } from "../../words";

/** What was kept a moment ago, and the way to take it back. */
export function KeptStrip({
  cell,
  said,
  gap,
  onUndo,
  problem,
}: {
  cell: Cell;
  said: string;
  gap: number | null;
  onUndo: () => void;
  problem: unknown;
}) {
  return (
    <Notice kind="kept">
      <Row>
        <Tape size="small">{cell.number}</Tape>
        <span>
          {said}. <Next>{STEP_WORDS[cell.step]}</Next>
        </span>
        <Button kind="quiet" onPress={onUndo}>
          Undo <Keys>(Ctrl+Z)</Keys>
        </Button>
      </Row>
      {gap !== null && (
        <p>
          It reads {figure(Math.abs(gap), 2)} V {gap < 0 ? "below" : "above"} its siblings. Watch it: such a cell often
          leaks.
        </p>
      )}
      <ProblemNotice problem={problem} />
    </Notice>
  );
}

/** On a narrow screen the judgement is further down, so what comes next stands here as well. */
const Next = styled.strong`display: none; ${({ theme }) => theme.narrow} { display: inline; }`;
const Keys = styled.span`${({ theme }) => theme.narrow} { display: none; }`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.25rem 0.75rem;
  button { margin-left: auto; }
`;
