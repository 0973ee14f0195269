"""Lines of a log into numbers: clean stretches at once, the others line by line, with what was left out and why."""

from __future__ import annotations

import math
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field

import numpy as np
import pyarrow
from pyarrow import csv

from zembric.core.measure.traces.columns import Column, Columns
from zembric.core.measure.traces.marks import clock_s, date_s, to_number
from zembric.core.measure.traces.model import Bools, Floats, Lines, LogRefusedError, Remark, some
from zembric.core.measure.traces.table import Table, kind_of, split_line
from zembric.core.measure.traces.text import lines_in
from zembric.core.measure.traces.words import FACTOR, is_unit_row, read_heading, state_of
from zembric.core.said import Said, plain, said

_BLOCK_BYTES = 8 << 20
#: A block that holds something unclean is read again in pieces, so that one bad line slows down few others.
_PIECE_BYTES = 64 << 10
_MOST_JUNK_SHARE = 0.6
_CONTACT_V = 0.05
_WILD_A = 60.0

#: Called with the share that is read (0 to 1); may raise to stop the reading.
Progress = Callable[[float], None]


@dataclass(slots=True)
class Rows:
    """All rows of a log, in the file's order and the tester's own sign; every number is finite but the counter's."""

    time_s: Floats
    voltage_v: Floats
    current_a: Floats
    line: Lines
    counter_mah: Floats | None
    state: np.ndarray[tuple[int], np.dtype[np.int8]] | None  # index into STATES
    header_lines: tuple[int, ...]
    remarks: list[Remark]
    is_truncated: bool
    #: Whether the times are known to go up all the way.
    is_rising: bool = False


STATES = ("unknown", "discharge", "charge", "rest")


@dataclass(slots=True)
class _Left:
    """Lines of one kind that were left out."""

    first_line: int
    count: int = 0
    example: str = ""
    column: str | None = None


@dataclass(slots=True)
class _Found:
    values: Floats  # shape (3 or 4, lines of the log): time, voltage, current, counter; filled up to `rows`
    lines: Lines
    rows: int = 0
    states: list[np.ndarray[tuple[int], np.dtype[np.int8]]] = field(default_factory=list)
    left: dict[str, _Left] = field(default_factory=dict)
    headers: list[int] = field(default_factory=list)
    total: int = 0
    is_truncated: bool = False

    def leave(self, code: str, line: int, example: str, column: str | None = None) -> None:
        entry = self.left.setdefault(code, _Left(line, 0, example.strip()[:60], column))
        entry.count += 1


