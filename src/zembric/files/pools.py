"""A pool of cells to match, as CSV: cell_id, capacity_mah, ir_mohm; further columns are ignored."""

from __future__ import annotations

import csv
import io
import math
import re
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.match import MatchCell
from zembric.core.said import Said, said

if TYPE_CHECKING:
    from collections.abc import Iterator

MOST_BYTES = 4 * 1024 * 1024
_ID, _CAPACITY, _RESISTANCE = "cell_id", "capacity_mah", "ir_mohm"
_DELIMITERS = (",", ";", "\t")
#: Far above any cell; sums of thousands of them stay exact.
_MOST = 1_000_000
_NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?")


class PoolRefusedError(BadInputError):
    """A file that is no pool. `line` counts from 1 in the file as it is; `column` names the column."""

    def __init__(
        self, text: Said | str, *, code: str = "bad-input", line: int | None = None, column: str | None = None
    ) -> None:
        super().__init__(text, code=code)
        self.line = line
        self.column = column


def read_pool(content: bytes) -> list[MatchCell]:
    """The cells of a pool. An empty resistance was not measured.

    Raises:
        PoolRefusedError: not a table of these columns, or a value that cannot be; names the line and the column.
    """
    if len(content) > MOST_BYTES:
        raise PoolRefusedError(said("pool-has-at-most-mb", most_bytes=MOST_BYTES // 1024 // 1024), code="too-large")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = content[: error.start].count(b"\n") + 1
        raise PoolRefusedError(said("file-is-not-text-in-utf"), code="not-text", line=line) from error
    first = text.split("\n", 1)[0]
    delimiter = max(_DELIMITERS, key=first.count)
    return _cells(_lines(text, delimiter))


def _lines(text: str, delimiter: str) -> Iterator[tuple[int, list[str]]]:
    """Each row with the line it begins in."""
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
    begins = 1
    try:
        for row in rows:
            yield begins, row
            begins = rows.line_num + 1
    except csv.Error as error:
        raise PoolRefusedError(said("this-is-not-csv", error=str(error)), code="not-csv", line=begins) from error


def _cells(rows: Iterator[tuple[int, list[str]]]) -> list[MatchCell]:
    header = [name.strip().lower() for name in next(rows, (1, []))[1]]
    for name in (_ID, _CAPACITY, _RESISTANCE):
        if header.count(name) != 1:
            wrong = said(
                "pool-column-twice" if name in header else "pool-no-column",
                name=name, id=_ID, capacity=_CAPACITY, resistance=_RESISTANCE,
            )  # fmt: skip
            raise PoolRefusedError(wrong, code="missing-column", line=1, column=name)
    places = [header.index(name) for name in (_ID, _CAPACITY, _RESISTANCE)]
    cells: list[MatchCell] = []
    lines: dict[str, int] = {}
    for line, row in rows:
        if not any(value.strip() for value in row):
            continue
        key, capacity, resistance = (row[place].strip() if place < len(row) else "" for place in places)
        if not key:
            raise PoolRefusedError(said("line-names-no-cell", line=line), line=line, column=_ID)
        if key in lines:
            raise PoolRefusedError(
                said("cell-stands-in-line", key=key, lines=lines[key], line=line),
                code="twice", line=line, column=_ID,
            )  # fmt: skip
        lines[key] = line
        capacity_mah = _number(capacity, line, _CAPACITY, said("pool-capacity"))
        mohm = _number(resistance, line, _RESISTANCE, said("pool-resistance")) if resistance else None
        if capacity_mah < 0 or (mohm is not None and mohm <= 0):
            column, value = (_CAPACITY, capacity) if capacity_mah < 0 else (_RESISTANCE, resistance)
            wrong = said(
                "pool-capacity-cannot-be" if column == _CAPACITY else "pool-resistance-cannot-be",
                line=line, column=column, value=value,
            )  # fmt: skip
            raise PoolRefusedError(wrong, line=line, column=column)
        cells.append(MatchCell(key, capacity_mah, mohm))
    return cells


def _number(text: str, line: int, column: str, right: Said) -> float:
    value = float(text.replace(",", ".")) if _NUMBER.fullmatch(text) else math.nan
    if not math.isfinite(value) or abs(value) > _MOST:
        raise PoolRefusedError(
            said("line-is-not", line=line, text=text[:40], right=right), code="not-a-number", line=line, column=column
        )
    return value
