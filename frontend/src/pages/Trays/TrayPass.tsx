import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { CameBackList } from "../../components/CameBackList";
import { HazardScreen } from "../../components/HazardScreen";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, TwoColumns } from "../../components/Page";
import ScanDialog from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import type { Kept } from "../../components/useKept";
import { figure } from "../../words";
import { ALL_DONE, LookForm } from "./LookForm";
import { TrayMap } from "./TrayMap";
import { useJump, useWalk } from "./useWalk";
import { isDue, nextDue, siblingsOf, stepped } from "./walk";

type Pass = Schemas["TrayOut"];

/**
 * The cursor walks the numbered places; each cell is looked at and measured with a few keys or one thumb. Enter goes on at
 * once. What comes back moves nothing: whoever types does not look.
 */
export function TrayPass({ pass: read, asOf }: { pass: Pass; asOf: number }) {
  const walk = useWalk(read, asOf);
  const { kept, pass, slot } = walk;
  const { jump, isScanning, scanProblem } = useJump(pass, walk.goTo);
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
        <Left ref={walk.left}>
          {isScanning && <Notice kind="ask">Scanning …</Notice>}
          {scanProblem && <Notice kind="error">{scanProblem}</Notice>}
          <CameBackList kept={kept} onAgain={(refused) => void walk.typeAgain(refused)} onSettled={walk.focusForm} />
          <AtPlace walk={walk} />
        </Left>
        <Right>
          {kept.last && (
            <ToldStrip kept={kept.last} isStuck={kept.isStuck} onUndo={walk.takeBack} problem={walk.problem} />
          )}
          <TrayMap pass={pass} slot={slot} waiting={walk.waiting} onChoose={walk.choose} />
          <Filming onFound={(text) => void jump(text)} />
          <Small>
            Digits are the voltage, letters the findings, Enter keeps both and goes on. Arrows up and down walk without
            keeping. Scan a label to jump to its cell.
          </Small>
        </Right>
      </TwoColumns>
    </>
  );
}

/** The form of the cell that lies at the cursor. */
function AtPlace({ walk }: { walk: ReturnType<typeof useWalk> }) {
  const { current, pass, again } = walk;
  if (!current) return <Empty walk={walk} />;
  const { number } = current.cell;
  return (
    <LookForm
      turn={`${number}-${walk.turn}`}
      each={current}
      siblings={siblingsOf(pass.cells, current)}
      isOnePack={current.is_one_pack}
      waits={walk.waiting.get(number) ?? null}
      again={again?.number === number ? again.typed : null}
      isAllDone={!pass.cells.some(isDue)}
      onKeep={walk.keep}
      onNothing={walk.kept.acceptNewest}
      onStep={(by) => walk.goTo(stepped(pass.cells, walk.slot, by))}
    />
  );
}

/** The cell that lay here was laid elsewhere meanwhile. Nothing typed for it goes to another: whoever types goes on by hand. */
function Empty({ walk }: { walk: ReturnType<typeof useWalk> }) {
  const { pass, slot } = walk;
  const next = nextDue(pass.cells, slot, ({ cell }) => walk.waiting.has(cell.number));
  return (
    <>
      <p>No cell lies in place {slot} any more.</p>
      {next === null ? (
        <Notice kind="kept">{ALL_DONE}</Notice>
      ) : (
        <Button kind="main" autoFocus onPress={() => walk.goTo(next)}>
          Go on with place {next}
        </Button>
      )}
    </>
  );
}

function Filming({ onFound }: { onFound: (text: string) => void }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button onPress={() => setOpen(true)}>Scan a label by camera</Button>
      {isOpen && (
        <ScanDialog
          onClose={() => setOpen(false)}
          onFound={(text) => {
            setOpen(false);
            onFound(text);
          }}
        />
      )}
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