class _Reader:
    """Reads one table with its columns chosen."""

    def __init__(self, table: Table, columns: Columns, ends_with_newline: bool) -> None:
        self.table, self.columns = table, columns
        self.ends_with_newline = ends_with_newline
        wanted = (columns.time, columns.clock, columns.voltage, columns.current, columns.counter, columns.state)
        self.wanted: list[Column] = [column for column in wanted if column]
        self.needed = max(column.place for column in self.wanted if column not in (columns.counter, columns.state))
        # A row stands in one line, however short it is; the lines of each block are counted once for all.
        self.blocks = self._blocks()
        most = sum(lines for _, _, lines in self.blocks) + 2
        self.found = _Found(np.empty((3 + (columns.counter is not None), most)), np.empty(most, dtype=np.int64))
        self.cache: dict[str, float] = {}

    def read(self, progress: Progress | None) -> _Found:
        size, line = len(self.table.body), self.table.first_line
        with ThreadPoolExecutor(1) as ahead:
            # While the numbers of one block are laid down, the next is parsed.
            coming = [ahead.submit(self._parsed, *self.blocks[0][:2])] if self.blocks else []
            for at, (position, end, count) in enumerate(self.blocks):
                parsed = coming.pop().result()
                if at + 1 < len(self.blocks):
                    coming.append(ahead.submit(self._parsed, *self.blocks[at + 1][:2]))
                line = self._read_block(position, end, line, count, parsed)
                del parsed
                if progress:
                    progress(end / size)
        return self.found

    def _blocks(self) -> list[tuple[int, int, int]]:
        """Where each stretch of the data begins and ends, and how many lines stand in it."""
        found, position = [], self._start()
        while position < len(self.table.body):
            end = self._line_end(position + _BLOCK_BYTES)
            found.append((position, end, lines_in(self.table.body, position, end)))
            position = end
        return found

    def _start(self) -> int:
        """Where the data begin."""
        position = 0
        for _ in range(self.table.first_line - 1):
            position = self.table.body.index(b"\n", position) + 1
        return position

    def _line_end(self, near: int) -> int:
        end = self.table.body.find(b"\n", min(near, len(self.table.body)) - 1)
        return len(self.table.body) if end < 0 else end + 1

    def _read_block(self, start: int, end: int, line: int, count: int, parsed: pyarrow.Table | None) -> int:
        is_cut = end == len(self.table.body) and not self.ends_with_newline
        if not is_cut and self._keep_clean(parsed, line, count):
            return line + count
        position = start
        while position < end:
            piece_end = min(self._line_end(position + _PIECE_BYTES), end)
            rows = self.table.body.count(b"\n", position, piece_end)
            last_piece = piece_end == len(self.table.body) and not self.ends_with_newline
            if last_piece or not self._keep_clean(self._parsed(position, piece_end), line, rows):
                self._read_lines(position, piece_end, line)
            line, position = line + rows, piece_end
        return line

    # --- clean stretches -----------------------------------------------------------------------------------------------

    def _parsed(self, start: int, end: int) -> pyarrow.Table | None:
        """The columns of a stretch; None where a line in it is no row."""
        table = self.table
        if table.thousands and (table.thousands == table.delimiter or self.columns.clock):
            return None
        block: bytes | memoryview = memoryview(table.body)[start:end]
        if table.delimiter == " ":
            block = b"\n".join(b" ".join(text.split()) for text in bytes(block).split(b"\n"))
        if table.thousands:
            block = bytes(block).replace(table.thousands.encode(), b"")
        names = [str(place) for place in range(table.fields)]
        types = {str(c.place): pyarrow.float64() if c.kind == "number" else pyarrow.string() for c in self.wanted}
        try:
            return csv.read_csv(
                pyarrow.BufferReader(block),
                csv.ReadOptions(column_names=names, block_size=1 << 20),
                csv.ParseOptions(delimiter=table.delimiter, ignore_empty_lines=True),
                csv.ConvertOptions(
                    column_types=types,
                    include_columns=list(types),
                    decimal_point=table.decimal,
                    check_utf8=False,
                    null_values=["", "nan", "NaN"],
                ),
            )
        except (pyarrow.ArrowInvalid, KeyError):
            return None

    def _keep_clean(self, read: pyarrow.Table | None, line: int, count: int) -> bool:
        """Keeps a stretch in which every line is a row; False, and nothing kept, where one is not."""
        found = self.found
        values = found.values[:, found.rows : found.rows + count]
        if read is None or read.num_rows != count or not self._fill(values, read):
            return False
        found.total += count
        kept = count
        lines = np.arange(line, line + count, dtype=np.int64)
        good: Bools | None = None
        # One number that is none makes the whole sum none.
        if not math.isfinite(float(np.sum(values[:3]))):
            good = np.isfinite(values[0] + values[1] + values[2])
            kept = int(np.count_nonzero(good))
        if good is not None and kept < count:
            found.leave("no-value", line + int(np.argmin(good)), "")
            found.left["no-value"].count += count - kept - 1
            values[:, :kept] = values[:, good]
            lines = lines[good]
        found.lines[found.rows : found.rows + kept] = lines
        found.rows += kept
        if self.columns.state:
            words = read.column(str(self.columns.state.place)).to_numpy()
            codes = np.array([_state_code(str(word)) for word in words], dtype=np.int8)
            found.states.append(codes if good is None else codes[good])
        return True

    def _fill(self, values: Floats, read: pyarrow.Table) -> bool:
        columns = self.columns
        time = columns.time
        if time is None:
            values[0] = 0.0
        elif time.kind == "number":
            _copy(read, time, values[0])
            if time.unit != "s":
                values[0] *= FACTOR[time.unit or "s"]
        else:
            texts = read.column(str(time.place)).to_numpy()
            clocks = read.column(str(columns.clock.place)).to_numpy() if columns.clock else None
            values[0] = [self._time_of(str(text)) for text in texts]
            if clocks is not None:
                values[0] += np.array([clock_s(str(text), minutes_first=False) for text in clocks])
            if np.isnan(values[0]).any():
                return False
        _copy(read, columns.voltage, values[1])
        if columns.voltage.unit != "V":
            values[1] *= FACTOR[columns.voltage.unit or "V"]
        if columns.current:
            _copy(read, columns.current, values[2])
            if columns.current.unit != "A":
                values[2] *= FACTOR[columns.current.unit or "A"]
        else:
            values[2] = values[1] / (columns.resistor_ohm or math.inf)
        if columns.counter:
            _copy(read, columns.counter, values[3])
        return True

    def _time_of(self, text: str) -> float:
        """Seconds of a clock or a date; what stands before the last colon is worked out once."""
        head, colon, seconds = text.rpartition(":")
        if colon and head.count(":") and seconds.replace(".", "", 1).isdigit():
            base = self.cache.get(head)
            if base is None:
                base = self._slow_time(f"{head}:00")
                self.cache[head] = base
            return base + float(seconds)
        return self._slow_time(text)

    def _slow_time(self, text: str) -> float:
        time = self.columns.time
        if time is None:
            return 0.0
        if time.kind == "date":
            return date_s(text, time.date_order)
        if time.kind == "clock":
            return clock_s(text, minutes_first=time.minutes_first)
        return to_number(text, self.table.decimal, self.table.thousands) * FACTOR[time.unit or "s"]

    # --- line by line --------------------------------------------------------------------------------------------------

    def _read_lines(self, start: int, end: int, line: int) -> None:
        texts = self.table.body[start:end].decode("utf-8", "replace").split("\n")[:-1]
        is_end = end == len(self.table.body)
        kept: list[tuple[float, ...]] = []
        numbers: list[int] = []
        states: list[int] = []
        for offset, text in enumerate(texts):
            number = line + offset
            is_cut = is_end and offset == len(texts) - 1 and not self.ends_with_newline
            if not text.strip():
                continue
            self.found.total += 1
            fields = split_line(text, self.table.delimiter)
            row = self._row(fields, text, number, is_cut)
            if row is None:
                continue
            kept.append(row)
            numbers.append(number)
            if self.columns.state:
                place = self.columns.state.place
                states.append(_state_code(fields[place] if place < len(fields) else ""))
        if kept:
            rows = self.found.rows
            self.found.values[:, rows : rows + len(kept)] = np.array(kept, dtype=np.float64).T
            self.found.lines[rows : rows + len(kept)] = numbers
            self.found.rows += len(kept)
            if self.columns.state:
                self.found.states.append(np.array(states, dtype=np.int8))

    def _row(self, fields: list[str], text: str, number: int, is_cut: bool) -> tuple[float, ...] | None:
        if is_cut and (len(fields) < self.table.fields or self._is_shorter(fields)):
            self.found.leave("cut-line", number, text)
            self.found.is_truncated = True
            return None
        if len(fields) <= self.needed:
            self._leave_line(fields, text, number)
            return None
        columns, decimal, thousands = self.columns, self.table.decimal, self.table.thousands
        time = 0.0
        if columns.time:
            time = self._slow_time(fields[columns.time.place])
            if columns.clock:
                time += clock_s(fields[columns.clock.place], minutes_first=False)
        voltage = to_number(fields[columns.voltage.place], decimal, thousands) * FACTOR[columns.voltage.unit or "V"]
        if columns.current:
            current = to_number(fields[columns.current.place], decimal, thousands) * FACTOR[columns.current.unit or "A"]
        else:
            current = voltage / (columns.resistor_ohm or math.inf)
        if not (math.isfinite(time) and math.isfinite(voltage) and math.isfinite(current)):
            self._leave_line(fields, text, number)
            return None
        row = (time, voltage, current)
        if columns.counter is None:
            return row
        place = columns.counter.place
        return (*row, to_number(fields[place], decimal, thousands) if place < len(fields) else math.nan)

    def _is_shorter(self, fields: list[str]) -> bool:
        """Whether the last field of a line without an end has fewer digits than that field has elsewhere."""
        usual = [len(row[-1]) for _, row in self.table.sample[-20:]]
        return bool(usual) and len(fields[-1]) < min(usual)

    def _leave_line(self, fields: list[str], text: str, number: int) -> None:
        known = sum(read_heading(name).role != "other" for name in fields if kind_of(name) == "text")
        if (self.table.headers and known >= 2) or is_unit_row(fields):
            if not is_unit_row(fields):
                self.found.headers.append(number)
            return
        column = None
        if len(fields) > self.needed:
            bad = next((c for c in self.wanted if c.place < len(fields) and kind_of(fields[c.place]) != c.kind), None)
            column = bad.header if bad else None
            empty = [
                c
                for c in self.wanted
                if c.place < len(fields)
                and fields[c.place].lower() in ("", "nan", "inf", "-inf", "+inf", "null", "none")
            ]
            if bad is None or empty:
                self.found.leave("no-value", number, text, (empty[0].header if empty else column))
                return
        self.found.leave("junk-line", number, text, column)


