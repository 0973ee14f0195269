import { type PointerEvent, useRef } from "react";
import { Button, Input, Label, NumberField } from "react-aria-components";
import styled from "styled-components";
import { figure } from "../../words";

const MOST = 40;
const PITCH = 44;
/** Width of a group on the screen, the height that the whole may have, and the least width, for the measures. */
const COLUMN_REM = 5;
const HIGHEST_REM = 17;
const LEAST_REM = 11;

interface EmptyPackProps {
  series: number;
  parallel: number;
  /** Full voltage of one cell [V]; null: not known. */
  cellFullV: number | null;
  onSeries: (series: number) => void;
  onParallel: (parallel: number) => void;
}

/** The pack as it will stand, still empty; it is grown by its edges, by the figures on its measures, or by dragging. */
export function EmptyPack({ series, parallel, cellFullV, onSeries, onParallel }: EmptyPackProps) {
  const picture = useRef<SVGSVGElement>(null);
  const pitchOnScreen = () => {
    const box = picture.current?.getBoundingClientRect();
    return box ? { x: box.width / (series + 1), y: box.height / parallel } : { x: PITCH, y: PITCH };
  };
  // As wide as its groups want, as long as its cells side by side do not make it too high.
  const wide = Math.max(LEAST_REM, (series + 1) * Math.min(COLUMN_REM, HIGHEST_REM / parallel));
  return (
    <Frame style={{ gridTemplateColumns: `5.5rem minmax(0, ${wide}rem) 3rem` }}>
      <Corner />
      <Side
        edge="right"
        label="Groups in series"
        words={`in series${cellFullV ? `, ${figure(series * cellFullV, 1)} V full` : ""}`}
        value={series}
        onChange={onSeries}
        pitch={() => pitchOnScreen().x}
      />
      <Side
        edge="bottom"
        label="Cells in parallel"
        words="side by side"
        value={parallel}
        onChange={onParallel}
        pitch={() => pitchOnScreen().y}
      />
      <Picture>
        <svg
          ref={picture}
          viewBox={`${-PITCH / 2} -2 ${(series + 1) * PITCH} ${parallel * PITCH + 4}`}
          role="img"
          aria-label={`An empty pack of ${series} in series and ${parallel} in parallel`}
        >
          {/* From minus to plus, and a strip from group to group. */}
          <path
            d={`M${-PITCH / 2 + 3} ${(parallel * PITCH) / 2}h${(series + 1) * PITCH - 6}`}
            stroke="currentColor"
            strokeWidth="3"
          />
          {Array.from({ length: series }, (_, group) => group).map((group) => (
            <g key={group}>
              <Outline x={group * PITCH + 2} y={0} width={PITCH - 4} height={parallel * PITCH} rx={8} />
              {Array.from({ length: parallel }, (_, row) => row).map((row) => (
                <Place key={row} cx={(group + 0.5) * PITCH} cy={(row + 0.5) * PITCH} r={15} />
              ))}
            </g>
          ))}
          <text x={-PITCH / 2 + 2} y={(parallel * PITCH) / 2 - 8}>
            −
          </text>
          <text x={(series + 0.5) * PITCH - 16} y={(parallel * PITCH) / 2 - 8}>
            +
          </text>
        </svg>
      </Picture>
    </Frame>
  );
}

interface SideProps {
  edge: "right" | "bottom";
  label: string;
  words: string;
  value: number;
  onChange: (value: number) => void;
  /** Pixels of one more. */
  pitch: () => number;
}

/** One measure of the pack with its figure, and the edge that is pulled or pressed to change it. */
function Side({ edge, label, words, value, onChange, pitch }: SideProps) {
  const pulled = useRef<{ at: number; from: number; pitch: number } | null>(null);
  const isRight = edge === "right";
  const at = (event: PointerEvent) => (isRight ? event.clientX : event.clientY);
  return (
    <Together value={value} minValue={1} maxValue={MOST} onChange={(next) => onChange(Number.isNaN(next) ? 1 : next)}>
      <Measure $edge={edge}>
        <Rule $edge={edge} />
        <Figure>
          <Label>{label}</Label>
          <Input />
          <span aria-hidden="true">{words}</span>
        </Figure>
        <Rule $edge={edge} $end />
      </Measure>
      <Edge
        $edge={edge}
        onPointerDown={(event) => {
          if ((event.target as Element).closest("button")) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          pulled.current = { at: at(event), from: value, pitch: pitch() };
        }}
        onPointerMove={(event) => {
          if (!pulled.current) return;
          const more = Math.round((at(event) - pulled.current.at) / pulled.current.pitch);
          onChange(Math.min(MOST, Math.max(1, pulled.current.from + more)));
        }}
        onPointerUp={() => {
          pulled.current = null;
        }}
      >
        <Step slot="increment">+</Step>
        <Step slot="decrement">−</Step>
      </Edge>
    </Together>
  );
}

