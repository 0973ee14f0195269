import type { Schemas } from "../../../api/client";

export type Rules = Schemas["RulesOut"];
export type RulesToTry = Schemas["RulesToTryIn"];
export type Special = {
  family: Schemas["SpecialRuleIn"]["family"];
  size_code: string | null;
  key: string;
  value: string;
};

/** A set of rules as it is being thought about; `values` holds what was typed, where it differs from the usual. */
export type Draft = {
  voltage: RulesToTry["voltage_school"];
  grade: RulesToTry["grade_school"];
  values: Record<string, string>;
  special: Special[];
  switches: Record<string, string>;
};

/** The rules in force, as they would be typed. */
export function draftOf(rules: Rules): Draft {
  const [inForce] = rules.versions;
  return {
    voltage: inForce?.voltage_school ?? "usual",
    grade: inForce?.grade_school ?? "health",
    values: Object.fromEntries(
      rules.limits.filter((limit) => limit.value !== limit.usual).map((limit) => [limit.key, String(limit.value)]),
    ),
    special: rules.special.flatMap((rule) =>
      Object.entries(rule.values).map(([key, value]) => ({
        family: rule.family,
        size_code: rule.size_code,
        key,
        value: String(value),
      })),
    ),
    switches: Object.fromEntries(rules.switches.map((each) => [each.key, each.chosen])),
  };
}

/** As the server takes it: what was emptied is as usual, values of one family or size stand together. */
export function sent(draft: Draft): RulesToTry {
  const special = new Map<string, Schemas["SpecialRuleIn"]>();
  for (const { family, size_code, key, value } of draft.special) {
    const about = `${family ?? ""}/${size_code ?? ""}`;
    const rule = special.get(about) ?? { family, size_code, values: {} };
    rule.values[key] = value;
    special.set(about, rule);
  }
  const values = Object.entries(draft.values).filter(([, value]) => value.trim() !== "");
  return {
    voltage_school: draft.voltage,
    grade_school: draft.grade,
    values: Object.fromEntries(values),
    special: [...special.values()],
    switches: draft.switches,
  };
}

/** Rules out of a file, laid over the usual ones; what the file says wrongly the server refuses by name. */
export function draftFrom(text: string, rules: Rules): Draft | null {
  try {
    const found: unknown = JSON.parse(text);
    if (typeof found !== "object" || found === null || !("voltage_school" in found)) return null;
    const file = found as Partial<Record<keyof RulesToTry, unknown>>;
    const record = (value: unknown) => (typeof value === "object" && value !== null ? Object.entries(value) : []);
    const texts = (value: unknown) => Object.fromEntries(record(value).map(([key, each]) => [key, String(each)]));
    return {
      voltage: file.voltage_school as Draft["voltage"],
      grade: file.grade_school as Draft["grade"],
      values: texts(file.values),
      special: (Array.isArray(file.special) ? file.special : []).flatMap((rule: Record<string, unknown>) =>
        record(rule.values).map(([key, value]) => ({
          family: (rule.family ?? null) as Special["family"],
          size_code: (rule.size_code ?? null) as string | null,
          key,
          value: String(value),
        })),
      ),
      switches: { ...draftOf(rules).switches, ...texts(file.switches) },
    };
  } catch {
    return null;
  }
}
