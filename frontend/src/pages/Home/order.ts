import type { Step } from "../../api/client";

// In the order of the work; danger first.
export const NOW: readonly Step[] = [
  "fire-safe-box",
  "recover",
  "inspect",
  "repair",
  "measure-voltage",
  "charge",
  "measure-capacity",
  "measure-resistance",
  "repeat-measurement",
  "shelve",
  "recheck",
  "read-at-rest",
  "out-box",
];
export const COOKS: readonly Step[] = ["on-tester", "rest"];
export const WAITS: readonly Step[] = ["watched", "keep", "in-pack", "in-use"];
export const DECIDE: readonly Step[] = ["decide", "hand-over"];
export const ALL: readonly Step[] = [...NOW, ...COOKS, ...WAITS, ...DECIDE];
