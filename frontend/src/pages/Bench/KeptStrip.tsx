import styled from "styled-components";
import { Button, ButtonLink } from "../../components/Button";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Tape } from "../../components/Tape";
import type { Kept } from "../../components/useKept";
import { figure, STEP_WORDS } from "../../words";

/** What was kept a moment ago, what it led to, and the way to take it back or to go on with the same cell. */
export function KeptStrip({
  kept,
  isStuck,
  isAlone,
  onUndo,
  problem,
}: {
  kept: Kept;
  isStuck: boolean;
  /** Its next step stands nowhere else on the screen. */
  isAlone: boolean;
  onUndo: () => void;
  problem: unknown;
}) {
  const cell = kept.answer?.cell ?? null;
  const gap = kept.answer?.gap_to_siblings_v ?? null;
  return (
    <Notice kind={kept.isKept ? "kept" : "ask"}>
      <Row>
        <Tape size="small">{kept.number}</Tape>
        <Said>
          {kept.said}, {kept.isKept ? "kept" : isStuck ? "waits in this browser" : "…"}.{" "}
          {cell && <Next $always={isAlone}>{isAlone ? cell.step_text : STEP_WORDS[cell.step]}</Next>}
        </Said>
        <Ways>
          {cell && (
            <ButtonLink to={`/bench/${kept.number}`} $kind="quiet">
              Go on with it
            </ButtonLink>
          )}
          {kept.answer?.entry_id && (
            <Button kind="quiet" onPress={onUndo}>
              Undo <Keys>(Ctrl+Z)</Keys>
            </Button>
          )}
        </Ways>
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
const Next = styled.strong<{ $always: boolean }>`
  display: ${({ $always }) => ($always ? "inline" : "none")};
  ${({ theme }) => theme.narrow} { display: inline; }
`;
const Said = styled.span`flex: 1 1 12rem;`;
const Ways = styled.div`display: flex; flex-wrap: wrap; margin-left: auto;`;
const Keys = styled.span`${({ theme }) => theme.narrow} { display: none; }`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--hair) var(--apart);
`;
