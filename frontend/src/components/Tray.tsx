import { memo } from "react";
import styled from "styled-components";
import type { Cell, Step } from "../api/client";
import { STEP_WORDS } from "../words";
import { GradeMark } from "./GradeMark";
import { StepMark } from "./StepMark";
import { Tape } from "./Tape";

export type TrayCell = Pick<Cell, "number" | "slot" | "grade"> & { step: Step | null };

/** A tray from above with its numbered places; cells lie in theirs. `here` is the one at hand. */
export function Tray({
  name,
  rows,
  columns,
  cells,
  here,
  link,
  small,
}: {
  name: string;
  rows: number;
  columns: number;
  cells: TrayCell[];
  here?: string;
  link?: boolean;
  /** Only the places, for a tray that is a picture beside a form. */
  small?: boolean;
}) {
  const bySlot = new Map(cells.map((cell) => [cell.slot, cell]));
  return (
    <figure aria-label={`${name}, ${rows * columns} places`}>
      <Caption>{name}</Caption>
      <Board $columns={columns}>
        {Array.from({ length: rows * columns }, (_, index) => {
          const cell = bySlot.get(index + 1);
          return (
            <Place
              key={index}
              $filled={Boolean(cell)}
              $here={Boolean(here) && cell?.number === here}
              $out={cell?.grade === "out"}
              $small={Boolean(small)}
            >
              <SlotNumber>{index + 1}</SlotNumber>
              {cell?.number && <Content cell={cell} link={Boolean(link)} />}
            </Place>
          );
        })}
      </Board>
    </figure>
  );
}

// Drawn anew only when the cell itself changed: the place at hand moves at every entry.
const Content = memo(function Content({ cell, link }: { cell: TrayCell; link: boolean }) {
  return (
    <>
      <Tape size="small" to={link ? `/cells/${cell.number}` : undefined}>
        {cell.number}
      </Tape>
      {cell.step && (
        <State>
          {cell.grade === "not-yet" || cell.grade === "out" ? (
            <>
              <StepMark step={cell.step} size={18} />
              <span>{STEP_WORDS[cell.step]}</span>
            </>
          ) : (
            <GradeMark grade={cell.grade} />
          )}
        </State>
      )}
    </>
  );
});

const Caption = styled.figcaption`margin-bottom: var(--slit); font-weight: 700;`;
const Board = styled.div<{ $columns: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $columns }) => $columns}, minmax(0, 1fr));
  gap: 6px;
  padding: 10px;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 10px;
  background: ${({ theme }) => theme.color.mat};
  ${({ theme }) => theme.narrow} { gap: 3px; padding: 5px; grid-template-columns: repeat(${({ $columns }) => Math.min($columns, 4)}, minmax(0, 1fr)); }
`;
const Place = styled.div<{ $filled: boolean; $here: boolean; $out: boolean; $small: boolean }>`
  position: relative;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: var(--hair);
  min-height: ${({ $small }) => ($small ? "26px" : "84px")};
  padding: 1.125rem var(--hair) var(--slit);
  border: 2px ${({ $filled }) => ($filled ? "solid" : "dashed")} ${({ theme, $filled, $out }) => ($out ? theme.color.danger : $filled ? theme.color.inkSoft : theme.color.matLine)};
  border-radius: 8px;
  background: ${({ theme, $filled }) => ($filled ? theme.color.paper : "transparent")};
  ${({ theme, $here }) => $here && `outline: 4px solid ${theme.color.pencil};`}
`;
const SlotNumber = styled.span`
  position: absolute;
  top: 2px;
  left: 6px;
  font: 600 0.75rem ${({ theme }) => theme.font.figure};
  color: ${({ theme }) => theme.color.inkSoft};
`;
const State = styled.span`
  display: flex;
  align-items: center;
  justify-content: center;
  gap: var(--hair);
  font-size: 0.8125rem;
  line-height: 1.15;
  text-align: center;
  svg { flex: none; }
`;
