import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
import { HazardScreen } from "../../components/HazardScreen";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, TwoColumns } from "../../components/Page";
import ScanDialog from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import type { Kept } from "../../components/useKept";
import { figure } from "../../words";
import { LookForm } from "./LookForm";
import { TrayMap } from "./TrayMap";
import { useWalk } from "./useWalk";
import { isDue, siblingsOf, stepped } from "./walk";

type Pass = Schemas["TrayOut"];

/**
 * The cursor walks the numbered places; each cell is looked at and measured with a few keys or one thumb. Enter goes on at
 * once. What comes back moves nothing: whoever types does not look.
 */
export function TrayPass({ pass: read, asOf }: { pass: Pass; asOf: number }) {
  const {
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
  } = useWalk(read, asOf);
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
