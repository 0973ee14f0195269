import { useEffect, useRef, useState } from "react";
import { CheckboxGroup } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { type Bench, type Finding, Problem, type Schemas, serverNow } from "../../api/client";
import { usePlaces, useSession } from "../../api/queries";
import { useTyped } from "../../components/AskForm";
import { Button, ButtonLink } from "../../components/Button";
import { Choice, Field, FieldLabel, Tick } from "../../components/Fields";
import { MENDABLE } from "../../components/findings";
import { type Heat, HeatFields, heatBody, isOfHeat, UNSAID_HEAT } from "../../components/HeatFields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { useRemembered } from "../../components/useRemembered";
import { FINDING_WORDS, figure, readNumber } from "../../words";
import { type FormProps, Stack } from "./ReadingForm";

/** A finished charge, with the cautions that belong to every charge. */
export function ChargeForm({ bench, again, onSend, onNothing, problem, isSending }: Omit<FormProps, "cell">) {
  const { values, field } = useTyped({
    end_v: again?.value ?? "",
    minutes: "",
    ended: "itself" as "itself" | "stopped",
  });
  const { end_v: endV, minutes, ended } = values;
  const [heat, setHeat] = useState<Heat>(UNSAID_HEAT);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  const send = (happened: boolean) =>
    onSend({
      to: "charges",
      body: {
        end_v: endV,
        complete: ended === "itself",
        minutes: minutes || null,
        happened,
        ...heatBody(heat),
        typed_at: serverNow(),
      },
    });
  const notFull = ended === "itself" ? shortOfFull(readNumber(endV), bench) : null;
  const refused = problem instanceof Problem ? problem : null;
  const wentTooFar = refused?.code === "went-too-far";
  const isElsewhere = wentTooFar || refused?.field === "minutes" || (refused !== null && isOfHeat(refused));
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (isSending) return;
        if (endV.trim() === "") onNothing();
        else send(false);
      }}
    >
      {bench && <SetCurrent bench={bench} />}
      {bench?.in_place && <Notice kind={bench.in_place_refused ? "error" : "ask"}>{bench.in_place}</Notice>}
      <Field
        label="Charged; ended at"
        unit="V"
        size="key"
        numeric
        {...field("end_v")}
        inputRef={input}
        maxLength={20}
        autoComplete="off"
        error={refused && !isElsewhere ? refused.message : null}
        hint="Read by a meter; a lamp is not a measurement."
      />
      {notFull && <Notice kind="ask">{notFull}</Notice>}
      <Field
        label="It took, if known"
        unit="min"
        numeric
        {...field("minutes")}
        maxLength={20}
        autoComplete="off"
        error={refused?.field === "minutes" ? refused.message : null}
      />
      <Choice
        label="It ended"
        {...field("ended")}
        options={[
          ["itself", "by itself"],
          ["stopped", "I stopped it"],
        ]}
      />
      <HeatFields
        heat={heat}
        onChange={setHeat}
        problem={problem}
        title="How warm did it get, how cold was the room?"
      />
      {wentTooFar && <WentTooFar text={refused.message} isSending={isSending} onHappened={() => send(true)} />}
      <ChargingCautions />
      <Button kind="main" type="submit" isDisabled={isSending}>
        Keep the charge
      </Button>
    </Stack>
  );
}

/** What the charger is set to, and what it begins with where the cell was found low. */
function SetCurrent({ bench }: { bench: Bench }) {
  const { charge_ma, charge_cold_ma, charge_start_ma: startMa, charge_start_until_v: untilV } = bench;
  return (
    <SetTo>
      {startMa !== null && untilV !== null && (
        <>
          Begin with <strong>{figure(startMa)} mA</strong> until it has passed {figure(untilV, 2)} V; then set{" "}
        </>
      )}
      {startMa === null && "Set "}
      <strong>{figure(charge_ma)} mA</strong> at most. Below 10 °C {figure(charge_cold_ma)} mA, below freezing not at
      all.
    </SetTo>
  );
}

/** A charge that must not be is stopped; where it happened all the same it is written down. */
function WentTooFar({ text, isSending, onHappened }: { text: string; isSending: boolean; onHappened: () => void }) {
  return (
    <Notice kind="error">
      <p>
        <strong>Stop the charger now.</strong> {text}
      </p>
      <p>If it went on all the same, write it down: what happened stays with the cell, and a coordinator decides.</p>
      <Button kind="danger" isDisabled={isSending} onPress={onHappened}>
        It happened: write it down
      </Button>
    </Notice>
  );
}

/** What an end below full means, said before it is kept; null: it is full, or nobody knows what full is. */
function shortOfFull(endV: number | null, bench: Bench | null): string | null {
  if (endV === null || !bench?.full_v || bench.full_from_v === null || bench.counts_full_from_v === null) return null;
  const { full_v: full, full_from_v: fullFrom, counts_full_from_v: from } = bench;
  if (endV < full / 2 || endV >= fullFrom - 1e-9) return null;
  return endV >= from - 1e-9
    ? `${figure(endV, 2)} V is a little below ${figure(full, 2)} V. It counts as full, and the cell says so.`
    : `It ended at ${figure(endV, 2)} V: that is not full (${figure(full, 2)} V). It is charged once more, with another charger.`;
}

/** What belongs beside everything that puts charge into a cell. */
export function ChargingCautions() {
  return (
    <Cautions>
      <li>On metal or ceramic, nothing that burns nearby.</li>
      <li>Somebody awake beside it, never overnight.</li>
      <li>Never a charger for another chemistry.</li>
      <li>Stop when it gets warm (10 K above the room) or passes full by 0.05 V.</li>
    </Cautions>
  );
}

