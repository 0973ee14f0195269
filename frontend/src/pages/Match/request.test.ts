import { expect, test } from "vitest";
import { asked, inForm, misread, relaxed, USUAL } from "./request";

test.each([
  ["grade:C", { least: "C" }],
  ["tolerance:none", { tolerance: "none" }],
  ["parallel:3", { parallel: 3 }],
  ["donors", { donors: "any" }],
  ["estimated", { withEstimated: true }],
  ["voltage", { joinedAsTheyLie: false }],
])("the way %s asks for that and for nothing else", (way, change) => {
  const strict = { ...USUAL, donors: "apart", tolerance: "strict", joinedAsTheyLie: true } as const;
  expect(relaxed(strict, way)).toEqual({ ...strict, ...change });
});

test("what only a coordinator can change is no button", () => {
  expect(relaxed(USUAL, "models")).toBeNull();
});

test("numbers are typed with comma or point, and nothing means nothing", () => {
  expect(asked({ ...USUAL, target: "4500,5", load: " " })).toMatchObject({ target_mah: 4500.5, load_a: null });
  expect([misread("1,5"), misread(""), misread("-1") === null, misread("much") === null]).toEqual([
    null,
    null,
    false,
    false,
  ]);
});

test("a request that was kept comes back into the form as it was", () => {
  const request = { ...USUAL, series: 7, size: "21700", target: "9000", donors: "together", least: "A" } as const;
  expect(inForm(asked(request))).toEqual(request);
});
