"""Labels on sheets and rolls, and the flag that folds over a wire, a tab or a thin cell."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.labels import QR_MODULES, LabelLayout, label_places
from zembric.prints.paper import bytes_of, draw_code, new_paper, write

if TYPE_CHECKING:
    from collections.abc import Sequence

    from fpdf import FPDF

    from zembric.operations.papers.labels import LabelText

_MARGIN_MM = 1.2
# A reader needs so much white around a code (ISO/IEC 18004).
_QUIET_MODULES = 4


def label_pdf(
    layout: LabelLayout, labels: Sequence[LabelText], first: int = 1, shift_x_mm: float = 0.0, shift_y_mm: float = 0.0
) -> bytes:
    """A PDF of labels; the shift [mm] makes up for a printer that pulls its paper in askew."""
    paper = new_paper(layout.page_width_mm, layout.page_height_mm)
    pages = 0
    for place, label in zip(label_places(layout, len(labels), first), labels, strict=True):
        while pages <= place.page:
            paper.add_page()
            pages += 1
        left, top = place.left_mm + shift_x_mm, place.top_mm + shift_y_mm
        if layout.is_flag:
            _flag(paper, layout, label, left, top)
        else:
            _plain(paper, layout, label, left, top)
    return bytes_of(paper)


def _plain(paper: FPDF, layout: LabelLayout, label: LabelText, left: float, top: float) -> None:
    """The code on the left, the number large on the right, what it is below; on a square label the code on top."""
    side = QR_MODULES * layout.module_mm
    if layout.label_width_mm < 1.4 * layout.label_height_mm:
        draw_code(
            paper, code_text(label.number), left + (layout.label_width_mm - side) / 2, top + 1.5, layout.module_mm
        )
        number_mm = layout.label_height_mm - side - 4
        write(
            paper,
            label.number,
            left + 2.5,
            top + side + 3,
            layout.label_width_mm - 5,
            min(number_mm, 7.5),
            font="figure",
        )
        return
    inset = max((layout.label_height_mm - side) / 2, _MARGIN_MM)
    inset_x = min(inset, 3.0)
    draw_code(paper, code_text(label.number), left + inset_x, top + inset, layout.module_mm)
    text_left = left + inset_x + side + max(1.5, _QUIET_MODULES * layout.module_mm)
    width = left + layout.label_width_mm - _MARGIN_MM - text_left
    height = layout.label_height_mm
    number_mm = min(height * 0.36, 11.0)
    rest = 0.0 if height < 12 else min(height * 0.16, 3.6)
    block = number_mm + 2 * rest * 1.25
    y = top + (height - block) / 2
    # Where there is room for one line only, the mark for life stands behind the number.
    number = f"{label.number} M" if label.is_marked and not rest else label.number
    write(paper, number, text_left, y, width, number_mm, font="figure")
    if rest:
        write(paper, label.title, text_left, y + number_mm + rest * 0.15, width, rest, bold=True)
        write(paper, label.detail, text_left, y + number_mm + rest * 1.4, width, rest)


def _flag(paper: FPDF, layout: LabelLayout, label: LabelText, left: float, top: float) -> None:
    """Code and number on one half, the number again on the other; between them the fold."""
    middle = left + layout.label_width_mm / 2
    side = QR_MODULES * layout.module_mm
    inset = (layout.label_height_mm - side) / 2
    draw_code(paper, code_text(label.number), left + inset, top + inset, layout.module_mm)
    text_left = left + inset + side + max(1.0, _QUIET_MODULES * layout.module_mm)
    write(paper, label.number, text_left, top + 2.6, middle - 0.8 - text_left, 4.2, font="figure")
    write(paper, label.title, text_left, top + 7.2, middle - 0.8 - text_left, 2.2)
    paper.set_line_width(0.1)
    paper.set_dash_pattern(dash=0.8, gap=0.8)
    paper.line(middle, top + 0.8, middle, top + layout.label_height_mm - 0.8)
    paper.set_dash_pattern()
    write(paper, label.number, middle + 2, top + 2.6, layout.label_width_mm / 2 - 3, 6.0, font="figure")
