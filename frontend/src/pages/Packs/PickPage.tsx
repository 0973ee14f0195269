import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import { flushSync } from "react-dom";
import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { packQuery } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Page, Quiet, Waiting } from "../../components/Page";
import { ScanDialog } from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import { useUndoKey } from "../../components/useUndoKey";
import { figure } from "../../words";
import { useScanner } from "../Trays/useScanner";

type Line = Schemas["PickOut"];

/** Fetching the cells of a plan in walking order, each confirmed by its label; a wrong one stops until it is put back. */
export default function PickPage() {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  const [typed, setTyped] = useState("");
  const [isScanning, setScanning] = useState(false);
  const [last, setLast] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const pick = useWrite(
    (body: Schemas["PickIn"], key) =>
      answer(() => api.POST("/api/packs/{number}/picks", { params: { path: { number } }, headers: once(key), body })),
    (_, { cell, back }) => {
      setLast(back ? null : cell.trim().toUpperCase());
      field.current?.focus();
    },
  );
  const wrong = pick.error instanceof Problem && pick.error.code === "wrong-cell" ? pick.error : null;
  /** What was refused stands there again, marked, so that the next number takes its place. */
  const showAgain = (cell: string) => {
    if (field.current?.value !== "") return;
    // At once, so that no key comes in between.
    flushSync(() => setTyped(cell));
    field.current?.select();
  };
  const take = (cell: string) => {
    // Whoever holds a wrong cell has it put back first: nothing else is taken meanwhile.
    if (wrong || !cell.trim()) return;
    // A scanner does not wait for the answer: the next number may come before it.
    setTyped("");
    pick.mutate({ cell: cell.trim(), back: false }, { onError: () => showAgain(cell) });
  };
  useScanner(take);
  useUndoKey(() => last && !wrong && pick.mutate({ cell: last, back: true }));
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
  if (wrong)
    return (
      <Stop role="alertdialog" aria-label="Wrong cell">
        <h1>Wrong cell</h1>
        <p>{wrong.message}</p>
        <Button
          kind="danger"
          autoFocus
          onPress={() => {
            pick.reset();
            setTyped("");
          }}
        >
          It is back in its place
        </Button>
      </Stop>
    );
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
              <Button kind="main" type="submit" isDisabled={typed.trim() === ""}>
                I have it
              </Button>
              <Button onPress={() => setScanning(true)}>Camera</Button>
              {last && (
                <Button kind="quiet" onPress={() => pick.mutate({ cell: last, back: true })}>
                  Undo {last}
                </Button>
              )}
            </Entry>
          )}
          {pick.error && <ProblemNotice problem={pick.error} />}
          <Walk>
            {byPlace(picks).map(([place, lines]) => (
              <section key={place}>
                <h2>{place}</h2>
                <ul>
                  {lines.map((line) => (
                    <Item key={line.number} $done={line.is_picked}>
                      <Box aria-hidden="true">{line.is_picked ? "✕" : ""}</Box>
                      <span>{line.number}</span>
                      <small>
                        {line.slot !== null && `place ${line.slot}, `}group {line.group}
                        {line.is_picked && ", picked"}
                      </small>
                    </Item>
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

function byPlace(lines: readonly Line[]): [string, Line[]][] {
  const places = new Map<string, Line[]>();
  for (const line of lines) {
    const place = line.place_name ?? "No place";
    places.set(place, [...(places.get(place) ?? []), line]);
  }
  return [...places];
}

const Stack = styled.div`display: grid; gap: 1rem;`;
const Next = styled.section`
  display: grid;
  gap: 0.375rem;
  justify-items: start;
  padding: 1rem 1.5rem;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  > strong { font-size: ${({ theme }) => theme.size.title}; }
  > span { font-size: ${({ theme }) => theme.size.lead}; }
`;
const Entry = styled(
  Form,
)`display: flex; flex-wrap: wrap; align-items: end; gap: 0.75rem; > :first-child { flex: 1 1 16rem; }`;
const Walk = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
  gap: 1rem;
  section { padding: 0.75rem 1rem; background: ${({ theme }) => theme.color.paper}; }
`;
const Item = styled.li<{ $done: boolean }>`
  display: flex;
  align-items: center;
  gap: 0.625rem;
  padding: 0.25rem 0;
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
const Stop = styled.main`
  display: grid;
  gap: 1.25rem;
  align-content: center;
  justify-items: start;
  min-height: 70vh;
  padding: 2rem;
  background: ${({ theme }) => theme.color.dangerPaper};
  border: 8px solid ${({ theme }) => theme.color.danger};
  h1 { font-size: ${({ theme }) => theme.size.key}; line-height: 1; }
  p { font-size: ${({ theme }) => theme.size.title}; max-width: 40rem; }
`;
