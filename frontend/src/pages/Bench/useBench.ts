import { useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { Problem, type Step } from "../../api/client";
import { type EntryInput, mayWait, type Pick, type QueuedEntry, sendEntry } from "../../api/entries";
import { benchQuery, storyQuery } from "../../api/queries";
import { discard, type WaitingEntry } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { useFocusAfter, useKept } from "../../components/useKept";
import { useTakeBack } from "../../components/useTakeBack";
import { type Mode, modeOf } from "./modes";
import type { Draft } from "./ReadingForm";
import { usePass } from "./usePass";

/** What a cell whose number was just typed is entered in, before anything is known of it. */
const BLIND: readonly Mode[] = ["voltage", "capacity", "resistance", "charge"];
/** Forms without a field of their own: digits typed there are meant as a voltage. */
const WITHOUT_FIELD: readonly Mode[] = ["wait", "shelve", "out-box", "repair", "decide"];
const DIGITS = /^[0-9.,]$/;

/** Which cell is at hand and in which form, what was typed into it and what became of it; nothing that comes back moves a hand. */
export function useBench() {
  const [number, choose] = useNumber();
  const [search] = useSearchParams();
  const step = search.get("step") as Step | null;
  // A whole box measured again: every cell in it, whatever its next step.
  const placeId = step ? null : Number(search.get("place")) || null;
  const isPass = step !== null || placeId !== null;
  const kept = useKept();
  const hand = useHand();
  const [lastMode, setLastMode] = useState<Mode>("voltage");
  const [turn, setTurn] = useState(0);
  const [paperAt, setPaperAt] = useState<string | null>(null);
  const left = useRef<HTMLElement>(null);
  const pass = usePass(step, search.get("donor"), placeId);
  const story = useQuery({ ...storyQuery(number ?? ""), enabled: Boolean(number) && !isPass });
  const cell = isPass ? pass.current : number ? (story.data?.cell ?? null) : null;
  // Typed into, a form stays also where its number turns out to be none: what was typed comes back with the reason.
  const isTypedInto = hand.held !== null && hand.held.number === number;
  const at = isPass ? (cell?.number ?? null) : story.error && !isTypedInto ? null : (number ?? null);
  const blind = BLIND.includes(lastMode) ? lastMode : "voltage";
  const followed = cell ? (placeId ? "voltage" : modeOf(step ?? cell.step)) : blind;
  const mode = hand.held !== null && hand.held.number === at ? hand.held.mode : followed;
  const known = useQuery({ ...benchQuery(cell?.number ?? ""), enabled: cell !== null });

  const bringBack = (about: string) => (isPass ? pass.markOpen(about) : choose(about));
  const goOn = (about: string) => {
    hand.letGo();
    setLastMode(mode);
    setTurn((before) => before + 1);
    if (isPass) pass.markHandled(about);
    else choose(null);
  };
  const answered = useWrite(sendEntry, (answer, { number: about, entry }) => {
    kept.tell(about, entry, answer);
    const goesOn = entry.to === "recovery-starts" || entry.to === "recovery-checks";
    if (goesOn && answer.cell.step === "recover") setTurn((before) => before + 1);
    else goOn(about);
  });
  const send = (entry: EntryInput) => {
    if (at === null) return;
    const about = cell?.number ?? at;
    if (!mayWait(entry)) {
      answered.mutate({ number: about, entry });
      return;
    }
    kept.keep(about, paperAt ? onPaper(entry, paperAt) : entry);
    goOn(about);
  };
  const { takeBack, problem: notTakenBack } = useTakeBack(kept, bringBack);
  const typeAgain = async (entry: WaitingEntry) => {
    hand.takeUp(draftOf(entry), modeOfEntry(entry.entry));
    setTurn((before) => before + 1);
    await discard(entry.id);
    kept.drop(entry.id);
    bringBack(entry.number);
  };
  const focusForm = useFocusAfter(kept.danger, left);
  /** A right number in place of a wrong one takes along what was typed for it. */
  const chooseAgain = (next: string) => {
    hand.renumber(next);
    choose(next);
  };
  const lastCell = kept.last?.answer?.cell ?? null;
  const shown = cell ?? (at === null ? lastCell : null);
  return {
    /** The number that is open, its cell once it is known, and the pass it belongs to. */
    ...{ number, at, cell, story, isTypedInto, step, placeId, isPass, pass },
    /** The form at hand. */
    ...{ mode, turn, paperAt, setPaperAt, isSending: answered.isPending },
    known: cell && known.data?.cell.number === cell.number ? known.data : null,
    again: hand.draftFor(at),
    problem: answered.variables?.number === at ? answered.error : null,
    ...{ send, chooseAgain, holdAs: (next: Mode) => hand.hold(at, next) },
    /** Where it is typed: what reaches the form by itself, and digits that are meant as a voltage. */
    typing: {
      ref: left,
      onInput: () => hand.held?.number !== at && hand.hold(at, mode),
      onKeyDown: (event: React.KeyboardEvent) => hand.takeDigit(event, at, mode),
    },
    /** What was kept, and what it led to. */
    ...{ kept, takeBack, notTakenBack, typeAgain, focusForm, shown, isAlone: shown !== lastCell },
  };
}
export type AtBench = ReturnType<typeof useBench>;

/**
 * What is in somebody's hands: the form that is typed into, which stays as it is until it is sent, whatever is heard of
 * its cell meanwhile, and what stands in it from the start.
 */
function useHand() {
  const [held, setHeld] = useState<{ number: string; mode: Mode } | null>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const takeUp = (next: Draft, mode: Mode) => {
    setDraft(next);
    setHeld({ number: next.number, mode });
  };
  return {
    held,
    takeUp,
    draftFor: (number: string | null) => (draft !== null && draft.number === number ? draft : null),
    hold: (number: string | null, mode: Mode) => number !== null && setHeld({ number, mode }),
    letGo: () => {
      setHeld(null);
      setDraft(null);
    },
    renumber: (next: string) => {
      if (!draft?.problem || (draft.problem.field !== "number" && draft.problem.code !== "not-found")) return;
      setDraft({ ...draft, number: next, problem: null });
      if (held) setHeld({ ...held, number: next });
    },
    takeDigit: (event: React.KeyboardEvent, number: string | null, mode: Mode) => {
      if (event.ctrlKey || event.metaKey || event.altKey || number === null) return;
      if (event.target instanceof HTMLInputElement && !["radio", "checkbox"].includes(event.target.type)) return;
      if (!DIGITS.test(event.key) || !WITHOUT_FIELD.includes(mode)) return;
      event.preventDefault();
      takeUp({ number, value: event.key, problem: null }, "voltage");
    },
  };
}

/** The number that is open. It changes at once; the address follows, and is followed where it comes from elsewhere. */
function useNumber(): [string | undefined, (next: string | null) => void] {
  const params = useParams();
  const location = useLocation();
  const navigate = useNavigate();
  const [number, setNumber] = useState(params.number);
  const [followed, setFollowed] = useState(location.key);
  if (followed !== location.key) {
    setFollowed(location.key);
    if (!isOwn(location.state)) setNumber(params.number);
  }
  const choose = useCallback(
    (next: string | null) => {
      setNumber(next ?? undefined);
      navigate(next ? `/bench/${encodeURIComponent(next)}` : "/bench", { replace: true, state: { isOwn: true } });
    },
    [navigate],
  );
  return [number, choose];
}

const isOwn = (state: unknown) => typeof state === "object" && state !== null && "isOwn" in state;

function draftOf({ number, entry, refused }: WaitingEntry): Draft {
  const value =
    entry.to === "readings" || entry.to === "first-looks"
      ? (entry.body.value ?? "")
      : entry.to === "charges"
        ? entry.body.end_v
        : "";
  const problem = refused && new Problem(refused.code, refused.text, refused.field, refused.suggestion);
  return {
    number,
    value,
    problem,
    findings: entry.to === "first-looks" || entry.to === "inspections" ? entry.body.findings : [],
  };
}

function modeOfEntry(entry: QueuedEntry | Pick): Mode {
  switch (entry.to) {
    case "readings":
      return entry.body.quantity;
    case "measurements":
      return entry.body.method.startsWith("two-") ? "resistance" : "capacity";
    case "charges":
      return "charge";
    case "repairs":
      return "repair";
    case "shelvings":
      return "shelve";
    case "out-box":
      return "out-box";
    case "skips":
      return entry.body.what ?? "resistance";
    default:
      return "inspect";
  }
}

const DATED: readonly EntryInput["to"][] = [
  "first-looks",
  "inspections",
  "readings",
  "measurements",
  "charges",
  "repairs",
];

/** What stood on paper counts from when it was done. */
function onPaper(entry: QueuedEntry, at: string): QueuedEntry {
  if (!DATED.includes(entry.to)) return entry;
  return { ...entry, body: { ...entry.body, paper_at: new Date(at).toISOString() } } as QueuedEntry;
}
