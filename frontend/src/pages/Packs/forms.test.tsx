import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { Problem } from "../../api/client";
import { press, refusal, serve, show, type } from "../../testing/page";
import { packOf } from "../../testing/samples";
import { Commissioning } from "./Commissioning";
import { GiveOut } from "./GiveOut";
import { StopPack } from "./StopPack";

test("a pack is stopped by whoever says what is wrong with it", async () => {
  const sent = serve({ "POST /api/packs/P101/stops": packOf({}) });
  show(<StopPack pack={packOf({})} />);
  press("Something is wrong with it");
  type("What is wrong with it", "it swells");
  press("Stop this pack");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toEqual({ why: "it swells" });
});

test("a stop that says too little is asked for more, at its field", async () => {
  serve({
    "POST /api/packs/P101/stops": refusal({ code: "bad-input", text: "Say why, in a few words.", field: "why" }),
  });
  show(<StopPack pack={packOf({})} />);
  press("Something is wrong with it");
  type("What is wrong with it", "x");
  press("Stop this pack");
  expect(await screen.findByText("Say why, in a few words.")).toBeTruthy();
});

test("a pack goes to somebody who can be reached", () => {
  const onGive = vi.fn();
  show(<GiveOut onGive={onGive} isSending={false} problem={null} />);
  type(/Who gets it/, "Ada, flat 3");
  press("Give it out");
  expect(onGive).toHaveBeenCalledWith("Ada, flat 3");
});

test.each([
  [new Problem("bad-input", "Say who gets it.", "given_to"), 1],
  [new Problem("conflict", "Its cells do not allow it."), 0],
])("of what is refused only who gets it is said here: the rest stands above", (problem, times) => {
  show(<GiveOut onGive={() => {}} isSending={false} problem={problem} />);
  expect(screen.queryAllByText(problem.message)).toHaveLength(times);
});

test("every group is measured from minus on, and each point has to be seen", async () => {
  const sent = serve({ "POST /api/packs/P101/commissionings": packOf({}) });
  show(<Commissioning pack={packOf({ series: 3 })} />);
  ["3.81", "3.80", "3.82"].forEach((volts, index) => {
    type(`Group ${index + 1}`, volts);
  });
  fireEvent.click(screen.getByLabelText(/Plus and minus/));
  fireEvent.click(screen.getByLabelText(/Its charge stopped/));
  press("It passed");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toEqual({
    group_volts: ["3.81", "3.80", "3.82"],
    polarity_right: true,
    charge_stopped: true,
    load_held: false,
  });
});

test("a group outside the others is told, and nothing typed is gone", async () => {
  serve({ "POST /api/packs/P101/commissionings": refusal({ code: "danger", text: "Group 2 lies too far below." }) });
  show(<Commissioning pack={packOf({ series: 2 })} />);
  type("Group 2", "3.1");
  press("It passed");
  expect(await screen.findByText("Group 2 lies too far below.")).toBeTruthy();
  expect((screen.getByLabelText("Group 2") as HTMLInputElement).value).toBe("3.1");
});
