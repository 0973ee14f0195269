import type { Entry, Schemas, Story } from "../../api/client";
import {
  ALARM_WORDS,
  doubt,
  FINDINGS_SAID,
  figure,
  finely,
  GRADE_WORDS,
  METHOD_WORDS,
  PROGRAM_WORDS,
  unitWord,
  VOLTAGE_STATES_SAID,
} from "../../words";

const ALARMS: Readonly<Record<string, string | undefined>> = ALARM_WORDS;
const PROGRAMS: Readonly<Record<string, string | undefined>> = PROGRAM_WORDS;

type Happening = Schemas["HappeningOut"];

/** One point of a cell's story: what was said, by whom, and whether it still counts. */
export type Point = {
  key: string;
  at: string;
  by: string | null;
  title: string;
  detail: string | null;
  why: string | null;
  state: Entry["state"];
  kind: "look" | "measure" | "do" | "judge" | "move";
  entry: Entry | null;
  /** Why it counts no longer, and who said so; null: nobody gave a ground. */
  struck: string | null;
};

const QUANTITY = { voltage: "Resting voltage", capacity: "Capacity", resistance: "Resistance" } as const;
// Entries are told by themselves; the record's lines about them would say everything twice.
const TOLD_BY_ENTRIES = new Set(["inspection", "reading", "step", "withdrawal"]);

/** Everything that happened to a cell, in order of time, judgements where the grade changed. */
export function pointsOf(story: Story): Point[] {
  const points = [
    ...story.entries
      .filter((entry) => entry.kind !== "withdrawal")
      .map((entry) => ({ ...entryPoint(entry), struck: struckBy(story, entry) })),
    ...story.happenings.filter((happening) => !TOLD_BY_ENTRIES.has(happening.what)).map(happeningPoint),
    ...gradeChanges(story),
  ];
  const order = { move: 1, look: 0, measure: 0, do: 0, judge: 2 };
  return points.sort((a, b) => a.at.localeCompare(b.at) || order[a.kind] - order[b.kind]);
}

function struckBy(story: Story, entry: Entry): string | null {
  const by = story.entries.find((other) => other.kind === "withdrawal" && other.supersedes_id === entry.id);
  return by?.why ? `struck out by ${by.by}: “${by.why}”` : null;
}

function gradeChanges(story: Story): Point[] {
  return story.judgements
    .filter((judgement, index) => judgement.grade !== story.judgements[index - 1]?.grade)
    .map((judgement, index) => ({
      key: `j${judgement.at}`,
      at: judgement.at,
      by: null,
      title: index === 0 ? `Numbered ${story.cell.number}` : `Judged: ${GRADE_WORDS[judgement.grade]}`,
      detail:
        index === 0
          ? `out of donor ${story.cell.donor_number}`
          : `${judgement.sure ? `${judgement.sure}, ` : ""}house rules version ${judgement.rule_set_version}`,
      why: null,
      state: "counts",
      kind: index === 0 ? "do" : "judge",
      entry: null,
      struck: null,
    }));
}

function entryPoint(entry: Entry): Point {
  const base = {
    key: `e${entry.id}`,
    at: entry.at,
    by: entry.by,
    why: entry.why,
    state: entry.state,
    entry,
    struck: null,
    detail: warmthOf(entry).join(", ") || null,
  };
  if (entry.kind === "inspection") {
    const found = entry.findings ?? [];
    return {
      ...base,
      kind: "look",
      title: found.length ? `Found: ${found.map((f) => FINDINGS_SAID[f]).join(", ")}` : "Looked at, nothing found",
    };
  }
  if (entry.kind === "reading" && entry.quantity) {
    return {
      ...base,
      kind: "measure",
      title: `${quantityOf(entry)} ${entry.quantity === "voltage" ? finely(entry.value ?? 0) : figure(entry.value ?? 0)} ${unitWord(entry.unit)}`,
      detail: conditionsOf(entry),
    };
  }
  return { ...base, kind: "do", title: stepTitle(entry) };
}

function quantityOf(entry: Entry): string {
  if (entry.quantity === "voltage" && entry.voltage_state && entry.voltage_state !== "resting")
    return `Voltage, ${VOLTAGE_STATES_SAID[entry.voltage_state]},`;
  return QUANTITY[entry.quantity ?? "voltage"];
}

function conditionsOf(entry: Entry): string {
  const isUnrested = entry.voltage_state !== null && entry.voltage_state !== "resting";
  const parts = [isUnrested ? "meter" : (METHOD_WORDS[entry.method ?? ""] ?? entry.method)];
  if (entry.instrument) parts.push(`with ${entry.instrument}`);
  if (entry.as_typed) parts.push(`typed “${entry.as_typed}”`);
  if (entry.current_ma) parts.push(`${figure(entry.current_ma)} mA`);
  if (entry.cut_off_v) parts.push(`to ${figure(entry.cut_off_v, 1)} V`);
  if (entry.complete === false) parts.push("not complete, so not graded");
  if (entry.standard_u !== null && entry.quantity) parts.push(`${doubt(entry.standard_u)} ${unitWord(entry.unit)}`);
  parts.push(...warmthOf(entry));
  if (entry.worked) parts.push(entry.worked);
  return [parts.join(", "), ...(entry.notes ?? [])].join(" · ");
}

const FELT = { cool: "felt cool", warm: "felt warm", "too-hot": "too hot to hold" } as const;

