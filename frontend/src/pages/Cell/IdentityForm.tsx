import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, type Bench, type Cell, type Family, once, Problem, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { EndsPicture } from "../../components/EndsPicture";
import { Choice, Field, Tick } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { SizeMeaning } from "../../components/SizeMeaning";
import {
  BUILD_WORDS,
  FAMILY_WORDS,
  figure,
  PLUS_END_WORDS,
  PROTECTION_WORDS,
  readNumber,
  TERMINAL_WORDS,
} from "../../words";

type Facts = Omit<Schemas["FactsIn"], "seen_version" | "siblings_too">;
type NumberKey =
  | "full_v"
  | "rated_capacity_mah"
  | "claimed_capacity_mah"
  | "advertised_capacity_mah"
  | "width_mm"
  | "length_mm"
  | "thickness_mm"
  | "mass_g";
const NOT_KNOWN = "not-known";
const AT_FIELDS = [
  "size_code", "full_v", "rated_capacity_mah", "claimed_capacity_mah", "advertised_capacity_mah", "width_mm", "length_mm",
  "thickness_mm", "mass_g", "family",
]; // biome-ignore format: a list of names

const orUnknown = <T extends string>(words: Record<T, string>): [T | typeof NOT_KNOWN, string][] => [
  [NOT_KNOWN, "Not known"],
  ...(Object.entries(words) as [T, string][]),
];

/**
 * What a cell is. Only what was changed is sent; if somebody else set it meanwhile, what was typed stays and they are told.
 */
