import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Cell, Step } from "../../api/client";
import { cellsQuery } from "../../api/queries";

/** A pass through all cells with one next step, or in one place, one after the other; what was handled does not come again. */
export function usePass(step: Step | null, donor: string | null, placeId: number | null) {
  const [handled, setHandled] = useState<readonly string[]>([]);
  const query = useQuery({
    ...cellsQuery(placeId ? { place_id: placeId, most: 200 } : { step, donor, most: 200 }),
    enabled: step !== null || placeId !== null,
  });
  const waiting: Cell[] = (query.data?.cells ?? []).filter((cell) => !handled.includes(cell.number));
  return {
    query,
    current: step === null && placeId === null ? null : (waiting[0] ?? null),
    left: waiting.length,
    handled: handled.length,
    markHandled: (number: string) => setHandled((before) => [...before, number]),
    markOpen: (number: string) => setHandled((before) => before.filter((other) => other !== number)),
  };
}
