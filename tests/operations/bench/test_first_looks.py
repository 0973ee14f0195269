"""A look and the voltage after it in one go, and entries that waited on a device without connection."""

from __future__ import annotations

import threading
from datetime import timedelta

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor
from zembric.core.errors import BadInputError, DangerError, OddInputError
from zembric.models import InspectionEntry, ReadingEntry
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, keeping
from zembric.operations.bench.benchside import tray_pass
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells.stories import cell_story
from zembric.operations.database import unit_of_work


def _volts(value: str, **more: object) -> TypedReading:
    return TypedReading("voltage", value, "meter", **more)  # type: ignore[arg-type]


def test_a_first_look_moves_the_trays_cursor_on_and_round(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 20)
    tray, numbers = donor.cells[0].place, numbers_of(donor)
    assert tray
    entries.first_look(session, volunteer, numbers[0], [], _volts("3.7"), at(minutes=1))
    assert (tray.cursor_slot, tray.cursor_by_id) == (2, volunteer.person_id)
    entries.first_look(session, volunteer, numbers[19], [], None, at(minutes=2))
    assert tray.cursor_slot == 1
    passed = tray_pass(session, tray, at(minutes=3))
    assert [(each.must_look, each.needs_voltage) for each in (passed.cells[0], passed.cells[1], passed.cells[19])] == [
        (False, False), (True, True), (False, True),
    ]  # fmt: skip


def test_a_voltage_of_a_hazard_is_refused_and_with_it_the_whole_look(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    session.commit()
    with pytest.raises(DangerError):
        entries.first_look(session, volunteer, number, ["burnt"], _volts("3.7"), at(1))
    session.rollback()
    assert not cell_story(session, number, at(1)).entries


@pytest.mark.parametrize(
    ("waited", "kept"), [(timedelta(hours=3), at(1)), (timedelta(0), at(1, hours=3)), (-timedelta(hours=1), at(1, hours=3))]
)  # fmt: skip
def test_an_entry_that_waited_counts_from_when_it_was_typed_and_a_clock_that_runs_ahead_counts_as_now(
    session: Session, volunteer: Actor, waited: timedelta, kept: object
) -> None:
    number, now = numbers_of(open_donor(session, volunteer))[0], at(1, hours=3)
    entries.first_look(session, volunteer, number, [], _volts("3.7"), now, typed_at=now - waited)
    told = cell_story(session, number, now).entries
    assert {(type(entry), entry.at, entry.recorded_at) for entry in told} == {
        (InspectionEntry, kept, now), (ReadingEntry, kept, now),
    }  # fmt: skip


@pytest.mark.parametrize("typed_at", [at(-1), at(12)])
def test_a_clock_that_must_be_wrong_is_told(session: Session, volunteer: Actor, typed_at: object) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    with pytest.raises(BadInputError, match="Set the clock of that device"):
        entries.inspect(session, volunteer, number, [], at(20), typed_at=typed_at)  # type: ignore[arg-type]


@pytest.mark.parametrize(("turned", "plus_end"), [("leads-swapped", None), ("can-is-plus", "can")])
def test_a_voltage_below_zero_is_kept_with_its_cause(
    session: Session, volunteer: Actor, turned: str, plus_end: str | None
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    with pytest.raises(BadInputError) as refused:
        entries.first_look(session, volunteer, number, [], _volts("-3.7"), at(1))
    assert refused.value.code == "negative-voltage"
    session.rollback()
    number = numbers_of(open_donor(session, volunteer))[0]
    cell = entries.first_look(session, volunteer, number, [], _volts("-3.7", turned=turned), at(1))
    assert cell.plus_end == plus_end
    assert [e.value for e in cell_story(session, number, at(1)).entries if isinstance(e, ReadingEntry)] == [3.7]


def test_an_approximate_value_is_kept_as_it_was_said_and_makes_the_judge_less_sure(
    session: Session, volunteer: Actor
) -> None:
    exact, rough = numbers_of(open_donor(session, volunteer, 2))
    for number, value in ((exact, "3.70"), (rough, "3.6 to 3.8")):
        entries.first_look(session, volunteer, number, [], _volts(value), at(minutes=1))
    first, second = (cell_story(session, number, at(1)).entries[-1] for number in (exact, rough))
    assert isinstance(first, ReadingEntry)
    assert isinstance(second, ReadingEntry)
    assert second.value == pytest.approx(3.7)
    assert second.conditions["as_typed"] == "3.6 to 3.8"
    assert second.standard_u > 10 * first.standard_u


def test_a_voltage_taken_just_off_the_charger_decides_nothing(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.first_look(session, volunteer, number, [], _volts("3.70"), at(minutes=1))
    with pytest.raises(OddInputError):
        entries.measure(session, volunteer, number, _volts("4.15"), at(minutes=5))
    cell = entries.measure(session, volunteer, number, _volts("4.15", state="off-charger"), at(minutes=5))
    assert cell.judgement
    assert cell.judgement.resting_voltage_v == 3.7


def test_whoever_waited_for_a_cell_sees_what_the_one_before_made_of_it(
    engine: Engine, session: Session, volunteer: Actor
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    session.commit()
    seen: list[str | None] = []

    def wait_for_the_cell() -> None:
        with unit_of_work(engine) as second:
            judged = keeping.cell_at_bench(second, number).judgement
            seen.append(judged.next_step if judged else None)

    entries.inspect(session, volunteer, number, [], at(1))
    session.flush()
    waiting = threading.Thread(target=wait_for_the_cell)
    waiting.start()
    with engine.connect() as watch:
        locked = text("SELECT count(*) FROM pg_locks WHERE NOT granted")
        while not watch.scalar(locked):
            watch.rollback()
    session.commit()
    waiting.join()
    assert seen == ["measure-voltage"]
