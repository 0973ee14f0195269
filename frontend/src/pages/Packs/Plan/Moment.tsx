import styled from "styled-components";
import { figure } from "../../../words";
import { lasting, type Paper } from "./run";

/** The pack at one moment of its run: each cell filled by what it holds, with what flows out of it or into it. */
export function Moment({ paper, at }: { paper: Paper; at: number }) {
  const isMany = paper.groups.reduce((sum, group) => sum + group.cells.length, 0) > MOST_CELLS;
  const isEnd = at === paper.moments_h.length - 1;
  return (
    <figure style={{ margin: 0 }}>
      <Told aria-live="off">
        {isEnd
          ? "At the end: "
          : at === 0
            ? "At the first moment: "
            : `After ${lasting(paper.moments_h[at] ?? 0)} with the load on: `}
        <strong>
          {figure(paper.pack_v[at] ?? 0, 2)} V, {figure(paper.load_a[at] ?? 0, 2)} A
        </strong>
      </Told>
      <Row tabIndex={0} role="group" aria-label="Cells at this moment">
        <Pole>−</Pole>
        {paper.groups.map((group, index) => (
          <Group key={group.cells[0]?.number ?? index} $ends={paper.ended_in === index + 1}>
            <Cells>
              {(isMany ? [meanOf(group.cells, at)] : group.cells.map((cell) => cellAt(cell, at))).map((cell) => (
                <Can key={cell.number} title={cell.number}>
                  <Body aria-hidden="true">
                    <Fill style={{ height: `${100 * Math.min(Math.max(cell.soc, 0), 1)}%` }} />
                  </Body>
                  <Small>{figure(100 * cell.soc)} %</Small>
                  <Small $tells={cell.current_a < -0.005}>
                    {cell.current_a < -0.005 ? "↓ " : ""}
                    {figure(Math.abs(cell.current_a), 2)} A
                  </Small>
                  {!isMany && <Small>{cell.number}</Small>}
                </Can>
              ))}
            </Cells>
            <Volts>{figure(group.volts[at] ?? 0, 2)} V</Volts>
          </Group>
        ))}
        <Pole>+</Pole>
      </Row>
    </figure>
  );
}

type CellRun = Paper["groups"][number]["cells"][number];
const cellAt = (cell: CellRun, at: number) => ({
  number: cell.number,
  soc: cell.soc[at] ?? 0,
  current_a: cell.current_a[at] ?? 0,
});
const meanOf = (cells: CellRun[], at: number) => {
  const all = cells.map((cell) => cellAt(cell, at));
  const mean = (pick: (cell: (typeof all)[number]) => number) =>
    all.reduce((sum, cell) => sum + pick(cell), 0) / all.length;
  return { number: "in the mean", soc: mean((cell) => cell.soc), current_a: mean((cell) => cell.current_a) };
};
const MOST_CELLS = 60;

const Told = styled.figcaption`
  strong { font-family: ${({ theme }) => theme.font.figure}; }
`;
const Row = styled.div`display: flex; align-items: center; gap: var(--near); overflow-x: auto; padding: var(--near) 0;`;
const Pole = styled.span`font: 800 1.5rem/1 ${({ theme }) => theme.font.figure};`;
const Group = styled.div<{ $ends: boolean }>`
  display: grid;
  justify-items: center;
  gap: var(--hair);
  padding: var(--slit) var(--near);
  border: 2px ${({ $ends }) => ($ends ? "dashed" : "solid")} ${({ theme, $ends }) => ($ends ? theme.color.pencil : theme.color.inkSoft)};
  border-radius: 8px;
  background: ${({ theme }) => theme.color.mat};
`;
const Cells = styled.div`display: flex; gap: var(--near);`;
const Can = styled.div`display: grid; justify-items: center; min-width: 3.25rem;`;
const Body = styled.div`
  display: flex;
  align-items: flex-end;
  width: 30px;
  height: 64px;
  margin-bottom: var(--hair);
  border: 2px solid ${({ theme }) => theme.color.ink};
  border-radius: 5px;
  background: ${({ theme }) => theme.color.paper};
  overflow: hidden;
`;
/** Pencil hatching up to what it holds. */
const Fill = styled.div`
  width: 100%;
  background: repeating-linear-gradient(135deg, ${({ theme }) => theme.color.pencil} 0 2px, transparent 2px 6px);
  border-top: 2px solid ${({ theme }) => theme.color.pencil};
`;
const Small = styled.span<{ $tells?: boolean }>`
  font: ${({ $tells }) => ($tells ? 800 : 500)} ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure};
  white-space: nowrap;
`;
const Volts = styled.strong`font-family: ${({ theme }) => theme.font.figure};`;
