import { Link } from "react-router";
import styled from "styled-components";
import type { Cell, Schemas, Step } from "../../api/client";
import { Clock } from "../../components/Clock";
import { StepMark } from "../../components/StepMark";
import { Tape } from "../../components/Tape";
import { day, STEP_WORDS } from "../../words";

const IN_THE_TRAY: readonly Step[] = ["inspect", "measure-voltage"];
const GOES_TO: Partial<Record<Step, string>> = {
  "on-tester": "/table",
  keep: "/shelf",
  "in-pack": "/packs",
  "hand-over": "/out-box",
};

interface RowProps {
  group: Schemas["StepGroupOut"];
  tapes: number;
  /** Numbers only where all fit. */
  brief: boolean;
  /** Whether Enter starts this one from anywhere on the page; it says so. */
  onEnter?: boolean;
}

/** All cells with one next step: how many, where they lie, and the way to the doing. */
export function StepRow({ group, tapes, brief, onEnter = false }: RowProps) {
  const { step, count, cells } = group;
  const first = cells[0];
  const to = waysTo(group);
  return (
    <Row>
      <Go to={to} $danger={step === "fire-safe-box"}>
        <Count>{count}</Count>
        <StepMark step={step} size={30} />
        <span>
          <Word>{STEP_WORDS[step]}</Word>
          {onEnter && <Key>Enter</Key>}
          <Where>
            {step === "rest" && first?.not_before ? (
              <Clock until={first.not_before} />
            ) : step === "keep" && first?.not_before ? (
              `next look ${day(first.not_before)}`
            ) : step === "watched" && first?.not_before ? (
              `a reading tells something from ${day(first.not_before)}`
            ) : (
              places(cells, count)
            )}
          </Where>
        </span>
      </Go>
      {!(brief && count > tapes) && (
        <Tapes>
          {cells.slice(0, tapes).map((cell) => (
            <Tape key={cell.number} size="small" to={`/cells/${cell.number}`}>
              {cell.number}
            </Tape>
          ))}
          {count > tapes && <More>and {count - tapes} more</More>}
        </Tapes>
      )}
    </Row>
  );
}

/** Where the doing of a group's step starts. */
export function waysTo(group: Schemas["StepGroupOut"]): string {
  const first = group.cells[0];
  if (group.step === "watched" && first) return `/cells/${first.number}`;
  return GOES_TO[group.step] ?? trayOf(group) ?? `/bench?step=${group.step}`;
}

/** What is looked at and first measured is done tray by tray, as long as it lies in one. */
function trayOf({ step, cells }: Schemas["StepGroupOut"]): string | null {
  const place = cells[0]?.place;
  const isInTrays = cells.every((cell) => cell.place?.kind === "tray");
  return IN_THE_TRAY.includes(step) && isInTrays && place ? `/trays/${place.number}` : null;
}

/** Tray 2, places 8 to 12; or the names of the boxes. */
export function places(cells: Cell[], count: number): string {
  const byPlace = new Map<string, number[]>();
  for (const cell of cells) {
    const name = cell.pack_number ? `pack ${cell.pack_number}` : (cell.place?.name ?? cell.in_use_in ?? "no place");
    byPlace.set(name, [...(byPlace.get(name) ?? []), ...(cell.slot && !cell.pack_number ? [cell.slot] : [])]);
  }
  const parts = [...byPlace].slice(0, 2).map(([name, slots]) => {
    if (slots.length === 0) return name;
    const least = Math.min(...slots);
    const most = Math.max(...slots);
    return least === most ? `${name}, place ${least}` : `${name}, places ${least} to ${most}`;
  });
  return parts.join("; ") + (byPlace.size > 2 || count > cells.length ? " and elsewhere" : "");
}

const Row = styled.li`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: var(--hair) var(--block);
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
  &:first-child { border-top: 0; }
`;
const Go = styled(Link)<{ $danger: boolean }>`
  display: flex;
  align-items: center;
  gap: var(--apart);
  flex: 1 1 15rem;
  min-height: 62px;
  padding: var(--slit) 0;
  color: ${({ theme, $danger }) => ($danger ? theme.color.danger : theme.color.ink)};
  text-decoration: none;
  svg { flex: none; }
  &:hover { background: linear-gradient(${({ theme }) => theme.color.askPaper} 0 0); }
`;
const Count = styled.span`
  flex: none;
  min-width: 3.25rem;
  text-align: right;
  font: 700 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};
`;
const Word = styled.span` font-size: ${({ theme }) => theme.size.lead}; font-weight: 750; line-height: 1.2;`;
const Key = styled.kbd`
  margin-left: var(--gap);
  padding: 0.0625rem 0.4375rem;
  border: 1.5px solid currentColor;
  border-radius: 4px;
  font: 600 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.text};
  vertical-align: 0.125em;
  ${({ theme }) => theme.narrow} { display: none; }
`;
const Where = styled.span`display: block; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Tapes = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--slit); padding: var(--hair) 0; ${({ theme }) => theme.narrow} { display: none; }`;
const More = styled.span`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
