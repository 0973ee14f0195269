import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, type Donor, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm } from "../../components/AskForm";
import { Choice, Field } from "../../components/Fields";
import { Figure } from "../../components/Figure";
import { Notice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { useTold } from "../../components/useTold";
import {
  CHARGED_IN_WORDS,
  CHARGER_WORDS,
  CONVERTER_WORDS,
  FAMILIES_SAID,
  figure,
  SYMPTOM_WORDS,
  YES_NO_WORDS,
} from "../../words";

type Clues = Schemas["CluesOut"];
type Told = Omit<Schemas["CluesIn"], "seen_version">;
type Figures =
  | "ran_min"
  | "runs_now_min"
  | "claimed_v"
  | "claimed_wh"
  | "claimed_mah"
  | "charger_k_v"
  | "charger_r1_ohm"
  | "charger_r2_ohm"
  | "protection_cut_off_v"
  | "protection_release_v";
const NOT_SAID = "not-said";

const options = <T extends string>(words: Record<T, string>): [T | typeof NOT_SAID, string][] => [
  [NOT_SAID, "Not looked at"],
  ...(Object.entries(words) as [T, string][]),
];
const choice = <T extends string>(value: T): T | null => (value === NOT_SAID ? null : value);

type Part = { of: ReturnType<typeof useTold<Told, Figures>>; now: Clues };

/** What the donor's failure, print and board tell: it decides what its cells are worth and what of it can be used again. */
export function CluesForm({ donor }: { donor: Donor }) {
  const { clues } = donor;
  const told = useTold<Told, Figures>(clues);
  const set = useWrite(
    (body: Schemas["CluesIn"], key) =>
      answer(() =>
        api.PUT("/api/donors/{number}/clues", { params: { path: { number: donor.number } }, headers: once(key), body }),
      ),
    told.clear,
  );
  const part = { of: told, now: { ...clues, ...told.told } as Clues };
  return (
    <Sheet>
      <Stack
        problem={set.error}
        kind={told.isChanged ? "main" : "plain"}
        send={told.isChanged ? "Keep what it tells" : "Nothing new to keep"}
        isSending={set.isPending}
        isDisabled={told.isWrong || !told.isChanged}
        onSend={() => set.mutate({ seen_version: donor.version, ...told.told, ...told.numbers() })}
      >
        <h2>What it tells</h2>
        <Failure {...part} />
        <h3>On the pack's print</h3>
        <Triple>
          <Figure of={told} name="claimed_v" label="Voltage" unit="V" />
          <Figure of={told} name="claimed_wh" label="Energy" unit="Wh" />
          <Figure of={told} name="claimed_mah" label="Charge" unit="mAh" />
        </Triple>
        <PackPrint found={clues.pack_print} />
        <h3>On its board</h3>
        <Board {...part} />
        <Protection {...part} />
        <Connection {...part} />
        {clues.in_place && <Notice kind={clues.in_place_refused ? "error" : "ask"}>{clues.in_place}</Notice>}
        {told.isWrong && <p role="status">Plain numbers, e.g. 14.4 or 2000.</p>}
      </Stack>
    </Sheet>
  );
}

function Failure({ of, now }: Part) {
  return (
    <>
      <Choice
        label="How did it fail?"
        value={now.symptom ?? NOT_SAID}
        onChange={(next) => of.say({ symptom: choice(next) as Clues["symptom"] })}
        options={options(SYMPTOM_WORDS)}
      />
      {now.symptom === "runs-short" && (
        <Pair>
          <Figure of={of} name="ran_min" label="Ran when it was new" unit="min" />
          <Figure of={of} name="runs_now_min" label="Runs now" unit="min" />
        </Pair>
      )}
      {now.expectation && <Notice kind="ask">{now.expectation}</Notice>}
    </>
  );
}

/** Its charger, with what its resistors set it to, and its converter. */
function Board({ of, now }: Part) {
  return (
    <>
      <Pair>
        <Pick
          label="Charger"
          value={now.charger_kind ?? NOT_SAID}
          onChange={(next) => of.say({ charger_kind: choice(next) as Clues["charger_kind"] })}
          options={options(CHARGER_WORDS)}
        />
        <Pick
          label="Converter"
          value={now.converter ?? NOT_SAID}
          onChange={(next) => of.say({ converter: choice(next) as Clues["converter"] })}
          options={options(CONVERTER_WORDS)}
        />
      </Pair>
      {now.charger_kind === "linear" && (
        <Triple>
          <Figure of={of} name="charger_k_v" label="Its constant K" unit="V" hint="1000 to 1200, from its sheet" />
          <Figure of={of} name="charger_r1_ohm" label="Programming resistor" unit="Ω" />
          <Figure of={of} name="charger_r2_ohm" label="A second beside it" unit="Ω" />
        </Triple>
      )}
      {now.charge_ma !== null && (
        <p>
          Set to <strong>{figure(now.charge_ma)} mA</strong>.{" "}
          <Link
            to={`/sums/small-cell?k_v=${now.charger_k_v}&r1_ohm=${now.charger_r1_ohm}${now.charger_r2_ohm ? `&r2_ohm=${now.charger_r2_ohm}` : ""}`}
          >
            Does that suit its cells?
          </Link>
        </p>
      )}
    </>
  );
}

function Protection({ of, now }: Part) {
  return (
    <>
      <Pair>
        <Pick
          label="Protection"
          value={now.protection ?? NOT_SAID}
          onChange={(next) => of.say({ protection: choice(next) as Clues["protection"] })}
          options={options(YES_NO_WORDS)}
        />
        <Pick
          label="Temperature sensor"
          value={now.temperature_sensor ?? NOT_SAID}
          onChange={(next) => of.say({ temperature_sensor: choice(next) as Clues["temperature_sensor"] })}
          options={options(YES_NO_WORDS)}
        />
      </Pair>
      {now.protection === "yes" && (
        <Pair>
          <Figure of={of} name="protection_cut_off_v" label="It cuts off at" unit="V" hint="for one cell" />
          <Figure of={of} name="protection_release_v" label="It releases at" unit="V" />
        </Pair>
      )}
    </>
  );
}

function Connection({ of, now }: Part) {
  return (
    <Pair>
      <Field
        label="Connector"
        name="connector"
        value={now.connector ?? ""}
        onChange={(connector) => of.say({ connector })}
        maxLength={60}
      />
      <Pick
        label="Its cells are charged"
        value={now.charged_in}
        onChange={(charged_in) => of.say({ charged_in })}
        options={Object.entries(CHARGED_IN_WORDS) as [Clues["charged_in"], string][]}
      />
    </Pair>
  );
}

function PackPrint({ found }: { found: Clues["pack_print"] }) {
  if (!found) return null;
  if (found.problem) return <Notice kind="error">{found.problem}</Notice>;
  return (
    <ul>
      {found.readings.map((reading) => (
        <li key={`${reading.family}-${reading.nominal_v}-${reading.series}`}>
          <strong>
            {reading.series}S{reading.parallel}P
          </strong>{" "}
          of {figure(reading.nominal_v, 1)} V cells, {FAMILIES_SAID[reading.family]}
          {reading.cell_mah !== null && (
            <>
              : claims <strong>{figure(reading.cell_mah)} mAh</strong> for each cell
            </>
          )}
        </li>
      ))}
      {found.remark && <li>{found.remark}</li>}
    </ul>
  );
}

const Stack = styled(AskForm)`display: grid; gap: var(--step); h3 { margin-top: var(--hair); }`;
const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--step); align-items: start;`;
const Triple = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--step);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; }
`;
