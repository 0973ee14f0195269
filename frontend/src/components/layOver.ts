import type { PlotLine } from "./Plot";

export type Over = "time" | "charge";
type Points = { x: number[]; y: number[]; amps: number[] };
type Curve = { time_s: number[]; voltage_v: number[]; current_a: number[]; charge_mah: (number | null)[] } | null;

/** All curves on one axis; each keeps its own points, between them the others are silent or drawn straight. */
export function layOver(
  curves: Curve[],
  names: string[],
  over: Over,
  range: [number, number] | null = null,
): { x: number[]; lines: PlotLine[] } {
  const points = curves.map((curve) => (curve ? pointsOf(curve, over, range) : { x: [], y: [], amps: [] }));
  const x =
    points.length === 1 ? (points[0]?.x ?? []) : [...new Set(points.flatMap((each) => each.x))].sort((a, b) => a - b);
  const lines: PlotLine[] = points.map((each, index) => ({
    name: names[index] ?? "",
    unit: "V",
    digits: 3,
    y: points.length === 1 ? each.y : onto(x, each),
  }));
  const [only] = points;
  if (points.length === 1 && only && over === "time")
    lines.push({ name: "current", unit: "A", digits: 3, y: only.amps, onRight: true });
  return { x, lines };
}

function pointsOf(curve: NonNullable<Curve>, over: Over, range: [number, number] | null): Points {
  const found: Points = { x: [], y: [], amps: [] };
  curve.time_s.forEach((time, index) => {
    const x = over === "time" ? time / 60 : curve.charge_mah[index];
    if (x === null || x === undefined || (range && (x < range[0] || x > range[1]))) return;
    found.x.push(x);
    found.y.push(curve.voltage_v[index] ?? 0);
    found.amps.push(curve.current_a[index] ?? 0);
  });
  return found;
}

function onto(x: number[], { x: own, y }: Points): (number | null)[] {
  let at = 0;
  return x.map((value) => {
    while (at < own.length - 1 && (own[at + 1] ?? 0) <= value) at += 1;
    const [left, right] = [own[at], own[at + 1]];
    if (left === undefined || value < left) return null;
    if (left === value || right === undefined) return left === value ? (y[at] ?? null) : null;
    return (y[at] ?? 0) + (((y[at + 1] ?? 0) - (y[at] ?? 0)) * (value - left)) / (right - left);
  });
}
