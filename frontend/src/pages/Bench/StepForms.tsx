import { useEffect, useRef, useState } from "react";
import { CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import { type Finding, Problem, serverNow } from "../../api/client";
import { usePlaces, useSession } from "../../api/queries";
import { Button, ButtonLink } from "../../components/Button";
import { Field, FieldLabel, Pick, Tick } from "../../components/Fields";
import { MENDABLE } from "../../components/findings";
import { Notice, ProblemNotice } from "../../components/Notice";
import { FINDING_WORDS, figure } from "../../words";
import { type FormProps, Stack } from "./ReadingForm";

/** A finished charge, with the cautions that belong to every charge. */
export function ChargeForm({ bench, onSend, problem, isSending }: FormProps) {
  const [endV, setEndV] = useState("");
  const [minutes, setMinutes] = useState("");
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (!isSending)
          onSend({
            to: "charges",
            body: { end_v: endV, complete: true, minutes: minutes || null, typed_at: serverNow() },
          });
      }}
    >
      {bench && (
        <SetTo>
          Set <strong>{figure(bench.charge_ma)} mA</strong> at most.
        </SetTo>
      )}
      {bench?.in_place && <Notice kind="ask">{bench.in_place}</Notice>}
      <Field
        label="Charged; ended at"
        unit="V"
        size="key"
        numeric
        value={endV}
        onChange={setEndV}
        inputRef={input}
        maxLength={20}
        autoComplete="off"
        error={problem instanceof Problem && problem.field !== "minutes" ? problem.message : null}
        hint="Read by a meter; a lamp is not a measurement."
      />
      <Field
        label="It took, if known"
        unit="min"
        numeric
        value={minutes}
        onChange={setMinutes}
        maxLength={20}
        autoComplete="off"
        error={problem instanceof Problem && problem.field === "minutes" ? problem.message : null}
      />
      <Button kind="main" type="submit" isDisabled={isSending}>
        Keep the charge
      </Button>
      <ChargingCautions />
    </Stack>
  );
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
        isDisabled={isSending || done.length === 0}
        onPress={() => onSend({ to: "repairs", body: { done, typed_at: serverNow() } })}
      >
        Tick it off
      </Button>
    </Box>
  );
}

/** Into which shelf box. */
export function ShelveForm({ cell, onSend, problem, isSending }: FormProps) {
  const places = usePlaces();
  const boxes = (places.data?.places ?? []).map(({ place }) => place).filter((place) => place.kind === "shelf-box");
  const [chosen, setChosen] = useState<string | null>(null);
  const box = chosen ?? (boxes[0] ? String(boxes[0].id) : "");
  return (
    <Box>
      {boxes.length > 1 && (
        <Pick
          label="Which box"
          value={box}
          onChange={setChosen}
          options={boxes.map((place) => [String(place.id), place.name] as const)}
        />
      )}
      <ProblemNotice problem={problem} />
      <Button
        kind="main"
        autoFocus
        isDisabled={isSending}
        onPress={() => onSend({ to: "shelvings", body: { place_id: box ? Number(box) : null } })}
      >
        {cell.number} lies in {boxes.find((place) => String(place.id) === box)?.name.toLowerCase() ?? "the shelf box"}
      </Button>
    </Box>
  );
}

/** A coordinator's yes or no on a cell that was put aside. */
export function DecideForm({ cell, onSend, problem, isSending }: FormProps) {
  const session = useSession();
  const [why, setWhy] = useState("");
  const about = cell.reasons
    .map((reason) => reason.code)
    .find((code) => code === "over-voltage" || code === "recovery-mark");
  if (session.data?.person?.role !== "coordinator")
    return <p>A coordinator decides on this one. Leave it where it lies and go on.</p>;
  if (about !== "over-voltage" && about !== "recovery-mark")
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

const Box = styled.div`display: grid; gap: 1rem; justify-items: start;`;
const SetTo = styled.p`font-size: ${({ theme }) => theme.size.lead};`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: 0.625rem;`;
const Cautions = styled.ul`
  padding: 0.5rem 0.875rem;
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  li { padding: 0.125rem 0; }
`;
