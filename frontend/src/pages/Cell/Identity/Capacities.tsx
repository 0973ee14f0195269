import styled from "styled-components";
import type { Cell } from "../../../api/client";
import { figure } from "../../../words";

/** The four capacities that are never mixed, as they stand. */
export function Capacities({ cell }: { cell: Cell }) {
  const shown = [
    ["Measured", cell.capacity_mah],
    ["Rated", cell.rated_capacity_mah],
    ["Claimed", cell.claimed_capacity_mah],
    ["Advertised", cell.advertised_capacity_mah],
  ] as const;
  return (
    <List>
      {shown.map(([word, mah]) => (
        <div key={word}>
          <dt>{word}</dt>
          <dd>{mah === null ? "–" : `${figure(mah)} mAh`}</dd>
        </div>
      ))}
    </List>
  );
}

const List = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: var(--hair) var(--room);
  dt { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
  dd { font-family: ${({ theme }) => theme.font.figure}; }
`;
