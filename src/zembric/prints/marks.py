"""Marks of our own on what goes with a pack: lines with a pen, from point to point."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from fpdf import FPDF

Mark = Literal["plug", "barred", "back", "flame"]
#: Lines from point to point in a square of one, for each mark.
_MARKS: dict[Mark, tuple[tuple[tuple[float, float], ...], ...]] = {
    "plug": (((0.3, 0), (0.3, 0.3)), ((0.7, 0), (0.7, 0.3)), ((0.1, 0.3), (0.9, 0.3), (0.9, 0.6), (0.5, 0.8), (0.1, 0.6), (0.1, 0.3)), ((0.5, 0.8), (0.5, 1))),
    "barred": (((0.1, 0.1), (0.9, 0.9)), ((0.9, 0.1), (0.1, 0.9)), ((0, 0), (1, 0), (1, 1), (0, 1), (0, 0))),
    "back": (((0, 0.5), (0.5, 0), (1, 0.5)), ((0.15, 0.4), (0.15, 1), (0.85, 1), (0.85, 0.4)), ((0.5, 1), (0.5, 0.6))),
    "flame": (((0.5, 0), (0.2, 0.5), (0.2, 0.8), (0.5, 1), (0.8, 0.8), (0.8, 0.5), (0.6, 0.35), (0.5, 0)), ((0.5, 0.95), (0.4, 0.75), (0.5, 0.55), (0.6, 0.75), (0.5, 0.95))),
}  # fmt: skip


def draw_mark(paper: FPDF, mark: Mark, left_mm: float, top_mm: float, side_mm: float) -> None:
    """A mark in a square."""
    paper.set_line_width(side_mm / 14)
    for points in _MARKS[mark]:
        paper.polyline([(left_mm + x * side_mm, top_mm + y * side_mm) for x, y in points])
