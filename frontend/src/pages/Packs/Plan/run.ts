import type { Schemas } from "../../../api/client";
import type { PlotLine } from "../../../components/Plot";
import { figure } from "../../../words";

export type Paper = Schemas["OnPaperOut"];

/** Minutes below two hours, weeks above three, else hours. */
export function lasting(hours: number): string {
  if (hours < 2) return `${figure(60 * hours)} min`;
  if (hours >= 500) return `${figure(hours / 168, 1)} weeks`;
  return `${figure(hours, hours < 100 ? 1 : 0)} h`;
}

export function endWords(paper: Paper): string {
  const cutOff = `the house's cut-off of ${figure(paper.cutoff_v, 2)} V`;
  const isNothing = paper.hours === 0;
  if (paper.ended_by === "load_not_carried")
    return isNothing
      ? "It cannot carry this load, not even for a moment. A smaller load, or more cells side by side."
      : "The load takes more and more as the voltage falls, until the pack cannot carry it.";
  if (paper.ended_by === "pack_cutoff")
    return isNothing
      ? "It stands below what the device works from as soon as the load is on."
      : "Then the pack stands below what the device works from; its cells are not yet empty.";
  const group = `Group ${paper.ended_in ?? ""}`;
  return isNothing
    ? `${group} falls below ${cutOff} as soon as the load is on. A smaller load, or more cells side by side.`
    : `${group} comes to ${cutOff} first, and that ends the run.`;
}

/** Of few groups each; of many the one that ends the run and, as a band, all of them. */
export function linesOf({ groups, ended_in }: Paper): PlotLine[] {
  const line = (name: string, y: number[]): PlotLine => ({ name, y, unit: "V", digits: 2 });
  const nameOf = (index: number) => `Group ${index + 1}${index + 1 === ended_in ? ", ends it" : ""}`;
  if (groups.length <= MOST_LINES) return groups.map((group, index) => line(nameOf(index), group.volts));
  const at = (pick: (...volts: number[]) => number) =>
    (groups[0]?.volts ?? []).map((_, moment) => pick(...groups.map((group) => group.volts[moment] ?? 0)));
  const mean = at((...volts) => volts.reduce((sum, each) => sum + each, 0) / volts.length);
  const all: PlotLine = { ...line("All groups, in the mean", mean), low: at(Math.min), high: at(Math.max) };
  const last = ended_in === null ? undefined : groups[ended_in - 1]?.volts;
  return last && ended_in ? [line(nameOf(ended_in - 1), last), all] : [all];
}
const MOST_LINES = 5;

/** What one number became beside what it was: "9.4 h instead of 10.2 h"; alone where it is the same. */
export const instead = (now: string, before: string | null) =>
  before === null || now === before ? now : `${now} instead of ${before}`;
