import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form, Heading, Button as Toggle } from "react-aria-components";
import { useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { EntryInput, Pick } from "../../api/entries";
import { packQuery } from "../../api/queries";
import { discard, type WaitingEntry } from "../../api/waiting";
import { Button, ButtonLink } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
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
  const [typed, setTyped] = useState("");
  const [isScanning, setScanning] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const kept = useKept();
  const refused = kept.refused.at(-1) ?? null;
  const wrong = kept.refused.find((entry) => entry.refused?.code === "wrong-cell") ?? null;
  const others = kept.refused.filter((entry) => entry !== wrong);
  const last = kept.last && !kept.last.isRefused && !isBack(kept.last.entry) ? kept.last.number : null;
  /** A scanner does not wait for the answer, and whoever holds a wrong cell may have scanned on: all of it is kept. */
  const take = (cell: string) => {
    if (!cell.trim()) return;
    setTyped("");
    kept.keep(cell.trim(), { to: "picks", pack: number, body: { cell: cell.trim(), back: false } });
    field.current?.focus();
  };
  const putBack = (cell: string) => kept.keep(cell, { to: "picks", pack: number, body: { cell, back: true } });
  const typeAgain = (entry: WaitingEntry) => {
    kept.drop(entry.id);
    void discard(entry.id);
    setTyped(entry.number);
    field.current?.focus();
  };
  useScanner(take);
  useUndoKey(() => {
    if (last && !wrong) putBack(last);
  });
  if (!pack.data)
    return (
      <Page title={`Pick for ${number}`}>
        <Waiting query={pack} what="the pick list" />
      </Page>
    );
  const { picks, purpose, state } = pack.data;
  const open = picks.filter((line) => !line.is_picked);
  const next = open[0];
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
      {wrong?.refused && (
        <Takeover key={wrong.id}>
          <Stop>
            <Heading slot="title" level={1}>
              Wrong cell
            </Heading>
            <p>{wrong.refused.text}</p>
            <Button
              kind="danger"
              onPress={() => {
                kept.drop(wrong.id);
                void discard(wrong.id);
              }}
            >
              It is back in its place
            </Button>
          </Stop>
        </Takeover>
      )}
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
          {next ? (
            <Next aria-live="polite">
              <small>Next, from</small>
              <strong>
                {next.place_name ?? "no place"}
                {next.slot !== null && `, place ${next.slot}`}
              </strong>
              <Tape size="large">{next.number}</Tape>
              <span>
                {figure(next.capacity_mah)} mAh, to <b>group {next.group}</b>
              </span>
            </Next>
          ) : (
            <Next>
              <strong>All {picks.length} cells are here.</strong>
              <span>Measure each once more before you join them.</span>
              <ButtonLink to={`/packs/${number}`} $kind="main">
                Go on with the pack
              </ButtonLink>
            </Next>
          )}
          {next && (
            <Entry
              onSubmit={(event) => {
                event.preventDefault();
                take(typed);
              }}
            >
              <Field
                label="Scan or type the number of the cell in your hand"
                value={typed}
                onChange={setTyped}
                inputRef={field}
                size="key"
                maxLength={40}
                autoFocus
              />
              <Button kind="main" type="submit" waitsFor={typed.trim() === "" ? "First its number." : null}>
                I have it
              </Button>
              <Button onPress={() => setScanning(true)}>Camera</Button>
              {last && (
                <Button kind="quiet" onPress={() => putBack(last)}>
                  Undo {last}
                </Button>
              )}
            </Entry>
          )}
          {others.map((entry) => (
            <Notice key={entry.id} kind="ask">
              <CameBack entry={entry} takesEnter={entry === refused} onAgain={typeAgain} />
            </Notice>
          ))}
          {kept.isStuck && (
            <Notice kind="ask">What you picked waits in this browser until the server can be reached.</Notice>
          )}
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
                        onPress={() => (line.is_picked ? putBack(line.number) : take(line.number))}
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
        </Stack>
      )}
      {isScanning && (
        <ScanDialog
          onFound={(text) => {
            setScanning(false);
            take(text);
          }}
          onClose={() => setScanning(false)}
        />
      )}
    </Page>
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
