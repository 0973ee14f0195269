import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form, Heading, Button as Toggle } from "react-aria-components";
import { useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { bare, type EntryInput, type Pick } from "../../api/entries";
import { packQuery } from "../../api/queries";
import { discard, useWaiting, type WaitingEntry } from "../../api/waiting";
import { Button, ButtonLink } from "../../components/Button";
import { CameBackList } from "../../components/CameBackList";
import { Field } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Page, Quiet, Waiting } from "../../components/Page";
import ScanDialog from "../../components/ScanDialog";
import { Takeover } from "../../components/Takeover";
import { Tape } from "../../components/Tape";
import { useKept } from "../../components/useKept";
import { useScanner } from "../../components/useScanner";
import { useUndoKey } from "../../components/useUndoKey";
import { figure } from "../../words";

type Line = Schemas["PickOut"];

/** Fetching the cells of a plan in walking order, each confirmed by its label; a wrong one stops until it is put back. */
export default function PickPage() {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  const hands = usePicking(number);
  const waiting = usePicksThatWait(number);
  if (!pack.data)
    return (
      <Page title={`Pick for ${number}`}>
        <Waiting query={pack} what="the pick list" />
      </Page>
    );
  const { purpose, state } = pack.data;
  const picks = asInHand(pack.data.picks, waiting);
  // Without the server the list itself tells whether a cell is one of it.
  const stray = hands.kept.isStuck
    ? waiting.find(({ number: cell, entry }) => !isBack(entry) && !picks.some((line) => line.number === bare(cell)))
    : null;
  const wrong = hands.wrong ?? stray;
  const open = picks.filter((line) => !line.is_picked);
  const isStale = (pack.data.plan?.stale ?? []).some((cell) => cell.reason !== null);
  return (
    <Page
      title={`Pick for ${purpose}`}
      lead={`Pack ${number}: ${picks.length - open.length} of ${picks.length} picked`}
      actions={
        <ButtonLink to={`/packs/${number}`} $kind="plain">
          Back to the plan
        </ButtonLink>
      }
    >
      {wrong && <WrongCell key={wrong.id} entry={wrong} onBack={hands.forget} />}
      {state !== "planned" ? (
        <Quiet>This pack is no plan any more; there is nothing to pick.</Quiet>
      ) : isStale ? (
        <Quiet>
          <h2>Mend the plan first.</h2>
          <p>A cell of it can no longer take part. The plan says which, and what can take its place.</p>
          <ButtonLink to={`/packs/${number}`} $kind="main">
            Mend the plan
          </ButtonLink>
        </Quiet>
      ) : (
        <Stack>
          <NextPick line={open[0] ?? null} count={picks.length} number={number} isSent={waiting.length === 0} />
          {open.length > 0 && <InHand hands={hands} />}
          <CameBackList kept={hands.kept} except={hands.wrong} onAgain={hands.typeAgain} />
          {hands.kept.isStuck && (
            <Notice kind="ask">What you picked waits in this browser until the server can be reached.</Notice>
          )}
          <WalkingList picks={picks} onTake={hands.take} onBack={hands.putBack} />
        </Stack>
      )}
    </Page>
  );
}

/** What was picked and typed, and what became of it. */
function usePicking(pack: string) {
  const [typed, setTyped] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const kept = useKept();
  const wrong = kept.refused.find((entry) => entry.refused?.code === "wrong-cell") ?? null;
  const last = kept.last && !kept.last.isRefused && !isBack(kept.last.entry) ? kept.last.number : null;
  /** A scanner does not wait for the answer, and whoever holds a wrong cell may have scanned on: all of it is kept. */
  const take = (cell: string) => {
    if (!cell.trim()) return;
    setTyped("");
    kept.keep(cell.trim(), { to: "picks", pack, body: { cell: cell.trim(), back: false } });
    field.current?.focus();
  };
  const putBack = (cell: string) => kept.keep(cell, { to: "picks", pack, body: { cell, back: true } });
  const forget = (entry: WaitingEntry) => {
    kept.drop(entry.id);
    void discard(entry.id);
  };
  const typeAgain = (entry: WaitingEntry) => {
    forget(entry);
    setTyped(entry.number);
    field.current?.focus();
  };
  useScanner(take);
  useUndoKey(() => {
    if (last && !wrong) putBack(last);
  });
  return { typed, setTyped, field, kept, wrong, last, take, putBack, forget, typeAgain };
}

/** What was picked here and has not reached the server yet. */
function usePicksThatWait(pack: string): WaitingEntry[] {
  return useWaiting().entries.filter(({ entry, refused }) => !refused && entry.to === "picks" && entry.pack === pack);
}

/** What waits counts as done, so that the next cell is shown; should the server refuse it, it comes back. */
function asInHand(picks: readonly Line[], waiting: readonly WaitingEntry[]): Line[] {
  const taken = new Map(waiting.map(({ number, entry }) => [bare(number), !isBack(entry)]));
  return picks.map((line) => ({ ...line, is_picked: taken.get(line.number) ?? line.is_picked }));
}

function WrongCell({ entry, onBack }: { entry: WaitingEntry; onBack: (entry: WaitingEntry) => void }) {
  return (
    <Takeover>
      <Stop>
        <Heading slot="title" level={1}>
          Wrong cell
        </Heading>
        <p>{entry.refused?.text ?? `${bare(entry.number)} does not belong to this pack. Put it back where it lay.`}</p>
        <Button kind="danger" onPress={() => onBack(entry)}>
          It is back in its place
        </Button>
      </Stop>
    </Takeover>
  );
}

