"""Testers' logs: the file kept as it came, read now or by the worker, asked about where it must be, kept as readings."""

from __future__ import annotations

import io
import math
from dataclasses import asdict, fields
from datetime import datetime
from typing import TYPE_CHECKING, Any

import numpy as np
import pyarrow
from pyarrow import csv as arrow_csv
from pyarrow import parquet
from sqlalchemy import select

from zembric.core import limits
from zembric.core.entry_checks import check_capacity, check_resistance
from zembric.core.errors import BadInputError, ConflictError, NotFoundError, OddInputError
from zembric.core.traces.analysis import LogAnalysis, Test, analyse_log, analyse_trace, signature_of
from zembric.core.traces.model import Answers, Floats, LogRefusedError, Remark, Trace
from zembric.core.traces.text import read_text
from zembric.core.traces.thinning import Curve, charge_of, curve_of
from zembric.core.uncertainty import rectangle_u
from zembric.core.words import amount
from zembric.files.logs import log_text
from zembric.models import CellRow, Entry, LogHabit, LogRow, ReadingEntry
from zembric.operations.database import unit_of_work
from zembric.operations.entries import cell_at_bench, cell_in_hand, keep_charge, keep_reading, refuse_work_on_hazard
from zembric.operations.file_store import FileStore, Received
from zembric.operations.instruments import adjust, get_instrument
from zembric.operations.judging import rules_in_force
from zembric.operations.queue import LOGS, READ_LOG, put_into_queue
from zembric.operations.readings import UNIT_OF, known_of
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence
    from pathlib import Path

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from zembric.core.rules import HouseRules
    from zembric.core.story import CapacityMethod
    from zembric.core.traces.edges import ResistanceAfter
    from zembric.operations.actors import Actor

MOST_LOG_BYTES = 200 * 1024 * 1024
#: Larger files are read by the worker, so that the request answers at once.
READ_AT_ONCE_BYTES = 1024 * 1024
#: Rows of a trace that a web process holds at most; of a longer one it reads what is shown.
_HELD_ROWS = 200_000
_OVERVIEW_COLUMNS = 8_000
_ROWS_A_GROUP = 65_536
OPEN_COLUMNS = ("test_time_second", "voltage_volt", "current_ampere")
_KEPT_COLUMNS = (*OPEN_COLUMNS, "source_line", "discharge_capacity_milliampere_hour")
_TO_REMEMBER = "to_remember"
_ROLES = ("time", "voltage", "current", "capacity", "energy", "other")


class StoppedError(Exception):
    """Somebody stopped the reading of a log."""


class LogStore(FileStore):
    """Log files by their hash, and beside each the traces that were read from it."""

    __slots__ = ()
    ending, what = "log", "log"

    def trace_path(self, log: LogRow, test: int) -> Path:
        return self.directory / log.sha256[:2] / f"{log.sha256}-{log.id}-{test}.parquet"

    def overview_path(self, log: LogRow, test: int) -> Path:
        """Beside a long trace: as many of its points as any screen can show of the whole."""
        return self.directory / log.sha256[:2] / f"{log.sha256}-{log.id}-{test}-overview.parquet"


def head_of(store: LogStore, log: LogRow, most_bytes: int) -> bytes:
    """The first bytes of a log as text, for people to look at; empty where the file is missing."""
    try:
        with store.path(log.sha256).open("rb") as file:
            head = file.read(most_bytes)
    except FileNotFoundError:
        return b""
    if head.startswith((b"PK\x03\x04", b"PAR1")):
        return b""
    try:
        return read_text(head).body
    except LogRefusedError:
        return b""


# --- Taking in -------------------------------------------------------------------------------------------------------


