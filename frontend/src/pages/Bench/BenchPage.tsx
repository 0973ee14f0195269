import { useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { Problem, type Step } from "../../api/client";
import { type EntryInput, mayWait, type Pick, type QueuedEntry, sendEntry } from "../../api/entries";
import { benchQuery, storyQuery } from "../../api/queries";
import { discard, forgetAnswer, type WaitingEntry } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { ButtonLink } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
import { Switch } from "../../components/Fields";
import { HazardScreen } from "../../components/HazardScreen";
import { Judgement } from "../../components/Judgement";
import { NextStep } from "../../components/NextStep";
import { Notice } from "../../components/Notice";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { useFocusAfter, useKept } from "../../components/useKept";
import { useUndoKey } from "../../components/useUndoKey";
import { STEP_WORDS } from "../../words";
import { CellHead } from "./CellHead";
import { EntryForm } from "./EntryForm";
import { KeptStrip } from "./KeptStrip";
import { MODE_WORDS, type Mode, modeOf, modesFor } from "./modes";
import { NumberForm } from "./NumberForm";
import { PaperDate } from "./PaperDate";
import { PassTray } from "./PassTray";
import type { Draft } from "./ReadingForm";
import { usePass } from "./usePass";

/** What a cell whose number was just typed is entered in, before anything is known of it. */
const BLIND: readonly Mode[] = ["voltage", "capacity", "resistance", "charge"];
/** Forms without a field of their own: digits typed there are meant as a voltage. */
const WITHOUT_FIELD: readonly Mode[] = ["wait", "shelve", "out-box", "repair", "decide"];
const DIGITS = /^[0-9.,]$/;

/**
 * Number, value, Enter. Each entry is kept at once and judged behind; the form stands before the cell is known, and what
 * comes back from the server never takes a key away from whoever types.
 */
export default function BenchPage() {
  const [number, choose] = useNumber();
  const [search] = useSearchParams();
  const step = search.get("step") as Step | null;
  // A whole box measured again: every cell in it, whatever its next step.
  const placeId = step ? null : Number(search.get("place")) || null;
  const isPass = step !== null || placeId !== null;
  const kept = useKept();
  // The form that somebody is typing into stays as it is until it is sent, whatever is heard of its cell meanwhile.
  const [held, setHeld] = useState<{ number: string; mode: Mode } | null>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const [lastMode, setLastMode] = useState<Mode>("voltage");
  const [turn, setTurn] = useState(0);
  const [paperAt, setPaperAt] = useState<string | null>(null);
  const left = useRef<HTMLElement>(null);
  const pass = usePass(step, search.get("donor"), placeId, held?.number ?? null);
  const story = useQuery({ ...storyQuery(number ?? ""), enabled: Boolean(number) && !isPass });
  const cell = isPass ? pass.current : number ? (story.data?.cell ?? null) : null;
  // Typed into, a form stays also where its number turns out to be none: what was typed comes back with the reason.
  const isTypedInto = held !== null && held.number === number;
  const at = isPass ? (cell?.number ?? null) : story.error && !isTypedInto ? null : (number ?? null);
  const blind = BLIND.includes(lastMode) ? lastMode : "voltage";
  const followed = cell ? (placeId ? "voltage" : modeOf(step ?? cell.step)) : blind;
  const mode = held !== null && held.number === at ? held.mode : followed;
  const bench = useQuery({ ...benchQuery(cell?.number ?? ""), enabled: cell !== null });

  const goOn = (about: string) => {
    setHeld(null);
    setDraft(null);
    setLastMode(mode);
    setTurn((before) => before + 1);
    if (isPass) pass.markHandled(about);
    else choose(null);
  };
  const answered = useWrite(sendEntry, (answer, { number: about, entry }) => {
    kept.tell(about, entry, answer);
    const goesOn = entry.to === "recovery-starts" || entry.to === "recovery-checks";
    if (goesOn && answer.cell.step === "recover") return;
    goOn(about);
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
  const undo = useWrite(sendEntry, ({ cell: back }) => {
    if (kept.last) {
      forgetAnswer(kept.last.id);
      kept.drop(kept.last.id);
    }
    if (isPass) pass.markOpen(back.number);
    else choose(back.number);
  });
  const entryId = kept.last?.answer?.entry_id ?? null;
  const undoLast = () => {
    if (kept.last && entryId)
      undo.mutate({ number: kept.last.number, entry: { to: "withdrawals", body: { entry_id: entryId } } });
  };
  useUndoKey(undoLast);
  const typeAgain = async (entry: WaitingEntry) => {
    setDraft(draftOf(entry));
    setHeld({ number: entry.number, mode: modeOfEntry(entry.entry) });
    setTurn((before) => before + 1);
    await discard(entry.id);
    kept.drop(entry.id);
    if (isPass) pass.markOpen(entry.number);
    else choose(entry.number);
  };
  const focusForm = useFocusAfter(kept.danger, left);
  /** A right number in place of a wrong one takes along what was typed for it. */
  const chooseAgain = (next: string) => {
    if (draft?.problem && (draft.problem.field === "number" || draft.problem.code === "not-found")) {
      setDraft({ ...draft, number: next, problem: null });
      if (held) setHeld({ ...held, number: next });
    }
    choose(next);
  };
  const hold = () => {
    if (at !== null && held?.number !== at) setHeld({ number: at, mode });
  };
  const onDigits = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || at === null) return;
    if (event.target instanceof HTMLInputElement && !["radio", "checkbox"].includes(event.target.type)) return;
    if (!DIGITS.test(event.key) || !WITHOUT_FIELD.includes(mode)) return;
    event.preventDefault();
    setDraft({ number: at, value: event.key, problem: null });
    setHeld({ number: at, mode: "voltage" });
  };

  const lastCell = kept.last?.answer?.cell ?? null;
  const shown = cell ?? (at === null ? lastCell : null);
  const problem = answered.variables?.number === at ? answered.error : null;
  const again = draft !== null && draft.number === at ? draft : null;
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
                  onChange={(next) => setHeld({ number: at, mode: next })}
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
