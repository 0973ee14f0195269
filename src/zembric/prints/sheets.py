"""The tray sheet that lies under a tray, and the test print that shows whether a printer keeps its millimetres."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.labels import LabelLayout, label_places
from zembric.core.said import said
from zembric.prints.paper import bytes_of, draw_code, new_paper, write

if TYPE_CHECKING:
    from collections.abc import Mapping

_A4_MM = (210.0, 297.0)
_RULER_MM = 100


@dataclass(frozen=True, slots=True)
class TraySheet:
    """A tray as it goes onto paper: its numbered places from the upper left, and the cell in each that is taken."""

    number: str
    name: str
    rows: int
    columns: int
    cells: Mapping[int, str]


def tray_sheet_pdf(tray: TraySheet) -> bytes:
    """One A4 page, upright or lying, with a field for each place: cell number, code, lines to write on."""
    lying = tray.columns > tray.rows
    width, height = (_A4_MM[1], _A4_MM[0]) if lying else _A4_MM
    paper = new_paper(width, height)
    paper.add_page()
    draw_code(paper, code_text(tray.number), 12, 10, 0.75)
    write(paper, tray.name, 32, 10, width - 90, 7, bold=True)
    write(paper, tray.number, 32, 18, 60, 6, font="figure")
    write(paper, said("print-look-first"), width - 92, 12, 80, 3.6)
    write(paper, said("print-dangers"), width - 92, 17, 80, 3.6, bold=True)
    top, left = 32.0, 10.0
    field_w, field_h = (width - 2 * left) / tray.columns, (height - top - 10) / tray.rows
    paper.set_line_width(0.35)
    for slot in range(1, tray.rows * tray.columns + 1):
        row, column = divmod(slot - 1, tray.columns)
        x, y = left + column * field_w, top + row * field_h
        paper.rect(x, y, field_w, field_h)
        write(paper, str(slot), x + 1, y + 0.8, 8, min(3.4, field_h / 4), font="figure")
        number = tray.cells.get(slot)
        size = min(field_h * 0.3, field_w * 0.2, 7.0)
        if number:
            module = max(min(field_h * 0.42, field_w * 0.3) / 25, 0.25)
            draw_code(paper, code_text(number), x + field_w - 21 * module - 1.5, y + 1.5, module)
            write(paper, number, x + 1.5, y + field_h * 0.28, field_w * 0.62, size, font="figure")
        for line, unit in ((0.68, "V"), (0.92, "mAh")):
            paper.set_line_width(0.12)
            paper.line(x + 1.5, y + field_h * line, x + field_w * 0.6, y + field_h * line)
            write(paper, unit, x + field_w * 0.6 + 1, y + field_h * line - 2.6, field_w * 0.35, 2.8)
            paper.set_line_width(0.35)
    return bytes_of(paper)


def ruler_page_pdf(layout: LabelLayout) -> bytes:
    """The outlines of all labels of a paper, and on sheets two rulers of 100 mm to hold a real one against."""
    paper = new_paper(layout.page_width_mm, layout.page_height_mm)
    paper.add_page()
    paper.set_line_width(0.1)
    for place in label_places(layout, layout.labels_per_page):
        paper.rect(place.left_mm, place.top_mm, layout.label_width_mm, layout.label_height_mm)
    if layout.paper == "roll":
        draw_code(paper, "C1042", 1.5, 1.5, layout.module_mm)
        return bytes_of(paper)
    x, y = 40.0, 60.0
    paper.set_fill_color(255)
    paper.rect(x - 8, y - 22, 138, 132, style="F")
    paper.set_fill_color(0)
    write(paper, said("print-hold-ruler"), x, y - 20, 120, 5, bold=True)
    write(paper, said("print-both-100"), x, y - 13, 122, 3.6)
    for millimetre in range(_RULER_MM + 1):
        length = 6.0 if millimetre % 10 == 0 else 4.0 if millimetre % 5 == 0 else 2.5
        paper.set_line_width(0.25 if millimetre % 10 == 0 else 0.1)
        paper.line(x + millimetre, y, x + millimetre, y + length)
        paper.line(x, y + millimetre, x + length, y + millimetre)
        if millimetre % 10 == 0 and millimetre:
            write(paper, str(millimetre), x + millimetre - 2, y + 6.5, 8, 3.2, font="figure")
            if millimetre > 10:
                write(paper, str(millimetre), x + 7, y + millimetre - 1.6, 8, 3.2, font="figure")
    write(paper, layout.name, x + 20, y + 30, 90, 4, bold=True)
    write(paper, said("print-frames"), x + 20, y + 36, 95, 3.6)
    write(paper, said("print-shift"), x + 20, y + 41, 98, 3.6)
    draw_code(paper, "C1042", x + 20, y + 50, 0.5)
    write(paper, said("print-code-reads"), x + 34, y + 54, 70, 3.6)
    return bytes_of(paper)
