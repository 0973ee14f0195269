import { useCallback, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import type { QueuedEntry } from "../../api/entries";
import { findThing } from "../../api/queries";
import { discard, useWaiting, type WaitingEntry } from "../../api/waiting";
import { useFocusAfter, useKept } from "../../components/useKept";
import { useScanner } from "../../components/useScanner";
import { useTakeBack } from "../../components/useTakeBack";
import { pageOf } from "../../words";
import type { Again } from "./LookForm";
import { nextDue, startOf, withAnswers } from "./walk";

type Pass = Schemas["TrayOut"];

/** Where the walk through a tray stands, what was typed on it, and what became of that. */
export function useWalk(read: Pass, asOf: number) {
  const [search] = useSearchParams();
  const { entries, answered } = useWaiting();
  const kept = useKept();
  const [slot, setSlot] = useState(() => startOf(read, search.get("donor")));
  const [again, setAgain] = useState<{ number: string; typed: Again } | null>(null);
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
  const focusForm = useFocusAfter(kept.danger, left);
  const { takeBack, problem } = useTakeBack(
    kept,
    (number) => {
      const back = pass.cells.find((each) => each.cell.number === number)?.cell.slot;
      if (back) goTo(back);
    },
    (answer) => kept.danger === null && answer.cell.reasons[0]?.code !== "hazard",
  );
  return {
    ...{ kept, pass, waiting, slot, current, again, turn, left },
    ...{ goTo, choose, keep, typeAgain, focusForm, takeBack, problem },
  };
}

/** A label that was scanned leads to its place in this tray, else to where its thing is at hand. */
export function useJump(pass: Pass, goTo: (slot: number) => void) {
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const jump = useCallback(
    async (text: string) => {
      try {
        const found = await findThing(text);
        setProblem(null);
        const here = pass.cells.find((each) => each.cell.number === found.number);
        if (here?.cell.slot) goTo(here.cell.slot);
        else navigate(found.thing === "cell" ? `/bench/${found.number}` : pageOf(found.thing, found.number));
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        setProblem(error.message);
      }
    },
    [pass.cells, navigate, goTo],
  );
  return { jump, isScanning: useScanner(jump), scanProblem: problem };
}