def take_in_log(
    session: Session, store: LogStore, actor: Actor, file_name: str, file: Received, now: datetime, *,
    cell_number: str | None = None, instrument_number: str | None = None,
) -> LogRow:  # fmt: skip
    """A log that lies in the store as it came is read, at once where it is small, else by the worker.

    The same file dropped again is the log that is here already.

    Raises:
        BadInputError: empty, or a number that cannot be right.
    """
    if file.bytes == 0:
        raise BadInputError("The file is empty. Export the log once more.", field="file", code="empty-file")
    cell = cell_in_hand(session, cell_number) if cell_number else None
    instrument = get_instrument(session, instrument_number) if instrument_number else None
    before = session.scalar(
        select(LogRow)
        .where(LogRow.sha256 == file.sha256, LogRow.state.in_(("read", "asks", "waiting", "reading")))
        .limit(1)
    )
    if before is not None:
        before.cell_id = before.cell_id or (cell.id if cell else None)
        return before
    log = LogRow(
        sha256=file.sha256, file_name=_plain_name(file_name), bytes=file.bytes, at=now, person_id=actor.person_id,
        cell_id=cell.id if cell else None, instrument_id=instrument.id if instrument else None, state="waiting", progress_pct=0,
        stop_asked=False, answers={},
    )  # fmt: skip
    session.add(log)
    session.flush()
    note(session, actor, "log-taken-in", now, cell_id=log.cell_id, log=log.id, file=log.file_name)
    _read_now_or_later(session, store, log)
    session.flush()
    session.refresh(log)
    return log


def _plain_name(file_name: str) -> str:
    name = "".join(char for char in file_name.replace("\\", "/").rsplit("/", 1)[-1] if char.isprintable()).strip()
    return name[:120] or "pasted"


def _read_now_or_later(session: Session, store: LogStore, log: LogRow) -> None:
    log.state, log.progress_pct, log.stop_asked, log.refusal = "waiting", 0, False, None
    if log.bytes > READ_AT_ONCE_BYTES:
        session.flush()
        put_into_queue(session, READ_LOG, LOGS, log_id=log.id)
        return
    _put_result(session, store, log, lambda _share: None)


def answer_log(
    session: Session,
    store: LogStore,
    actor: Actor,
    log_id: int,
    answers: dict[str, Any],
    now: datetime,
    *,
    remember: bool,
) -> LogRow:
    """Reads a log anew by what a person says of it; remembered, the next one of its kind is read so without asking.

    Raises:
        ConflictError: readings were kept from it already.
        BadInputError: an answer that cannot be.
    """
    log = get_log(session, log_id, lock=True)
    if log.state in ("waiting", "reading"):
        raise ConflictError("This log is still being read. Wait, or stop it.")
    if readings_of(session, log):
        raise ConflictError("Readings were kept from this log. Take them back first, then read it anew.")
    checked = _checked_answers(answers)
    log.answers = checked | {"confirmed": True}
    if remember:
        # Once it is read; what cannot be read so is not remembered either.
        log.answers |= {_TO_REMEMBER: {"at": now.isoformat(), "person_id": actor.person_id}}
    note(session, actor, "log-answered", now, cell_id=log.cell_id, log=log.id)
    _read_now_or_later(session, store, log)
    session.flush()
    return log


def forget_habit(session: Session, store: LogStore, actor: Actor, log_id: int, now: datetime) -> LogRow:
    """What was remembered for logs of this one's kind is remembered no longer; read by it, this one is read anew without.

    Raises:
        ConflictError: nothing is remembered for its kind.
    """
    log = get_log(session, log_id, lock=True)
    if log.state in ("waiting", "reading"):
        raise ConflictError("This log is still being read. Wait, or stop it.")
    habit = _habit_of(session, log.read_as["signature"]) if log.read_as and "signature" in log.read_as else None
    if habit is None:
        raise ConflictError("Nothing is remembered for logs of this kind any more.")
    session.delete(habit)
    session.flush()
    note(session, actor, "log-habit-forgotten", now, cell_id=log.cell_id, log=log.id, answers=habit.answers)
    if log.answers.get("remembered") and not readings_of(session, log):
        log.answers = {}
        _read_now_or_later(session, store, log)
        session.flush()
    return log


def _checked_answers(answers: dict[str, Any]) -> dict[str, Any]:
    checked: dict[str, Any] = {}
    for key, value in answers.items():
        if value is None or value == "":
            continue
        if key not in {entry.name for entry in fields(Answers)}:
            raise BadInputError(f'"{key[:40]}" is not something that can be said of a log.', field="answers")
        checked[key] = value
    wrong = [role for role in checked.get("columns", ()) if role not in _ROLES]
    if wrong:
        raise BadInputError(
            f'"{str(wrong[0])[:40]}" is not what a column can be; it is {", ".join(_ROLES)}.', field="columns"
        )
    for key in ("resistor_ohm", "every_s"):
        if key in checked and not 0 < float(checked[key]) < 1e6:
            raise BadInputError("It must be above zero.", field=key)
    return checked


