"""A PDF page in millimetres with Zembric's own type and codes."""

from __future__ import annotations

from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

import segno

from zembric.core.labels import QR_MODULES
from zembric.core.said import Said
from zembric.wording import say

if TYPE_CHECKING:
    from fpdf import FPDF

_FONTS = Path(__file__).with_name("fonts")
_POINT_MM = 25.4 / 72
# The same things give the same file, whenever it is made.
_MADE_AT = datetime(2026, 1, 1, tzinfo=UTC)


def new_paper(width_mm: float, height_mm: float) -> FPDF:
    """An empty document whose pages have this size, without margins or automatic breaks."""
    from fpdf import FPDF  # noqa: PLC0415  # a server that prints nothing does without its fonts' machinery

    paper = FPDF(
        orientation="P" if height_mm >= width_mm else "L",
        unit="mm",
        format=(min(width_mm, height_mm), max(width_mm, height_mm)),
    )
    paper.set_margin(0)
    paper.set_auto_page_break(False)
    paper.add_font("text", "", _FONTS / "next-regular.ttf")
    paper.add_font("text", "B", _FONTS / "next-bold.ttf")
    paper.add_font("figure", "B", _FONTS / "mono-bold.ttf")
    # Ohm, micro and arrows are not in our type.
    paper.add_font("symbols", "", _FONTS / "symbols-regular.ttf")
    paper.add_font("symbols", "B", _FONTS / "symbols-bold.ttf")
    paper.set_fallback_fonts(["symbols"], exact_match=False)
    paper.set_creation_date(_MADE_AT)
    paper.set_producer("Zembric")
    paper.set_draw_color(0)
    paper.set_text_color(0)
    return paper


def draw_code(paper: FPDF, text: str, left_mm: float, top_mm: float, module_mm: float) -> float:
    """A QR code of the smallest size, its modules as filled squares; gives the length of its side [mm]."""
    _draw_modules(paper, _modules(text), left_mm, top_mm, module_mm)
    return QR_MODULES * module_mm


def draw_address(paper: FPDF, address: str, left_mm: float, top_mm: float, side_mm: float) -> None:
    """A QR code that a phone follows, as large as it is told to be [mm]."""
    code = segno.make_qr(address, error="m")
    modules = tuple(tuple(int(bool(dark)) for dark in row) for row in code.matrix)
    _draw_modules(paper, modules, left_mm, top_mm, side_mm / len(modules))


def _draw_modules(
    paper: FPDF, modules: tuple[tuple[int, ...], ...], left_mm: float, top_mm: float, module_mm: float
) -> None:
    for row, cells in enumerate(modules):
        start = None
        for column, dark in enumerate((*cells, 0)):
            if dark and start is None:
                start = column
            elif not dark and start is not None:
                paper.rect(
                    left_mm + start * module_mm,
                    top_mm + row * module_mm,
                    (column - start) * module_mm,
                    module_mm,
                    style="F",
                )
                start = None


def write(
    paper: FPDF,
    what: Said | str,
    left_mm: float,
    top_mm: float,
    width_mm: float,
    size_mm: float,
    *,
    font: str = "text",
    bold: bool = False,
) -> None:
    """One line, made smaller so that it fits the width; words are cut below two thirds of the size, figures never."""
    text = say(what) if isinstance(what, Said) else what
    paper.set_font(font, "B" if bold or font == "figure" else "", size_mm / _POINT_MM)
    text = _printable(paper, text)
    needed = paper.get_string_width(text)
    if needed > width_mm:
        fitting_mm = size_mm * width_mm / needed
        paper.set_font_size((fitting_mm if font == "figure" else max(fitting_mm, size_mm * 2 / 3)) / _POINT_MM)
        while font != "figure" and text and paper.get_string_width(text) > width_mm:
            text = text[:-2].rstrip() + "…" if len(text) > 2 else ""
    # The baseline stands at about three quarters of the height.
    paper.text(left_mm, top_mm + size_mm * 0.78, text)


def write_lines(paper: FPDF, what: Said | str, left_mm: float, top_mm: float, width_mm: float, size_mm: float) -> float:
    """As many lines as it takes; gives where the next may begin [mm]."""
    text = say(what) if isinstance(what, Said) else what
    paper.set_font("text", "", size_mm / _POINT_MM)
    text = _printable(paper, text)
    paper.c_margin = 0
    paper.set_xy(left_mm, top_mm)
    paper.multi_cell(width_mm, size_mm * 1.3, text, align="L")
    return float(paper.get_y())


def bytes_of(paper: FPDF) -> bytes:
    return bytes(paper.output())


def _printable(paper: FPDF, text: str) -> str:
    """What the type has no letter for is a question mark; a space between a figure and its unit stays one."""
    spaced = text.replace("\u202f", "\u00a0")
    return "".join(
        letter if (letter == "\u00a0" or letter.isprintable()) and _has(paper, letter) else "?" for letter in spaced
    )


def _has(paper: FPDF, letter: str) -> bool:
    font = paper.current_font
    cmap = getattr(font, "cmap", None)
    return cmap is None or ord(letter) in cmap


@cache
def _modules(text: str) -> tuple[tuple[int, ...], ...]:
    code = segno.make_qr(text, version=1, error="m", boost_error=True)
    return tuple(tuple(int(bool(dark)) for dark in row) for row in code.matrix)
