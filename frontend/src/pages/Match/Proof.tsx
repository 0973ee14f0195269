import styled from "styled-components";
import type { Proposal } from "../../api/client";
import { Figures as Shown } from "../../components/Figures";
import { figure } from "../../words";
import type { Figures, Laid } from "./board";

/** The weakest group, the spread, how far the proven bound lies above, and what sorting by hand would have come to. */
export function Proof({ laid, figures }: { laid: Laid; figures: Figures }) {
  const { proposal, byHand } = laid;
  const choice = proposal.choices[laid.chosen];
  return (
    <div>
      <Shown
        leads
        items={[
          { label: "Weakest group", value: figures.weakest, unit: "mAh" },
          { label: "Spread of the groups", value: figures.spread, unit: "mAh" },
          { label: "Proven bound", value: proposal.bound_mah, unit: "mAh" },
        ]}
      />
      <Words>{inWords(proposal, figures)}</Words>
      <p>
        {choice && !byHand && (
          <>
            With 90 % certainty the weakest group holds {figure(choice.sure_mah)} mAh; the chance that it holds less
            than {figure(choice.short_of_mah)} mAh is {chance(choice.shortfall)}.{" "}
          </>
        )}
        {proposal.target_mah === null && (
          <>
            Sorted and dealt by hand: {figure(proposal.by_hand_weakest_mah)} mAh in the weakest group, a spread of{" "}
            {figure(proposal.by_hand_spread_mah)} mAh.
          </>
        )}
      </p>
    </div>
  );
}

/** How much better it could be, in words. */
export function inWords(proposal: Proposal, figures: Figures): string {
  if (proposal.target_mah !== null) return enoughInWords(proposal.target_mah, figures);
  const bettered = proposal.bound_mah - figures.weakest;
  if (bettered < 1e-3) return "Better is impossible: no grouping of these cells has a stronger weakest group.";
  const pct = (100 * bettered) / figures.weakest;
  const most = `At most ${figure(pct, pct < 0.1 ? 3 : 1)} % better is possible.`;
  const best = Math.max(...proposal.choices.map((choice) => choice.weakest_mah));
  return figures.weakest < best - 1e-3
    ? `${most} The best found has ${figure(best - figures.weakest)} mAh more in its weakest group.`
    : most;
}

function enoughInWords(target: number, { sums, weakest }: Figures): string {
  if (weakest < target - 1e-3) return `The weakest group is ${figure(target - weakest)} mAh short of what is enough.`;
  const more = sums.reduce((total, sum) => total + sum - target, 0);
  return `Every group holds the ${figure(target)} mAh that are enough; all together take ${figure(more)} mAh more than that from the shelf.`;
}

export function chance(probability: number): string {
  if (probability < 0.001) return "below 0.1 %";
  return `${figure(100 * probability, probability < 0.1 ? 1 : 0)} %`;
}

const Words = styled.p`margin-top: var(--hair); font-size: ${({ theme }) => theme.size.lead};`;
