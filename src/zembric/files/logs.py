"""A tester's log as text, whatever it came in: text as it is, a workbook or a Parquet table written out line by line."""

from __future__ import annotations

from zembric.core.errors import BadInputError
from zembric.core.measure.traces.model import LogRefusedError
from zembric.core.said import said

_WORKBOOK_MAGIC, _PARQUET_MAGIC = b"PK\x03\x04", b"PAR1"
_MOST_ROWS, _MOST_COLUMNS = 1_048_576, 60


def log_text(content: bytes) -> bytes:
    """The log's text; row k of a sheet becomes line k.

    Raises:
        LogRefusedError: a workbook or table that cannot be read.
    """
    if content.startswith(_WORKBOOK_MAGIC):
        return _workbook_text(content)
    if content.startswith(_PARQUET_MAGIC):
        return _parquet_text(content)
    return content


def _workbook_text(content: bytes) -> bytes:
    """The sheet with the most rows: exports put their measured rows beside a short sheet about the device."""
    from zembric.files.spreadsheets import sheets  # noqa: PLC0415  # only where such a file comes in

    try:
        longest: list[list[str]] = max(
            sheets(content, most_rows=_MOST_ROWS, most_columns=_MOST_COLUMNS), key=len, default=[]
        )
    except LogRefusedError:
        raise
    except BadInputError as error:
        raise LogRefusedError(error.said, code="not-a-log") from error
    return "".join("\t".join(_one_line(text) for text in row) + "\n" for row in longest).encode()


def _one_line(text: str) -> str:
    return text.replace("\t", " ").replace("\n", " ").replace("\r", " ")


def _parquet_text(content: bytes) -> bytes:
    import pyarrow  # noqa: PLC0415  # only where such a file comes in
    from pyarrow import csv, parquet  # noqa: PLC0415

    try:
        table = parquet.read_table(pyarrow.BufferReader(content))
        out = pyarrow.BufferOutputStream()
        csv.write_csv(table, out)
    except (pyarrow.ArrowInvalid, OSError, ValueError) as error:
        raise LogRefusedError(said("this-parquet-file-cannot-be-read"), code="not-a-log") from error
    return out.getvalue().to_pybytes()
