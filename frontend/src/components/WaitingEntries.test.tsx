import { act, screen, waitFor } from "@testing-library/react";
import { beforeEach, expect, test } from "vitest";
import { queryClient, sessionQuery } from "../api/queries";
import { keepAndSend } from "../api/waiting";
import { storedEntries } from "../offline/waitingStore";
import { press, refusal, serve, show } from "../testing/page";
import { answerOf, cellOf } from "../testing/samples";
import { WaitingEntries } from "./WaitingEntries";

const TAMSIN = {
  person: { name: "Tamsin", role: "volunteer" as const },
  csrf_token: "t",
  language: "en",
  is_language_chosen: false,
  languages: ["en"],
  print_language: "en",
};
const reading = (value: string, more = {}) =>
  ({
    to: "readings",
    body: { quantity: "voltage", value, method: "meter", typed_at: "2026-11-20T18:30:00Z", ...more },
  }) as const;
const KEPT = answerOf(cellOf());
const PATH = "POST /api/cells/1042/readings";
const bodies = (sent: { body: unknown }[]) => sent.map((each) => each.body as Record<string, unknown>);

beforeEach(() => {
  serve({ "GET /api/session": TAMSIN });
  queryClient.setQueryData(sessionQuery.queryKey, TAMSIN);
});

const type = (value: string) => act(async () => void keepAndSend("1042", reading(value)));

test("what is merely on its way is not told on top of the page", async () => {
  const sent = serve({ [PATH]: KEPT });
  show(<WaitingEntries />);
  await type("3.71");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(screen.queryByLabelText("Not on the server yet")).toBeNull();
});

test("what was refused stands there with its ground until somebody lets it go", async () => {
  serve({ [PATH]: refusal({ code: "danger", text: "1042 is a hazard." }) });
  show(<WaitingEntries />);
  await type("3.71");
  expect(await screen.findByText(/was not taken. 1042 is a hazard./)).toBeTruthy();
  press("Let it go");
  await waitFor(() => expect(screen.queryByText(/1042 is a hazard/)).toBeNull());
  expect(await storedEntries()).toEqual([]);
});

test("a likely slip is taken mended with one press, as another request", async () => {
  const answers = [refusal({ code: "bad-input", text: "371 V cannot be.", field: "value", suggestion: "3.71" }), KEPT];
  const sent = serve({ [PATH]: () => answers.shift() });
  show(<WaitingEntries />);
  await type("371");
  await screen.findByText(/371 V cannot be/);
  press("Take 3.71");
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(bodies(sent)[1]?.value).toBe("3.71");
  expect(sent[0]?.key).not.toBe(sent[1]?.key);
});

test("an odd figure that is right is sent once more as confirmed", async () => {
  const answers = [refusal({ code: "odd-input", text: "2.9 V after 3.7 V." }), KEPT];
  const sent = serve({ [PATH]: () => answers.shift() });
  show(<WaitingEntries />);
  await type("2.9");
  await screen.findByText(/2.9 V after 3.7 V/);
  press("It is right, keep it");
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(bodies(sent)[1]?.confirmed).toBe(true);
});

test("a voltage below zero asks for its cause", async () => {
  const answers = [refusal({ code: "negative-voltage", text: "The leads are swapped?" }), KEPT];
  const sent = serve({ [PATH]: () => answers.shift() });
  show(<WaitingEntries />);
  await type("-3.71");
  await screen.findByText(/The leads are swapped\?/);
  press("Its can is plus");
  await waitFor(() => expect(bodies(sent)[1]?.turned).toBe("can-is-plus"));
});

test("without the server it says how many wait, and tries when it is told to", async () => {
  const answers: unknown[] = [refusal({ code: "unavailable", text: "The server does not answer." }), KEPT];
  const sent = serve({ [PATH]: () => answers.shift() });
  show(<WaitingEntries />);
  await type("3.71");
  expect(await screen.findByText("1 entry waits in this browser")).toBeTruthy();
  press("Try now");
  await waitFor(() => expect(screen.queryByText("1 entry waits in this browser")).toBeNull());
  expect(sent).toHaveLength(2);
  expect(sent[0]?.key).toBe(sent[1]?.key);
});
