import { afterEach, expect, test, vi } from "vitest";
import { answer, api, loadSession, Problem } from "./client";

const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });

afterEach(() => vi.unstubAllGlobals());

function serve(...answers: (() => Response | Promise<Response>)[]) {
  const sent: Request[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push(request);
    const next = answers.shift();
    if (!next) throw new Error("one request too many");
    return next();
  });
  return sent;
}

const session = (token: string) => () => json({ person: null, csrf_token: token });
const shelve = () =>
  answer(() => api.POST("/api/cells/{number}/shelvings", { params: { path: { number: "1007" } }, body: {} }));

test("a refusal becomes a problem with its field and suggestion", async () => {
  serve(() => json({ code: "bad-input", text: "Was it 3.71 V?", field: "value", suggestion: "3.71" }, 422));
  await expect(shelve()).rejects.toMatchObject({
    code: "bad-input",
    message: "Was it 3.71 V?",
    field: "value",
    suggestion: "3.71",
  });
});

test("a lost connection is told as one", async () => {
  serve(() => Promise.reject(new TypeError("Failed to fetch")));
  await expect(shelve()).rejects.toMatchObject({ code: "offline" });
});

test("a page that is too old fetches a fresh token and sends again", async () => {
  const sent = serve(
    session("first"),
    () => json({ code: "stale-page", text: "too old" }, 400),
    session("second"),
    () => json({ entry_id: 7 }),
  );
  await loadSession();
  await expect(shelve()).resolves.toEqual({ entry_id: 7 });
  expect(
    sent.filter((request) => request.method === "POST").map((request) => request.headers.get("X-CSRFToken")),
  ).toEqual(["first", "second"]);
});

test("an answer that is no description of ours is a fault, not a crash", async () => {
  serve(() => new Response("<html>bad gateway</html>", { status: 502, headers: { "Content-Type": "text/html" } }));
  await expect(shelve()).rejects.toBeInstanceOf(Problem);
});