def _copy(read: pyarrow.Table, column: Column, into: Floats) -> None:
    """Numbers of a column that was read in several chunks, without a copy in between."""
    at = 0
    for chunk in read.column(str(column.place)).chunks:
        values = chunk.to_numpy(zero_copy_only=False)
        into[at : at + len(values)] = values
        at += len(values)


def read_rows(table: Table, columns: Columns, *, ends_with_newline: bool, progress: Progress | None = None) -> Rows:
    """Reads all rows of a log.

    Raises:
        LogRefusedError: hardly any line is a row, or fewer than two are left.
    """
    found = _Reader(table, columns, ends_with_newline).read(progress)
    left = sum(entry.count for entry in found.left.values())
    values, lines = found.values[:, : found.rows], found.lines[: found.rows]
    if lines.size < 2 or left > _MOST_JUNK_SHARE * max(found.total, 1):
        first = next(iter(found.left.values()), None)
        count, total = int(lines.size), found.total
        wrong = said("log-hardly-rows", rows=count, total=total)
        if first:
            wrong = said("log-hardly-rows-but", rows=count, total=total, line=first.first_line, example=first.example)
        raise LogRefusedError(wrong, code="no-rows", line=first.first_line if first else table.first_line)
    if columns.time is None:
        values[0] = np.arange(lines.size) * (columns.every_s or 1.0)
    counter = values[3] * FACTOR.get(columns.counter.unit or "mAh", 1.0) if columns.counter else None
    state = np.concatenate(found.states) if found.states else None
    rows = Rows(
        values[0],
        values[1],
        values[2],
        lines,
        counter,
        state,
        tuple(found.headers),
        _remarks(found),
        found.is_truncated,
    )
    return _without_impossible(rows)


