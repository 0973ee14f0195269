import { expect, test } from "vitest";
import { act, costOf, figuresOf, type History, laidOut, type MatchCell, neighbour, pinsNow, swapped } from "./board";

const cell = (number: string, capacity_mah: number, kind = "a", resistance_mohm: number | null = 40): MatchCell => ({
  number,
  capacity_mah,
  capacity_u_mah: 20,
  resistance_mohm,
  grade: "A",
  size_code: "18650",
  kind,
  donor_number: "D1",
  resting_voltage_v: 3.8,
  place_name: null,
});
const all = [cell("1", 2500), cell("2", 2400, "a", 80), cell("3", 2300), cell("4", 2200), cell("5", 2600, "b")];
const cells = new Map(all.map((each) => [each.number, each]));
const GROUPS = [
  ["1", "2"],
  ["3", "4"],
];

test("a swap with the shelf puts one cell in the other's place and leaves the rest", () => {
  expect(swapped(GROUPS, "4", "5")).toEqual([
    ["1", "2"],
    ["3", "5"],
  ]);
});

test("the price of a swap is told before it is made, and whether it mixes kinds", () => {
  // 4900 and 4500; with 2 and 3 in each other's places 4800 and 4600.
  expect(costOf(GROUPS, cells, "2", "3")).toEqual({ weakest: 100, spread: -200, isMixed: false });
  expect(costOf(GROUPS, cells, "4", "5")).toEqual({ weakest: 400, spread: -400 + 0, isMixed: true });
});

test("a resistance that is missing leaves the ratio unknown", () => {
  expect(figuresOf(GROUPS, cells).ratio).toBe(2);
  const unknown = new Map(cells).set("4", cell("4", 2200, "a", null));
  expect(figuresOf(GROUPS, unknown).ratio).toBeNull();
});

const proposal = {
  cells: all,
  choices: [{ groups: GROUPS }],
} as unknown as Parameters<typeof laidOut>[0];

test("every act can be undone, and a pin stays with its cell where a hand moves it", () => {
  const first: History = { now: laidOut(proposal), before: [] };
  const pinned = act(first, { do: "pin", number: "1" });
  const moved = act(pinned, { do: "swap", one: "1", other: "3" });
  expect(pinsNow(moved.now)).toEqual({ "1": 2 });
  expect(act(act(moved, { do: "undo" }), { do: "undo" })).toEqual(first);
});

test("a pin whose cell was put on the shelf is no pin any more", () => {
  const pinned = act({ now: laidOut(proposal), before: [] }, { do: "pin", number: "4" });
  expect(pinsNow(act(pinned, { do: "swap", one: "4", other: "5" }).now)).toEqual({});
});

test.each([
  ["1", "ArrowRight", "2"],
  ["2", "ArrowRight", undefined],
  ["2", "ArrowLeft", "1"],
  ["2", "ArrowDown", "4"],
  ["4", "ArrowDown", "5"],
  ["5", "ArrowUp", "3"],
  ["1", "ArrowUp", undefined],
  ["1", "Enter", undefined],
])("from %s %s leads to %s, also into a shorter row", (number, key, to) => {
  expect(neighbour([...GROUPS, ["5"]], number, key)).toBe(to);
});
