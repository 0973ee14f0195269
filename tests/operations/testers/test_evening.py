"""The evening in the app: planned from what waits, promises first, what runs goes on, and planned anew where it slips."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.support.testers import slot_numbers, vape_cells, wire_up
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError
from zembric.core.evening import Problem, Row
from zembric.core.evening.search import plan_evenings
from zembric.core.said import from_json
from zembric.evening_search import compiled_turns
from zembric.models import EveningRow
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.testers import choosing, runs, slots
from zembric.operations.testers import evening as evenings
from zembric.operations.testers.evening import TypedEvening
from zembric.operations.testers.planning import what_if

NOW = datetime.now(UTC).replace(second=0, microsecond=0)


def planner(problem: Problem) -> tuple[Row, ...]:
    looks = iter(range(41))
    return plan_evenings(problem, lambda: next(looks, 40) / 40, 0, compiled_turns())


def until(hours: float, *people: tuple[str, float], **more: object) -> TypedEvening:
    here = people or (("Volunteer", hours),)
    return TypedEvening(
        NOW + timedelta(hours=hours),
        tuple((name, NOW + timedelta(hours=stays)) for name, stays in here),
        **more,  # type: ignore[arg-type]
    )


@pytest.fixture
def cells(session: Session, coordinator: Actor, volunteer: Actor) -> list[str]:
    wire_up(session, coordinator, 5999, NOW)
    return vape_cells(session, volunteer, 3)


def begun(session: Session, who: Actor, typed: TypedEvening) -> tuple[EveningRow, dict[str, Any]]:
    evening = evenings.begin_evening(session, who, typed, NOW, planner)
    assert evening.plan is not None
    return evening, evening.plan


def test_what_waits_is_planned_and_whole_programs_follow_one_another(
    session: Session, volunteer: Actor, cells: list[str]
) -> None:
    _, plan = begun(session, volunteer, until(8))
    assert plan["tonight"] == sorted(cells)
    assert {(row["cell"], row["program"]) for row in plan["rows"]} == {
        (cell, program) for cell in cells for program in ("charge", "capacity")
    }


def test_where_the_evening_is_too_short_nothing_is_begun_that_cannot_be_finished(
    session: Session, volunteer: Actor, cells: list[str]
) -> None:
    _, plan = begun(session, volunteer, until(1))
    assert (plan["rows"], plan["not_begun"]) == ([], cells)


def test_what_was_promised_goes_first(session: Session, volunteer: Actor, cells: list[str]) -> None:
    one_slot = (slot_numbers(session)[0],)
    _, plan = begun(session, volunteer, until(7, slots=one_slot, promised=(cells[2],)))
    assert plan["tonight"] == [cells[2]]


def test_what_runs_goes_on_and_its_slot_is_taken(session: Session, volunteer: Actor, cells: list[str]) -> None:
    place = slot_numbers(session)[0]
    slots.put_in(session, volunteer, place, cells[0], NOW)
    runs.ask_for_run(session, volunteer, place, "charge", NOW)
    _, plan = begun(session, volunteer, until(8))
    ((slot, start, end, cell),) = plan["taken"]
    assert (slot, start, cell) == (place, 0, cells[0])
    assert [row["program"] for row in plan["rows"] if row["cell"] == cells[0]] == ["capacity"]
    assert all(row["start"] >= int(end) for row in plan["rows"] if row["slot"] == place)


def test_a_start_that_slips_makes_the_plan_anew_and_says_why(
    session: Session, volunteer: Actor, cells: list[str]
) -> None:
    evening, _ = begun(session, volunteer, until(8))
    assert not evenings.look_after_evening(session, NOW + timedelta(minutes=3), planner)
    assert evenings.look_after_evening(session, NOW + timedelta(minutes=12), planner)
    assert from_json(evening.changes[0]["said"][0]).code == "evening-slipped"
    assert evening.planned_at == NOW + timedelta(minutes=12)


def test_a_cell_that_fails_leaves_the_plan(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    entries.inspect(session, volunteer, cells[1], ["leaking"], NOW)
    assert evenings.look_after_evening(session, NOW + timedelta(minutes=4), planner)
    assert evening.plan is not None
    assert cells[1] not in {row["cell"] for row in evening.plan["rows"]}


def test_somebody_who_leaves_starts_nothing_after_that(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    changed = until(8, ("Volunteer", 0.2))
    evenings.change_evening(session, volunteer, changed, evening.version, NOW, planner)
    assert evening.plan is not None
    assert [row for row in evening.plan["rows"] if row["start"] >= 12] == []


def test_of_two_who_change_the_evening_the_second_is_told(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    seen = evening.version
    evenings.change_evening(session, volunteer, until(7), seen, NOW, planner)
    with pytest.raises(ChangedMeanwhileError):
        evenings.change_evening(session, volunteer, until(6), seen, NOW, planner)


def test_the_next_things_to_do_stand_with_their_minute(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    rows = evenings.rows_of(session, evening, NOW)
    slots.put_in(session, volunteer, rows[0].slot, rows[0].cell, NOW)
    runs.ask_for_run(session, volunteer, rows[0].slot, "charge", NOW)
    after = evenings.rows_of(session, evening, NOW + timedelta(minutes=1))
    assert [row.state for row in after[:2]] == ["running", "due"]
    assert evenings.tonight(evening, after)[0].cell == rows[1].cell


def test_a_slot_offers_first_what_the_plan_has_there(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    first = evenings.tonight(evening, evenings.rows_of(session, evening, NOW))[0]
    here = slots.put_in(session, volunteer, first.slot, first.cell, NOW)
    found = choosing.choices(session, here, NOW)
    assert (first.program, found.planned, found.evening_ends_at) == ("charge", first, evening.ends_at)
    assert [each.code for each in found.programs if each.is_usual] == ["charge"]
    slots.take_out(session, volunteer, first.slot, NOW)
    other = next(number for number in slot_numbers(session) if number != first.slot)
    elsewhere = choosing.choices(session, slots.put_in(session, volunteer, other, first.cell, NOW), NOW)
    assert (elsewhere.planned, [each.code for each in elsewhere.programs if each.is_usual]) == (first, ["cycle"])


@pytest.mark.parametrize("late_by", [timedelta(0), timedelta(minutes=50)], ids=["at its end", "after it"])
def test_after_an_evening_nothing_is_begun(
    session: Session, volunteer: Actor, cells: list[str], late_by: timedelta
) -> None:
    evening, _ = begun(session, volunteer, until(8))
    rows = evenings.rows_of(session, evening, evening.ends_at + late_by)
    assert ({row.state for row in rows}, evenings.tonight(evening, rows)) == ({"missed"}, ())


def test_a_step_that_would_now_end_after_the_evening_is_missed_with_what_follows_it(
    session: Session, volunteer: Actor, cells: list[str]
) -> None:
    evening, plan = begun(session, volunteer, until(8))
    cell = cells[0]
    length = next(row["end"] - row["start"] for row in plan["rows"] if row["cell"] == cell)
    rows = evenings.rows_of(session, evening, evening.ends_at - timedelta(minutes=length - 1))
    assert [row.state for row in rows if row.cell == cell] == ["missed", "missed"]


def test_the_next_evening_s_steps_are_not_tonight_s(session: Session, volunteer: Actor, cells: list[str]) -> None:
    week = timedelta(days=7)
    evening, _ = begun(session, volunteer, until(1, later=((NOW + week, NOW + week + timedelta(hours=8)),)))
    rows = evenings.rows_of(session, evening, NOW)
    assert (len(rows), {row.state for row in rows}, evenings.tonight(evening, rows)) == (6, {"ahead"}, ())


def test_an_evening_is_not_over_while_something_runs(session: Session, volunteer: Actor, cells: list[str]) -> None:
    evening, _ = begun(session, volunteer, until(8))
    place = slot_numbers(session)[0]
    slots.put_in(session, volunteer, place, cells[0], NOW)
    run = runs.ask_for_run(session, volunteer, place, "charge", NOW)
    with pytest.raises(ConflictError) as refused:
        evenings.close_evening(session, volunteer, NOW)
    assert refused.value.said.code == "evening-still-runs"
    later = evening.ends_at + timedelta(hours=2)
    assert not evenings.look_after_evening(session, later, planner)
    runs.stop_run(session, volunteer, run.id, later)
    assert evenings.look_after_evening(session, later, planner)
    assert evenings.open_evening(session) is None


@pytest.mark.parametrize("what", ["tester", "hands", "hour"])
def test_a_what_if_keeps_nothing(session: Session, volunteer: Actor, cells: list[str], what: str) -> None:
    evening, plan = begun(session, volunteer, until(8, slots=(slot_numbers(session)[0],)))
    assert what_if(session, evening, what, NOW, planner) >= len(plan["tonight"])
    assert evening.plan == plan


@pytest.mark.parametrize("typed", [until(0.05), until(13), TypedEvening(NOW + timedelta(hours=2), ())])
def test_an_evening_that_cannot_be_is_refused(
    session: Session, volunteer: Actor, cells: list[str], typed: TypedEvening
) -> None:
    with pytest.raises(BadInputError):
        evenings.begin_evening(session, volunteer, typed, NOW, planner)
