"""The label for a pack: its code and number large, what is in it, how it is charged, and three drawn warnings."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.labels import QR_MODULES
from zembric.prints.marks import draw_mark
from zembric.prints.paper import bytes_of, draw_code, new_paper, write, write_lines

if TYPE_CHECKING:
    from fpdf import FPDF

    from zembric.core.pack.cards import PackLabel, PackLabelSize
    from zembric.prints.marks import Mark

_SIZES_MM: dict[PackLabelSize, tuple[float, float]] = {"100x60": (100.0, 60.0), "70x45": (70.0, 45.0)}
#: Type that is tried until all fits [mm], for the larger of both.
_TYPE_MM = (3.6, 3.3, 3.0, 2.7, 2.4, 2.1)
_MARGIN_MM = 3.0


def pack_label_pdf(label: PackLabel, size: PackLabelSize) -> bytes:
    """One page as large as the label."""
    width_mm, height_mm = _SIZES_MM[size]
    scale = width_mm / _SIZES_MM["100x60"][0]
    content = b""
    for type_mm in _TYPE_MM:
        paper = new_paper(width_mm, height_mm)
        end_mm = _draw(paper, label, width_mm, type_mm * scale, scale)
        # Finished even if it is not taken: that is what lets go of its fonts.
        content = bytes_of(paper)
        if end_mm <= height_mm - _MARGIN_MM / 2:
            break
    return content


def _draw(paper: FPDF, label: PackLabel, width_mm: float, type_mm: float, scale: float) -> float:
    """Gives where it ends [mm]."""
    paper.add_page()
    module_mm = 0.9 * scale
    side_mm = QR_MODULES * module_mm
    draw_code(paper, code_text(label.number), _MARGIN_MM, _MARGIN_MM, module_mm)
    left, room = _MARGIN_MM + side_mm + 5 * module_mm, width_mm - 2 * _MARGIN_MM - side_mm - 5 * module_mm
    mark_mm = 7 * scale
    write(paper, label.number, left, _MARGIN_MM, room - 3.6 * mark_mm, 9 * scale, font="figure")
    marks: tuple[Mark, ...] = ("flame", "barred", "plug")
    for at, mark in enumerate(marks):
        draw_mark(paper, mark, width_mm - _MARGIN_MM - (3 - at) * 1.2 * mark_mm, _MARGIN_MM + scale, mark_mm)
    y = write_lines(paper, label.purpose, left, _MARGIN_MM + 11 * scale, room, type_mm * 1.1)
    y = max(y, _MARGIN_MM + side_mm) + 1.5 * scale
    for line in label.lines:
        y = write_lines(paper, line, _MARGIN_MM, y, width_mm - 2 * _MARGIN_MM, type_mm)
    return y
