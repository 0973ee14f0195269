import { type PointerEvent, useEffect, useRef, useState } from "react";
import styled, { type DefaultTheme, useTheme } from "styled-components";
import type { Grade, Schemas } from "../../api/client";
import { Field } from "../../components/Fields";
import { figure, GRADE_WORDS } from "../../words";

type Points = Schemas["ShelfMapOut"];
export type Ranges = { capacityFrom: string; capacityTo: string; resistanceFrom: string; resistanceTo: string };
type Spot = { x: number; y: number };

const HEIGHT = 380;
const EDGE = { left: 58, right: 14, top: 12, bottom: 34 };
const LEAST_DRAG_PX = 6;
/** Marks nearer than this blot; so many of them are still told apart. */
const BIN_PX = 26;
const MOST_MARKS = 3;
const MARK = 7;
const HEAP = { width: BIN_PX - 1, height: 17 };
const DRAWN: readonly Grade[] = ["A", "B", "C", "out", "not-yet"];

/** Every cell as a mark by capacity and resistance; a stretch of both is chosen by dragging, by touch, or by typing its ends. */
export function ShelfMap({
  points,
  ranges,
  onChange,
}: {
  points: Points;
  ranges: Ranges;
  onChange: (ranges: Ranges) => void;
}) {
  const theme = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(640);
  const [drag, setDrag] = useState<{ from: Spot; to: Spot } | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const scale = scaleOf(points, width);
  const grades = gradesOf(points);
  const most = Math.max(1, ...grades.map(([, count]) => count));
  const total = sum(points.counts);
  const chosen = sum(points.counts.filter((_, index) => isWithin(points, index, ranges)));
  // A heap lies within a stretch or outside of it as a whole.
  const isAbout = chosen !== total && points.counts.some((count) => count > 1);

  useEffect(() => {
    const place = box.current;
    if (!place) return;
    const watch = new ResizeObserver(() => setWidth(place.clientWidth));
    watch.observe(place);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    const found = canvas.current;
    const context = found?.getContext("2d");
    if (!found || !context) return;
    const ratio = window.devicePixelRatio || 1;
    found.width = width * ratio;
    found.height = HEIGHT * ratio;
    context.scale(ratio, ratio);
    context.clearRect(0, 0, width, HEIGHT);
    context.font = `14px ${theme.font.text}`;
    context.lineWidth = 1;
    for (const tick of scale.xTicks) {
      context.strokeStyle = theme.color.paperLine;
      line(context, scale.x(tick), EDGE.top, scale.x(tick), HEIGHT - EDGE.bottom);
      context.fillStyle = theme.color.ink;
      context.textAlign = "center";
      context.fillText(figure(tick), scale.x(tick), HEIGHT - 12);
    }
    for (const tick of scale.yTicks) {
      context.strokeStyle = theme.color.paperLine;
      line(context, EDGE.left, scale.y(tick), width - EDGE.right, scale.y(tick));
      context.fillStyle = theme.color.ink;
      context.textAlign = "right";
      context.fillText(figure(tick), EDGE.left - 8, scale.y(tick) + 5);
    }
    context.textAlign = "right";
    context.fillText("mAh", width - EDGE.right, HEIGHT - EDGE.bottom - 8);
    context.textAlign = "left";
    context.fillText("mΩ", EDGE.left + 6, EDGE.top + 12);
    for (const bin of binned(points, scale, (index) => isWithin(points, index, ranges))) {
      context.globalAlpha = bin.isChosen ? 0.95 : 0.18;
      if (bin.count > MOST_MARKS) heap(context, bin, theme);
      else
        for (const { grade, x, y } of bin.spots) {
          context.strokeStyle = theme.color.grade[grade];
          context.fillStyle = theme.color.grade[grade];
          mark(context, grade, x, y, MARK);
        }
    }
    context.globalAlpha = 1;
    context.textAlign = "left";
    const shown = drag ? rectangle(drag.from, drag.to) : rangeBox(ranges, scale, width);
    if (shown) {
      context.strokeStyle = theme.color.ink;
      context.lineWidth = 2;
      context.setLineDash([6, 4]);
      context.strokeRect(shown.x, shown.y, shown.width, shown.height);
      context.setLineDash([]);
    }
  }, [points, ranges, width, drag, scale, theme]);

  const spotOf = (event: PointerEvent): Spot => {
    const at = canvas.current?.getBoundingClientRect();
    return { x: event.clientX - (at?.left ?? 0), y: event.clientY - (at?.top ?? 0) };
  };
  const finish = (event: PointerEvent) => {
    if (!drag) return;
    // Where it was let go counts: the last move may not have been drawn yet on a slow machine.
    const { x, y, width: wide, height } = rectangle(drag.from, spotOf(event));
    setDrag(null);
    if (wide < LEAST_DRAG_PX && height < LEAST_DRAG_PX) return;
    onChange({
      capacityFrom: rounded(scale.xOf(x)),
      capacityTo: rounded(scale.xOf(x + wide)),
      resistanceFrom: rounded(scale.yOf(y + height)),
      resistanceTo: rounded(scale.yOf(y)),
    });
  };
  const put = (key: keyof Ranges) => (value: string) => onChange({ ...ranges, [key]: value });
  return (
    <div>
      <Head>
        <p>
          {isAbout && "about "}
          <Count>{chosen}</Count> of {total} cells {chosen === total ? "shown" : "chosen"}
        </p>
        <Legend aria-label="Grades">
          {grades.map(([grade, count]) => (
            <li key={grade}>
              <Bar $grade={grade} style={{ width: `${Math.max(6, (90 * count) / most)}px` }} />
              {GRADE_WORDS[grade]} <strong>{count}</strong>
            </li>
          ))}
        </Legend>
      </Head>
      <Box ref={box}>
        <Canvas
          ref={canvas}
          style={{ width, height: HEIGHT }}
          role="img"
          aria-label={`Capacity against resistance of ${total} cells. The fields below choose a stretch of it.`}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setDrag({ from: spotOf(event), to: spotOf(event) });
          }}
          onPointerMove={(event) => drag && setDrag({ ...drag, to: spotOf(event) })}
          onPointerUp={finish}
          onPointerCancel={() => setDrag(null)}
        />
      </Box>
      <Fields>
        <Field
          label="Capacity from"
          unit="mAh"
          numeric
          value={ranges.capacityFrom}
          onChange={put("capacityFrom")}
          maxLength={9}
        />
        <Field label="to" unit="mAh" numeric value={ranges.capacityTo} onChange={put("capacityTo")} maxLength={9} />
        <Field
          label="Resistance from"
          unit="mΩ"
          numeric
          value={ranges.resistanceFrom}
          onChange={put("resistanceFrom")}
          maxLength={9}
        />
        <Field
          label="up to"
          unit="mΩ"
          numeric
          value={ranges.resistanceTo}
          onChange={put("resistanceTo")}
          maxLength={9}
        />
      </Fields>
    </div>
  );
}

