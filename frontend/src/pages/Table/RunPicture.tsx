import styled, { useTheme } from "styled-components";
import type { Curve, Run } from "../../api/testers";
import { figure, seconds } from "../../words";

const WIDTH = 300;

/** The curve of a run as it grows: volts in pencil, current as a thin line below; limits as heavy ticks at the edge. */
export function RunPicture({ curve, run, height = 90 }: { curve: Curve | undefined; run: Run; height?: number }) {
  const theme = useTheme();
  if (!curve || curve.time_s.length < 2) return <Nothing style={{ height }}>The curve begins in a moment.</Nothing>;
  const end = Math.max(curve.time_s.at(-1) ?? 1, 60);
  const volts = curve.voltage_v;
  const limits = run.stages.filter((stage) => stage.kind !== "rest").map((stage) => stage.limit_v);
  const top = Math.max(...volts, ...limits) + 0.05;
  const bottom = Math.min(...volts, ...limits) - 0.05;
  const most = Math.max(...run.stages.map((stage) => stage.current_a), 0.05) * 1.1;
  const x = (time: number) => (WIDTH * time) / end;
  const y = (value: number) => 3 + (height - 6) * (1 - (value - bottom) / (top - bottom));
  const yCurrent = (value: number) => height - 3 - (Math.abs(value) / most) * (height / 3);
  const line = (values: number[], at: (value: number) => number) =>
    values.map((value, n) => `${n ? "L" : "M"}${x(curve.time_s[n] ?? 0).toFixed(1)} ${at(value).toFixed(1)}`).join("");
  return (
    <Picture
      viewBox={`0 0 ${WIDTH} ${height}`}
      preserveAspectRatio="none"
      style={{ height }}
      role="img"
      aria-label={`Over ${seconds(end)} from ${figure(volts[0] ?? 0, 2)} V to ${figure(volts.at(-1) ?? 0, 2)} V.`}
    >
      {[...new Set(limits)].map((limit) => (
        <path
          key={limit}
          d={`M0 ${y(limit)}H${WIDTH}`}
          stroke={theme.color.matLine}
          strokeDasharray="2 4"
          fill="none"
        />
      ))}
      <path d={line(curve.current_a, yCurrent)} stroke={theme.color.inkSoft} strokeWidth="1" fill="none" />
      <path d={line(volts, y)} stroke={theme.color.pencil} strokeWidth="2.5" strokeLinejoin="round" fill="none" />
    </Picture>
  );
}

const Picture = styled.svg`
  display: block;
  width: 100%;
  border-bottom: 1px solid ${({ theme }) => theme.color.ink};
  path { vector-effect: non-scaling-stroke; }
`;
const Nothing = styled.p`
  display: grid;
  place-items: center;
  border-bottom: 1px dashed ${({ theme }) => theme.color.inkSoft};
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
`;
