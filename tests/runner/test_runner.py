"""The runner with a simulated tester at high speed: from slot to shelf, and everything that goes wrong on the way."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from sqlalchemy import Engine, select, update
from sqlalchemy.orm import Session

from tests.support.testers import (
    StandInAtHand,
    ended,
    running,
    slot_numbers,
    standing_in,
    state_of,
    step_of,
    until,
    vape_cells,
    wire_up,
)
from tests.support.worker import work_off_the_queue
from zembric.core.tester.programs import ProgramCode
from zembric.models import AlarmRow, Presence, RunRow, WiredTester
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.database import unit_of_work
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.testers.runs import ask_for_run, stop_run
from zembric.operations.testers.slots import put_in


@dataclass
class Table:
    """A wired tester, some cells, and who works at it."""

    engine: Engine
    standin: StandInAtHand
    slots: list[str]
    cells: list[str]
    who: Actor
    store: LogStore

    def start(self, at: int, program: ProgramCode) -> int:
        with unit_of_work(self.engine) as session:
            put_in(session, self.who, self.slots[at], self.cells[at], datetime.now(UTC))
        with unit_of_work(self.engine) as session:
            return ask_for_run(session, self.who, self.slots[at], program, datetime.now(UTC)).id

    def alarms(self) -> list[str]:
        with unit_of_work(self.engine) as session:
            return [*session.scalars(select(AlarmRow.code).order_by(AlarmRow.id))]


@pytest.fixture
def table(engine: Engine, session: Session, coordinator: Actor, volunteer: Actor, tmp_path: Path) -> Iterator[Table]:
    with standing_in(1200) as standin:
        wire_up(session, coordinator, standin.port, datetime.now(UTC))
        cells = vape_cells(session, volunteer, 3)
        session.commit()
        yield Table(engine, standin, slot_numbers(session), cells, volunteer, LogStore(tmp_path / "logs"))
        assert standin.violations() == "none"


def test_two_cells_go_from_slot_to_shelf_and_nobody_types(table: Table) -> None:
    with running(table.engine):
        runs = [table.start(at, "cycle") for at in (0, 1)]
        assert [ended(table.engine, run).state for run in runs] == ["ended", "ended"]
    work_off_the_queue(table.engine, table.store)
    with unit_of_work(table.engine) as session:
        assert [state_of(table.engine, run).not_kept_said for run in runs] == [None, None]
        assert [step_of(session, number) for number in table.cells[:2]] == ["shelve", "shelve"]
    assert table.alarms() == []


def wait_for_stage(table: Table, run: int, stage: int) -> None:
    until(lambda: (state_of(table.engine, run).progress or {}).get("stage") == stage)


def wait_for_rows(table: Table, run: int, rows: int = 8) -> None:
    until(lambda: state_of(table.engine, run).rows >= rows)


@pytest.mark.parametrize(
    ("fault", "alarm"),
    [("hot", "too-hot"), ("swelling", "raced-to-full"), ("reversed", "reversed")],
)
def test_what_endangers_stops_the_run_and_is_said(table: Table, fault: str, alarm: str) -> None:
    with running(table.engine):
        table.standin.say("SPEED 60")
        run = table.start(0, "charge")
        wait_for_rows(table, run)
        table.standin.say(f"CHAN1:FAULT {fault}")
        table.standin.say("SPEED 1200")
        over = ended(table.engine, run)
    assert over.state == "stopped"
    assert table.alarms() == [alarm]


def test_a_cell_that_somebody_finds_to_be_a_hazard_is_stopped_at_once(table: Table) -> None:
    with running(table.engine):
        table.standin.say("SPEED 20")
        run = table.start(0, "charge")
        wait_for_rows(table, run)
        with unit_of_work(table.engine) as session:
            entries.inspect(session, table.who, table.cells[0], ["swollen"], datetime.now(UTC))
        over = ended(table.engine, run)
    assert over.state == "stopped"
    assert table.alarms() == ["take-it-off"]


def test_a_lost_contact_stands_still_and_goes_on_when_it_is_back(table: Table) -> None:
    with running(table.engine):
        table.standin.say("SPEED 20")
        run = table.start(0, "charge")
        wait_for_rows(table, run)
        table.standin.say("CHAN1:FAULT contact")
        until(lambda: state_of(table.engine, run).state == "waits")
        table.standin.say("CHAN1:FAULT none")
        until(lambda: state_of(table.engine, run).state == "running")
        table.standin.say("SPEED 1200")
        assert ended(table.engine, run).state == "ended"
    assert table.alarms() == ["contact-lost"]


def test_another_cell_than_the_scanned_one_is_not_begun(table: Table) -> None:
    with running(table.engine):
        first = table.start(0, "charge")
        wait_for_rows(table, first)
        with unit_of_work(table.engine) as session:
            stop_run(session, table.who, first, datetime.now(UTC))
        ended(table.engine, first)
        table.standin.say("CHAN1:CELL 9,4.05,500")
        with unit_of_work(table.engine) as session:
            second = ask_for_run(session, table.who, table.slots[0], "charge", datetime.now(UTC)).id
        over = ended(table.engine, second)
    assert (over.state, over.rows) == ("refused", 0)
    assert table.alarms() == ["wrong-cell"]


def test_garbage_on_the_line_is_told_apart_and_the_run_goes_on_after_it(table: Table) -> None:
    with running(table.engine):
        table.standin.say("SPEED 20")
        run = table.start(0, "charge")
        wait_for_rows(table, run)
        table.standin.say("MOOD garbage")
        until(lambda: "tester-talks-nonsense" in table.alarms())
        table.standin.say("MOOD well")
        with unit_of_work(table.engine) as session:
            tester = until(
                lambda: session.scalar(
                    select(WiredTester).where(WiredTester.state == "here").execution_options(populate_existing=True)
                )
            )
        rows = state_of(table.engine, run).rows
        wait_for_rows(table, run, rows + 5)
        table.standin.say("SPEED 1200")
        assert ended(table.engine, run).state == "ended"
    assert tester.has_watchdog


def test_a_power_cut_in_a_discharge_leaves_a_part_run_that_grades_nothing(table: Table) -> None:
    with running(table.engine):
        run = table.start(0, "cycle")
        wait_for_stage(table, run, 5)
        wait_for_rows(table, run, state_of(table.engine, run).rows + 5)
        table.standin.say("MOOD cut")
        until(lambda: "tester-silent" in table.alarms())
        table.standin.say("MOOD well")
        over = ended(table.engine, run)
    assert over.state == "stopped"
    assert table.alarms() == ["tester-silent", "run-broken-off"]
    work_off_the_queue(table.engine, table.store)
    with unit_of_work(table.engine) as session:
        assert step_of(session, table.cells[0]) == "charge"


def test_a_runner_that_is_killed_is_followed_by_another_that_goes_on(table: Table) -> None:
    run = None
    command = [sys.executable, "-m", "zembric.cli.runner"]
    url = table.engine.url.render_as_string(hide_password=False)
    process = subprocess.Popen(command, env={**os.environ, "DATABASE_URL": url, "ZEMBRIC_TURN_S": "0.1"})
    try:
        run = table.start(0, "cycle")
        wait_for_stage(table, run, 5)
        table.standin.say("SPEED 60")
        wait_for_rows(table, run, state_of(table.engine, run).rows + 5)
    finally:
        process.kill()
        process.wait()
    with running(table.engine):
        table.standin.say("SPEED 1200")
        over = ended(table.engine, run)
    assert over.state == "ended"
    with unit_of_work(table.engine) as session:
        times = [*session.scalars(select(RunRow.time_s).where(RunRow.run_id == run).order_by(RunRow.number))]
    assert times == sorted(set(times))


def test_where_nobody_is_here_everything_that_charges_stops(table: Table) -> None:
    with running(table.engine):
        table.standin.say("SPEED 1")
        run = table.start(0, "charge")
        wait_for_rows(table, run, 2)
        with unit_of_work(table.engine) as session:
            session.execute(update(Presence).values(at=datetime.now(UTC) - timedelta(minutes=31)))
        over = ended(table.engine, run)
    assert over.state == "stopped"
    assert table.alarms() == ["nobody-here"]


def test_two_runners_are_one(table: Table) -> None:
    with running(table.engine), running(table.engine):
        run = table.start(0, "storage")
        assert ended(table.engine, run).state == "ended"
    assert table.alarms() == []
