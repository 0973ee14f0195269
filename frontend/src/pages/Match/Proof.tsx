import styled from "styled-components";
import type { Proposal } from "../../api/client";
import { Amount } from "../../components/Amount";
import { figure } from "../../words";

/** The weakest group, the spread, and how far the proven bound lies above: what one came for. */
export function Proof({ proposal }: { proposal: Proposal }) {
  return (
    <div>
      <Row>
        <div>
          <dt>Weakest group</dt>
          <dd>
            <Amount value={proposal.weakest_mah} unit="mAh" size="key" />
          </dd>
        </div>
        <div>
          <dt>Spread of the groups</dt>
          <dd>
            <Amount value={proposal.spread_mah} unit="mAh" size="figure" />
          </dd>
        </div>
        <div>
          <dt>Proven bound</dt>
          <dd>
            <Amount value={proposal.bound_mah} unit="mAh" size="figure" />
          </dd>
        </div>
      </Row>
      <Words>
        {proposal.proved_best
          ? "Better is impossible: no grouping of these cells has a stronger weakest group."
          : `At most ${figure(proposal.at_most_better_pct, proposal.at_most_better_pct < 0.1 ? 2 : 1)} % better is possible.`}
      </Words>
    </div>
  );
}

const Row = styled.dl`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 0.25rem 2.25rem;
  dt { font-weight: 700; }
`;
const Words = styled.p`margin-top: 0.25rem; font-size: ${({ theme }) => theme.size.lead};`;
