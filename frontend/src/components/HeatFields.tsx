import { memo } from "react";
import styled from "styled-components";
import { Problem, type Schemas } from "../api/client";
import { Choice, Field } from "./Fields";
import { Fold } from "./Fold";

type Warmth = NonNullable<Schemas["InspectionIn"]["warmth"]>;
export type Heat = { warmth: Warmth | null; cell: string; room: string };
export const UNSAID_HEAT: Heat = { warmth: null, cell: "", room: "" };

const STEPS: readonly (readonly [Warmth | "unsaid", string])[] = [
  ["unsaid", "not felt"],
  ["cool", "cool"],
  ["warm", "warm"],
  ["too-hot", "too hot to hold"],
];

/** How warm a cell is: by hand in three steps, or by a thermometer. */
export const HeatFields = memo(function HeatFields({
  heat,
  onChange,
  problem = null,
  title = "How warm is it?",
}: {
  heat: Heat;
  onChange: (heat: Heat) => void;
  problem?: unknown;
  title?: string;
}) {
  const said = (field: string) => (problem instanceof Problem && problem.field === field ? problem.message : null);
  return (
    <Fold title={title} isOpen={heat !== UNSAID_HEAT || said("cell_degc") !== null || said("bench_degc") !== null}>
      <Choice
        label="By hand"
        value={heat.warmth ?? "unsaid"}
        onChange={(step) => onChange({ ...heat, warmth: step === "unsaid" ? null : step })}
        options={[...STEPS]}
      />
      {heat.warmth === "too-hot" && <strong>Put it down, step back, and keep this: it is a hazard.</strong>}
      <Pair>
        <Field
          label="Cell"
          unit="°C"
          numeric
          value={heat.cell}
          onChange={(cell) => onChange({ ...heat, cell })}
          maxLength={20}
          error={said("cell_degc")}
        />
        <Field
          label="Room"
          unit="°C"
          numeric
          value={heat.room}
          onChange={(room) => onChange({ ...heat, room })}
          maxLength={20}
          error={said("bench_degc")}
        />
      </Pair>
    </Fold>
  );
});

/** The fields of a request that say it. */
export const heatBody = (heat: Heat) => ({
  warmth: heat.warmth,
  cell_degc: heat.cell.trim() || null,
  bench_degc: heat.room.trim() || null,
});

/** Whether a refusal stands beside one of these fields. */
export const isOfHeat = (problem: Problem) => problem.field === "cell_degc" || problem.field === "bench_degc";

const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--step);`;
