import { describe, expect, test } from "vitest";
import type { Schemas } from "../../api/client";
import type { TrayCell } from "./LookForm";
import { isDue, nextDue, siblingsOf, startOf, stepped, withAnswers } from "./walk";

type Due = "look" | "measure" | "done";

/** A tray of which the places named are filled; in words what each still needs. */
const tray = (places: Record<number, Due>, cursor: number | null = null) =>
  ({
    tray: { cursor_slot: cursor },
    cells: Object.entries(places).map(([slot, due]) => ({
      cell: {
        number: `n${slot}`,
        slot: Number(slot),
        donor_number: "D1",
        resting_voltage_v: due === "done" ? 3.7 : null,
      },
      must_look: due === "look",
      needs_voltage: due !== "done",
    })),
  }) as unknown as Schemas["TrayOut"];
const none = () => false;

test("what still has to be looked at or measured is due", () => {
  expect(tray({ 1: "look", 2: "measure", 3: "done" }).cells.map(isDue)).toEqual([true, true, false]);
});

describe("the pass begins", () => {
  test.each([
    ["at the first cell of a fresh tray", { 1: "look", 2: "look" }, null, 1],
    ["where the last one left off", { 1: "done", 2: "done", 3: "look" }, 3, 3],
    ["at the next due one where the cursor stands on nothing", { 1: "look", 3: "done", 7: "look" }, 4, 7],
    ["round the end where only something before the cursor is due", { 2: "measure", 9: "done" }, 10, 2],
    ["at the first cell where nothing is due", { 4: "done", 5: "done" }, 6, 4],
    ["somewhere even in an empty tray", {}, null, 1],
  ] as const)("%s", (_, places, cursor, slot) => {
    expect(startOf(tray(places, cursor))).toBe(slot);
  });
});

test("asked for a donor's cells the pass begins at the first of them that is due", () => {
  const shared = tray({ 1: "look", 2: "done", 3: "look" }, 1);
  for (const each of shared.cells.slice(1)) each.cell.donor_number = "D2";
  expect([startOf(shared, "D2"), startOf(shared, "D9")]).toEqual([3, 1]);
});

test("what was answered since the tray was read stands in it at once", () => {
  const { cells } = tray({ 1: "look", 2: "look" });
  const answer = { cell: { number: "n1", slot: null, step: "charge", resting_voltage_v: 3.7 } };
  const answered = [{ id: "a", number: "n1", at: 20, answer }] as unknown as Parameters<typeof withAnswers>[1];
  expect(withAnswers(cells, answered, 10).map(isDue)).toEqual([false, true]);
  expect(withAnswers(cells, answered, 30).map(isDue)).toEqual([true, true]);
});

describe("after an entry it goes", () => {
  const { cells } = tray({ 1: "look", 2: "done", 3: "measure", 8: "look" });
  test.each([
    ["over what is done", 1, none, 3],
    ["over what waits in this browser", 1, (each: TrayCell) => each.cell.number === "n3", 8],
    ["round the end", 8, none, 1],
    ["nowhere when all is done", 1, () => true, null],
  ] as const)("%s", (_, from, isDone, slot) => {
    expect(nextDue(cells, from, isDone)).toBe(slot);
  });
});

test("arrows walk cell by cell, due or not, and round", () => {
  const { cells } = tray({ 1: "done", 4: "look", 6: "done" });
  expect([stepped(cells, 1, 1), stepped(cells, 6, 1), stepped(cells, 1, -1)]).toEqual([4, 1, 6]);
});

test("siblings are those of the same donor that were measured", () => {
  const { cells } = tray({ 1: "done", 2: "done", 3: "look" });
  const one = cells[0] as TrayCell;
  expect(siblingsOf(cells, one)).toEqual([{ number: "n2", value_v: 3.7 }]);
});