def _state_code(word: str) -> int:
    kind = state_of(word)
    return STATES.index(kind) if kind else 0


def _remarks(found: _Found) -> list[Remark]:
    remarks = [
        Remark(
            code,
            Said(f"log-{code}", (("count", left.count), ("example", left.example), ("line", left.first_line))),
            left.first_line,
            left.column,
        )
        for code, left in found.left.items()
    ]
    if found.headers:
        remarks.append(
            Remark("repeated-header", said("log-repeated-header", headers=found.headers[0]), found.headers[0])
        )
    return remarks


def _without_impossible(rows: Rows) -> Rows:
    """Leaves out placeholders: values that no cell has while the rest of the log is a cell's."""
    usual_v = float(np.median(some(rows.voltage_v)))
    most_v = 6.0 if usual_v <= 5 else 2 * usual_v
    top_a = float(np.quantile(np.abs(some(rows.current_a)), 0.95))
    calm_v = usual_v <= 0.5 or float(np.min(rows.voltage_v)) >= _CONTACT_V
    calm_a = float(np.max(rows.current_a)) <= _WILD_A and float(np.min(rows.current_a)) >= -_WILD_A
    if calm_v and calm_a and float(np.max(rows.voltage_v)) <= most_v and float(np.min(rows.voltage_v)) >= -1.0:
        return rows
    bad = (rows.voltage_v > most_v) | (rows.voltage_v < -1.0)
    wild = (rows.current_a > _WILD_A) | (rows.current_a < -_WILD_A)
    if 0 < top_a < _WILD_A / 3 and wild.any():
        bad |= wild
    no_cell = (rows.voltage_v < _CONTACT_V) & ~bad & (usual_v > 0.5)
    for mask, code in ((bad, "impossible-value"), (no_cell, "no-contact")):
        if mask.any():
            at = int(np.flatnonzero(mask)[0])
            line = int(rows.line[at])
            count = int(mask.sum())
            if code == "no-contact":
                told = said("log-no-contact", count=count, line=line)
            else:
                volts, amps = plain(float(rows.voltage_v[at]), "V"), plain(float(rows.current_a[at]), "A")
                told = said("log-impossible-value", count=count, voltage=volts, current=amps, line=line)
            rows.remarks.append(Remark(code, told, line))
    drop = bad | no_cell
    if not drop.any():
        return rows
    keep = ~drop
    if keep.sum() < 2:
        raise LogRefusedError(said("no-row-holds-values-that-cell"), code="not-a-cell", line=int(rows.line[0]))
    rows.time_s, rows.voltage_v, rows.current_a, rows.line = (
        rows.time_s[keep],
        rows.voltage_v[keep],
        rows.current_a[keep],
        rows.line[keep],
    )
    rows.counter_mah = rows.counter_mah[keep] if rows.counter_mah is not None else None
    rows.state = rows.state[keep] if rows.state is not None else None
    return rows
