import { useCallback, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { type QueuedEntry, sendEntry } from "../../api/entries";
import { findThing } from "../../api/queries";
import { discard, forgetAnswer, useWaiting, type WaitingEntry } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
import { HazardScreen } from "../../components/HazardScreen";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, TwoColumns } from "../../components/Page";
import ScanDialog from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import { type Kept, useFocusAfter, useKept } from "../../components/useKept";
import { useScanner } from "../../components/useScanner";
import { useUndoKey } from "../../components/useUndoKey";
import { figure, pageOf } from "../../words";
import { type Again, LookForm } from "./LookForm";
import { TrayMap } from "./TrayMap";
import { isDue, nextDue, siblingsOf, startOf, stepped, withAnswers } from "./walk";

type Pass = Schemas["TrayOut"];

/**
 * The cursor walks the numbered places; each cell is looked at and measured with a few keys or one thumb. Enter goes on at
 * once. What comes back moves nothing: whoever types does not look.
 */
export function TrayPass({ pass: read, asOf }: { pass: Pass; asOf: number }) {
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

  return (
    <>
      {kept.danger && (
        <HazardScreen
          key={kept.danger.id}
          number={kept.danger.number}
          text={kept.danger.text || "Its siblings are flagged: look at each of them once more."}
          onDone={() => kept.onDangerSeen(kept.danger?.id ?? "")}
        />
      )}
      <TwoColumns $left={1.15}>
        <Left ref={left}>
          {isScanning && <Notice kind="ask">Scanning …</Notice>}
          {scanProblem && <Notice kind="error">{scanProblem}</Notice>}
          {kept.refused.map((entry) => (
            <Notice key={entry.id} kind="ask">
              <CameBack
                entry={entry}
                takesEnter={entry === kept.refused.at(-1)}
                onAgain={(refused) => void typeAgain(refused)}
                onSettled={focusForm}
              />
            </Notice>
          ))}
          {current ? (
            <LookForm
              turn={`${current.cell.number}-${turn}`}
              each={current}
              siblings={siblingsOf(pass.cells, current)}
              isOnePack={current.is_one_pack}
              waits={waiting.get(current.cell.number) ?? null}
              again={again?.number === current.cell.number ? again.typed : null}
              isAllDone={!pass.cells.some(isDue)}
              onKeep={keep}
              onNothing={kept.acceptNewest}
              onStep={(by) => goTo(stepped(pass.cells, slot, by))}
            />
          ) : (
            <p>No cell lies in this place. Tap another one.</p>
          )}
        </Left>
        <Right>
          {kept.last && <ToldStrip kept={kept.last} isStuck={kept.isStuck} onUndo={undoLast} problem={undo.error} />}
          <TrayMap pass={pass} slot={slot} waiting={waiting} onChoose={choose} />
          <Button onPress={() => setFilming(true)}>Scan a label by camera</Button>
          {isFilming && (
            <ScanDialog
              onClose={() => setFilming(false)}
              onFound={(text) => {
                setFilming(false);
                void jump(text);
              }}
            />
          )}
          <Small>
            Digits are the voltage, letters the findings, Enter keeps both and goes on. Arrows up and down walk without
            keeping. Scan a label to jump to its cell.
          </Small>
        </Right>
      </TwoColumns>
    </>
  );
}

function ToldStrip({
  kept,
  isStuck,
  onUndo,
  problem,
}: {
  kept: Kept;
  isStuck: boolean;
  onUndo: () => void;
  problem: unknown;
}) {
  const { answer } = kept;
  const isHazard = answer?.cell.reasons[0]?.code === "hazard";
  const gap = answer?.gap_to_siblings_v ?? null;
  return (
    <Notice kind={kept.isKept ? "kept" : "ask"}>
      <Row>
        <Tape size="small" to={`/bench/${kept.number}`}>
          {kept.number}
        </Tape>
        <span>
          {kept.said}, {kept.isKept ? "kept" : kept.isRefused ? "came back" : isStuck ? "waits in this browser" : "…"}.
        </span>
        {answer?.entry_id && !isHazard && (
          <Button kind="quiet" onPress={onUndo}>
            Undo
          </Button>
        )}
      </Row>
      {gap !== null && (
        <p>
          It reads {figure(Math.abs(gap), 2)} V {gap < 0 ? "below" : "above"} its siblings. Watch it: such a cell often
          leaks.
        </p>
      )}
      <ProblemNotice problem={problem} />
    </Notice>
  );
}

const Left = styled(Sheet)`display: grid; gap: var(--step); scroll-margin-top: var(--near);`;
const Right = styled.div`display: grid; gap: var(--apart);`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near) var(--apart);`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
