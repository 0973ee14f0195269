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
const NO_ROOM = "This browser's storage is full: leave this page open until everything is sent.";
const LEAST_PAUSE_MS = 2_000;
const MOST_PAUSE_MS = 30_000;
/** What says nothing about the entry itself: it goes on waiting. */
const NOT_ABOUT_THE_ENTRY = new Set(["offline", "unavailable", "not-signed-in", "fault", "stale-page"]);

type Waiting = {
  entries: readonly WaitingEntry[];
  /** Why they could not be sent just now; null: nobody tried yet, or all is well. */
  trouble: string | null;
};

/** What this browser's storage had no room for: it lives as long as this page does, and is sent like the others. */
let unstored: readonly WaitingEntry[] = [];
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
  // Kept before it is sent: a page that is closed in that moment loses nothing.
  let mustWait = false;
  await change((entries) => {
    mustWait = entries.some((earlier) => earlier.number === number);
    return [...entries, queued];
  });
  if (mustWait) {
    void flush();
    return null;
  }
  try {
    const answer = await sendEntry({ number, entry }, key);
    await remove(key);
    return answer;
  } catch (error) {
    if (isOnTheWay(error)) {
      later(error);
      return null;
    }
    // Somebody stands before the form and is told there.
    await remove(key);
    throw error;
  }
}

/** Takes a refused entry away, once somebody said so. */
export async function discard(key: string): Promise<void> {
  await remove(key);
  void flush();
}

/** Sends a refused entry once more, changed by whoever was asked; it is another request then, so it has another key. */
export async function sendChanged(key: string, entry: QueuedEntry, withKey: string): Promise<void> {
  await change((entries) =>
    entries.map((old) => (old.key === key ? { ...old, key: withKey, entry, refused: null } : old)),
  );
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
        await remove(next.key);
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
        await change((entries) => entries.map((other) => (other.key === next.key ? { ...other, refused } : other)));
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

const remove = (key: string) => change((entries) => entries.filter((entry) => entry.key !== key));

/** Changes what waits, one tab after the other: two that queue at the same moment both keep what they have. */
async function change(by: (entries: readonly WaitingEntry[]) => readonly WaitingEntry[]): Promise<void> {
  const once = () => {
    const next = by(readStore());
    try {
      localStorage.setItem(STORE, JSON.stringify(next));
      unstored = [];
      show({ entries: next, trouble: null });
    } catch {
      // No room: what was stored stays, and what is new waits in this page, which says so.
      const stored = new Set(storedEntries().map((entry) => entry.key));
      unstored = next.filter((entry) => !stored.has(entry.key));
      show({ entries: next, trouble: unstored.length > 0 ? NO_ROOM : null });
    }
  };
  if (navigator.locks) await navigator.locks.request(STORE, once);
  else once();
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
  const stored = storedEntries();
  const known = new Set(stored.map((entry) => entry.key));
  return [...stored, ...unstored.filter((entry) => !known.has(entry.key))];
}

function storedEntries(): readonly WaitingEntry[] {
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
