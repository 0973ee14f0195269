import type { Schemas } from "../../../api/client";
import { figure } from "../../../words";

export type Stage = Schemas["HandworkOut"]["stage"];
export type Work = Schemas["HandworkOut"];
export type Step = Schemas["StepOut"];
export type Asked = Schemas["AskedOut"];

const DIGITS: Record<string, number> = { V: 2, A: 2, Wh: 1, h: 1, W: 1, "°C": 0 };

export const toldIn = (value: number, unit: string) => `${figure(value, DIGITS[unit] ?? 1)}\u00a0${unit}`;

/** Between which bounds a figure has to lie, in words; null: nobody can say. */
export function bandOf(asked: Asked): string | null {
  const { least, most, unit } = asked;
  if (least !== null && most !== null) return `${toldIn(least, unit)} to ${toldIn(most, unit)}`;
  if (most !== null) return `at most ${toldIn(most, unit)}`;
  if (least !== null && least > 0) return `at least ${toldIn(least, unit)}`;
  return asked.expected === null ? null : `about ${toldIn(asked.expected, unit)}`;
}
