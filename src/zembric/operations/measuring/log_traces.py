"""What was read from a log, row by row: kept beside the file, drawn, and taken along."""

from __future__ import annotations

import io
from dataclasses import fields
from typing import TYPE_CHECKING, Any

import numpy as np
import pyarrow
from pyarrow import csv as arrow_csv
from pyarrow import parquet

from zembric.core.errors import NotFoundError
from zembric.core.measure.traces.analysis import Test, analyse_log, analyse_trace
from zembric.core.measure.traces.model import Answers, Floats, Trace
from zembric.core.measure.traces.thinning import Curve, charge_of, curve_of
from zembric.core.said import said
from zembric.files.logs import log_text
from zembric.operations.file_store import FileStore

if TYPE_CHECKING:
    from collections.abc import Iterator
    from pathlib import Path

    from zembric.models import LogRow

#: Rows of a trace that a web process holds at most; of a longer one it reads what is shown.
_HELD_ROWS = 200_000
_OVERVIEW_COLUMNS = 8_000
_ROWS_A_GROUP = 65_536
OPEN_COLUMNS = ("test_time_second", "voltage_volt", "current_ampere")
_KEPT_COLUMNS = (*OPEN_COLUMNS, "source_line", "discharge_capacity_milliampere_hour")


class LogStore(FileStore):
    """Log files by their hash, and beside each the traces that were read from it."""

    __slots__ = ()
    ending, what = "log", "log"

    def trace_path(self, log: LogRow, test: int) -> Path:
        return self.directory / log.sha256[:2] / f"{log.sha256}-{log.id}-{test}.parquet"

    def overview_path(self, log: LogRow, test: int) -> Path:
        """Beside a long trace: as many of its points as any screen can show of the whole."""
        return self.directory / log.sha256[:2] / f"{log.sha256}-{log.id}-{test}-overview.parquet"


def as_answers(said: dict[str, Any]) -> Answers:
    """What was said of a log, as its reader takes it; what only we know of it left out."""
    known = {entry.name for entry in fields(Answers)}
    values = {key: value for key, value in said.items() if key in known}
    if "columns" in values:
        values["columns"] = tuple(values["columns"])
    return Answers(**values)


def write_trace(store: LogStore, log: LogRow, at: int, test: Test) -> None:
    trace, charge_mah = test.trace, charge_of(test)
    store.write(store.trace_path(log, at), _as_parquet(trace, charge_mah))
    if trace.time_s.size > _HELD_ROWS:
        points = curve_of(trace, charge_mah, columns=_OVERVIEW_COLUMNS)
        thin = Trace(points.time_s, points.voltage_v, points.current_a, np.zeros(points.time_s.size, dtype=np.int64))
        store.write(store.overview_path(log, at), _as_parquet(thin, points.charge_mah))


def _as_parquet(trace: Trace, charge_mah: Floats) -> bytes:
    columns = (trace.time_s, trace.voltage_v, trace.current_a, trace.line, charge_mah)
    table = pyarrow.Table.from_arrays([pyarrow.array(column) for column in columns], names=list(_KEPT_COLUMNS))
    out = io.BytesIO()
    parquet.write_table(table, out, compression="zstd", row_group_size=_ROWS_A_GROUP)
    return out.getvalue()


def test_of(store: LogStore, log: LogRow, test: int) -> Test:
    """One test of a log with its trace, as it was read; raises as `_kept_trace`."""
    return analyse_trace(_kept_trace(store, log, test)[0])


def curve(
    store: LogStore, log: LogRow, test: int, *, columns: int, from_s: float | None = None, to_s: float | None = None
) -> Curve:
    """Points of a test's trace to be drawn; raises as `_kept_trace`."""
    path = _trace_path(store, log, test)
    told = (log.tests or [])[test]
    if told["rows"] <= _HELD_ROWS:
        return curve_of(*_read_trace(path), columns=columns, from_s=from_s, to_s=to_s)
    start, end = from_s or 0.0, told["duration_s"] if to_s is None else to_s
    if told["rows"] * (end - start) / told["duration_s"] > _HELD_ROWS:
        path = store.overview_path(log, test)
    # A little beyond each edge, so that the line leaves the picture where it should.
    beyond_s = 10 * told["sampling_s"]
    found = _read_trace(path, within=(start - beyond_s, end + beyond_s))
    return curve_of(*found, columns=columns, from_s=from_s, to_s=to_s)


