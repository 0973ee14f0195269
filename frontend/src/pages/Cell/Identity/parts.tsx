import styled from "styled-components";
import type { Bench, Cell, Family } from "../../../api/client";
import { useCatalogue } from "../../../api/queries";
import { EndsPicture } from "../../../components/EndsPicture";
import { Choice, Field } from "../../../components/Fields";
import { Figure } from "../../../components/Figure";
import { Pick } from "../../../components/Pick";
import { SizeMeaning } from "../../../components/SizeMeaning";
import { BUILD_WORDS, FAMILY_WORDS, PLUS_END_WORDS, PROTECTION_WORDS, TERMINAL_WORDS } from "../../../words";
import type { Identity } from "./useIdentity";

const NOT_KNOWN = "not-known";

const orUnknown = <T extends string>(words: Record<T, string>): [T | typeof NOT_KNOWN, string][] => [
  [NOT_KNOWN, "Not known"],
  ...(Object.entries(words) as [T, string][]),
];

type Part = { of: Identity };

/** The sheet that names it, if there is one. */
export function Model({ of }: Part) {
  const catalogue = useCatalogue();
  const models = catalogue.data?.models.filter((each) => each.is_active || each.id === of.now.model_id) ?? [];
  return (
    <Pick
      label="Model, if the print names it"
      value={String(of.now.model_id ?? NOT_KNOWN)}
      onChange={(next) => of.say({ model_id: next === NOT_KNOWN ? null : Number(next) })}
      options={[
        [NOT_KNOWN, "Not in the catalogue"],
        ...models.map((each) => [String(each.id), `${each.name}, ${each.rated_capacity_mah} mAh`] as const),
      ]}
    />
  );
}

/** How large and heavy it is: as printed, or by calipers and scale, and what that means. */
export function Size({ of }: Part) {
  const printed = of.now.size_code ?? "";
  const width = of.number("width_mm");
  const length = of.number("length_mm");
  const sides = [of.number("thickness_mm"), width, length].filter((each) => each !== null);
  const outline = width && length ? sides.join(" x ") : null;
  // A size that only calipers told is no print.
  const isPrinted = printed !== "" && !printed.includes(" x ");
  const told = {
    family: of.now.family ?? null,
    claimMah: of.number("claimed_capacity_mah"),
    massG: of.number("mass_g"),
  };
  return (
    <>
      <Pair>
        <Field
          label="Size as printed"
          name="size_code"
          value={printed}
          onChange={(size_code) => of.say({ size_code: size_code.trim() || null })}
          maxLength={24}
          hint="18650, 603048, INR18650 …"
        />
        <Figure of={of} name="mass_g" label="Mass" unit="g" hint="Proves or breaks a claim." />
      </Pair>
      <SizeMeaning
        code={isPrinted ? printed : ""}
        {...told}
        onChoose={(reading) =>
          of.type({
            width_mm: String(reading.width_mm),
            length_mm: String(reading.length_mm),
            ...(reading.thickness_mm === null ? {} : { thickness_mm: String(reading.thickness_mm) }),
          })
        }
      />
      <p>Nothing printed, or more than one reading? Calipers are enough:</p>
      <Triple>
        <Figure of={of} name="width_mm" label="Width, or across" unit="mm" />
        <Figure of={of} name="length_mm" label="Length" unit="mm" />
        <Figure of={of} name="thickness_mm" label="Thickness if flat" unit="mm" />
      </Triple>
      {!isPrinted && outline && <SizeMeaning code={outline} {...told} onName={(size_code) => of.say({ size_code })} />}
    </>
  );
}

/** What it is made of; a cell that is charged higher than usual says how high. */
export function Chemistry({ of }: Part) {
  const catalogue = useCatalogue();
  const chemistries =
    catalogue.data?.chemistries.filter((each) => each.is_active || each.code === of.now.chemistry_code) ?? [];
  return (
    <>
      <Pair>
        <Pick
          label="Chemistry"
          value={of.now.family ?? NOT_KNOWN}
          onChange={(next) => of.say({ family: next === NOT_KNOWN ? null : (next as Family), chemistry_code: null })}
          options={orUnknown(FAMILY_WORDS)}
        />
        <Pick
          label="More exactly, if printed"
          value={of.now.chemistry_code ?? NOT_KNOWN}
          onChange={(next) => of.say({ chemistry_code: next === NOT_KNOWN ? null : next })}
          options={[[NOT_KNOWN, "Not known"], ...chemistries.map((each) => [each.code, each.name] as const)]}
        />
      </Pair>
      {of.now.family === "high-voltage-cobalt" && <Figure of={of} name="full_v" label="Marked full voltage" unit="V" />}
    </>
  );
}

/** What others say it holds. */
export function SaidCapacities({ of }: Part) {
  return (
    <>
      <p>
        Rated by a sheet you trust, claimed on the cell, advertised by a seller: three numbers that are never mixed.
      </p>
      <Triple>
        <Figure of={of} name="rated_capacity_mah" label="Rated" unit="mAh" />
        <Figure of={of} name="claimed_capacity_mah" label="Claimed" unit="mAh" />
        <Figure of={of} name="advertised_capacity_mah" label="Advertised" unit="mAh" />
      </Triple>
    </>
  );
}

/** Can or pouch, which end is plus, protected or not, and how it is joined. */
export function Build({ of, bench }: Part & { bench: Bench | null }) {
  const build = of.now.build ?? bench?.build ?? null;
  return (
    <>
      <Choice
        label="How it is built"
        value={of.now.build ?? NOT_KNOWN}
        onChange={(next) => of.say({ build: next === NOT_KNOWN ? null : (next as NonNullable<Cell["build"]>) })}
        options={orUnknown(BUILD_WORDS)}
      />
      {build && (
        <Ends>
          <EndsPicture build={build} plusEnd={of.now.plus_end ?? USUAL_PLUS[build]} />
          <p>{bench?.build === build ? bench.plus : "Measure which end is plus before you join it."}</p>
        </Ends>
      )}
      <Pair>
        <Pick
          label="Which end is plus"
          value={of.now.plus_end ?? NOT_KNOWN}
          onChange={(next) => of.say({ plus_end: next === NOT_KNOWN ? null : (next as NonNullable<Cell["plus_end"]>) })}
          options={orUnknown(PLUS_END_WORDS)}
        />
        <Pick
          label="Protected"
          value={of.now.protection ?? NOT_KNOWN}
          onChange={(next) =>
            of.say({ protection: next === NOT_KNOWN ? null : (next as NonNullable<Cell["protection"]>) })
          }
          options={orUnknown(PROTECTION_WORDS)}
        />
      </Pair>
      <Choice
        label="Its ends"
        value={of.now.terminals ?? NOT_KNOWN}
        onChange={(next) => of.say({ terminals: next === NOT_KNOWN ? null : (next as NonNullable<Cell["terminals"]>) })}
        options={orUnknown(TERMINAL_WORDS)}
      />
      {bench?.joining && !of.told.terminals && <p>{bench.joining}</p>}
    </>
  );
}

const USUAL_PLUS = {
  "wrapped-can": "button",
  "bare-can": "button",
  "flat-can": "can",
  pouch: "marked-tab",
} as const;

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
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; }
`;
const Ends = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--block);
  align-items: center;
`;