def stop_log(session: Session, actor: Actor, log_id: int, now: datetime) -> LogRow:
    """Stops a reading that waits or runs; the file stays."""
    log = get_log(session, log_id, lock=True)
    if log.state == "waiting":
        log.state = "cancelled"
    elif log.state != "reading":
        raise ConflictError("This log is not being read at the moment.")
    log.stop_asked = True
    note(session, actor, "log-stopped", now, cell_id=log.cell_id, log=log.id)
    return log


# --- Reading ---------------------------------------------------------------------------------------------------------


def read_waiting_log(engine: Engine, store: LogStore, log_id: int) -> None:
    """What the worker does: reads one log with its progress seen by others, and stops where somebody asks for it."""
    with unit_of_work(engine) as session:
        log = get_log(session, log_id, lock=True)
        # A try that was broken off had begun already.
        if log.state not in ("waiting", "reading"):
            return
        log.state = "reading"

    def tell(share: float) -> None:
        with unit_of_work(engine) as session:
            row = get_log(session, log_id)
            if row.stop_asked:
                raise StoppedError
            row.progress_pct = min(int(100 * share), 99)

    with unit_of_work(engine) as session:
        log = get_log(session, log_id)
        try:
            _put_result(session, store, log, tell)
        except StoppedError:
            session.refresh(log)
            log.state = "cancelled"


def give_up_log(engine: Engine, log_id: int) -> None:
    """Says of a log that it could not be read by our fault; the file stays and can be read anew."""
    with unit_of_work(engine) as session:
        log = get_log(session, log_id, lock=True)
        log.state = "refused"
        log.refusal = {
            "code": "our-fault", "line": None, "column": None,
            "text": "Reading it failed again and again, by a fault of ours. The file is kept: read it anew after the next "
            "update, or export it as CSV with time, voltage and current only.",
        }  # fmt: skip


def take_up_again(session: Session) -> None:
    """Puts logs whose reading was broken off, by a worker that was killed, into the queue once more."""
    for log_id in session.scalars(select(LogRow.id).where(LogRow.state == "reading")):
        put_into_queue(session, READ_LOG, LOGS, log_id=log_id)


def _put_result(session: Session, store: LogStore, log: LogRow, tell: Callable[[float], None]) -> None:
    """Reads the file and writes what came of it into the row."""
    try:
        text = log_text(store.read(log.sha256))
        signature = signature_of(text)
        if not log.answers:
            # Kept with the log, so that it is read the same way whenever its trace is made anew.
            log.answers = _remembered(session, signature)
        answers = _as_answers(log.answers)
        analysis = analyse_log(text, answers, tell)
        del text
    except LogRefusedError as refused:
        log.state, log.tests, log.read_as, log.remarks = "refused", None, None, None
        log.refusal = {"code": refused.code, "text": refused.text, "line": refused.line, "column": refused.column}
        return
    for at, test in enumerate(analysis.tests):
        _write_trace(store, log, at, test)
    log.read_as = _read_as(analysis) | {"signature": signature}
    _remember(session, log, signature)
    log.remarks = [_remark(remark) for remark in (*_remembered_remark(log.answers), *analysis.remarks)]
    log.tests = [describe_test(test) for test in analysis.tests]
    log.refusal, log.progress_pct = None, 100
    asks = any(remark["asks"] for remark in log.remarks)
    log.state = "asks" if asks and not log.answers.get("confirmed") else "read"


def _habit_of(session: Session, signature: str) -> LogHabit | None:
    return session.scalar(select(LogHabit).where(LogHabit.signature == signature))


def _remember(session: Session, log: LogRow, signature: str) -> None:
    """What was said of a log holds for the next of its kind, where somebody wished so."""
    said = dict(log.answers)
    wish = said.pop(_TO_REMEMBER, None)
    if wish is None:
        return
    log.answers = said
    values = {"answers": said, "at": datetime.fromisoformat(wish["at"]), "person_id": wish["person_id"]}
    habit = _habit_of(session, signature)
    if habit is None:
        session.add(LogHabit(signature=signature, **values))
    else:
        habit.answers, habit.at, habit.person_id = values["answers"], values["at"], values["person_id"]


