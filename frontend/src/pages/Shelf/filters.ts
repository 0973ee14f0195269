import { useSearchParams } from "react-router";
import type { Cell, CellsShown, Grade } from "../../api/client";
import type { CellQuery } from "../../api/queries";
import type { Ranges } from "./ShelfMap";

export type Sort = NonNullable<CellQuery["sort"]>;
export type View = "map" | "list";
export type GradeChoice = Grade | "any";

const TURNED = ["page", "after", "before", "by"] as const;

/** What of the shelf is shown. It stands in the address, so a view can be kept and passed on. */
export function useFilters() {
  const [search, setSearch] = useSearchParams();
  const sort = (search.get("sort") as Sort | null) ?? "capacity";
  const grade = (search.get("grade") as GradeChoice | null) ?? "any";
  const size = search.get("size") ?? "any";
  const family = search.get("family") ?? "any";
  const view: View = search.get("view") === "list" ? "list" : "map";
  const everywhere = search.get("where") === "everywhere";
  const page = Number(search.get("page") ?? 0);
  const put = (key: string, value: string, usual: string) =>
    setSearch((before) => {
      const next = new URLSearchParams(before);
      if (value === usual) next.delete(key);
      else next.set(key, value);
      for (const turned of TURNED) next.delete(turned);
      return next;
    });
  /** The page behind a cell, or ahead of it: by its number and what it is sorted by now, so that nothing is passed over where cells
   * come, go and change meanwhile. */
  const turnTo = (to: number, beyond: "after" | "before", shown: CellsShown) =>
    setSearch((before) => {
      const next = new URLSearchParams(before);
      for (const key of TURNED) next.delete(key);
      if (to > 0) {
        next.set("page", String(to));
        const isBehind = beyond === "after";
        next.set(beyond, shown.cells.at(isBehind ? -1 : 0)?.number ?? "");
        next.set("by", String(isBehind ? shown.last_by : shown.first_by));
      }
      return next;
    });
  const putRanges = (next: Ranges) =>
    setSearch((before) => {
      const params = new URLSearchParams(before);
      const named = {
        "mah-from": next.capacityFrom,
        "mah-to": next.capacityTo,
        "mohm-from": next.resistanceFrom,
        "mohm-to": next.resistanceTo,
      };
      for (const [key, value] of Object.entries(named)) value ? params.set(key, value) : params.delete(key);
      for (const turned of TURNED) params.delete(turned);
      return params;
    });
  const method = (search.get("method") as CellQuery["resistance_method"]) ?? null;
  const ranges: Ranges = {
    capacityFrom: search.get("mah-from") ?? "",
    capacityTo: search.get("mah-to") ?? "",
    resistanceFrom: search.get("mohm-from") ?? "",
    resistanceTo: search.get("mohm-to") ?? "",
  };
  const filter: CellQuery = {
    on_shelf: !everywhere,
    grade: grade === "any" ? undefined : [grade],
    size_code: size === "any" ? undefined : size,
    family: family === "any" ? undefined : (family as Cell["family"]),
    resistance_method: method,
  };
  return {
    sort,
    grade,
    size,
    family,
    view,
    everywhere,
    page,
    beyond: {
      after: search.get("after") ?? undefined,
      before: search.get("before") ?? undefined,
      by: search.get("by") ?? undefined,
    },
    method,
    ranges,
    filter,
    put,
    putRanges,
    turnTo,
    isAny: search.size === 0,
  };
}

export type Filters = ReturnType<typeof useFilters>;
