"""What runs already, people who leave and cells that are not ready yet hold back what may be planned."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.evening.test_evening import rounds
from zembric.core.evening import Cell, Channel, Evening, Operation, Problem
from zembric.core.evening.order import empty_order, room_for, rows_of, table_of
from zembric.core.evening.search import plan_evenings
from zembric.evening_search import compiled_turns

FORMATS = frozenset({"round"})


def problem(cells: int = 1, minutes: int = 30, ready: int = 0, **more: object) -> Problem:
    made = tuple(Cell(f"C{at}", 1, False, (Operation(0, 0, ((0, minutes),), "storage"),), ready) for at in range(cells))
    evenings = (Evening(0, 120), Evening(1440, 1560))
    return Problem(evenings, (Channel("T1", "tester", 1000, 1000, FORMATS),), made, 2, 1, **more)  # type: ignore[arg-type]


def starts(asked: Problem) -> list[int]:
    return sorted(row.start for row in plan_evenings(asked, rounds(30), 0, compiled_turns()))


def test_a_channel_that_runs_is_free_when_that_is_over() -> None:
    assert starts(problem(taken=((0, 0, 45),))) == [45]


def test_what_runs_until_the_end_leaves_the_next_evening() -> None:
    assert starts(problem(taken=((0, 0, 120),))) == [1440]


@pytest.mark.parametrize(("ready", "start"), [(0, 0), (50, 50), (119, 1440), (1000, 1440)])
def test_a_cell_is_not_begun_before_it_is_ready(ready: int, start: int) -> None:
    assert starts(problem(ready=ready)) == [start]


def test_nobody_there_nothing_begins() -> None:
    assert starts(problem(cells=3, absent=((20, 120),))) == [0, 1440, 1470]


def test_of_two_hands_one_may_leave() -> None:
    two = problem(cells=2, absent=((0, 120),))
    two = Problem(two.evenings, (*two.channels, two.channels[0]), two.cells, 2, 2, (), two.absent)
    assert starts(two)[0] == 0


def test_who_goes_home_before_the_hand_over_is_done_begins_nothing_however_short() -> None:
    short, long = problem(minutes=1), problem(minutes=29)
    both = replace(short, evenings=(Evening(0, 30),), cells=(*short.cells, *long.cells))
    assert len(plan_evenings(both, rounds(30), 0, compiled_turns())) == 1


def test_what_is_begun_too_late_to_be_handed_over_is_in_no_plan() -> None:
    short = replace(problem(minutes=1, ready=29), evenings=(Evening(0, 30),))
    turns, table = compiled_turns(), table_of(short)
    order, room = empty_order(table), room_for(table)
    order.length[0], order.has[0] = 1, True
    turns.lay_out(table, order, room)
    assert order.places[0].start == 29
    assert rows_of(short, table, order, room, turns) == ()
