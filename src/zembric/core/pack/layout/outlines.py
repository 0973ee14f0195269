"""What is cut for a pack: the plate that holds its cells, as outlines in millimetres."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.layout.model import Rect

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.model import Body, PackLayout


@dataclass(frozen=True, slots=True)
class Circle:
    x_mm: float
    y_mm: float
    diameter_mm: float


@dataclass(frozen=True, slots=True)
class Outline:
    """A plate from its corner on: its outer size, and the holes in it."""

    length_mm: float
    width_mm: float
    circles: tuple[Circle, ...]
    rects: tuple[Rect, ...]


def bounds_mm(layout: PackLayout, body: Body) -> tuple[float, float, float, float]:
    """From where to where the cells reach: left, back, right, front."""
    half_x, half_y = body.length_mm / 2, body.across_mm / 2
    xs, ys = [place.x_mm for place in layout.places], [place.y_mm for place in layout.places]
    return min(xs) - half_x, min(ys) - half_y, max(xs) + half_x, max(ys) + half_y


def plate_of(layout: PackLayout, body: Body, rules: HouseRules) -> Outline:
    """The plate around all cells, with an edge, and a hole a little larger than each cell."""
    edge, play = rules.value(limits.PLATE_EDGE_MM), rules.value(limits.HOLE_PLAY_MM)
    left, back, right, front = bounds_mm(layout, body)
    holes = [(place.x_mm - left + edge, place.y_mm - back + edge) for place in layout.places]
    length, width = right - left + 2 * edge, front - back + 2 * edge
    if body.thick_mm is None:
        return Outline(length, width, tuple(Circle(x, y, body.across_mm + play) for x, y in holes), ())
    # A flat cell keeps its room for swelling in the hole.
    long = body.thick_mm * (1 + rules.value(limits.SWELLING_SHARE))
    wide = body.across_mm + play
    return Outline(length, width, (), tuple(Rect(x - long / 2, y - wide / 2, long, wide) for x, y in holes))
