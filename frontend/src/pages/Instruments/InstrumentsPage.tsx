import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { type Instrument, useInstruments } from "../../api/measuring";
import { useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { Tape } from "../../components/Tape";
import { day, figure, INSTRUMENT_WORDS } from "../../words";
import { CrossCheck } from "./CrossCheck";

type Typed = Schemas["InstrumentIn"];
const KINDS = Object.entries(INSTRUMENT_WORDS) as [Typed["kind"], string][];

/** Meters and testers: what each shows, what is corrected in it, and how two of them agree. */
export default function InstrumentsPage() {
  const instruments = useInstruments();
  const [chosen, setChosen] = useState<Instrument | "new" | null>(null);
  // What readings count from then on is no matter of one person at the bench.
  const isCoordinator = useSession().data?.person?.role === "coordinator";
  return (
    <Page
      title="Meters and testers"
      wide
      lead="A number without its instrument is gossip. Each has a strip of tape, its last digit, and what was found out about it."
    >
      {!instruments.data ? (
        <Waiting query={instruments} what="the instruments" />
      ) : (
        <TwoColumns>
          <Sheet aria-label="Instruments">
            <List>
              {instruments.data.instruments.map((each) => (
                <li key={each.number}>
                  <Tape>{each.number}</Tape>
                  <div>
                    <strong>{each.name}</strong>
                    {!each.is_active && " (put away)"}
                    <Small>{describe(each)}</Small>
                    {each.corrections.map((correction) => (
                      <CorrectionLine key={correction.id} instrument={each} correction={correction} />
                    ))}
                  </div>
                  {isCoordinator && (
                    <Button kind="quiet" onPress={() => setChosen(each)}>
                      Change
                    </Button>
                  )}
                </li>
              ))}
            </List>
            {instruments.data.instruments.length === 0 && <p>None yet. Begin with the meter on your bench.</p>}
            <Button
              kind={instruments.data.instruments.length === 0 ? "main" : "plain"}
              onPress={() => setChosen("new")}
            >
              Number another one
            </Button>
            {chosen && (
              <InstrumentForm
                key={chosen === "new" ? "new" : `${chosen.number}-${chosen.version}`}
                known={chosen === "new" ? null : chosen}
                onDone={() => setChosen(null)}
              />
            )}
          </Sheet>
          <CrossCheck instruments={instruments.data.instruments} />
        </TwoColumns>
      )}
    </Page>
  );
}

function describe(instrument: Instrument): string {
  const parts: string[] = [INSTRUMENT_WORDS[instrument.kind]];
  if (instrument.resolution_v !== null) parts.push(`last digit ${figure(1000 * instrument.resolution_v, 1)} mV`);
  if (instrument.half_width_pct !== null) parts.push(`± ${figure(instrument.half_width_pct, 1)} %`);
  if (instrument.lead_mohm !== null) parts.push(`${figure(instrument.lead_mohm, 1)} mΩ of leads taken off`);
  if (instrument.note) parts.push(instrument.note);
  return parts.join(", ");
}

function CorrectionLine({ instrument, correction }: { instrument: Instrument; correction: Schemas["CorrectionOut"] }) {
  const session = useSession();
  const end = useWrite((_: null, key) =>
    answer(() =>
      api.DELETE("/api/instruments/{number}/corrections/{correction_id}", {
        params: { path: { number: instrument.number, correction_id: correction.id } },
        headers: once(key),
      }),
    ),
  );
  const isInForce = correction.ended_at === null;
  return (
    <Small>
      {isInForce ? <strong>Corrected: </strong> : "Was corrected: "}
      {correction.quantity} × {figure(correction.factor, 4)} since {day(correction.at)}
      {correction.ended_at && ` until ${day(correction.ended_at)}`}. {correction.ground}, by {correction.by}.
      {isInForce && session.data?.person?.role === "coordinator" && (
        <Button kind="quiet" onPress={() => end.mutate(null)} isDisabled={end.isPending}>
          End it
        </Button>
      )}
      <ProblemNotice problem={end.error} />
    </Small>
  );
}

function InstrumentForm({ known, onDone }: { known: Instrument | null; onDone: () => void }) {
  const [kind, setKind] = useState<Typed["kind"]>(known?.kind ?? "voltmeter");
  const typed = useTyped({
    name: known?.name ?? "",
    resolution_v: known?.resolution_v?.toString() ?? "",
    half_width_pct: known?.half_width_pct?.toString() ?? "",
    lead_mohm: known?.lead_mohm?.toString() ?? "",
    note: known?.note ?? "",
  });
  const body = { ...typed.values, kind };
  const save = useWrite(
    ({ isActive }: { isActive: boolean }, key) =>
      answer<Instrument>(() =>
        known
          ? api.PUT("/api/instruments/{number}", {
              params: { path: { number: known.number } },
              body: { ...body, version: known.version, is_active: isActive },
              headers: once(key),
            })
          : api.POST("/api/instruments", { body, headers: once(key) }),
      ),
    onDone,
  );
  return (
    <Stack
      aria-label={known ? `Change ${known.number}` : "Another instrument"}
      problem={save.error}
      send={known ? "Keep the change" : "Give it a number"}
      isSending={save.isPending}
      onSend={() => save.mutate({ isActive: true })}
      besides={
        <>
          {known && (
            <Button onPress={() => save.mutate({ isActive: !known.is_active })} isDisabled={save.isPending}>
              {known.is_active ? "Put it away" : "Take it back into use"}
            </Button>
          )}
          <Button kind="quiet" onPress={onDone}>
            Leave it
          </Button>
        </>
      }
    >
      <Field label="What it is called here" {...typed.field("name")} maxLength={60} autoFocus />
      <Pick label="Kind" value={kind} onChange={setKind} options={KINDS} />
      <Grid>
        <Field
          label="Last digit"
          unit="V"
          numeric
          {...typed.field("resolution_v")}
          maxLength={20}
          hint="0.01 for a cheap meter"
        />
        <Field
          label="Right within"
          unit="%"
          numeric
          {...typed.field("half_width_pct")}
          maxLength={20}
          hint="If its sheet says so"
        />
        <Field
          label="Leads to take off"
          unit="mΩ"
          numeric
          {...typed.field("lead_mohm")}
          maxLength={20}
          hint="Only if you measured them"
        />
      </Grid>
      <Field label="Note" {...typed.field("note")} maxLength={300} />
    </Stack>
  );
}

const List = styled.ul`
  display: grid;
  gap: var(--apart);
  margin-bottom: var(--block);
  li { display: grid; grid-template-columns: 6.5rem minmax(0, 1fr) auto; gap: var(--apart); align-items: start; }
`;
const Small = styled.div`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Stack = styled(
  AskForm,
)`display: grid; gap: var(--apart); margin-top: var(--block); padding-top: var(--block); border-top: 3px solid ${({ theme }) => theme.color.ink};`;
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr)); gap: var(--apart); align-items: start;`;