const REPAIR_WORDS: Partial<Record<Finding, string>> = {
  "torn-wrap": "Wrapped anew, with a ring under the plus end",
  "tab-remains": "Tab taken off flush, not pulled",
  "corroded-ends": "Ends cleaned, dry",
};

/** Wrap, tab and ends are ticked off as they are mended. */
export function RepairForm({ onSend, problem, isSending }: FormProps) {
  const [done, setDone] = useState<Finding[]>([]);
  return (
    <Box>
      <CheckboxGroup value={done} onChange={(next) => setDone(next as Finding[])}>
        <FieldLabel>Mended</FieldLabel>
        {MENDABLE.map(([finding]) => (
          <Tick key={finding} value={finding}>
            {REPAIR_WORDS[finding] ?? FINDING_WORDS[finding]}
          </Tick>
        ))}
      </CheckboxGroup>
      <ProblemNotice problem={problem} />
      <Button
        kind="main"
        waitsFor={done.length === 0 ? "First tick what was mended." : null}
        isDisabled={isSending}
        onPress={() => onSend({ to: "repairs", body: { done, typed_at: serverNow() } })}
      >
        Tick it off
      </Button>
    </Box>
  );
}

const isFull = ({ place, cells }: Schemas["PlaceLineOut"]) => place.capacity !== null && cells >= place.capacity;

/** Into which shelf box: the one chosen last, as long as there is room in it. */
export function ShelveForm({ cell, onSend, problem, isSending }: FormProps) {
  const places = usePlaces();
  const lines = (places.data?.places ?? []).filter(({ place }) => place.kind === "shelf-box");
  const boxes = lines.filter((line) => !isFull(line)).map(({ place }) => place);
  const [remembered, remember] = useRemembered("shelf-box", { box: "" });
  const last = lines.find(({ place }) => String(place.id) === remembered.box);
  const box = last && !isFull(last) ? remembered.box : boxes[0] ? String(boxes[0].id) : "";
  return (
    <Box>
      {boxes.length > 1 && (
        <Pick
          label="Which box"
          value={box}
          onChange={(next) => remember({ box: next })}
          options={boxes.map((place) => [String(place.id), place.name] as const)}
        />
      )}
      {last && isFull(last) && <p>{last.place.name} is full now.</p>}
      {lines.length > 0 && boxes.length === 0 && (
        <p>Every shelf box is full: make room, or make another box under Places.</p>
      )}
      <ProblemNotice problem={problem} />
      <Button
        kind="main"
        autoFocus
        isDisabled={isSending}
        onPress={() => onSend({ to: "shelvings", body: { place_id: box ? Number(box) : null } })}
      >
        {cell.number} lies in {boxes.find((place) => String(place.id) === box)?.name ?? "the shelf box"}
      </Button>
    </Box>
  );
}

/** Grounds on which something went too far: one decision is on all of them. */
const TOO_FAR = ["over-voltage", "cold-charge", "hot-charge", "charged-at-zero", "unknown-charged"];

/** A coordinator's yes or no on a cell that was put aside. */
export function DecideForm({ cell, onSend, problem, isSending }: FormProps) {
  const session = useSession();
  const [why, setWhy] = useState("");
  const due = cell.reasons.find((reason) => TOO_FAR.includes(reason.code) || reason.code === "recovery-mark");
  const about = due && (due.code === "recovery-mark" ? "recovery-mark" : "over-voltage");
  if (session.data?.person?.role !== "coordinator")
    return <p>A coordinator decides on this one. Leave it where it lies and go on.</p>;
  if (!about || !due)
    return (
      <Box>
        <p>Find out what it is, then set it on the cell's page.</p>
        <ButtonLink to={`/cells/${cell.number}#facts`} $kind="main">
          Say what it is
        </ButtonLink>
      </Box>
    );
  const decide = (outcome: "go-on" | "out") => onSend({ to: "decisions", body: { about, outcome, why } });
  return (
    <Box>
      <p>{due.text}</p>
      {due.code === "unknown-charged" && (
        <p>
          Find out what it is first, and <Link to={`/cells/${cell.number}#facts`}>say so on its page</Link>: as a
          primary cell it is a hazard.
        </p>
      )}
      <Field
        label="Why"
        value={why}
        onChange={setWhy}
        hint="What you found out, in a few words."
        maxLength={300}
        error={problem instanceof Problem && problem.field === "why" ? problem.message : null}
        autoFocus
      />
      {!(problem instanceof Problem && problem.field === "why") && <ProblemNotice problem={problem} />}
      <Row>
        <Button kind="main" isDisabled={isSending} onPress={() => decide("go-on")}>
          It may go on
        </Button>
        <Button isDisabled={isSending} onPress={() => decide("out")}>
          It is out
        </Button>
      </Row>
    </Box>
  );
}

/** The last walk to the out-box. */
export function OutBoxForm({ cell, onSend, problem, isSending }: FormProps) {
  return (
    <Box>
      <p>Tape over both ends.</p>
      <ProblemNotice problem={problem} />
      <Button kind="main" autoFocus isDisabled={isSending} onPress={() => onSend({ to: "out-box", body: {} })}>
        {cell.number} lies in the out-box, taped
      </Button>
    </Box>
  );
}

/** Nothing to enter at the moment. */
export function WaitNote() {
  return <p>Nothing to do for this cell now. Choose what you want to enter all the same, or take another cell.</p>;
}

const Box = styled.div`display: grid; gap: var(--block); justify-items: start;`;
const SetTo = styled.p`font-size: ${({ theme }) => theme.size.lead};`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap);`;
const Cautions = styled.ul`
  padding: var(--near) var(--step);
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  li { padding: var(--thread) 0; }
`;
