import type { Cell, Step } from "../../api/client";

export type Mode =
  | "inspect"
  | "voltage"
  | "capacity"
  | "resistance"
  | "charge"
  | "repair"
  | "recover"
  | "shelve"
  | "decide"
  | "out-box"
  | "wait";

const MODE_OF: Record<Step, Mode> = {
  inspect: "inspect",
  repair: "repair",
  "measure-voltage": "voltage",
  recover: "recover",
  charge: "charge",
  rest: "wait",
  "measure-capacity": "capacity",
  "measure-resistance": "resistance",
  "repeat-measurement": "capacity",
  shelve: "shelve",
  keep: "wait",
  recheck: "voltage",
  decide: "decide",
  "fire-safe-box": "wait",
  "out-box": "out-box",
  "on-tester": "wait",
  "in-pack": "wait",
  "in-use": "wait",
  "hand-over": "wait",
  "handed-over": "wait",
  watched: "wait",
  "read-at-rest": "voltage",
};

export const modeOf = (step: Step): Mode => MODE_OF[step];

export const MODE_WORDS: Record<Mode, string> = {
  inspect: "Look",
  voltage: "Voltage",
  capacity: "Capacity",
  resistance: "Resistance",
  charge: "Charge",
  repair: "Mend",
  recover: "Recovery",
  shelve: "Shelf",
  decide: "Decision",
  "out-box": "Out-box",
  wait: "Wait",
};

/** They stand where they stood before anything was known of the cell: what comes late moves nothing that a thumb is on its way to. */
export const ALWAYS: readonly Mode[] = ["inspect", "voltage", "capacity", "resistance", "charge"];

/** What can be entered for a cell: the usual five, what its next step asks for, and what is open. */
export function modesFor(cell: Cell, open: Mode): Mode[] {
  // A hazard is neither measured nor charged any more; more can be found on it.
  if (cell.step === "fire-safe-box" || cell.step === "hand-over") return ["wait", "inspect"];
  const due = modeOf(cell.step);
  return [...new Set([...ALWAYS, due, open])];
}
