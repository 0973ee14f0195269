"""The build sheet: each step with what to do, which cell which way up, what the meter should say, and a line to write on."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.said import Amount, named, said
from zembric.prints.paper import bytes_of, draw_code, new_paper, write, write_lines

if TYPE_CHECKING:
    from collections.abc import Sequence

    from fpdf import FPDF

    from zembric.core.pack.steps import Asked, HandStep
    from zembric.core.said import Said

_WIDTH_MM, _HEIGHT_MM = 210.0, 297.0
_LEFT_MM, _TOP_MM, _BOTTOM_MM = 14.0, 36.0, 284.0
_TEXT_MM = 3.7


def build_sheet_pdf(number: str, purpose: str, steps: Sequence[HandStep], in_the_way: Sequence[Said] = ()) -> bytes:
    """A4 pages; a box to tick at each step, a second one where two people look. First what stands in the way of building it."""
    paper = new_paper(_WIDTH_MM, _HEIGHT_MM)
    y = _new_page(paper, number, purpose)
    for line in in_the_way:
        y = write_lines(paper, said("print-not-yet", why=line), _LEFT_MM, y, _WIDTH_MM - 2 * _LEFT_MM, 4.6) + 2
    for step in steps:
        if y + _height_of(step) > _BOTTOM_MM:
            y = _new_page(paper, number, purpose)
        y = _draw(paper, step, y)
    return bytes_of(paper)


def _height_of(step: HandStep) -> float:
    rows = 1.6 + len(step.todo) + len(step.cautions) + len(step.asked) * 1.6 + (len(step.cells) + 3) // 4 * 1.4
    return rows * _TEXT_MM * 1.35 + 4


def _new_page(paper: FPDF, number: str, purpose: str) -> float:
    paper.add_page()
    draw_code(paper, code_text(number), _LEFT_MM, 10, 0.8)
    write(paper, said("print-build-sheet", pack=number), 36, 10, 150, 7, bold=True)
    write(paper, purpose, 36, 19, 150, 4.6)
    return _TOP_MM


def _draw(paper: FPDF, step: HandStep, y: float) -> float:
    left, room = _LEFT_MM + 12, _WIDTH_MM - 2 * _LEFT_MM - 12
    paper.set_line_width(0.1)
    paper.line(_LEFT_MM, y, _WIDTH_MM - _LEFT_MM, y)
    paper.set_line_width(0.4)
    paper.rect(_LEFT_MM, y + 2, 6, 6)
    if step.needs_second:
        paper.rect(_LEFT_MM, y + 10, 6, 6)
        write(paper, "2", _LEFT_MM + 2, y + 11, 4, 4, font="figure")
    y += 2
    write(paper, step.title, left, y, room, 4.8, bold=True)
    y += 6.4
    for line in step.todo:
        y = write_lines(paper, line, left, y, room, _TEXT_MM)
    for column, cell in enumerate(step.cells):
        if column % 4 == 0 and column:
            y += 6.4
        told = said(
            "print-cell-end", cell=cell.number, end=named("cell-end", cell.end), joint=named("cell-joint", cell.joint)
        )
        write(paper, told, left + column % 4 * room / 4, y + 0.8, room / 4 - 2, 4.2, bold=True)
    y += 7 if step.cells else 0
    for line in step.cautions:
        y = write_lines(paper, said("print-caution", text=line), left, y, room, _TEXT_MM)
    for asked in step.asked:
        y = _draw_asked(paper, asked, left, y + 1.4, room)
    return y + 2.5


def _draw_asked(paper: FPDF, asked: Asked, left: float, y: float, room: float) -> float:
    write(paper, asked.name, left, y, room * 0.4, 4.2)
    if asked.least is not None and asked.most is not None:
        band = said("print-band", least=Amount(asked.least, asked.unit, 2), most=Amount(asked.most, asked.unit, 2))
        write(paper, band, left + room * 0.4, y, room * 0.34, 4.2)
    paper.line(left + room * 0.76, y + 4.4, left + room * 0.95, y + 4.4)
    write(paper, asked.unit, left + room * 0.96, y, 8, 4.2)
    return y + 5.6
