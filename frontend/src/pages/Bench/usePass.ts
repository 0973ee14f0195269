import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Cell, Step } from "../../api/client";
import { cellsQuery } from "../../api/queries";

/**
 * A pass through all cells with one next step, or in one place, one after the other; what was handled does not come again.
 * The cell at hand stays at hand until it is handled, also where somebody else was faster; `held` is one that is typed into.
 */
export function usePass(step: Step | null, donor: string | null, placeId: number | null, held: string | null) {
  const [atHand, setAtHand] = useState<Cell | null>(null);
  const [handled, setHandled] = useState<readonly string[]>([]);
  const query = useQuery({
    ...cellsQuery(placeId ? { place_id: placeId, most: 200 } : { step, donor, most: 200 }),
    enabled: step !== null || placeId !== null,
  });
  const waiting: Cell[] = (query.data?.cells ?? []).filter((cell) => !handled.includes(cell.number));
  const isHeld = atHand !== null && atHand.number === held && !handled.includes(held);
  const same = atHand && waiting.find((cell) => cell.number === atHand.number);
  const current = step === null && placeId === null ? null : (same ?? (isHeld ? atHand : (waiting[0] ?? null)));
  if (current !== atHand) setAtHand(current);
  return {
    query,
    current,
    left: waiting.length,
    handled: handled.length,
    markHandled: (number: string) => setHandled((before) => [...before, number]),
    /** Not handled after all: it is at hand again. */
    markOpen: (number: string) => {
      setHandled((before) => before.filter((other) => other !== number));
      setAtHand(query.data?.cells.find((cell) => cell.number === number) ?? null);
    },
  };
}
