import { Form } from "react-aria-components";
import styled from "styled-components";
import { useMatchOptions } from "../../api/queries";
import { Button } from "../../components/Button";
import { Choice, Field, Tick } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { Pick } from "../../components/Pick";
import { FAMILY_WORDS, figure, GRADE_WORDS } from "../../words";
import { EmptyPack } from "./EmptyPack";
import { type LeastGrade, misread, numbersIn, type Request, TOLERANCE_WORDS } from "./request";

type Family = Request["family"];
const FAMILIES = (Object.entries(FAMILY_WORDS) as [Family, string][]).filter(([key]) => (key as string) !== "primary");
const LEAST: [LeastGrade, string][] = [
  ["A", `${GRADE_WORDS.A} only`],
  ["B", `${GRADE_WORDS.B} and better`],
  ["C", `${GRADE_WORDS.C} too`],
];
const DONORS: [Request["donors"], string][] = [
  ["any", "As it comes"],
  ["together", "Together"],
  ["apart", "Apart"],
];

interface RequestFormProps {
  request: Request;
  onChange: (request: Request) => void;
  onMatch: () => void;
  isMatching: boolean;
  verb: "Match" | "Add";
  isFull?: boolean;
}

/** S and P, which cells, and what has to hold for them. */
export function RequestForm({ request, onChange, onMatch, isMatching, verb, isFull = false }: RequestFormProps) {
  const options = useMatchOptions().data;
  const put: Put = (key) => (value) => onChange({ ...request, [key]: value });
  const isAnySize = options?.is_any_size ?? false;
  const wrong = misread(request.target) ?? misread(request.load) ?? misread(request.fullV);
  const cells = request.series * request.parallel;
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        onMatch();
      }}
    >
      <EmptyPack
        series={request.series}
        parallel={request.parallel}
        cellFullV={Number(request.fullV.replace(",", ".")) || (options?.full_v[request.family] ?? null)}
        onSeries={put("series")}
        onParallel={put("parallel")}
      />
      <Slip>
        <Field
          label="Size"
          numeric
          value={request.size}
          onChange={put("size")}
          maxLength={20}
          hint={isAnySize ? "Empty: any size, as the house rules allow." : undefined}
        />
        <Pick label="Chemistry" value={request.family} onChange={put("family")} options={FAMILIES} />
        <Choice label="Cells that may take part" value={request.least} onChange={put("least")} options={LEAST} />
        <InHand request={request} onChange={onChange} />
        <WhatElse request={request} put={put} />
      </Slip>
      <Send>
        <Button
          kind="main"
          type="submit"
          waitsFor={
            request.size.trim() === "" && !isAnySize && request.only.trim() === ""
              ? "First a size: the house keeps to one in a pack."
              : wrong
                ? `First mend what is marked: ${wrong}`
                : null
          }
          isDisabled={isFull || isMatching}
        >
          {verb} {request.series}S{request.parallel}P: {cells} {cells === 1 ? "cell" : "cells"}
        </Button>
      </Send>
    </Stack>
  );
}

/** Cells that somebody has in hand: these and no others, in the shapes that so many make. */
function InHand({ request, onChange }: { request: Request; onChange: (request: Request) => void }) {
  const count = numbersIn(request.only).length;
  const shapes = [...new Set([1, count])].map((series) => [series, count / series] as const);
  return (
    <div>
      <Field
        label="Cells in hand, if it has to be these"
        value={request.only}
        onChange={(only) => onChange({ ...request, only })}
        hint="Their numbers. Empty: whatever lies on the shelf."
      />
      {count > 0 && (
        <Shapes>
          {shapes.map(([series, parallel]) => (
            <Button key={series} kind="quiet" onPress={() => onChange({ ...request, series, parallel })}>
              {series === 1 ? `All side by side: 1S${parallel}P` : `All in a row: ${series}S1P`}
            </Button>
          ))}
        </Shapes>
      )}
    </div>
  );
}

type Put = <Key extends keyof Request>(key: Key) => (value: Request[Key]) => void;

/** Enough in a group, the load, how near to one another, marks and donors. */
function WhatElse({ request, put }: { request: Request; put: Put }) {
  const options = useMatchOptions().data;
  const tolerances = options?.tolerances ?? [];
  const within = tolerances.find((each) => each.key === request.tolerance)?.voltage_v ?? options?.join_within_v;
  return (
    <Fold
      title="What else has to hold"
      isOpen={request.tolerance !== "none" || request.target !== "" || request.fullV !== ""}
    >
      <Field
        label="Enough in each group"
        unit="mAh"
        numeric
        value={request.target}
        onChange={put("target")}
        hint="Then as little as possible is taken from the shelf. Empty: as much as can be."
        error={misread(request.target)}
      />
      <Field
        label="The load takes, in all"
        unit="A"
        numeric
        value={request.load}
        onChange={put("load")}
        hint="Each cell of a group carries its share; those that may not are left out."
        error={misread(request.load)}
      />
      <Pick
        label="How near to one another"
        value={request.tolerance}
        onChange={put("tolerance")}
        options={[
          ["none", "Any, evened out by matching"],
          ...tolerances.map(
            (each) =>
              [
                each.key,
                `${TOLERANCE_WORDS[each.key]}: ${figure(each.capacity_pct)} %, ${figure(each.resistance_ratio, 1)} times the resistance`,
              ] as const,
          ),
        ]}
      />
      <Field
        label="Marked on the cells: full at"
        unit="V"
        numeric
        value={request.fullV}
        onChange={put("fullV")}
        hint="Such as 4.35 or 4.40. Empty: as usual for the chemistry."
        error={misread(request.fullV)}
      />
      <Field
        label="Marked cells that may take part"
        value={request.marked}
        onChange={put("marked")}
        hint="Numbers of cells that were recovered from very low. A coordinator keeps such a pack."
      />
      <Choice label="Cells of one donor in a group" value={request.donors} onChange={put("donors")} options={DONORS} />
      <Tick isSelected={request.joinedAsTheyLie} onChange={put("joinedAsTheyLie")}>
        Joined as they lie{within !== undefined && `: resting voltages within ${figure(within, 2)} V`}
      </Tick>
      <Tick isSelected={request.withEstimated} onChange={put("withEstimated")}>
        Estimated capacities too
      </Tick>
    </Fold>
  );
}

const Stack = styled(Form)`
  display: grid;
  grid-template: "pack slip" minmax(0, 1fr) "send slip" auto / minmax(0, 1fr) 21rem;
  gap: var(--sheet) var(--yard);
  align-items: start;
  > :first-child { grid-area: pack; }
  ${({ theme }) => theme.narrow} { grid-template: "pack" "slip" "send" / minmax(0, 1fr); }
`;
const Slip = styled.div`grid-area: slip; display: grid; gap: var(--step);`;
const Send = styled.div`grid-area: send; display: grid; justify-items: center;`;
const Shapes = styled.div`display: flex; flex-wrap: wrap; gap: 0 var(--block);`;
