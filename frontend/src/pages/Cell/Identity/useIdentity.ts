import { useState } from "react";
import { answer, api, type Cell, once, Problem, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writing";
import { useTold } from "../../../components/useTold";

type Facts = Omit<Schemas["FactsIn"], "seen_version" | "siblings_too">;
type Figures =
  | "full_v"
  | "rated_capacity_mah"
  | "claimed_capacity_mah"
  | "advertised_capacity_mah"
  | "width_mm"
  | "length_mm"
  | "thickness_mm"
  | "mass_g";
const OUTLINE = ["width_mm", "length_mm", "thickness_mm"] as const;

/** What a cell is, as it is said over what is kept; if somebody else set it meanwhile, what was typed stays and they are told. */
export function useIdentity(cell: Cell) {
  const told = useTold<Facts, Figures>(cell);
  const [seenVersion, setSeenVersion] = useState(cell.version);
  const set = useWrite(
    (body: Schemas["FactsIn"], key) =>
      answer(() =>
        api.PUT("/api/cells/{number}/facts", { params: { path: { number: cell.number } }, headers: once(key), body }),
      ),
    (kept) => {
      setSeenVersion(kept.cell.version);
      told.clear();
    },
  );
  const code = set.error instanceof Problem ? set.error.code : null;
  const isAsked = code === "odd-input" && set.variables?.rated_capacity_mah === told.number("rated_capacity_mah");
  const changedMeanwhile = code === "changed-meanwhile";
  return {
    ...told,
    /** As it is kept, with what was said since. */
    now: { ...cell, ...told.told },
    isAsked,
    changedMeanwhile,
    problem: set.error,
    isSending: set.isPending,
    isKept: set.isSuccess,
    keep: (siblingsToo: boolean) => {
      const numbers = told.numbers();
      // An outline is told whole: what was not touched goes with what was.
      const outline = OUTLINE.some((key) => key in numbers)
        ? { width_mm: cell.width_mm, length_mm: cell.length_mm, thickness_mm: cell.thickness_mm }
        : {};
      set.mutate({
        seen_version: changedMeanwhile ? cell.version : seenVersion,
        siblings_too: siblingsToo,
        confirmed: isAsked,
        ...told.told,
        ...outline,
        ...numbers,
      });
    },
  };
}

export type Identity = ReturnType<typeof useIdentity>;