export const NO_RANGES: Ranges = { capacityFrom: "", capacityTo: "", resistanceFrom: "", resistanceTo: "" };

/** Cells that lie so near to one another that their marks would blot: how many of which grade, and the middle of them. */
export type Bin = {
  isChosen: boolean;
  count: number;
  grades: Partial<Record<Grade, number>>;
  x: number;
  y: number;
  spots: (Spot & { grade: Grade })[];
};

/** Cells by where they fall on the screen: single marks where there is room, one heap with its number where there is none. */
export function binned(
  points: Readonly<Pick<Points, "counts" | "grade" | "capacity_mah" | "resistance_mohm">>,
  scale: { x: (value: number) => number; y: (value: number) => number },
  isChosen: (index: number) => boolean,
): Bin[] {
  const bins = new Map<string, Bin>();
  points.counts.forEach((count, index) => {
    const grade = points.grade[index] ?? "not-yet";
    const [x, y] = [scale.x(points.capacity_mah[index] ?? 0), scale.y(points.resistance_mohm[index] ?? 0)];
    const chosen = isChosen(index);
    const key = `${Math.floor(x / BIN_PX)} ${Math.floor(y / BIN_PX)} ${chosen}`;
    const bin = bins.get(key) ?? { isChosen: chosen, count: 0, grades: {}, x: 0, y: 0, spots: [] };
    bin.x = (bin.x * bin.count + x * count) / (bin.count + count);
    bin.y = (bin.y * bin.count + y * count) / (bin.count + count);
    bin.count += count;
    bin.grades[grade] = (bin.grades[grade] ?? 0) + count;
    if (bin.spots.length < MOST_MARKS) bin.spots.push({ x, y, grade });
    bins.set(key, bin);
  });
  // What is chosen lies on top.
  return [...bins.values()].sort((one, other) => Number(one.isChosen) - Number(other.isChosen));
}

