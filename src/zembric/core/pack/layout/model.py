"""Cells in their room: what they are, where they stand, which end is up. All in millimetres.

x runs along the room's length from the left, y along its width from the back, seen from above; a cell's place is its middle.
Cylinders stand; flat cells stand in a stack with their tabs up, thickness along x.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Shape

Arrangement = Literal["rows", "honeycomb", "holder", "stack"]
ARRANGEMENTS: tuple[Arrangement, ...] = get_args(Arrangement)
#: Plus up or plus down; of a flat cell: plus tab towards the front or towards the back.
End = Literal["up", "down"]
#: Where strips lie: above and below cylinders, at the front and at the back tabs of flat cells.
Face = Literal["top", "bottom"]


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle seen from above; as something kept out it goes from floor to lid."""

    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float


@dataclass(frozen=True, slots=True)
class Case:
    """The inside of a case, and what of it is taken by other things."""

    length_mm: float
    width_mm: float
    height_mm: float
    keep_outs: tuple[Rect, ...] = ()


@dataclass(frozen=True, slots=True)
class Body:
    """The largest of the cells: `across_mm` is the diameter of a cylinder or the width of a flat cell."""

    shape: Shape
    across_mm: float
    height_mm: float
    thick_mm: float | None = None

    @property
    def length_mm(self) -> float:
        """Along x."""
        return self.across_mm if self.thick_mm is None else self.thick_mm

    @property
    def arrangements(self) -> tuple[Arrangement, ...]:
        return ("stack",) if self.shape == "flat" else ("rows", "honeycomb", "holder")


@dataclass(frozen=True, slots=True)
class Placed:
    """The cell at a position of a group (both from 1; group 1 stands at the pack's minus)."""

    group: int
    position: int
    x_mm: float
    y_mm: float
    end: End

    @property
    def key(self) -> tuple[int, int]:
        return self.group, self.position


@dataclass(frozen=True, slots=True)
class PackLayout:
    """`minus_at` and `plus_at`: the positions in the first and last group where the main leads are joined."""

    arrangement: Arrangement
    places: tuple[Placed, ...]
    minus_at: int = 1
    plus_at: int = 1
    case: Case | None = None
    has_spacers: bool = False

    @property
    def series(self) -> int:
        return max(place.group for place in self.places)

    def lead(self, is_plus: bool) -> tuple[int, int]:
        """The cell at which a main lead is joined."""
        return (self.series, self.plus_at) if is_plus else (1, self.minus_at)


def pitch_mm(body: Body, arrangement: Arrangement, rules: HouseRules) -> tuple[float, float]:
    """From middle to middle along x and along y [mm]; of a honeycomb its rows lie closer by `row_share`.

    Source: domain practice: cylinders 0.5 mm apart, in holders 2.2 mm; flat cells with a tenth of their thickness free.
    """
    if arrangement == "stack":
        thick = body.thick_mm or body.across_mm
        return thick * (1 + rules.value(limits.SWELLING_SHARE)), body.across_mm + rules.value(limits.CELL_GAP_MM)
    gap = rules.value(limits.HOLDER_GAP_MM if arrangement == "holder" else limits.CELL_GAP_MM)
    return body.across_mm + gap, body.across_mm + gap


#: Rows of a honeycomb lie so much closer than cells in a row.
ROW_SHARE = math.sqrt(3) / 2


def end_of(group: int) -> End:
    """Groups stand in turn plus up and plus down, so that each strip joins one with the next."""
    return "up" if group % 2 else "down"


def read_case(case: Case, rules: HouseRules) -> Case:
    """Raises:
    BadInputError: a measure of the room cannot be.
    """
    most = rules.value(limits.CASE_MOST_MM)
    for key in ("length_mm", "width_mm", "height_mm"):
        if not 1 <= getattr(case, key) <= most:
            raise BadInputError(said("case-cannot-be", most=plain(most)), field=key)
    for rect in case.keep_outs:
        measures = (rect.x_mm, rect.y_mm, rect.length_mm, rect.width_mm)
        if not all(0 <= each <= most for each in measures) or not rect.length_mm or not rect.width_mm:
            raise BadInputError(said("keep-out-cannot-be", most=plain(most)), field="keep_outs")
    return case
