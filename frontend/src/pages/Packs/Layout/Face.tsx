import { memo, type PointerEvent, useRef } from "react";
import styled from "styled-components";
import { type Body, type Box, keyOf, type LaidOut, type Layout, type Placed, sizeOf } from "./layout";

type Props = {
  face: "top" | "bottom";
  title: string;
  layout: Layout;
  body: Body;
  bounds: Box;
  /** Strips and taps of it; null: not worked out yet. */
  found: LaidOut | null;
  selected: string | null;
  onSelect: (key: string) => void;
  /** A cell was let go of, in mm. */
  onDrop: (key: string, x: number, y: number) => void;
  onKey: (key: string, pressed: string) => boolean;
  /** The taps lead to a board. */
  hasBoard: boolean;
};

const EDGE_MM = 9;
const LEAD_MM = 7;
const TAG_MM = 11;
const TAPS_MM = 15;
const BOARD_MM = 10;
/** A finger that moves less only taps, in mm on the drawing. */
const TAP_MM = 2;

/** One face of a pack to scale, strips over its cells; from below left and right change places. */
export function Face(props: Props) {
  const { face, layout, body, bounds, found, selected } = props;
  const isBelow = face === "bottom";
  const isFlat = body.thick_mm !== null;
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ key: string; node: SVGGElement; from: DOMPoint; at: Placed } | null>(null);
  const shownX = (x: number) => (isBelow ? 2 * bounds.x + bounds.width - x : x);
  const inMm = (event: PointerEvent) =>
    new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.current?.getScreenCTM()?.inverse());

  const take = (event: PointerEvent<SVGGElement>, place: Placed) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { key: keyOf(place), node: event.currentTarget, from: inMm(event), at: place };
    props.onSelect(keyOf(place));
  };
  // Only the held cell moves, by its own attribute: nothing is drawn anew until it is let go of.
  const drag = (event: PointerEvent) => {
    if (!held.current) return;
    const now = inMm(event);
    held.current.node.setAttribute(
      "transform",
      `translate(${shownX(held.current.at.x_mm) + now.x - held.current.from.x} ${held.current.at.y_mm + now.y - held.current.from.y})`,
    );
  };
  const letGo = (event: PointerEvent) => {
    const was = held.current;
    held.current = null;
    if (!was) return;
    const now = inMm(event);
    const dx = now.x - was.from.x;
    const dy = now.y - was.from.y;
    was.node.setAttribute("transform", `translate(${shownX(was.at.x_mm)} ${was.at.y_mm})`);
    if (Math.hypot(dx, dy) < TAP_MM) return;
    props.onDrop(was.key, was.at.x_mm + (isBelow ? -dx : dx), was.at.y_mm + dy);
  };
  const links = (found?.links ?? []).filter((link) => isFlat || link.face === face);
  const taps = (found?.taps ?? []).filter((tap) => isFlat || tap.face === face);
  const low = bounds.y + bounds.height;
  const [along, across] = sizeOf(body);
  const tagX = apart(
    taps.map((tap) => shownX(tap.x_mm)),
    bounds.x + bounds.width + EDGE_MM - TAG_MM / 2,
  );
  // Of a flat cell one tab lies at the front, the other at the back.
  const tabAside = (place: Placed, isPlus: boolean) =>
    isFlat ? (across / 4) * ((place.end === "up") === isPlus ? 1 : -1) : 0;
  const lastGroup = Math.max(...layout.places.map((each) => each.group));
  return (
    <Board>
      <figcaption>{props.title}</figcaption>
      <Drawing
        ref={svg}
        viewBox={`${bounds.x - EDGE_MM} ${bounds.y - EDGE_MM} ${bounds.width + 2 * EDGE_MM} ${bounds.height + EDGE_MM + TAPS_MM + (props.hasBoard ? BOARD_MM : 0)}`}
        role="group"
        aria-label={props.title}
      >
        {layout.case && (
          <g>
            <CaseLine
              x={shownX(0) - (isBelow ? layout.case.length_mm : 0)}
              y={0}
              width={layout.case.length_mm}
              height={layout.case.width_mm}
            />
            {layout.case.keep_outs.map((rect) => (
              <KeptOut
                key={`${rect.x_mm} ${rect.y_mm}`}
                x={isBelow ? shownX(rect.x_mm + rect.length_mm) : rect.x_mm}
                y={rect.y_mm}
                width={rect.length_mm}
                height={rect.width_mm}
              />
            ))}
          </g>
        )}
        {layout.places.map((place) => (
          <Ground
            key={keyOf(place)}
            x={shownX(place.x_mm) - along / 2}
            y={place.y_mm - across / 2}
            width={along}
            height={across}
            rx={isFlat ? 0.8 : across / 2}
            $even={place.group % 2 === 0}
          />
        ))}
        <g pointerEvents="none">
          {links.map((link) => (
            <Strip
              key={`${link.from_x_mm} ${link.from_y_mm} ${link.to_x_mm} ${link.to_y_mm} ${link.face}`}
              x1={shownX(link.from_x_mm)}
              y1={link.from_y_mm}
              x2={shownX(link.to_x_mm)}
              y2={link.to_y_mm}
              $hot={link.current_a !== null && found !== null && link.current_a > found.strip_stands_a}
            />
          ))}
        </g>
        {layout.places.map((place) => (
          <CellMark
            key={keyOf(place)}
            place={place}
            x={shownX(place.x_mm)}
            body={body}
            isPlus={isFlat || (place.end === "up") !== isBelow}
            isSelected={selected === keyOf(place)}
            onTake={take}
            onDrag={drag}
            onLetGo={letGo}
            onKey={props.onKey}
            onSelect={props.onSelect}
          />
        ))}
        <g pointerEvents="none">
          {taps.map((tap, index) => (
            <g key={tap.node}>
              <TapLine points={`${shownX(tap.x_mm)},${tap.y_mm} ${tagX[index]},${low + 1} ${tagX[index]},${low + 4}`} />
              <TapTag x={(tagX[index] ?? 0) - 5} y={low + 4} width={10} height={6.5} />
              <Label x={tagX[index]} y={low + 9} $mm={5}>
                T{tap.node}
              </Label>
            </g>
          ))}
          {props.hasBoard && taps.length > 0 && (
            <g>
              <BoardBox x={bounds.x} y={low + 12.5} width={bounds.width} height={8} />
              <Label x={bounds.x + bounds.width / 2} y={low + 18.3} $mm={5}>
                board
              </Label>
            </g>
          )}
          {!isBelow && <SeriesPath points={pathOf(layout)} />}
          {layout.places.map((place) => {
            const isMinus = place.group === 1 && place.position === layout.minus_at;
            const isPlus = place.group === lastGroup && place.position === layout.plus_at;
            // A lead is joined on the face where that pole lies.
            const isHere = (isUp: boolean) => isFlat || isUp !== isBelow;
            return (
              <g key={keyOf(place)}>
                {isMinus && isHere(place.end === "down") && (
                  <Lead x={shownX(place.x_mm)} y={place.y_mm + tabAside(place, false)} sign="−" bounds={bounds} />
                )}
                {isPlus && isHere(place.end === "up") && (
                  <Lead x={shownX(place.x_mm)} y={place.y_mm + tabAside(place, true)} sign="+" bounds={bounds} />
                )}
              </g>
            );
          })}
        </g>
      </Drawing>
    </Board>
  );
}

