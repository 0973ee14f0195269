"""The card that goes with a pack: one side of A6 in plain words with drawn marks, or of A5 in large print."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.said import Amount, said
from zembric.prints.marks import draw_mark
from zembric.prints.paper import bytes_of, draw_address, draw_code, new_paper, write, write_lines

if TYPE_CHECKING:
    from collections.abc import Sequence

    from fpdf import FPDF

    from zembric.core.pack.cards import VisitorCard
    from zembric.core.said import Said
    from zembric.prints.marks import Mark

_A6_MM, _A5_MM = (105.0, 148.0), (148.0, 210.0)
_MARGIN_MM = 6.0
#: The code of an address has more modules, and a phone wants them about half a millimetre wide.
_ADDRESS_SHARE = 0.19
#: Type that is tried until all fits on its side [mm].
_SIZES_MM = (3.2, 3.0, 2.8, 2.6, 2.4, 2.2)


def visitor_card_pdf(card: VisitorCard, *, is_large: bool = False, address: str | None = None) -> bytes:
    """One page; its type is as large as lets everything stand on it. `address`: where its page is read, as a code."""
    width_mm, height_mm = _A5_MM if is_large else _A6_MM
    scale = width_mm / _A6_MM[0]
    content = b""
    for size_mm in _SIZES_MM:
        paper = new_paper(width_mm, height_mm)
        end_mm = _draw(paper, card, width_mm, size_mm * scale, address)
        # Finished even if it is not taken: that is what lets go of its fonts.
        content = bytes_of(paper)
        if end_mm <= height_mm - _MARGIN_MM / 2:
            break
    return content


def _draw(paper: FPDF, card: VisitorCard, width_mm: float, size_mm: float, address: str | None) -> float:
    """Gives where it ends [mm]."""
    paper.add_page()
    scale, inner_mm = size_mm / _SIZES_MM[0], width_mm - 2 * _MARGIN_MM
    module_mm = 0.55 * width_mm / _A6_MM[0]
    if address is None:
        side = draw_code(paper, code_text(card.number), width_mm - _MARGIN_MM - 21 * module_mm, _MARGIN_MM, module_mm)
    else:
        side = _ADDRESS_SHARE * width_mm
        draw_address(paper, address, width_mm - _MARGIN_MM - side, _MARGIN_MM, side)
    text_mm = inner_mm - side - 3
    write(paper, card.purpose, _MARGIN_MM, _MARGIN_MM, text_mm, size_mm * 1.6, bold=True)
    write(paper, card.number, _MARGIN_MM, _MARGIN_MM + size_mm * 2.1, text_mm, size_mm * 1.4, font="figure")
    y = _MARGIN_MM + max(side, size_mm * 3.7) + 1.5 * scale
    for line in card.what:
        y = write_lines(paper, line, _MARGIN_MM, y, inner_mm, size_mm)
    sections: tuple[tuple[Mark, Said, Sequence[Said]], ...] = (
        ("plug", said("card-head-charging"), card.charging), ("barred", said("card-head-never"), card.never),
        ("back", said("card-head-back"), card.bring_back), ("flame", said("card-head-hot"), card.when_hot),
    )  # fmt: skip
    for mark, head, lines in sections:
        y += 1.6 * scale
        draw_mark(paper, mark, _MARGIN_MM, y, size_mm * 1.5)
        left = _MARGIN_MM + size_mm * 2.2
        write(paper, head, left, y, inner_mm - size_mm * 2.2, size_mm * 1.2, bold=True)
        y += size_mm * 1.6
        for line in lines:
            y = write_lines(paper, line, left, y, inner_mm - size_mm * 2.2, size_mm)
    return _draw_left(paper, card, y + 1.6 * scale, inner_mm, size_mm) if card.left else y


def _draw_left(paper: FPDF, card: VisitorCard, y: float, inner_mm: float, size_mm: float) -> float:
    """The pack's own table of voltages: a column for each share."""
    write(paper, said("card-head-left"), _MARGIN_MM, y, inner_mm, size_mm * 1.2, bold=True)
    y += size_mm * 1.7
    head_mm = inner_mm * 0.3
    step_mm = (inner_mm - head_mm) / len(card.left)
    for line, row in enumerate((said("card-left"), said("card-left-in-use"), said("card-left-at-rest"))):
        top = y + line * size_mm * 1.35
        write(paper, row, _MARGIN_MM, top, head_mm - 1, size_mm)
        for at, each in enumerate(card.left):
            volts = (Amount(each.left_pct, "%"), Amount(each.loaded_v, "V", 1), Amount(each.resting_v, "V", 1))[line]
            place = _MARGIN_MM + head_mm + at * step_mm
            write(paper, said("print-amount", amount=volts), place, top, step_mm - 1, size_mm, bold=line == 0)
    return y + 3 * size_mm * 1.35
