import {
  type CSSProperties,
  type KeyboardEvent,
  type SyntheticEvent,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import styled from "styled-components";
import { Button } from "../../components/Button";
import { figure } from "../../words";
import { type Cells, costOf, type Figures, type Groups, groupOf, type MatchCell, neighbour } from "./board";
import { cellOf, Plank, type PlankCalls } from "./Plank";

const SHELF_FIRST = 40;

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
  const [isAll, setAll] = useState(false);
  const used = new Set(groups.flat());
  const shelf = [...cells.values()].filter((cell) => !used.has(cell.number));
  const shown = isAll ? shelf : shelf.slice(0, SHELF_FIRST);
  const { box, taken, target, at, letGo, on, onKeyDown, onClick, onMouseOver, onFocus } = useHands(props, used, shown);
  // In groups of one cell nothing is mixed.
  const heldKind = taken && (groups[0]?.length ?? 0) > 1 ? taken.kind : null;
  const one = (cell: MatchCell, group: number | null) => (
    <Plank
      key={cell.number}
      cell={cell}
      group={group}
      isPinned={pins[cell.number] !== undefined}
      isHeld={taken === cell}
      isOver={target === cell.number}
      isStrange={heldKind !== null && heldKind !== cell.kind}
      isFirst={at ? at === cell.number : groups[0]?.[0] === cell.number}
      on={on}
    />
  );
  return (
    <Frame
      ref={box}
      role="group"
      style={{ "--longest": Math.max(bound, ...figures.sums) } as CSSProperties}
      aria-label={`${groups.length} groups in series`}
      {...{ onKeyDown, onClick, onMouseOver, onFocus }}
    >
      <Says>
        <p aria-live="polite">
          {taken ? (
            <>
              <strong>{taken.number}</strong>, {figure(taken.capacity_mah)} mAh, is taken up.{" "}
              {target ? (
                <Price groups={groups} cells={cells} one={taken.number} other={target} />
              ) : (
                "Go to the cell whose place it should have."
              )}
            </>
          ) : (
            "Take a cell up to swap it: press it or Enter, then the other. P pins it to its group, X leaves it out."
          )}
        </p>
        {taken && (
          <span>
            {used.has(taken.number) && (
              <>
                <Button onPress={() => letGo(props.onPin)}>
                  {pins[taken.number] === undefined ? "Pin it here" : "Unpin it"}
                </Button>
                <Button onPress={() => letGo(props.onBan)}>Leave it out</Button>
              </>
            )}
            <Button kind="quiet" onPress={() => letGo()}>
              Let go
            </Button>
          </span>
        )}
      </Says>
      <Pole>−</Pole>
      {groups.map((group, index) => (
        <Row key={`group ${index + 1}`} $mixed={figures.mixed.includes(index)}>
          <Name>{index + 1}</Name>
          <Track>
            {group.map((number) => {
              const cell = cells.get(number);
              return cell ? one(cell, index) : null;
            })}
          </Track>
          <Lens group={index} figures={figures} bound={bound} />
        </Row>
      ))}
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

/** Which cell is taken up and over which other it is, by pointer, finger or keys; `shown`: what lies on the shelf. */
function useHands(
  { groups, cells, onSwap, onPin, onBan }: BoardProps,
  used: ReadonlySet<string>,
  shown: readonly MatchCell[],
) {
  const [held, setHeld] = useState<string | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const [at, setAt] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const moved = useRef<string | null>(null);
  const focus = (number: string) => box.current?.querySelector<HTMLElement>(`[data-cell="${number}"]`)?.focus();
  // A cell that changed places is drawn anew there; whoever works by keys goes with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the groups are what it waits for
  useEffect(() => {
    if (moved.current) focus(moved.current);
    moved.current = null;
  }, [groups]);
  const taken = (held !== null && cells.get(held)) || null;
  const letGo = (then?: (number: string) => void) => {
    if (taken) then?.(taken.number);
    setHeld(null);
  };
  const swap = (one: string, other: string) => {
    if (one !== other) {
      onSwap(one, other);
      moved.current = one;
    }
    setHeld(null);
    setOver(null);
  };
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
    const to = neighbour([...groups, shown.map((cell) => cell.number)], number, event.key);
    if (to) focus(to);
    else if (event.key === "Escape" && taken) setHeld(null);
    else if (event.key === "p" && used.has(number)) onPin(number);
    else if (event.key === "x" && used.has(number)) onBan(number);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const about = (then: (number: string) => void) => (event: SyntheticEvent) => {
    const number = cellOf(event.target);
    if (number) then(number);
  };
  return {
    ...{ box, taken, at, letGo, on, onKeyDown },
    /** The cell whose place the one that is taken up would have. */
    target: taken && over && over !== taken.number ? over : null,
    onClick: about((number) => (taken ? swap(taken.number, number) : setHeld(number))),
    onMouseOver: about(setOver),
    onFocus: about((number) => {
      setAt(number);
      setOver(number);
    }),
  };
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
function Lens({ group, figures, bound }: { group: number; figures: Figures; bound: number }) {
  const sum = figures.sums[group] ?? 0;
  const isWeakest = sum === figures.weakest && figures.spread > 0;
  const says = figures.mixed.includes(group) ? "mixed" : isWeakest ? "weakest" : null;
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
