import styled from "styled-components";
import type { Proposal, Schemas } from "../../api/client";
import { Figures } from "../../components/Figures";
import { figure } from "../../words";

/** The weakest group, the spread, how far the proven bound lies above, and what sorting by hand would have come to. */
export function Proof({ proposal, choice }: { proposal: Proposal; choice: Schemas["ChoiceOut"] }) {
  return (
    <div>
      <Figures
        leads
        items={[
          { label: "Weakest group", value: choice.weakest_mah, unit: "mAh" },
          { label: "Spread of the groups", value: choice.spread_mah, unit: "mAh" },
          { label: "Proven bound", value: proposal.bound_mah, unit: "mAh" },
        ]}
      />
      <Words>
        {proposal.proved_best
          ? "Better is impossible: no grouping of these cells has a stronger weakest group."
          : `At most ${figure(proposal.at_most_better_pct, proposal.at_most_better_pct < 0.1 ? 2 : 1)} % better is possible.`}
        {choice.give_pct > 0 && " This choice gives up a little of it, for evener resistance."}
      </Words>
      <p>
        Sorted and dealt by hand: {figure(proposal.by_hand_weakest_mah)} mAh in the weakest group, a spread of{" "}
        {figure(proposal.by_hand_spread_mah)} mAh.
      </p>
    </div>
  );
}

const Words = styled.p`margin-top: 0.25rem; font-size: ${({ theme }) => theme.size.lead};`;
