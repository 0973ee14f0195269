import type { Cell, Finding, Grade, Pack, Place, Schemas, Step } from "./api/client";

type DonorKind = Schemas["DonorKindOut"];

/** The words of the bench for every code; nothing else names a code to a person. */

export const GRADE_WORDS: Record<Grade, string> = {
  A: "Strong",
  B: "Fair",
  C: "Gentle",
  out: "Out",
  "not-yet": "Not yet",
};

export const GRADE_MEANING: Record<Grade, string> = {
  A: "one of the best here",
  B: "good, with something lost",
  C: "weak, and still of use",
  out: "goes to the recycler",
  "not-yet": "something is still missing",
};

export const STEP_WORDS: Record<Step, string> = {
  inspect: "Look at",
  repair: "Mend",
  "measure-voltage": "Measure voltage",
  recover: "Recover slowly",
  charge: "Charge",
  rest: "Rests",
  "measure-capacity": "Measure capacity",
  "measure-resistance": "Measure resistance",
  "repeat-measurement": "Measure once more",
  shelve: "Put on the shelf",
  keep: "Kept on the shelf",
  recheck: "Look again",
  decide: "Decide",
  "fire-safe-box": "Into the fire-safe box",
  "out-box": "Into the out-box",
  "in-pack": "In packs",
  "in-use": "In use in devices",
  "hand-over": "Wait for the recycler",
  "handed-over": "Went to the recycler",
  watched: "Watched at rest",
  "read-at-rest": "Read again at rest",
};

export const FINDING_WORDS: Record<Finding, string> = {
  swollen: "Swollen or soft",
  leaking: "Leaking or sweet smell",
  hot: "Hot or warming",
  hiss: "Hissing",
  dented: "Dent or crease",
  punctured: "Punctured",
  burnt: "Burn marks",
  "rusted-through": "Rusted through",
  "vent-open": "Vent open",
  "torn-wrap": "Torn wrap",
  "tab-remains": "Tab remains",
  "corroded-ends": "Dirty ends",
};

export const FAMILY_WORDS: Record<NonNullable<Cell["family"]>, string> = {
  "layered-oxide": "Layered oxide, 4.20 V (usual)",
  "high-voltage-cobalt": "High-voltage cobalt, 4.35 V and more",
  "iron-phosphate": "Iron phosphate, 3.60 V",
  titanate: "Titanate, 2.70 V",
  primary: "Primary, never charged",
};

export const DRAIN_WORDS: Record<DonorKind["drain"], string> = {
  low: "low drain",
  high: "high drain",
  mixed: "low or high drain",
};

export const PROTECTION_OF_KIND_WORDS: Record<DonorKind["protection"], string> = {
  "own board": "each cell has its own protection board",
  "pack board": "one board protects the pack",
  bare: "bare cells, nothing protects them",
  mixed: "some protected, some bare",
};

export const VOLTAGE_STATE_WORDS: Record<NonNullable<Schemas["ReadingIn"]["state"]>, string> = {
  resting: "At rest",
  "off-charger": "Just off the charger",
  "under-charge": "While charging",
  "under-load": "Under load",
  climbing: "Still moving",
};

export const BUILD_WORDS: Record<NonNullable<Cell["build"]>, string> = {
  "wrapped-can": "Round can in a wrap",
  "bare-can": "Round can, bare",
  "flat-can": "Flat metal can",
  pouch: "Soft flat pouch",
};

export const PLUS_END_WORDS: Record<NonNullable<Cell["plus_end"]>, string> = {
  button: "Raised end",
  can: "The can itself",
  "marked-tab": "Tab marked +",
  lead: "Lead measured as plus",
};

export const PROTECTION_WORDS: Record<NonNullable<Cell["protection"]>, string> = {
  none: "Not at all, bare",
  inside: "Board inside its wrap",
  "donor-board": "Only by the donor's board",
};

export const TERMINAL_WORDS: Record<NonNullable<Cell["terminals"]>, string> = {
  clean: "Clean ends",
  stub: "Stub of a strip",
  wires: "Wires on it",
  soldered: "Solder on it",
};

export const SYMPTOM_WORDS: Record<NonNullable<Schemas["CluesOut"]["symptom"]>, string> = {
  "runs-short": "Runs short",
  "cuts-out": "Cuts out under load",
  dead: "Dead",
  "does-not-charge": "Does not charge",
  unused: "Worked, no longer used",
  "wet-or-dropped": "Got wet or fell",
  none: "Nothing wrong with its cells",
  unknown: "Nobody knows",
};

export const CHARGER_WORDS: Record<NonNullable<Schemas["CluesOut"]["charger_kind"]>, string> = {
  none: "No charger",
  linear: "Linear, with a resistor",
  switching: "Switching",
  "pack-board": "In the pack's board",
  unknown: "Cannot tell",
};

