"""Testers' logs: the file kept as it came, read now or by the worker, asked about where it must be, kept as readings."""

from __future__ import annotations

from dataclasses import asdict, dataclass, fields
from datetime import datetime
from typing import TYPE_CHECKING, Any

from sqlalchemy import ColumnElement, func, or_, select

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.house import limits
from zembric.core.measure.traces.analysis import LogAnalysis, Test, analyse_log, signature_of
from zembric.core.measure.traces.model import Answers, LogRefusedError, Remark
from zembric.core.measure.traces.text import read_text
from zembric.core.said import Amount, Said, said, to_json
from zembric.files.logs import log_text
from zembric.models import CellRow, Entry, LogHabit, LogRow, ReadingEntry
from zembric.operations.actors import require_them
from zembric.operations.bench.keeping import cell_in_hand
from zembric.operations.cells.stories import get_cell
from zembric.operations.database import unit_of_work
from zembric.operations.file_store import Received
from zembric.operations.known.instruments import get_instrument
from zembric.operations.measuring.log_traces import LogStore, as_answers, write_trace
from zembric.operations.queue import LOGS, READ_LOG, put_into_queue
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

MOST_LOG_BYTES = 200 * 1024 * 1024
#: Larger files are read by the worker, so that the request answers at once.
READ_AT_ONCE_BYTES = 1024 * 1024
_TO_REMEMBER = "to_remember"
_ROLES = ("time", "voltage", "current", "capacity", "energy", "other")


class StoppedError(Exception):
    """Somebody stopped the reading of a log."""


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
    cell_number: str | None = None, instrument_number: str | None = None, is_read_now: bool = False,
) -> LogRow:  # fmt: skip
    """A log that lies in the store as it came is read, at once where it is small, else by the worker; `is_read_now`: by whoever asks.

    The same file dropped again is the log that is here already.

    Raises:
        BadInputError: empty, or a number that cannot be right.
    """
    if file.bytes == 0:
        raise BadInputError(said("file-is-empty"), field="file", code="empty-file")
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
    if is_read_now:
        _put_result(session, store, log, lambda _share: None)
    else:
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
        raise ConflictError(said("this-log-is-still-being-read"))
    if readings_of(session, log):
        raise ConflictError(said("readings-were-kept-from-this-log"))
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
        raise ConflictError(said("this-log-is-still-being-read"))
    require_them(actor, log.person, said("doing-forgetting-habit"))
    habit = _habit_of(session, log.read_as["signature"]) if log.read_as and "signature" in log.read_as else None
    if habit is None:
        raise ConflictError(said("nothing-is-remembered-for-logs"))
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
            raise BadInputError(said("is-not-something-that-can", key=key[:40]), field="answers")
        checked[key] = value
    wrong = [role for role in checked.get("columns", ()) if role not in _ROLES]
    if wrong:
        raise BadInputError(
            said("is-not-what-column-can-be", wrong=str(wrong[0])[:40], roles=tuple(_ROLES)), field="columns"
        )
    for key in ("resistor_ohm", "every_s"):
        if key in checked and not 0 < float(checked[key]) < 1e6:
            raise BadInputError(said("it-must-be-above-zero"), field=key)
    return checked


def stop_log(session: Session, actor: Actor, log_id: int, now: datetime) -> LogRow:
    """Stops a reading that waits or runs; the file stays."""
    log = get_log(session, log_id, lock=True)
    if log.state == "waiting":
        log.state = "cancelled"
    elif log.state != "reading":
        raise ConflictError(said("this-log-is-not-being-read"))
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
            "said": to_json(said("log-our-fault")),
        }  # fmt: skip


def take_up_again(session: Session) -> None:
    """Puts logs whose reading was broken off, by a worker that was killed, into the queue once more."""
    for log_id in session.scalars(select(LogRow.id).where(LogRow.state == "reading").order_by(LogRow.id)):
        put_into_queue(session, READ_LOG, LOGS, log_id=log_id)


def _put_result(session: Session, store: LogStore, log: LogRow, tell: Callable[[float], None]) -> None:
    """Reads the file and writes what came of it into the row."""
    try:
        text = log_text(store.read(log.sha256))
        signature = signature_of(text)
        if not log.answers:
            # Kept with the log, so that it is read the same way whenever its trace is made anew.
            log.answers = _remembered(session, signature)
        answers = as_answers(log.answers)
        analysis = analyse_log(text, answers, tell)
        del text
    except LogRefusedError as refused:
        log.state, log.tests, log.read_as, log.remarks = "refused", None, None, None
        log.refusal = {
            "code": refused.code,
            "said": to_json(refused.said),
            "line": refused.line,
            "column": refused.column,
        }
        return
    for at, test in enumerate(analysis.tests):
        write_trace(store, log, at, test)
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
    answers = dict(habit.answers) | {"remembered": True}
    if "resistor_ohm" in answers:
        del answers["confirmed"]
    return answers


def _remembered_remark(answers: dict[str, Any]) -> tuple[Remark, ...]:
    if not answers.get("remembered"):
        return ()
    if "resistor_ohm" not in answers:
        return (Remark("remembered", said("log-remembered")),)
    asked = said("log-remembered-resistor", resistor=Amount(answers["resistor_ohm"], "Ω", 1))
    return (Remark("remembered", asked, asks="resistor"),)


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
    return {
        "code": remark.code, "said": to_json(remark.said), "line": remark.line, "column": remark.column,
        "asks": remark.asks, "choices": list(remark.choices),
    }  # fmt: skip