/** A heap: a box with how many lie in it, in bands of their grades, the better ones above; of one grade with its strokes below. */
function heap(context: CanvasRenderingContext2D, bin: Bin, theme: DefaultTheme): void {
  const wide = HEAP.width * Math.min(1, 0.6 + 0.08 * Math.log2(bin.count));
  const [middle, top] = [inField(bin.x, wide), inField(bin.y, BIN_PX - 2) - BIN_PX / 2 + 1];
  const shares = DRAWN.filter((grade) => bin.grades[grade]);
  let from = top;
  for (const grade of shares) {
    const high = (HEAP.height * (bin.grades[grade] ?? 0)) / bin.count;
    context.fillStyle = theme.color.grade[grade];
    context.fillRect(middle - wide / 2, from, wide, high);
    from += high;
  }
  const told = bin.count < 1000 ? String(bin.count) : `${Math.round(bin.count / 1000)}k`;
  context.font = `${told.length < 3 ? 14 : 12}px ${theme.font.text}`;
  context.fillStyle = theme.color.paper;
  context.textAlign = "center";
  context.fillText(told, middle, top + HEAP.height / 2 + 5);
  const [only] = shares;
  if (shares.length === 1 && only) {
    context.strokeStyle = theme.color.grade[only];
    context.fillStyle = theme.color.grade[only];
    mark(context, only, middle, top + HEAP.height + 4, 3);
  }
}

/** As near to where it is as it can lie without reaching into the next field. */
function inField(at: number, size: number): number {
  const first = Math.floor(at / BIN_PX) * BIN_PX;
  return Math.min(Math.max(at, first + size / 2), first + BIN_PX - size / 2);
}

/** A typed end as a number; null where it is none yet. */
export function endOf(text: string): number | null {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) || value < 0 ? null : value;
}

function isWithin(points: Points, index: number, ranges: Ranges): boolean {
  const [capacity, resistance] = [points.capacity_mah[index] ?? 0, points.resistance_mohm[index] ?? 0];
  return (
    capacity >= (endOf(ranges.capacityFrom) ?? 0) &&
    capacity <= (endOf(ranges.capacityTo) ?? Number.POSITIVE_INFINITY) &&
    resistance >= (endOf(ranges.resistanceFrom) ?? 0) &&
    resistance <= (endOf(ranges.resistanceTo) ?? Number.POSITIVE_INFINITY)
  );
}

const rounded = (value: number) => String(Math.max(0, Math.round(value)));
/** How many of the cells that are drawn have which grade, without those that none has. */
export const gradesOf = (points: Pick<Points, "grade" | "counts">) =>
  DRAWN.map((grade) => [grade, sum(points.counts.filter((_, index) => points.grade[index] === grade))] as const).filter(
    ([, count]) => count > 0,
  );

const sum = (counts: number[]) => counts.reduce((before, count) => before + count, 0);

/** Pixels of values and values of pixels, with round marks on both axes. */
function scaleOf(points: Points, width: number) {
  const [xLow, xTop] = endsOf(points.capacity_mah, 100);
  const [yLow, yTop] = endsOf(points.resistance_mohm, 20);
  const [wide, high] = [width - EDGE.left - EDGE.right, HEIGHT - EDGE.top - EDGE.bottom];
  return {
    x: (value: number) => EDGE.left + ((value - xLow) / (xTop - xLow)) * wide,
    y: (value: number) => HEIGHT - EDGE.bottom - ((value - yLow) / (yTop - yLow)) * high,
    xOf: (pixel: number) => xLow + ((pixel - EDGE.left) / wide) * (xTop - xLow),
    yOf: (pixel: number) => yLow + ((HEIGHT - EDGE.bottom - pixel) / high) * (yTop - yLow),
    xTicks: ticks(xLow, xTop, wide / 90),
    yTicks: ticks(yLow, yTop, high / 50),
  };
}

