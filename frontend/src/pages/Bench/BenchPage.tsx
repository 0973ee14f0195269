import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Cell, Step } from "../../api/client";
import { type EntryAnswer, type EntryInput, mayWait, sendEntry } from "../../api/entries";
import { benchQuery, storyQuery } from "../../api/queries";
import { sendOrWait } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { ButtonLink } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { isHazard } from "../../components/findings";
import { HazardScreen } from "../../components/HazardScreen";
import { Judgement } from "../../components/Judgement";
import { NextStep } from "../../components/NextStep";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { useUndoKey } from "../../components/useUndoKey";
import { STEP_WORDS } from "../../words";
import { CellHead } from "./CellHead";
import { EntryForm } from "./EntryForm";
import { KeptStrip } from "./KeptStrip";
import { MODE_WORDS, type Mode, modeOf, modesFor } from "./modes";
import { NumberForm } from "./NumberForm";
import { PassTray } from "./PassTray";
import { usePass } from "./usePass";

type Kept = { answer: EntryAnswer; said: string };
type Sent = { number: string; entry: EntryInput };

/** Straight to the server, or into this browser where it cannot be reached: then there is no answer yet. */
const sendAny = ({ number, entry }: Sent, key: string): Promise<EntryAnswer | null> =>
  mayWait(entry) ? sendOrWait(number, entry, key) : sendEntry({ number, entry }, key);

/** Number, value, Enter; the judgement and the next step stand there at once. */
export function BenchPage() {
  const { number } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const step = search.get("step") as Step | null;
  // A whole box measured again: every cell in it, whatever its next step.
  const placeId = step ? null : Number(search.get("place")) || null;
  const pass = usePass(step, search.get("donor"), placeId);
  const isPass = step !== null || placeId !== null;
  const story = useQuery({ ...storyQuery(number ?? ""), enabled: Boolean(number) });
  const cell = isPass ? pass.current : number ? (story.data?.cell ?? null) : null;
  const [chosen, setChosen] = useState<{ number: string; mode: Mode } | null>(null);
  const [kept, setKept] = useState<Kept | null>(null);
  const [hazard, setHazard] = useState<Cell | null>(null);
  // Counted up when the hazard screen closes, so that the form behind it takes the focus again.
  const [returns, setReturns] = useState(0);
  const mode = cell
    ? chosen?.number === cell.number
      ? chosen.mode
      : placeId
        ? "voltage"
        : modeOf(step ?? cell.step)
    : "wait";

  const bench = useQuery({ ...benchQuery(cell?.number ?? ""), enabled: cell !== null });

  const send = useWrite(sendAny, (answer, { number: about, entry }) => {
    setKept(answer && { answer, said: describe(entry) });
    const saysHazard = entry.to === "inspections" && entry.body.findings.some(isHazard);
    if (answer ? answer.cell.reasons[0]?.code === "hazard" && entry.to !== "moves" : saysHazard)
      setHazard(answer?.cell ?? cell);
    if (entry.to === "recovery-starts" || entry.to === "recovery-checks") {
      if (answer?.cell.step === "recover") return;
    }
    if (isPass) pass.markHandled(about);
    else navigate("/bench");
  });
  const undo = useWrite(sendEntry, (answer) => {
    setKept(null);
    if (isPass) pass.markOpen(answer.cell.number);
    else navigate(`/bench/${answer.cell.number}`);
  });
  const undoLast = useCallback(() => {
    if (kept?.answer.entry_id)
      undo.mutate({
        number: kept.answer.cell.number,
        entry: { to: "withdrawals", body: { entry_id: kept.answer.entry_id } },
      });
  }, [kept, undo.mutate]);
  useUndoKey(undoLast);

  const shown = isPass || !cell ? (kept?.answer.cell ?? cell) : cell;
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
      {hazard && (
        <HazardScreen
          number={hazard.number}
          text={hazard.reasons[0]?.code === "hazard" ? hazard.reasons[0].text : ""}
          onDone={() => {
            setHazard(null);
            setReturns((before) => before + 1);
          }}
        />
      )}
      <Columns $kept={kept !== null}>
        <Left>
          {!isPass && (
            <NumberForm
              key={number ?? "none"}
              current={number}
              problem={story.error}
              onChoose={(next) => navigate(`/bench/${next}`)}
            />
          )}
          {isPass && !cell && <PassEnd query={pass.query} handled={pass.handled} />}
          {cell && (
            <>
              <CellHead cell={cell} left={isPass ? pass.left : null} />
              {!isPass && (
                <Switch
                  label="What to enter"
                  value={mode}
                  onChange={(next) => setChosen({ number: cell.number, mode: next })}
                  options={modesFor(cell).map((each) => [each, MODE_WORDS[each]] as const)}
                />
              )}
              <EntryForm
                key={`${cell.number}-${mode}-${returns}`}
                mode={mode}
                cell={cell}
                bench={bench.data?.cell.number === cell.number ? bench.data : null}
                isSending={send.isPending}
                problem={send.variables?.number === cell.number ? send.error : null}
                onSend={(entry: EntryInput) => send.mutate({ number: cell.number, entry })}
              />
            </>
          )}
          {isPass && cell && <PassTray cell={cell} />}
        </Left>
        {kept && (
          <KeptPlace>
            <KeptStrip
              cell={kept.answer.cell}
              said={kept.said}
              gap={kept.answer.gap_to_siblings_v}
              onUndo={undoLast}
              problem={undo.error}
            />
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

function describe(entry: EntryInput): string {
  switch (entry.to) {
    case "inspections":
      return entry.body.findings.length === 0 ? "looked at, nothing found" : "findings kept";
    case "readings":
      return `${entry.body.value} ${{ voltage: "V", capacity: "mAh", resistance: "mΩ" }[entry.body.quantity]} kept`;
    case "measurements":
      return "figure kept";
    case "charges":
      return `charge to ${entry.body.end_v} V kept`;
    case "first-looks":
      return "looked at";
    case "recoveries":
      return `recovery ${entry.body.outcome}`;
    case "recovery-starts":
      return "its clock runs";
    case "recovery-checks":
      return `${entry.body.value} V kept`;
    case "moves":
      return `lies in ${entry.body.place}`;
    case "uses":
      return `in use in ${entry.body.device}`;
    case "repairs":
      return "ticked off";
    case "skips":
      return `${entry.body.what} skipped`;
    case "decisions":
      return "decided";
    case "shelvings":
      return "on the shelf";
    case "out-box":
      return "in the out-box";
    case "withdrawals":
      return "undone";
  }
}

const Columns = styled.div<{ $kept: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  grid-template-rows: ${({ $kept }) => ($kept ? "auto 1fr" : "auto")};
  grid-template-areas: ${({ $kept }) => ($kept ? '"entry kept" "entry judgement"' : '"entry judgement"')};
  align-items: start;
  gap: 0.75rem 1.25rem;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); grid-template-rows: none; grid-template-areas: ${({ $kept }) => ($kept ? '"kept"' : "")} "entry" "judgement"; }
`;
const About = styled.div`margin-bottom: 0.5rem;`;
const Left = styled(Sheet)`grid-area: entry; display: grid; gap: 1rem;`;
const KeptPlace = styled.div`grid-area: kept;`;
const Right = styled.div`grid-area: judgement; display: grid; gap: 0.75rem;`;
