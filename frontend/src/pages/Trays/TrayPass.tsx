import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { type Finding, newKey, Problem, type Schemas, serverNow } from "../../api/client";
import { sendEntry } from "../../api/entries";
import { findThing, refreshAll } from "../../api/queries";
import { sendOrWait, useWaiting, type WaitingEntry } from "../../api/waiting";
import { useWrite } from "../../api/writing";
import { BrotherStrip } from "../../components/BrotherStrip";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { FindingTicks } from "../../components/FindingTicks";
import { findingOf, isHazard } from "../../components/findings";
import { HazardScreen } from "../../components/HazardScreen";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, TwoColumns } from "../../components/Page";
import { ScanDialog } from "../../components/ScanDialog";
import { Tape } from "../../components/Tape";
import { useUndoKey } from "../../components/useUndoKey";
import { figure, pageOf } from "../../words";
import { TrayMap } from "./TrayMap";
import { useScanner } from "./useScanner";

type Pass = Schemas["TrayOut"];
type TrayCell = Pass["cells"][number];
type Turned = NonNullable<Schemas["FirstLookIn"]["turned"]>;
type Told = {
  number: string;
  slot: number | null;
  said: string;
  waits: boolean;
  gap: number | null;
  /** What can be taken back; null: a hazard, or it waits in this browser. */
  entryId: number | null;
};

const isDue = (each: TrayCell) => each.must_look || each.needs_voltage;

