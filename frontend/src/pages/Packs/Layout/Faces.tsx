import { useState } from "react";
import styled from "styled-components";
import { Button } from "../../../components/Button";
import { Face } from "./Face";
import { type Body, boundsOf, dropped, exchanged, keyOf, type LaidOut, type Layout, neighbour, turned } from "./layout";

/** A pack from above and from below; its cells change places by dragging, by the keys, or by the buttons under it. */
export function Faces({
  body,
  layout,
  found,
  hasBoard,
  onChange,
}: {
  body: Body;
  layout: Layout;
  found: LaidOut | null;
  hasBoard: boolean;
  onChange: (layout: Layout) => void;
}) {
  const [selected, setSelected] = useState<string | null>(null);
  const [isExchanging, setExchanging] = useState<string | null>(null);
  const bounds = boundsOf(layout, body);
  const place = layout.places.find((each) => keyOf(each) === selected) ?? null;
  const last = Math.max(...layout.places.map((each) => each.group));
  const select = (key: string) => {
    if (isExchanging && isExchanging !== key) {
      onChange(exchanged(layout, isExchanging, key));
      setExchanging(null);
    }
    setSelected(key);
  };
  const onKey = (key: string, pressed: string) => {
    const way = ARROWS[pressed];
    if (way) {
      const next = neighbour(layout, key, ...way);
      if (!next) return true;
      if (isExchanging === key) {
        onChange(exchanged(layout, key, keyOf(next)));
        return true;
      }
      const node = document.querySelector<SVGGElement>(`[data-cell="${next.number}"]`);
      node?.focus();
      return true;
    }
    if (pressed === "Enter" || pressed === " ") setExchanging(isExchanging === key ? null : key);
    else if (pressed === "Escape") setExchanging(null);
    else if (pressed === "t" || pressed === "T") onChange(turned(layout, key));
    else return false;
    return true;
  };
  const shared = { layout, body, bounds, found, selected, onSelect: select, onKey, hasBoard };
  const onDrop = (key: string, x: number, y: number) => onChange(dropped(layout, body, key, x, y));
  return (
    <Stack>
      <Two $long={bounds.width > 1.6 * bounds.height || body.thick_mm !== null}>
        <Face
          {...shared}
          face="top"
          title={body.thick_mm === null ? "From above" : "From above, at the tabs"}
          onDrop={onDrop}
        />
        {body.thick_mm === null && <Face {...shared} face="bottom" title="From below, turned over" onDrop={onDrop} />}
      </Two>
      <Hand aria-label="The chosen cell">
        {place ? (
          <>
            <strong>
              {place.number}, group {place.group}
            </strong>
            <Button
              onPress={() => setExchanging(isExchanging ? null : keyOf(place))}
              kind={isExchanging ? "main" : "plain"}
            >
              {isExchanging ? "Now the other cell …" : "Change places"}
            </Button>
            <Button onPress={() => onChange(turned(layout, keyOf(place)))}>Turn it over</Button>
            {place.group === 1 && (
              <Button onPress={() => onChange({ ...layout, minus_at: place.position })}>Minus lead here</Button>
            )}
            {place.group === last && (
              <Button onPress={() => onChange({ ...layout, plus_at: place.position })}>Plus lead here</Button>
            )}
          </>
        ) : (
          <span>Drag a cell onto another to change their places, or choose one and use the arrows, Enter and T.</span>
        )}
      </Hand>
    </Stack>
  );
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const Stack = styled.div`display: grid; gap: var(--apart); min-width: 0;`;
const Two = styled.div<{ $long: boolean }>`
  display: grid;
  grid-template-columns: ${({ $long }) => ($long ? "minmax(0, 1fr)" : "repeat(2, minmax(0, 1fr))")};
  gap: var(--apart);
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Hand = styled.section`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near) var(--apart); min-height: 48px;`;
