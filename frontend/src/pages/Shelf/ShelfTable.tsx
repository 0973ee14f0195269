import styled from "styled-components";
import type { Cell } from "../../api/client";
import { Amount } from "../../components/Amount";
import { GradeMark } from "../../components/GradeMark";
import { type Column, Table } from "../../components/Table";
import { Tape } from "../../components/Tape";
import { where } from "../../components/where";
import { STEP_WORDS } from "../../words";

/** Cells as rows, each with its capacity as a bar to the scale of the strongest one shown. */
export function ShelfTable({ cells }: { cells: Cell[] }) {
  const most = Math.max(1, ...cells.map((cell) => cell.capacity_mah ?? 0));
  const columns: Column<Cell>[] = [
    {
      head: "Cell",
      isName: true,
      cell: (cell) => (
        <Tape size="small" to={`/cells/${cell.number}`}>
          {cell.number}
        </Tape>
      ),
    },
    { head: "Grade", cell: (cell) => <GradeMark grade={cell.grade} /> },
    {
      head: "Capacity",
      cell: (cell) => (
        <Capacity>
          <Amount value={cell.capacity_mah} unit="mAh" />
          {cell.capacity_mah !== null && <Bar style={{ width: `${(100 * cell.capacity_mah) / most}%` }} />}
        </Capacity>
      ),
    },
    { head: "Resistance", cell: (cell) => <Amount value={cell.resistance_mohm} unit="mΩ" /> },
    { head: "Resting", cell: (cell) => <Amount value={cell.resting_voltage_v} unit="V" digits={2} /> },
    { head: "Size", cell: (cell) => cell.size_code ?? "–" },
    { head: "Where", cell: where },
    { head: "Next", cell: (cell) => (cell.pack_number ? `In pack ${cell.pack_number}` : STEP_WORDS[cell.step]) },
  ];
  return (
    <Frame>
      <Rows label="Cells" columns={columns} rows={cells} keyOf={(cell) => cell.number} />
    </Frame>
  );
}

const Frame = styled.div`border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.paper};`;
const Rows = styled(Table<Cell>)`
  width: 100%;
  border-collapse: collapse;
  th, td { padding: var(--slit) var(--apart); text-align: left; white-space: nowrap; }
  thead th { border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; }
  tbody tr + tr > * { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  tbody tr:hover { background: ${({ theme }) => theme.color.askPaper}; }
`;
const Capacity = styled.div`min-width: calc(13rem - 2 * var(--apart));`;
const Bar = styled.i`
  display: block;
  height: 7px;
  margin-top: 2px;
  background: ${({ theme }) => theme.color.pencil};
  border-radius: 0 3px 3px 0;
`;
