import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Cell = Schemas["CellOut"];
/** One page of cells. */
export type CellsShown = Schemas["CellPageOut"];
export type Entry = Schemas["EntryOut"];
export type Story = Schemas["StoryOut"];
export type Grade = Cell["grade"];
export type Step = Cell["step"];
export type Finding = Schemas["InspectionIn"]["findings"][number];
export type Family = NonNullable<Cell["family"]>;
export type Bench = Schemas["BenchOut"];
export type Donor = Schemas["DonorOut"];
export type Place = Schemas["PlaceOut"];
export type Catalogue = Schemas["CatalogueOut"];
export type Pack = Schemas["PackOut"];
export type Proposal = Schemas["ProposalOut"];
export type Session = Schemas["SessionOut"];

/** What the server, or the way to it, said no with. The text is for people. */
export class Problem extends Error {
  constructor(
    readonly code: string,
    text: string,
    readonly field: string | null = null,
    readonly suggestion: string | null = null,
    /** Ways round it: what the screen can do, and its words. */
    readonly ways: readonly Schemas["WayOut"][] = [],
  ) {
    super(text);
  }
}

const OFFLINE = "No connection. What you typed is still here and goes when the Wi-Fi is back.";
const SIGNED_OUT = "You were signed out meanwhile. Sign in again in a new tab; what you typed is still here.";
let csrfToken = "";
let clockAhead = 0;

// An entry at the bench must not hang on a Wi-Fi that swallows it; what is large may take its time.
const ENTRY_MOST_MS = 10_000;
const MOST_MS = 120_000;
const ENTRY = /\/api\/(cells\/[^/]+\/(?!photos)|packs\/[^/]+\/picks)/;
const isEntry = (request: Request) => request.method === "POST" && ENTRY.test(request.url);

export const api = createClient<paths>({
  baseUrl: "/",
  fetch: (request) =>
    globalThis.fetch(request, { signal: AbortSignal.timeout(isEntry(request) ? ENTRY_MOST_MS : MOST_MS) }),
});
const carryToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken);
  },
  onResponse({ response }) {
    const date = Date.parse(response.headers.get("Date") ?? "");
    // The header has whole seconds; rounded up, an entry that is sent at once is never dated before the one before it.
    if (!Number.isNaN(date)) clockAhead = date + 1000 - Date.now();
  },
};
api.use(carryToken);

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Runs a call and gives its data; everything else becomes a Problem. */
export async function answer<T>(call: () => Promise<Answer<T>>): Promise<T> {
  let result = await reach(call);
  if (isProblem(result.error) && result.error.code === "stale-page") {
    await loadSession();
    result = await reach(call);
  }
  if (result.data !== undefined) return result.data;
  const { error, response } = result;
  if (isProblem(error) && error.code === "not-signed-in") throw new Problem(error.code, SIGNED_OUT);
  if (isProblem(error)) throw new Problem(error.code, error.text, error.field, error.suggestion, error.ways);
  throw new Problem("fault", `The server answered with ${response.status}. Nothing was changed; try again.`);
}

/** By how many minutes the clock here is ahead of UTC, on a day as it is typed; now where it is none. */
export function utcOffsetMin(day?: string | null): number {
  const at = new Date(`${day}T00:00`);
  return -(Number.isNaN(at.getTime()) ? new Date() : at).getTimezoneOffset();
}

/** A key that nobody else has. Not by randomUUID: that is missing where the page comes by plain http from another computer. */
export function newKey(): string {
  return [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Headers of a write: sent twice with the same key it is done once. */
export const once = (key: string = newKey()) => ({ "Idempotency-Key": key });

/** Now by the server's clock, as far as it is known; a device that was off for months may be years behind. */
export const serverNow = (): string => new Date(Date.now() + clockAhead).toISOString();

/** Who is signed in; also fetches the token that every write carries. */
export async function loadSession(): Promise<Session> {
  return keepToken(await answer(() => api.GET("/api/session")));
}

export function keepToken(session: Session): Session {
  csrfToken = session.csrf_token;
  return session;
}

async function reach<T>(call: () => Promise<Answer<T>>): Promise<Answer<T>> {
  try {
    return await call();
  } catch (error) {
    const isTooSlow = error instanceof DOMException && error.name === "TimeoutError";
    if (error instanceof TypeError || isTooSlow) throw new Problem("offline", OFFLINE);
    throw error;
  }
}

function isProblem(error: unknown): error is Schemas["ProblemOut"] {
  return typeof error === "object" && error !== null && "code" in error && "text" in error;
}

/** Sends a picture as it is; the server makes it small and takes everything but the picture out of it. */
export const uploadPhoto = (address: string, file: Blob) => upload<Schemas["PhotoOut"]>(address, file);

/** Sends a tester's log as it is. */
export const uploadLog = <Out>(address: string, file: Blob) => upload<Out>(address, file);

function upload<Out>(address: string, file: Blob): Promise<Out> {
  return answer<Out>(async () => {
    const headers = { ...once(), "X-CSRFToken": csrfToken, "Content-Type": "application/octet-stream" };
    const response = await globalThis.fetch(address, { method: "POST", headers, body: file });
    const body: unknown = await response.json();
    return response.ok ? { data: body as Out, response } : { error: body, response };
  });
}
