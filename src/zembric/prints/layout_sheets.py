"""A pack at its true size, from above and from below: cells with their numbers, strips, taps and leads, and a ruler."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.pack.layout import links_of, poles_of
from zembric.core.pack.layout.outlines import bounds_mm
from zembric.core.said import Amount, named, said
from zembric.prints.paper import bytes_of, draw_code, new_paper, write

if TYPE_CHECKING:
    from collections.abc import Mapping

    from fpdf import FPDF

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout import Body, Face, Link, PackLayout, Pole

_SHEETS_MM = ((210.0, 297.0), (297.0, 420.0), (420.0, 594.0), (594.0, 841.0))
_MARGIN_MM, _HEAD_MM, _FOOT_MM = 12.0, 30.0, 22.0
_RULER_MM = 100


@dataclass(frozen=True, slots=True)
class LayoutSheet:
    """What goes onto the paper; cells by group and position."""

    number: str
    purpose: str
    layout: PackLayout
    body: Body
    cells: Mapping[tuple[int, int], str]
    poles: tuple[Pole, ...]
    links: tuple[Link, ...]

    @classmethod
    def of(
        cls,
        number: str,
        purpose: str,
        layout: PackLayout,
        body: Body,
        cells: Mapping[tuple[int, int], str],
        rules: HouseRules,
    ) -> LayoutSheet:
        return cls(number, purpose, layout, body, cells, poles_of(layout, body), links_of(layout, body, rules))


def layout_pdf(sheet: LayoutSheet) -> bytes:
    """A page for each face, as large as it has to be: A4, A3, A2, A1, or the pack's own size."""
    left, back, right, front = bounds_mm(sheet.layout, sheet.body)
    length, width = right - left, front - back
    size = _page_for(max(length, _RULER_MM) + 2 * _MARGIN_MM, width + _HEAD_MM + _FOOT_MM + _MARGIN_MM)
    paper = new_paper(*size)
    faces: tuple[Face, ...] = ("top", "bottom")
    for face in faces if sheet.body.thick_mm is None else ("top",):
        paper.add_page()
        _draw_head(paper, sheet, face, size[0])
        _draw_face(paper, sheet, face, (left, back, right))
        _draw_ruler(paper, _MARGIN_MM, size[1] - _FOOT_MM + 4)
    return bytes_of(paper)


def _page_for(wide_mm: float, high_mm: float) -> tuple[float, float]:
    for short, long in _SHEETS_MM:
        for page in ((short, long), (long, short)):
            if wide_mm <= page[0] and high_mm <= page[1]:
                return page
    return wide_mm, high_mm


def _draw_head(paper: FPDF, sheet: LayoutSheet, face: Face, width_mm: float) -> None:
    draw_code(paper, code_text(sheet.number), _MARGIN_MM, 8, 0.75)
    head = said("print-layout-face", pack=sheet.number, face=named("layout-face", _face_name(sheet, face)))
    write(paper, head, 32, 8, width_mm - 32 - _MARGIN_MM, 6, bold=True)
    write(paper, sheet.purpose, 32, 15.5, width_mm - 32 - _MARGIN_MM, 4.2)
    left, back, right, front = bounds_mm(sheet.layout, sheet.body)
    size = said("print-layout-size", length=Amount(right - left, "mm", 1), width=Amount(front - back, "mm", 1))
    write(paper, size, 32, 21, width_mm - 32 - _MARGIN_MM, 3.6)


def _face_name(sheet: LayoutSheet, face: Face) -> str:
    return "tabs" if sheet.body.thick_mm is not None else face


def _draw_face(paper: FPDF, sheet: LayoutSheet, face: Face, bounds: tuple[float, float, float]) -> None:
    left, back, right = bounds
    is_flat, is_below = sheet.body.thick_mm is not None, face == "bottom"

    def at(x_mm: float, y_mm: float) -> tuple[float, float]:
        # Seen from below left and right change places.
        return _MARGIN_MM + (right - x_mm if is_below else x_mm - left), _HEAD_MM + y_mm - back

    paper.set_line_width(0.3)
    for place in sheet.layout.places:
        x, y = at(place.x_mm, place.y_mm)
        across, along = sheet.body.across_mm, sheet.body.length_mm
        if is_flat:
            paper.rect(x - along / 2, y - across / 2, along, across)
        else:
            paper.circle(x, y, across / 2)
    shown = [link for link in sheet.links if is_flat or sheet.poles[link.first].face == face]
    paper.set_draw_color(120)
    paper.set_line_width(1.2)
    for link in shown:
        paper.line(*at(*_xy(sheet.poles[link.first])), *at(*_xy(sheet.poles[link.second])))
    paper.set_draw_color(0)
    for pole in sheet.poles:
        if not is_flat and pole.face != face:
            continue
        x, y = at(pole.x_mm, pole.y_mm)
        paper.set_fill_color(255)
        paper.set_line_width(0.3)
        paper.circle(x, y, 2.2, style="DF")
        paper.set_fill_color(0)
        write(paper, "+" if pole.is_plus else "−", x - 1.1, y - 1.7, 4, 3.6, bold=True)
        if pole.is_plus or not is_flat:
            room = sheet.body.across_mm - 2
            write(
                paper,
                sheet.cells[pole.cell],
                x - room / 2 + 0.6,
                y + 2.6,
                room,
                min(3.2, sheet.body.across_mm / 5),
                font="figure",
            )
        for is_plus, mark in ((True, "+ +"), (False, "− −")):
            if pole.is_plus == is_plus and pole.cell == sheet.layout.lead(is_plus):
                write(paper, mark, x - 3, y - 6.4, 8, 4, bold=True)


def _xy(pole: Pole) -> tuple[float, float]:
    return pole.x_mm, pole.y_mm


def _draw_ruler(paper: FPDF, x: float, y: float) -> None:
    for millimetre in range(_RULER_MM + 1):
        length = 6.0 if millimetre % 10 == 0 else 4.0 if millimetre % 5 == 0 else 2.5
        paper.set_line_width(0.25 if millimetre % 10 == 0 else 0.1)
        paper.line(x + millimetre, y, x + millimetre, y + length)
    write(paper, said("print-layout-ruler"), x, y + 7, _RULER_MM + 60, 3.6)
