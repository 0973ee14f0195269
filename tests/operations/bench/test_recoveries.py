"""Recoveries as they are kept: one clock, whoever looks, and an outcome that nobody has to remember."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor, voltage
from zembric.core.errors import BadInputError, ConflictError, DangerError
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, recoveries
from zembric.operations.bench.benchside import at_the_bench
from zembric.operations.bench.recoveries import TypedLook
from zembric.operations.cells.stories import cell_story


@pytest.fixture
def low(session: Session, volunteer: Actor) -> str:
    """A cell that was found at 2.7 V: 260 mA at most."""
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "2.7", at(minutes=1))
    return number


def test_more_current_than_the_plan_is_refused_before_it_is_on(session: Session, volunteer: Actor, low: str) -> None:
    with pytest.raises(DangerError, match="260\u00a0mA at most"):
        recoveries.start_recovery(session, volunteer, low, "500", None, at(minutes=2))
    for wrong in ("0", "-5", "some"):
        with pytest.raises(BadInputError):
            recoveries.start_recovery(session, volunteer, low, wrong, None, at(minutes=2))
    assert recoveries.running_recoveries(session, at(minutes=3)) == []


def test_one_clock_runs_for_everybody_and_passing_the_limit_ends_it(
    session: Session, volunteer: Actor, coordinator: Actor, low: str
) -> None:
    recoveries.start_recovery(session, volunteer, low, "250", "20", at(minutes=2))
    with pytest.raises(ConflictError, match="started by Volunteer"):
        recoveries.start_recovery(session, coordinator, low, "250", None, at(minutes=3))
    recoveries.check_recovery(session, coordinator, low, TypedLook("2.9", "24"), at(minutes=17))
    running = at_the_bench(session, low, at(minutes=20)).recovery
    assert running
    assert (running.started_by, running.started_at, [c.value_v for c in running.checks]) == (
        "Volunteer", at(minutes=2), [2.9],
    )  # fmt: skip
    assert running.state.next_check_at == at(minutes=32)
    assert [cell.number for cell, _ in recoveries.running_recoveries(session, at(minutes=20))] == [low]
    cell = recoveries.check_recovery(session, coordinator, low, TypedLook("3,05", "25"), at(minutes=32))
    assert cell.judgement
    assert cell.judgement.next_step == "rest"
    assert recoveries.running_recoveries(session, at(minutes=33)) == []


@pytest.mark.parametrize(
    ("look", "minutes", "step"),
    [
        (TypedLook("3.1", "31"), 10, "fire-safe-box"),
        (TypedLook("3.1", "65"), 10, "fire-safe-box"),
        (TypedLook("3.1", warmth="warm"), 10, "fire-safe-box"),
        (TypedLook("3.1", warmth="cool", swells=True), 10, "fire-safe-box"),
        (TypedLook("2.99", "21"), 62, "out-box"),
    ],
)
def test_the_hour_fails_it_for_good_and_warmth_or_swelling_is_a_hazard(
    session: Session, volunteer: Actor, low: str, look: TypedLook, minutes: int, step: str
) -> None:
    recoveries.start_recovery(session, volunteer, low, "250", "20", at(minutes=2))
    cell = recoveries.check_recovery(session, volunteer, low, look, at(minutes=minutes))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.next_step) == ("out", step)
    if step == "fire-safe-box":
        return
    with pytest.raises(ConflictError, match="No recovery is due"):
        recoveries.start_recovery(session, volunteer, low, "100", None, at(minutes=minutes + 1))


def test_a_look_without_a_start_and_an_impossible_temperature_are_refused(
    session: Session, volunteer: Actor, low: str
) -> None:
    with pytest.raises(ConflictError, match="Start it first"):
        recoveries.check_recovery(session, volunteer, low, TypedLook("2.8", None), at(minutes=5))
    recoveries.start_recovery(session, volunteer, low, "250", None, at(minutes=2))
    with pytest.raises(BadInputError) as refused:
        recoveries.check_recovery(session, volunteer, low, TypedLook("2.8", "2000"), at(minutes=5))
    assert refused.value.field == "cell_degc"


def test_every_look_stands_in_the_story(session: Session, volunteer: Actor, low: str) -> None:
    recoveries.start_recovery(session, volunteer, low, "250", "20", at(minutes=2))
    recoveries.check_recovery(session, volunteer, low, TypedLook("2.9", "24"), at(minutes=17))
    recoveries.check_recovery(session, volunteer, low, TypedLook("3.0", "24"), at(minutes=30))
    steps = [getattr(entry, "step", None) for entry in cell_story(session, low, at(hours=1)).entries]
    assert steps[-4:] == ["recovery-started", "recovery-check", "recovery-check", "recovery"]
