import { describe, expect, test } from "vitest";
import { atTime, firstOf, isPast, timeOf } from "./times";

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

describe("who is still here", () => {
  const at = (hours: number, minutes = 0) => new Date(2026, 2, 14, hours, minutes).toISOString();
  const known = {
    ends_at: at(22),
    people: [
      { name: "Ines", until: at(20) },
      { name: "Bertil", until: at(22) },
    ],
  };

  test("who left is not asked again, and does not stay by being asked until when", () => {
    const first = firstOf(known, Date.parse(at(21)), "Tamsin");
    expect(first).toEqual({ ends: "22:00", people: [{ name: "Bertil", until: "22:00" }] });
    expect([isPast("18:30", NOW), isPast("19:30", NOW), isPast("2:00", NOW)]).toEqual([true, false, false]);
  });

  test("when its time is over, whoever stayed until the end may stay an hour longer", () => {
    const first = firstOf(known, Date.parse(at(22, 15)), "Tamsin");
    expect(first).toEqual({ ends: "23:15", people: [{ name: "Bertil", until: "23:15" }] });
  });

  test("where nobody is known, it is whoever asks", () => {
    expect(firstOf(null, Date.parse(at(19)), "Tamsin").people).toEqual([{ name: "Tamsin", until: "22:00" }]);
  });
});