/** The cursor walks the numbered places; each cell is looked at and measured with a few keys or one thumb. */
export function TrayPass({ pass }: { pass: Pass }) {
  const navigate = useNavigate();
  const waiting = useWaiting().entries;
  const [slot, setSlot] = useState(() => startOf(pass));
  const [told, setTold] = useState<Told | null>(null);
  const [hazard, setHazard] = useState<string | null>(null);
  const [isFilming, setFilming] = useState(false);
  const [scanProblem, setScanProblem] = useState<string | null>(null);
  // Counted up to give a form that stays the focus again.
  const [turn, setTurn] = useState(0);
  const handled = useMemo(() => new Map(waiting.map((entry) => [entry.number, entry])), [waiting]);
  const current = pass.cells.find((each) => each.cell.slot === slot) ?? null;

  const goOn = useCallback(
    (from: number, done: string) => {
      const next = nextDue(pass.cells, from, (each) => each.cell.number === done || handled.has(each.cell.number));
      setSlot(next ?? from);
      setTurn((before) => before + 1);
    },
    [pass.cells, handled],
  );
  const jump = useCallback(
    async (text: string) => {
      try {
        const found = await findThing(text);
        setScanProblem(null);
        const here = pass.cells.find((each) => each.cell.number === found.number);
        if (here?.cell.slot) setSlot(here.cell.slot);
        else navigate(found.thing === "cell" ? `/bench/${found.number}` : pageOf(found.thing, found.number));
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        setScanProblem(error.message);
      }
    },
    [pass.cells, navigate],
  );
  const isScanning = useScanner(jump);
  const undo = useWrite(sendEntry, () => {
    if (told?.slot) setSlot(told.slot);
    setTold(null);
    setTurn((before) => before + 1);
  });
  const undoLast = useCallback(() => {
    if (told?.entryId)
      undo.mutate({ number: told.number, entry: { to: "withdrawals", body: { entry_id: told.entryId } } });
  }, [told, undo.mutate]);
  useUndoKey(undoLast);

  return (
    <>
      {hazard && (
        <HazardScreen
          number={hazard}
          text="Its brothers are flagged: look at each of them once more."
          onDone={() => {
            setHazard(null);
            setTurn((before) => before + 1);
          }}
        />
      )}
      <TwoColumns $left={1.15}>
        <Left>
          {isScanning && <Notice kind="ask">Scanning …</Notice>}
          {scanProblem && <Notice kind="error">{scanProblem}</Notice>}
          {current ? (
            <LookForm
              key={`${current.cell.number}-${turn}`}
              each={current}
              brothers={brothersOf(pass.cells, current)}
              waits={handled.get(current.cell.number) ?? null}
              isAllDone={!pass.cells.some(isDue)}
              onDone={(next) => {
                setTold(next.told);
                if (next.isHazard) setHazard(next.told.number);
                goOn(slot, next.told.number);
                refreshAll();
              }}
              onStep={(by) => setSlot(stepped(pass.cells, slot, by))}
            />
          ) : (
            <p>No cell lies in this place. Tap another one.</p>
          )}
        </Left>
        <Right>
          {told && <ToldStrip told={told} onUndo={undoLast} problem={undo.error} />}
          <TrayMap pass={pass} slot={slot} waiting={handled} onChoose={setSlot} />
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

function LookForm({
  each,
  brothers,
  waits,
  isAllDone,
  onDone,
  onStep,
}: {
  each: TrayCell;
  brothers: { number: string; value_v: number }[];
  waits: WaitingEntry | null;
  isAllDone: boolean;
  onDone: (done: { told: Told; isHazard: boolean }) => void;
  onStep: (by: 1 | -1) => void;
}) {
  const { cell } = each;
  const [found, setFound] = useState<Finding[]>([]);
  const [value, setValue] = useState("");
  const [problem, setProblem] = useState<{ of: string; error: Problem } | null>(null);
  const [isSending, setSending] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const form = useRef<HTMLDivElement>(null);
  // Under the finger of somebody at a phone the keyboard must not jump up before the look.
  const hasKeys = useMemo(() => !window.matchMedia("(pointer: coarse)").matches, []);
  const danger = found.some(isHazard);
  // A hazard takes the field away; the keys then belong to the form itself.
  useEffect(() => {
    if (hasKeys) (danger ? form.current : (input.current ?? form.current))?.focus();
  }, [hasKeys, danger]);
  const refused = problem?.of === value ? problem.error : null;
  const wantsVoltage = each.needs_voltage && !danger;
  const isReady = danger || !each.needs_voltage || value.trim() !== "";

  const send = async (typed: string, confirmed: boolean, turned: Turned | null = null) => {
    setSending(true);
    const body: Schemas["FirstLookIn"] = {
      findings: found,
      value: danger || typed.trim() === "" ? null : typed,
      confirmed,
      turned,
      typed_at: serverNow(),
    };
    try {
      const answered = await sendOrWait(cell.number, { to: "first-looks", body }, newKey());
      onDone({
        isHazard: danger,
        told: {
          number: cell.number,
          slot: cell.slot,
          said: [found.length ? `${found.length} found` : "nothing found", body.value && `${body.value} V`]
            .filter(Boolean)
            .join(", "),
          waits: answered === null,
          gap: answered?.gap_to_brothers_v ?? null,
          entryId: danger ? null : (answered?.entry_id ?? null),
        },
      });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setProblem({ of: value, error });
    } finally {
      setSending(false);
    }
  };
  const submit = () => {
    if (isSending || waits || !isReady || refused?.code === "negative-voltage") return;
    if (refused?.suggestion) {
      setValue(refused.suggestion);
      void send(refused.suggestion, false);
    } else void send(value, refused?.code === "odd-input");
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const finding = findingOf(event.key);
    if (finding) {
      event.preventDefault();
      setFound((before) => (before.includes(finding) ? before.filter((f) => f !== finding) : [...before, finding]));
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      onStep(event.key === "ArrowDown" ? 1 : -1);
    } else if (event.key === "Enter" && !(event.target instanceof HTMLButtonElement)) {
      event.preventDefault();
      submit();
    }
  };
  return (
    <Stack ref={form} tabIndex={-1} onKeyDown={onKeyDown}>
      <Head>
        <Slot>{cell.slot}</Slot>
        <Tape size="large">{cell.number}</Tape>
        <div>
          <strong>{cell.size_code ?? "size unknown"}</strong>
          <Small>{cell.donor_description}</Small>
        </div>
      </Head>
      {waits && <Notice kind="ask">What you typed for this cell waits in this browser. See above.</Notice>}
      {each.prompts.map((prompt) => (
        <Notice key={prompt.text} kind="ask">
          {prompt.text}
        </Notice>
      ))}
      {wantsVoltage && (
        <Field
          label="Resting voltage"
          unit="V"
          size="key"
          numeric
          value={value}
          onChange={(next) => setValue(next)}
          inputRef={input}
          autoComplete="off"
          maxLength={20}
          error={refused && refused.code !== "odd-input" ? refused.message : null}
        />
      )}
      {!wantsVoltage && !danger && cell.resting_voltage_v !== null && (
        <p>Measured already: {figure(cell.resting_voltage_v, 2)} V.</p>
      )}
      {refused?.suggestion && <Notice kind="ask">Enter takes {refused.suggestion} V. Or type it again.</Notice>}
      {refused?.code === "negative-voltage" && (
        <Row>
          <Button kind="main" onPress={() => void send(value, false, "leads-swapped")}>
            The leads were swapped
          </Button>
          <Button onPress={() => void send(value, false, "can-is-plus")}>Its can is plus</Button>
        </Row>
      )}
      {refused?.code === "odd-input" && (
        <Notice kind="ask">
          {refused.message} Enter once more keeps {value}.
        </Notice>
      )}
      {refused && !wantsVoltage && <ProblemNotice problem={refused} />}
      <Row>
        <Button
          kind={danger ? "danger" : "main"}
          onPress={submit}
          isDisabled={isSending || waits !== null || !isReady || refused?.code === "negative-voltage"}
        >
          {danger
            ? "Dangerous: into the fire-safe box"
            : refused?.suggestion
              ? `Take ${refused.suggestion} V`
              : found.length > 0
                ? `Keep ${found.length} ${found.length === 1 ? "finding" : "findings"}${wantsVoltage ? " and the voltage" : ""}`
                : wantsVoltage
                  ? "Nothing found, keep the voltage"
                  : "Nothing found"}
        </Button>
        {each.needs_voltage && !danger && !isReady && (
          <Button kind="plain" isDisabled={isSending || waits !== null} onPress={() => void send("", false)}>
            Only looked at
          </Button>
        )}
      </Row>
      <FindingTicks found={found} onChange={setFound} asked={each.prompts.flatMap((prompt) => prompt.findings)} />
      <BrotherStrip brothers={brothers} own={cell.resting_voltage_v} />
      {isAllDone && <Notice kind="kept">Every cell of this tray was looked at and measured.</Notice>}
    </Stack>
  );
}

function ToldStrip({ told, onUndo, problem }: { told: Told; onUndo: () => void; problem: unknown }) {
  return (
    <Notice kind="kept">
      <Row>
        <Tape size="small" to={`/bench/${told.number}`}>
          {told.number}
        </Tape>
        <span>
          {told.said}, {told.waits ? "waits in this browser" : "kept"}.
        </span>
        {told.entryId !== null && (
          <Button kind="quiet" onPress={onUndo}>
            Undo
          </Button>
        )}
      </Row>
      {told.gap !== null && (
        <p>
          It reads {figure(Math.abs(told.gap), 2)} V {told.gap < 0 ? "below" : "above"} its brothers. Watch it: such a
          cell often leaks.
        </p>
      )}
      <ProblemNotice problem={problem} />
    </Notice>
  );
}

/** Where the pass goes on: the server's cursor if something is due from there, else the first cell that is due. */
function startOf(pass: Pass): number {
  const from = (pass.tray.cursor_slot ?? 1) - 1;
  return nextDue(pass.cells, from, () => false) ?? pass.cells[0]?.cell.slot ?? 1;
}

/** The next place, from one on and around, whose cell has to be looked at or measured; null where none has. */
function nextDue(cells: TrayCell[], from: number, isDone: (each: TrayCell) => boolean): number | null {
  const due = cells.filter((each) => isDue(each) && !isDone(each) && each.cell.slot !== null);
  const next = due.find((each) => (each.cell.slot ?? 0) > from) ?? due[0];
  return next?.cell.slot ?? null;
}

function stepped(cells: TrayCell[], from: number, by: 1 | -1): number {
  const slots = cells.map((each) => each.cell.slot ?? 0);
  const at = slots.indexOf(from);
  return slots[(at + by + slots.length) % slots.length] ?? from;
}

function brothersOf(cells: TrayCell[], one: TrayCell): { number: string; value_v: number }[] {
  return cells.flatMap(({ cell }) =>
    cell.donor_number === one.cell.donor_number && cell.number !== one.cell.number && cell.resting_voltage_v !== null
      ? [{ number: cell.number, value_v: cell.resting_voltage_v }]
      : [],
  );
}

const Left = styled(Sheet)`display: grid; gap: 0.875rem;`;
const Right = styled.div`display: grid; gap: 0.75rem;`;
const Stack = styled.div`display: grid; gap: 0.875rem; &:focus { outline: none; }`;
const Head = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 0.25rem 1rem;`;
const Slot = styled.span`
  display: grid;
  place-items: center;
  min-width: 3.25rem;
  height: 3.25rem;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 50%;
  font: 800 1.625rem ${({ theme }) => theme.font.figure};
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 0.5rem 0.75rem;`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
