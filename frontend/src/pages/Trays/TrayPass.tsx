import { useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { sendEntry } from "../../api/entries";
import { findThing, refreshAll } from "../../api/queries";
import { useWaiting } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { HazardScreen } from "../../components/HazardScreen";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, TwoColumns } from "../../components/Page";
import { ScanDialog } from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import { useUndoKey } from "../../components/useUndoKey";
import { figure, pageOf } from "../../words";
import { LookForm, type Told } from "./LookForm";
import { TrayMap } from "./TrayMap";
import { useScanner } from "./useScanner";
import { isDue, nextDue, siblingsOf, startOf, stepped } from "./walk";

type Pass = Schemas["TrayOut"];

/** The cursor walks the numbered places; each cell is looked at and measured with a few keys or one thumb. */
export function TrayPass({ pass }: { pass: Pass }) {
  const navigate = useNavigate();
  const waiting = useWaiting().entries;
  const [slot, setSlot] = useState(() => startOf(pass));
  const [told, setTold] = useState<Told | null>(null);
  const [hazard, setHazard] = useState<string | null>(null);
  const [isFilming, setFilming] = useState(false);
  const [scanProblem, setScanProblem] = useState<string | null>(null);
  // Counted up to give a form that stays the focus again.
  const [turn, setTurn] = useState(0);
  const handled = useMemo(() => new Map(waiting.map((entry) => [entry.number, entry])), [waiting]);
  const current = pass.cells.find((each) => each.cell.slot === slot) ?? null;

  const goOn = useCallback(
    (from: number, done: string) => {
      const next = nextDue(pass.cells, from, (each) => each.cell.number === done || handled.has(each.cell.number));
      setSlot(next ?? from);
      setTurn((before) => before + 1);
    },
    [pass.cells, handled],
  );
  const jump = useCallback(
    async (text: string) => {
      try {
        const found = await findThing(text);
        setScanProblem(null);
        const here = pass.cells.find((each) => each.cell.number === found.number);
        if (here?.cell.slot) setSlot(here.cell.slot);
        else navigate(found.thing === "cell" ? `/bench/${found.number}` : pageOf(found.thing, found.number));
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        setScanProblem(error.message);
      }
    },
    [pass.cells, navigate],
  );
  const isScanning = useScanner(jump);
  const undo = useWrite(sendEntry, () => {
    if (told?.slot) setSlot(told.slot);
    setTold(null);
    setTurn((before) => before + 1);
  });
  const undoLast = useCallback(() => {
    if (told?.entryId)
      undo.mutate({ number: told.number, entry: { to: "withdrawals", body: { entry_id: told.entryId } } });
  }, [told, undo.mutate]);
  useUndoKey(undoLast);

  return (
    <>
      {hazard && (
        <HazardScreen
          number={hazard}
          text="Its siblings are flagged: look at each of them once more."
          onDone={() => {
            setHazard(null);
            setTurn((before) => before + 1);
          }}
        />
      )}
      <TwoColumns $left={1.15}>
        <Left>
          {isScanning && <Notice kind="ask">Scanning …</Notice>}
          {scanProblem && <Notice kind="error">{scanProblem}</Notice>}
          {current ? (
            <LookForm
              key={`${current.cell.number}-${turn}`}
              each={current}
              siblings={siblingsOf(pass.cells, current)}
              waits={handled.get(current.cell.number) ?? null}
              isAllDone={!pass.cells.some(isDue)}
              onDone={(next) => {
                setTold(next.told);
                if (next.isHazard) setHazard(next.told.number);
                goOn(slot, next.told.number);
                refreshAll();
              }}
              onStep={(by) => setSlot(stepped(pass.cells, slot, by))}
            />
          ) : (
            <p>No cell lies in this place. Tap another one.</p>
          )}
        </Left>
        <Right>
          {told && <ToldStrip told={told} onUndo={undoLast} problem={undo.error} />}
          <TrayMap pass={pass} slot={slot} waiting={handled} onChoose={setSlot} />
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

function ToldStrip({ told, onUndo, problem }: { told: Told; onUndo: () => void; problem: unknown }) {
  return (
    <Notice kind={told.waits ? "ask" : "kept"}>
      <Row>
        <Tape size="small" to={`/bench/${told.number}`}>
          {told.number}
        </Tape>
        <span>
          {told.said}, {told.waits ? "waits in this browser" : "kept"}.
        </span>
        {told.entryId !== null && (
          <Button kind="quiet" onPress={onUndo}>
            Undo
          </Button>
        )}
      </Row>
      {told.gap !== null && (
        <p>
          It reads {figure(Math.abs(told.gap), 2)} V {told.gap < 0 ? "below" : "above"} its siblings. Watch it: such a
          cell often leaks.
        </p>
      )}
      <ProblemNotice problem={problem} />
    </Notice>
  );
}

const Left = styled(Sheet)`display: grid; gap: 0.875rem;`;
const Right = styled.div`display: grid; gap: 0.75rem;`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 0.5rem 0.75rem;`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
