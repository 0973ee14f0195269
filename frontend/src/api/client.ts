import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Cell = Schemas["CellOut"];
export type Entry = Schemas["EntryOut"];
export type Story = Schemas["StoryOut"];
export type Grade = Cell["grade"];
export type Step = Cell["step"];
export type Finding = Schemas["InspectionIn"]["findings"][number];
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
  ) {
    super(text);
  }
}

const OFFLINE = "No connection. What you typed is still here; try again when the Wi-Fi is back.";
const SIGNED_OUT =
  "You were signed out meanwhile. Sign in again in a new tab, then send this once more; what you typed is still here.";
let csrfToken = "";

export const api = createClient<paths>({ baseUrl: "/", fetch: (request) => globalThis.fetch(request) });
const carryToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken);
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
  if (isProblem(error)) throw new Problem(error.code, error.text, error.field, error.suggestion);
  throw new Problem("fault", `The server answered with ${response.status}. Nothing was changed; try again.`);
}

/** Headers of a write: sent twice with the same key it is done once. */
export const once = (key: string = crypto.randomUUID()) => ({ "Idempotency-Key": key });

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
    if (error instanceof TypeError) throw new Problem("offline", OFFLINE);
    throw error;
  }
}

function isProblem(error: unknown): error is Schemas["ProblemOut"] {
  return typeof error === "object" && error !== null && "code" in error && "text" in error;
}
