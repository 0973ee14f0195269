import { useEffect, useId, useRef, useState } from "react";
import styled, { useTheme } from "styled-components";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { figure } from "../words";
import { Button } from "./Button";
import { coloursOf, DASHES, takePicture } from "./plotPicture";

export type PlotLine = {
  name: string;
  /** One value for each x; null: nothing is drawn there. */
  y: (number | null)[];
  unit: string;
  digits: number;
  asPoints?: boolean;
  low?: number[];
  high?: number[];
  /** On the right-hand scale. */
  onRight?: boolean;
};
type Props = {
  label: string;
  xLabel: string;
  xDigits?: number;
  x: number[];
  lines: PlotLine[];
  height?: number;
  /** Told when a stretch was chosen by hand; null: the whole again. */
  onZoom?: (range: [number, number] | null) => void;
  fileName?: string;
  /** What the picture that is taken along says above; else the label. */
  title?: string;
};

const TABLE_ROWS = 40;

/** Lines over one another: values at the pointer or by the arrow keys, a stretch chosen by dragging, buttons or keys, a table, a picture to take along. */
export function Plot({
  label,
  xLabel,
  xDigits = 0,
  x,
  lines,
  height = 300,
  onZoom,
  fileName = "zembric",
  title,
}: Props) {
  const theme = useTheme();
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<uPlot | null>(null);
  const zoom = useRef(onZoom);
  zoom.current = onZoom;
  const zoomTo = useRef<(range: [number, number] | null) => void>(() => undefined);
  const [at, setAt] = useState<number | null>(null);
  const [isTable, setTable] = useState(false);
  // The ends of the whole while a stretch of it is shown.
  const [whole, setWhole] = useState<[number, number] | null>(null);
  const hint = useId();

  useEffect(() => {
    const place = box.current;
    if (!place || x.length === 0) return;
    const colours = coloursOf(theme);
    const data: (number | null)[][] = [x];
    const series: uPlot.Series[] = [{}];
    const bands: uPlot.Band[] = [];
    lines.forEach((line, index) => {
      const colour = colours[index % colours.length] as string;
      data.push(line.y);
      series.push({
        scale: line.onRight ? "right" : "y",
        stroke: colour,
        width: 2.5,
        dash: DASHES[index % DASHES.length],
        spanGaps: false,
        ...(line.asPoints
          ? { paths: () => null, points: { show: true, size: 11, fill: colour, stroke: colour } }
          : { points: { show: false } }),
      });
      if (line.low && line.high) {
        data.push(line.high, line.low);
        const edge = { scale: "y", stroke: colour, width: 1, dash: [3, 4], points: { show: false } };
        series.push({ ...edge }, { ...edge });
        bands.push({ series: [data.length - 2, data.length - 1], fill: `${colour}22` });
      }
    });
    const axis = {
      stroke: theme.color.ink,
      font: `14px ${theme.font.text}`,
      grid: { stroke: theme.color.paperLine, width: 1 },
      ticks: { stroke: theme.color.inkSoft, width: 1 },
      labelFont: `700 14px ${theme.font.text}`,
      labelSize: 22,
    };
    const unitOf = (isRight: boolean) => lines.find((line) => Boolean(line.onRight) === isRight)?.unit ?? "";
    const hasRight = lines.some((line) => line.onRight);
    const plot = new uPlot(
      {
        width: place.clientWidth,
        height,
        scales: {
          x: { time: false },
          // One value alone stands in the middle, and not far above a nought that nobody measured.
          y: {
            range: (_u, least, most) => (least === most ? calm(least, most) : uPlot.rangeNum(least, most, 0.1, true)),
          },
          right: { auto: true, range: (_u, least, most) => calm(least, most) },
        },
        legend: { show: false },
        cursor: { drag: { x: Boolean(zoom.current), y: false, setScale: false }, points: { size: 10 } },
        bands,
        series,
        axes: [
          { ...axis, label: xLabel, values: (_u, ticks) => labelled(ticks) },
          { ...axis, label: unitOf(false), size: 58, values: (_u, ticks) => labelled(ticks) },
          ...(hasRight
            ? [
                {
                  ...axis,
                  scale: "right",
                  side: 1 as const,
                  label: unitOf(true),
                  grid: { show: false },
                  size: 58,
                  values: (_u: uPlot, ticks: number[]) => labelled(ticks),
                },
              ]
            : []),
        ],
        hooks: {
          setCursor: [(u) => setAt(u.cursor.idx ?? null)],
          setSelect: [
            (u) => {
              if (u.select.width < 8) return;
              const range: [number, number] = [
                u.posToVal(u.select.left, "x"),
                u.posToVal(u.select.left + u.select.width, "x"),
              ];
              u.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
              zoomTo.current(range);
            },
          ],
        },
      },
      data as uPlot.AlignedData,
      place,
    );
    chart.current = plot;
    const watch = new ResizeObserver(() => plot.setSize({ width: place.clientWidth, height }));
    watch.observe(place);
    return () => {
      watch.disconnect();
      plot.destroy();
      chart.current = null;
    };
  }, [x, lines, height, theme, xLabel]);

  const moveTo = (index: number) => {
    const plot = chart.current;
    const place = Math.min(Math.max(index, 0), x.length - 1);
    setAt(place);
    plot?.setCursor({ left: plot.valToPos(x[place] ?? 0, "x"), top: 10 }, false);
  };
  const shown = at === null ? null : Math.min(at, x.length - 1);
  const ends: [number, number] = [x[0] ?? 0, x[x.length - 1] ?? 0];
  zoomTo.current = (range) => {
    const [first, last] = whole ?? ends;
    const isAll = range === null || (range[0] <= first && range[1] >= last);
    setWhole(isAll ? null : [first, last]);
    setAt(null);
    onZoom?.(isAll ? null : [Math.max(range[0], first), Math.min(range[1], last)]);
  };
  /** Half or twice as much around what is being read, else around the middle. */
  const scale = (factor: number) => {
    const middle = shown === null ? (ends[0] + ends[1]) / 2 : (x[shown] ?? 0);
    const half = ((ends[1] - ends[0]) * factor) / 2;
    zoomTo.current([middle - half, middle + half]);
  };
  return (
    <Figure>
      <Legend aria-live="polite">
        {lines.map((line, index) => (
          <li key={line.name}>
            <Swatch $index={index} $points={Boolean(line.asPoints)} aria-hidden="true" />
            {line.name}
            {shown !== null && line.y[shown] !== null && line.y[shown] !== undefined && (
              <strong>
                {" "}
                {figure(line.y[shown] ?? 0, line.digits)} {line.unit}
              </strong>
            )}
          </li>
        ))}
        <li>
          {shown === null ? (
            xLabel
          ) : (
            <>
              {xLabel} <strong>{figure(x[shown] ?? 0, xDigits)}</strong>
            </>
          )}
        </li>
      </Legend>
      <Canvas
        ref={box}
        role="slider"
        aria-label={label}
        aria-describedby={hint}
        aria-valuemin={0}
        aria-valuemax={Math.max(0, x.length - 1)}
        aria-valuenow={shown ?? 0}
        aria-valuetext={
          shown === null
            ? label
            : `${xLabel} ${figure(x[shown] ?? 0, xDigits)}: ${lines.map((line) => `${line.name} ${line.y[shown] === null ? "none" : figure(line.y[shown] ?? 0, line.digits)} ${line.unit}`).join(", ")}`
        }
        tabIndex={0}
        style={{ minHeight: height }}
        onKeyDown={(event) => {
          if (onZoom && (event.key === "+" || event.key === "-" || event.key === "0")) {
            event.preventDefault();
            if (event.key === "0") zoomTo.current(null);
            else if (event.key === "+" || whole) scale(event.key === "+" ? 0.5 : 2);
            return;
          }
          const step = event.shiftKey ? Math.max(1, Math.round(x.length / 20)) : 1;
          const to =
            event.key === "ArrowRight"
              ? (shown ?? -1) + step
              : event.key === "ArrowLeft"
                ? (shown ?? x.length) - step
                : event.key === "Home"
                  ? 0
                  : event.key === "End"
                    ? x.length - 1
                    : null;
          if (to === null) return;
          event.preventDefault();
          moveTo(to);
        }}
      />
      <Row>
        <Small id={hint}>
          {onZoom ? "Drag over a stretch to see more of it, or press + and −. " : ""}Arrow keys read the values, with
          Shift in larger steps.
        </Small>
        {onZoom && (
          <Button kind="quiet" onPress={() => scale(0.5)}>
            Closer
          </Button>
        )}
        {whole && (
          <>
            <Button kind="quiet" onPress={() => scale(2)}>
              Wider
            </Button>
            <Button kind="quiet" onPress={() => zoomTo.current(null)}>
              The whole again
            </Button>
          </>
        )}
        <Button kind="quiet" onPress={() => setTable(!isTable)}>
          {isTable ? "Without the table" : "As a table"}
        </Button>
        <Button kind="quiet" onPress={() => takePicture(chart.current, theme, title ?? label, lines, fileName)}>
          Picture
        </Button>
      </Row>
      {isTable && <PlotTable xLabel={xLabel} xDigits={xDigits} x={x} lines={lines} />}
    </Figure>
  );
}

