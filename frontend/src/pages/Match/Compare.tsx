import styled from "styled-components";
import { Button } from "../../components/Button";
import { Table } from "../../components/Table";
import { figure } from "../../words";
import { type Cells, figuresOf, type Laid } from "./board";

interface CompareProps {
  held: Laid;
  now: Laid;
  cells: Cells;
  onTake: () => void;
  onDrop: () => void;
}

/** Two groupings side by side: the one that was held, and the one that lies there. */
export function Compare({ held, now, cells, onTake, onDrop }: CompareProps) {
  const both = [held, now].map((laid) => ({ laid, figures: figuresOf(laid.groups, cells) }));
  const used = both.map(({ laid }) => new Set(laid.groups.flat()));
  const others = [...(used[0] ?? [])].filter((number) => !used[1]?.has(number)).length;
  const rows: [string, (index: number) => string][] = [
    ["Weakest group", (index) => `${figure(both[index]?.figures.weakest ?? 0)} mAh`],
    ["Spread", (index) => `${figure(both[index]?.figures.spread ?? 0)} mAh`],
    [
      "Resistance inside a group",
      (index) => {
        const ratio = both[index]?.figures.ratio;
        return ratio === null || ratio === undefined ? "not measured in all" : `within ${figure(ratio, 2)} times`;
      },
    ],
    ["Taken from the shelf", (index) => `${figure((both[index]?.figures.sums ?? []).reduce((a, b) => a + b, 0))} mAh`],
  ];
  return (
    <Box aria-label="Compared">
      <Table
        columns={[
          { head: "", cell: ([name]) => name, isName: true },
          { head: "Held", cell: ([, value]) => value(0) },
          { head: "Now", cell: ([, value]) => value(1) },
        ]}
        rows={rows}
        keyOf={([name]) => name}
      />
      <p>
        {others === 0
          ? "The same cells, laid otherwise."
          : `${others} ${others === 1 ? "cell is another" : "cells are others"}.`}{" "}
        <Button onPress={onTake}>Lay the held one again</Button>{" "}
        <Button kind="quiet" onPress={onDrop}>
          Compare no longer
        </Button>
      </p>
    </Box>
  );
}

const Box = styled.section`
  padding: var(--step) var(--sheet);
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.paper};
  table { border-collapse: collapse; }
  th, td { padding: var(--hair) var(--room) var(--hair) 0; text-align: left; }
  td { font: 700 1.125rem ${({ theme }) => theme.font.figure}; }
`;
