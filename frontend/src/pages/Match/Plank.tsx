import { memo, useRef } from "react";
import { useDrag, useDrop } from "react-aria";
import styled from "styled-components";
import { figure } from "../../words";
import type { MatchCell } from "./board";

const TYPE = "application/x-zembric-cell";

/** The number of the cell that something on the board belongs to. */
export const cellOf = (target: EventTarget): string | undefined =>
  target instanceof Element ? target.closest<HTMLElement>("[data-cell]")?.dataset.cell : undefined;

export interface PlankCalls {
  carry: (number: string | null) => void;
  over: (number: string) => void;
  drop: (one: string, other: string) => void;
}

interface PlankProps {
  cell: MatchCell;
  group: number | null;
  isPinned: boolean;
  isHeld: boolean;
  isOver: boolean;
  isFirst: boolean;
  isStrange: boolean;
  on: PlankCalls;
}

/** One cell, as long as it holds; taken up and put in another's place. */
export const Plank = memo(function Plank({
  cell,
  group,
  isPinned,
  isHeld,
  isOver,
  isFirst,
  isStrange,
  on,
}: PlankProps) {
  const ref = useRef<HTMLButtonElement>(null);
  const { dragProps } = useDrag({
    hasDragButton: true,
    getItems: () => [{ [TYPE]: cell.number, "text/plain": cell.number }],
    getAllowedDropOperations: () => ["move"],
    onDragStart: () => on.carry(cell.number),
    onDragEnd: () => on.carry(null),
  });
  const { dropProps, isDropTarget } = useDrop({
    ref,
    hasDropButton: true,
    getDropOperation: (types) => (types.has(TYPE) ? "move" : "cancel"),
    onDropEnter: () => on.over(cell.number),
    onDrop: async (event) => {
      const [item] = event.items;
      if (item?.kind === "text") on.drop(await item.getText(TYPE), cell.number);
    },
  });
  const where = group === null ? "on the shelf" : `group ${group + 1}`;
  const mohm = cell.resistance_mohm === null ? "" : `, ${figure(cell.resistance_mohm, 1)} mΩ`;
  return (
    <Body
      {...dragProps}
      {...dropProps}
      ref={ref}
      type="button"
      data-cell={cell.number}
      tabIndex={isFirst ? 0 : -1}
      aria-pressed={isHeld}
      style={group === null ? undefined : { width: `calc(100% * ${cell.capacity_mah} / var(--longest))` }}
      $held={isHeld}
      $over={isOver || isDropTarget}
      $loose={group === null}
      $dim={isStrange}
    >
      <b>
        {isPinned && (
          <Pin viewBox="0 0 10 14" aria-hidden="true">
            <path d="M5 13V8M1.5 8h7L7.5 5V1.5h-5V5z" />
          </Pin>
        )}
        {cell.number}
      </b>{" "}
      <span>{figure(cell.capacity_mah)}</span>
      <Unseen>{` mAh${mohm}, ${where}${isPinned ? ", pinned" : ""}`}</Unseen>
    </Body>
  );
});

const Body = styled.button<{ $held: boolean; $over: boolean; $loose: boolean; $dim: boolean }>`
  position: relative;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: center;
  gap: 0 var(--near);
  min-width: ${({ $loose }) => ($loose ? "4.75rem" : "0")};
  min-height: 44px;
  padding: var(--thread) var(--hair);
  overflow: hidden;
  border: 2px solid ${({ theme, $over }) => ($over ? theme.color.pencil : theme.color.ink)};
  border-radius: 6px;
  background: ${({ theme, $held }) => ($held ? theme.color.tape : theme.color.mat)};
  color: ${({ theme, $held }) => ($held ? theme.color.onTape : theme.color.ink)};
  box-shadow: ${({ theme, $over }) => ($over ? `inset 0 0 0 2px ${theme.color.pencil}` : "none")};
  cursor: grab;
  opacity: ${({ $dim }) => ($dim ? 0.4 : 1)};
  b { font: 700 0.9375rem/1.1 ${({ theme }) => theme.font.figure}; white-space: nowrap; }
  span { font: 500 0.9375rem/1.1 ${({ theme }) => theme.font.figure}; }
  &:focus-visible { outline-offset: -4px; }
`;
const Unseen = styled.em`position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap;`;
const Pin = styled.svg`width: 0.6em; height: 0.9em; margin-right: 0.2em; fill: currentColor; stroke: currentColor; stroke-width: 1;`;
