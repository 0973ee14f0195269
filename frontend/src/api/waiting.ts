import { useSyncExternalStore } from "react";
import { Problem } from "./client";
import { type EntryAnswer, type QueuedEntry, sendEntry } from "./entries";
import { queryClient, refreshAll, sessionQuery } from "./queries";

/**
 * Entries that were typed and that the server has not accepted yet. They live in this browser until it has: each is sent
 * in its order, with one key, so that an answer lost on the way doubles nothing. What is refused stays and is shown.
 */
export type WaitingEntry = {
  key: string;
  person: string;
  number: string;
  entry: QueuedEntry;
  typedAt: string;
  /** Why the server refused it; null: it only waits for the way to the server. */
  refused: { code: string; text: string; suggestion: string | null } | null;
};

const STORE = "zembric-waiting-entries";
const LEAST_PAUSE_MS = 2_000;
const MOST_PAUSE_MS = 30_000;
/** What says nothing about the entry itself: it goes on waiting. */
const NOT_ABOUT_THE_ENTRY = new Set(["offline", "unavailable", "not-signed-in", "fault", "stale-page"]);

type Waiting = {
  entries: readonly WaitingEntry[];
  /** Why they could not be sent just now; null: nobody tried yet, or all is well. */
  trouble: string | null;
};

let waiting: Waiting = { entries: readStore(), trouble: null };
const listeners = new Set<() => void>();
let sending = false;
let pause = LEAST_PAUSE_MS;
let timer: ReturnType<typeof setTimeout> | undefined;

export const isOnTheWay = (problem: unknown): boolean =>
  problem instanceof Problem && NOT_ABOUT_THE_ENTRY.has(problem.code);

export const useWaiting = (): Waiting => useSyncExternalStore(subscribe, () => waiting);

/** Sends an entry, or lets it wait: null where the server cannot be reached now, or earlier ones of the cell still wait. */
export async function sendOrWait(number: string, entry: QueuedEntry, key: string): Promise<EntryAnswer | null> {
  const queued = { key, person: personHere(), number, entry, typedAt: entry.body.typed_at ?? "", refused: null };
  if (waiting.entries.some((earlier) => earlier.number === number)) {
    keep([...waiting.entries, queued]);
    void flush();
    return null;
  }
  // Kept before it is sent: a page that is closed in that moment loses nothing.
  keep([...waiting.entries, queued]);
  try {
    const answer = await sendEntry({ number, entry }, key);
    keep(waiting.entries.filter((other) => other.key !== key));
    return answer;
  } catch (error) {
    if (isOnTheWay(error)) {
      later(error);
      return null;
    }
    // Somebody stands before the form and is told there.
    keep(waiting.entries.filter((other) => other.key !== key));
    throw error;
  }
}

/** Takes a refused entry away, once somebody said so. */
export function discard(key: string): void {
  keep(waiting.entries.filter((entry) => entry.key !== key));
  void flush();
}

/** Sends a refused entry once more, changed by whoever was asked; it is another request then, so it has another key. */
export function sendChanged(key: string, entry: QueuedEntry, withKey: string): void {
  keep(waiting.entries.map((old) => (old.key === key ? { ...old, key: withKey, entry, refused: null } : old)));
  void flush();
}

/** Sends all that wait, in order. A refused one holds up only its own cell. */
export async function flush(): Promise<void> {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
  let anySent = false;
  try {
    const held = new Set<string>();
    for (const next of waiting.entries) {
      if (next.refused) held.add(next.number);
      if (held.has(next.number) || next.person !== personHere()) continue;
      try {
        await sendEntry({ number: next.number, entry: next.entry }, next.key);
        keep(waiting.entries.filter((other) => other.key !== next.key));
        anySent = true;
        pause = LEAST_PAUSE_MS;
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (isOnTheWay(error)) {
          later(error);
          break;
        }
        held.add(next.number);
        const refused = { code: error.code, text: error.message, suggestion: error.suggestion };
        keep(waiting.entries.map((other) => (other.key === next.key ? { ...other, refused } : other)));
      }
    }
  } finally {
    sending = false;
    if (anySent) refreshAll();
  }
}

/** Tries again whenever the way to the server may be back. */
export function keepSending(): () => void {
  const onBack = () => void flush();
  const onStore = (event: StorageEvent) => {
    if (event.key === STORE) show({ ...waiting, entries: readStore() });
  };
  window.addEventListener("online", onBack);
  window.addEventListener("focus", onBack);
  window.addEventListener("storage", onStore);
  void flush();
  return () => {
    window.removeEventListener("online", onBack);
    window.removeEventListener("focus", onBack);
    window.removeEventListener("storage", onStore);
    clearTimeout(timer);
  };
}

function later(trouble: unknown): void {
  show({ ...waiting, trouble: trouble instanceof Problem ? trouble.message : null });
  clearTimeout(timer);
  timer = setTimeout(() => void flush(), pause);
  pause = Math.min(MOST_PAUSE_MS, 2 * pause);
}

function personHere(): string {
  return queryClient.getQueryData(sessionQuery.queryKey)?.person?.name ?? "";
}

function keep(entries: readonly WaitingEntry[]): void {
  localStorage.setItem(STORE, JSON.stringify(entries));
  show({ entries, trouble: null });
}

function show(next: Waiting): void {
  waiting = next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function readStore(): readonly WaitingEntry[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(STORE) ?? "[]");
    return Array.isArray(found) ? found.filter(isWaitingEntry) : [];
  } catch {
    return [];
  }
}

function isWaitingEntry(value: unknown): value is WaitingEntry {
  return typeof value === "object" && value !== null && "key" in value && "number" in value && "entry" in value;
}
