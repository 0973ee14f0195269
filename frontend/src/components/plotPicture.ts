import type { DefaultTheme } from "styled-components";
import type uPlot from "uplot";
import type { PlotLine } from "./Plot";

/** What tells the lines of a plot apart, on the screen and in a picture of it. */
export const coloursOf = ({ color }: DefaultTheme) => [
  color.pencil,
  color.ink,
  color.grade.C,
  color.grade.A,
  color.danger,
];
export const DASHES = [[], [8, 4], [2, 4], [10, 3, 2, 3], [4, 4], [1, 3]];

/** The plot as a picture that tells by itself what it shows: a title above, what each line is below. */
export function takePicture(
  plot: uPlot | null,
  theme: DefaultTheme,
  title: string,
  lines: PlotLine[],
  fileName: string,
) {
  const canvas = plot?.ctx.canvas;
  if (!canvas) return;
  const scale = canvas.width / (plot.width || canvas.width);
  const [row, edge] = [24 * scale, 14 * scale];
  const copy = document.createElement("canvas");
  const context = copy.getContext("2d");
  if (!context) return;
  const font = (weight: number) => `${weight} ${15 * scale}px ${theme.font.text}`;
  context.font = font(700);
  const titles = wrapped(context, title, canvas.width - 2 * edge);
  copy.width = canvas.width;
  copy.height = canvas.height + (titles.length + lines.length + 1) * row;
  context.fillStyle = theme.color.paper;
  context.fillRect(0, 0, copy.width, copy.height);
  context.drawImage(canvas, 0, titles.length * row + row / 2);
  context.fillStyle = theme.color.ink;
  context.font = font(700);
  titles.forEach((text, index) => {
    context.fillText(text, edge, (index + 1) * row);
  });
  context.font = font(400);
  lines.forEach((line, index) => {
    const y = canvas.height + (titles.length + index + 1) * row;
    context.strokeStyle = coloursOf(theme)[index % coloursOf(theme).length] ?? theme.color.ink;
    context.lineWidth = 2 * scale;
    context.setLineDash((DASHES[index % DASHES.length] ?? []).map((dash) => dash * scale));
    context.beginPath();
    context.moveTo(edge, y - 5 * scale);
    context.lineTo(edge + 40 * scale, y - 5 * scale);
    context.stroke();
    context.fillText(`${line.name} [${line.unit}]${line.onRight ? ", right" : ""}`, edge + 50 * scale, y);
  });
  const link = document.createElement("a");
  link.download = `${fileName}.png`;
  link.href = copy.toDataURL("image/png");
  link.click();
}

function wrapped(context: CanvasRenderingContext2D, text: string, width: number): string[] {
  const rows = [""];
  for (const word of text.split(" ")) {
    const last = rows[rows.length - 1] ?? "";
    if (last && context.measureText(`${last} ${word}`).width > width) rows.push(word);
    else rows[rows.length - 1] = last ? `${last} ${word}` : word;
  }
  return rows;
}
