import { useEffect, useId, useState } from "react";
import styled, { useTheme } from "styled-components";
import { figure } from "../words";
import { Button } from "./Button";
import { takePicture } from "./plotPicture";
import { Table } from "./Table";
import { useChart } from "./useChart";

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
  /** Told which of the x is read; null: none. */
  onRead?: (index: number | null) => void;
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
  onRead,
  fileName = "zembric",
  title,
}: Props) {
  const theme = useTheme();
  const [isTable, setTable] = useState(false);
  const hint = useId();
  const { box, chart, shown, whole, moveTo, scale, zoomTo } = useChart({ x, lines, height, xLabel, onZoom });
  useEffect(() => onRead?.(shown), [onRead, shown]);
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

/** Rows evenly chosen over what is shown. */
function PlotTable({ xLabel, xDigits, x, lines }: { xLabel: string; xDigits: number; x: number[]; lines: PlotLine[] }) {
  const step = Math.max(1, Math.ceil(x.length / TABLE_ROWS));
  const rows = x.map((_, index) => index).filter((index) => index % step === 0 || index === x.length - 1);
  return (
    <Scroll tabIndex={0}>
      <Table
        columns={[
          { head: xLabel, cell: (row) => figure(x[row] ?? 0, xDigits) },
          ...lines.map((line) => ({
            head: `${line.name} (${line.unit})`,
            cell: (row: number) => (line.y[row] === null ? "" : figure(line.y[row] ?? 0, line.digits)),
          })),
        ]}
        rows={rows}
        keyOf={(row) => row}
      />
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