def _remembered(session: Session, signature: str) -> dict[str, Any]:
    """What was said of the last log of this kind. The resistor is no part of the file, so it is asked about each time."""
    habit = _habit_of(session, signature)
    if habit is None:
        return {}
    said = dict(habit.answers) | {"remembered": True}
    if "resistor_ohm" in said:
        del said["confirmed"]
    return said


def _remembered_remark(said: dict[str, Any]) -> tuple[Remark, ...]:
    if not said.get("remembered"):
        return ()
    if "resistor_ohm" not in said:
        return (Remark("remembered", "Read as somebody said of the last log of this kind."),)
    text = f"The last log of this kind was emptied through {amount(said['resistor_ohm'], 'Ω', 1)}. This one too?"
    return (Remark("remembered", text, asks="resistor"),)


def _as_answers(said: dict[str, Any]) -> Answers:
    known = {entry.name for entry in fields(Answers)}
    values = {key: value for key, value in said.items() if key in known}
    if "columns" in values:
        values["columns"] = tuple(values["columns"])
    return Answers(**values)


def _read_as(analysis: LogAnalysis) -> dict[str, Any]:
    read_as, columns = analysis.read_as, analysis.read_as.columns
    named = {"time": columns.time, "voltage": columns.voltage, "current": columns.current}
    return {
        "encoding": read_as.encoding, "delimiter": read_as.delimiter, "decimal": read_as.decimal,
        "discharge_current": read_as.discharge_current, "resistor_ohm": columns.resistor_ohm,
        "columns": {
            role: {"header": column.header, "unit": column.unit, "place": column.place + 1}
            for role, column in named.items() if column
        },
    }  # fmt: skip


def _remark(remark: Remark) -> dict[str, Any]:
    return asdict(remark) | {"choices": list(remark.choices)}


def describe_test(test: Test) -> dict[str, Any]:
    """What one test measured, as it is stored and shown."""
    line = test.trace.line
    return {
        "rows": int(test.trace.time_s.size), "duration_s": float(test.trace.time_s[-1]), "sampling_s": test.sampling_s,
        "discharge_capacity_mah": test.discharge_capacity_mah, "discharge_energy_mwh": test.discharge_energy_mwh,
        "discharge_complete": test.discharge_complete, "charge_capacity_mah": test.charge_capacity_mah,
        "cut_off_v": test.cut_off_v, "capacity_allowance_pct": test.capacity_allowance_pct, "sag_v": test.sag_v,
        "end_v": test.discharge[-1].end_voltage_v if test.discharge else None,
        "mean_current_ma": abs(test.discharge[-1].mean_current_ma) if test.discharge else None,
        "resistances": [asdict(found) for found in test.resistances if found.tells],
        "no_resistance": _why_no_resistance(test),
        "relaxations": [asdict(found) for found in test.relaxations],
        "steps": [
            {
                "kind": step.kind, "first_line": int(line[step.first]), "last_line": int(line[step.last]),
                "duration_s": step.duration_s, "capacity_mah": step.capacity_mah, "energy_mwh": step.energy_mwh,
                "start_voltage_v": step.start_voltage_v, "end_voltage_v": step.end_voltage_v,
                "mean_current_ma": step.mean_current_ma, "complete": step.complete, "is_pulse": step.is_pulse,
                "from_s": float(test.trace.time_s[step.first]), "to_s": float(test.trace.time_s[step.last]),
                "counts": step in test.discharge,
            }
            for step in test.steps[:200]
        ],
    }  # fmt: skip


def _why_no_resistance(test: Test) -> str | None:
    """Why a test shows no resistance, in words; None where it shows one."""
    if any(found.tells for found in test.resistances):
        return None
    if test.resistances:
        vague = min(test.resistances, key=lambda found: found.half_width_mohm / found.mohm)
        return f"{amount(vague.mohm, 'mΩ')} ± {amount(vague.half_width_mohm, 'mΩ')} would be no figure"
    if test.sampling_s > limits.EDGE_APART_S.value:
        return "its rows lie too far apart"
    return (
        "the current makes no step in it that was kept for a second"
        if not test.edges
        else "no step was kept for long enough"
    )


# --- Traces ----------------------------------------------------------------------------------------------------------


