import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "../../../api/client";
import { press, refusal, serve, show, type } from "../../../testing/page";
import { cellOf, packOf } from "../../../testing/samples";
import { CheckList } from "./CheckList";
import { PartsSheet } from "./PartsSheet";
import { RunSheet } from "./RunSheet";
import { endWords, lasting, linesOf } from "./run";

const cell = (number: string, more = {}) => ({
  number,
  capacity_mah: 2400,
  peak_a: 1.5,
  carries_a: 2,
  soc: [1, 0.5, 0.02],
  current_a: [1.5, 1.5, 1.5],
  ...more,
});
const paper: Schemas["OnPaperOut"] = {
  hours: 3.14,
  shortest_h: 2.9,
  longest_h: 3.3,
  ended_by: "group_cutoff",
  ended_in: 2,
  cutoff_v: 3,
  energy_wh: 21.4,
  charge_mah: 3000,
  mean_v: 7.2,
  heat_wh: 0.3,
  stranded_wh: 1.1,
  moments_h: [0, 1, 3.14],
  pack_v: [8.3, 7.4, 6.1],
  load_a: [1.5, 1.5, 1.5],
  groups: [
    { final_v: 3.1, left_mah: 200, volts: [4.15, 3.7, 3.1], cells: [cell("1001")] },
    { final_v: 3.0, left_mah: 10, volts: [4.15, 3.7, 3.0], cells: [cell("1002", { current_a: [-0.2, 1.5, 1.5] })] },
  ],
  left: [{ left_pct: 50, loaded_v: 7.4, resting_v: 7.5 }],
  remarks: ["By resistances that do not change."],
};
const line = (more: Partial<Schemas["CheckOut"]>): Schemas["CheckOut"] => ({
  id: "fuse",
  name: "The main fuse",
  state: "stop",
  worked: "There is none.",
  why: "It protects the wire.",
  value: null,
  limit: null,
  kind: null,
  mend: "A fuse at the plus.",
  may_be_waived: true,
  waiver: null,
  sum_name: null,
  sum_values: {},
  ...more,
});
const checks = (...lines: Schemas["CheckOut"][]): Schemas["ChecksOut"] => ({ lines, lapsed: [], run: paper });
const pack = packOf({
  state: "planned",
  version: 3,
  groups: [
    { cells: [cellOf({ number: "1001" })], capacity_mah: 2400, resistance_mohm: 40 },
    { cells: [cellOf({ number: "1002" })], capacity_mah: 2400, resistance_mohm: 40 },
  ],
  parts: [{ kind: "fuse", name: "Fuse 2 A", figures: { most_a: "2" }, part_id: null }],
});
const session = (role: "coordinator" | "volunteer") => ({ person: { id: 1, name: "Oona", role } });
const need = (key: string, more = {}) => ({
  key,
  unit: "A",
  meaning: "rated for",
  need: "positive",
  optional: false,
  choices: [],
  example: null,
  ...more,
});
const catalogue = {
  pack_parts: [
    { id: 7, kind: "switch", name: "Small switch", figures: { most_a: "3" }, note: "", is_active: true, version: 1 },
  ],
  parts_asked: [
    { kind: "fuse", name: "main fuse", several: false, needs: [need("most_a")] },
    { kind: "switch", name: "switch", several: true, needs: [need("most_a")] },
  ],
};

test("what stops a pack stands first with what would mend it, and what holds is folded away", () => {
  serve({ "GET /api/session": session("volunteer") });
  show(<CheckList pack={pack} checks={checks(line({}), line({ id: "lamp", name: "Its lamp", state: "holds" }))} />);
  expect(screen.getByRole("heading", { name: "1 check stops it." })).toBeTruthy();
  expect(screen.getByRole("listitem", { name: "The main fuse" }).textContent).toContain("A fuse at the plus.");
  expect(screen.queryByRole("listitem", { name: "Its lamp" })).toBeNull();
  press("1 line holds");
  expect(screen.getByRole("listitem", { name: "Its lamp" })).toBeTruthy();
});

test("a coordinator lets a check pass with a reason; what protects people has no such button", async () => {
  const sent = serve({ "GET /api/session": session("coordinator"), "POST /api/packs/P101/waivers": pack });
  const never = line({ id: "balance", name: "Balance", may_be_waived: false });
  show(<CheckList pack={pack} checks={checks(line({}), never)} />);
  fireEvent.click(await screen.findByRole("button", { name: "Let it pass, with a reason" }));
  type("Why may it pass: The main fuse", "the device has one of its own");
  press("Let it pass");
  await waitFor(() => expect(sent[0]?.body).toEqual({ check: "fuse", why: "the device has one of its own" }));
  expect(screen.getByText("Nobody lets this pass.")).toBeTruthy();
});

