import { useSyncExternalStore } from "react";
import { Problem } from "../api/client";
import { database } from "./database";

/**
 * What was last seen of what the bench needs, so that it opens without the network. The server is always asked first; only
 * where it cannot be reached what was seen is shown, and it is said so.
 */

const KEPT_MS = 12 * 3600 * 1000;
const MOST_KEPT = 400;
/** A Wi-Fi that swallows is not waited for longer, where there is something to show. */
const PATIENCE_MS = 4_000;

const NEVER_SEEN = "No connection, and this was not looked at on this device before. It comes when the Wi-Fi is back.";

let shownFrom: number | null = null;
const listeners = new Set<() => void>();

/** From when what is shown is; null: the server answers. */
export const useShownFrom = (): number | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => shownFrom,
  );

/**
 * Asks; where nobody answers, what was seen before under the same key.
 *
 * `held` is on the screen already: what was seen earlier never takes its place. `onLate` is called where an answer comes after
 * what was seen was shown instead.
 */
export async function askOrRemember<T>(
  key: string,
  ask: () => Promise<T>,
  { held, onLate }: { held: T | undefined; onLate: () => void },
): Promise<T> {
  const asked = ask().then((data) => {
    tell(null);
    void remember(key, data);
    return data;
  });
  const slow = new Promise<undefined>((resolve) => setTimeout(resolve, PATIENCE_MS));
  try {
    const first = await Promise.race([asked, slow]);
    if (first !== undefined) return first;
    const seen = await recall<T>(key);
    if (seen) tell(seen.at);
    if (seen && held === undefined) {
      asked.then(onLate, () => undefined);
      return seen.data;
    }
    const data = await asked;
    tell(null);
    return data;
  } catch (error) {
    if (!(error instanceof Problem) || error.code !== "offline") throw error;
    const seen = await recall<T>(key);
    if (seen) tell(seen.at);
    if (held !== undefined) return held;
    if (!seen) throw new Problem(error.code, NEVER_SEEN);
    return seen.data;
  }
}

/** Everything is forgotten: somebody signs out, or somebody else signs in. */
export async function forgetSeen(): Promise<void> {
  try {
    await (await database()).clear("seen");
  } catch {
    // Where nothing can be kept nothing is.
  }
}

async function remember(key: string, data: unknown): Promise<void> {
  try {
    const kept = await database();
    await kept.put("seen", { key, at: Date.now(), data });
    if ((await kept.count("seen")) > MOST_KEPT) await dropOldest();
  } catch {
    // No room or forbidden: then it does not open without the network, and all else goes on.
  }
}

async function dropOldest(): Promise<void> {
  const all = await (await database()).getAll("seen");
  const old = all.sort((one, other) => one.at - other.at).slice(0, MOST_KEPT / 4);
  const changing = (await database()).transaction("seen", "readwrite");
  await Promise.all([...old.map((each) => changing.store.delete(each.key)), changing.done]);
}

async function recall<T>(key: string): Promise<{ at: number; data: T } | undefined> {
  try {
    const seen = await (await database()).get("seen", key);
    return seen && Date.now() - seen.at < KEPT_MS ? { at: seen.at, data: seen.data as T } : undefined;
  } catch {
    return undefined;
  }
}

function tell(from: number | null): void {
  // Of several the oldest is said.
  const next = from !== null && shownFrom !== null ? Math.min(from, shownFrom) : from;
  if (next === shownFrom) return;
  shownFrom = next;
  for (const listener of listeners) listener();
}
