"""The list that goes to the shelf: the cells of a plan in walking order, with a box to tick each.

Cells have no codes on it: what is scanned to confirm a pick is the label on the cell itself.
"""

from __future__ import annotations

from itertools import groupby
from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.pack.checks.model import key_of
from zembric.core.said import Amount, named, said
from zembric.prints.paper import bytes_of, draw_code, new_paper, write, write_lines

if TYPE_CHECKING:
    from fpdf import FPDF

    from zembric.files.plans import PlanFile

_WIDTH_MM, _HEIGHT_MM = 210.0, 297.0
_LEFT_MM, _TOP_MM, _BOTTOM_MM = 14.0, 44.0, 280.0
_LINE_MM, _PLACE_MM = 13.0, 12.0


def pick_list_pdf(plan: PlanFile) -> bytes:
    """A4 pages; each place has its heading, each cell its number, slot, capacity and group."""
    paper = new_paper(_WIDTH_MM, _HEIGHT_MM)
    y = _new_page(paper, plan)
    for place, members in groupby(plan.in_walking_order(), key=lambda each: each[1].place or ""):
        if y + _PLACE_MM + _LINE_MM > _BOTTOM_MM:
            y = _new_page(paper, plan)
        write(paper, place or said("print-no-place"), _LEFT_MM, y + 3, 150, 6, bold=True)
        y += _PLACE_MM
        for group, cell in members:
            if y + _LINE_MM > _BOTTOM_MM:
                y = _new_page(paper, plan)
            paper.set_line_width(0.4)
            paper.rect(_LEFT_MM, y + 2, 8, 8)
            write(paper, cell.cell_id, _LEFT_MM + 13, y + 2.4, 42, 7, font="figure")
            write(paper, said("print-slot", slot=cell.slot) if cell.slot else "", _LEFT_MM + 56, y + 3.6, 28, 4.6)
            write(paper, said("print-amount", amount=Amount(cell.capacity_mah, "mAh")), _LEFT_MM + 86, y + 3.6, 34, 4.6)
            write(paper, said("print-to-group", group=group), _LEFT_MM + 124, y + 3.2, 34, 5.4, bold=True)
            paper.set_line_width(0.1)
            paper.line(_LEFT_MM, y + _LINE_MM, _WIDTH_MM - _LEFT_MM, y + _LINE_MM)
            y += _LINE_MM
    for waived in (each for each in plan.waivers if each.holds):
        if y + 2 * _LINE_MM > _BOTTOM_MM:
            y = _new_page(paper, plan)
        told = said(
            "print-waived",
            check=named("check", key_of(waived.check)),
            finding=waived.finding,
            why=waived.why,
            by=waived.by,
        )
        y = write_lines(paper, told, _LEFT_MM, y + 4, _WIDTH_MM - 2 * _LEFT_MM, 4.6)
    return bytes_of(paper)


def _new_page(paper: FPDF, plan: PlanFile) -> float:
    paper.add_page()
    draw_code(paper, code_text(plan.number), _LEFT_MM, 12, 0.9)
    write(paper, plan.purpose, _LEFT_MM + 24, 11, 150, 8, bold=True)
    write(
        paper,
        said(
            "print-plan", pack=plan.number, shape=f"{plan.series}S{plan.parallel}P", count=plan.series * plan.parallel
        ),
        _LEFT_MM + 24,
        21,
        120,
        5.5,
    )
    write(
        paper,
        said("print-look-before-taking"),
        _LEFT_MM + 24,
        28.5,
        150,
        4.4,
    )
    return _TOP_MM
