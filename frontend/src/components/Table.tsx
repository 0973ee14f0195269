import type { ReactNode } from "react";
import styled from "styled-components";

export type Column<Row> = {
  head: ReactNode;
  cell: (row: Row) => ReactNode;
  /** It names its row. */
  isName?: boolean;
};

/** Rows under named columns. With a label it scrolls by itself where it is too wide, by keys as well. */
export function Table<Row>({
  columns,
  rows,
  keyOf,
  label,
  className,
}: {
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  keyOf: (row: Row) => string | number;
  label?: string;
  className?: string;
}) {
  const table = (
    <table className={className}>
      <thead>
        <tr>
          {columns.map((column, index) =>
            column.head ? (
              <th key={index} scope="col">
                {column.head}
              </th>
            ) : (
              <td key={index} />
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={keyOf(row)}>
            {columns.map((column, index) =>
              column.isName ? (
                <th key={index} scope="row">
                  {column.cell(row)}
                </th>
              ) : (
                <td key={index}>{column.cell(row)}</td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
  if (!label) return table;
  return (
    <Scroll tabIndex={0} role="region" aria-label={label}>
      {table}
    </Scroll>
  );
}

const Scroll = styled.div`overflow-x: auto;`;
