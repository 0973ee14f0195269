import styled from "styled-components";
import type { Finding } from "../api/client";

/**
 * A drawn example of what to look for: a cell in thin lines, what is wrong with it in thick ones.
 * `cell` is the outline, `wrong` the defect.
 */
const ROUND = "M8 12h40q4 0 4 4v8q0 4-4 4H8q-4 0-4-4v-8q0-4 4-4zM52 16h5v8h-5";
const DRAWN: Record<Finding, { cell: string; wrong: string }> = {
  swollen: { cell: "M6 28h46v-6M6 28v-6M52 24h6M52 27h6", wrong: "M6 22C8 4 50 4 52 22" },
  leaking: { cell: ROUND, wrong: "M40 28c0 3-3 4-3 7a3 3 0 0 0 6 0c0-3-3-4-3-7zM24 28v4M30 28v2" },
  hot: { cell: ROUND, wrong: "M14 8q3-2 0-4M28 8q3-2 0-4M42 8q3-2 0-4M14 36q3-2 0-4M28 36q3-2 0-4M42 36q3-2 0-4" },
  hiss: { cell: ROUND, wrong: "M58 12l4-4M59 20h5M58 28l4 4M50 8l2-5M50 32l2 5" },
  dented: {
    cell: "M8 12h10M38 12h10q4 0 4 4v8q0 4-4 4H8q-4 0-4-4v-8q0-4 4-4zM52 16h5v8h-5",
    wrong: "M18 12c4 12 16 12 20 0",
  },
  punctured: { cell: ROUND, wrong: "M28 2v16M25 15l3 6 3-6M22 20l-4 3M34 20l4 3" },
  burnt: { cell: ROUND, wrong: "M20 14l6 6-4 6M28 14l5 5-3 7M36 14l4 6-3 6M16 22h4M40 22h4" },
  "rusted-through": {
    cell: ROUND,
    wrong: "M12 17a2 2 0 1 0 .1 0M20 22a3 3 0 1 0 .1 0M30 16a3 3 0 1 0 .1 0M40 21a2.5 2.5 0 1 0 .1 0",
  },
  "vent-open": { cell: "M8 12h40q4 0 4 4v8q0 4-4 4H8q-4 0-4-4v-8q0-4 4-4z", wrong: "M52 15l7-6M52 25l7 6M55 20h7" },
  "torn-wrap": { cell: ROUND, wrong: "M22 12l4 5-5 3 6 4-3 4M30 12l-2 4M36 28l-8-2" },
  "tab-remains": { cell: ROUND, wrong: "M50 18h12v5H50M54 18v5M58 18v5" },
  "corroded-ends": { cell: ROUND, wrong: "M53 14q4 2 1 4t2 4-2 4M57 15q4 3 1 5t1 5M5 14q-3 3 0 6t0 6" },
};

export function FindingMark({ finding, width = 56 }: { finding: Finding; width?: number }) {
  const { cell, wrong } = DRAWN[finding];
  return (
    <Drawing width={width} height={width * 0.6} viewBox="0 0 66 40" aria-hidden="true">
      <path d={cell} strokeWidth="1.6" opacity="0.75" />
      <path d={wrong} strokeWidth="3.2" />
    </Drawing>
  );
}

const Drawing = styled.svg`
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-linecap: round;
  stroke-linejoin: round;
`;
