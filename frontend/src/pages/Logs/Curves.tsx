import { useQueries } from "@tanstack/react-query";
import { useRef, useState } from "react";
import styled from "styled-components";
import { curveQuery, type Log, useLogs } from "../../api/measuring";
import { Field, Switch, Tick } from "../../components/Fields";
import { Waiting } from "../../components/Page";
import { Plot, type PlotLine } from "../../components/Plot";
import { useSettled } from "../../components/useSettled";

type Over = "time" | "charge";
type One = { log: number; test: number; name: string };
type Points = { x: number[]; y: number[]; amps: number[] };
const MOST_OTHERS = 5;
const MOST_CHOICES = 24;
const sameRun = (one: One, other: One) => one.log === other.log && one.test === other.test;

/** A run as people tell it from others. */
const nameOf = (log: { cell: string | null; file_name: string }, test: number, tests: number) =>
  `${log.cell ? `cell ${log.cell}, ` : ""}${log.file_name}${tests > 1 ? `, test ${test + 1}` : ""}`;

/** Voltage over time or over charge; other runs of the cell, and other cells, laid over it. */
export function Curves({ log, test }: { log: Log; test: number }) {
  const [over, setOver] = useState<Over>("time");
  const [range, setRange] = useState<[number, number] | null>(null);
  const [others, setOthers] = useState<One[]>([]);
  const [sought, setSought] = useState("");
  const [isOpen, setOpen] = useState(false);
  const settled = useSettled(sought);
  const found = useLogs({ text: settled.trim(), is_read: true }, isOpen);
  const own: One = { log: log.id, test, name: nameOf(log, test, log.tests.length) };
  const all = [own, ...others];
  const curves = useQueries({
    queries: all.map((each) => curveQuery(each.log, each.test, over === "time" ? range : null)),
  });
  const [first] = curves;
  const now = layOver(
    curves.map((curve) => curve.data ?? null),
    all.map((each) => each.name),
    over,
    over === "charge" ? range : null,
  );
  // While another stretch is on its way the one before stays on the screen, and the hand on it.
  const before = useRef<typeof now | null>(null);
  if (first?.data) before.current = now;
  const drawn = before.current;
  if (!drawn)
    return <Waiting query={first ?? { isPending: true, error: null, refetch: () => undefined }} what="the curve" />;
  const choices: One[] = (found.data?.logs ?? [])
    .flatMap((each) =>
      Array.from({ length: each.tests }, (_, at) => ({ log: each.id, test: at, name: nameOf(each, at, each.tests) })),
    )
    .filter((each) => each.log !== log.id || each.test !== test)
    .slice(0, MOST_CHOICES);
  const isLaid = (one: One) => others.some((other) => other.log === one.log && other.test === one.test);
  const lay = (one: One, is: boolean) =>
    setOthers(
      is
        ? [...others, one].slice(-MOST_OTHERS)
        : others.filter((other) => other.log !== one.log || other.test !== one.test),
    );
  return (
    <Stack>
      <Switch
        label="Over"
        value={over}
        onChange={(next) => {
          setRange(null);
          setOver(next);
        }}
        options={[
          ["time", "Over time"],
          ["charge", "Over charge"],
        ]}
      />
      <Plot
        key={over}
        label={`Voltage over ${over}`}
        xLabel={over === "time" ? "minutes" : "mAh given"}
        xDigits={over === "time" ? 1 : 0}
        x={drawn.x}
        lines={drawn.lines}
        height={340}
        fileName={`curve-${log.id}`}
        title={`Voltage over ${over}: ${all.map((each) => each.name).join(", ")}`}
        onZoom={(next) => setRange(next && over === "time" ? [next[0] * 60, next[1] * 60] : next)}
      />
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary>Lay another run over it</summary>
        <Field
          label="Of which cell or file?"
          value={sought}
          onChange={setSought}
          maxLength={60}
          autoComplete="off"
          hint="Empty: the newest. At most five lie over it."
        />
        {found.data && choices.length === 0 && <p>No run like that was read.</p>}
        <Ticks>
          {[...others.filter((one) => !choices.some((each) => sameRun(each, one))), ...choices].map((each) => (
            <Tick key={`${each.log} ${each.test}`} isSelected={isLaid(each)} onChange={(is) => lay(each, is)}>
              {each.name}
            </Tick>
          ))}
        </Ticks>
      </details>
    </Stack>
  );
}

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

const Stack = styled.div`display: grid; gap: 0.75rem; min-width: 0; summary { min-height: 44px; padding-top: 0.625rem; cursor: pointer; text-decoration: underline; }`;
const Ticks = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: 0.5rem;`;
