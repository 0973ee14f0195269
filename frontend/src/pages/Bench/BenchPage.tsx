import styled from "styled-components";
import { ButtonLink } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
import { Switch } from "../../components/Fields";
import { HazardScreen } from "../../components/HazardScreen";
import { Judgement } from "../../components/Judgement";
import { NextStep } from "../../components/NextStep";
import { Notice } from "../../components/Notice";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { STEP_WORDS } from "../../words";
import { CellHead } from "./CellHead";
import { EntryForm } from "./EntryForm";
import { KeptStrip } from "./KeptStrip";
import { MODE_WORDS, modesFor } from "./modes";
import { NumberForm } from "./NumberForm";
import { PaperDate } from "./PaperDate";
import { PassTray } from "./PassTray";
import { BLIND, useBench } from "./useBench";

/**
 * Number, value, Enter. Each entry is kept at once and judged behind; the form stands before the cell is known, and what
 * comes back from the server never takes a key away from whoever types.
 */
export default function BenchPage() {
  const {
    step,
    placeId,
    isPass,
    kept,
    number,
    pass,
    story,
    cell,
    at,
    mode,
    isTypedInto,
    bench,
    paperAt,
    setPaperAt,
    left,
    turn,
    answered,
    send,
    undo,
    undoLast,
    typeAgain,
    focusForm,
    chooseAgain,
    hold,
    holdAs,
    onDigits,
    lastCell,
    shown,
    problem,
    again,
  } = useBench();
  return (
    <Page
      title={step ? STEP_WORDS[step] : placeId ? "Measure it all again" : "Bench"}
      wide
      actions={
        isPass && (
          <ButtonLink to="/bench" $kind="quiet">
            Another cell
          </ButtonLink>
        )
      }
    >
      {kept.danger && (
        <HazardScreen
          key={kept.danger.id}
          number={kept.danger.number}
          text={kept.danger.text}
          onDone={() => kept.onDangerSeen(kept.danger?.id ?? "")}
        />
      )}
      <Columns $kept={kept.last !== null || kept.refused.length > 0}>
        <Left ref={left} onInput={hold} onKeyDown={onDigits}>
          {!isPass && (
            <NumberForm
              current={number}
              problem={story.error}
              isTypedInto={isTypedInto}
              onChoose={chooseAgain}
              onNothing={kept.acceptNewest}
            />
          )}
          {isPass && !cell && <PassEnd query={pass.query} handled={pass.handled} />}
          {at !== null && (
            <>
              {cell ? <CellHead cell={cell} left={isPass ? pass.left : null} /> : <Unknown number={at} query={story} />}
              {!isPass && (
                <Switch
                  label="What to enter"
                  value={mode}
                  onChange={holdAs}
                  options={(cell ? modesFor(cell, mode) : BLIND).map((each) => [each, MODE_WORDS[each]] as const)}
                />
              )}
              <EntryForm
                key={`${at}-${mode}-${turn}`}
                mode={mode}
                number={cell?.number ?? at}
                cell={cell}
                bench={cell && bench.data?.cell.number === cell.number ? bench.data : null}
                again={again}
                isSending={answered.isPending}
                problem={again?.problem ?? problem}
                onSend={send}
                onNothing={kept.acceptNewest}
              />
            </>
          )}
          {at !== null && <PaperDate value={paperAt} onChange={setPaperAt} />}
          {isPass && cell && <PassTray cell={cell} />}
        </Left>
        {(kept.last || kept.refused.length > 0) && (
          <KeptPlace>
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
            {kept.last && !kept.last.isRefused && (
              <KeptStrip
                kept={kept.last}
                isStuck={kept.isStuck}
                isAlone={shown !== lastCell}
                onUndo={undoLast}
                problem={undo.error}
              />
            )}
          </KeptPlace>
        )}
        <Right>
          {shown ? (
            <>
              <NextStep cell={shown} />
              <Sheet>
                {shown.number !== cell?.number && (
                  <About>
                    <Tape to={`/cells/${shown.number}`}>{shown.number}</Tape>
                  </About>
                )}
                <Judgement cell={shown} />
              </Sheet>
            </>
          ) : at !== null || (kept.last && !kept.last.isRefused) ? (
            <Quiet aria-busy="true">
              <h2>{at ?? kept.last?.number}</h2>
              <p>
                {at
                  ? "Looking up what is known of it. Type on meanwhile."
                  : "What the cell needs next comes in a moment."}
              </p>
            </Quiet>
          ) : (
            <Quiet>
              <h2>Type a number from a strip of tape.</h2>
              <p>What is known of the cell, what it needs next, and why, stands here.</p>
            </Quiet>
          )}
        </Right>
      </Columns>
    </Page>
  );
}

/** A number of which nothing is heard yet. */
function Unknown({
  number,
  query,
}: {
  number: string;
  query: Parameters<typeof Waiting>[0]["query"] & { isFetching: boolean };
}) {
  return (
    <Blind>
      <Tape size="large">{number}</Tape>
      <span>{query.isFetching ? "Looking it up …" : "Nothing is known of it yet."}</span>
    </Blind>
  );
}

function PassEnd({
  query,
  handled,
}: {
  query: Parameters<typeof Waiting>[0]["query"] & { data?: unknown };
  handled: number;
}) {
  if (!query.data) return <Waiting query={query} what="the cells" />;
  return (
    <Quiet role="status">
      <h2>{handled > 0 ? "That was the last one." : "No cell needs this now."}</h2>
      <ButtonLink to="/" $kind="main">
        See what is next
      </ButtonLink>
    </Quiet>
  );
}

const Columns = styled.div<{ $kept: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  grid-template-rows: ${({ $kept }) => ($kept ? "auto 1fr" : "auto")};
  grid-template-areas: ${({ $kept }) => ($kept ? '"entry kept" "entry judgement"' : '"entry judgement"')};
  align-items: start;
  gap: var(--apart) var(--sheet);
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); grid-template-rows: none; grid-template-areas: ${({ $kept }) => ($kept ? '"kept"' : "")} "entry" "judgement"; }
`;
const Blind = styled.div`display: flex; align-items: center; gap: var(--step);`;
const About = styled.div`margin-bottom: var(--near);`;
const Left = styled(Sheet)`grid-area: entry; display: grid; gap: var(--block);`;
const KeptPlace = styled.div`grid-area: kept; display: grid; gap: var(--near);`;
const Right = styled.div`grid-area: judgement; display: grid; gap: var(--apart);`;