const Frame = styled.div`
  display: grid;
  grid-template: "corner across ." auto "down picture right" minmax(0, auto) ". bottom ." auto;
  justify-content: center;
  gap: var(--slit);
`;
const Corner = styled.span`grid-area: corner;`;
const Together = styled(NumberField)`display: contents;`;
const Measure = styled.div<{ $edge: "right" | "bottom" }>`
  grid-area: ${({ $edge }) => ($edge === "right" ? "across" : "down")};
  display: flex;
  flex-direction: ${({ $edge }) => ($edge === "right" ? "row" : "column")};
  align-items: center;
  gap: var(--slit);
  min-width: 0;
`;
/** Half of a measure's line, with the tick at its outer end. */
const Rule = styled.span<{ $edge: "right" | "bottom"; $end?: boolean }>`
  flex: 1;
  min-width: 10px;
  min-height: 10px;
  ${({ $edge, $end, theme }) => {
    const line = `2px solid ${theme.color.pencil}`;
    return $edge === "right"
      ? `height: 16px; background: linear-gradient(${theme.color.pencil}, ${theme.color.pencil}) center / 100% 2px no-repeat; border-${$end ? "right" : "left"}: ${line};`
      : `width: 16px; background: linear-gradient(${theme.color.pencil}, ${theme.color.pencil}) center / 2px 100% no-repeat; border-${$end ? "bottom" : "top"}: ${line};`;
  }}
`;
const Figure = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: center;
  gap: 0 var(--near);
  text-align: center;
  line-height: 1.2;
  label { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap; }
  input {
    width: 2.4ch;
    min-height: ${({ theme }) => theme.target};
    padding: 0;
    border: 0;
    border-bottom: 2px dashed ${({ theme }) => theme.color.pencil};
    background: transparent;
    text-align: center;
    font: 700 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};
  }
`;
const Edge = styled.div<{ $edge: "right" | "bottom" }>`
  grid-area: ${({ $edge }) => $edge};
  display: flex;
  flex-direction: ${({ $edge }) => ($edge === "right" ? "column" : "row")};
  justify-content: center;
  gap: var(--hair);
  border: 2px dashed ${({ theme }) => theme.color.pencil};
  ${({ $edge }) => ($edge === "right" ? "border-left: 0; cursor: ew-resize;" : "border-top: 0; cursor: ns-resize;")}
  touch-action: none;
`;
const Step = styled(Button)`
  flex: 0 0 44px;
  min-height: 44px;
  border: 0;
  background: transparent;
  color: ${({ theme }) => theme.color.pencil};
  font: 800 1.75rem/1 ${({ theme }) => theme.font.figure};
  cursor: pointer;
  &[data-hovered] { background: ${({ theme }) => theme.color.askPaper}; }
  &[data-focus-visible] { outline: 3px solid ${({ theme }) => theme.color.pencil}; }
`;
const Picture = styled.div`
  grid-area: picture;
  display: grid;
  place-items: center;
  min-width: 9rem;
  min-height: 6.5rem;
  padding: var(--near);
  background-color: ${({ theme }) => theme.color.paper};
  background-image:
    linear-gradient(${({ theme }) => theme.color.paperLine} 1px, transparent 1px),
    linear-gradient(90deg, ${({ theme }) => theme.color.paperLine} 1px, transparent 1px);
  background-size: 22px 22px;
  svg { width: 100%; height: auto; max-height: 17rem; }
  text { font: 800 22px ${({ theme }) => theme.font.figure}; fill: currentColor; }
`;
const Outline = styled.rect`fill: ${({ theme }) => theme.color.mat}; stroke: ${({ theme }) => theme.color.inkSoft}; stroke-width: 2;`;
const Place = styled.circle`fill: ${({ theme }) => theme.color.paper}; stroke: ${({ theme }) => theme.color.pencil}; stroke-width: 2; stroke-dasharray: 5 4;`;
