"""Places, stock-takes and the pass through a tray."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import In, Number, Out, PlaceKind
from zembric.api.schemas.bench import LookPromptOut
from zembric.api.schemas.cells import CellOut, PlaceOut


class PlacePath(In):
    number: Number


class PlaceLineOut(Out):
    place: PlaceOut
    cells: int


class PlacesOut(Out):
    places: list[PlaceLineOut]


class PlaceIn(In):
    name: Annotated[str, StringConstraints(max_length=60)]
    kind: PlaceKind
    rows: int | None = Field(None, ge=1, le=20)
    columns: int | None = Field(None, ge=1, le=20)
    capacity: int | None = None


class PlaceChangeIn(In):
    seen_version: int
    name: Annotated[str, StringConstraints(max_length=60)]
    capacity: int | None = None


class StockTakeIn(In):
    seen: list[Number] = Field(max_length=2000)


class UnknownOut(Out):
    """What was typed or scanned and is no number of a cell, and why not."""

    typed: str
    text: str


class StockTakeOut(Out):
    """What a count found; `missing` should be here, `misplaced` is here and belongs elsewhere."""

    here: list[CellOut]
    missing: list[CellOut]
    misplaced: list[CellOut]
    unknown: list[UnknownOut]


class PlaceOpenOut(Out):
    place: PlaceOut
    #: How many cells lie in it; of a full box `cells` are the first of them.
    total: int
    cells: list[CellOut]
    last_counted_at: datetime | None
    last_counted_by: str | None
    last_missing: list[str]


class TrayCellOut(Out):
    cell: CellOut
    prompts: list[LookPromptOut]
    must_look: bool
    needs_voltage: bool
    #: Whether the other cells of its donor stood beside it in one device.
    is_one_pack: bool


class UntapedOut(Out):
    number: str
    description: str


class TrayOut(Out):
    tray: PlaceOut
    cells: list[TrayCellOut]
    untaped: list[UntapedOut]
