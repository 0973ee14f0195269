import type { Reading, Run } from "../../api/testers";
import { clockTime, figure, PROGRAM_WORDS, RUN_STATE_WORDS, STAGE_WORDS } from "../../words";

/** What a run is doing, in few words: its stage while it goes on, else how it ended. */
export function doing(run: Run, reading?: Reading): string {
  if (run.state !== "running") return RUN_STATE_WORDS[run.state];
  const stage = run.stages[reading?.r === run.id ? (reading.g ?? run.stage) : run.stage];
  if (!stage) return RUN_STATE_WORDS.ended;
  if (stage.is_pulse) return STAGE_WORDS.discharge;
  const to = stage.kind === "rest" ? "" : ` to ${figure(stage.limit_v, 2)} V`;
  return `${STAGE_WORDS[stage.kind]}${to}`;
}

/** Volts, amperes and the rest as they are now: by the stream where it told, else as they were kept. */
export function now(run: Run | null, reading: Reading | undefined) {
  const ours = run && reading?.r === run.id ? reading : undefined;
  return {
    volts: reading?.v ?? run?.voltage_v ?? null,
    amperes: reading?.i ?? run?.current_a ?? null,
    degrees: reading?.c ?? run?.cell_degc ?? null,
    into: ours?.in ?? run?.in_mah ?? 0,
    out: ours?.out ?? run?.out_mah ?? 0,
    left: ours?.left ?? (run?.left ? [run.left.least_s, run.left.likely_s, run.left.most_s] : null),
  };
}

const inSeconds = (left: number) => clockTime(new Date(Date.now() + 1000 * left).toISOString());

/** Between which times it will be done. */
export const doneBetween = ([least = 0, , most = 0]: readonly number[]): string =>
  `${inSeconds(least)} and ${inSeconds(most)}`;

export const doneAt = ([, likely = 0]: readonly number[]): string => (likely < 90 ? "any moment" : inSeconds(likely));

export const programName = (run: Run) => PROGRAM_WORDS[run.program];
