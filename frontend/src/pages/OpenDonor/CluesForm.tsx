import { useState } from "react";
import { Form } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, type Donor, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Choice, Field } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Pick } from "../../components/Pick";
import {
  CHARGED_IN_WORDS,
  CHARGER_WORDS,
  CONVERTER_WORDS,
  FAMILY_WORDS,
  figure,
  readNumber,
  SYMPTOM_WORDS,
  YES_NO_WORDS,
} from "../../words";

type Clues = Schemas["CluesOut"];
type Told = Omit<Schemas["CluesIn"], "seen_version">;
const NOT_SAID = "not-said";
const SHOWN_AT_FIELD = [
  "ran_min",
  "runs_now_min",
  "claimed_v",
  "claimed_wh",
  "claimed_mah",
  "charger_k_v",
  "charger_r1_ohm",
  "charger_r2_ohm",
  "protection_cut_off_v",
  "protection_release_v",
  "connector",
] as const;
type NumberKey = Exclude<(typeof SHOWN_AT_FIELD)[number], "connector">;

const options = <T extends string>(words: Record<T, string>): [T | typeof NOT_SAID, string][] => [
  [NOT_SAID, "Not looked at"],
  ...(Object.entries(words) as [T, string][]),
];

/** What the donor's failure, print and board tell: it decides what its cells are worth and what of it can be used again. */
export function CluesForm({ donor }: { donor: Donor }) {
  const { clues } = donor;
  const [told, setTold] = useState<Told>({});
  const [typed, setTyped] = useState<Partial<Record<NumberKey, string>>>({});
  const set = useWrite(
    (body: Schemas["CluesIn"], key) =>
      answer(() =>
        api.PUT("/api/donors/{number}/clues", { params: { path: { number: donor.number } }, headers: once(key), body }),
      ),
    () => {
      setTold({});
      setTyped({});
    },
  );
  const problem = set.error instanceof Problem ? set.error : null;
  const now = { ...clues, ...told } as Clues;
  const isWrong = Object.values(typed).some((text) => text.trim() !== "" && readNumber(text) === null);
  const isChanged = Object.keys(told).length > 0 || Object.keys(typed).length > 0;
  const say = (next: Told) => setTold((before) => ({ ...before, ...next }));
  const choice = <T extends string>(value: T): T | null => (value === NOT_SAID ? null : value);
  const number = (key: NumberKey, label: string, unit: string, hint?: string) => (
    <Field
      label={label}
      unit={unit}
      numeric
      value={typed[key] ?? (clues[key] === null ? "" : figureAsTyped(clues[key]))}
      onChange={(text) => setTyped((before) => ({ ...before, [key]: text }))}
      maxLength={12}
      hint={hint}
      error={problem?.field === key ? problem.message : null}
    />
  );
  return (
    <Sheet>
      <Stack
        onSubmit={(event) => {
          event.preventDefault();
          const numbers = Object.fromEntries(Object.entries(typed).map(([key, text]) => [key, readNumber(text)]));
          set.mutate({ seen_version: donor.version, ...told, ...numbers });
        }}
      >
        <h2>What it tells</h2>
        <Choice
          label="How did it fail?"
          value={now.symptom ?? NOT_SAID}
          onChange={(next) => say({ symptom: choice(next) as Clues["symptom"] })}
          options={options(SYMPTOM_WORDS)}
        />
        {now.symptom === "runs-short" && (
          <Pair>
            {number("ran_min", "Ran when it was new", "min")}
            {number("runs_now_min", "Runs now", "min")}
          </Pair>
        )}
        {clues.expectation && <Notice kind="ask">{clues.expectation}</Notice>}
        <h3>On the pack's print</h3>
        <Triple>
          {number("claimed_v", "Voltage", "V")}
          {number("claimed_wh", "Energy", "Wh")}
          {number("claimed_mah", "Charge", "mAh")}
        </Triple>
        <PackPrint found={clues.pack_print} />
        <h3>On its board</h3>
        <Pair>
          <Pick
            label="Charger"
            value={now.charger_kind ?? NOT_SAID}
            onChange={(next) => say({ charger_kind: choice(next) as Clues["charger_kind"] })}
            options={options(CHARGER_WORDS)}
          />
          <Pick
            label="Converter"
            value={now.converter ?? NOT_SAID}
            onChange={(next) => say({ converter: choice(next) as Clues["converter"] })}
            options={options(CONVERTER_WORDS)}
          />
        </Pair>
        {now.charger_kind === "linear" && (
          <Triple>
            {number("charger_k_v", "Its constant K", "V", "1000 to 1200, from its sheet")}
            {number("charger_r1_ohm", "Programming resistor", "Ω")}
            {number("charger_r2_ohm", "A second beside it", "Ω")}
          </Triple>
        )}
        {clues.charge_ma !== null && (
          <p>
            Set to <strong>{figure(clues.charge_ma)} mA</strong>.{" "}
            <Link
              to={`/sums/small-cell?k_v=${clues.charger_k_v}&r1_ohm=${clues.charger_r1_ohm}${clues.charger_r2_ohm ? `&r2_ohm=${clues.charger_r2_ohm}` : ""}`}
            >
              Does that suit its cells?
            </Link>
          </p>
        )}
        <Pair>
          <Pick
            label="Protection"
            value={now.protection ?? NOT_SAID}
            onChange={(next) => say({ protection: choice(next) as Clues["protection"] })}
            options={options(YES_NO_WORDS)}
          />
          <Pick
            label="Temperature sensor"
            value={now.temperature_sensor ?? NOT_SAID}
            onChange={(next) => say({ temperature_sensor: choice(next) as Clues["temperature_sensor"] })}
            options={options(YES_NO_WORDS)}
          />
        </Pair>
        {now.protection === "yes" && (
          <Pair>
            {number("protection_cut_off_v", "It cuts off at", "V", "for one cell")}
            {number("protection_release_v", "It releases at", "V")}
          </Pair>
        )}
        <Pair>
          <Field
            label="Connector"
            value={told.connector ?? clues.connector ?? ""}
            onChange={(connector) => say({ connector })}
            maxLength={60}
            error={problem?.field === "connector" ? problem.message : null}
          />
          <Pick
            label="Its cells are charged"
            value={now.charged_in}
            onChange={(charged_in) => say({ charged_in })}
            options={Object.entries(CHARGED_IN_WORDS) as [Clues["charged_in"], string][]}
          />
        </Pair>
        {clues.in_place && <Notice kind={clues.in_place_refused ? "error" : "ask"}>{clues.in_place}</Notice>}
        {isWrong && <p role="status">Plain numbers, e.g. 14.4 or 2000.</p>}
        {problem && !SHOWN_AT_FIELD.some((key) => key === problem.field) && <ProblemNotice problem={problem} />}
        <Button kind={isChanged ? "main" : "plain"} type="submit" isDisabled={set.isPending || isWrong || !isChanged}>
          {isChanged ? "Keep what it tells" : "Nothing new to keep"}
        </Button>
      </Stack>
    </Sheet>
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
          of {figure(reading.nominal_v, 1)} V cells, {FAMILY_WORDS[reading.family].split(",")[0]?.toLowerCase()}
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

const figureAsTyped = (value: number | null) => (value === null ? "" : String(value));

const Stack = styled(Form)`display: grid; gap: var(--step); h3 { margin-top: var(--hair); }`;
const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--step); align-items: start;`;
const Triple = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--step);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; }
`;
