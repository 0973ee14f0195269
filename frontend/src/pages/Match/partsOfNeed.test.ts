import { expect, test } from "vitest";
import { partsOf } from "./partsOfNeed";

const NEED = { load_kind: "power", load: "3,5 W", hours: "4", least_v: "6", most_v: "8.4" } as const;

test("a need tells what the pack feeds, in which window, and what was promised", () => {
  expect(partsOf(NEED)).toEqual([
    { kind: "device", figures: { power_w: "3.5", on_share: "1", least_v: "6", most_v: "8.4" } },
    { kind: "promise", figures: { hours: "4", leaves: "by-hand" } },
  ]);
});

test("behind a converter the volts are those of its input", () => {
  const parts = partsOf({ ...NEED, converter: "step-down", out_v: "5", least_v: "", most_v: "" });
  expect(parts[0]?.figures).toEqual({ power_w: "3.5", on_share: "1" });
  expect(parts[2]).toEqual({
    kind: "converter",
    figures: { converter_kind: "step-down", out_v: "5", least_in_v: "", most_in_v: "" },
  });
});
