import { expect, test } from "vitest";
import type { Entry, Story } from "../../api/client";
import { pointsOf } from "./timeline";

const at = (minute: number) => new Date(Date.UTC(2026, 2, 2, 18, minute)).toISOString();

function entry(id: number, more: Partial<Entry>): Entry {
  const nothing = {
    supersedes_id: null,
    voltage_state: null,
    as_typed: null,
    why: null,
    findings: null,
    quantity: null,
    value: null,
    unit: null,
    method: null,
    standard_u: null,
    current_ma: null,
    cut_off_v: null,
    complete: null,
    step: null,
    details: null,
    worked: null,
    notes: null,
    cell_degc: null,
    bench_degc: null,
    warmth: null,
    instrument: null,
    log_id: null,
  };
  return { id, kind: "reading", at: at(id), recorded_at: at(id), by: "Ines", state: "counts", ...nothing, ...more };
}

function story(more: Partial<Story>): Story {
  return {
    cell: { number: "1007", donor_number: "D101" } as Story["cell"],
    entries: [],
    judgements: [],
    happenings: [],
    siblings: [],
    gap_to_siblings_v: null,
    repeats: { runs: [], disagreement: null, reference_mah: null, reference_text: null },
    ...more,
  };
}

const voltage = (id: number, value: number, more: Partial<Entry> = {}) =>
  entry(id, { quantity: "voltage", value, unit: "V", method: "meter", standard_u: 0.003, ...more });
const judgement = (minute: number, grade: "A" | "not-yet") => ({
  at: at(minute),
  grade,
  sure: null,
  next_step: "inspect" as const,
  rule_set_version: 1,
});

test("entries, moves and changes of grade stand in order of time", () => {
  const points = pointsOf(
    story({
      entries: [entry(1, { kind: "inspection", findings: ["torn-wrap"] }), voltage(3, 3.71)],
      happenings: [{ at: at(2), what: "moved", by: "Ines", details: { place: "Shelf box 1" }, why: null }],
      judgements: [judgement(0, "not-yet"), judgement(1, "not-yet"), judgement(3, "A")],
    }),
  );
  expect(points.map((point) => point.title)).toEqual([
    "Numbered 1007",
    "Found: torn wrap",
    "Moved to Shelf box 1",
    "Resting voltage 3.71 V",
    "Judged: Strong",
  ]);
});

test("what the record says about entries is not told twice, and withdrawals show on what they withdrew", () => {
  const points = pointsOf(
    story({
      entries: [voltage(1, 1.2, { state: "withdrawn" }), entry(2, { kind: "withdrawal", supersedes_id: 1 })],
      happenings: [{ at: at(1), what: "reading", by: "Ines", details: {}, why: null }],
    }),
  );
  expect(points.map((point) => [point.title, point.state])).toEqual([["Resting voltage 1.20 V", "withdrawn"]]);
});

test("a capacity carries its conditions, and one that was cut short says so", () => {
  const [point] = pointsOf(
    story({
      entries: [
        entry(1, {
          quantity: "capacity",
          value: 1500,
          unit: "mAh",
          method: "tester",
          standard_u: 26,
          current_ma: 1000,
          cut_off_v: 3,
          complete: false,
        }),
      ],
    }),
  );
  expect(point?.detail).toBe("tester, 1000 mA, to 3.0 V, not complete, so not graded, ± 26 mAh");
});

test("a voltage that was not at rest says so, and what was typed as a range stands as it was said", () => {
  const points = pointsOf(
    story({
      entries: [
        voltage(1, 4.15, { voltage_state: "off-charger" }),
        voltage(2, 3.7, { voltage_state: "resting", as_typed: "3.6 to 3.8" }),
      ],
    }),
  );
  expect(points.map((point) => [point.title, point.detail])).toEqual([
    ["Voltage, just off the charger, 4.15 V", "meter, ± 0.003 V"],
    ["Resting voltage 3.70 V", "meter, at rest, typed “3.6 to 3.8”, ± 0.003 V"],
  ]);
});

test.each([
  ["recovery-started", { current_ma: 130, found_v: 2.3, cell_degc: null }, "Recovery started with 130 mA"],
  ["recovery-check", { value_v: 2.68, cell_degc: null, feels_warm: false }, "2.68 V under recovery"],
  ["recovery-check", { value_v: 2.68, cell_degc: null, feels_warm: true }, "2.68 V under recovery, warm"],
  ["recovery", { outcome: "passed" }, "Recovered"],
  ["recovery", { outcome: "failed" }, "Recovery failed"],
  ["second-look", { sibling: "1042", findings: ["leaking"] }, "Its sibling 1042 was a hazard: look again"],
  ["second-look", { sibling: "1042", near: "pack", findings: [] }, "Of the same pack, 1042 was a hazard: look again"],
  ["second-look", { brother: "1042", findings: ["hot"] }, "Its sibling 1042 was a hazard: look again"],
  ["came-back", { source: "pack" }, "Came back out of a pack: look and measure first"],
] as const)("a step %s is told in words", (step, details, title) => {
  const told = { ...details } as Entry["details"];
  expect(pointsOf(story({ entries: [entry(1, { kind: "step", step, details: told })] }))[0]?.title).toBe(title);
});

test.each([
  ["put-into-use", { device: "reading lamp" }, "In use in reading lamp"],
  ["label-printed-again", { layout: "a4-65" }, "Label printed again"],
  ["from-list", { label: "A1" }, "Taken in from a list as A1"],
  ["from-list", { label: null }, "Taken in from a list"],
  ["photo-added", { photo: 1 }, "Photo taken"],
] as const)("that it was %s is told in words", (what, details, title) => {
  const happening = { at: at(2), what, by: "Ines", details, why: null };
  expect(pointsOf(story({ happenings: [happening] }))[0]?.title).toBe(title);
});
