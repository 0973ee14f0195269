"""Labels and lists."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import FamilyCode, Id, In, ListColumn, Number, Out, SaidText, Told, Why


class LabelLayoutOut(Out):
    key: str
    name: Told
    paper: Literal["sheet", "roll"]
    labels_per_page: int
    columns: int
    rows: int
    label_width_mm: float
    label_height_mm: float


class PrintOut(Out):
    id: int
    at: datetime
    by: str
    layout: str
    first: int
    numbers: list[str]
    again: list[str]
    why: str | None


class PrintsOut(Out):
    layouts: list[LabelLayoutOut]
    prints: list[PrintOut]
    unlabelled: list[str]


class PrintIn(In):
    layout: Annotated[str, StringConstraints(max_length=40)]
    numbers: list[Number] = Field(min_length=1, max_length=400)
    first: int = Field(1, ge=1, le=400)
    why: Why | None = None


class PrintPath(In):
    print_id: Id


class LayoutPath(In):
    layout: Annotated[str, StringConstraints(max_length=40)]


class ShiftQuery(In):
    """How far a printer is off [mm]."""

    shift_x_mm: float = Field(0, ge=-20, le=20)
    shift_y_mm: float = Field(0, ge=-20, le=20)


class ListIn(In):
    """A list as a file, base64; `columns`: what each column is (null: left out), null: as its header says."""

    file_name: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    content: Annotated[str, Field(max_length=7_500_000)]
    columns: list[ListColumn | None] | None = Field(None, max_length=200)


class ExportPath(In):
    name: Literal["donors", "cells"]


class ListColumnOut(Out):
    header: str
    column: ListColumn | None
    unit: str | None


class ListProblemOut(Out):
    line: int
    header: str
    text: SaidText


class ListedCellOut(Out):
    line: int
    label: str | None
    donor: str
    size_code: str | None
    family: FamilyCode | None
    rated_mah: float | None
    voltage_v: float | None
    capacity_mah: float | None
    resistance_mohm: float | None
    is_here: bool


class ListPreviewOut(Out):
    columns: list[ListColumnOut]
    cells: list[ListedCellOut]
    problems: list[ListProblemOut]
    new: int
    donors: int


class ListTakenOut(Out):
    cells: int
