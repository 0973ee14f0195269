import styled from "styled-components";
import type { Cell } from "../../api/client";
import { Marked } from "../../components/Marked";
import { Tape } from "../../components/Tape";
import { FAMILY_WORDS } from "../../words";

/** Which cell is at hand: its number, where it lies, what it is. */
export function CellHead({ cell, left }: { cell: Cell; left: number | null }) {
  const facts = [
    cell.size_code ?? "size unknown",
    cell.family ? FAMILY_WORDS[cell.family].split(",")[0] : "chemistry unknown",
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

export function where(cell: Cell): string {
  if (cell.place) return cell.slot ? `${cell.place.name}, place ${cell.slot}` : cell.place.name;
  if (cell.in_use_in) return `In use in ${cell.in_use_in}`;
  return cell.pack_number ? `In pack ${cell.pack_number}` : "Not here any more";
}

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.375rem 1rem;
  p { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Left = styled.span`margin-left: auto; font-weight: 700;`;
