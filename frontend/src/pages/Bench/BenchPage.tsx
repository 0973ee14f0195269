import styled from "styled-components";
import { Button, ButtonLink } from "../../components/Button";
import { CameBackList } from "../../components/CameBackList";
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
import { ALWAYS, MODE_WORDS, modesFor } from "./modes";
import { NumberForm } from "./NumberForm";
import { PaperDate } from "./PaperDate";
import { PassTray } from "./PassTray";
import { type AtBench, useBench } from "./useBench";

/**
 * Number, value, Enter. Each entry is kept at once and judged behind; the form stands before the cell is known, and what
 * comes back from the server never takes a key away from whoever types.
 */
export default function BenchPage() {
  const bench = useBench();
  const { kept, isPass } = bench;
  const isKept = kept.last !== null || kept.refused.length > 0;
  return (
    <Page
      title={bench.step ? STEP_WORDS[bench.step] : bench.placeId ? "Measure it all again" : "Bench"}
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
      <Columns $kept={isKept}>
        <AtHand bench={bench} />
        {isKept && (
          <KeptPlace>
            <CameBackList
              kept={kept}
              onAgain={(refused) => void bench.typeAgain(refused)}
              onSettled={bench.focusForm}
            />
            {kept.last && !kept.last.isRefused && (
              <KeptStrip
                kept={kept.last}
                isStuck={kept.isStuck}
                isAlone={bench.isAlone}
                onUndo={bench.takeBack}
                problem={bench.notTakenBack}
              />
            )}
          </KeptPlace>
        )}
        <WhatIsKnown bench={bench} />
      </Columns>
    </Page>
  );
}

/** The number, the cell and the form it is entered in. */
function AtHand({ bench }: { bench: AtBench }) {
  const { at, cell, isPass, pass, mode, again, story } = bench;
  return (
    <Left {...bench.typing}>
      {!isPass && (
        <NumberForm
          current={bench.number}
          problem={story.error}
          isTypedInto={bench.isTypedInto}
          onChoose={bench.chooseAgain}
          onNothing={bench.kept.acceptNewest}
        />
      )}
      {isPass && !cell && <PassEnd pass={pass} />}
      {at !== null && (
        <>
          {cell ? <CellHead cell={cell} left={isPass ? pass.left : null} /> : <Unknown number={at} query={story} />}
          {!isPass && (
            <Switch
              label="What to enter"
              value={mode}
              onChange={bench.holdAs}
              options={(cell ? modesFor(cell, mode) : ALWAYS).map((each) => [each, MODE_WORDS[each]] as const)}
            />
          )}
          <EntryForm
            key={`${at}-${mode}-${bench.turn}`}
            mode={mode}
            number={cell?.number ?? at}
            cell={cell}
            bench={bench.known}
            again={again}
            isSending={bench.isSending}
            problem={again?.problem ?? bench.problem}
            onSend={bench.send}
            onNothing={bench.kept.acceptNewest}
          />
          <PaperDate value={bench.paperAt} onChange={bench.setPaperAt} />
          {/* Below all that a thumb may be on its way to. */}
          {isPass && pass.isGone && (
            <Notice kind="ask">
              <p>Somebody else did this one meanwhile, or it lies elsewhere.</p>
              <Button onPress={() => pass.markHandled(at)}>Go on to the next</Button>
            </Notice>
          )}
        </>
      )}
      {isPass && cell && <PassTray cell={cell} />}
    </Left>
  );
}

/** What the cell needs next and why: the one at hand, else the one that was just kept. */
function WhatIsKnown({ bench: { shown, cell, at, kept, isPass } }: { bench: AtBench }) {
  if (shown)
    return (
      <Right>
        <NextStep cell={shown} />
        <Sheet>
          {shown.number !== cell?.number && (
            <About>
              <Tape to={`/cells/${shown.number}`}>{shown.number}</Tape>
            </About>
          )}
          <Judgement cell={shown} />
        </Sheet>
      </Right>
    );
  if (at !== null || (kept.last && !kept.last.isRefused))
    return (
      <Right>
        <Quiet aria-busy="true">
          <h2>{at ?? kept.last?.number}</h2>
          <p>
            {at ? "Looking up what is known of it. Type on meanwhile." : "What the cell needs next comes in a moment."}
          </p>
        </Quiet>
      </Right>
    );
  // A pass names its cells by itself.
  if (isPass) return null;
  return (
    <Right>
      <Quiet>
        <h2>Type a number from a strip of tape.</h2>
        <p>What is known of the cell, what it needs next, and why, stands here.</p>
      </Quiet>
    </Right>
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

function PassEnd({ pass: { query, handled, isAtEnd, left, goOn } }: { pass: AtBench["pass"] }) {
  if (!query.data) return <Waiting query={query} what="the cells" />;
  if (!isAtEnd) return <Quiet role="status">Looking for more …</Quiet>;
  if (left > 0)
    return (
      <Quiet role="status">
        <h2>{left === 1 ? "One more needs this now." : `${left} more need this now.`}</h2>
        <Button kind="main" onPress={goOn}>
          Go on
        </Button>
      </Quiet>
    );
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
