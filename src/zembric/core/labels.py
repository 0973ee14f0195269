"""Where labels lie on paper, in millimetres: common sheets, rolls, and the flag that folds over a wire or tab."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError
from zembric.core.said import Said, plain, said

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping

#: Printers for label rolls mostly have 203 dots to the inch; a module of a code is a whole number of these dots.
DOT_MM = 25.4 / 203
#: Modules on a side of the smallest QR code, which holds every number of Zembric's.
QR_MODULES = 21
_QUIET_MODULES = 2
_A4_MM = (210.0, 297.0)
_MOST_PLACES = 400


@dataclass(frozen=True, slots=True)
class LabelLayout:
    """One kind of paper. On a roll each label is a page of its own: one row, one column."""

    key: str
    name: Said
    paper: Literal["sheet", "roll"]
    page_width_mm: float
    page_height_mm: float
    columns: int
    rows: int
    left_mm: float
    top_mm: float
    pitch_x_mm: float
    pitch_y_mm: float
    label_width_mm: float
    label_height_mm: float
    is_flag: bool = False

    @property
    def labels_per_page(self) -> int:
        return self.columns * self.rows

    @property
    def module_mm(self) -> float:
        """Side of one module of the code: whole printer dots, as many as fit the label's height with a quiet margin."""
        dots = math.floor(self.label_height_mm / (QR_MODULES + 2 * _QUIET_MODULES) / DOT_MM + 1e-9)
        return min(max(dots, 1), 5) * DOT_MM


def _sheet(
    key: str, columns: int, rows: int, width: float, height: float, gap_x: float = 0.0, gap_y: float = 0.0
) -> LabelLayout:
    """A grid in the middle of an A4 sheet."""
    page_width, page_height = _A4_MM
    left = (page_width - columns * width - (columns - 1) * gap_x) / 2
    top = (page_height - rows * height - (rows - 1) * gap_y) / 2
    name = said("paper-sheet", count=columns * rows, width=plain(width), height=plain(height, "mm"))
    return LabelLayout(
        key,
        name,
        "sheet",
        page_width,
        page_height,
        columns,
        rows,
        left,
        top,
        width + gap_x,
        height + gap_y,
        width,
        height,
    )


def _roll(key: str, width: float, height: float, *, is_flag: bool = False) -> LabelLayout:
    across, along = plain(width), plain(height, "mm")
    name = said("paper-roll-flag" if is_flag else "paper-roll", width=across, height=along)
    return LabelLayout(key, name, "roll", width, height, 1, 1, 0, 0, width, height, width, height, is_flag)


LAYOUTS: Mapping[str, LabelLayout] = MappingProxyType(
    {
        layout.key: layout
        for layout in (
            _sheet("a4-65", 5, 13, 38.1, 21.2, gap_x=2.5),
            _sheet("a4-40", 4, 10, 48.5, 25.4),
            _sheet("a4-24", 3, 8, 70, 36),
            _sheet("a4-21", 3, 7, 63.5, 38.1, gap_x=2.5),
            _sheet("a4-189", 7, 27, 25.4, 10, gap_x=2.5),
            _roll("roll-25x25", 25, 25),
            _roll("roll-40x30", 40, 30),
            _roll("roll-50x25", 50, 25),
            _roll("roll-62x29", 62, 29),
            _roll("roll-flag", 45, 12, is_flag=True),
        )
    }
)


@dataclass(frozen=True, slots=True)
class LabelPlace:
    """Where one label lies: its page from 0, and its upper left corner [mm]."""

    page: int
    left_mm: float
    top_mm: float


def get_layout(key: str) -> LabelLayout:
    layout = LAYOUTS.get(key)
    if layout is None:
        raise BadInputError(said("there-is-no-label-paper", key=key, layouts=tuple(LAYOUTS)), field="layout")
    return layout


def label_places(layout: LabelLayout, labels: int, first: int = 1) -> Iterator[LabelPlace]:
    """Where so many labels go, row by row, from the first free place of a sheet that was begun (1: a fresh one).

    Raises:
        BadInputError: the sheet has no such place, or too many labels are asked for at once.
    """
    if not 1 <= first <= layout.labels_per_page:
        raise BadInputError(said("this-paper-has-places-1-to", labels_per_page=layout.labels_per_page), field="first")
    if not 1 <= labels <= _MOST_PLACES:
        raise BadInputError(said("about-1-to-labels-can-be-printed", most_places=_MOST_PLACES), field="numbers")
    for index in range(first - 1, first - 1 + labels):
        page, on_page = divmod(index, layout.labels_per_page)
        row, column = divmod(on_page, layout.columns)
        yield LabelPlace(page, layout.left_mm + column * layout.pitch_x_mm, layout.top_mm + row * layout.pitch_y_mm)
