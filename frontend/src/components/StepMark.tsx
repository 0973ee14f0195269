import type { Step } from "../api/client";

/** Drawn marks for what to do next; they stand beside the word, never for it. */
const DRAWN: Record<Step, string> = {
  inspect: "M10.5 17a6.5 6.5 0 1 1 0-13 6.5 6.5 0 0 1 0 13zM15.5 15.5L21 21M8 10h5",
  repair: "M3 15L15 3l6 6L9 21zM9 9l6 6M12 6l6 6",
  "measure-voltage": "M5 3v9l2 3v6M19 3v9l-2 3v6M9 18l2-4h-2l2-4M14 12h2",
  recover: "M7 8h10v12H7zM10 8V5h4v3M12 18v-4M10 15.5l2-2 2 2M7 18h10",
  charge: "M7 6h10v15H7zM10 6V3h4v3M13 9l-3 5h4l-3 5",
  rest: "M6 3h12M6 21h12M7 3c0 5 10 5 10 9s-10 4-10 9M17 3c0 5-10 5-10 9s10 4 10 9",
  "measure-capacity": "M3 20h18M4 5c6 0 9 2 12 5 2 2 3 5 3.5 10M4 3v17",
  "measure-resistance": "M2 12h4l1.5-4 3 8 3-8 3 8 1.5-4H22",
  "repeat-measurement": "M20 12a8 8 0 1 1-3-6.2M17 2v4h-4",
  shelve: "M3 19h18M3 5v14M21 5v14M7 19V9h4v10M13 19V9h4v10",
  keep: "M3 19h18M3 5v14M21 5v14M7 19v-7h4v7",
  recheck: "M12 21a9 9 0 1 1 0-18 9 9 0 0 1 0 18zM12 7v5l4 2",
  decide: "M12 21v-8M12 13L5 6M12 13l7-7M5 11V6h5M14 6h5v5",
  "fire-safe-box": "M3 10h18v11H3zM12 3c-1 3-3 3-3 5h6c0-2-2-2-3-5zM8 15h8",
  "out-box": "M3 13h18v8H3zM12 3v7M8.5 7L12 10.5 15.5 7M9 17h6",
  "on-tester": "M3 9h18v12H3zM7 9V5h10v4M7 13v4M12 13v4M17 13v4",
  "in-pack": "M3 7h8v14H3zM13 7h8v14h-8zM6 7V4h2v3M16 7V4h2v3M7 12v4M17 12v4M5 14h4M15 14h4",
  "in-use": "M9 3h6v4h3v14H6V7h3zM10 12h4M12 10v4",
  "hand-over": "M2 17h3l4 3h6l6-5-2-2-5 3M5 12V5h9v7",
  "handed-over": "M4 12l5 6L20 5",
  watched: "M3 4v17h18M6 8l4 1 4 2 5 4M6 5v6M19 12v6",
  "read-at-rest": "M3 4v17h18M6 8l4 1 4 2M15 15a3 3 0 1 0 6 0 3 3 0 0 0-6 0",
};

export function StepMark({ step, size = 24 }: { step: Step; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
      <path
        d={DRAWN[step]}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
