import { useCallback, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { type QueuedEntry, sendEntry } from "../../api/entries";
import { findThing } from "../../api/queries";
import { discard, forgetAnswer, useWaiting, type WaitingEntry } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { useFocusAfter, useKept } from "../../components/useKept";
import { useScanner } from "../../components/useScanner";
import { useUndoKey } from "../../components/useUndoKey";
import { pageOf } from "../../words";
import type { Again } from "./LookForm";
import { nextDue, startOf, withAnswers } from "./walk";

type Pass = Schemas["TrayOut"];

/** Where the walk through a tray stands, what was typed on it, and what became of that. */
export function useWalk(read: Pass, asOf: number) {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { entries, answered } = useWaiting();
  const kept = useKept();
  const [slot, setSlot] = useState(() => startOf(read, search.get("donor")));
  const [again, setAgain] = useState<{ number: string; typed: Again } | null>(null);
  const [isFilming, setFilming] = useState(false);
  const [scanProblem, setScanProblem] = useState<string | null>(null);
  // Counted up to give a form that stays the focus again.
  const [turn, setTurn] = useState(0);
  const left = useRef<HTMLElement>(null);
  const waiting = useMemo(() => new Map(entries.map((entry) => [entry.number, entry])), [entries]);
  const pass = useMemo(() => ({ ...read, cells: withAnswers(read.cells, answered, asOf) }), [read, answered, asOf]);
  const current = pass.cells.find((each) => each.cell.slot === slot) ?? null;

  const goTo = useCallback((next: number) => {
    setSlot(next);
    setTurn((before) => before + 1);
  }, []);
  const choose = useCallback(
    (next: number) => {
      goTo(next);
      // On a phone the form stands above the tray: its number first, whatever has the focus in it.
      requestAnimationFrame(() => left.current?.scrollIntoView({ block: "start" }));
    },
    [goTo],
  );
  const keep = (entry: QueuedEntry) => {
    if (!current) return;
    const { number } = current.cell;
    kept.keep(number, entry);
    setAgain(null);
    goTo(nextDue(pass.cells, slot, (each) => each.cell.number === number || waiting.has(each.cell.number)) ?? slot);
  };
  const typeAgain = async (entry: WaitingEntry) => {
    const found = entry.entry;
    const here = pass.cells.find((each) => each.cell.number === entry.number);
    const { refused } = entry;
    if (found.to !== "first-looks" || !here?.cell.slot || !refused) return;
    const problem = new Problem(refused.code, refused.text, refused.field, refused.suggestion);
    setAgain({
      number: entry.number,
      typed: { findings: found.body.findings, value: found.body.value ?? "", problem },
    });
    await discard(entry.id);
    kept.drop(entry.id);
    goTo(here.cell.slot);
  };
  const jump = useCallback(
    async (text: string) => {
      try {
        const found = await findThing(text);
        setScanProblem(null);
        const here = pass.cells.find((each) => each.cell.number === found.number);
        if (here?.cell.slot) goTo(here.cell.slot);
        else navigate(found.thing === "cell" ? `/bench/${found.number}` : pageOf(found.thing, found.number));
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        setScanProblem(error.message);
      }
    },
    [pass.cells, navigate, goTo],
  );
  const focusForm = useFocusAfter(kept.danger, left);
  const isScanning = useScanner(jump);
  const undo = useWrite(sendEntry, ({ cell }) => {
    const taken = kept.last;
    if (taken) {
      forgetAnswer(taken.id);
      kept.drop(taken.id);
    }
    const back = pass.cells.find((each) => each.cell.number === cell.number)?.cell.slot;
    if (back) goTo(back);
  });
  const entryId = kept.danger === null ? (kept.last?.answer?.entry_id ?? null) : null;
  const undoLast = () => {
    if (kept.last && entryId && kept.last.answer?.cell.reasons[0]?.code !== "hazard")
      undo.mutate({ number: kept.last.number, entry: { to: "withdrawals", body: { entry_id: entryId } } });
  };
  useUndoKey(undoLast);
  return {
    kept,
    slot,
    again,
    isFilming,
    setFilming,
    scanProblem,
    turn,
    left,
    waiting,
    pass,
    current,
    goTo,
    choose,
    keep,
    typeAgain,
    jump,
    focusForm,
    isScanning,
    undo,
    undoLast,
  };
}
