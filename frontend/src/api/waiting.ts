import { useSyncExternalStore } from "react";
import { newKey, Problem } from "./client";
import { type EntryAnswer, type EntryInput, type Pick, type QueuedEntry, sendQueued } from "./entries";
import { queryClient, refreshAll, sessionQuery } from "./queries";

/**
 * Entries that were typed and that the server has not accepted yet. They live in this browser until it has: each is sent
 * with one key, those of a cell in their order, so that an answer lost on the way doubles nothing. Whoever types does not
 * wait for any of it; what is refused stays and is shown.
 */
export type WaitingEntry = {
  /** Its name in this browser, whatever becomes of it. */
  id: string;
  /** What the server knows it by; another one once it was changed. */
  key: string;
  person: string;
  number: string;
  entry: QueuedEntry | Pick;
  typedAt: string;
  /** Why the server refused it; null: it is on its way. */
  refused: Refusal | null;
};
export type Refusal = { code: string; text: string; field: string | null; suggestion: string | null };
/** What the server made of an entry that was typed on this page. */
export type Answered = {
  id: string;
  number: string;
  entry: EntryInput | Pick;
  answer: EntryAnswer | null;
  at: number;
};

const STORE = "zembric-waiting-entries";
const NO_ROOM = "This browser's storage is full: leave this page open until everything is sent.";
const LEAST_PAUSE_MS = 2_000;
const MOST_PAUSE_MS = 30_000;
const REFRESH_AFTER_MS = 400;
/** Cells whose entries are on their way at the same time. */
const LANES = 4;
const ANSWERS_KEPT = 80;
/** What says nothing about the entry itself: it goes on waiting. */
const NOT_ABOUT_THE_ENTRY = new Set(["offline", "unavailable", "disk-full", "not-signed-in", "fault", "stale-page"]);

type Waiting = {
  entries: readonly WaitingEntry[];
  /** Why they could not be sent just now; null: nobody tried yet, or all is well. */
  trouble: string | null;
  /** The latest answers, the oldest first. */
  answered: readonly Answered[];
};

/** What is not in this browser's storage, or not yet: it lives as long as this page does, and is sent like the others. */
let unstored: readonly WaitingEntry[] = [];
let waiting: Waiting = { entries: readStore(), trouble: null, answered: [] };
const listeners = new Set<() => void>();
const onTheWay = new Map<string, Promise<void>>();
let pause = LEAST_PAUSE_MS;
let timer: ReturnType<typeof setTimeout> | undefined;
let refresh: ReturnType<typeof setTimeout> | undefined;

export const isOnTheWay = (problem: unknown): boolean =>
  problem instanceof Problem && NOT_ABOUT_THE_ENTRY.has(problem.code);

export const useWaiting = (): Waiting => useSyncExternalStore(subscribe, () => waiting);

/** Keeps an entry in this browser at once and sends it behind whoever typed it. Returns its name here. */
export function keepAndSend(number: string, entry: QueuedEntry | Pick, id: string = newKey()): string {
  const typedAt = "typed_at" in entry.body ? (entry.body.typed_at ?? "") : "";
  unstored = [...unstored, { id, key: id, person: personHere(), number, entry, typedAt, refused: null }];
  // On its way before the page is drawn anew, and stored beside it: two tabs take turns at the store, which takes a moment.
  const next = { ...waiting, entries: readStore() };
  pump(next.entries);
  show(next);
  void change((entries) => entries);
  return id;
}

/** An entry whose answer somebody waited for stands beside those that were kept behind. */
export function noteAnswer(number: string, entry: EntryInput, answer: EntryAnswer): string {
  const id = newKey();
  show(withAnswer({ id, number, entry, answer, at: Date.now() }));
  return id;
}

/** Takes a refused entry away, once somebody said so. */
export async function discard(id: string): Promise<void> {
  await change((entries) => entries.filter((entry) => entry.id !== id));
  pump();
}

/** Sends a refused entry once more, changed by whoever was asked; it is another request then, so it has another key. */
export async function sendChanged(id: string, entry: QueuedEntry | Pick): Promise<void> {
  const key = newKey();
  await change((entries) => entries.map((old) => (old.id === id ? { ...old, key, entry, refused: null } : old)));
  pump();
}

/** What was answered does not count any more: it was taken back. */
export function forgetAnswer(id: string): void {
  show({ ...waiting, answered: waiting.answered.filter((answered) => answered.id !== id) });
}

/** Tries at once to send all that wait; ends when nothing is on its way any more. */
export async function flush(): Promise<void> {
  clearTimeout(timer);
  timer = undefined;
  pump();
  while (onTheWay.size > 0) await Promise.all(onTheWay.values());
}

