import type { Schemas } from "../../api/client";

export type MatchCell = Schemas["MatchCellOut"];
export type Groups = readonly (readonly string[])[];
export type Cells = ReadonlyMap<string, MatchCell>;

export interface Figures {
  sums: number[];
  weakest: number;
  spread: number;
  /** Largest over smallest resistance inside a group, of the worst; null where a cell has none. */
  ratio: number | null;
  /** Indices of groups whose cells may not share one. */
  mixed: number[];
}

/** What groups as they lie come to; a few additions, so that it can be told while a cell is carried about. */
export function figuresOf(groups: Groups, cells: Cells): Figures {
  const sums: number[] = [];
  const mixed: number[] = [];
  let ratio: number | null = 1;
  groups.forEach((group, index) => {
    let sum = 0;
    let low = Number.POSITIVE_INFINITY;
    let high = 0;
    const kinds = new Set<string>();
    for (const number of group) {
      const cell = cells.get(number);
      if (!cell) continue;
      sum += cell.capacity_mah;
      kinds.add(cell.kind);
      if (cell.resistance_mohm === null) ratio = null;
      else {
        low = Math.min(low, cell.resistance_mohm);
        high = Math.max(high, cell.resistance_mohm);
      }
    }
    sums.push(sum);
    if (kinds.size > 1) mixed.push(index);
    if (ratio !== null && high > 0) ratio = Math.max(ratio, high / low);
  });
  const weakest = Math.min(...sums);
  return { sums, weakest, spread: Math.max(...sums) - weakest, ratio, mixed };
}

/** Two cells in each other's places; one of them may be on the shelf. The same groups where both are. */
export function swapped(groups: Groups, one: string, other: string): Groups {
  if (one === other) return groups;
  return groups.map((group) => group.map((number) => (number === one ? other : number === other ? one : number)));
}

/** The group, from 0, that a cell stands in; -1: it is on the shelf. */
export const groupOf = (groups: Groups, number: string): number => groups.findIndex((group) => group.includes(number));

/** Whether two lay the same cells together, in whatever order. */
export function sameGroups(one: Groups, other: Groups): boolean {
  const told = (groups: Groups) => JSON.stringify(groups.map((group) => [...group].sort()).sort());
  return told(one) === told(other);
}

/** How far [mAh] a group's figures lie above those of another state: for the worse below zero. */
export interface Cost {
  weakest: number;
  spread: number;
  isMixed: boolean;
}

export function costOf(groups: Groups, cells: Cells, one: string, other: string): Cost {
  const before = figuresOf(groups, cells);
  const after = figuresOf(swapped(groups, one, other), cells);
  return {
    weakest: after.weakest - before.weakest,
    spread: after.spread - before.spread,
    isMixed: after.mixed.some((index) => !before.mixed.includes(index)),
  };
}

export interface Laid {
  proposal: Schemas["ProposalOut"];
  /** Which of the proposal's choices the groups began as. */
  chosen: number;
  groups: Groups;
  /** Whether a hand has changed them since. */
  byHand: boolean;
  pins: Readonly<Record<string, number>>;
  banned: readonly string[];
}

/** How things lie, and all that came before, the newest last. */
export interface History {
  now: Laid;
  before: readonly Laid[];
}

export const laidOut = (proposal: Schemas["ProposalOut"], chosen = 0): Laid => ({
  proposal,
  chosen,
  groups: proposal.choices[chosen]?.groups ?? [],
  byHand: false,
  pins: {},
  banned: [],
});

export type Act =
  | { do: "swap"; one: string; other: string }
  | { do: "choose"; chosen: number }
  | { do: "pin"; number: string }
  | { do: "match"; proposal: Schemas["ProposalOut"]; pins: Laid["pins"]; banned: readonly string[] }
  | { do: "lay"; laid: Laid }
  | { do: "undo" };

export function act(history: History, what: Act): History {
  const { now, before } = history;
  const next = (laid: Laid): History => ({ now: laid, before: [...before, now].slice(-100) });
  switch (what.do) {
    case "undo": {
      const last = before.at(-1);
      return last ? { now: last, before: before.slice(0, -1) } : history;
    }
    case "swap":
      return next({ ...now, groups: swapped(now.groups, what.one, what.other), byHand: true });
    case "choose":
      return next({
        ...now,
        chosen: what.chosen,
        groups: now.proposal.choices[what.chosen]?.groups ?? [],
        byHand: false,
      });
    case "pin": {
      const { [what.number]: held, ...others } = now.pins;
      const group = groupOf(now.groups, what.number);
      if (held !== undefined) return next({ ...now, pins: others });
      return group < 0 ? history : next({ ...now, pins: { ...now.pins, [what.number]: group + 1 } });
    }
    case "match":
      return next({ ...laidOut(what.proposal), pins: what.pins, banned: what.banned });
    case "lay":
      return next(what.laid);
  }
}

/** Pins follow the cells that were moved by hand: a cell stays pinned where it lies now. */
export function pinsNow({ pins, groups }: Laid): Record<string, number> {
  const entries = Object.keys(pins).map((number): [string, number] => [number, groupOf(groups, number) + 1]);
  return Object.fromEntries(entries.filter(([, group]) => group > 0));
}

/** The cell that an arrow leads to from another, over rows of different lengths; undefined: none. */
export function neighbour(rows: Groups, number: string, key: string): string | undefined {
  const row = rows.findIndex((each) => each.includes(number));
  const place = rows[row]?.indexOf(number) ?? 0;
  const inRow = (other: number) => rows[other]?.[Math.min(place, (rows[other]?.length ?? 1) - 1)];
  if (key === "ArrowRight") return rows[row]?.[place + 1];
  if (key === "ArrowLeft") return rows[row]?.[place - 1];
  if (key === "ArrowDown") return inRow(row + 1);
  if (key === "ArrowUp") return inRow(row - 1);
  return undefined;
}