def _write_trace(store: LogStore, log: LogRow, at: int, test: Test) -> None:
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
        raise NotFoundError("This log has no such test.")
    path = store.trace_path(log, test)
    is_long = log.tests[test]["rows"] > _HELD_ROWS
    if not path.exists() or (is_long and not store.overview_path(log, test).exists()):
        # A backup holds the original only; the trace follows from it.
        analysis = analyse_log(log_text(store.read(log.sha256)), _as_answers(log.answers))
        for at, found in enumerate(analysis.tests):
            _write_trace(store, log, at, found)
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
    """The trace piece by piece, in the open battery data columns, discharge negative, and what stands beside them in Parquet.

    Raises: as `_trace_path`, before the first piece.
    """
    return _csv_pieces(_trace_path(store, log, test))


def _csv_pieces(path: Path) -> Iterator[bytes]:
    yield (",".join(_KEPT_COLUMNS) + "\n").encode()
    for batch in parquet.ParquetFile(path).iter_batches(batch_size=_ROWS_A_GROUP):
        columns = [pyarrow.array(batch.column(at).to_numpy(zero_copy_only=False), from_pandas=True) for at in range(5)]
        out = pyarrow.BufferOutputStream()
        table = pyarrow.Table.from_arrays(columns, names=list(_KEPT_COLUMNS))
        arrow_csv.write_csv(table, out, arrow_csv.WriteOptions(include_header=False))
        yield out.getvalue().to_pybytes()


def trace_parquet(store: LogStore, log: LogRow, test: int) -> Path:
    """Where the trace lies; raises as `_trace_path`."""
    return _trace_path(store, log, test)


def get_log(session: Session, log_id: int, *, lock: bool = False) -> LogRow:
    if lock:
        session.execute(select(LogRow.id).where(LogRow.id == log_id).with_for_update(of=LogRow))
    log = session.scalar(select(LogRow).where(LogRow.id == log_id).execution_options(populate_existing=True))
    if log is None:
        raise NotFoundError("There is no such log.")
    return log


def recent_logs(session: Session, cell: CellRow | None = None, most: int = 30) -> Sequence[LogRow]:
    query = select(LogRow).order_by(LogRow.id.desc()).limit(most)
    return session.scalars(query.where(LogRow.cell_id == cell.id) if cell else query).all()


def readings_of(session: Session, log: LogRow) -> Sequence[ReadingEntry]:
    """Readings that were kept from a log and still count."""
    superseded = select(Entry.supersedes_id).where(Entry.supersedes_id.is_not(None))
    return session.scalars(
        select(ReadingEntry).where(ReadingEntry.log_id == log.id, ReadingEntry.id.not_in(superseded))
    ).all()


# --- Keeping what it measured ----------------------------------------------------------------------------------------


def keep_log(
    session: Session,
    store: LogStore,
    actor: Actor,
    log_id: int,
    cell_number: str,
    test: int,
    now: datetime,
    *,
    confirmed: bool = False,
    started_full: bool = False,
) -> CellRow:
    """What a test measured becomes readings of a cell: the charge before it, its capacity, its resistances.

    A discharge that did not reach a cut-off is kept as unfinished, and never graded; nor is one that did not begin full,
    by the charge in the same log, one that was entered, or because somebody says so (`started_full`).

    Raises:
        ConflictError: it is not read yet, or was kept already.
        OddInputError: the figure should be looked at once more and was not confirmed.
        DangerError: the cell is a hazard.
    """
    cell = cell_at_bench(session, cell_number)
    log = get_log(session, log_id, lock=True)
    refuse_work_on_hazard(session, cell)
    if log.state not in ("read", "asks"):
        raise ConflictError("This log is not read yet, so there is nothing to keep.")
    if any(reading.conditions.get("test") == test for reading in readings_of(session, log)):
        raise ConflictError(f"This was kept already, for cell {log.cell.number if log.cell else cell.number}.")
    measured = test_of(store, log, test)
    if not measured.discharge and not measured.charge:
        raise ConflictError("There is neither a charge nor a discharge in this test; nothing to keep.")
    log.cell_id = cell.id
    rules = rules_in_force(session)
    _keep_charge(session, actor, cell, measured, now, before_discharge=True)
    if measured.discharge:
        try:
            if measured.discharge_complete:
                check_capacity(measured.discharge_capacity_mah or 0.0, known_of(session, cell), rules_in_force(session))
        except OddInputError:
            if not confirmed:
                raise
        keep_reading(session, actor, cell, _capacity_entry(log, test, measured, rules, started_full=started_full), now)
        for found in measured.resistances:
            if not found.tells:
                continue
            try:
                check_resistance(found.mohm, known_of(session, cell), rules_in_force(session))
            except (OddInputError, BadInputError):
                continue
            keep_reading(
                session,
                actor,
                cell,
                _resistance_entry(log, test, found, rules),
                now,
            )
    _keep_charge(session, actor, cell, measured, now, before_discharge=False)
    return cell


