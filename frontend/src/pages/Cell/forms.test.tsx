import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Entry } from "../../api/client";
import { button, press, refusal, serve, show, type } from "../../testing/page";
import { answerOf, cellOf } from "../../testing/samples";
import { CorrectForm } from "./CorrectForm";
import { StrikeForm } from "./StrikeForm";
import { WhereForm } from "./WhereForm";

const READING = {
  id: 5,
  quantity: "voltage",
  method: "meter",
  unit: "V",
  voltage_state: "resting",
  complete: null,
  instrument: "M108",
  current_ma: null,
  cut_off_v: null,
} as Entry;
const RUN = {
  ...READING,
  quantity: "capacity",
  method: "tester",
  unit: "mAh",
  voltage_state: null,
  complete: true,
  current_ma: 500,
  cut_off_v: 2.8,
} as Entry;

test("an entry is struck out with a ground, and not before one is said", async () => {
  const sent = serve({ "POST /api/cells/1042/strikes": answerOf(cellOf()) });
  const onDone = vi.fn();
  show(<StrikeForm number="1042" entryId={5} onDone={onDone} />);
  expect(screen.getByText("First say why.")).toBeTruthy();
  type("Why is it struck out?", "meant for 1043");
  press("Strike it out");
  await waitFor(() => expect(onDone).toHaveBeenCalled());
  expect(sent[0]?.body).toEqual({ entry_id: 5, why: "meant for 1043" });
});

test("it can be left as it is", () => {
  const onDone = vi.fn();
  show(<StrikeForm number="1042" entryId={5} onDone={onDone} />);
  press("Leave it");
  expect(onDone).toHaveBeenCalledOnce();
});

test("what only a coordinator may strike out is said, and the ground stays", async () => {
  serve({ "POST /api/cells/1042/strikes": refusal({ code: "not-allowed", text: "A coordinator has to." }) });
  show(<StrikeForm number="1042" entryId={5} onDone={() => {}} />);
  type("Why is it struck out?", "a slip");
  press("Strike it out");
  expect(await screen.findByText("A coordinator has to.")).toBeTruthy();
  expect((screen.getByLabelText("Why is it struck out?") as HTMLInputElement).value).toBe("a slip");
});

test("a corrected voltage keeps its instrument and its state", async () => {
  const sent = serve({ "POST /api/cells/1042/corrections": answerOf(cellOf()) });
  show(<CorrectForm number="1042" entry={READING} onDone={() => {}} />);
  type("Right value", "3.71");
  type("Why", "read upside down");
  press("Keep the correction");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toMatchObject({
    entry_id: 5,
    why: "read upside down",
    reading: { quantity: "voltage", value: "3.71", state: "resting", instrument: "M108", confirmed: false },
  });
});

test("a run's correction says whether it was whole, and carries its current and cut-off", async () => {
  const sent = serve({ "POST /api/cells/1042/corrections": answerOf(cellOf()) });
  show(<CorrectForm number="1042" entry={RUN} onDone={() => {}} />);
  fireEvent.click(screen.getByRole("checkbox"));
  type("Right value", "2100");
  type("Why", "stopped early");
  press("Keep the correction");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toMatchObject({ reading: { complete: false, current_ma: "500", cut_off_v: "2.8" } });
});

test("an odd figure is asked about once, and then taken", async () => {
  const odd = refusal({ code: "odd-input", text: "2900 mAh is more than it was rated." });
  const answers = [odd, answerOf(cellOf())];
  const sent = serve({ "POST /api/cells/1042/corrections": () => answers.shift() });
  show(<CorrectForm number="1042" entry={RUN} onDone={() => {}} />);
  type("Right value", "2900");
  type("Why", "typed wrong");
  press("Keep the correction");
  fireEvent.click(await screen.findByRole("button", { name: "It is right all the same" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent.map((each) => (each.body as { reading: { confirmed: boolean } }).reading.confirmed)).toEqual([
    false,
    true,
  ]);
});

test("a cell is laid into a place by its number, and the field is empty again", async () => {
  const sent = serve({ "POST /api/cells/1042/moves": answerOf(cellOf()) });
  show(<WhereForm cell={cellOf()} />);
  expect((button("Move it there") as HTMLButtonElement).disabled).toBe(true);
  type("Lies now in", "X117");
  press("Move it there");
  await waitFor(() => expect((screen.getByLabelText("Lies now in") as HTMLInputElement).value).toBe(""));
  expect(sent[0]?.body).toEqual({ place: "X117", slot: null });
});

test("a device that takes it as it is is named, and a refusal stands beside that", async () => {
  serve({ "POST /api/cells/1042/uses": refusal({ code: "danger", text: "1042 is out: no device.", field: "device" }) });
  show(<WhereForm cell={cellOf()} />);
  type("Or works on in a device", "reading lamp");
  press("Put into use");
  expect(await screen.findByText("1042 is out: no device.")).toBeTruthy();
  expect((screen.getByLabelText("Or works on in a device") as HTMLInputElement).value).toBe("reading lamp");
});