/** How warm it was, as far as anybody said. */
function warmthOf(entry: Entry): string[] {
  const said: string[] = [];
  if (entry.warmth) said.push(FELT[entry.warmth]);
  if (entry.cell_degc !== null) said.push(`cell at ${figure(entry.cell_degc)} °C`);
  if (entry.bench_degc !== null) said.push(`room at ${figure(entry.bench_degc)} °C`);
  return said;
}

const NEAR: Record<string, string> = { donor: "Its sibling", pack: "Of the same pack,", place: "Beside it," };
const CAME_BACK: Record<string, string> = {
  pack: "Came back out of a pack: look and measure first",
  device: "Came back from use: look and measure first",
  fall: "Fell: look and measure first",
  stopped: "Its pack was stopped: look and measure first",
};

function stepTitle(entry: Entry): string {
  const details = entry.details ?? {};
  switch (entry.step) {
    case "charge":
      return `Charged${details.minutes ? ` in ${figure(Number(details.minutes))} min` : ""}, ended at ${figure(Number(details.end_v), 2)} V`;
    case "recovery-started":
      return `Recovery started with ${figure(Number(details.current_ma))} mA`;
    case "recovery-check":
      return `${figure(Number(details.value_v), 2)} V under recovery${details.feels_warm || details.warmth === "warm" ? ", warm" : ""}${details.swells ? ", swells" : ""}`;
    case "second-look":
      return `${NEAR[String(details.near ?? "donor")]} ${details.sibling ?? details.brother} was a hazard: look again`;
    case "came-back":
      return CAME_BACK[String(details.source)] ?? "Came back";
    case "recovery":
      return details.outcome === "passed" ? "Recovered" : "Recovery failed";
    case "repair":
      return "Mended";
    case "decision":
      return `A coordinator decided: ${details.outcome === "go-on" ? "it may go on" : "out"}`;
    case "overruled":
      return details.grade
        ? `A coordinator judged otherwise: ${GRADE_WORDS[details.grade as keyof typeof GRADE_WORDS]}`
        : "A coordinator took their own judgement back";
    case "skip":
      return `${QUANTITY[details.what as keyof typeof QUANTITY]} skipped`;
    default:
      return `Put into ${details.place ?? "the shelf"}`;
  }
}

function happeningPoint(happening: Happening, index: number): Point {
  const { details } = happening;
  const titles: Record<string, string> = {
    moved: `Moved to ${details.place ?? "another place"}`,
    reserved: `Reserved for pack ${details.pack}`,
    "pack-built": `Built into pack ${details.pack}`,
    "pack-given-out": `Given out in pack ${details.pack}`,
    "pack-back": `Came back with pack ${details.pack}`,
    "pack-taken-apart": `Taken out of pack ${details.pack}${[
      typeof details.group === "number" && `: group ${details.group}`,
      typeof details.days === "number" && `${details.days} days in it`,
      typeof details.peak_a === "number" && `up to ${figure(details.peak_a, 2)} A on paper`,
      typeof details.group_v === "number" && `its group read ${figure(details.group_v, 2)} V when it came back`,
    ]
      .filter(Boolean)
      .join(", ")}`,
    "pack-dropped": `Let go by the plan of pack ${details.pack}`,
    "handed-over": "Went to the recycler",
    "facts-set": "Said anew what it is",
    "put-into-use": `In use in ${details.device}`,
    "label-printed": "Label printed",
    "label-printed-again": "Label printed again",
    "from-list": `Taken in from a list${details.label ? ` as ${details.label}` : ""}`,
    "photo-added": "Photo taken",
    "log-taken-in": `A tester's log was taken in: ${details.file ?? ""}`,
    "log-answered": "What the log left open was said",
    "log-habit-forgotten": "What was remembered for such logs was forgotten",
    "log-stopped": "Reading the log was stopped",
    "story-taken-in": "Taken in from a story in a file",
    "put-in-slot": `Put into slot ${details.slot}`,
    "taken-out-of-slot": `Taken out of slot ${details.slot}`,
    "run-started": `${PROGRAMS[String(details.program)] ?? "A program"} asked for in slot ${details.slot}`,
    "run-began": `Its program began in slot ${details.slot}`,
    "run-waits": `Contact lost in slot ${details.slot}`,
    "run-goes-on": `Contact is back in slot ${details.slot}`,
    "run-stopped": `Its program was stopped in slot ${details.slot}`,
    "run-over": `Its program is over in slot ${details.slot}`,
    "run-settled": "What the run measured was read",
    "run-not-kept": "What the run measured was not entered by itself: look at its log",
    alarm: `Alarm: ${ALARMS[String(details.alarm)] ?? details.alarm}`,
    "alarm-answered": `Alarm answered: ${ALARMS[String(details.alarm)] ?? details.alarm}`,
    picked: `Picked for pack ${details.pack}`,
    "put-back": `Put back, not for pack ${details.pack} any more`,
    "let-go": `Exchanged in the plan of pack ${details.pack}`,
    "mark-allowed": `A coordinator said yes to its mark, for pack ${details.pack}`,
  };
  return {
    key: `h${index}`,
    at: happening.at,
    by: happening.by,
    title: titles[happening.what] ?? happening.what,
    detail: null,
    why: happening.why,
    state: "counts",
    struck: null,
    kind: "move",
    entry: null,
  };
}
