import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { queryClient, sessionQuery, trayQuery } from "../../api/queries";
import { address, press, refusal, serve, show, type } from "../../testing/page";
import { answerOf, cellOf, placeOf } from "../../testing/samples";
import { TrayPass } from "./TrayPass";

const TAMSIN = {
  person: { name: "Tamsin", role: "volunteer" as const },
  csrf_token: "t",
  language: "en",
  is_language_chosen: false,
  languages: ["en"],
  print_language: "en",
};
const raw = (number: string, slot: number, more = {}) =>
  cellOf({ number, slot, grade: "not-yet", step: "inspect", resting_voltage_v: null, ...more });
const each = (
  number: string,
  slot: number,
  more: Partial<Schemas["TrayOut"]["cells"][number]> = {},
): Schemas["TrayOut"]["cells"][number] => ({
  cell: raw(number, slot),
  must_look: true,
  needs_voltage: true,
  is_one_pack: true,
  prompts: [],
  ...more,
});
const pass = (...cells: Schemas["TrayOut"]["cells"]): Schemas["TrayOut"] => ({
  tray: placeOf({ id: 3, number: "T109", name: "Tray 1", kind: "tray", rows: 1, columns: 3, cursor_slot: 1 }),
  cells,
  untaped: [],
});
const THREE = pass(each("1001", 1), each("1012", 2), each("1023", 3));
const looked = (number: string, volts: number) =>
  answerOf(raw(number, 0, { step: "charge", resting_voltage_v: volts }));
const at = (number: string) => `POST /api/cells/${number}/first-looks`;
const enter = (label: string | RegExp = "Resting voltage") =>
  fireEvent.keyDown(screen.getByLabelText(label), { key: "Enter" });
const here = () => document.querySelector("[aria-current=location]")?.textContent;

// happy-dom scrolls nothing.
beforeEach(() => {
  Element.prototype.scrollIntoView = vi.fn();
  serve({ "GET /api/session": TAMSIN });
  queryClient.setQueryData(sessionQuery.queryKey, TAMSIN);
});
const tray = (of = THREE, search = "") => show(<TrayPass pass={of} asOf={Date.now()} />, `/trays/T109${search}`);

test("Enter keeps look and voltage, and goes on before the server has answered", async () => {
  const sent = serve({ [at("1001")]: looked("1001", 3.71) });
  tray();
  type("Resting voltage", "3.71");
  enter();
  expect(here()).toContain("1012");
  expect((screen.getByLabelText("Resting voltage") as HTMLInputElement).value).toBe("");
  await waitFor(() => expect(screen.getByText("3.71 V, kept.", { exact: false })).toBeTruthy());
  expect(sent[0]?.body).toMatchObject({ findings: [], value: "3.71", confirmed: false });
});

test("each voltage lies on its own cell, whatever comes back when", async () => {
  const sent = serve({
    [at("1001")]: looked("1001", 3.7),
    [at("1012")]: looked("1012", 3.8),
    [at("1023")]: looked("1023", 3.9),
  });
  tray();
  for (const volts of ["3.7", "3.8", "3.9"]) {
    type("Resting voltage", volts);
    enter();
  }
  await waitFor(() => expect(sent).toHaveLength(3));
  expect(sent.map((one) => [one.path, (one.body as { value: string }).value])).toEqual([
    ["/api/cells/1001/first-looks", "3.7"],
    ["/api/cells/1012/first-looks", "3.8"],
    ["/api/cells/1023/first-looks", "3.9"],
  ]);
});

test("Enter with nothing typed keeps nothing", () => {
  const sent = serve({});
  tray();
  enter();
  expect(here()).toContain("1001");
  expect(sent).toEqual([]);
});

test("a slip comes back on top, is taken mended with one press, and moves no hands", async () => {
  const answers = [
    refusal({ code: "bad-input", text: "371 V cannot be.", field: "value", suggestion: "3.71" }),
    looked("1001", 3.71),
  ];
  const sent = serve({ [at("1001")]: () => answers.shift() });
  tray();
  type("Resting voltage", "371");
  enter();
  expect(await screen.findByText(/371 V cannot be/)).toBeTruthy();
  expect(here()).toContain("1012");
  press("Take 3.71");
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ value: "3.71" });
});

