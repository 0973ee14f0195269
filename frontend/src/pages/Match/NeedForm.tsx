import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { AskForm, useTyped } from "../../components/AskForm";
import { CountField } from "../../components/CountField";
import { Field, Switch } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Pick } from "../../components/Pick";

type Need = Schemas["NeedIn"];
type Replaced = NonNullable<Need["replaced"]>;
const REPLACED: ["device" | Replaced, string][] = [
  ["device", "Its voltages are known"],
  ["alkaline", "Alkaline cells"],
  ["nimh", "NiMH cells"],
  ["lead-acid", "Lead-acid cells of 2 V"],
];
const LOADS: [Need["load_kind"], string][] = [
  ["power", "Power"],
  ["current", "Current"],
  ["resistor", "Resistor"],
];
const CONVERTERS: ["none" | NonNullable<Need["converter"]>, string][] = [
  ["none", "Nothing: it takes the pack's volts"],
  ["step-up", "A step-up to higher volts"],
  ["step-down", "A step-down to lower volts"],
];
const USUAL_DEVICE = "usual";
const UNIT = { power: "W", current: "mA", resistor: "Ω" } as const;

interface NeedFormProps {
  onLook: (need: Need) => void;
  isLooking: boolean;
  problem: unknown;
}

const EMPTY = {
  instead: "device" as "device" | Replaced,
  converter: "none" as (typeof CONVERTERS)[number][0],
  load_kind: "power" as Need["load_kind"],
  device: USUAL_DEVICE,
  ...{ least_v: "", most_v: "", load: "", hours: "", charger_v: "", out_v: "", long: "", wide: "", high: "" },
};
type Typed = typeof EMPTY;
type Fields = ReturnType<typeof useTyped<Typed>>;

const needOf = ({ instead, device, long, wide, high, ...typed }: Typed, count: number): Need => {
  const isBehind = typed.converter !== "none";
  const isReplaced = instead !== "device" && !isBehind;
  return {
    ...typed,
    out_v: isBehind ? typed.out_v : "",
    converter: typed.converter === "none" ? null : typed.converter,
    replaced: isReplaced ? instead : null,
    count: isReplaced ? count : null,
    room_mm: [long, wide, high],
    device: device === USUAL_DEVICE ? null : device,
  };
};

/** What a builder knows of the device; the packs that would do stand beside it. */
export function NeedForm({ onLook, isLooking, problem }: NeedFormProps) {
  const { values, field } = useTyped(EMPTY);
  const [count, setCount] = useState(3);
  const turnedAway = useCatalogue().data?.turned_away ?? [];
  const refused = turnedAway.find((each) => each.code === values.device);
  return (
    <Stack
      problem={problem}
      standsAt={{ room: "long" }}
      onSend={() => onLook(needOf(values, count))}
      send="What would do?"
      isSending={isLooking}
      isDisabled={refused !== undefined}
    >
      <Pick
        label="What kind of device?"
        {...field("device")}
        options={[
          [USUAL_DEVICE, "Lamp, radio, meter and the like"],
          ...turnedAway.map((each) => [each.code, each.name] as const),
        ]}
      />
      {refused && <Notice kind="error">Nothing is built for it here. {refused.instead}</Notice>}
      <Volts values={values} field={field} count={count} onCount={setCount} />
      <Switch
        label={values.converter === "none" ? "The load is known as" : "What the device takes is known as"}
        {...field("load_kind")}
        options={LOADS}
      />
      <Pair>
        <Field
          label={LOADS.find(([kind]) => kind === values.load_kind)?.[1] ?? ""}
          unit={UNIT[values.load_kind]}
          numeric
          {...field("load")}
        />
        <Field label="For" unit="h" numeric {...field("hours")} />
      </Pair>
      <Sides aria-labelledby="room">
        <p id="room">Room in the case, mm, if it matters</p>
        <Field label="Long" numeric {...field("long")} />
        <Field label="Wide" numeric {...field("wide")} />
        <Field label="High" numeric {...field("high")} />
      </Sides>
      <Field label="Charger at hand, if any, ends at" unit="V" numeric {...field("charger_v")} />
    </Stack>
  );
}

/** What the device runs on: its volts, those behind a converter, or the cells that fed it before. */
function Volts({
  values,
  field,
  count,
  onCount,
}: {
  values: Typed;
  field: Fields["field"];
  count: number;
  onCount: (count: number) => void;
}) {
  const isBehind = values.converter !== "none";
  return (
    <>
      <Pick label="What stands between pack and device?" {...field("converter")} options={CONVERTERS} />
      {isBehind ? (
        <Field
          label="Volts behind it"
          unit="V"
          numeric
          {...field("out_v")}
          hint="Such as 5 of a USB plug, 12 of a router."
        />
      ) : (
        <Pick label="What fed it before?" {...field("instead")} options={REPLACED} />
      )}
      {values.instead === "device" || isBehind ? (
        <Pair>
          <Field
            label={isBehind ? "Its input takes from" : "Runs from"}
            hint={isBehind ? "May stay empty." : undefined}
            unit="V"
            numeric
            {...field("least_v")}
          />
          <Field label="up to" unit="V" numeric {...field("most_v")} />
        </Pair>
      ) : (
        <CountField label="How many of them" value={count} onChange={onCount} least={1} most={40} />
      )}
    </>
  );
}

const Stack = styled(AskForm)`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 21rem), 1fr));
  gap: var(--block) var(--yard);
  align-items: end;
`;
const Pair = styled.div`display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: var(--apart); align-items: start;`;
const Sides = styled.div.attrs({ role: "group" })`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: var(--near);
  align-items: end;
  p { grid-column: 1 / -1; }
`;
