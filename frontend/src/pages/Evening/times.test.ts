import { describe, expect, test } from "vitest";
import { atTime, timeOf } from "./times";

const NOW = new Date(2026, 2, 14, 19, 0);
const told = (typed: string) => {
  const at = atTime(typed, NOW);
  return at === null ? null : timeOf(at);
};

describe("a time of day as people type it", () => {
  test.each([
    ["21:30", "21:30"],
    ["21.30", "21:30"],
    ["2130", "21:30"],
    ["21h30", "21:30"],
    ["22", "22:00"],
    ["9:30 pm", "21:30"],
    [" 9:05 PM ", "21:05"],
    ["12 am", "00:00"],
  ])("%s is %s", (typed, time) => {
    expect(told(typed)).toBe(time);
  });

  test.each(["", "soon", "25:00", "21:75", "21:3o", "-3"])("%s is no time", (typed) => {
    expect(told(typed)).toBeNull();
  });

  test("one that is over today is tomorrow's", () => {
    expect(new Date(atTime("18:00", NOW) ?? "").getDate()).toBe(15);
    expect(new Date(atTime("19:30", NOW) ?? "").getDate()).toBe(14);
  });
});