test("a danger takes the voltage's field away, and is asked about before Enter keeps it", async () => {
  const sent = serve({ [at("1001")]: answerOf(raw("1001", 1, { step: "fire-safe-box", grade: "out" })) });
  tray();
  fireEvent.keyDown(screen.getByLabelText("Resting voltage"), { key: "s" });
  expect(screen.queryByLabelText("Resting voltage")).toBeNull();
  const form = screen
    .getByRole("button", { name: "Dangerous: into the fire-safe box" })
    .closest("div[tabindex]") as HTMLElement;
  fireEvent.keyDown(form, { key: "Enter" });
  expect(screen.getByText(/Enter again, and it goes into the fire-safe box/)).toBeTruthy();
  expect(sent).toEqual([]);
  fireEvent.keyDown(form, { key: "Enter" });
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ findings: ["swollen"], value: null }));
});

test("arrows walk without keeping, and a tapped place is gone to", () => {
  tray();
  fireEvent.keyDown(screen.getByLabelText("Resting voltage"), { key: "ArrowDown" });
  expect(here()).toContain("1012");
  fireEvent.keyDown(screen.getByLabelText("Resting voltage"), { key: "ArrowUp" });
  fireEvent.keyDown(screen.getByLabelText("Resting voltage"), { key: "ArrowUp" });
  expect(here()).toContain("1023");
  fireEvent.click(within(screen.getByRole("group", { name: "Tray 1" })).getByRole("button", { name: /1001/ }));
  expect(here()).toContain("1001");
});

test("a cell can be looked at only, without a voltage", async () => {
  const sent = serve({ [at("1001")]: answerOf(raw("1001", 1, { step: "measure-voltage" })) });
  tray();
  press("Only looked at");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ value: null, findings: [] }));
});

test("a label that is scanned jumps to its cell, one from elsewhere to its page", async () => {
  serve({
    "GET /api/find?text=C1023&utc_offset_min=0": { thing: "cell", number: "1023" },
    "GET /api/find?text=D101&utc_offset_min=0": { thing: "donor", number: "D101" },
  });
  tray();
  const scan = (text: string) => {
    for (const key of [...text, "Enter"]) fireEvent.keyDown(screen.getByLabelText("Resting voltage"), { key });
  };
  scan("C1023");
  await waitFor(() => expect(here()).toContain("1023"));
  scan("D101");
  await waitFor(() => expect(address()).toBe("/donors/D101"));
});

test("a pass that is asked for a donor starts at its cells", () => {
  tray(pass(each("1001", 1), each("1012", 2, { cell: raw("1012", 2, { donor_number: "D102" }) })), "?donor=D102");
  expect(here()).toContain("1012");
});

test("what is done already is shown as measured, and the last place says that all are", () => {
  tray(
    pass(
      each("1001", 1, {
        must_look: false,
        needs_voltage: false,
        cell: raw("1001", 1, { step: "charge", resting_voltage_v: 3.71 }),
      }),
    ),
  );
  expect(screen.getByText("Measured already: 3.71 V.")).toBeTruthy();
  expect(screen.getByText("Every cell of this tray was looked at and measured.")).toBeTruthy();
});

test("a cell that was laid elsewhere meanwhile leaves a way on, and what is typed then goes nowhere", () => {
  const { showAgain } = tray();
  type("Resting voltage", "3.7");
  showAgain(<TrayPass pass={pass(each("1012", 2), each("1023", 3))} asOf={Date.now()} />);
  expect(screen.queryByLabelText("Resting voltage")).toBeNull();
  press("Go on with place 2");
  expect(here()).toContain("1012");
  expect((screen.getByLabelText("Resting voltage") as HTMLInputElement).value).toBe("");
});

test("a tray that was asked for before an answer came is older than that answer, however late it comes", async () => {
  vi.useFakeTimers({ now: 1000, toFake: ["Date"] });
  serve({
    "GET /api/trays/T109": () => {
      vi.setSystemTime(2000);
      return THREE;
    },
  });
  expect((await queryClient.fetchQuery(trayQuery("T109"))).askedAt).toBe(1000);
  vi.useRealTimers();
});
