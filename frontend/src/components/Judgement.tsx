import styled from "styled-components";
import type { Cell } from "../api/client";
import { CURRENT_LIMIT_WORDS, figure, GRADE_MEANING, SURE_WORDS } from "../words";
import { GradeMark } from "./GradeMark";
import { Scale } from "./Scale";

/** Grade, how sure, and every ground with its arithmetic. */
export function Judgement({ cell }: { cell: Cell }) {
  const limitedBy = CURRENT_LIMIT_WORDS[cell.continuous_current_set_by ?? ""];
  return (
    <section aria-label={`Judgement of cell ${cell.number}`}>
      <Head>
        <GradeMark grade={cell.grade} size="large" />
        <span>
          {GRADE_MEANING[cell.grade]}
          {cell.sure ? `, ${SURE_WORDS[cell.sure]}` : ""}
        </span>
      </Head>
      <Reasons>
        {cell.reasons.map((reason) => (
          <li key={reason.code}>
            {reason.text}
            <Scale reason={reason} />
          </li>
        ))}
      </Reasons>
      {cell.continuous_current_a !== null && (
        <Note>
          Carries at most about {figure(cell.continuous_current_a, 1)} A for long
          {limitedBy ? `; ${limitedBy}` : ""}.
        </Note>
      )}
      <Note>House rules, version {cell.rule_set_version}.</Note>
    </section>
  );
}

const Head = styled.div`
  margin-top: var(--hair);
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 0 var(--apart);
  color: ${({ theme }) => theme.color.inkSoft};
`;
const Reasons = styled.ul`
  margin-top: var(--near);
  li { padding: var(--near) 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Note = styled.p`
  margin-top: var(--hair);
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
`;
