import styled from "styled-components";
import type { Cell } from "../../api/client";
import { Amount } from "../../components/Amount";
import { GradeMark } from "../../components/GradeMark";
import { Tape } from "../../components/Tape";
import { where } from "../../components/where";
import { STEP_WORDS } from "../../words";

/** Cells as rows, each with its capacity as a bar to the scale of the strongest one shown. */
export function ShelfTable({ cells }: { cells: Cell[] }) {
  const most = Math.max(1, ...cells.map((cell) => cell.capacity_mah ?? 0));
  return (
    <Scroll tabIndex={0} role="region" aria-label="Cells">
      <Table>
        <thead>
          <tr>
            <th scope="col">Cell</th>
            <th scope="col">Grade</th>
            <th scope="col">Capacity</th>
            <th scope="col">Resistance</th>
            <th scope="col">Resting</th>
            <th scope="col">Size</th>
            <th scope="col">Where</th>
            <th scope="col">Next</th>
          </tr>
        </thead>
        <tbody>
          {cells.map((cell) => (
            <tr key={cell.number}>
              <th scope="row">
                <Tape size="small" to={`/cells/${cell.number}`}>
                  {cell.number}
                </Tape>
              </th>
              <td>
                <GradeMark grade={cell.grade} />
              </td>
              <Capacity>
                <Amount value={cell.capacity_mah} unit="mAh" />
                {cell.capacity_mah !== null && <Bar style={{ width: `${(100 * cell.capacity_mah) / most}%` }} />}
              </Capacity>
              <td>
                <Amount value={cell.resistance_mohm} unit="mΩ" />
              </td>
              <td>
                <Amount value={cell.resting_voltage_v} unit="V" digits={2} />
              </td>
              <td>{cell.size_code ?? "–"}</td>
              <td>{where(cell)}</td>
              <td>{cell.pack_number ? `In pack ${cell.pack_number}` : STEP_WORDS[cell.step]}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

const Scroll = styled.div`overflow-x: auto; border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.paper};`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th, td { padding: var(--slit) var(--apart); text-align: left; white-space: nowrap; }
  thead th { border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; }
  tbody tr + tr > * { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  tbody tr:hover { background: ${({ theme }) => theme.color.askPaper}; }
`;
const Capacity = styled.td`min-width: 13rem;`;
const Bar = styled.i`
  display: block;
  height: 7px;
  margin-top: 2px;
  background: ${({ theme }) => theme.color.pencil};
  border-radius: 0 3px 3px 0;
`;
