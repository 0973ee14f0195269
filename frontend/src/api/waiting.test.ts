import { beforeEach, expect, test, vi } from "vitest";
import type { QueuedEntry } from "./entries";

const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
const kept = (number: string) => json({ cell: { number }, entry_id: 1, gap_to_siblings_v: null });
const look: QueuedEntry = { to: "first-looks", body: { findings: [], value: "3.7", typed_at: "2026-03-02T18:00:00Z" } };

type Server = (number: string, key: string) => Response | "gone";

/** The queue on a page that was just opened, before a server that answers as told. */
async function openPage(server: Server, person = "Ines") {
  vi.resetModules();
  const sent: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const number = request.url.split("/cells/")[1]?.split("/")[0] ?? "";
    const key = request.headers.get("Idempotency-Key") ?? "";
    sent.push(`${number} ${key}`);
    const answered = server(number, key);
    if (answered === "gone") throw new TypeError("no way to the server");
    return answered;
  });
  const { queryClient, sessionQuery } = await import("./queries");
  queryClient.setQueryData(sessionQuery.queryKey, { person: { name: person, role: "volunteer" }, csrf_token: "t" });
  return { sent, ...(await import("./waiting")) };
}

const stored = (): { number: string; refused: unknown }[] =>
  JSON.parse(localStorage.getItem("zembric-waiting-entries") ?? "[]");

beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers({ shouldAdvanceTime: true });
});

test("what the server takes at once does not wait", async () => {
  const page = await openPage(kept);
  expect((await page.sendOrWait("1007", look, "key-a"))?.cell.number).toBe("1007");
  expect(stored()).toEqual([]);
});

test("what cannot be sent outlives the page and is sent in its order with its own key", async () => {
  const without = await openPage(() => "gone");
  expect(await without.sendOrWait("1007", look, "key-a")).toBeNull();
  expect(await without.sendOrWait("1010", look, "key-b")).toBeNull();
  const later = await openPage(kept);
  await later.flush();
  expect(later.sent).toEqual(["1007 key-a", "1010 key-b"]);
  expect(stored()).toEqual([]);
});

test("a refusal holds up its own cell only and stays until somebody decides", async () => {
  const without = await openPage(() => "gone");
  for (const [number, key] of [
    ["1007", "a"],
    ["1007", "b"],
    ["1010", "c"],
  ] as const)
    await without.sendOrWait(number, look, key);
  const refusing = await openPage((number) =>
    number === "1007"
      ? json({ code: "danger", text: "is a hazard", field: null, suggestion: null }, 422)
      : kept(number),
  );
  await refusing.flush();
  expect(refusing.sent).toEqual(["1007 a", "1010 c"]);
  expect(stored().map((entry) => [entry.number, entry.refused !== null])).toEqual([
    ["1007", true],
    ["1007", false],
  ]);
  refusing.discard("a");
  await vi.waitFor(() => expect(refusing.sent).toContain("1007 b"));
});

test("somebody else's entries wait for them", async () => {
  const ines = await openPage(() => "gone");
  await ines.sendOrWait("1007", look, "key-a");
  const tamsin = await openPage(kept, "Tamsin");
  await tamsin.flush();
  expect(tamsin.sent).toEqual([]);
  expect(stored()).toHaveLength(1);
});

test("a refusal in front of somebody is told there and does not wait", async () => {
  const page = await openPage(() =>
    json({ code: "odd-input", text: "really?", field: "value", suggestion: null }, 422),
  );
  await expect(page.sendOrWait("1007", look, "key-a")).rejects.toMatchObject({ code: "odd-input" });
  expect(stored()).toEqual([]);
});

test("what stands in the store but is no entry breaks nothing", async () => {
  localStorage.setItem("zembric-waiting-entries", '[null, 7, {"key": "x"}]');
  const page = await openPage(kept);
  await page.flush();
  expect(page.sent).toEqual([]);
});

test("with the browser's storage full an entry is sent all the same, and one that cannot be says to stay", async () => {
  const full = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("no room", "QuotaExceededError");
  });
  const page = await openPage((number) => (number === "1010" ? "gone" : kept(number)));
  expect((await page.sendOrWait("1007", look, "key-a"))?.cell.number).toBe("1007");
  expect(await page.sendOrWait("1010", look, "key-b")).toBeNull();
  await page.flush();
  expect(page.sent).toEqual(["1007 key-a", "1010 key-b", "1010 key-b"]);
  full.mockRestore();
});

test("what another tab queued in the same moment is not written over", async () => {
  const here = await openPage(() => "gone");
  const there = await openPage(() => "gone");
  await Promise.all([here.sendOrWait("1007", look, "key-a"), there.sendOrWait("1010", look, "key-b")]);
  expect(stored().map((entry) => entry.number)).toEqual(["1007", "1010"]);
});