/** From a little below the least to a little above the most; from zero where that is near anyway. */
function endsOf(values: number[], leastTop: number): [number, number] {
  const top = values.reduce((found, value) => Math.max(found, value), leastTop);
  const low = values.reduce((found, value) => Math.min(found, value), top);
  return [low > 0.25 * top ? 0.88 * low : 0, 1.06 * top];
}

function ticks(low: number, top: number, about: number): number[] {
  const rough = (top - low) / Math.max(2, about);
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((each) => each * power).find((each) => each >= rough) ?? rough;
  const first = Math.ceil(low / step);
  return Array.from({ length: Math.floor(top / step) - first + 1 }, (_, index) => (first + index) * step);
}

function line(context: CanvasRenderingContext2D, x1: number, y1: number, x2: number, y2: number): void {
  context.beginPath();
  context.moveTo(x1, y1);
  context.lineTo(x2, y2);
  context.stroke();
}

/** Strokes as on a cell's end: three, two, one, a cross, a dot; a colour never tells alone. */
function mark(context: CanvasRenderingContext2D, grade: Grade, x: number, y: number, size: number): void {
  context.lineWidth = 1.6;
  const strokes = { A: [-size * 0.7, 0, size * 0.7], B: [-size * 0.4, size * 0.4], C: [0], out: [], "not-yet": [] }[
    grade
  ];
  for (const offset of strokes) line(context, x + offset, y - size, x + offset, y + size);
  if (grade === "out") {
    line(context, x - size, y - size, x + size, y + size);
    line(context, x + size, y - size, x - size, y + size);
  } else if (grade === "not-yet") {
    context.beginPath();
    context.arc(x, y, size * 0.5, 0, 2 * Math.PI);
    context.fill();
  }
}

function rectangle(from: Spot, to: Spot) {
  return {
    x: Math.min(from.x, to.x),
    y: Math.min(from.y, to.y),
    width: Math.abs(to.x - from.x),
    height: Math.abs(to.y - from.y),
  };
}

function rangeBox(ranges: Ranges, scale: ReturnType<typeof scaleOf>, width: number) {
  if (Object.values(ranges).every((each) => each.trim() === "")) return null;
  const left = Math.max(EDGE.left, scale.x(endOf(ranges.capacityFrom) ?? 0));
  const right = Math.min(width - EDGE.right, scale.x(endOf(ranges.capacityTo) ?? 1e9));
  const top = Math.max(EDGE.top, scale.y(endOf(ranges.resistanceTo) ?? 1e9));
  const bottom = Math.min(HEIGHT - EDGE.bottom, scale.y(endOf(ranges.resistanceFrom) ?? 0));
  return { x: left, y: top, width: right - left, height: bottom - top };
}

const Box = styled.div`min-width: 0; overflow: hidden;`;
const Head = styled.div`display: flex; flex-wrap: wrap; align-items: baseline; justify-content: space-between; gap: var(--hair) var(--room);`;
const Count = styled.strong`font: 700 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};`;
const Legend = styled.ul`display: flex; flex-wrap: wrap; gap: var(--hair) var(--sheet); font-size: ${({ theme }) => theme.size.note}; li { display: flex; align-items: center; gap: var(--slit); }`;
const Bar = styled.i<{
  $grade: Grade;
}>`display: inline-block; height: 10px; border-radius: 2px; background: ${({ theme, $grade }) => theme.color.grade[$grade]};`;
const Canvas = styled.canvas`display: block; cursor: crosshair; max-width: 100%; touch-action: pan-y;`;
const Fields = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr)); gap: var(--apart) var(--block); margin-top: var(--near);`;
