import { useEffect, useRef, useState } from "react";
import { type DefaultTheme, useTheme } from "styled-components";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { figure } from "../words";
import type { PlotLine } from "./Plot";
import { coloursOf, DASHES } from "./plotPicture";

type Range = [number, number];
type Drawn = { x: number[]; lines: PlotLine[]; height: number; xLabel: string; onZoom?: (range: Range | null) => void };

/** The drawn curve: what is read on it, which stretch of the whole is shown, and how both are moved. */
export function useChart({ x, lines, height, xLabel, onZoom }: Drawn) {
  const theme = useTheme();
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<uPlot | null>(null);
  const canZoom = useRef(false);
  canZoom.current = Boolean(onZoom);
  const zoomTo = useRef<(range: Range | null) => void>(() => undefined);
  const [at, setAt] = useState<number | null>(null);
  // The ends of the whole while a stretch of it is shown.
  const [whole, setWhole] = useState<Range | null>(null);

  useEffect(() => {
    const place = box.current;
    if (!place || x.length === 0) return;
    const { data, series, bands } = seriesOf(x, lines, theme);
    const plot = new uPlot(
      {
        width: place.clientWidth,
        height,
        legend: { show: false },
        cursor: { drag: { x: canZoom.current, y: false, setScale: false }, points: { size: 10 } },
        bands,
        series,
        ...axesOf(lines, xLabel, theme),
        hooks: {
          setCursor: [(u) => setAt(u.cursor.idx ?? null)],
          setSelect: [
            (u) => {
              if (u.select.width < 8) return;
              const range: Range = [u.posToVal(u.select.left, "x"), u.posToVal(u.select.left + u.select.width, "x")];
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
    // A finger that moves along reads as a pointer does; up and down it scrolls the page.
    const along = (event: PointerEvent) => {
      if (event.pointerType === "mouse") return;
      const { left, top } = plot.over.getBoundingClientRect();
      plot.setCursor({ left: event.clientX - left, top: event.clientY - top });
    };
    plot.over.style.touchAction = "pan-y";
    plot.over.addEventListener("pointerdown", along);
    plot.over.addEventListener("pointermove", along);
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
  return { box, chart, shown, whole, moveTo, scale, zoomTo };
}

/** What is drawn: each line in its colour and dash, with its band where it has one. */
function seriesOf(x: number[], lines: PlotLine[], theme: DefaultTheme) {
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
  return { data, series, bands };
}

/** Scales and axes, the right-hand one only where a line stands on it. */
function axesOf(lines: PlotLine[], xLabel: string, theme: DefaultTheme): Pick<uPlot.Options, "scales" | "axes"> {
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
  return {
    scales: {
      x: { time: false },
      // One value alone stands in the middle, and not far above a nought that nobody measured.
      y: {
        range: (_u, least, most) => (least === most ? calm(least, most) : uPlot.rangeNum(least, most, 0.1, true)),
      },
      right: { auto: true, range: (_u, least, most) => calm(least, most) },
    },
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
  };
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
