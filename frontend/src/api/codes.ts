/** Made from the core by `./zembric describe`. */
export const BANDS = ["recycle", "watched-recovery", "recovery", "go-on", "over-voltage"] as const;
export const BUILDS = ["wrapped-can", "bare-can", "flat-can", "pouch"] as const;
export const CELL_PROTECTIONS = ["none", "inside", "donor-board"] as const;
export const CHARGED_IN = ["out", "holder", "device"] as const;
export const CHARGER_KINDS = ["none", "linear", "switching", "pack-board", "unknown"] as const;
export const CURRENT_LIMITS = ["sag", "heat", "sheet", "no-sheet", "shown"] as const;
export const DONOR_CONVERTERS = ["none", "step-up", "step-down", "both", "unknown"] as const;
export const DONOR_DRAINS = ["low", "high", "mixed"] as const;
export const DONOR_KINDS = ["laptop", "vape", "power-tool", "phone", "other"] as const;
export const DONOR_PROTECTIONS = ["own board", "pack board", "bare", "mixed"] as const;
export const FAMILIES = ["layered-oxide", "high-voltage-cobalt", "iron-phosphate", "titanate", "primary"] as const;
export const FINDINGS = [
  "swollen",
  "leaking",
  "hot",
  "hiss",
  "dented",
  "punctured",
  "burnt",
  "rusted-through",
  "vent-open",
  "torn-wrap",
  "tab-remains",
  "corroded-ends",
] as const;
export const GRADES = ["A", "B", "C", "out", "not-yet"] as const;
export const INSTRUMENT_KINDS = ["voltmeter", "tester", "ac-meter", "usb-meter", "charger"] as const;
export const LIMIT_KINDS = ["physics", "standard", "house"] as const;
export const LIST_COLUMNS = [
  "label",
  "donor",
  "donor_kind",
  "size",
  "family",
  "rated_mah",
  "claimed_mah",
  "voltage_v",
  "capacity_mah",
  "resistance_mohm",
  "mass_g",
  "findings",
  "note",
] as const;
export const LOG_STATES = ["waiting", "reading", "asks", "read", "refused", "cancelled"] as const;
export const LOG_STEPS = ["charge", "discharge", "rest"] as const;
export const METHODS = [
  "meter",
  "tester",
  "trace",
  "resistor-clock",
  "resistor-log",
  "charge-counted",
  "usb-linear",
  "usb-switching",
  "usb-step-up",
  "ac-1khz",
  "dc-10s",
  "dc-1s",
] as const;
export const PACK_STATES = ["planned", "built", "given-out", "back", "taken-apart", "dropped"] as const;
export const PART_KINDS = [
  "charger-board",
  "protection-board",
  "holder",
  "switch",
  "sensor",
  "converter",
  "connector",
  "other",
] as const;
export const PLACE_KINDS = ["tray", "holding-box", "shelf-box", "out-box", "fire-safe-box"] as const;
export const PLUS_ENDS = ["button", "can", "marked-tab", "lead"] as const;
export const SELF_DISCHARGE_VERDICTS = ["fine", "watch", "leaking", "too-early"] as const;
export const STEPS = [
  "inspect",
  "repair",
  "measure-voltage",
  "recover",
  "charge",
  "rest",
  "measure-capacity",
  "measure-resistance",
  "repeat-measurement",
  "shelve",
  "keep",
  "recheck",
  "decide",
  "fire-safe-box",
  "out-box",
  "in-pack",
  "in-use",
  "hand-over",
  "handed-over",
  "watched",
  "read-at-rest",
] as const;
export const SURENESSES = ["sure", "likely", "borderline"] as const;
export const SYMPTOMS = [
  "runs-short",
  "cuts-out",
  "dead",
  "does-not-charge",
  "unused",
  "wet-or-dropped",
  "none",
  "unknown",
] as const;
export const TERMINALS = ["clean", "stub", "wires", "soldered"] as const;
export const TOLERANCES = ["strict", "usual", "relaxed"] as const;
export const VOLTAGE_STATES = ["resting", "off-charger", "under-charge", "under-load", "climbing"] as const;
export const YES_NO_UNKNOWN = ["yes", "no", "unknown"] as const;
