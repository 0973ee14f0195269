import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ButtonLink } from "../../components/Button";
import { Tape } from "../../components/Tape";
import { clockTime, PROGRAM_WORDS } from "../../words";

/** A thing to do with its minute: which cell goes where, for what. */
export function NextRow({ row, isFirst }: { row: Schemas["PlannedRowOut"]; isFirst: boolean }) {
  return (
    <Line $first={isFirst}>
      <time>{row.state === "ahead" ? clockTime(row.starts_at) : "now"}</time>
      <Tape size={isFirst ? "plain" : "small"} to={`/cells/${row.cell}`}>
        {row.cell}
      </Tape>
      <span>
        into <strong>{row.slot_name}</strong> ({row.slot}): {PROGRAM_WORDS[row.program]}
      </span>
      {isFirst && (
        <ButtonLink to={`/table/${row.slot}`} $kind={row.state === "ahead" ? "plain" : "main"}>
          To the slot
        </ButtonLink>
      )}
    </Line>
  );
}

const Line = styled.li<{ $first: boolean }>`
  display: grid;
  grid-template-columns: 6rem auto minmax(0, 1fr) auto;
  gap: var(--apart);
  align-items: center;
  padding: var(--near) 0;
  border-bottom: 1px solid ${({ theme }) => theme.color.paperLine};
  font-size: ${({ theme, $first }) => ($first ? theme.size.lead : theme.size.text)};
  a { justify-self: start; }
  time { white-space: nowrap; font: 700 0.95em ${({ theme }) => theme.font.figure}; }
  ${({ theme }) => theme.narrow} { grid-template-columns: auto 1fr; span { grid-column: 1 / -1; } }
`;
