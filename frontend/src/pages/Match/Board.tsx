import { type CSSProperties, type KeyboardEvent, memo, useEffect, useMemo, useRef, useState } from "react";
import { useDrag, useDrop } from "react-aria";
import styled from "styled-components";
import { Button } from "../../components/Button";
import { figure } from "../../words";
import { type Cells, costOf, type Figures, type Groups, groupOf, type MatchCell } from "./board";

const SHELF_FIRST = 40;
const TYPE = "application/x-zembric-cell";

interface BoardProps {
  groups: Groups;
  cells: Cells;
  figures: Figures;
  bound: number;
  pins: Readonly<Record<string, number>>;
  leftOver: number;
  onSwap: (one: string, other: string) => void;
  onPin: (number: string) => void;
  onBan: (number: string) => void;
}

/**
 * The pack as groups of cells laid end to end, each as long as it holds; how far a group falls short of the bound stands
 * beside it, magnified. A cell is taken up and put in another's place, by pointer, finger or keys.
 */
export function Board(props: BoardProps) {
  const { groups, cells, figures, bound, pins, leftOver } = props;
  const [held, setHeld] = useState<string | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const [at, setAt] = useState<string | null>(null);
  const [isAll, setAll] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const moved = useRef<string | null>(null);
  // A cell that changed places is drawn anew there; whoever works by keys goes with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the groups are what it waits for
  useEffect(() => {
    if (moved.current) box.current?.querySelector<HTMLElement>(`[data-cell="${moved.current}"]`)?.focus();
    moved.current = null;
  }, [groups]);
  const used = new Set(groups.flat());
  const shelf = [...cells.values()].filter((cell) => !used.has(cell.number));
  const shown = isAll ? shelf : shelf.slice(0, SHELF_FIRST);
  const longest = Math.max(bound, ...figures.sums);
  const isHeldHere = held !== null && cells.has(held);
  const taken = isHeldHere ? held : null;
  const target = taken && over && over !== taken ? over : null;

  // In groups of one cell nothing is mixed.
  const heldKind = taken && (groups[0]?.length ?? 0) > 1 ? (cells.get(taken)?.kind ?? null) : null;
  const letGo = (then: (number: string) => void) => {
    if (taken) then(taken);
    setHeld(null);
  };
  const swap = (one: string, other: string) => {
    if (one !== other) {
      props.onSwap(one, other);
      moved.current = one;
    }
    setHeld(null);
    setOver(null);
  };
  const press = (number: string) => (taken ? swap(taken, number) : setHeld(number));
  // Hundreds of cells lie here: each is drawn anew only when it changes itself, so what they call stays the same.
  const latest = useRef({ carry: setHeld, over: setOver, drop: swap });
  latest.current = { carry: setHeld, over: setOver, drop: swap };
  const on = useMemo<PlankCalls>(
    () => ({
      carry: (number) => latest.current.carry(number),
      over: (number) => latest.current.over(number),
      drop: (one, other) => latest.current.drop(one, other),
    }),
    [],
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const number = cellOf(event.target);
    if (!number || event.ctrlKey || event.metaKey || event.altKey) return;
    const rows = [...groups, shown.map((cell) => cell.number)];
    const row = rows.findIndex((each) => each.includes(number));
    const place = rows[row]?.indexOf(number) ?? 0;
    const to = {
      ArrowRight: rows[row]?.[place + 1],
      ArrowLeft: rows[row]?.[place - 1],
      ArrowDown: rows[row + 1]?.[Math.min(place, (rows[row + 1]?.length ?? 1) - 1)],
      ArrowUp: rows[row - 1]?.[Math.min(place, (rows[row - 1]?.length ?? 1) - 1)],
    }[event.key];
    if (to) box.current?.querySelector<HTMLElement>(`[data-cell="${to}"]`)?.focus();
    else if (event.key === "Escape" && taken) setHeld(null);
    else if (event.key === "p" && used.has(number)) props.onPin(number);
    else if (event.key === "x" && used.has(number)) props.onBan(number);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const one = (cell: MatchCell, group: number | null) => (
    <Plank
      key={cell.number}
      cell={cell}
      group={group}
      isPinned={pins[cell.number] !== undefined}
      isHeld={taken === cell.number}
      isOver={target === cell.number}
      isStrange={heldKind !== null && heldKind !== cell.kind}
      isFirst={at ? at === cell.number : groups[0]?.[0] === cell.number}
      on={on}
    />
  );
  const heldCell = taken ? cells.get(taken) : undefined;
  return (
    <Frame
      ref={box}
      role="group"
      style={{ "--longest": longest } as CSSProperties}
      aria-label={`${groups.length} groups in series`}
      onKeyDown={onKeyDown}
      onClick={(event) => {
        const number = cellOf(event.target);
        if (number) press(number);
      }}
      onMouseOver={(event) => {
        const number = cellOf(event.target);
        if (number) setOver(number);
      }}
      onFocus={(event) => {
        const number = cellOf(event.target);
        if (!number) return;
        setAt(number);
        setOver(number);
      }}
    >
      <Says>
        <p aria-live="polite">
          {heldCell ? (
            <>
              <strong>{heldCell.number}</strong>, {figure(heldCell.capacity_mah)} mAh, is taken up.{" "}
              {target ? (
                <Price groups={groups} cells={cells} one={heldCell.number} other={target} />
              ) : (
                "Go to the cell whose place it should have."
              )}
            </>
          ) : (
            "Take a cell up to swap it: press it or Enter, then the other. P pins it to its group, X leaves it out."
          )}
        </p>
        {heldCell && (
          <span>
            {used.has(heldCell.number) && (
              <>
                <Button onPress={() => letGo(props.onPin)}>
                  {pins[heldCell.number] === undefined ? "Pin it here" : "Unpin it"}
                </Button>
                <Button onPress={() => letGo(props.onBan)}>Leave it out</Button>
              </>
            )}
            <Button kind="quiet" onPress={() => setHeld(null)}>
              Let go
            </Button>
          </span>
        )}
      </Says>
      <Pole>−</Pole>
      {groups.map((group, index) => {
        const sum = figures.sums[index] ?? 0;
        const isWeakest = sum === figures.weakest && figures.spread > 0;
        return (
          <Row key={`group ${index + 1}`} $mixed={figures.mixed.includes(index)}>
            <Name>{index + 1}</Name>
            <Track>
              {group.map((number) => {
                const cell = cells.get(number);
                return cell ? one(cell, index) : null;
              })}
            </Track>
            <Lens
              sum={sum}
              figures={figures}
              bound={bound}
              says={figures.mixed.includes(index) ? "mixed" : isWeakest ? "weakest" : null}
            />
          </Row>
        );
      })}
      <Pole>+</Pole>
      <Shelf>
        <h3>
          Left on the shelf: {leftOver} {leftOver === 1 ? "cell" : "cells"} that could take part
        </h3>
        <Loose>{shown.map((cell) => one(cell, null))}</Loose>
        {shelf.length > shown.length && (
          <Button kind="quiet" onPress={() => setAll(true)}>
            Show {shelf.length - shown.length} more
          </Button>
        )}
      </Shelf>
    </Frame>
  );
}

/** What a swap would do to the weakest group and the spread. */
function Price({ groups, cells, one, other }: { groups: Groups; cells: Cells; one: string; other: string }) {
  if (groupOf(groups, one) < 0 && groupOf(groups, other) < 0) return <>Both lie on the shelf.</>;
  if (groupOf(groups, one) === groupOf(groups, other)) return <>Both stand in one group: nothing changes.</>;
  const cost = costOf(groups, cells, one, other);
  const change = (mah: number) => (mah === 0 ? "as it is" : `${mah > 0 ? "+" : "−"}${figure(Math.abs(mah))} mAh`);
  return (
    <>
      In the place of <strong>{other}</strong>: weakest group <strong>{change(cost.weakest)}</strong>, spread{" "}
      {change(cost.spread)}.{cost.isMixed && " These may not share a group: one model, one size."}
    </>
  );
}

/** Where a group ends between the weakest and the bound, magnified so that a few mAh can be seen. */
function Lens({ sum, figures, bound, says }: { sum: number; figures: Figures; bound: number; says: string | null }) {
  const top = Math.max(bound, ...figures.sums);
  const low = figures.weakest - Math.max(1, (top - figures.weakest) * 0.1);
  const place = (mah: number) => `${(100 * (mah - low)) / (top - low || 1)}%`;
  return (
    <Glass>
      <Line aria-hidden="true">
        <i style={{ left: place(bound) }} />
        <b style={{ left: place(sum) }} />
      </Line>
      <span>
        {figure(sum)} mAh{says && <small>{says}</small>}
      </span>
    </Glass>
  );
}

/** The number of the cell that something on the board belongs to. */
const cellOf = (target: EventTarget): string | undefined =>
  target instanceof Element ? target.closest<HTMLElement>("[data-cell]")?.dataset.cell : undefined;

interface PlankCalls {
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

const Plank = memo(function Plank({ cell, group, isPinned, isHeld, isOver, isFirst, isStrange, on }: PlankProps) {
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

const Frame = styled.div`
  display: grid;
  gap: var(--slit);
  padding: var(--apart) var(--block) var(--block);
  overflow-x: auto;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  ${({ theme }) => theme.narrow} { padding: var(--near); }
`;
const Says = styled.div`
  position: sticky;
  left: 0;
  display: flex;
  align-items: start;
  justify-content: space-between;
  gap: var(--hair) var(--block);
  /* Kept for the longest that may stand here, so that no cell moves from under the finger. */
  min-height: 3.75rem;
  p { flex: 1 1 14rem; }
  > span { display: flex; flex-wrap: wrap; gap: var(--slit); justify-content: end; }
  ${({ theme }) => theme.narrow} { display: block; min-height: 10.5rem; > span { justify-content: start; margin-top: var(--slit); } }
`;
const Pole = styled.span`font: 800 1.5rem/1 ${({ theme }) => theme.font.figure};`;
const Row = styled.div<{ $mixed: boolean }>`
  display: grid;
  grid-template-columns: 3.25rem minmax(12rem, 1fr) 11rem;
  gap: var(--gap);
  align-items: center;
  outline: ${({ theme, $mixed }) => ($mixed ? `3px dashed ${theme.color.danger}` : "none")};
  ${({ theme }) => theme.narrow} { grid-template-columns: 2.25rem minmax(0, 1fr); }
`;
const Name = styled.span`
  font: 800 1.375rem/1 ${({ theme }) => theme.font.figure};
`;
const Track = styled.div`display: flex; gap: 2px; min-width: 0;`;
const Loose = styled.div`display: flex; flex-wrap: wrap; gap: 4px;`;
const Shelf = styled.section`
  display: grid;
  gap: var(--near);
  margin-top: var(--near);
  padding-top: var(--apart);
  border-top: 2px dashed ${({ theme }) => theme.color.inkSoft};
  h3 { font-size: 1rem; }
`;
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
const Glass = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: var(--near);
  align-items: center;
  font: 700 1.0625rem ${({ theme }) => theme.font.figure};
  line-height: 1.1;
  white-space: nowrap;
  small { display: block; font: 600 0.8125rem/1 ${({ theme }) => theme.font.text}; color: ${({ theme }) => theme.color.pencil}; text-align: right; }
  ${({ theme }) => theme.narrow} { grid-column: 2; }
`;
const Line = styled.span`
  position: relative;
  height: 26px;
  border-bottom: 2px solid ${({ theme }) => theme.color.inkSoft};
  i { position: absolute; top: 0; bottom: 0; width: 0; border-left: 3px dotted ${({ theme }) => theme.color.pencil}; transform: translateX(-50%); }
  b { position: absolute; bottom: -7px; width: 12px; height: 12px; border-radius: 50%; background: ${({ theme }) => theme.color.ink}; transform: translateX(-50%); }
`;