/** Where the next cell lies; null: all are here. Whoever goes on finds a pack that knows of all of them. */
function NextPick({
  line,
  count,
  number,
  isSent,
}: {
  line: Line | null;
  count: number;
  number: string;
  isSent: boolean;
}) {
  if (!line)
    return (
      <Next>
        <strong>All {count} cells are here.</strong>
        <span>Measure each once more before you join them.</span>
        {isSent ? (
          <ButtonLink to={`/packs/${number}`} $kind="main">
            Go on with the pack
          </ButtonLink>
        ) : (
          <span>The last ones are being sent.</span>
        )}
      </Next>
    );
  return (
    <Next aria-live="polite">
      <small>Next, from</small>
      <strong>
        {line.place_name ?? "no place"}
        {line.slot !== null && `, place ${line.slot}`}
      </strong>
      <Tape size="large">{line.number}</Tape>
      <span>
        {figure(line.capacity_mah)} mAh, to <b>group {line.group}</b>
      </span>
    </Next>
  );
}

/** The number of the cell in the hand: scanned, filmed or typed. */
function InHand({ hands }: { hands: ReturnType<typeof usePicking> }) {
  const { typed, last } = hands;
  const [isFilming, setFilming] = useState(false);
  return (
    <>
      <Entry
        onSubmit={(event) => {
          event.preventDefault();
          hands.take(typed);
        }}
      >
        <Field
          label="Scan or type the number of the cell in your hand"
          value={typed}
          onChange={hands.setTyped}
          inputRef={hands.field}
          size="key"
          maxLength={40}
          autoFocus
        />
        <Button kind="main" type="submit" waitsFor={typed.trim() === "" ? "First its number." : null}>
          I have it
        </Button>
        <Button onPress={() => setFilming(true)}>Camera</Button>
        {last && (
          <Button kind="quiet" onPress={() => hands.putBack(last)}>
            Undo {last}
          </Button>
        )}
      </Entry>
      {isFilming && (
        <ScanDialog
          onFound={(text) => {
            setFilming(false);
            hands.take(text);
          }}
          onClose={() => setFilming(false)}
        />
      )}
    </>
  );
}

/** All cells by the places they lie in; each can be ticked by hand. */
function WalkingList({
  picks,
  onTake,
  onBack,
}: {
  picks: readonly Line[];
  onTake: (number: string) => void;
  onBack: (number: string) => void;
}) {
  return (
    <Walk>
      {byPlace(picks).map(([place, lines]) => (
        <section key={place}>
          <h2>{place}</h2>
          <ul>
            {lines.map((line) => (
              <li key={line.number}>
                <Item
                  $done={line.is_picked}
                  aria-pressed={line.is_picked}
                  onPress={() => (line.is_picked ? onBack(line.number) : onTake(line.number))}
                >
                  <Box aria-hidden="true">{line.is_picked ? "✕" : ""}</Box>
                  <span>{line.number}</span>
                  <small>
                    {line.slot !== null && `place ${line.slot}, `}group {line.group}
                    {line.is_picked && ", picked"}
                  </small>
                </Item>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </Walk>
  );
}

const isBack = (entry: EntryInput | Pick) => entry.to === "picks" && entry.body.back;

function byPlace(lines: readonly Line[]): [string, Line[]][] {
  const places = new Map<string, Line[]>();
  for (const line of lines) {
    const place = line.place_name ?? "No place";
    places.set(place, [...(places.get(place) ?? []), line]);
  }
  return [...places];
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Next = styled.section`
  display: grid;
  gap: var(--slit);
  justify-items: start;
  padding: var(--block) var(--room);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  > strong { font-size: ${({ theme }) => theme.size.title}; }
  > span { font-size: ${({ theme }) => theme.size.lead}; }
`;
const Entry = styled(
  Form,
)`display: flex; flex-wrap: wrap; align-items: end; gap: var(--apart); > :first-child { flex: 1 1 16rem; }`;
const Walk = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
  gap: var(--block);
  section { padding: var(--apart) var(--block); background: ${({ theme }) => theme.color.paper}; }
`;
const Item = styled(Toggle)<{ $done: boolean }>`
  display: flex;
  align-items: center;
  gap: var(--gap);
  width: 100%;
  min-height: 44px;
  padding: var(--hair) 0;
  border: 0;
  background: none;
  cursor: pointer;
  color: ${({ theme, $done }) => ($done ? theme.color.inkSoft : theme.color.ink)};
  span { font: 700 1.125rem ${({ theme }) => theme.font.figure}; }
  small { margin-left: auto; font-size: ${({ theme }) => theme.size.note}; }
`;
const Box = styled.i`
  display: inline-grid;
  place-items: center;
  width: 1.375rem;
  height: 1.375rem;
  border: 2px solid currentColor;
  font: 700 1rem/1 ${({ theme }) => theme.font.figure};
`;
const Stop = styled.div`
  display: grid;
  gap: var(--sheet);
  align-content: center;
  justify-items: start;
  min-height: 70vh;
  padding: var(--yard);
  h1 { font-size: ${({ theme }) => theme.size.key}; line-height: 1; }
  p { font-size: ${({ theme }) => theme.size.title}; max-width: 40rem; }
`;
