/** Every colour, space and size of Zembric by what it means. docs/look.md tells why they are so. */

const shared = {
  font: {
    text: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif',
    figure: '"Atkinson Hyperlegible Mono Variable", ui-monospace, monospace',
  },
  size: { note: "0.875rem", text: "1.0625rem", lead: "1.25rem", title: "1.625rem", figure: "2.5rem", key: "4rem" },
  /** From a thread to the width of a room; in styles `var(--near)` and so on. */
  space: {
    thread: "0.125rem",
    hair: "0.25rem",
    slit: "0.375rem",
    near: "0.5rem",
    gap: "0.625rem",
    apart: "0.75rem",
    step: "0.875rem",
    block: "1rem",
    sheet: "1.25rem",
    room: "1.5rem",
    yard: "2rem",
    wide: "2.25rem",
  },
  target: "44px",
  line: { ink: "3px", thin: "1px" },
  narrow: "@media (max-width: 760px)",
} as const;

const light = {
  mat: "#dfe6dc",
  matLine: "#c3cfc2",
  paper: "#fbfaf4",
  paperLine: "#d9d8cb",
  ink: "#1d2321",
  inkSoft: "#4a544f",
  onInk: "#fbfaf4",
  tape: "#f2d479",
  onTape: "#1d2321",
  pencil: "#2a5b8c",
  danger: "#a11a16",
  onDanger: "#ffffff",
  dangerPaper: "#fbe3df",
  askPaper: "#fdf0c8",
  grade: { A: "#14603a", B: "#1d5486", C: "#7d4a00", out: "#a11a16", "not-yet": "#4a544f" },
};

const dark: typeof light = {
  mat: "#18201e",
  matLine: "#2b3734",
  paper: "#222c29",
  paperLine: "#3a4743",
  ink: "#f1efe4",
  inkSoft: "#b3bdb6",
  onInk: "#18201e",
  tape: "#e0bd57",
  onTape: "#1d2321",
  pencil: "#8fc0ee",
  danger: "#ff9d92",
  onDanger: "#2b0806",
  dangerPaper: "#47201d",
  askPaper: "#443a17",
  grade: { A: "#7fd6a4", B: "#9cc8f2", C: "#f0b765", out: "#ff9d92", "not-yet": "#b3bdb6" },
};

export const themes = {
  light: { ...shared, color: light, scheme: "light" },
  dark: { ...shared, color: dark, scheme: "dark" },
} as const;

export type Theme = (typeof themes)["light"] | (typeof themes)["dark"];
