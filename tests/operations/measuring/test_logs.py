"""Logs taken in: kept as they came, read at once or by the worker, asked about, remembered, kept as readings."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import numpy as np
import pyarrow
import pytest
from pyarrow import parquet
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor
from tests.support.logs import HEADER, csv_of, one_discharge, true_discharge_mah, whole_run
from tests.support.worker import work_off_the_queue
from zembric.core.errors import BadInputError, ConflictError
from zembric.models import LogRow, ReadingEntry, StepEntry
from zembric.operations.actors import Actor
from zembric.operations.cells.stories import get_cell
from zembric.operations.database import unit_of_work
from zembric.operations.known.entries import counting, entries_of
from zembric.operations.measuring import log_readings, log_traces, logs
from zembric.operations.measuring.log_traces import LogStore

WHOLE = csv_of(whole_run()).encode()
NO_HEADER = csv_of(one_discharge(), header=None).encode()


@pytest.fixture
def store(tmp_path: Path) -> LogStore:
    return LogStore(tmp_path / "logs")


@pytest.fixture
def number(session: Session, volunteer: Actor) -> str:
    return numbers_of(open_donor(session, volunteer))[0]


def take_in(session: Session, store: LogStore, who: Actor, content: bytes, **more: Any) -> LogRow:
    file = store.receive(io.BytesIO(content), logs.MOST_LOG_BYTES)
    return logs.take_in_log(session, store, who, "slot 2.csv", file, at(1), **more)


def test_a_log_becomes_a_charge_a_capacity_and_resistances_of_its_cell(
    session: Session, volunteer: Actor, store: LogStore, number: str
) -> None:
    log = take_in(session, store, volunteer, WHOLE, cell_number=number)
    assert log.state == "read"
    cell = log_readings.keep_log(session, store, volunteer, log.id, number, 0, at(1))
    kept = counting(entries_of(session, cell.id))
    assert [entry.details["complete"] for entry in kept if isinstance(entry, StepEntry)] == [True]
    readings = {entry.method: entry for entry in kept if isinstance(entry, ReadingEntry)}
    assert readings["trace"].value == pytest.approx(true_discharge_mah(whole_run()), rel=0.003)
    assert readings["trace"].log_id == log.id
    assert readings["dc-10s"].value == pytest.approx(60 * (0.7 + 0.3 * (1 - np.exp(-0.5))), rel=0.1)
    with pytest.raises(ConflictError, match="kept already"):
        log_readings.keep_log(session, store, volunteer, log.id, number, 0, at(2))


def test_an_unfinished_run_is_kept_and_not_graded(
    session: Session, volunteer: Actor, store: LogStore, number: str
) -> None:
    log = take_in(session, store, volunteer, WHOLE[: len(WHOLE) * 3 // 4])
    cell = log_readings.keep_log(session, store, volunteer, log.id, number, 0, at(1))
    assert cell.judgement is not None
    assert cell.judgement.capacity_mah is None
    capacity = next(e for e in entries_of(session, cell.id) if isinstance(e, ReadingEntry) and e.quantity == "capacity")
    assert capacity.conditions["complete"] is False


def test_what_was_guessed_is_asked_once_and_remembered_for_the_next_of_its_kind(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    first = take_in(session, store, volunteer, NO_HEADER)
    assert first.state == "asks"
    assert {remark["asks"] for remark in first.remarks or []} >= {"columns", "current_unit"}
    answers = {"columns": ["time", "voltage", "current"], "current_unit": "A"}
    assert logs.answer_log(session, store, volunteer, first.id, answers, at(1), remember=True).state == "read"
    second = take_in(session, store, volunteer, csv_of(one_discharge()[:-1], header=None).encode())
    assert second.state == "read"


def test_a_refused_log_keeps_its_file_and_is_read_once_somebody_says_the_resistor(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    content = csv_of(one_discharge(), "{t:.1f},{v:.4f}", "time (s),voltage (V)").encode()
    log = take_in(session, store, volunteer, content)
    assert (log.state, (log.refusal or {})["code"]) == ("refused", "no-current")
    assert store.read(log.sha256) == content
    read = logs.answer_log(session, store, volunteer, log.id, {"resistor_ohm": 4.0}, at(1), remember=False)
    assert read.state == "read"
    assert (read.tests or [{}])[0]["discharge_capacity_mah"] > 1000


def test_a_remembered_resistor_is_asked_for_with_each_log_and_forgotten_where_it_shows(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    first, second, third = (
        csv_of(one_discharge()[:-cut], "{t:.1f},{v:.4f}", "time (s),voltage (V)").encode() for cut in (1, 2, 3)
    )
    log = take_in(session, store, volunteer, first)
    logs.answer_log(session, store, volunteer, log.id, {"resistor_ohm": 18.0}, at(1), remember=True)
    log = take_in(session, store, volunteer, second)
    assert (log.state, next(remark["asks"] for remark in log.remarks or [])) == ("asks", "resistor")
    logs.forget_habit(session, store, volunteer, log.id, at(2))
    assert (log.state, (log.refusal or {})["code"]) == ("refused", "no-current")
    assert take_in(session, store, volunteer, third).state == "refused"


def test_a_run_through_a_resistor_is_kept_as_such_with_the_resistors_tolerance(
    session: Session, volunteer: Actor, store: LogStore, number: str
) -> None:
    content = csv_of(one_discharge(), "{t:.1f},{v:.4f}", "time (s),voltage (V)").encode()
    log = take_in(session, store, volunteer, content)
    logs.answer_log(session, store, volunteer, log.id, {"resistor_ohm": 4.0}, at(1), remember=False)
    cell = log_readings.keep_log(session, store, volunteer, log.id, number, 0, at(2), started_full=True)
    capacity = next(e for e in entries_of(session, cell.id) if isinstance(e, ReadingEntry) and e.quantity == "capacity")
    assert capacity.method == "resistor-log"
    assert capacity.standard_u / capacity.value == pytest.approx(0.05 / 3**0.5, rel=0.02)


def test_a_log_is_not_read_anew_once_its_readings_count(
    session: Session, volunteer: Actor, store: LogStore, number: str
) -> None:
    log = take_in(session, store, volunteer, WHOLE)
    log_readings.keep_log(session, store, volunteer, log.id, number, 0, at(1))
    with pytest.raises(ConflictError, match="Take them back"):
        logs.answer_log(session, store, volunteer, log.id, {"current_unit": "mA"}, at(2), remember=False)


def test_the_same_file_is_the_log_that_is_here_already(session: Session, volunteer: Actor, store: LogStore) -> None:
    assert take_in(session, store, volunteer, WHOLE).id == take_in(session, store, volunteer, WHOLE).id


def test_an_answer_that_no_log_has_is_refused(session: Session, volunteer: Actor, store: LogStore) -> None:
    log = take_in(session, store, volunteer, NO_HEADER)
    with pytest.raises(BadInputError):
        logs.answer_log(session, store, volunteer, log.id, {"columns": ["soul"]}, at(1), remember=False)


def large_log() -> bytes:
    rows = csv_of(one_discharge(), header=None)
    return (HEADER + "\n" + rows).encode() + b"".join(
        f"{20000 + second},3.6,0.0\n".encode() for second in range(90000)
    )  # fmt: skip


def test_a_large_log_is_read_by_the_worker_from_the_queue(engine: Engine, store: LogStore) -> None:
    """It is in the queue when the transaction is committed, and read when the worker has run once."""
    with unit_of_work(engine) as session:
        who = _volunteer(session)
        log_id = take_in(session, store, who, large_log()).id
        assert session.get(LogRow, log_id).state == "waiting"  # type: ignore[union-attr]
    work_off_the_queue(engine, store)
    with unit_of_work(engine) as session:
        log = logs.get_log(session, log_id)
        assert (log.state, log.progress_pct) == ("read", 100)
        assert session.scalar(text("SELECT count(*) FROM procrastinate_jobs")) == 0


def test_what_a_killed_worker_left_half_read_is_read_by_the_next(engine: Engine, store: LogStore) -> None:
    with unit_of_work(engine) as session:
        log = take_in(session, store, _volunteer(session), large_log())
        log.state, log_id = "reading", log.id
        session.execute(text("UPDATE procrastinate_jobs SET status = 'doing'"))
    with unit_of_work(engine) as session:
        logs.take_up_again(session)
    work_off_the_queue(engine, store)
    with unit_of_work(engine) as session:
        assert logs.get_log(session, log_id).state == "read"


def test_a_log_that_fails_by_our_fault_says_so_and_does_not_wait_for_ever(
    engine: Engine, store: LogStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    with unit_of_work(engine) as session:
        log_id = take_in(session, store, _volunteer(session), large_log()).id
    tries: list[int] = []

    def fail(*_: object) -> None:
        tries.append(1)
        raise RuntimeError("a fault")

    monkeypatch.setattr("zembric.cli.worker.read_waiting_log", fail)
    work_off_the_queue(engine, store)
    assert len(tries) > 1
    with unit_of_work(engine) as session:
        log = logs.get_log(session, log_id)
        assert log.state == "refused"
        assert log.refusal is not None
        assert log.refusal["said"] == {"code": "log-our-fault"}


def test_a_log_that_was_taken_in_by_a_failed_request_leaves_no_job(engine: Engine, store: LogStore) -> None:
    def fail() -> None:
        with unit_of_work(engine) as session:
            take_in(session, store, _volunteer(session), large_log())
            raise ConnectionError

    with pytest.raises(ConnectionError):
        fail()
    with unit_of_work(engine) as session:
        assert session.scalar(text("SELECT count(*) FROM procrastinate_jobs")) == 0


def test_a_reading_is_stopped_where_somebody_asks_for_it(engine: Engine, store: LogStore) -> None:
    with unit_of_work(engine) as session:
        who = _volunteer(session)
        log = take_in(session, store, who, large_log())
        log.stop_asked = True
        log_id = log.id
    work_off_the_queue(engine, store)
    with unit_of_work(engine) as session:
        assert logs.get_log(session, log_id).state == "cancelled"


def test_a_trace_goes_out_in_open_columns_and_comes_back_the_same(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    log = take_in(session, store, volunteer, WHOLE)
    log.cell = open_donor(session, volunteer).cells[0]
    out = b"".join(log_traces.trace_csv(store, log, 0))
    header, first, *_ = out.decode().splitlines()
    assert header == (
        "test_time_second,voltage_volt,current_ampere,source_line,discharge_capacity_milliampere_hour,"
        "cell_number,instrument_number,capacity_method"
    )
    assert first.endswith(f",{log.cell.number},,trace")
    table = b"".join(log_traces.trace_parquet(store, log, 0))
    assert parquet.read_table(pyarrow.BufferReader(table)).column_names == header.split(",")
    for content in (out, table):
        again = take_in(session, store, volunteer, content)
        assert (again.tests or [{}])[0]["discharge_capacity_mah"] == pytest.approx(
            (log.tests or [{}])[0]["discharge_capacity_mah"]
        )


def test_of_a_long_trace_only_what_is_shown_is_read_and_its_ends_stay_where_they_are(
    session: Session, volunteer: Actor, store: LogStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    short = take_in(session, store, volunteer, WHOLE)
    whole = log_traces.curve(store, short, 0, columns=300)
    monkeypatch.setattr(log_traces, "_HELD_ROWS", 100)
    log = take_in(session, store, volunteer, WHOLE + b"\n")
    thin = log_traces.curve(store, log, 0, columns=300)
    assert (thin.time_s[0], thin.time_s[-1], max(thin.voltage_v)) == (
        whole.time_s[0],
        whole.time_s[-1],
        max(whole.voltage_v),
    )
    near = log_traces.curve(store, log, 0, columns=300, from_s=1000.0, to_s=1200.0)
    assert near.time_s[0] <= 1000
    assert near.time_s[-1] >= 1200


def test_a_trace_that_a_backup_left_out_is_read_from_the_original_again(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    log = take_in(session, store, volunteer, WHOLE)
    store.trace_path(log, 0).unlink()
    assert log_traces.test_of(store, log, 0).discharge_complete


def test_a_curve_has_no_more_points_than_a_screen_shows_and_none_of_its_peaks_is_lost(
    session: Session, volunteer: Actor, store: LogStore
) -> None:
    log = take_in(session, store, volunteer, WHOLE)
    test = log_traces.test_of(store, log, 0)
    curve = log_traces.curve(store, log, 0, columns=60)
    assert curve.time_s.size <= 4 * 60 + 2
    assert (curve.voltage_v.min(), curve.voltage_v.max()) == (test.trace.voltage_v.min(), test.trace.voltage_v.max())
    part = log_traces.curve(store, log, 0, columns=60, from_s=1000, to_s=1200)
    assert (part.time_s[0] <= 1000, part.time_s[-1] >= 1200) == (True, True)
    assert part.time_s.size == 43  # every row of the 200 s, one more on each side


def _volunteer(session: Session) -> Actor:
    from zembric.models import Person  # noqa: PLC0415

    person = session.scalars(select(Person).where(Person.name == "Volunteer")).one()
    return Actor(person.id, person.name, "volunteer")


def test_logs_are_found_by_name_cell_and_instrument_and_none_is_out_of_reach(
    session: Session, volunteer: Actor, store: LogStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    taken = [take_in(session, store, volunteer, WHOLE + b"\n" * more) for more in range(5)]
    taken[1].cell = get_cell(session, number)
    taken[2].file_name = "slot 7 quay.csv"
    session.flush()

    def found(**wanted: Any) -> list[int]:
        return [log.id for log in logs.listed_logs(session, logs.LogFilter(**wanted))[0]]

    assert found(text="QUAY") == [taken[2].id]
    assert found(text=number) == found(cell_number=number) == [taken[1].id]
    monkeypatch.setattr(logs, "PAGE_OF_LOGS", 2)
    page, count = logs.listed_logs(session, logs.LogFilter())
    assert ([log.id for log in page], count) == ([taken[4].id, taken[3].id], 5)
    assert found(before_id=taken[1].id) == [taken[0].id]
