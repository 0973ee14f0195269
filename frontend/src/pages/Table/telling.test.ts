import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Reading, Run } from "../../api/testers";
import { doing, doneAt, doneBetween, now } from "./telling";

const stage = (kind: "charge" | "discharge" | "rest", limit: number, isPulse = false) => ({
  kind,
  is_pulse: isPulse,
  current_a: kind === "rest" ? 0 : 1,
  limit_v: limit,
  planned_s: 3600,
});
const RUN: Run = {
  id: 7,
  program: "cycle",
  state: "running",
  asked_at: "2026-03-14T19:00:00Z",
  by: "Tamsin",
  began_at: "2026-03-14T19:00:01Z",
  due_at: null,
  ended_at: null,
  end_said: null,
  not_kept_said: null,
  log_id: null,
  is_settled: false,
  rows: 12,
  stages: [stage("charge", 4.2), stage("rest", 0), stage("discharge", 3)],
  stage: 0,
  time_s: 30,
  voltage_v: 3.9,
  current_a: 1,
  cell_degc: 21,
  in_mah: 100,
  out_mah: 0,
  believed_mah: 2600,
  left: { least_s: 3000, likely_s: 3600, most_s: 5000 },
};
const told = (more: Partial<Reading>): Reading => ({
  s: 1,
  v: 4.01,
  i: 0.9,
  r: 7,
  t: 60,
  g: 0,
  in: 120,
  out: 0,
  ...more,
});

describe("what a run is doing", () => {
  test.each([
    [{ g: 0 }, "charges to 4.20 V"],
    [{ g: 1 }, "rests"],
    [{ g: 2 }, "discharges to 3.00 V"],
    [{ g: 3 }, "Done"],
  ])("by the stage that the stream tells: %o", (more, words) => {
    expect(doing(RUN, told(more))).toBe(words);
  });

  test("a reading of another run says nothing about this one", () => {
    expect(doing(RUN, told({ r: 8, g: 2 }))).toBe("charges to 4.20 V");
  });

  test("one that is over says how it ended", () => {
    expect(doing({ ...RUN, state: "stopped" }, told({}))).toBe("Stopped");
  });
});

describe("figures as they are now", () => {
  test("the stream goes before what was kept", () => {
    expect(now(RUN, told({ left: [1, 2, 3] }))).toMatchObject({
      volts: 4.01,
      amperes: 0.9,
      into: 120,
      left: [1, 2, 3],
    });
  });

  test("without it what was kept is told", () => {
    expect(now(RUN, undefined)).toMatchObject({ volts: 3.9, degrees: 21, into: 100, left: [3000, 3600, 5000] });
  });

  test("an empty slot has none", () => {
    expect(now(null, undefined)).toMatchObject({ volts: null, amperes: null, left: null });
  });
});

describe("when it is done", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.setSystemTime(new Date(2026, 2, 14, 19, 0));
  });
  afterEach(() => {
    vi.useRealTimers();
  });

  test("stands with its band", () => {
    expect(doneAt([3000, 3600, 5400])).toMatch(/0?8:00/);
    expect(doneBetween([3000, 3600, 5400])).toMatch(/0?7:50.* and 0?8:30/);
  });

  test("within a minute and a half is any moment", () => {
    expect(doneAt([10, 60, 120])).toBe("any moment");
  });
});
