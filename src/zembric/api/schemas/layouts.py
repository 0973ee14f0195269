"""Where the cells of a pack stand."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import In, Out, ToldOrNone
from zembric.api.schemas.packs import CheckOut
from zembric.core.identify.sizes import Shape
from zembric.core.pack.layout import Arrangement, End, Face


class RectIn(In):
    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float


class CaseIn(In):
    """The inside of a case, and what is kept out of it."""

    length_mm: float
    width_mm: float
    height_mm: float
    keep_outs: list[RectIn] = Field(default_factory=list, max_length=20)


class PlacedIn(In):
    group: int
    position: int
    x_mm: float
    y_mm: float
    end: End


class LayoutIn(In):
    arrangement: Arrangement
    places: list[PlacedIn] = Field(min_length=1, max_length=400)
    minus_at: int
    plus_at: int
    case: CaseIn | None
    has_spacers: bool


class LayoutProposalsIn(In):
    case: CaseIn | None


class KeepLayoutIn(In):
    """`layout` null: none is kept any more."""

    layout: LayoutIn | None
    seen_version: int


class LayoutFileIn(In):
    """What stands in a layout's file."""

    content: Annotated[str, StringConstraints(max_length=200_000)]


class RectOut(Out):
    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float


class CaseOut(Out):
    length_mm: float
    width_mm: float
    height_mm: float
    keep_outs: list[RectOut]


class PlacedOut(Out):
    group: int
    position: int
    number: str
    x_mm: float
    y_mm: float
    end: End


class LayoutOut(Out):
    arrangement: Arrangement
    places: list[PlacedOut]
    minus_at: int
    plus_at: int
    case: CaseOut | None
    has_spacers: bool


class BodyOut(Out):
    shape: Shape
    across_mm: float
    height_mm: float
    thick_mm: float | None


class LayoutProposalOut(Out):
    layout: LayoutOut
    strip_mm: float
    length_mm: float
    width_mm: float


class LayoutProposalsOut(Out):
    proposals: list[LayoutProposalOut]


class LinkOut(Out):
    """A piece of strip from pole to pole; `current_a` null: nobody said what the pack feeds."""

    face: Face
    node: int
    from_x_mm: float
    from_y_mm: float
    to_x_mm: float
    to_y_mm: float
    length_mm: float
    current_a: float | None


class TapOut(Out):
    """Where a balance lead is joined; 0 is the pack's minus."""

    node: int
    number: str
    face: Face
    x_mm: float
    y_mm: float


class LaidOutOut(Out):
    """A layout with its strips, taps and lines; pitch and outline in mm. `strip_stands_a`: what a piece stands."""

    taps: list[TapOut]
    strip_stands_a: float
    layout: LayoutOut
    lines: list[CheckOut]
    links: list[LinkOut]
    pitch_x_mm: float
    pitch_y_mm: float
    length_mm: float
    width_mm: float


class PackLayoutOut(Out):
    """`laid_out` null: none is kept; `body` null: it cannot be drawn, and why; `version`: the pack's, which whoever keeps one has seen."""

    version: int
    body: BodyOut | None
    laid_out: LaidOutOut | None
    why_not: ToldOrNone
