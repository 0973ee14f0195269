import { beforeEach, expect, test, vi } from "vitest";
import type { QueuedEntry } from "./entries";

const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
const kept = (number: string) => json({ cell: { number }, entry_id: 1, gap_to_siblings_v: null });
const look: QueuedEntry = { to: "first-looks", body: { findings: [], value: "3.7", typed_at: "2026-03-02T18:00:00Z" } };

type Server = (number: string, key: string) => Response | "gone" | Promise<Response>;

/** The queue on a page that was just opened, before a server that answers as told. */
async function openPage(server: Server, person = "Ines") {
  vi.resetModules();
  const sent: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const number = request.url.split("/cells/")[1]?.split("/")[0] ?? "";
    const key = request.headers.get("Idempotency-Key") ?? "";
    sent.push(`${number} ${key}`);
    const answered = await server(number, key);
    if (answered === "gone") throw new TypeError("no way to the server");
    return answered;
  });
  const { queryClient, sessionQuery } = await import("./queries");
  queryClient.setQueryData(sessionQuery.queryKey, {
    person: { name: person, role: "volunteer" },
    csrf_token: "t",
    language: "en",
    is_language_chosen: false,
    languages: ["en"],
    print_language: "en",
  });
  return { sent, ...(await import("./waiting")) };
}

async function stored(): Promise<{ id: string; number: string; refused: unknown }[]> {
  return (await import("../offline/waitingStore")).storedEntries();
}

beforeEach(() => {
  localStorage.clear();
  // The storage of the browser goes by a clock of its own.
  vi.useFakeTimers({ shouldAdvanceTime: true, toFake: ["setTimeout", "clearTimeout"] });
});

test("what is typed is kept at once and sent behind, and its answer is known by its name", async () => {
  const page = await openPage(kept);
  page.keepAndSend("1007", look, "key-a");
  expect(page.sent).toEqual([]);
  await vi.waitFor(() => expect(page.sent).toEqual(["1007 key-a"]));
  await page.flush();
  expect(await stored()).toEqual([]);
});

test("entries of a cell go one after the other, other cells do not wait for them", async () => {
  let open = () => {};
  const held = new Promise<void>((resolve) => {
    open = resolve;
  });
  const page = await openPage(async (number, key) => {
    if (key === "a") await held;
    return kept(number);
  });
  for (const [number, key] of [
    ["1007", "a"],
    ["1007", "b"],
    ["1010", "c"],
  ] as const)
    page.keepAndSend(number, look, key);
  await vi.waitFor(() => expect(page.sent).toEqual(["1007 a", "1010 c"]));
  open();
  await vi.waitFor(() => expect(page.sent).toEqual(["1007 a", "1010 c", "1007 b"]));
});

test("what cannot be sent outlives the page and is sent in its order with its own key", async () => {
  const without = await openPage(() => "gone");
  without.keepAndSend("1007", look, "key-a");
  without.keepAndSend("1010", look, "key-b");
  await vi.waitFor(async () => expect(await stored()).toHaveLength(2));
  const later = await openPage(kept);
  await later.flush();
  expect(later.sent).toEqual(["1007 key-a", "1010 key-b"]);
  expect(await stored()).toEqual([]);
});

test("a refusal holds up its own cell only and stays until somebody decides", async () => {
  const without = await openPage(() => "gone");
  for (const [number, key] of [
    ["1007", "a"],
    ["1007", "b"],
    ["1010", "c"],
  ] as const)
    without.keepAndSend(number, look, key);
  await vi.waitFor(async () => expect(await stored()).toHaveLength(3));
  const refusing = await openPage((number) =>
    number === "1007"
      ? json({ code: "danger", text: "is a hazard", field: null, suggestion: null }, 422)
      : kept(number),
  );
  await refusing.flush();
  expect(refusing.sent).toEqual(["1007 a", "1010 c"]);
  expect((await stored()).map((entry) => [entry.number, entry.refused !== null])).toEqual([
    ["1007", true],
    ["1007", false],
  ]);
  refusing.discard("a");
  await vi.waitFor(() => expect(refusing.sent).toContain("1007 b"));
});

test("somebody else's entries wait for them", async () => {
  const ines = await openPage(() => "gone");
  ines.keepAndSend("1007", look, "key-a");
  await vi.waitFor(() => expect(ines.sent).toHaveLength(1));
  const tamsin = await openPage(kept, "Tamsin");
  await tamsin.flush();
  expect(tamsin.sent).toEqual([]);
  expect(await stored()).toHaveLength(1);
});

test("a refused entry that was changed by whoever was asked is another request", async () => {
  const page = await openPage((number, key) =>
    key === "key-a"
      ? json({ code: "odd-input", text: "really?", field: "value", suggestion: null }, 422)
      : kept(number),
  );
  page.keepAndSend("1007", look, "key-a");
  await vi.waitFor(async () => expect((await stored())[0]?.refused).toMatchObject({ code: "odd-input" }));
  await page.sendChanged("key-a", { ...look, body: { ...look.body, confirmed: true } } as QueuedEntry);
  await page.flush();
  expect(page.sent).toHaveLength(2);
  expect(page.sent[1]).not.toBe("1007 key-a");
  expect(await stored()).toEqual([]);
});

test("what an older version kept is sent, and what is no entry breaks nothing", async () => {
  const old = { key: "key-a", person: "Ines", number: "1007", entry: look, typedAt: "", refused: null };
  localStorage.setItem("zembric-waiting-entries", JSON.stringify([null, 7, { key: "x" }, old]));
  const page = await openPage(kept);
  await page.flush();
  expect(page.sent).toEqual(["1007 key-a"]);
});

test("with the browser's storage full or forbidden an entry is sent all the same, and one that cannot be says to stay", async () => {
  const open = () => {
    throw new DOMException("forbidden", "SecurityError");
  };
  vi.stubGlobal("indexedDB", { open });
  const page = await openPage((number) => (number === "1010" ? "gone" : kept(number)));
  page.keepAndSend("1007", look, "key-a");
  page.keepAndSend("1010", look, "key-b");
  await vi.waitFor(() => expect(page.sent).toEqual(["1007 key-a", "1010 key-b"]));
  await page.flush();
  expect(page.sent).toEqual(["1007 key-a", "1010 key-b", "1010 key-b"]);
});

test("what another tab queued in the same moment is not written over", async () => {
  const here = await openPage(() => "gone");
  const there = await openPage(() => "gone");
  here.keepAndSend("1007", look, "key-a");
  there.keepAndSend("1010", look, "key-b");
  await vi.waitFor(async () => expect((await stored()).map((entry) => entry.number)).toEqual(["1007", "1010"]));
});

test("cells that were fetched at once stand as fetched as soon as that is kept, before the pack is read anew", async () => {
  const page = await openPage(() => json({ number: "P101" }));
  const { packQuery, queryClient } = await import("./queries");
  const { queryKey } = packQuery("P101");
  const line = (number: string) => ({ number, is_picked: false });
  queryClient.setQueryData(queryKey, { number: "P101", picks: [line("1007"), line("1008"), line("1009")] } as never);
  for (const cell of ["1007", "C1008"])
    page.keepAndSend(cell, { to: "picks", pack: "P101", body: { cell, back: false } });
  await page.flush();
  const picked = queryClient.getQueryData(queryKey)?.picks.filter((each) => each.is_picked);
  expect(picked?.map((each) => each.number)).toEqual(["1007", "1008"]);
});
