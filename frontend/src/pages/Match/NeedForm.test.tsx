import { screen } from "@testing-library/react";
import { beforeEach, expect, test, vi } from "vitest";
import { Problem } from "../../api/client";
import { press, serve, show, type } from "../../testing/page";
import { NeedForm } from "./NeedForm";

const onLook = vi.fn();
beforeEach(() => {
  onLook.mockReset();
  serve({
    "GET /api/catalogue": { turned_away: [{ code: "e-bike", name: "Electric bicycle", instead: "Ask a shop." }] },
  });
});
const form = (problem: Problem | null = null) => show(<NeedForm onLook={onLook} isLooking={false} problem={problem} />);

test("a device is asked for by its volts, load and hours", () => {
  form();
  type("Runs from", "5");
  type("up to", "8.4");
  type("Power", "3");
  type("For", "8");
  press("What would do?");
  expect(onLook).toHaveBeenCalledWith({
    least_v: "5",
    most_v: "8.4",
    load: "3",
    hours: "8",
    charger_v: "",
    out_v: "",
    converter: null,
    replaced: null,
    count: null,
    load_kind: "power",
    room_mm: ["", "", ""],
    device: null,
  });
});

test("a room is three sides", () => {
  form();
  type("Long", "70");
  type("High", "20");
  press("What would do?");
  expect(onLook.mock.calls[0]?.[0].room_mm).toEqual(["70", "", "20"]);
});

test.each([
  ["out_v", "Runs from"],
  ["load", "Power"],
])("what is refused of %s stands beside it where it is shown", (field, shownField) => {
  form(new Problem("bad-input", "That cannot be.", field));
  expect(screen.queryAllByText("That cannot be.")).toHaveLength(field === "load" ? 1 : 0);
  expect(screen.getByLabelText(shownField)).toBeTruthy();
});

test("a room too small is said below its sides", () => {
  form(new Problem("bad-input", "No cell fits.", "room"));
  expect(screen.getByRole("alert").textContent).toBe("No cell fits.");
});
