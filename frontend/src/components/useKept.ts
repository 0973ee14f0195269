import { type RefObject, useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import type { EntryAnswer, EntryInput, Pick, QueuedEntry } from "../api/entries";
import { type Answered, keepAndSend, noteAnswer, sendChanged, useWaiting, type WaitingEntry } from "../api/waiting";
import { accepted, said } from "./CameBack";
import { isHazard } from "./findings";
import { hasKeys } from "./hasKeys";

/** An entry that was typed on this page. */
export type Typed = { id: string; number: string; entry: EntryInput | Pick };
/** What it says in a few words, and where it stands: on its way, kept with what the server made of it, or not taken. */
export type Kept = Typed & { said: string; answer: EntryAnswer | null; isKept: boolean; isRefused: boolean };
export type Danger = { id: string; number: string; text: string };

/**
 * What was typed on this page. Enter keeps it at once and goes on; what the server says to it is shown where it belongs
 * when it comes, and never moves the hands of whoever types.
 */
export function useKept() {
  const { entries, answered, trouble } = useWaiting();
  const [typed, setTyped] = useState<readonly Typed[]>([]);
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const ids = useMemo(() => new Set(typed.map((each) => each.id)), [typed]);
  useShowInPlace(ids);

  const keep = useCallback((number: string, entry: QueuedEntry | Pick): void => {
    const id = keepAndSend(number, entry);
    setTyped((before) => [...before, { id, number, entry }]);
  }, []);
  const tell = useCallback((number: string, entry: EntryInput, answer: EntryAnswer): void => {
    const id = noteAnswer(number, entry, answer);
    setTyped((before) => [...before, { id, number, entry }]);
  }, []);
  const answerOf = (id: string) => answered.find((each) => each.id === id);
  const last = typed.at(-1) ?? null;
  const refused = entries.filter((entry) => entry.refused && ids.has(entry.id));
  const dangers = typed.flatMap((each): Danger[] => {
    if (seen.has(each.id)) return [];
    const answer = answerOf(each.id)?.answer;
    const ground = answer?.cell.reasons[0];
    if (answer && ground?.code === "hazard" && each.entry.to !== "moves")
      return [{ id: each.id, number: each.number, text: ground.text }];
    return isFoundDangerous(each.entry) ? [{ id: each.id, number: each.number, text: "" }] : [];
  });
  return {
    keep,
    /** One that had to be answered, and was. */
    tell,
    last: last && asKept(last, answerOf(last.id) ?? null, refused),
    /** Not taken: the newest last. */
    refused,
    /** Waits in this browser, as the server cannot be reached. */
    isStuck: trouble !== null && entries.some((entry) => ids.has(entry.id) && !entry.refused),
    danger: dangers[0] ?? null,
    onDangerSeen: (id: string) => setSeen((before) => new Set([...before, id])),
    /** Taken back, or let go. */
    drop: useCallback((id: string) => setTyped((before) => before.filter((each) => each.id !== id)), []),
    /** Takes what the newest refused entry offers; false: it offers nothing. */
    acceptNewest: (): boolean => {
      const newest = refused.at(-1);
      const better = newest && accepted(newest);
      if (newest && better) void sendChanged(newest.id, better);
      return Boolean(better);
    },
  };
}

/** Gives the keys back to the field of a form once a danger was read; under a thumb no keyboard jumps up for it. */
export function useFocusAfter(danger: Danger | null, form: RefObject<HTMLElement | null>): () => void {
  const focus = useCallback(() => {
    if (hasKeys()) form.current?.querySelector<HTMLInputElement>("input[inputmode=decimal]")?.focus();
  }, [form]);
  const before = useRef(danger);
  useEffect(() => {
    if (before.current !== null && danger === null) focus();
    before.current = danger;
  }, [danger, focus]);
  return focus;
}

/** What somebody saw with their eyes is a hazard before any server says so. */
const isFoundDangerous = (entry: EntryInput | Pick): boolean =>
  (entry.to === "inspections" || entry.to === "first-looks") && entry.body.findings.some(isHazard);

function asKept(typed: Typed, answered: Answered | null, refused: WaitingEntry[]): Kept {
  return {
    ...typed,
    // As it was kept in the end: a slip was perhaps mended.
    said: said(answered?.entry ?? typed.entry),
    answer: answered?.answer ?? null,
    isKept: answered !== null,
    isRefused: refused.some((entry) => entry.id === typed.id),
  };
}

// --- What is shown where it was typed need not stand on top of the page as well ----------------------------------------

let inPlace: ReadonlySet<string> = new Set();
const listeners = new Set<() => void>();

export const useShownInPlace = (): ReadonlySet<string> => useSyncExternalStore(subscribe, () => inPlace);

function useShowInPlace(ids: ReadonlySet<string>): void {
  useEffect(() => {
    showInPlace(ids);
    return () => showInPlace(new Set());
  }, [ids]);
}

function showInPlace(ids: ReadonlySet<string>): void {
  inPlace = ids;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
