import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Cell, Step } from "../../api/client";
import { cellsQuery } from "../../api/queries";

/** A pass through all cells with one next step, one after the other; what was handled does not come again. */
export function usePass(step: Step | null, donor: string | null) {
  const [handled, setHandled] = useState<readonly string[]>([]);
  const query = useQuery({ ...cellsQuery({ step, donor, most: 200 }), enabled: step !== null });
  const waiting: Cell[] = (query.data?.cells ?? []).filter((cell) => !handled.includes(cell.number));
  return {
    query,
    current: step === null ? null : (waiting[0] ?? null),
    left: waiting.length,
    handled: handled.length,
    markHandled: (number: string) => setHandled((before) => [...before, number]),
    markOpen: (number: string) => setHandled((before) => before.filter((other) => other !== number)),
  };
}
