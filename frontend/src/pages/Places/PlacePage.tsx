import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { answer, api, type Cell, once, Problem, type Schemas } from "../../api/client";
import { usePlace, useSession } from "../../api/queries";
import { useWaiting } from "../../api/waiting";
import { useToldOfOthers, useWrite } from "../../api/writing";
import { AskForm } from "../../components/AskForm";
import { Button, ButtonLink } from "../../components/Button";
import { CameBack } from "../../components/CameBack";
import { Field, Switch } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import ScanDialog from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import { useKept } from "../../components/useKept";
import { useRemembered } from "../../components/useRemembered";
import { dayAndTime, GRADE_WORDS, PLACE_WORDS, readNumber, STEP_WORDS } from "../../words";

/** A box or tray: what lies in it, laying cells into it by scanning, and counting it. */
export default function PlacePage() {
  const { number = "" } = useParams();
  const place = usePlace(number);
  const session = useSession();
  const [mode, setMode] = useState<"lay" | "count">("lay");
  if (!place.data)
    return (
      <Page title={`Place ${number}`}>
        <Waiting query={place} what="the place" />
      </Page>
    );
  const { place: box, total, cells, last_counted_at, last_counted_by, last_missing } = place.data;
  return (
    <Page
      title={box.name}
      wide
      lead={`${PLACE_WORDS[box.kind]} ${box.number}, ${total}${box.capacity ? ` of ${box.capacity}` : ""} ${total === 1 && !box.capacity ? "cell" : "cells"}${last_counted_at ? `, counted ${dayAndTime(last_counted_at)} by ${last_counted_by}` : ", never counted"}.`}
      actions={
        <>
          {cells.length > 0 && (
            <ButtonLink to={`/bench?place=${box.id}`} $kind="plain">
              Measure all voltages again
            </ButtonLink>
          )}
          <ButtonLink to={`/labels?cells=${box.number}`} $kind="plain">
            Label
          </ButtonLink>
        </>
      }
    >
      {last_missing.length > 0 && (
        <Notice kind="ask">Missing at the last count: {last_missing.join(", ")}. Scan them where you find them.</Notice>
      )}
      <TwoColumns $below>
        <Sheet aria-label="Scan">
          <Switch
            label="What to do"
            value={mode}
            onChange={setMode}
            options={[
              ["lay", "Lay cells in"],
              ["count", "Count it"],
            ]}
          />
          {mode === "lay" ? <LayIn place={box} /> : <Count place={box} cells={cells} />}
        </Sheet>
        <Sheet aria-label="What lies in it">
          <h2>What should lie in it</h2>
          {cells.length === 0 ? (
            <p>Empty.</p>
          ) : (
            <Tapes>
              {cells.map((cell) => (
                <li key={cell.number}>
                  <Tape size="small" to={`/cells/${cell.number}`}>
                    {cell.number}
                  </Tape>
                  <Small>
                    {cell.grade === "A" || cell.grade === "B" || cell.grade === "C"
                      ? GRADE_WORDS[cell.grade]
                      : STEP_WORDS[cell.step]}
                  </Small>
                </li>
              ))}
            </Tapes>
          )}
          {total > cells.length && (
            <p>
              These are the first {cells.length} of {total}. The others stand on the <Link to="/shelf">shelf</Link>.
            </p>
          )}
          {session.data?.person?.role === "coordinator" && <ChangePlace place={box} />}
        </Sheet>
      </TwoColumns>
    </Page>
  );
}

/** Another name or capacity; the numbered places of a tray stay, cells lie in them. */
function ChangePlace({ place }: { place: Schemas["PlaceOut"] }) {
  const [typed, setTyped] = useState<{ seen: number | null; name?: string; capacity?: string } | null>(null);
  const { name = place.name, capacity = place.capacity?.toString() ?? "" } = typed ?? {};
  const type = (over: { name?: string; capacity?: string }) =>
    setTyped((before) => ({ seen: place.version, ...before, ...over }));
  const change = useWrite(
    (body: Schemas["PlaceChangeIn"], key) =>
      answer(() =>
        api.PUT("/api/places/{number}", { params: { path: { number: place.number } }, headers: once(key), body }),
      ),
    () => setTyped(null),
  );
  useToldOfOthers(change.error, () => setTyped((before) => before && { ...before, seen: null }));
  const isWrong = capacity.trim() !== "" && readNumber(capacity) === null;
  return (
    <ChangeForm
      aria-label="Change this place"
      problem={change.error}
      send="Change it"
      kind="plain"
      isSending={change.isPending || isWrong || name.trim() === ""}
      onSend={() => change.mutate({ seen_version: typed?.seen ?? place.version, name, capacity: readNumber(capacity) })}
    >
      <Field label="Name" name="name" value={name} onChange={(next) => type({ name: next })} maxLength={60} />
      {place.kind !== "tray" && (
        <Field
          label="Takes how many cells"
          name="capacity"
          value={capacity}
          onChange={(next) => type({ capacity: next })}
          numeric
          error={isWrong ? "A plain number, e.g. 40." : null}
        />
      )}
    </ChangeForm>
  );
}

