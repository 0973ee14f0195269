import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Entry } from "../../api/client";
import { button, press, refusal, serve, show, type } from "../../testing/page";
import { answerOf, cellOf } from "../../testing/samples";
import { CorrectForm } from "./CorrectForm";
import { IdentityForm } from "./Identity/IdentityForm";
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

const CATALOGUE = { models: [], chemistries: [], sizes: [] };
const FACTS = { "GET /api/catalogue": CATALOGUE };

test("of what a cell is only what was changed is sent, and an outline goes whole", async () => {
  const sent = serve({ ...FACTS, "PUT /api/cells/1042/facts": answerOf(cellOf()) });
  show(<IdentityForm cell={cellOf({ width_mm: 34, length_mm: 50, thickness_mm: null })} bench={null} />);
  expect((button("Keep what it is") as HTMLButtonElement).disabled).toBe(true);
  type("Thickness if flat", "6,2");
  type("Claimed", "2600");
  press("Keep what it is");
  expect(await screen.findByText("Kept, and judged anew.")).toBeTruthy();
  expect(sent[0]?.body).toEqual({
    seen_version: cellOf().version,
    siblings_too: false,
    confirmed: false,
    width_mm: 34,
    length_mm: 50,
    thickness_mm: 6.2,
    claimed_capacity_mah: 2600,
  });
});

test("what somebody else set meanwhile is told, and what was typed stays and can be kept all the same", async () => {
  const refused = { code: "changed-meanwhile", text: "Sam set it meanwhile." };
  const sent = serve({ ...FACTS, "PUT /api/cells/1042/facts": refusal(refused) });
  const { showAgain } = show(<IdentityForm cell={cellOf({ version: 3 })} bench={null} />);
  type("Mass", "45");
  press("Keep what it is");
  expect(await screen.findByText("Sam set it meanwhile.")).toBeTruthy();
  showAgain(<IdentityForm cell={cellOf({ version: 4 })} bench={null} />);
  press("Keep mine all the same");
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent.map((each) => each.body)).toEqual([
    expect.objectContaining({ seen_version: 3, mass_g: 45 }),
    expect.objectContaining({ seen_version: 4, mass_g: 45 }),
  ]);
});

test("a figure that the server refuses is refused at its field", async () => {
  const refused = { code: "too-high", text: "No such cell holds that.", field: "rated_capacity_mah" };
  serve({ ...FACTS, "PUT /api/cells/1042/facts": refusal(refused) });
  show(<IdentityForm cell={cellOf()} bench={null} />);
  type("Rated", "99000");
  press("Keep what it is");
  await waitFor(() => expect(screen.getByLabelText("Rated").getAttribute("aria-invalid")).toBe("true"));
  expect(screen.getAllByText("No such cell holds that.")).toHaveLength(1);
});