/** So wide that the noise of a steady current does not look like a storm. */
function calm(least: number, most: number): [number, number] {
  const span = Math.max((most - least) * 1.1, 0.2 * Math.max(Math.abs(least), Math.abs(most), 0.1));
  const middle = (least + most) / 2;
  return [middle - span / 2, middle + span / 2];
}

/** Marks of an axis with no more digits than their step needs. */
function labelled(ticks: number[]): string[] {
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0));
  const digits = [0, 1, 2, 3].find((each) => Math.abs(step * 10 ** each - Math.round(step * 10 ** each)) < 1e-6) ?? 4;
  return ticks.map((tick) => figure(tick, digits));
}

/** Rows evenly chosen over what is shown. */
function PlotTable({ xLabel, xDigits, x, lines }: { xLabel: string; xDigits: number; x: number[]; lines: PlotLine[] }) {
  const step = Math.max(1, Math.ceil(x.length / TABLE_ROWS));
  const rows = x.map((_, index) => index).filter((index) => index % step === 0 || index === x.length - 1);
  return (
    <Scroll tabIndex={0}>
      <table>
        <thead>
          <tr>
            <th>{xLabel}</th>
            {lines.map((line) => (
              <th key={line.name}>
                {line.name} ({line.unit})
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row}>
              <td>{figure(x[row] ?? 0, xDigits)}</td>
              {lines.map((line) => (
                <td key={line.name}>{line.y[row] === null ? "" : figure(line.y[row] ?? 0, line.digits)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}

const Figure = styled.figure`margin: 0; min-width: 0;`;
const Canvas = styled.div`
  width: 100%;
  overflow: hidden;
  cursor: crosshair;
  &:focus-visible { outline: 3px solid ${({ theme }) => theme.color.pencil}; outline-offset: 2px; }
  .u-select { background: ${({ theme }) => theme.color.tape}66; }
`;
const Legend = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: var(--thread) var(--sheet);
  min-height: 1.75rem;
  font-size: ${({ theme }) => theme.size.note};
  li { display: flex; align-items: center; gap: var(--slit); }
  strong { font-family: ${({ theme }) => theme.font.figure}; }
`;
const Swatch = styled.i<{ $index: number; $points: boolean }>`
  display: inline-block;
  width: ${({ $points }) => ($points ? "11px" : "22px")};
  height: ${({ $points }) => ($points ? "11px" : "0")};
  border-radius: ${({ $points }) => ($points ? "50%" : "0")};
  background: ${({ theme, $index, $points }) => ($points ? [theme.color.pencil, theme.color.ink, theme.color.grade.C][$index % 3] : "none")};
  border-top: ${({ theme, $index, $points }) =>
    $points
      ? "none"
      : `3px ${["solid", "dashed", "dotted", "dashed", "dashed", "dotted"][$index % 6]} ${[theme.color.pencil, theme.color.ink, theme.color.grade.C, theme.color.grade.A, theme.color.danger][$index % 5]}`};
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 0 var(--near);`;
const Small = styled.span`flex: 1 1 14rem; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Scroll = styled.div`
  max-height: 22rem;
  overflow: auto;
  table { border-collapse: collapse; font-family: ${({ theme }) => theme.font.figure}; font-size: ${({ theme }) => theme.size.note}; }
  th, td { padding: var(--thread) var(--apart) var(--thread) 0; text-align: right; white-space: nowrap; }
  th { position: sticky; top: 0; background: ${({ theme }) => theme.color.paper}; font-family: ${({ theme }) => theme.font.text}; }
`;