export const CONVERTER_WORDS: Record<NonNullable<Schemas["CluesOut"]["converter"]>, string> = {
  none: "None",
  "step-up": "Step-up",
  "step-down": "Step-down",
  both: "Both",
  unknown: "Cannot tell",
};

export const YES_NO_WORDS = { yes: "Yes", no: "No", unknown: "Cannot tell" } as const;

export const CHARGED_IN_WORDS: Record<Schemas["CluesOut"]["charged_in"], string> = {
  out: "Taken out",
  holder: "In its holder",
  device: "Inside the device",
};

export const PART_WORDS: Record<Schemas["PartOut"]["kind"], string> = {
  "charger-board": "Charger board",
  "protection-board": "Protection board",
  holder: "Holder",
  switch: "Switch",
  sensor: "Sensor",
  converter: "Converter",
  connector: "Connector",
  other: "Other part",
};

export const PLACE_WORDS: Record<Place["kind"], string> = {
  tray: "Tray",
  "holding-box": "Holding box",
  "shelf-box": "Shelf box",
  "out-box": "Out-box",
  "fire-safe-box": "Fire-safe box",
};

/** What a number names, and where its page is. */
export const pageOf = (thing: Schemas["FoundOut"]["thing"], number: string): string =>
  thing === "instrument"
    ? "/instruments"
    : { cell: "/cells/", donor: "/donors/", pack: "/packs/", tray: "/trays/", box: "/places/" }[thing] + number;

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

export const METHOD_WORDS: Record<string, string> = {
  meter: "meter, at rest",
  tester: "tester",
  trace: "logged curve",
  "resistor-clock": "resistor and clock",
  "resistor-log": "resistor and log",
  "charge-counted": "counted by the charger",
  "usb-linear": "USB meter, linear module",
  "usb-switching": "USB meter, switching charger",
  "usb-step-up": "USB meter behind step-up",
  "ac-1khz": "meter, 1 kHz",
  "dc-10s": "under load, 10 s",
  "dc-1s": "under load, 1 s",
};

export const PACK_WORDS: Record<Pack["state"], string> = {
  planned: "Planned",
  built: "Built",
  "given-out": "Given out",
  back: "Came back",
  "taken-apart": "Taken apart",
  dropped: "Dropped",
};

export const PACK_ACTIONS: Record<Pack["state"], string> = {
  planned: "Plan",
  built: "It is built",
  "given-out": "Give it out",
  back: "It came back",
  "taken-apart": "Take it apart",
  dropped: "Drop the plan",
};

export const LIMIT_KIND_WORDS = { physics: "physics", standard: "standard value", house: "house rule" } as const;
export const SURE_WORDS = { sure: "sure", likely: "likely", borderline: "borderline" } as const;

/** A unit as it is written for people; data keep to plain letters. */
export const unitWord = (unit: string | null) => (unit === "mOhm" ? "mΩ" : (unit ?? ""));

/** What limits the current a cell may give for long. */
export const CURRENT_LIMIT_WORDS: Record<string, string> = {
  sag: "more would pull its voltage down by over 0.3 V",
  heat: "more would make it too warm in a closed case",
  "no data sheet": "more is for cells with a data sheet",
  "data sheet": "its data sheet allows no more",
};

/** What was typed as a number, comma or point; null where nothing or no number stands. */
export function readNumber(text: string): number | null {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
}

/** A number in the person's own way of writing it. */
export function figure(value: number, digits = 0): string {
  let format = formats.get(digits);
  if (!format) {
    format = new Intl.NumberFormat(undefined, {
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
  return new Intl.DateTimeFormat(undefined, {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(new Date(iso));
}

export function day(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", year: "numeric" }).format(new Date(iso));
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

export const INSTRUMENT_WORDS: Record<Schemas["InstrumentOut"]["kind"], string> = {
  voltmeter: "Voltmeter",
  tester: "Capacity tester",
  "ac-meter": "1 kHz meter",
  "usb-meter": "USB meter",
  charger: "Charger that counts",
};

export const LOG_STATE_WORDS: Record<Schemas["LogOut"]["state"], string> = {
  waiting: "waits for the reader",
  reading: "is being read",
  asks: "asks something",
  read: "read",
  refused: "cannot be read as it is",
  cancelled: "stopped",
};

/** Seconds as a span people say: 45 s, 12 min, 3 h 20 min. */
export function seconds(value: number): string {
  if (value < 120) return `${figure(value, value < 10 ? 1 : 0)} s`;
  const minutes = Math.round(value / 60);
  if (minutes < 120) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
