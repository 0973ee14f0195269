import styled from "styled-components";
import type { Cell } from "../../api/client";
import { Marked } from "../../components/Marked";
import { Tape } from "../../components/Tape";
import { where } from "../../components/where";
import { FAMILIES_SAID } from "../../words";

/** Which cell is at hand: its number, where it lies, what it is. */
export function CellHead({ cell, left }: { cell: Cell; left: number | null }) {
  const facts = [
    cell.size_code ?? "size unknown",
    cell.family ? FAMILIES_SAID[cell.family] : "chemistry unknown",
    cell.rated_capacity_mah ? `${cell.rated_capacity_mah} mAh rated` : null,
  ];
  return (
    <Head>
      <Tape size="large">{cell.number}</Tape>
      <div>
        <strong>{where(cell)}</strong>
        {cell.is_marked && <Marked />}
        <p>{facts.filter(Boolean).join(", ")}</p>
      </div>
      {left !== null && <Left>{left === 1 ? "the last one" : `${left} to go`}</Left>}
    </Head>
  );
}

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--slit) var(--block);
  p { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Left = styled.span`margin-left: auto; font-weight: 700;`;