/** Sends the first entry of each cell, some cells at a time. A refused one holds up only its own cell. */
function pump(entries: readonly WaitingEntry[] = waiting.entries): void {
  const seen = new Set<string>();
  for (const next of entries) {
    if (timer !== undefined || onTheWay.size >= LANES) return;
    const isFirst = !seen.has(next.number);
    seen.add(next.number);
    if (!isFirst || next.refused || onTheWay.has(next.id) || next.person !== personHere()) continue;
    onTheWay.set(next.id, send(next));
  }
}

async function send(sent: WaitingEntry): Promise<void> {
  const { id, number, entry } = sent;
  try {
    const answer = await sendQueued({ number, entry }, sent.key);
    // Shown at once; the store, which tabs take turns at, follows.
    const entries = waiting.entries.filter((other) => other.id !== id);
    show({ ...withAnswer({ id, number, entry, answer, at: Date.now() }), entries });
    await change((entries) => entries.filter((other) => other.id !== id));
    pause = LEAST_PAUSE_MS;
    // The lists behind it follow once the hands rest.
    clearTimeout(refresh);
    refresh = setTimeout(refreshAll, REFRESH_AFTER_MS);
  } catch (error) {
    if (!(error instanceof Problem) || isOnTheWay(error)) {
      later(error);
      if (!(error instanceof Problem)) throw error;
    } else {
      const refused = { code: error.code, text: error.message, field: error.field, suggestion: error.suggestion };
      await change((entries) => entries.map((other) => (other.id === id ? { ...other, refused } : other)));
    }
  } finally {
    onTheWay.delete(id);
    pump();
  }
}

const withAnswer = (answered: Answered): Waiting => ({
  ...waiting,
  answered: [...waiting.answered, answered].slice(-ANSWERS_KEPT),
});

/** Tries again whenever the way to the server may be back. */
export function keepSending(): () => void {
  const onBack = () => void flush();
  const onStore = (event: StorageEvent) => {
    if (event.key === STORE) show({ ...waiting, entries: readStore() });
  };
  window.addEventListener("online", onBack);
  window.addEventListener("focus", onBack);
  window.addEventListener("storage", onStore);
  // A page that is closed in the very moment of an Enter does not wait for its turn.
  const onHide = () => unstored.length > 0 && store(readStore());
  window.addEventListener("pagehide", onHide);
  void flush();
  return () => {
    window.removeEventListener("pagehide", onHide);
    window.removeEventListener("online", onBack);
    window.removeEventListener("focus", onBack);
    window.removeEventListener("storage", onStore);
    clearTimeout(timer);
  };
}

function later(trouble: unknown): void {
  show({ ...waiting, trouble: trouble instanceof Problem ? trouble.message : null });
  // Several were on their way at once: one pause for all.
  if (timer !== undefined) return;
  timer = setTimeout(() => void flush(), pause);
  pause = Math.min(MOST_PAUSE_MS, 2 * pause);
}

function personHere(): string {
  return queryClient.getQueryData(sessionQuery.queryKey)?.person?.name ?? "";
}

/** Changes what waits, one tab after the other: two that queue at the same moment both keep what they have. */
async function change(by: (entries: readonly WaitingEntry[]) => readonly WaitingEntry[]): Promise<void> {
  const once = () => store(by(readStore()));
  if (navigator.locks) await navigator.locks.request(STORE, once);
  else once();
}

function store(next: readonly WaitingEntry[]): void {
  try {
    localStorage.setItem(STORE, JSON.stringify(next));
    unstored = [];
    show({ ...waiting, entries: next, trouble: timer === undefined ? null : waiting.trouble });
  } catch {
    // No room: what was stored stays, and what is new waits in this page, which says so.
    const stored = new Set(storedEntries().map((entry) => entry.id));
    unstored = next.filter((entry) => !stored.has(entry.id));
    show({ ...waiting, entries: next, trouble: unstored.length > 0 ? NO_ROOM : null });
  }
}

/** What is drawn already is not drawn anew: every page that is open hangs on it. */
function show(next: Waiting): void {
  const isSame = JSON.stringify(next.entries) === JSON.stringify(waiting.entries);
  if (isSame && next.trouble === waiting.trouble && next.answered === waiting.answered) return;
  waiting = isSame ? { ...next, entries: waiting.entries } : next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function readStore(): readonly WaitingEntry[] {
  const stored = storedEntries();
  const known = new Set(stored.map((entry) => entry.id));
  return [...stored, ...unstored.filter((entry) => !known.has(entry.id))];
}

function storedEntries(): readonly WaitingEntry[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(STORE) ?? "[]");
    // Stored by a page of before, an entry has only its key.
    const entries = Array.isArray(found) ? found.filter(isWaitingEntry) : [];
    return entries.map((entry) => ({ ...entry, id: entry.id ?? entry.key }));
  } catch {
    return [];
  }
}

function isWaitingEntry(value: unknown): value is WaitingEntry {
  return typeof value === "object" && value !== null && "key" in value && "number" in value && "entry" in value;
}
