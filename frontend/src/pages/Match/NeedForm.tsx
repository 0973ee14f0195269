import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import type { Problem, Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Button } from "../../components/Button";
import { CountField } from "../../components/CountField";
import { Field, Switch } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Pick } from "../../components/Pick";

type Need = Schemas["NeedIn"];
type Replaced = NonNullable<Need["replaced"]>;
/** Fields that a refusal may belong to; any other stands with the answer. */
export const NEED_FIELDS: readonly string[] = ["out_v", "least_v", "most_v", "load", "hours", "charger_v", "room"];
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
  problem: Problem | null;
}

/** What a builder knows of the device; the packs that would do stand beside it. */
export function NeedForm({ onLook, isLooking, problem }: NeedFormProps) {
  const [instead, setInstead] = useState<"device" | Replaced>("device");
  const [count, setCount] = useState(3);
  const [loadKind, setLoadKind] = useState<Need["load_kind"]>("power");
  const [typed, setTyped] = useState({ least_v: "", most_v: "", load: "", hours: "", charger_v: "", out_v: "" });
  const [converter, setConverter] = useState<(typeof CONVERTERS)[number][0]>("none");
  const isBehind = converter !== "none";
  const [room, setRoom] = useState<[string, string, string]>(["", "", ""]);
  const [device, setDevice] = useState(USUAL_DEVICE);
  const turnedAway = useCatalogue().data?.turned_away ?? [];
  const refused = turnedAway.find((each) => each.code === device);
  const at = (field: string) => (problem?.field === field ? problem.message : null);
  const put = (key: keyof typeof typed) => (value: string) => setTyped((before) => ({ ...before, [key]: value }));
  const putRoom = (place: number) => (value: string) =>
    setRoom((before) => before.map((side, index) => (index === place ? value : side)) as [string, string, string]);
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        onLook({
          ...typed,
          out_v: isBehind ? typed.out_v : "",
          converter: isBehind ? converter : null,
          replaced: instead === "device" || isBehind ? null : instead,
          count: instead === "device" || isBehind ? null : count,
          load_kind: loadKind,
          room_mm: room,
          device: device === USUAL_DEVICE ? null : device,
        });
      }}
    >
      <Pick
        label="What kind of device?"
        value={device}
        onChange={setDevice}
        options={[
          [USUAL_DEVICE, "Lamp, radio, meter and the like"],
          ...turnedAway.map((each) => [each.code, each.name] as const),
        ]}
      />
      {refused && <Notice kind="error">Nothing is built for it here. {refused.instead}</Notice>}
      <Pick
        label="What stands between pack and device?"
        value={converter}
        onChange={setConverter}
        options={CONVERTERS}
      />
      {isBehind ? (
        <Field
          label="Volts behind it"
          unit="V"
          numeric
          value={typed.out_v}
          onChange={put("out_v")}
          error={at("out_v")}
          hint="Such as 5 of a USB plug, 12 of a router."
        />
      ) : (
        <Pick label="What fed it before?" value={instead} onChange={setInstead} options={REPLACED} />
      )}
      {instead === "device" || isBehind ? (
        <Pair>
          <Field
            label={isBehind ? "Its input takes from" : "Runs from"}
            hint={isBehind ? "May stay empty." : undefined}
            unit="V"
            numeric
            value={typed.least_v}
            onChange={put("least_v")}
            error={at("least_v")}
          />
          <Field label="up to" unit="V" numeric value={typed.most_v} onChange={put("most_v")} error={at("most_v")} />
        </Pair>
      ) : (
        <CountField label="How many of them" value={count} onChange={setCount} least={1} most={40} />
      )}
      <Switch
        label={isBehind ? "What the device takes is known as" : "The load is known as"}
        value={loadKind}
        onChange={setLoadKind}
        options={LOADS}
      />
      <Pair>
        <Field
          label={LOADS.find(([kind]) => kind === loadKind)?.[1] ?? ""}
          unit={UNIT[loadKind]}
          numeric
          value={typed.load}
          onChange={put("load")}
          error={at("load")}
        />
        <Field label="For" unit="h" numeric value={typed.hours} onChange={put("hours")} error={at("hours")} />
      </Pair>
      <Sides aria-labelledby="room">
        <p id="room">Room in the case, mm, if it matters</p>
        {["Long", "Wide", "High"].map((label, place) => (
          <Field key={label} label={label} numeric value={room[place] ?? ""} onChange={putRoom(place)} />
        ))}
      </Sides>
      {at("room") && <p role="alert">{at("room")}</p>}
      <Field
        label="Charger at hand, if any, ends at"
        unit="V"
        numeric
        value={typed.charger_v}
        onChange={put("charger_v")}
        error={at("charger_v")}
      />
      <Button kind="main" type="submit" isDisabled={isLooking || refused !== undefined}>
        What would do?
      </Button>
    </Stack>
  );
}

const Stack = styled(Form)`
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
