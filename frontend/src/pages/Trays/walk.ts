import type { Schemas } from "../../api/client";
import type { Answered } from "../../api/waiting";
import type { TrayCell } from "./LookForm";

type Pass = Schemas["TrayOut"];

/** The tray as it was asked for at `asOf`, with what was answered since: nobody waits for the next reading of it. */
export function withAnswers(cells: TrayCell[], answered: readonly Answered[], asOf: number): TrayCell[] {
  const since = new Map(
    answered.flatMap(({ at, answer }) => (at >= asOf && answer ? [[answer.cell.number, answer.cell] as const] : [])),
  );
  return cells.map((each) => {
    const cell = since.get(each.cell.number);
    if (!cell) return each;
    const isUnmeasured = cell.resting_voltage_v === null && (cell.step === "inspect" || cell.step === "repair");
    return {
      ...each,
      cell: { ...cell, slot: each.cell.slot },
      must_look: cell.step === "inspect",
      needs_voltage: cell.step === "measure-voltage" || isUnmeasured,
    };
  });
}

export const isDue = (each: TrayCell) => each.must_look || each.needs_voltage;

/** Where the pass goes on: at a donor's cells if they were asked for, at the server's cursor, or at the first that is due. */
export function startOf(pass: Pass, donor: string | null = null): number {
  const ofDonor = pass.cells.filter((each) => each.cell.donor_number === donor);
  const asked = nextDue(ofDonor, 0, () => false);
  if (asked !== null) return asked;
  const from = (pass.tray.cursor_slot ?? 1) - 1;
  return nextDue(pass.cells, from, () => false) ?? pass.cells[0]?.cell.slot ?? 1;
}

/** The next place, from one on and around, whose cell has to be looked at or measured; null where none has. */
export function nextDue(cells: TrayCell[], from: number, isDone: (each: TrayCell) => boolean): number | null {
  const due = cells.filter((each) => isDue(each) && !isDone(each) && each.cell.slot !== null);
  const next = due.find((each) => (each.cell.slot ?? 0) > from) ?? due[0];
  return next?.cell.slot ?? null;
}

export function stepped(cells: TrayCell[], from: number, by: 1 | -1): number {
  const slots = cells.map((each) => each.cell.slot ?? 0);
  const at = slots.indexOf(from);
  return slots[(at + by + slots.length) % slots.length] ?? from;
}

export function siblingsOf(cells: TrayCell[], one: TrayCell): { number: string; value_v: number }[] {
  return cells.flatMap(({ cell }) =>
    cell.donor_number === one.cell.donor_number && cell.number !== one.cell.number && cell.resting_voltage_v !== null
      ? [{ number: cell.number, value_v: cell.resting_voltage_v }]
      : [],
  );
}