export function IdentityForm({ cell, bench }: { cell: Cell; bench: Bench | null }) {
  const catalogue = useCatalogue();
  const [told, setTold] = useState<Facts>({});
  const [typed, setTyped] = useState<Partial<Record<NumberKey, string>>>({});
  const [siblingsToo, setSiblingsToo] = useState(false);
  const [seenVersion, setSeenVersion] = useState(cell.version);
  const set = useWrite(
    (body: Schemas["FactsIn"], key) =>
      answer(() =>
        api.PUT("/api/cells/{number}/facts", { params: { path: { number: cell.number } }, headers: once(key), body }),
      ),
    (kept) => {
      setSeenVersion(kept.cell.version);
      setTold({});
      setTyped({});
    },
  );
  const problem = set.error instanceof Problem ? set.error : null;
  const isAsked =
    problem?.code === "odd-input" && set.variables?.rated_capacity_mah === readNumber(typed.rated_capacity_mah ?? "");
  const changedMeanwhile = problem?.code === "changed-meanwhile";
  const say = (next: Facts) => setTold((before) => ({ ...before, ...next }));
  const now = { ...cell, ...told };
  const family = now.family ?? null;
  const isChanged = Object.keys(told).length > 0 || Object.keys(typed).length > 0;
  const isWrong = Object.values(typed).some((text) => text.trim() !== "" && readNumber(text) === null);
  const claimed = typed.claimed_capacity_mah ?? cell.claimed_capacity_mah?.toString() ?? "";
  const mass = typed.mass_g ?? cell.mass_g?.toString() ?? "";
  const printed = ("size_code" in told ? told.size_code : cell.size_code) ?? "";
  const side = (key: NumberKey) => readNumber(typed[key] ?? cell[key]?.toString() ?? "");
  const sides = [side("thickness_mm"), side("width_mm"), side("length_mm")].filter((each) => each !== null);
  const outline = side("width_mm") && side("length_mm") ? sides.join(" x ") : null;
  // A size that only calipers told is no print.
  const isPrinted = printed !== "" && !printed.includes(" x ");
  const number = (key: NumberKey, label: string, unit: string, hint?: string) => (
    <Field
      label={label}
      unit={unit}
      numeric
      value={typed[key] ?? cell[key]?.toString() ?? ""}
      onChange={(text) => setTyped((before) => ({ ...before, [key]: text }))}
      hint={hint}
      maxLength={12}
      error={problem?.field === key ? problem.message : null}
    />
  );
  const build = now.build ?? bench?.build ?? null;
  const models = catalogue.data?.models.filter((each) => each.is_active || each.id === cell.model_id) ?? [];
  const chemistries =
    catalogue.data?.chemistries.filter((each) => each.is_active || each.code === cell.chemistry_code) ?? [];
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        const numbers = Object.fromEntries(Object.entries(typed).map(([key, text]) => [key, readNumber(text)]));
        // An outline is told whole: what was not touched goes with what was.
        const isOutline = ["width_mm", "length_mm", "thickness_mm"].some((key) => key in numbers);
        const outline = isOutline
          ? { width_mm: cell.width_mm, length_mm: cell.length_mm, thickness_mm: cell.thickness_mm }
          : {};
        set.mutate({
          seen_version: changedMeanwhile ? cell.version : seenVersion,
          siblings_too: siblingsToo,
          confirmed: isAsked,
          ...told,
          ...outline,
          ...numbers,
        });
      }}
    >
      {bench?.suspicion && <Notice kind="error">{bench.suspicion}</Notice>}
      <Pick
        label="Model, if the print names it"
        value={String(now.model_id ?? NOT_KNOWN)}
        onChange={(next) => say({ model_id: next === NOT_KNOWN ? null : Number(next) })}
        options={[
          [NOT_KNOWN, "Not in the catalogue"],
          ...models.map((each) => [String(each.id), `${each.name}, ${each.rated_capacity_mah} mAh`] as const),
        ]}
      />
      <Pair>
        <Field
          label="Size as printed"
          value={printed}
          onChange={(size_code) => say({ size_code: size_code.trim() || null })}
          maxLength={24}
          hint="18650, 603048, INR18650 …"
          error={problem?.field === "size_code" ? problem.message : null}
        />
        {number("mass_g", "Mass", "g", "Proves or breaks a claim.")}
      </Pair>
      <SizeMeaning
        code={isPrinted ? printed : ""}
        family={family}
        claimMah={readNumber(claimed)}
        massG={readNumber(mass)}
        onChoose={(reading) =>
          setTyped((before) => ({
            ...before,
            width_mm: String(reading.width_mm),
            length_mm: String(reading.length_mm),
            ...(reading.thickness_mm === null ? {} : { thickness_mm: String(reading.thickness_mm) }),
          }))
        }
      />
      <p>Nothing printed, or more than one reading? Calipers are enough:</p>
      <Triple>
        {number("width_mm", "Width, or across", "mm")}
        {number("length_mm", "Length", "mm")}
        {number("thickness_mm", "Thickness if flat", "mm")}
      </Triple>
      {!isPrinted && outline && (
        <SizeMeaning
          code={outline}
          family={family}
          claimMah={readNumber(claimed)}
          massG={readNumber(mass)}
          onName={(size_code) => say({ size_code })}
        />
      )}
      <Pair>
        <Pick
          label="Chemistry"
          value={family ?? NOT_KNOWN}
          onChange={(next) => say({ family: next === NOT_KNOWN ? null : (next as Family), chemistry_code: null })}
          options={orUnknown(FAMILY_WORDS)}
        />
        <Pick
          label="More exactly, if printed"
          value={now.chemistry_code ?? NOT_KNOWN}
          onChange={(next) => say({ chemistry_code: next === NOT_KNOWN ? null : next })}
          options={[[NOT_KNOWN, "Not known"], ...chemistries.map((each) => [each.code, each.name] as const)]}
        />
      </Pair>
      {family === "high-voltage-cobalt" && number("full_v", "Marked full voltage", "V")}
      {problem?.field === "family" && <ProblemNotice problem={problem} />}
      <p>
        Rated by a sheet you trust, claimed on the cell, advertised by a seller: three numbers that are never mixed.
      </p>
      <Triple>
        {number("rated_capacity_mah", "Rated", "mAh")}
        {number("claimed_capacity_mah", "Claimed", "mAh")}
        {number("advertised_capacity_mah", "Advertised", "mAh")}
      </Triple>
      <Choice
        label="How it is built"
        value={now.build ?? NOT_KNOWN}
        onChange={(next) => say({ build: next === NOT_KNOWN ? null : (next as NonNullable<Cell["build"]>) })}
        options={orUnknown(BUILD_WORDS)}
      />
      {build && (
        <Ends>
          <EndsPicture build={build} plusEnd={now.plus_end ?? USUAL_PLUS[build]} />
          <p>{bench?.build === build ? bench.plus : "Measure which end is plus before you join it."}</p>
        </Ends>
      )}
      <Pair>
        <Pick
          label="Which end is plus"
          value={now.plus_end ?? NOT_KNOWN}
          onChange={(next) => say({ plus_end: next === NOT_KNOWN ? null : (next as NonNullable<Cell["plus_end"]>) })}
          options={orUnknown(PLUS_END_WORDS)}
        />
        <Pick
          label="Protected"
          value={now.protection ?? NOT_KNOWN}
          onChange={(next) =>
            say({ protection: next === NOT_KNOWN ? null : (next as NonNullable<Cell["protection"]>) })
          }
          options={orUnknown(PROTECTION_WORDS)}
        />
      </Pair>
      <Choice
        label="Its ends"
        value={now.terminals ?? NOT_KNOWN}
        onChange={(next) => say({ terminals: next === NOT_KNOWN ? null : (next as NonNullable<Cell["terminals"]>) })}
        options={orUnknown(TERMINAL_WORDS)}
      />
      {bench?.joining && !told.terminals && <p>{bench.joining}</p>}
      {isWrong && <p role="status">Plain numbers, e.g. 2600 or 18.3.</p>}
      {problem && !AT_FIELDS.includes(problem.field ?? "") && <ProblemNotice problem={problem} />}
      {set.isSuccess && !isChanged && <p role="status">Kept, and judged anew.</p>}
      <Tick isSelected={siblingsToo} onChange={setSiblingsToo}>
        The same for its siblings: all of it where nothing was measured yet, else a missing size
      </Tick>
      <Button kind={isChanged ? "main" : "plain"} type="submit" isDisabled={set.isPending || isWrong || !isChanged}>
        {changedMeanwhile ? "Keep mine all the same" : isAsked ? "The sheet says so: keep it" : "Keep what it is"}
      </Button>
    </Stack>
  );
}

const USUAL_PLUS = {
  "wrapped-can": "button",
  "bare-can": "button",
  "flat-can": "can",
  pouch: "marked-tab",
} as const;

/** The four capacities that are never mixed, as they stand. */
export function Capacities({ cell }: { cell: Cell }) {
  const shown = [
    ["Measured", cell.capacity_mah],
    ["Rated", cell.rated_capacity_mah],
    ["Claimed", cell.claimed_capacity_mah],
    ["Advertised", cell.advertised_capacity_mah],
  ] as const;
  return (
    <List>
      {shown.map(([word, mah]) => (
        <div key={word}>
          <dt>{word}</dt>
          <dd>{mah === null ? "–" : `${figure(mah)} mAh`}</dd>
        </div>
      ))}
    </List>
  );
}

const Stack = styled(Form)`display: grid; gap: var(--step); margin-top: var(--near);`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--step);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Triple = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--step);
  align-items: end;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; }
`;
const Ends = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--block);
  align-items: center;
`;
const List = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: var(--hair) var(--room);
  dt { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
  dd { font-family: ${({ theme }) => theme.font.figure}; }
`;
