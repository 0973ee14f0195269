import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../api/client";
import { drawPack } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Tape } from "../../components/Tape";
import { figure } from "../../words";

type Repair = Schemas["RepairOut"];

/** A plan whose cells are no longer what they were planned as: what changed, and how to mend it with the fewest exchanges. */
export function StalePlan({ pack, plan }: { pack: Pack; plan: Schemas["PlanStateOut"] }) {
  const [chosen, setChosen] = useState("0");
  const mend = useWrite(
    (body: Schemas["MendIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/repairs", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    drawPack,
  );
  const repair = plan.repairs[Number(chosen)] ?? plan.repairs[0];
  const exchanges = repair?.exchanges ?? [];
  return (
    <Strip role="alert" aria-label="This plan is stale">
      <h2>
        {plan.stale.length === 1 ? "A cell" : `${plan.stale.length} cells`} of this plan changed since it was made.
      </h2>
      <ul>
        {plan.stale.map((cell) => (
          <li key={cell.number}>
            <Tape size="small" to={`/cells/${cell.number}`}>
              {cell.number}
            </Tape>{" "}
            in group {cell.group}:{" "}
            {cell.reason ?? `now ${figure(cell.is_mah)} mAh, planned with ${figure(cell.was_mah)} mAh`}
          </li>
        ))}
      </ul>
      {plan.repairs.length > 1 && (
        <Switch
          label="How to mend it"
          value={chosen}
          onChange={setChosen}
          options={plan.repairs.map((each, index) => [String(index), inWords(each)] as const)}
        />
      )}
      {repair ? (
        <>
          {exchanges.length > 0 && (
            <ul>
              {exchanges.map((change) => (
                <li key={change.out}>
                  Group {change.group}: {change.comes} with {figure(change.comes_mah)} mAh
                  {change.place_name && ` from ${change.place_name}`} instead of {change.out}
                </li>
              ))}
            </ul>
          )}
          <p>
            Then the weakest group has <strong>{figure(repair.weakest_mah)} mAh</strong>, with a spread of{" "}
            {figure(repair.spread_mah)} mAh. It was planned with {figure(pack.weakest_mah)} mAh.
          </p>
          <Button
            kind="main"
            isDisabled={mend.isPending}
            onPress={() =>
              mend.mutate({
                exchanges: Object.fromEntries(exchanges.map((change) => [change.out, change.comes])),
                seen_version: pack.version,
              })
            }
          >
            {exchanges.length === 0 ? "Take the new figures" : `Exchange ${counted(exchanges.length)}`}
          </Button>
        </>
      ) : (
        <p>Nothing on the shelf can take the place. Drop the plan, or wait for more cells.</p>
      )}
      <ProblemNotice problem={mend.error} />
    </Strip>
  );
}

const counted = (exchanges: number) => (exchanges === 1 ? "1 cell" : `${exchanges} cells`);
const inWords = (repair: Repair) =>
  `${repair.exchanges.length === 0 ? "Nothing" : counted(repair.exchanges.length)}: ${figure(repair.weakest_mah)} mAh`;

const Strip = styled.section`
  display: grid;
  gap: var(--gap);
  justify-items: start;
  padding: var(--step) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  li + li { margin-top: var(--slit); }
`;
