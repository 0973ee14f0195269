import { useSyncExternalStore } from "react";
import { holds, jot, onChangeElsewhere, store, storedEntries, takeUpLeft, unstore } from "../offline/waitingStore";
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

const NO_ROOM =
  "This browser keeps nothing, its storage is full or forbidden: leave this page open until everything is sent.";
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

/** What lies in this browser's storage, as it was read last. */
let stored: readonly WaitingEntry[] = [];
/** What is not in it, or not yet: it lives as long as this page does, and is sent like the others. */
let unstored: readonly WaitingEntry[] = [];
/** Sent or let go: never shown again, however late the storage follows. */
const gone = new Set<string>();
/** Until what was kept before this page was opened is known. */
let loaded: Promise<void> | undefined;
let waiting: Waiting = { entries: [], trouble: null, answered: [] };
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
  const typed = { id, key: id, person: personHere(), number, entry, typedAt, refused: null };
  unstored = [...unstored, typed];
  // On its way before the page is drawn anew, and stored beside it.
  const entries = all();
  pump(entries);
  show({ ...waiting, entries });
  void keep(id);
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
  await drop(id);
  pump();
}

/** Sends a refused entry once more, changed by whoever was asked; it is another request then, so it has another key. */
export async function sendChanged(id: string, entry: QueuedEntry | Pick): Promise<void> {
  await change(id, { key: newKey(), entry, refused: null });
  pump();
}

/** What was answered does not count any more: it was taken back. */
export function forgetAnswer(id: string): void {
  show({ ...waiting, answered: waiting.answered.filter((answered) => answered.id !== id) });
}

/** Tries at once to send all that wait; ends when nothing is on its way any more. */
export async function flush(): Promise<void> {
  loaded ??= takeUpLeft()
    .catch(() => undefined)
    .then(readAgain);
  await loaded;
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

/** Under the browser's lock on its cell: of two tabs only one sends, and the other finds that it is done. */
async function send(sent: WaitingEntry): Promise<void> {
  try {
    if (navigator.locks) await navigator.locks.request(`zembric-send-${sent.number}`, () => sendNow(sent));
    else await sendNow(sent);
  } finally {
    onTheWay.delete(sent.id);
    pump();
  }
}

async function sendNow(sent: WaitingEntry): Promise<void> {
  const { id, number, entry } = sent;
  if (await isDoneElsewhere(id)) return;
  try {
    const answer = await sendQueued({ number, entry }, sent.key);
    // Shown at once; the storage follows.
    gone.add(id);
    show({ ...withAnswer({ id, number, entry, answer, at: Date.now() }), entries: all() });
    await drop(id);
    pause = LEAST_PAUSE_MS;
    refreshSoon();
  } catch (error) {
    if (!(error instanceof Problem) || isOnTheWay(error)) {
      later(error);
      if (!(error instanceof Problem)) throw error;
    } else {
      const refused = { code: error.code, text: error.message, field: error.field, suggestion: error.suggestion };
      await change(id, { refused });
    }
  }
}

/** Another tab sent it, or let it go, while this one waited for its turn. */
async function isDoneElsewhere(id: string): Promise<boolean> {
  if (unstored.some((entry) => entry.id === id)) return false;
  try {
    if (await holds(id)) return false;
  } catch {
    return false;
  }
  gone.add(id);
  show({ ...waiting, entries: all() });
  refreshSoon();
  return true;
}

/** The lists behind what was sent follow once the hands rest. */
function refreshSoon(): void {
  clearTimeout(refresh);
  refresh = setTimeout(refreshAll, REFRESH_AFTER_MS);
}

const withAnswer = (answered: Answered): Waiting => ({
  ...waiting,
  answered: [...waiting.answered, answered].slice(-ANSWERS_KEPT),
});

/** Tries again whenever the way to the server may be back. */
export function keepSending(): () => void {
  const onBack = () => void flush();
  window.addEventListener("online", onBack);
  window.addEventListener("focus", onBack);
  const stopListening = onChangeElsewhere(() => void readAgain());
  // A page that is closed in the very moment of an Enter does not wait for the storage.
  const onHide = () => unstored.length > 0 && jot(unstored);
  window.addEventListener("pagehide", onHide);
  void flush();
  return () => {
    window.removeEventListener("pagehide", onHide);
    window.removeEventListener("online", onBack);
    window.removeEventListener("focus", onBack);
    stopListening();
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

/** Puts it into this browser's storage as it is by then; where there is no room it waits in this page, which says so. */
async function keep(id: string): Promise<void> {
  const asItIs = () => unstored.find((entry) => entry.id === id);
  try {
    for (let entry = asItIs(); entry; entry = asItIs()) {
      await store(entry);
      // Refused or changed meanwhile: once more.
      if (asItIs() !== entry) continue;
      unstored = unstored.filter((other) => other.id !== id);
      stored = [...stored.filter((other) => other.id !== id), entry];
    }
    if (gone.has(id)) await unstore(id);
    show({ ...waiting, entries: all(), trouble: waiting.trouble === NO_ROOM ? null : waiting.trouble });
  } catch {
    if (!gone.has(id)) show({ ...waiting, entries: all(), trouble: NO_ROOM });
  }
}

async function drop(id: string): Promise<void> {
  gone.add(id);
  unstored = unstored.filter((entry) => entry.id !== id);
  stored = stored.filter((entry) => entry.id !== id);
  const trouble =
    waiting.trouble === NO_ROOM && unstored.length > 0 ? NO_ROOM : timer === undefined ? null : waiting.trouble;
  show({ ...waiting, entries: all(), trouble });
  // Where that fails it is sent once more some day, with the same key: the server does it once.
  await unstore(id).catch(() => undefined);
}

async function change(id: string, to: Partial<WaitingEntry>): Promise<void> {
  const changed = (entry: WaitingEntry) => (entry.id === id ? { ...entry, ...to } : entry);
  const isStored = stored.some((entry) => entry.id === id);
  [stored, unstored] = [stored.map(changed), unstored.map(changed)];
  show({ ...waiting, entries: all() });
  const entry = all().find((other) => other.id === id);
  if (entry && isStored) await store(entry).catch(() => undefined);
}

/** What another tab changed meanwhile is shown and sent here too. */
async function readAgain(): Promise<void> {
  const before = new Set(stored.map((entry) => entry.id));
  try {
    const read = (await storedEntries<WaitingEntry>()).filter(isWaitingEntry);
    const known = new Set(read.map((entry) => entry.id));
    const isSentElsewhere = [...before].some((id) => !known.has(id) && !gone.has(id));
    if (isSentElsewhere) refreshSoon();
    // What came into the storage while it was read is not lost from sight.
    stored = [...read, ...stored.filter((entry) => !before.has(entry.id) && !known.has(entry.id))];
  } catch {
    return;
  }
  show({ ...waiting, entries: all() });
  pump();
}

function all(): readonly WaitingEntry[] {
  const known = new Set(stored.map((entry) => entry.id));
  return [...stored, ...unstored.filter((entry) => !known.has(entry.id))].filter((entry) => !gone.has(entry.id));
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

function isWaitingEntry(value: unknown): value is WaitingEntry {
  return typeof value === "object" && value !== null && "key" in value && "number" in value && "entry" in value;
}
