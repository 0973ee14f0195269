import styled from "styled-components";
import type { Proposal } from "../../api/client";
import { Figures } from "../../components/Figures";
import { figure } from "../../words";

/** The weakest group, the spread, and how far the proven bound lies above: what one came for. */
export function Proof({ proposal }: { proposal: Proposal }) {
  return (
    <div>
      <Figures
        leads
        items={[
          { label: "Weakest group", value: proposal.weakest_mah, unit: "mAh" },
          { label: "Spread of the groups", value: proposal.spread_mah, unit: "mAh" },
          { label: "Proven bound", value: proposal.bound_mah, unit: "mAh" },
        ]}
      />
      <Words>
        {proposal.proved_best
          ? "Better is impossible: no grouping of these cells has a stronger weakest group."
          : `At most ${figure(proposal.at_most_better_pct, proposal.at_most_better_pct < 0.1 ? 2 : 1)} % better is possible.`}
      </Words>
    </div>
  );
}

const Words = styled.p`margin-top: 0.25rem; font-size: ${({ theme }) => theme.size.lead};`;
