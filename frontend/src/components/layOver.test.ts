import { expect, test } from "vitest";
import { layOver } from "./layOver";

const curve = (from: number, step: number, volts: number[]) => ({
  time_s: volts.map((_, index) => from + index * step),
  voltage_v: volts,
  current_a: volts.map(() => -1),
  charge_mah: volts.map((_, index) => (index === 1 ? null : index * 10)),
});

test("one curve over time keeps its points, in minutes, with its current beside it", () => {
  const { x, lines } = layOver([curve(0, 60, [4.1, 4.0, 3.9])], ["1042"], "time");
  expect(x).toEqual([0, 1, 2]);
  expect(lines.map((line) => [line.name, line.unit, line.y])).toEqual([
    ["1042", "V", [4.1, 4.0, 3.9]],
    ["current", "A", [-1, -1, -1]],
  ]);
});

test("over charge what has none is left out", () => {
  expect(layOver([curve(0, 60, [4.1, 4.0, 3.9])], ["1042"], "charge").x).toEqual([0, 20]);
});

test("two curves stand on one axis: each straight between its own points, silent before it begins and after it ends", () => {
  const { x, lines } = layOver([curve(0, 120, [4.0, 3.0]), curve(60, 120, [3.8, 3.6])], ["a", "b"], "time");
  expect(x).toEqual([0, 1, 2, 3]);
  expect(lines.map((line) => line.y)).toEqual([
    [4.0, 3.5, 3.0, null],
    [null, 3.8, 3.7, 3.6],
  ]);
});

test("a stretch leaves out what lies beside it", () => {
  expect(layOver([curve(0, 60, [4.1, 4.0, 3.9, 3.8])], ["a"], "time", [1, 2]).x).toEqual([1, 2]);
});

test("a curve that is on its way has no points yet", () => {
  expect(layOver([null], ["a"], "time")).toEqual({
    x: [],
    lines: [expect.objectContaining({ y: [] }), expect.objectContaining({ y: [] })],
  });
});