def _trace_path(store: LogStore, log: LogRow, test: int) -> Path:
    """Where a trace lies as it was read.

    Raises:
        NotFoundError: the log has no such test, or it was not read yet.
    """
    if log.tests is None or not 0 <= test < len(log.tests):
        raise NotFoundError(said("this-log-has-no-such-test"))
    path = store.trace_path(log, test)
    is_long = log.tests[test]["rows"] > _HELD_ROWS
    if not path.exists() or (is_long and not store.overview_path(log, test).exists()):
        # A backup holds the original only; the trace follows from it.
        analysis = analyse_log(log_text(store.read(log.sha256)), as_answers(log.answers))
        for at, found in enumerate(analysis.tests):
            write_trace(store, log, at, found)
    return path


def _kept_trace(store: LogStore, log: LogRow, test: int) -> tuple[Trace, Floats]:
    """A trace as it was read, and the charge given at each of its rows [mAh]; raises as `_trace_path`."""
    return _read_trace(_trace_path(store, log, test))


def _read_trace(path: Path, within: tuple[float, float] | None = None) -> tuple[Trace, Floats]:
    time = OPEN_COLUMNS[0]
    filters = [(time, ">=", within[0]), (time, "<=", within[1])] if within else None
    table = parquet.read_table(path, filters=filters)
    time_s, volts, amps, lines, charge_mah = (np.asarray(table.column(name).to_numpy()) for name in _KEPT_COLUMNS)
    return Trace(time_s, volts, amps, lines), charge_mah


def trace_csv(store: LogStore, log: LogRow, test: int) -> Iterator[bytes]:
    """The trace piece by piece in the open battery data columns, discharge negative, with what it is of in each row.

    Raises: as `_trace_path`, before the first piece.
    """
    return _csv_pieces(_trace_path(store, log, test), _labels(log))


def trace_parquet(store: LogStore, log: LogRow, test: int) -> Iterator[bytes]:
    """The same columns as a Parquet table, piece by piece; raises as `_trace_path`, before the first piece."""
    return _parquet_pieces(_trace_path(store, log, test), _labels(log))


def _labels(log: LogRow) -> dict[str, str]:
    """Whose trace it is, what logged it, and how its charge was measured; empty where nobody said."""
    method = "resistor-log" if log.read_as and log.read_as.get("resistor_ohm") else "trace"
    return {
        "cell_number": log.cell.number if log.cell else "",
        "instrument_number": log.instrument.number if log.instrument else "",
        "capacity_method": method,
    }


def _labelled(path: Path, labels: dict[str, str]) -> Iterator[pyarrow.Table]:
    """A stored trace group by group, one at a time: read ahead it would all lie in memory."""
    stored = parquet.ParquetFile(path)
    for group in range(stored.num_row_groups):
        table = stored.read_row_group(group, use_threads=False)
        for name, text in labels.items():
            column = pyarrow.DictionaryArray.from_arrays(
                pyarrow.array(np.zeros(table.num_rows, dtype=np.int32)), pyarrow.array([text])
            )
            table = table.append_column(name, column)
        yield table


def _csv_pieces(path: Path, labels: dict[str, str]) -> Iterator[bytes]:
    yield (",".join((*_KEPT_COLUMNS, *labels)) + "\n").encode()
    # Numbers of things and of rows: nothing in them wants quotes.
    plain = arrow_csv.WriteOptions(include_header=False, quoting_style="none")
    for table in _labelled(path, labels):
        columns = [
            column.cast(pyarrow.string())
            if name in labels
            else pyarrow.array(column.to_numpy(zero_copy_only=False), from_pandas=True)
            for name, column in zip(table.column_names, table.itercolumns(), strict=True)
        ]
        out = pyarrow.BufferOutputStream()
        arrow_csv.write_csv(pyarrow.Table.from_arrays(columns, names=table.column_names), out, plain)
        yield out.getvalue().to_pybytes()


class _Pieces(io.RawIOBase):
    """What is written into it can be taken out again and again."""

    def __init__(self) -> None:
        self._held: list[bytes] = []
        self._written = 0

    def writable(self) -> bool:
        return True

    def write(self, piece: Any, /) -> int:
        self._held.append(bytes(piece))
        self._written += len(self._held[-1])
        return len(self._held[-1])

    def tell(self) -> int:
        return self._written

    def take(self) -> bytes:
        held, self._held = b"".join(self._held), []
        return held


def _parquet_pieces(path: Path, labels: dict[str, str]) -> Iterator[bytes]:
    out = _Pieces()
    writer: parquet.ParquetWriter | None = None
    for table in _labelled(path, labels):
        writer = writer or parquet.ParquetWriter(out, table.schema, compression="zstd")
        writer.write_table(table, row_group_size=_ROWS_A_GROUP)
        yield out.take()
    if writer is not None:
        writer.close()
    yield out.take()
