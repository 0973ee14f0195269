import type { Schemas } from "../api/client";
import { FAMILY_WORDS, figure, GRADE_WORDS } from "../words";

/** One line that names a request. */
export function requestInWords(kept: Schemas["MatchIn"]): string {
  const size = kept.size_code ?? "any size";
  const target = kept.target_mah ? `, ${figure(kept.target_mah)} mAh a group` : "";
  return `${kept.series}S${kept.parallel}P of ${size}, ${FAMILY_WORDS[kept.family]}, ${GRADE_WORDS[kept.least_grade ?? "B"]} and better${target}`;
}
