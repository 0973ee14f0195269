import type { Schemas } from "../../api/client";
import { TOLERANCES } from "../../api/codes";
import { named } from "../../catalogue";

export const TOLERANCE_WORDS = named("shown-tolerance", TOLERANCES);

/** What is asked of a match, as the form holds it; numbers that are typed stay text until they are sent. */
export interface Request {
  series: number;
  parallel: number;
  family: Schemas["MatchIn"]["family"];
  size: string;
  least: LeastGrade;
  tolerance: Tolerance | "none";
  donors: NonNullable<Schemas["MatchIn"]["donors"]>;
  joinedAsTheyLie: boolean;
  withEstimated: boolean;
  target: string;
  load: string;
  /** The full voltage that is marked on the cells; empty: their family's. */
  fullV: string;
  /** Marked cells that a coordinator says yes to, as typed. */
  marked: string;
  /** The cells somebody has in hand, as typed; empty: all that lie on the shelf. */
  only: string;
}
export type LeastGrade = NonNullable<Schemas["MatchIn"]["least_grade"]>;
export type Tolerance = Schemas["ToleranceOut"]["key"];
export type Asked = Schemas["MatchIn"];

export const USUAL: Request = {
  series: 2,
  parallel: 2,
  family: "layered-oxide",
  size: "18650",
  least: "B",
  tolerance: "none",
  donors: "any",
  joinedAsTheyLie: false,
  withEstimated: false,
  target: "",
  load: "",
  fullV: "",
  marked: "",
  only: "",
};

/** Numbers of cells as they were typed, one after the other. */
export const numbersIn = (typed: string): string[] => typed.split(/[\s,;]+/).filter(Boolean);

const number = (typed: string) => Number(typed.replace(",", "."));

/** What was typed where a number above zero may stand and none does; null: nothing is wrong. */
export function misread(typed: string): string | null {
  if (typed.trim() === "" || number(typed) > 0) return null;
  return "A number above zero, or nothing.";
}

export function asked(request: Request): Asked {
  return {
    series: request.series,
    parallel: request.parallel,
    family: request.family,
    size_code: request.size.trim() || null,
    least_grade: request.least,
    target_mah: request.target.trim() ? number(request.target) : null,
    tolerance: request.tolerance === "none" ? null : request.tolerance,
    joined_as_they_lie: request.joinedAsTheyLie,
    donors: request.donors,
    with_estimated: request.withEstimated,
    load_a: request.load.trim() ? number(request.load) : null,
    full_v_marked: request.fullV.trim() ? number(request.fullV) : null,
    marked_allowed: numbersIn(request.marked),
    only: numbersIn(request.only),
  };
}

/** A request that was kept, back in the form. */
export function inForm(kept: Asked): Request {
  return {
    series: kept.series,
    parallel: kept.parallel,
    family: kept.family,
    size: kept.size_code ?? "",
    least: kept.least_grade ?? "B",
    tolerance: kept.tolerance ?? "none",
    donors: kept.donors ?? "any",
    joinedAsTheyLie: kept.joined_as_they_lie ?? false,
    withEstimated: kept.with_estimated ?? false,
    target: kept.target_mah ? String(kept.target_mah) : "",
    load: kept.load_a ? String(kept.load_a) : "",
    fullV: kept.full_v_marked ? String(kept.full_v_marked) : "",
    marked: (kept.marked_allowed ?? []).join(", "),
    only: (kept.only ?? []).join(", "),
  };
}

/** The request that a way round a refusal asks for; null: it is not in the builder's hand. */
export function relaxed(request: Request, way: string): Request | null {
  const [code, value = ""] = way.split(":");
  if (code === "grade") return { ...request, least: value as LeastGrade };
  if (code === "tolerance") return { ...request, tolerance: value as Request["tolerance"] };
  if (code === "parallel") return { ...request, parallel: Number(value) };
  if (code === "voltage") return { ...request, joinedAsTheyLie: false };
  if (code === "donors") return { ...request, donors: "any" };
  if (code === "estimated") return { ...request, withEstimated: true };
  return null;
}
