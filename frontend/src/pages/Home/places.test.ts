import { expect, test } from "vitest";
import type { Cell } from "../../api/client";
import { places } from "./StepRow";

const lying = (name: string, slot: number | null, pack: string | null = null) =>
  ({ place: { name }, slot, pack_number: pack }) as Cell;

test.each([
  [[lying("Tray 2", 8)], 1, "Tray 2, place 8"],
  [[lying("Tray 2", 12), lying("Tray 2", 8)], 2, "Tray 2, places 8 to 12"],
  [[lying("Shelf box 1", null)], 1, "Shelf box 1"],
  [[lying("Shelf box 1", null, "P125")], 1, "pack P125"],
  [[lying("Tray 1", 1), lying("Tray 2", 1), lying("Tray 3", 1)], 3, "Tray 1, place 1; Tray 2, place 1 and elsewhere"],
  [[lying("Tray 1", 1)], 40, "Tray 1, place 1 and elsewhere"],
])("cells are named by where they lie", (cells, count, told) => {
  expect(places(cells, count)).toBe(told);
});
