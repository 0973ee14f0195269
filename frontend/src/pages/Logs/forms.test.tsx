import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import type { Log } from "../../api/measuring";
import { press, refusal, serve, show, type } from "../../testing/page";
import { answerOf, cellOf } from "../../testing/samples";
import { AnswerForm } from "./AnswerForm";
import { KeepForm } from "./KeepForm";

type Test = Schemas["LogTestOut"];
const RUN = {
  discharge_capacity_mah: 2291,
  charge_capacity_mah: null,
  discharge_complete: true,
  cut_off_v: 2.8,
  mean_current_ma: 500,
} as Test;
const log = (more: Partial<Log> = {}): Log =>
  ({
    id: 4,
    state: "read",
    cell: "1042",
    kept_tests: [],
    tests: [RUN],
    remarks: [],
    refusal: null,
    read_as: null,
    said: { columns: null, resistor_ohm: null, every_s: null },
    preview: ["t,U,I", "0,4.1,0.5", "1,4.0,0.5", "2,3.9,0.5", "3,3.8,0.5"],
    ...more,
  }) as Log;
const keep = (more: Partial<Log> = {}, run: Partial<Test> = {}) =>
  show(<KeepForm log={log(more)} test={0} measured={{ ...RUN, ...run }} />);
const KEEP = "POST /api/logs/4/readings";

test("a run is kept once somebody said whether it began full", async () => {
  const sent = serve({ [KEEP]: answerOf(cellOf()) });
  keep();
  expect(screen.getByText("First say whether it was full.")).toBeTruthy();
  fireEvent.click(screen.getByRole("radio", { name: "Yes, to the end" }));
  press("Keep it");
  expect(await screen.findByText("Kept for cell 1042.")).toBeTruthy();
  expect(sent[0]?.body).toEqual({ cell: "1042", test: 0, confirmed: false, started_full: true });
});

test("that it was not full is told what it means", () => {
  keep();
  fireEvent.click(screen.getByRole("radio", { name: "No" }));
  expect(screen.getByText(/graded by none of it/)).toBeTruthy();
});

test("a charge in the same log answers for itself", async () => {
  const sent = serve({ [KEEP]: answerOf(cellOf()) });
  keep({}, { charge_capacity_mah: 2350 });
  expect(screen.queryByText("Was it full before this run?")).toBeNull();
  press("Keep it");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toMatchObject({ started_full: null });
});

test("an odd figure is kept when it is sent once more", async () => {
  const answers = [refusal({ code: "odd-input", text: "3100 mAh is more than it was rated." }), answerOf(cellOf())];
  const sent = serve({ [KEEP]: () => answers.shift() });
  keep({}, { charge_capacity_mah: 2350 });
  press("Keep it");
  fireEvent.click(await screen.findByRole("button", { name: "Keep it all the same" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ confirmed: true });
});

test("what is kept already is not kept twice", () => {
  keep({ kept_tests: [0] });
  expect(screen.queryByRole("button", { name: "Keep it" })).toBeNull();
  expect(screen.getByText("This is kept for cell")).toBeTruthy();
});

const ASKS = log({
  state: "asks",
  remarks: [
    {
      code: "unit-guessed",
      text: "Current runs up to 500: taken as mA.",
      line: 1,
      column: "I",
      asks: "current_unit",
      choices: ["mA", "A"],
    },
  ],
});

test("a guess is shown with what it makes, and confirmed with one press", async () => {
  const sent = serve({ "POST /api/logs/4/answers": ASKS });
  const onDone = vi.fn();
  show(<AnswerForm log={ASKS} onDone={onDone} />);
  expect(screen.getByText("Current runs up to 500: taken as mA.")).toBeTruthy();
  expect(screen.getByText("2291 mAh at 500 mA down to 2.80 V")).toBeTruthy();
  press("Yes, read it so");
  await waitFor(() => expect(onDone).toHaveBeenCalled());
  expect(sent[0]?.body).toMatchObject({ current_unit: "mA", remember: false, columns: null });
});

test("nothing is remembered that nobody asked for", async () => {
  const sent = serve({ "POST /api/logs/4/answers": ASKS });
  show(<AnswerForm log={ASKS} onDone={() => {}} />);
  fireEvent.click(screen.getByRole("checkbox"));
  press("Read it as said here");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ remember: true }));
});

const refusedFor = (code: string) =>
  log({ state: "refused", tests: [], refusal: { code, text: "It has no current.", line: null, column: null } });

test("a log without current asks for its resistor, and says at it what cannot be", async () => {
  serve({
    "POST /api/logs/4/answers": refusal({ code: "bad-input", text: "It is above zero.", field: "resistor_ohm" }),
  });
  show(<AnswerForm log={refusedFor("no-current")} onDone={() => {}} />);
  type("It was emptied through", "0");
  press("Read it so");
  expect(await screen.findAllByText("It is above zero.")).toHaveLength(1);
});

test("a log without time asks for its pace", async () => {
  const sent = serve({ "POST /api/logs/4/answers": ASKS });
  show(<AnswerForm log={refusedFor("no-time")} onDone={() => {}} />);
  type("From row to row", "2,5");
  press("Read it so");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ every_s: 2.5 }));
});

test("columns that were not recognised are said one by one, beside what stands in them", () => {
  show(<AnswerForm log={refusedFor("no-voltage")} onDone={() => {}} />);
  press("Say what each column is");
  expect(screen.getByText("0 1 2")).toBeTruthy();
  expect(screen.getByText(/4.1\s+4.0\s+3.9/)).toBeTruthy();
});
