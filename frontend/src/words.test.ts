import { describe, expect, test } from "vitest";
import { doubt, figure, span, unitWord } from "./words";

describe("span", () => {
  test.each([
    [0, "0 min"],
    [40 * 60_000, "40 min"],
    [3 * 3600_000, "3 h"],
    [47 * 3600_000, "47 h"],
    [72 * 3600_000, "3 days"],
    [21 * 24 * 3600_000, "3 weeks"],
    [180 * 24 * 3600_000, "6 months"],
    [-5_000, "0 min"],
  ])("%d ms is told as %s", (milliseconds, told) => {
    expect(span(milliseconds)).toBe(told);
  });
});

test("figures are set without thousands marks, so that they can be typed back", () => {
  expect(figure(12345.678, 1)).toMatch(/^12345[.,]7$/);
});

test("a unit is written for people", () => {
  expect([unitWord("mOhm"), unitWord("V"), unitWord(null)]).toEqual(["mΩ", "V", ""]);
});

test.each([
  [0.0029, "± 0.003"],
  [0.012, "± 0.012"],
  [0.04, "± 0.04"],
  [3.84, "± 3.8"],
  [26.4, "± 26"],
] as const)("a doubt of %s is told as fine as it is, never as nothing", (u, told) => {
  expect(doubt(u)).toBe(told);
});
