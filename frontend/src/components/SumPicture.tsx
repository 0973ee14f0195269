import type { Schemas } from "../api/client";
import { Plot } from "./Plot";

/** Lines of a sum on one axis; points and a fitted line have places of their own, so all places are put together. */
export function SumPicture({ picture, title }: { picture: Schemas["PictureOut"]; title: string }) {
  const x = [...new Set(picture.lines.flatMap((line) => line.x))].sort((a, b) => a - b);
  const lines = picture.lines.map((line) => {
    const at = new Map(line.x.map((value, index) => [value, index] as const));
    const spread = (values: number[]) => x.map((value) => interpolate(line.x, values, value));
    return {
      name: line.name,
      unit: picture.unit,
      digits: 3,
      asPoints: line.as_points,
      y: line.as_points ? x.map((value) => line.y[at.get(value) ?? -1] ?? null) : spread(line.y),
      ...(line.low.length > 0 ? { low: spread(line.low) as number[], high: spread(line.high) as number[] } : {}),
    };
  });
  return <Plot label={title} xLabel={picture.x_label} xDigits={1} x={x} lines={lines} height={260} />;
}

function interpolate(xs: number[], ys: number[], at: number): number | null {
  const right = xs.findIndex((x) => x >= at);
  if (right < 0 || (right === 0 && xs[0] !== at)) return null;
  if (right === 0 || xs[right] === at) return ys[right] ?? null;
  const [x0 = 0, x1 = 1] = [xs[right - 1], xs[right]];
  const [y0 = 0, y1 = 0] = [ys[right - 1], ys[right]];
  return y0 + ((y1 - y0) * (at - x0)) / (x1 - x0);
}