def _keep_charge(
    session: Session, actor: Actor, cell: CellRow, measured: Test, now: datetime, *, before_discharge: bool
) -> None:
    if not measured.charge:
        return
    last = measured.charge[-1]
    is_before = bool(measured.discharge) and last.last < measured.discharge[-1].first
    if is_before != before_discharge and measured.discharge:
        return
    if not measured.discharge and not before_discharge:
        return
    keep_charge(session, actor, cell, round(last.end_voltage_v, 3), last.complete, round(last.duration_s / 60, 1), now)


def _capacity_entry(log: LogRow, test: int, measured: Test, rules: HouseRules, *, started_full: bool) -> ReadingEntry:
    value = measured.discharge_capacity_mah or 0.0
    # Through a resistor the current is worked out, and the resistor's tolerance goes straight into it.
    method: CapacityMethod = "resistor-log" if _resistor_ohm(log) else "trace"
    allowance_pct = math.hypot(
        rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]), measured.capacity_allowance_pct or 0.0
    )
    adjusted = adjust(log.instrument, "capacity", value)
    conditions: dict[str, Any] = {
        **({"started_full": True} if started_full else {}),
        "complete": measured.discharge_complete, "current_ma": round(abs(measured.discharge[-1].mean_current_ma), 1),
        "cut_off_v": measured.cut_off_v, "test": test, "energy_mwh": measured.discharge_energy_mwh,
        "worked": f"∫ I dt over {measured.trace.time_s.size} rows{'; ' + adjusted.text if adjusted.text else ''}",
    }  # fmt: skip
    if adjusted.raw_value is not None:
        conditions["raw_value"] = adjusted.raw_value
    # What the sampling leaves open, beyond the method's own allowance.
    conditions["half_width"] = (measured.capacity_allowance_pct or 0.0) / 100 * adjusted.value
    return ReadingEntry(
        quantity="capacity", value=adjusted.value, unit=UNIT_OF["capacity"], method=method, conditions=conditions,
        standard_u=rectangle_u(allowance_pct / 100 * adjusted.value), log_id=log.id, instrument_id=log.instrument_id,
        correction_id=adjusted.correction_id,
    )  # fmt: skip


def _resistor_ohm(log: LogRow) -> float | None:
    """The resistor that its current was worked out with [Ohm]; None: the log has a current of its own."""
    return log.read_as["resistor_ohm"] if log.read_as else None


def _resistance_entry(log: LogRow, test: int, found: ResistanceAfter, rules: HouseRules) -> ReadingEntry:
    adjusted = adjust(log.instrument, "resistance", found.mohm)
    of_resistor = (
        rules.value(limits.CAPACITY_HALF_WIDTH_PCT["resistor-log"]) / 100 * found.mohm if _resistor_ohm(log) else 0.0
    )
    standard_u = math.hypot(
        rectangle_u(found.allowance_mohm), found.spread_mohm / math.sqrt(max(found.edges, 1)), rectangle_u(of_resistor)
    )
    edges, after_s = found.edges, found.after_s
    conditions: dict[str, Any] = {
        "test": test, "worked": f"ΔU / ΔI {after_s:g} s after {edges} step{'s' if edges != 1 else ''} of current{'; ' + adjusted.text if adjusted.text else ''}",
    }  # fmt: skip
    if adjusted.raw_value is not None:
        conditions["raw_value"] = adjusted.raw_value
    conditions["half_width"] = math.hypot(found.half_width_mohm, of_resistor)
    return ReadingEntry(
        quantity="resistance", value=adjusted.value, unit=UNIT_OF["resistance"], method="dc-10s" if after_s >= 5 else "dc-1s",
        conditions=conditions, standard_u=standard_u, log_id=log.id, instrument_id=log.instrument_id, correction_id=adjusted.correction_id,
    )  # fmt: skip
