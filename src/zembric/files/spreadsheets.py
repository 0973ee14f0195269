"""Workbooks as rows of texts, with a guard against files that unpack to more than a list or a log can be."""

from __future__ import annotations

import io
import zipfile
from datetime import datetime, time, timedelta
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator

WORKBOOK_MAGIC = b"PK\x03\x04"
_MOST_UNPACKED_BYTES = 100 * 1024 * 1024


def sheets(content: bytes, *, most_rows: int, most_columns: int) -> Iterator[list[list[str]]]:
    """The sheets of a workbook, one after the other; formulas by the values they had when it was saved.

    Raises:
        BadInputError: no workbook that can be read, or too large once it is unpacked.
    """
    from openpyxl import load_workbook  # noqa: PLC0415  # much code for the few who bring a workbook
    from openpyxl.utils.exceptions import InvalidFileException  # noqa: PLC0415

    try:
        with zipfile.ZipFile(io.BytesIO(content)) as parts:
            if sum(part.file_size for part in parts.infolist()) > _MOST_UNPACKED_BYTES:
                raise BadInputError(said("this-spreadsheet-is-too-large-once"), field="file")
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
    except (InvalidFileException, zipfile.BadZipFile, KeyError, ValueError, OSError) as error:
        raise BadInputError(said("this-is-no-spreadsheet-that-can"), field="file") from error
    try:
        for sheet in book.worksheets:
            yield [
                [_cell_text(value) for value in row]
                for row in sheet.iter_rows(max_row=most_rows, max_col=most_columns, values_only=True)
            ]
    finally:
        book.close()


def _cell_text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return str(int(value)) if value.is_integer() else repr(value)
    if isinstance(value, datetime):
        return value.isoformat(sep=" ")
    if isinstance(value, timedelta):
        hours, rest = divmod(value.total_seconds(), 3600)
        return f"{hours:.0f}:{rest // 60:02.0f}:{rest % 60:06.3f}"
    if isinstance(value, time):
        return value.isoformat()
    return str(value)
