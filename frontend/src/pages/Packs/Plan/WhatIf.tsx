import styled from "styled-components";
import type { Pack, Schemas } from "../../../api/client";
import { Button } from "../../../components/Button";
import { Field, Switch } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import { Pick } from "../../../components/Pick";

export type Asked = {
  starts_from: NonNullable<Schemas["PackWhatIfIn"]["starts_from"]>;
  load_kind: NonNullable<Schemas["PackWhatIfIn"]["load_kind"]>;
  load: string;
  out: string;
  comes: string;
  colder: string;
};

export const AS_PLANNED: Asked = { starts_from: "full", load_kind: "power", load: "", out: "", comes: "", colder: "0" };

/** What goes over the wire; null: it is asked as it is planned. */
export function bodyOf(asked: Asked): Schemas["PackWhatIfIn"] | null {
  const body = {
    starts_from: asked.starts_from,
    ...(asked.load.trim() && { load_kind: asked.load_kind, load: asked.load }),
    exchanges: asked.out ? { [asked.out]: asked.comes.trim() || null } : {},
    colder_pct: Number(asked.colder),
    quick: true,
  };
  const isPlanned = asked.starts_from === "full" && !asked.load.trim() && !asked.out && asked.colder === "0";
  return isPlanned ? null : body;
}

const LOADS: [Asked["load_kind"], string][] = [
  ["power", "Watts"],
  ["current", "Milliamperes"],
  ["resistor", "Ohms"],
];
const UNIT: Record<Asked["load_kind"], string> = { current: "mA", power: "W", resistor: "Ω" };
const STARTS: [Asked["starts_from"], string][] = [
  ["full", "Charged to full"],
  ["as-they-lie", "As they lie"],
];
const COLDER: [string, string][] = [
  ["0", "as it is"],
  ["5", "5 % worse"],
  ["10", "10 % worse"],
  ["20", "20 % worse"],
];

/** Another load, another cell, one cell less, a colder converter: the figures move, nothing is kept. */
export function WhatIf({
  pack,
  asked,
  onAsk,
  wrong,
}: {
  pack: Pack;
  asked: Asked;
  onAsk: (asked: Asked) => void;
  wrong: { field: string | null; text: string } | null;
}) {
  const set =
    <Key extends keyof Asked>(key: Key) =>
    (value: Asked[Key]) =>
      onAsk({ ...asked, [key]: value });
  const cells = pack.groups.flatMap((group, index) =>
    group.cells.map((cell) => [cell.number, `${cell.number}, group ${index + 1}`] as const),
  );
  const hasConverter = pack.parts.some((part) => part.kind === "converter");
  return (
    <Fold title="What if: another load, another cell, one less">
      <Grid>
        <Switch label="It starts from" value={asked.starts_from} onChange={set("starts_from")} options={STARTS} />
        <Switch label="Another load in" value={asked.load_kind} onChange={set("load_kind")} options={LOADS} />
        <Field
          label="Another load"
          unit={UNIT[asked.load_kind]}
          numeric
          value={asked.load}
          onChange={set("load")}
          maxLength={12}
          hint="Empty: as planned."
          error={wrong?.field === "load" ? wrong.text : null}
        />
        <Pick
          label="Without this cell"
          value={asked.out || NONE}
          onChange={(out) => onAsk({ ...asked, out: out === NONE ? "" : out })}
          options={[[NONE, "all stay"], ...cells]}
        />
        {asked.out && (
          <Field
            label="For it comes"
            value={asked.comes}
            onChange={set("comes")}
            maxLength={12}
            hint="A cell's number; empty: none, it is one less."
            error={wrong?.field === "exchanges" ? wrong.text : null}
          />
        )}
        {hasConverter && (
          <Pick label="The converter, colder" value={asked.colder} onChange={set("colder")} options={COLDER} />
        )}
        <Button kind="quiet" onPress={() => onAsk(AS_PLANNED)}>
          As planned again
        </Button>
      </Grid>
    </Fold>
  );
}
const NONE = "all";

const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(13rem, 1fr)); gap: var(--apart) var(--sheet); align-items: start; width: 100%;`;
