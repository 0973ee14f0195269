import { screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { Problem } from "../../api/client";
import { press, refusal, serve, show, type } from "../../testing/page";
import { packOf } from "../../testing/samples";
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
  type(/How somebody is reached/, "Ada, flat 3");
  press("Give it out");
  expect(onGive).toHaveBeenCalledWith({ given_to: "Ada, flat 3", job: "" });
});

test.each([
  [new Problem("bad-input", "Say who gets it.", "given_to"), 1],
  [new Problem("conflict", "Its cells do not allow it."), 0],
])("of what is refused only who gets it is said here: the rest stands above", (problem, times) => {
  show(<GiveOut onGive={() => {}} isSending={false} problem={problem} />);
  expect(screen.queryAllByText(problem.message)).toHaveLength(times);
});
