import type { Schemas } from "./api/client";
import {
  ALARM_CODES,
  BUILDS,
  CELL_PROTECTIONS,
  CHARGED_IN,
  CHARGER_KINDS,
  CHECK_STATES,
  CURRENT_LIMITS,
  DONOR_CONVERTERS,
  DONOR_DRAINS,
  DONOR_PROTECTIONS,
  FAMILIES,
  FINDINGS,
  GRADES,
  INSTRUMENT_KINDS,
  JOINT_KINDS,
  LIMIT_KINDS,
  LOG_STATES,
  METHODS,
  PACK_STATES,
  PART_CHOICES,
  PART_KINDS,
  PARTS_OF_PACK,
  PLACE_KINDS,
  PLUS_ENDS,
  PROGRAMS,
  RECALL_ABOUTS,
  RETURN_DECISIONS,
  RUN_STATES,
  SEEN_ON_PACK,
  SLOT_KINDS,
  STAGE_KINDS,
  STEPS,
  SURENESSES,
  SYMPTOMS,
  TERMINALS,
  TESTER_STATES,
  VOLTAGE_STATES,
  YES_NO_UNKNOWN,
} from "./api/codes";
import { locale, named } from "./catalogue";

/** The words of the bench for every code; nothing else names a code to a person. */

export const GRADE_WORDS = named("grade", GRADES);
export const GRADE_MEANING = named("grade-meaning", GRADES);
export const STEP_WORDS = named("shown-step", STEPS);
export const FINDING_WORDS = named("shown-finding", FINDINGS);
/** Findings, voltage states and families as they stand inside a sentence. */
export const FINDINGS_SAID = named("finding", FINDINGS);
export const VOLTAGE_STATES_SAID = named("voltage-state", VOLTAGE_STATES);
export const FAMILIES_SAID = named("family", FAMILIES);
export const FAMILY_WORDS = named("shown-family", FAMILIES);
export const DRAIN_WORDS = named("drain", DONOR_DRAINS);
export const PROTECTION_OF_KIND_WORDS = named("protection-of-kind", DONOR_PROTECTIONS);
export const VOLTAGE_STATE_WORDS = named("shown-voltage-state", VOLTAGE_STATES);
export const BUILD_WORDS = named("build", BUILDS);
export const PLUS_END_WORDS = named("plus-end", PLUS_ENDS);
export const PROTECTION_WORDS = named("protection", CELL_PROTECTIONS);
export const TERMINAL_WORDS = named("terminals", TERMINALS);
export const SYMPTOM_WORDS = named("symptom", SYMPTOMS);
export const CHARGER_WORDS = named("charger", CHARGER_KINDS);
export const CONVERTER_WORDS = named("converter", DONOR_CONVERTERS);
export const YES_NO_WORDS = named("yes-no", YES_NO_UNKNOWN);
export const CHARGED_IN_WORDS = named("charged-in", CHARGED_IN);
export const PART_WORDS = named("part", PART_KINDS);
export const PART_OF_PACK_WORDS = named("part-of-pack", PARTS_OF_PACK);
export const PART_CHOICE_WORDS = named("part-choice", PART_CHOICES);
export const CHECK_STATE_WORDS = named("check-state", CHECK_STATES);
export const PLACE_WORDS = named("shown-place", PLACE_KINDS);

/** What a number names, and where its page is. */
export const pageOf = (thing: Schemas["FoundOut"]["thing"], number: string): string =>
  thing === "instrument"
    ? "/instruments"
    : { cell: "/cells/", donor: "/donors/", pack: "/packs/", tray: "/trays/", box: "/places/", slot: "/table/" }[
        thing
      ] + number;

/** How uncertain something is, as fine as it tells, and never ± 0. */
export function doubt(u: number): string {
  if (u >= 1 || u === 0) return `± ${figure(u, u < 10 && u > 0 ? 1 : 0)}`;
  const power = Math.floor(Math.log10(u));
  // A leading 1 alone would be coarse.
  const digits = u / 10 ** power < 2 ? 1 - power : -power;
  return `± ${figure(u, Math.min(digits, 5))}`;
}

/** A voltage as finely as it was read, at least to 10 mV. */
export const finely = (volts: number): string => figure(volts, /\.\d{3}/.test(String(volts)) ? 3 : 2);

