"""Rows as CSV, as everything leaves that somebody may open in a spreadsheet."""

from __future__ import annotations

import csv
import io
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from collections.abc import Sequence

#: What a text begins with that a spreadsheet takes for a formula.
RUN_BY_SPREADSHEETS = ("=", "+", "-", "@", "\t", "\r")


def as_csv(rows: Sequence[Sequence[Any]]) -> bytes:
    """Times in UTC, numbers as they are, and no text that a spreadsheet would run."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerows([[_exported(value) for value in row] for row in rows])
    return out.getvalue().encode("utf-8")


def without_guard(text: str) -> str:
    """Without the mark that `as_csv` puts before what a spreadsheet would run."""
    return text[1:] if text[:1] == "'" and text[1:2] in RUN_BY_SPREADSHEETS else text


def _exported(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.10g}"
    if hasattr(value, "isoformat"):
        return str(value.isoformat())
    text = str(value)
    return "'" + text if text[:1] in RUN_BY_SPREADSHEETS else text