const CellMark = memo(function CellMark({
  place,
  x,
  body,
  isPlus,
  isSelected,
  onTake,
  onDrag,
  onLetGo,
  onKey,
  onSelect,
}: {
  place: Placed;
  x: number;
  body: Body;
  isPlus: boolean;
  isSelected: boolean;
  onTake: (event: PointerEvent<SVGGElement>, place: Placed) => void;
  onDrag: (event: PointerEvent) => void;
  onLetGo: (event: PointerEvent) => void;
  onKey: Props["onKey"];
  onSelect: Props["onSelect"];
}) {
  const [along, across] = sizeOf(body);
  const isFlat = body.thick_mm !== null;
  const words = `${place.number}, group ${place.group}, plus ${place.end === "up" ? "up" : "down"}`;
  return (
    <Can
      transform={`translate(${x} ${place.y_mm})`}
      role="button"
      tabIndex={0}
      aria-label={words}
      aria-pressed={isSelected}
      data-cell={place.number}
      $selected={isSelected}
      onPointerDown={(event) => onTake(event, place)}
      onPointerMove={onDrag}
      onPointerUp={onLetGo}
      onPointerCancel={onLetGo}
      onFocus={() => onSelect(keyOf(place))}
      onKeyDown={(event) => {
        if (onKey(keyOf(place), event.key)) event.preventDefault();
      }}
    >
      {isFlat ? (
        <rect x={-along / 2} y={-across / 2} width={along} height={across} rx={0.8} />
      ) : (
        <>
          <circle r={across / 2} />
          {isPlus && <circle r={across * 0.2} />}
        </>
      )}
      <Label y={isFlat ? across / 2 - 3 : across * 0.42} $mm={isFlat ? Math.min(4, along * 0.8) : across * 0.2}>
        {isFlat ? `G${place.group}` : place.number}
      </Label>
      {!isFlat && (
        <>
          <Label y={across * 0.11} $mm={across * 0.34}>
            {isPlus ? "+" : "−"}
          </Label>
          <Label y={-across * 0.27} $mm={across * 0.13}>
            group {place.group}
          </Label>
        </>
      )}
      {isFlat && (
        <>
          <Label transform="rotate(-90)" y={Math.min(1.6, along * 0.3)} $mm={Math.min(4.5, along * 0.8)}>
            {place.number}
          </Label>
          <Label y={-across / 4 + 1.4} $mm={4}>
            {place.end === "up" ? "−" : "+"}
          </Label>
          <Label y={across / 4 + 1.4} $mm={4}>
            {place.end === "up" ? "+" : "−"}
          </Label>
        </>
      )}
    </Can>
  );
});