export const METHOD_WORDS: Readonly<Record<string, string | undefined>> = named("method", METHODS);
export const PROGRAM_WORDS = named("program", PROGRAMS);
export const PROGRAM_MEANS = named("program-means", PROGRAMS);
export const RUN_STATE_WORDS = named("run-state", RUN_STATES);
export const STAGE_WORDS = named("stage", STAGE_KINDS);
export const SLOT_KIND_WORDS = named("slot-kind", SLOT_KINDS);
export const TESTER_STATE_WORDS = named("tester-state", TESTER_STATES);
export const ALARM_WORDS = named("alarm-name", ALARM_CODES);
export const PACK_WORDS = named("shown-pack", PACK_STATES);
export const JOINT_WORDS = named("cell-joint", JOINT_KINDS);
export const SEEN_WORDS = named("seen", SEEN_ON_PACK);
export const RETURN_DECISION_WORDS = named("return-decision", RETURN_DECISIONS);
export const RECALL_ABOUT_WORDS = named("recall-about", RECALL_ABOUTS);
export const PACK_ACTIONS = named("pack-action", PACK_STATES);
export const LIMIT_KIND_WORDS = named("limit-kind", LIMIT_KINDS);
export const SURE_WORDS = named("sure", SURENESSES);

/** A unit as it is written for people; data keep to plain letters. */
export const unitWord = (unit: string | null) => (unit === "mOhm" ? "mΩ" : (unit ?? ""));

/** What limits the current a cell may give for long. */
export const CURRENT_LIMIT_WORDS: Readonly<Record<string, string | undefined>> = named("current-limit", CURRENT_LIMITS);

/** What was typed as a number, comma or point; null where nothing or no number stands. */
export function readNumber(text: string): number | null {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
}

/** A number in the person's own way of writing it. */
export function figure(value: number, digits = 0): string {
  let format = formats.get(digits);
  if (!format) {
    format = new Intl.NumberFormat(locale(), {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      useGrouping: false,
    });
    formats.set(digits, format);
  }
  return format.format(value);
}

// To make one takes longer than to draw the line it stands in.
const formats = new Map<number, Intl.NumberFormat>();

export function dayAndTime(iso: string): string {
  return new Intl.DateTimeFormat(locale(), {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(new Date(iso));
}

export function clockTime(iso: string): string {
  return new Intl.DateTimeFormat(locale(), { hour: "2-digit", minute: "2-digit" }).format(new Date(iso));
}

export function day(iso: string): string {
  return new Intl.DateTimeFormat(locale(), { day: "numeric", month: "short", year: "numeric" }).format(new Date(iso));
}

/** A span in the largest unit that fits: 3 weeks, 40 min. */
export function span(milliseconds: number): string {
  const minutes = Math.max(0, Math.round(milliseconds / 60_000));
  if (minutes < 120) return `${minutes} min`;
  const hours = Math.round(minutes / 60);
  if (hours < 48) return `${hours} h`;
  const days = Math.round(hours / 24);
  if (days < 21) return `${days} days`;
  return days < 90 ? `${Math.round(days / 7)} weeks` : `${Math.round(days / 30)} months`;
}

/** Choices of sums and ways to measure. */
export const CHOICE_WORDS: Record<string, string> = {
  ...PART_CHOICE_WORDS,
  ...FAMILY_WORDS,
  nothing: "Nothing, at its own ends",
  protection: "A protection circuit",
  holder: "A holder",
  leads: "Leads",
  nickel: "Nickel",
  copper: "Copper",
  "plated-steel": "Nickel-plated steel",
  current: "current",
  power: "power",
  resistor: "resistance",
  fine: "Holds its charge",
  watch: "Loses some: watch it",
  leaking: "Leaks",
  "too early": "Too early to tell",
  sure: "Sure",
  likely: "Likely",
  borderline: "Borderline",
};

export const INSTRUMENT_WORDS = named("shown-instrument", INSTRUMENT_KINDS);
export const LOG_STATE_WORDS = named("log-state", LOG_STATES);

/** Seconds as a span people say: 45 s, 12 min, 3 h 20 min. */
export function seconds(value: number): string {
  if (value < 120) return `${figure(value, value < 10 ? 1 : 0)} s`;
  const minutes = Math.round(value / 60);
  if (minutes < 120) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
