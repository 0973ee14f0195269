import styled from "styled-components";
import type { Schemas } from "../api/client";
import { figure } from "../words";
import { Marked } from "./Marked";
import { Tape } from "./Tape";

/** A pack as it would stand: groups in series from minus to plus, cells in parallel, each to the scale of its capacity. */
export function PackDrawing({ groups }: { groups: Schemas["GroupOut"][] }) {
  const most = Math.max(1, ...groups.flatMap((group) => group.cells.map((cell) => cell.capacity_mah ?? 0)));
  const weakest = Math.min(...groups.map((group) => group.capacity_mah));
  return (
    <Board tabIndex={0} role="region" aria-label={`Pack of ${groups.length} groups in series`}>
      <Pole>−</Pole>
      {groups.map((group, index) => (
        <Group key={group.cells[0]?.number ?? index} $weakest={group.capacity_mah === weakest && groups.length > 1}>
          <Cells>
            {group.cells.map((cell) => (
              <Can key={cell.number}>
                <Body style={{ height: `${20 + (105 * (cell.capacity_mah ?? 0)) / most}px` }}>
                  <Value>{figure(cell.capacity_mah ?? 0)}</Value>
                </Body>
                <Tape size="small" to={`/cells/${cell.number}`}>
                  {cell.number}
                </Tape>
                {cell.is_marked && <Marked />}
              </Can>
            ))}
          </Cells>
          <Sum>
            <strong>{figure(group.capacity_mah)} mAh</strong>
            <span>
              group {index + 1}
              {group.capacity_mah === weakest && groups.length > 1 ? ", weakest" : ""}
              {group.resistance_mohm !== null && `, ${figure(group.resistance_mohm, 1)} mΩ`}
            </span>
          </Sum>
        </Group>
      ))}
      <Pole>+</Pole>
    </Board>
  );
}

const Board = styled.div`
  display: flex;
  align-items: stretch;
  gap: var(--gap);
  padding: var(--block);
  overflow-x: auto;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background-color: ${({ theme }) => theme.color.paper};
  background-image:
    linear-gradient(${({ theme }) => theme.color.paperLine} 1px, transparent 1px),
    linear-gradient(90deg, ${({ theme }) => theme.color.paperLine} 1px, transparent 1px);
  background-size: 24px 24px;
`;
const Pole = styled.span`align-self: center; font: 800 2rem/1 ${({ theme }) => theme.font.figure};`;
const Group = styled.div<{ $weakest: boolean }>`
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  padding: var(--near) var(--gap);
  border: 3px ${({ $weakest }) => ($weakest ? "dashed" : "solid")} ${({ theme, $weakest }) => ($weakest ? theme.color.pencil : theme.color.inkSoft)};
  border-radius: 10px;
  background: ${({ theme }) => theme.color.mat};
`;
const Cells = styled.div`display: flex; align-items: flex-end; gap: var(--near); min-height: 165px;`;
const Can = styled.div`display: flex; flex-direction: column; align-items: center; gap: var(--slit);`;
const Body = styled.div`
  position: relative;
  display: flex;
  align-items: center;
  justify-content: center;
  width: 58px;
  margin-top: 8px;
  border: 2px solid ${({ theme }) => theme.color.ink};
  border-radius: 7px;
  background: ${({ theme }) => theme.color.paper};
  /* The plus cap of a cylinder. */
  &::before { content: ""; position: absolute; top: -8px; width: 22px; height: 7px; border: 2px solid ${({ theme }) => theme.color.ink}; border-bottom: 0; border-radius: 3px 3px 0 0; background: ${({ theme }) => theme.color.paper}; }
`;
const Value = styled.span`font: 700 1rem ${({ theme }) => theme.font.figure};`;
const Sum = styled.div`
  margin-top: var(--near);
  text-align: center;
  strong { display: block; font: 700 1.25rem ${({ theme }) => theme.font.figure}; white-space: nowrap; }
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