def describe_test(test: Test) -> dict[str, Any]:
    """What one test measured, as it is stored and shown."""
    line = test.trace.line
    return {
        "rows": int(test.trace.time_s.size), "duration_s": float(test.trace.time_s[-1]), "sampling_s": test.sampling_s,
        "discharge_capacity_mah": test.discharge_capacity_mah, "discharge_energy_mwh": test.discharge_energy_mwh,
        "discharge_complete": test.discharge_complete, "charge_capacity_mah": test.charge_capacity_mah,
        "last_charge": _last_charge(test), "charge_before": _charge_before(test),
        "cut_off_v": test.cut_off_v, "capacity_allowance_pct": test.capacity_allowance_pct, "sag_v": test.sag_v,
        "end_v": test.discharge[-1].end_voltage_v if test.discharge else None,
        "mean_current_ma": abs(test.discharge[-1].mean_current_ma) if test.discharge else None,
        "resistances": [asdict(found) for found in test.resistances if found.tells],
        "no_resistance": to_json(why) if (why := _why_no_resistance(test)) else None,
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


def _last_charge(test: Test) -> dict[str, Any] | None:
    """The end of the last charge, and whether the discharge that counts came after it; None: there is none."""
    if not test.charge:
        return None
    last = test.charge[-1]
    return {
        "end_voltage_v": last.end_voltage_v, "complete": last.complete, "duration_s": last.duration_s,
        "before_discharge": not test.discharge or last.last < test.discharge[-1].first,
    }  # fmt: skip


def _charge_before(test: Test) -> dict[str, Any] | None:
    """The last charge before the discharge that counts, where another one came after it; None: there is none, or no other."""
    if not test.charge or not test.discharge or test.charge[-1].last < test.discharge[-1].first:
        return None
    before = [
        step
        for step in test.steps
        if step.kind == "charge" and not step.is_pulse and step.last < test.discharge[-1].first
    ]
    if not before:
        return None
    return {
        "end_voltage_v": before[-1].end_voltage_v, "complete": before[-1].complete, "duration_s": before[-1].duration_s,
        "before_discharge": True,
    }  # fmt: skip


def _why_no_resistance(test: Test) -> Said | None:
    """Why a test shows no resistance; None where it shows one."""
    if any(found.tells for found in test.resistances):
        return None
    if test.resistances:
        vague = min(test.resistances, key=lambda found: found.half_width_mohm / found.mohm)
        return said(
            "no-resistance-vague", found=Amount(vague.mohm, "mΩ"), half_width=Amount(vague.half_width_mohm, "mΩ")
        )
    if test.sampling_s > limits.EDGE_APART_S.value:
        return said("no-resistance-rows-apart")
    return said("no-resistance-short-steps") if test.edges else said("no-resistance-no-step")


def get_log(session: Session, log_id: int, *, lock: bool = False) -> LogRow:
    if lock:
        session.execute(select(LogRow.id).where(LogRow.id == log_id).with_for_update(of=LogRow, key_share=True))
    log = session.scalar(select(LogRow).where(LogRow.id == log_id).execution_options(populate_existing=True))
    if log is None:
        raise NotFoundError(said("there-is-no-such-log"))
    return log


@dataclass(frozen=True, slots=True)
class LogFilter:
    """Which logs to list; None and empty: no restriction. `text` stands in the file's name or is a cell's number."""

    text: str = ""
    cell_number: str | None = None
    instrument_number: str | None = None
    #: Only those that can be drawn.
    is_read: bool = False
    #: Only those that came before this one.
    before_id: int | None = None


PAGE_OF_LOGS = 30


def listed_logs(session: Session, wanted: LogFilter) -> tuple[Sequence[LogRow], int]:
    """A page of logs, the newest first, and how many there are in all.

    Raises:
        NotFoundError: nobody has the number of the cell or the instrument.
    """
    conditions: list[ColumnElement[bool]] = []
    if wanted.cell_number:
        conditions.append(LogRow.cell_id == get_cell(session, wanted.cell_number).id)
    if wanted.instrument_number:
        conditions.append(LogRow.instrument_id == get_instrument(session, wanted.instrument_number).id)
    if wanted.is_read:
        conditions.append(LogRow.state == "read")
    text = wanted.text.strip()
    if text:
        of_cell = select(CellRow.id).where(CellRow.number == text.removeprefix("#")).scalar_subquery()
        conditions.append(or_(LogRow.file_name.icontains(text, autoescape=True), LogRow.cell_id == of_cell))
    count = session.scalar(select(func.count()).select_from(LogRow).where(*conditions)) or 0
    if wanted.before_id is not None:
        conditions.append(LogRow.id < wanted.before_id)
    query = select(LogRow).where(*conditions).order_by(LogRow.id.desc()).limit(PAGE_OF_LOGS)
    return session.scalars(query).all(), count


def readings_of(session: Session, log: LogRow) -> Sequence[ReadingEntry]:
    """Readings that were kept from a log and still count."""
    superseded = select(Entry.supersedes_id).where(Entry.supersedes_id.is_not(None))
    return session.scalars(
        select(ReadingEntry)
        .where(ReadingEntry.log_id == log.id, ReadingEntry.id.not_in(superseded))
        .order_by(ReadingEntry.id)
    ).all()
