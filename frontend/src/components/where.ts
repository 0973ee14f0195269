import type { Cell } from "../api/client";

/** Where a cell lies, in a few words. */
export function where(cell: Cell): string {
  if (cell.place) return cell.slot ? `${cell.place.name}, place ${cell.slot}` : cell.place.name;
  if (cell.in_use_in) return `In use in ${cell.in_use_in}`;
  return cell.pack_number ? `In pack ${cell.pack_number}` : "Not here any more";
}
