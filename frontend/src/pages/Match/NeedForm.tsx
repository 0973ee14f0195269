import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, Problem, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { CountField, Field, Pick, Switch } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Designs } from "./Designs";

type Need = Schemas["NeedIn"];
type Replaced = NonNullable<Need["replaced"]>;
export type Design = Schemas["DesignOut"];
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
const UNIT = { power: "W", current: "mA", resistor: "Ω" } as const;

/** From what a builder knows of the device to packs that would do; one of them is matched. */
export function NeedForm({ onChoose }: { onChoose: (design: Design) => void }) {
  const [instead, setInstead] = useState<"device" | Replaced>("device");
  const [count, setCount] = useState(3);
  const [loadKind, setLoadKind] = useState<Need["load_kind"]>("power");
  const [typed, setTyped] = useState({ least_v: "", most_v: "", load: "", hours: "", charger_v: "" });
  const [room, setRoom] = useState<[string, string, string]>(["", "", ""]);
  const look = useMutation({ mutationFn: (body: Need) => answer(() => api.POST("/api/designs", { body })) });
  const problem = look.error instanceof Problem ? look.error : null;
  const at = (field: string) => (problem?.field === field ? problem.message : null);
  const put = (key: keyof typeof typed) => (value: string) => setTyped((before) => ({ ...before, [key]: value }));
  const putRoom = (place: number) => (value: string) =>
    setRoom((before) => before.map((side, index) => (index === place ? value : side)) as [string, string, string]);
  const isAtAField = ["least_v", "most_v", "load", "hours", "charger_v", "room"].includes(problem?.field ?? "");
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        look.mutate({
          ...typed,
          replaced: instead === "device" ? null : instead,
          count: instead === "device" ? null : count,
          load_kind: loadKind,
          room_mm: room,
        });
      }}
    >
      <Pick label="What fed it before?" value={instead} onChange={setInstead} options={REPLACED} />
      {instead === "device" ? (
        <Pair>
          <Field
            label="Runs from"
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
      <Switch label="The load is known as" value={loadKind} onChange={setLoadKind} options={LOADS} />
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
      <Sides aria-label="Room in the case, if it matters">
        {["Room, long", "wide", "high"].map((label, place) => (
          <Field key={label} label={label} unit="mm" numeric value={room[place] ?? ""} onChange={putRoom(place)} />
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
      <Button kind="main" type="submit" isDisabled={look.isPending}>
        What would do?
      </Button>
      {problem && !isAtAField && <ProblemNotice problem={problem} />}
      {look.data && <Designs found={look.data} onChoose={onChoose} />}
    </Stack>
  );
}

const Stack = styled(Form)`display: grid; gap: 1rem;`;
const Pair = styled.div`display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 0.75rem; align-items: start;`;
const Sides = styled.div.attrs({ role: "group" })`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0.5rem;
  align-items: end;
`;