/** A number after the other, typed or scanned, each with Enter. */
function NumberLine({
  label,
  problem,
  onNumber,
}: {
  label: string;
  problem: unknown;
  onNumber: (text: string) => void;
}) {
  const [text, setText] = useState("");
  const [isScanning, setScanning] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  return (
    <Row
      onSubmit={(event) => {
        event.preventDefault();
        if (!text.trim()) return;
        onNumber(text.trim());
        setText("");
        input.current?.focus();
      }}
    >
      <Field
        label={label}
        size="key"
        numeric
        value={text}
        onChange={setText}
        inputRef={input}
        autoFocus
        autoComplete="off"
        maxLength={20}
        error={problem instanceof Problem ? problem.message : null}
        hint="Type or scan, Enter."
      />
      <Button onPress={() => setScanning(true)}>By camera</Button>
      {isScanning && (
        <ScanDialog
          onClose={() => setScanning(false)}
          onFound={(scanned) => {
            setScanning(false);
            onNumber(scanned);
          }}
        />
      )}
    </Row>
  );
}

function LayIn({ place }: { place: Schemas["PlaceOut"] }) {
  const { answered, trouble } = useWaiting();
  const kept = useKept();
  const laid = answered.flatMap(({ id, entry, answer }) =>
    entry.to === "moves" && entry.body.place === place.number && answer ? [{ id, cell: answer.cell }] : [],
  );
  return (
    <Stack>
      <NumberLine
        label={`Lies now in ${place.name}`}
        problem={null}
        onNumber={(number) => kept.keep(number, { to: "moves", body: { place: place.number, slot: null } })}
      />
      {kept.refused.map((entry) => (
        <Notice key={entry.id} kind="ask">
          <CameBack entry={entry} />
        </Notice>
      ))}
      {kept.last && !kept.last.isKept && !kept.last.isRefused && (
        <Notice kind="ask">
          <Tape size="small">{kept.last.number}</Tape> {trouble === null ? "…" : "waits in this browser."}
        </Notice>
      )}
      {laid.reverse().map(({ id, cell }) => (
        <Notice key={id} kind="kept">
          <Tape size="small">{cell.number}</Tape> lies here{cell.slot ? `, place ${cell.slot}` : ""}.{" "}
          {STEP_WORDS[cell.step]}.
        </Notice>
      ))}
    </Stack>
  );
}

function Count({ place, cells }: { place: Schemas["PlaceOut"]; cells: Cell[] }) {
  // What was seen stays in this browser until the count is kept, whatever becomes of the page or the server.
  const [{ seen }, remember] = useRemembered(`count-${place.number}`, { seen: [] as string[] });
  // A scanner is faster than the answers: each scan counts on from the one before, whether it was answered or not.
  const scanned = useRef(seen);
  const count = (numbers: string[]) => {
    scanned.current = numbers;
    remember({ seen: numbers });
  };
  const found = useQuery({
    queryKey: ["count", place.number, seen],
    queryFn: () =>
      answer(() =>
        api.POST("/api/places/{number}/counts", { params: { path: { number: place.number } }, body: { seen } }),
      ),
    enabled: seen.length > 0,
    placeholderData: (before) => before,
  });
  const scan = (number: string) => count([...scanned.current.filter((other) => other !== number), number]);
  const keep = useWrite(
    (body: Schemas["StockTakeIn"], key) =>
      answer(() =>
        api.POST("/api/places/{number}/stock-takes", {
          params: { path: { number: place.number } },
          headers: once(key),
          body,
        }),
      ),
    () => count([]),
  );
  const told = seen.length > 0 ? found.data : undefined;
  return (
    <Stack>
      <NumberLine label="Seen" problem={null} onNumber={scan} />
      <p role="status">
        <Big>{told?.here.length ?? 0}</Big> of {cells.length} found
        {seen.length > 0 ? `, ${seen.length} scanned, go on` : ""}.
      </p>
      {told?.unknown.map((each) => (
        <Notice key={each.typed} kind="ask">
          {each.text}{" "}
          <Button onPress={() => count(scanned.current.filter((other) => other !== each.typed))}>Let it go</Button>
        </Notice>
      ))}
      {found.error && <Notice kind="ask">What you scanned is kept in this browser. {found.error.message}</Notice>}
      {told && told.misplaced.length > 0 && (
        <Notice kind="ask">
          Belongs elsewhere:{" "}
          {told.misplaced.map((cell) => `${cell.number} (${cell.place?.name ?? "no place"})`).join(", ")}
        </Notice>
      )}
      {told && (
        <Notice kind="kept">
          {told.missing.length === 0
            ? "Everything is here."
            : `Not seen yet: ${told.missing.map((cell) => cell.number).join(", ")}`}
        </Notice>
      )}
      <ProblemNotice problem={keep.error} />
      {keep.data && seen.length === 0 && (
        <Notice kind="kept">
          Counted: {keep.data.here.length} here, {keep.data.missing.length} missing, {keep.data.misplaced.length} from
          elsewhere. Nothing was moved by it.
        </Notice>
      )}
      <Button
        kind="main"
        waitsFor={
          (told?.unknown.length ?? 0) > 0
            ? "First let go what is no cell of the house."
            : seen.length === 0 && cells.length > 0
              ? "First scan or type what lies there."
              : null
        }
        isDisabled={keep.isPending}
        onPress={() => keep.mutate({ seen })}
      >
        That is all, keep the count
      </Button>
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: var(--apart); margin-top: var(--step); justify-items: start;`;
const ChangeForm = styled(AskForm)`
  display: grid;
  gap: var(--apart);
  justify-items: start;
  margin-top: var(--block);
  padding-top: var(--block);
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
`;
const Row = styled(Form)`display: flex; flex-wrap: wrap; align-items: center; gap: var(--apart);`;
const Tapes = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(8.5rem, 1fr));
  gap: var(--near);
  margin-top: var(--near);
`;
const Small = styled.span`display: block; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Big = styled.strong`font: 800 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};`;
