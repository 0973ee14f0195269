import type { Finding } from "../api/client";

// One key each. C, D, K, M, P, T and X begin a scanned number, so they name no finding.
export const DANGERS: readonly (readonly [Finding, string])[] = [
  ["swollen", "S"],
  ["leaking", "L"],
  ["hot", "H"],
  ["hiss", "I"],
  ["dented", "E"],
  ["punctured", "U"],
  ["burnt", "N"],
  ["rusted-through", "R"],
  ["vent-open", "V"],
];
export const MENDABLE: readonly (readonly [Finding, string])[] = [
  ["torn-wrap", "W"],
  ["tab-remains", "A"],
  ["corroded-ends", "O"],
];

const BY_KEY = new Map([...DANGERS, ...MENDABLE].map(([finding, key]) => [key, finding]));
const HAZARDS = new Set<Finding>(DANGERS.map(([finding]) => finding));

export const findingOf = (key: string): Finding | undefined => BY_KEY.get(key.toUpperCase());
export const isHazard = (finding: Finding): boolean => HAZARDS.has(finding);
