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

test("what is refused of the load stands beside it", () => {
  form(new Problem("bad-input", "That cannot be.", "load"));
  expect(screen.getByLabelText("Power").getAttribute("aria-invalid")).toBe("true");
  expect(screen.getAllByText("That cannot be.")).toHaveLength(1);
});

test("what is refused of a field that is not shown is said all the same", () => {
  form(new Problem("bad-input", "That cannot be.", "out_v"));
  expect(screen.getByRole("alert").textContent).toBe("That cannot be.");
});

test("a room too small is said at its sides", () => {
  form(new Problem("bad-input", "No cell fits.", "room"));
  expect(screen.getByLabelText("Long").getAttribute("aria-invalid")).toBe("true");
  expect(screen.getByText("No cell fits.")).toBeTruthy();
});
