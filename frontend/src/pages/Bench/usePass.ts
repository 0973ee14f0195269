import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Cell, Step } from "../../api/client";
import { cellsQuery } from "../../api/queries";

/** While nothing is left to do it looks whether others brought something. */
const LOOK_AGAIN_MS = 5_000;

/**
 * A pass through all cells with one next step, or in one place, one after the other; what was handled does not come again.
 * The cell at hand stays at hand until it is handled, also where somebody else was faster: a thumb that is on its way to
 * "nothing found" must not meet another cell.
 */
export function usePass(step: Step | null, donor: string | null, placeId: number | null) {
  const [atHand, setAtHand] = useState<Cell | null>(null);
  const [handled, setHandled] = useState<readonly string[]>([]);
  const [isAtEnd, setAtEnd] = useState(false);
  const aim = JSON.stringify([step, donor, placeId]);
  const [begun, setBegun] = useState(aim);
  if (begun !== aim) {
    setBegun(aim);
    setAtHand(null);
    setHandled([]);
    setAtEnd(false);
  }
  const isAny = step !== null || placeId !== null;
  const query = useQuery({
    ...cellsQuery(placeId ? { place_id: placeId, most: 200 } : { step, donor, most: 200 }),
    enabled: isAny,
    refetchInterval: isAtEnd && LOOK_AGAIN_MS,
  });
  const waiting: Cell[] = (query.data?.cells ?? []).filter((cell) => !handled.includes(cell.number));
  const same = atHand && waiting.find((cell) => cell.number === atHand.number);
  const isStill = atHand !== null && !handled.includes(atHand.number);
  const current = !isAny || isAtEnd ? null : (same ?? (isStill ? atHand : (waiting[0] ?? null)));
  if (current !== atHand) setAtHand(current);
  // What comes after the end waits until somebody goes on: a form would appear under a thumb that is on its way elsewhere.
  if (isAny && !isAtEnd && !current && query.data && !query.isFetching) setAtEnd(true);
  return {
    query,
    current,
    /** Not in the list any more, though nobody handled it here. */
    isGone: current !== null && !same && current === atHand,
    left: waiting.length + (current && !waiting.includes(current) ? 1 : 0),
    handled: handled.length,
    isAtEnd,
    goOn: () => setAtEnd(false),
    markHandled: (number: string) => setHandled((before) => [...before, number]),
    /** Not handled after all: it is at hand again. */
    markOpen: (number: string) => {
      setHandled((before) => before.filter((other) => other !== number));
      setAtEnd(false);
      setAtHand(query.data?.cells.find((cell) => cell.number === number) ?? null);
    },
  };
}