/** A main lead, out over the nearest edge. */
function Lead({ x, y, sign, bounds }: { x: number; y: number; sign: string; bounds: Box }) {
  const ways = [
    { far: y - bounds.y, dx: 0, dy: -1 },
    { far: bounds.y + bounds.height - y, dx: 0, dy: 1 },
    { far: x - bounds.x, dx: -1, dy: 0 },
    { far: bounds.x + bounds.width - x, dx: 1, dy: 0 },
  ];
  const { far, dx, dy } = ways.reduce((best, way) => (way.far < best.far - 0.1 ? way : best));
  const out = far + LEAD_MM;
  return (
    <g>
      <LeadLine x1={x} y1={y} x2={x + dx * out} y2={y + dy * out} />
      <Label x={x + dx * (out - 2) + (dy ? 5 : 0)} y={y + dy * (out - 4) - (dx ? 2.5 : 0)} $mm={7}>
        {sign}
      </Label>
    </g>
  );
}

/** From the middle of the first group to that of the last: the way of the current. */
function pathOf(layout: Layout): string {
  const groups = new Map<number, Placed[]>();
  for (const place of layout.places) groups.set(place.group, [...(groups.get(place.group) ?? []), place]);
  const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  return [...groups.keys()]
    .sort((one, other) => one - other)
    .map((group) => groups.get(group) ?? [])
    .map((cells) => `${mean(cells.map((cell) => cell.x_mm))},${mean(cells.map((cell) => cell.y_mm))}`)
    .join(" ");
}

/** Tags side by side under their taps, none over another. */
function apart(wanted: number[], most: number): number[] {
  const order = wanted.map((_, index) => index).sort((one, other) => (wanted[one] ?? 0) - (wanted[other] ?? 0));
  const placed = [...wanted];
  for (let at = 1; at < order.length; at += 1) {
    const [before, here] = [order[at - 1] ?? 0, order[at] ?? 0];
    placed[here] = Math.max(placed[here] ?? 0, (placed[before] ?? 0) + TAG_MM);
  }
  let room = most;
  for (const here of order.toReversed()) {
    placed[here] = Math.min(placed[here] ?? 0, room);
    room = (placed[here] ?? 0) - TAG_MM;
  }
  return placed;
}

const Board = styled.figure`
  display: grid;
  gap: var(--hair);
  margin: 0;
  min-width: 0;
  figcaption { font-weight: 700; }
`;
const Drawing = styled.svg`
  width: 100%;
  max-height: 62vh;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  user-select: none;
`;
const CaseLine = styled.rect`fill: none; stroke: ${({ theme }) => theme.color.ink}; stroke-width: 1.2;`;
const KeptOut = styled.rect`fill: ${({ theme }) => theme.color.matLine}; stroke: ${({ theme }) => theme.color.ink}; stroke-width: 0.5; stroke-dasharray: 2 1.5;`;
const Label = styled.text<{ $mm: number }>`
  font-family: ${({ theme }) => theme.font.figure};
  font-size: ${({ $mm }) => $mm}px;
  font-weight: 700;
  text-anchor: middle;
  fill: ${({ theme }) => theme.color.ink};
  stroke: none;
`;
const Ground = styled.rect<{
  $even: boolean;
}>`fill: ${({ theme, $even }) => ($even ? theme.color.matLine : theme.color.paper)};`;
const Can = styled.g<{ $selected: boolean }>`
  cursor: grab;
  touch-action: none;
  outline: none;
  > circle, > rect {
    fill: transparent;
    stroke: ${({ theme, $selected }) => ($selected ? theme.color.pencil : theme.color.ink)};
    stroke-width: ${({ $selected }) => ($selected ? 1.4 : 0.6)};
  }
  &:focus-visible > :first-child { stroke: ${({ theme }) => theme.color.pencil}; stroke-width: 2; }
`;
const Strip = styled.line<{ $hot: boolean }>`
  stroke: ${({ theme, $hot }) => ($hot ? theme.color.danger : theme.color.tape)};
  stroke-width: ${({ $hot }) => ($hot ? 6 : 5)};
  stroke-linecap: round;
  stroke-opacity: 0.62;
`;
const TapLine = styled.polyline`fill: none; stroke: ${({ theme }) => theme.color.pencil}; stroke-width: 0.6; stroke-dasharray: 1.5 1;`;
const TapTag = styled.rect`fill: ${({ theme }) => theme.color.paper}; stroke: ${({ theme }) => theme.color.pencil}; stroke-width: 0.5;`;
const BoardBox = styled.rect`fill: none; stroke: ${({ theme }) => theme.color.ink}; stroke-width: 0.8; stroke-dasharray: 3 1.5;`;
const SeriesPath = styled.polyline`fill: none; stroke: ${({ theme }) => theme.color.pencil}; stroke-width: 0.7; stroke-dasharray: 0.1 2.2; stroke-linecap: round;`;
const LeadLine = styled.line`stroke: ${({ theme }) => theme.color.ink}; stroke-width: 2;`;
