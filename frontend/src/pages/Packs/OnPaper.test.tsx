import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "../../api/client";
import { press, refusal, serve, show, type } from "../../testing/page";
import { packOf } from "../../testing/samples";
import { endWords, linesOf, OnPaper } from "./OnPaper";

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
  final_v: 6.1,
  groups: [
    { final_v: 3.1, left_mah: 200, cells: [{ number: "C1", final_soc: 0.1, peak_a: 2.5, carries_a: 2.0 }] },
    { final_v: 3.0, left_mah: 10, cells: [{ number: "C2", final_soc: 0, peak_a: 1.5, carries_a: null }] },
  ],
  moments_h: [0, 1, 3.14],
  pack_v: [8.3, 7.4, 6.1],
  group_v: [
    [4.15, 3.7, 3.1],
    [4.15, 3.7, 3.0],
  ],
  remarks: ["By resistances that do not change."],
};

test("a load is run, and the hours with their band, what ends it and who carries too much are told", async () => {
  const sent = serve({ "POST /api/packs/P101/on-paper": paper });
  show(<OnPaper pack={packOf({})} />);
  type("What it has to carry: Power", "7");
  fireEvent.click(screen.getByRole("radio", { name: "As they lie" }));
  press("Run it on paper");
  expect(await screen.findByText("3.1 h")).toBeTruthy();
  expect(screen.getByText(/2.9 h to 3.3 h/)).toBeTruthy();
  expect(screen.getByText(/Group 2 comes to the house's cut-off of 3.00 V first/)).toBeTruthy();
  expect(screen.getByText(/C1: up to 2.5 A, may give 2.0 A/)).toBeTruthy();
  expect(sent[0]?.body).toEqual({ load_kind: "power", load: "7", starts_from: "as-they-lie" });
});

test("what cannot be told stands with the form, and what was typed stays", async () => {
  serve({
    "POST /api/packs/P101/on-paper": refusal({
      code: "charge-not-known",
      text: "Charge them to full.",
      field: "starts_from",
    }),
  });
  show(<OnPaper pack={packOf({})} />);
  type("What it has to carry: Power", "7");
  press("Run it on paper");
  await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("Charge them to full."));
  expect(screen.getByLabelText<HTMLInputElement>("What it has to carry: Power").value).toBe("7");
});

test.each([
  [{}, "Group 2 comes to the house's cut-off of 3.00 V first, and that ends the run."],
  [
    { hours: 0 },
    "Group 2 falls below the house's cut-off of 3.00 V as soon as the load is on. A smaller load, or more cells side by side.",
  ],
  [
    { ended_by: "load_not_carried" as const, ended_in: null, hours: 0 },
    "It cannot carry this load, not even for a moment. A smaller load, or more cells side by side.",
  ],
])("it says what ends it", (more, words) => {
  expect(endWords({ ...paper, ...more })).toBe(words);
});

test("of few groups each is drawn, of many the one that ends it and all as a band", () => {
  expect(linesOf(paper).map((line) => line.name)).toEqual(["Group 1", "Group 2, ends it"]);
  const many = { ...paper, group_v: [...Array(6)].map((_, index) => [4, 3.5 + index / 10]), ended_in: 1 };
  const lines = linesOf(many);
  expect(lines.map((line) => line.name)).toEqual(["Group 1, ends it", "All groups, in the mean"]);
  expect(lines[1]).toMatchObject({ low: [4, 3.5], high: [4, 4] });
  expect(lines[1]?.y[1]).toBeCloseTo(3.75);
});
