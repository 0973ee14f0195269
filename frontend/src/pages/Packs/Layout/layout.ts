import type { Schemas } from "../../../api/client";

export type Layout = Schemas["LayoutOut"];
export type Placed = Layout["places"][number];
export type LaidOut = Schemas["LaidOutOut"];
export type Body = Schemas["BodyOut"];
export type Box = { x: number; y: number; width: number; height: number };

export const keyOf = (place: { group: number; position: number }) => `${place.group}.${place.position}`;

/** Along x and along y, in mm. */
export const sizeOf = (body: Body) => [body.thick_mm ?? body.across_mm, body.across_mm] as const;

/** What the drawing shows: the case if there is one, else the cells. */
export function boundsOf(layout: Layout, body: Body): Box {
  const [along, across] = sizeOf(body);
  const xs = layout.places.map((place) => place.x_mm);
  const ys = layout.places.map((place) => place.y_mm);
  const left = Math.min(...xs, ...(layout.case ? [along / 2] : [])) - along / 2;
  const back = Math.min(...ys, ...(layout.case ? [across / 2] : [])) - across / 2;
  const right = Math.max(Math.max(...xs) + along / 2, layout.case?.length_mm ?? 0);
  const front = Math.max(Math.max(...ys) + across / 2, layout.case?.width_mm ?? 0);
  return { x: left, y: back, width: right - left, height: front - back };
}

/** Two cells change places; each keeps its own way up, which belongs to its group. */
export function exchanged(layout: Layout, one: string, other: string): Layout {
  const first = layout.places.find((place) => keyOf(place) === one);
  const second = layout.places.find((place) => keyOf(place) === other);
  if (!first || !second) return layout;
  const at = (place: Placed, where: Placed) => ({ ...place, x_mm: where.x_mm, y_mm: where.y_mm });
  return withPlaces(layout, (place) =>
    place === first ? at(place, second) : place === second ? at(place, first) : place,
  );
}

/** A cell let go of at a place: it changes with whoever stands there, else it stands there, on half millimetres. */
export function dropped(layout: Layout, body: Body, key: string, x: number, y: number): Layout {
  const [along, across] = sizeOf(body);
  const there = layout.places.find(
    (place) => keyOf(place) !== key && Math.abs(place.x_mm - x) < along / 2 && Math.abs(place.y_mm - y) < across / 2,
  );
  if (there) return exchanged(layout, key, keyOf(there));
  return withPlaces(layout, (place) => (keyOf(place) === key ? { ...place, x_mm: halves(x), y_mm: halves(y) } : place));
}

export const turned = (layout: Layout, key: string): Layout =>
  withPlaces(layout, (place) => (keyOf(place) === key ? { ...place, end: place.end === "up" ? "down" : "up" } : place));

/** The nearest cell in a direction, as an arrow key goes; null: there is none. */
export function neighbour(layout: Layout, key: string, dx: number, dy: number): Placed | null {
  const here = layout.places.find((place) => keyOf(place) === key);
  if (!here) return null;
  let best: Placed | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const place of layout.places) {
    const ahead = (place.x_mm - here.x_mm) * dx + (place.y_mm - here.y_mm) * dy;
    const aside = Math.abs((place.x_mm - here.x_mm) * dy) + Math.abs((place.y_mm - here.y_mm) * dx);
    if (ahead > 0.5 && ahead + 2 * aside < least && aside <= ahead * 1.8) {
      best = place;
      least = ahead + 2 * aside;
    }
  }
  return best;
}

const halves = (mm: number) => Math.round(mm * 2) / 2;
const withPlaces = (layout: Layout, change: (place: Placed) => Placed): Layout => ({
  ...layout,
  places: layout.places.map(change),
});

/** What is sent: without the numbers, which the server knows. */
export const sentOf = (layout: Layout): Schemas["LayoutIn"] => ({
  ...layout,
  places: layout.places.map(({ number, ...place }) => place),
});
