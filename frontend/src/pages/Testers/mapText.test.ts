import { expect, test } from "vitest";
import { mapOf, textOf } from "./mapText";

const LOAD = {
  identify: "*IDN?",
  discharge: ["CURR {current_a:.3f}", "INP ON"],
  off: ["INP OFF"],
  measure: "MEAS:ALL?",
  gives: ["voltage_v", "minus_current_a"],
};

test("a map comes back as it was, whatever was left empty", () => {
  const back = mapOf(textOf(LOAD));
  expect(back).toMatchObject(LOAD);
  expect(back.charge).toEqual([]);
  expect(back.rows).toBe("");
});

test("empty lines and spaces around a command are nothing", () => {
  const typed = { ...textOf(LOAD), discharge: "  CURR 1 \n\n INP ON\n" };
  expect(mapOf(typed).discharge).toEqual(["CURR 1", "INP ON"]);
});