test("a waived check stops nothing and says who let it pass", () => {
  serve({ "GET /api/session": session("volunteer") });
  const waiver = {
    name: "The main fuse",
    finding: "There is none.",
    why: "one of its own",
    at: "2026-11-20T18:00:00Z",
    by: "Oona",
  };
  show(<CheckList pack={pack} checks={checks(line({ waiver }))} />);
  expect(screen.getByRole("heading", { name: "Nothing stops it." })).toBeTruthy();
  expect(screen.getByText(/Let pass by Oona/)).toBeTruthy();
});

test("a part goes in from the catalogue beside those that are there", async () => {
  const sent = serve({
    "GET /api/catalogue": catalogue,
    "GET /api/parts": { parts: [] },
    "PUT /api/packs/P101/parts": pack,
  });
  show(<PartsSheet pack={pack} />);
  fireEvent.click(await screen.findByRole("button", { name: "Another part" }));
  press("switch");
  type("Rated for", "4");
  press("Put it in");
  await waitFor(() =>
    expect(sent[0]?.body).toEqual({
      seen_version: 3,
      parts: [
        { kind: "fuse", name: "Fuse 2 A", figures: { most_a: "2" }, part_id: null },
        { kind: "switch", name: "", figures: { most_a: "4" }, part_id: null },
      ],
    }),
  );
});

test("a figure that cannot be is told at its field, and what was typed stays", async () => {
  serve({
    "GET /api/catalogue": catalogue,
    "GET /api/parts": { parts: [] },
    "PUT /api/packs/P101/parts": refusal({ code: "bad-input", text: "not a number", field: "most_a" }),
  });
  show(<PartsSheet pack={pack} />);
  fireEvent.click(await screen.findByRole("button", { name: /^Change/ }));
  type("Rated for", "two");
  press("Keep it");
  expect(await screen.findByText("not a number")).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>("Rated for").value).toBe("two");
});

test("the run is told with its band and its end, and another load beside it", async () => {
  const other = { ...checks(line({ id: "run-time", state: "holds" })), run: { ...paper, hours: 1.5 } };
  const sent = serve({ "POST /api/packs/P101/what-if": other });
  show(<RunSheet pack={pack} checks={checks(line({ id: "run-time", state: "holds" }))} />);
  expect(screen.getByText("3.1 h")).toBeTruthy();
  expect(screen.getByText(/2.9 h to 3.3 h/)).toBeTruthy();
  expect(screen.getByText(/Group 2 comes to the house's cut-off of 3.00 V first/)).toBeTruthy();
  press("What if: another load, another cell, one less");
  type("Another load", "9");
  expect(await screen.findByText("90 min instead of 3.1 h")).toBeTruthy();
  expect(sent[0]?.body).toEqual({
    starts_from: "full",
    load_kind: "power",
    load: "9",
    exchanges: {},
    colder_pct: 0,
    quick: true,
  });
});

test("what ends a run is said for each way it can end", () => {
  const said = (more: Partial<Schemas["OnPaperOut"]>) => endWords({ ...paper, ...more });
  expect(said({ ended_by: "load_not_carried", ended_in: null, hours: 0 })).toContain("not even for a moment");
  expect(said({ ended_by: "load_not_carried", ended_in: null })).toContain("more and more");
  expect(said({ ended_by: "pack_cutoff", ended_in: null })).toContain("below what the device works from");
  expect(said({ hours: 0 })).toContain("as soon as the load is on");
});

test("of many groups the one that ends the run stands before the band of all", () => {
  const many = { ...paper, groups: Array.from({ length: 8 }, () => paper.groups[0] as (typeof paper.groups)[number]) };
  expect(linesOf(many).map((each) => each.name)).toEqual(["Group 2, ends it", "All groups, in the mean"]);
  expect(linesOf(paper).map((each) => each.name)).toEqual(["Group 1", "Group 2, ends it"]);
});

test.each([
  [0.5, "30 min"],
  [9.44, "9.4 h"],
  [400, "400 h"],
  [1000, "6.0 weeks"],
])("%d hours are said as %s", (hours, words) => expect(lasting(hours)).toBe(words));
