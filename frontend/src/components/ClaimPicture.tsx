import styled from "styled-components";
import type { Schemas } from "../api/client";
import { figure } from "../words";

const VERDICT = {
  believable: "Believable",
  doubtful: "Doubtful",
  impossible: "Impossible",
} as const;

/** Where a claim lies against what fits into such a cell. */
export function ClaimPicture({ claim }: { claim: Schemas["ClaimOut"] }) {
  const end = Math.max(claim.claim_mah, claim.impossible_above_mah) * 1.12;
  const at = (mah: number) => `${(100 * mah) / end}%`;
  return (
    <figure aria-label={`Claim of ${figure(claim.claim_mah)} mAh: ${claim.verdict}`}>
      <Said $verdict={claim.verdict}>
        {VERDICT[claim.verdict]}: {figure(claim.claim_mah)} mAh claimed
      </Said>
      <Line>
        <Zone $kind="believable" style={{ left: 0, width: at(claim.doubtful_above_mah) }} />
        <Zone
          $kind="doubtful"
          style={{
            left: at(claim.doubtful_above_mah),
            width: at(claim.impossible_above_mah - claim.doubtful_above_mah),
          }}
        />
        <Zone $kind="impossible" style={{ left: at(claim.impossible_above_mah), right: 0 }} />
        <Mark style={{ left: at(claim.claim_mah) }} />
      </Line>
      <Legend>
        <span>fits up to {figure(claim.doubtful_above_mah)}</span>
        <span>nothing above {figure(claim.impossible_above_mah)} mAh</span>
      </Legend>
      <Small>{claim.arithmetic}</Small>
    </figure>
  );
}

const Said = styled.figcaption<{ $verdict: keyof typeof VERDICT }>`
  margin-bottom: var(--sheet);
  font-weight: 750;
  color: ${({ theme, $verdict }) => ($verdict === "impossible" ? theme.color.danger : $verdict === "doubtful" ? theme.color.grade.C : theme.color.grade.A)};
`;
const Line = styled.div`
  position: relative;
  height: 20px;
  border: 2px solid ${({ theme }) => theme.color.ink};
`;
const Zone = styled.i<{ $kind: keyof typeof VERDICT }>`
  position: absolute;
  top: 0;
  bottom: 0;
  background: ${({ theme, $kind }) =>
    $kind === "believable"
      ? theme.color.mat
      : $kind === "doubtful"
        ? theme.color.tape
        : `repeating-linear-gradient(45deg, ${theme.color.danger} 0 6px, ${theme.color.dangerPaper} 6px 12px)`};
`;
const Mark = styled.i`
  position: absolute;
  top: -17px;
  margin-left: -9px;
  border: 9px solid transparent;
  border-top: 17px solid ${({ theme }) => theme.color.pencil};
  border-bottom: 0;
`;
const Legend = styled.div`
  display: flex;
  justify-content: space-between;
  gap: var(--block);
  font-size: ${({ theme }) => theme.size.note};
`;
const Small = styled.p`margin-top: var(--hair); font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
