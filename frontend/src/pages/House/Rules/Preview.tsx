import styled from "styled-components";
import type { Schemas } from "../../../api/client";
import { GradeMark } from "../../../components/GradeMark";
import { Tape } from "../../../components/Tape";
import { GRADE_WORDS } from "../../../words";

/** What other rules would change: how many cells, from which grade to which, and the first of them. */
export function Preview({ preview }: { preview: Schemas["RulesPreviewOut"] }) {
  return (
    <Box role="status">
      <Answer>
        {preview.changed === 0
          ? `None of ${preview.cells} cells would get another grade.`
          : `${preview.changed} of ${preview.cells} cells would get another grade.`}
      </Answer>
      <Moves>
        {preview.moves.map((move) => (
          <li key={`${move.before}-${move.after}`}>
            <Count>{move.cells}</Count>
            <GradeMark grade={move.before} /> → <GradeMark grade={move.after} />
          </li>
        ))}
      </Moves>
      {preview.first.length > 0 && (
        <Scroll tabIndex={0} aria-label="The first of them">
          <ul>
            {preview.first.map((change) => (
              <li key={change.number}>
                <Tape size="small" to={`/cells/${change.number}`}>
                  {change.number}
                </Tape>{" "}
                {GRADE_WORDS[change.before]} → <strong>{GRADE_WORDS[change.after]}</strong>. {change.reason}
              </li>
            ))}
          </ul>
        </Scroll>
      )}
    </Box>
  );
}

const Box = styled.div`display: grid; gap: var(--apart); padding: var(--block) 0; border-top: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};`;
const Answer = styled.p`font-size: ${({ theme }) => theme.size.title}; font-weight: 800;`;
const Moves = styled.ul`display: grid; gap: var(--hair); li { display: flex; align-items: center; gap: var(--near); }`;
const Count = styled.strong`min-width: 4.5rem; text-align: right; font: 700 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};`;
const Scroll = styled.section`max-height: 18rem; overflow: auto; li { padding: var(--hair) 0; }`;
