"""Places where cells can stand: rows, honeycombs, holders and stacks, in a room or without one."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import product
from typing import TYPE_CHECKING

from zembric.core.pack.layout.model import ROW_SHARE, pitch_mm

if TYPE_CHECKING:
    from collections.abc import Iterator

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.model import Arrangement, Body, Case, Rect


#: So many times as long as broad a pack is at most where nobody says how large its room is, from nine in a row on.
_LONGEST = 8


@dataclass(frozen=True, slots=True)
class Spot:
    """A place in a lattice, by its column and row, with its middle."""

    column: int
    row: int
    x_mm: float
    y_mm: float


def lattices(
    cells: int, body: Body, arrangement: Arrangement, case: Case | None, rules: HouseRules
) -> Iterator[tuple[Spot, ...]]:
    """Sets of at least as many spots as there are cells, each as wide as it is and as deep as it has to be.

    A lattice lies in a corner of the room, in each where something is kept out of it; without a room there is one for each
    number of columns that is not absurd.
    """
    pitch_x, pitch_y = pitch_mm(body, arrangement, rules)
    row_mm = pitch_y * ROW_SHARE if arrangement == "honeycomb" else pitch_y
    columns, rows = cells, cells
    if case is not None:
        shift = pitch_x / 2 if arrangement == "honeycomb" else 0.0
        columns = _fit(case.length_mm - shift, body.length_mm, pitch_x)
        rows = _fit(case.width_mm, body.across_mm, row_mm)
        if columns == 0:  # a honeycomb of one row needs no room for its shift
            columns = _fit(case.length_mm, body.length_mm, pitch_x)
            rows = min(rows, 1)
    corners = [(0.0, 0.0)]
    if case is not None and case.keep_outs:
        reaches_x = body.length_mm + (columns - 1) * pitch_x + (pitch_x / 2 if arrangement == "honeycomb" else 0.0)
        reaches_y = body.across_mm + (rows - 1) * row_mm
        corners = [(x, y) for x in (0.0, case.length_mm - reaches_x) for y in (0.0, case.width_mm - reaches_y)]
    for wide, (from_x, from_y) in product(range(1, columns + 1), corners):
        spots: list[Spot] = []
        for row in range(rows):
            if len(spots) >= cells:
                break
            shift = pitch_x / 2 if arrangement == "honeycomb" and row % 2 else 0.0
            line = [
                Spot(
                    column,
                    row,
                    from_x + body.length_mm / 2 + column * pitch_x + shift,
                    from_y + body.across_mm / 2 + row * row_mm,
                )
                for column in range(wide)
            ]
            spots += [spot for spot in line if case is None or is_free(spot.x_mm, spot.y_mm, body, case)]
        if len(spots) >= cells and (case is not None or _is_sensible(wide, len(spots) // wide, cells)):
            yield tuple(spots)


def _fit(room_mm: float, one_mm: float, pitch: float) -> int:
    return max(0, math.floor((room_mm - one_mm) / pitch + 1e-9) + 1)


def _is_sensible(wide: int, deep: int, cells: int) -> bool:
    """Rows that come out even, or nearly, and no long snake where there is another way."""
    return wide * deep - cells <= 1 and max(wide, deep) <= max(_LONGEST, _LONGEST * min(wide, deep))


def is_free(x_mm: float, y_mm: float, body: Body, case: Case) -> bool:
    """Whether a cell there touches nothing that is kept out."""
    return all(distance_mm(x_mm, y_mm, body, rect) >= -1e-9 for rect in case.keep_outs)


def distance_mm(x_mm: float, y_mm: float, body: Body, rect: Rect) -> float:
    """How far a cell stands from a rectangle [mm]; below 0: it stands in it."""
    away_x = max(rect.x_mm - x_mm, x_mm - rect.x_mm - rect.length_mm)
    away_y = max(rect.y_mm - y_mm, y_mm - rect.y_mm - rect.width_mm)
    if body.thick_mm is not None:
        return max(away_x - body.length_mm / 2, away_y - body.across_mm / 2)
    if away_x <= 0 or away_y <= 0:
        return max(away_x, away_y) - body.across_mm / 2
    return math.hypot(away_x, away_y) - body.across_mm / 2
