import { expect, test } from "vitest";
import { binned, gradesOf } from "./ShelfMap";

const same = { x: (value: number) => value, y: (value: number) => value };

test("cells with room between them keep their marks, and those that would blot become one heap with its number", () => {
  const apart = { counts: [1, 1], grade: ["A", "A"] as const, capacity_mah: [10, 400], resistance_mohm: [10, 10] };
  expect(binned({ ...apart, grade: [...apart.grade] }, same, () => true).map((bin) => bin.count)).toEqual([1, 1]);
  const near = Array.from({ length: 50 }, (_, index) => String(index));
  const [heap] = binned(
    {
      counts: near.map(() => 1),
      grade: near.map((_, index) => (index < 20 ? ("A" as const) : ("B" as const))),
      capacity_mah: near.map(() => 30),
      resistance_mohm: near.map(() => 30),
    },
    same,
    () => true,
  );
  expect(heap).toMatchObject({ count: 50, x: 30, y: 30, grades: { A: 20, B: 30 } });
  expect(heap?.spots.length).toBeLessThan(5);
});

test("what is chosen is never heaped with what is not, and lies on top", () => {
  const points = {
    counts: [1, 1],
    grade: ["A" as const, "A" as const],
    capacity_mah: [5, 5],
    resistance_mohm: [5, 5],
  };
  expect(binned(points, same, (index) => index === 0).map((bin) => bin.isChosen)).toEqual([false, true]);
});

test("the legend counts what is drawn, strongest first", () => {
  expect(gradesOf({ grade: ["out", "A", "B", "A"], counts: [1, 1, 1, 40] })).toEqual([
    ["A", 41],
    ["B", 1],
    ["out", 1],
  ]);
});
