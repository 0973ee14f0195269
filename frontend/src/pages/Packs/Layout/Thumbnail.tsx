import styled from "styled-components";
import { type Body, boundsOf, keyOf, type Layout } from "./layout";

/** A proposal in the size of a thumb. */
export function Thumbnail({ layout, body }: { layout: Layout; body: Body }) {
  const bounds = boundsOf(layout, body);
  return (
    <Thumb viewBox={`${bounds.x - 2} ${bounds.y - 2} ${bounds.width + 4} ${bounds.height + 4}`} aria-hidden="true">
      {layout.places.map((place) =>
        body.thick_mm === null ? (
          <circle
            key={keyOf(place)}
            cx={place.x_mm}
            cy={place.y_mm}
            r={body.across_mm / 2}
            data-even={place.group % 2 === 0}
          />
        ) : (
          <rect
            key={keyOf(place)}
            x={place.x_mm - body.thick_mm / 2}
            y={place.y_mm - body.across_mm / 2}
            width={body.thick_mm}
            height={body.across_mm}
            data-even={place.group % 2 === 0}
          />
        ),
      )}
    </Thumb>
  );
}

const Thumb = styled.svg`
  width: 100%;
  height: 74px;
  circle, rect { fill: ${({ theme }) => theme.color.paper}; stroke: ${({ theme }) => theme.color.ink}; stroke-width: 1; }
  [data-even="true"] { fill: ${({ theme }) => theme.color.matLine}; }
`;
