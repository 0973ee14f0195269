"""Whatever was turned, what is held is a plan and costs what it costs; who searches beside others hears of their orders."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from tests.core.evening.test_evening import TESTER, WHOLE, cell, evenings
from tests.support.evenings import faults_of
from zembric.core.evening import Evening, Problem
from zembric.core.evening.order import empty_order, room_for, rows_of, table_of
from zembric.core.evening.search import Company
from zembric.core.evening.shapes import Cost, Order, Worth
from zembric.evening_search import compiled_turns
from zembric.files.evenings import read_evenings

MANY, NIGHT = 30, 1240


def many(absent: tuple[tuple[int, int], ...]) -> Problem:
    testers = [{**TESTER, "id": f"T{at}"} for at in range(6)]
    held = evenings(*(cell(f"C{at}", *WHOLE) for at in range(MANY)), channels=testers, length=200, volunteers=2)
    return replace(read_evenings(held), evenings=(Evening(0, 200), Evening(1440, 1700)), absent=absent)


def worth(late: float, minute: float = 0.01) -> Worth:
    weight, tonight = np.full(MANY, 100.0), np.full(MANY, 30.0)
    return Worth(minute, np.array([0, NIGHT]), late, 0.01, 0.9, 0.01, weight, tonight, math.inf)


@pytest.mark.parametrize("absent", [(), ((30, 90), (60, 1500))])
def test_after_many_turns_what_is_held_is_a_plan_and_costs_what_it_costs(absent: tuple[tuple[int, int], ...]) -> None:
    problem = many(absent)
    turns, table = compiled_turns(), table_of(problem)
    held, tried, best = (empty_order(table) for _ in range(3))
    counted, cost, scratch = worth(0.9), Cost(np.zeros(1), np.zeros(1)), np.zeros(MANY * 5, np.int64)
    chance = np.array([0.0, *np.random.default_rng(1).random(30_000)])
    turns.hold(table, counted, held, cost, room := room_for(table))
    turns.take_turns(
        3000, np.array([20.0]), table, np.ones(MANY, np.bool_), counted, counted, held, best, cost, tried, room, scratch, chance,
    )()  # fmt: skip
    places: Any = held.places[: held.length[0]]
    ends = {int(table.steps.cell[place.step]): int(place.start + table.steps.minutes[place.step]) for place in places}
    clock = [end - NIGHT if end > 200 else end for end in ends.values()]
    weight = [max(0.0, 0.9 - (end - 1700) * 0.01) if end > 1700 else 1.0 for end in ends.values()]
    tonight = [max(0.0, 0.9 - (end - 200) * 0.01) if end > 200 else 1.0 for end in clock]
    assert cost.held[0] == pytest.approx(sum(clock) * 0.01 - 100 * sum(weight) - 30 * sum(tonight))
    assert len(places) > 2 * MANY
    assert (np.diff(places.start) >= 0).all()
    assert faults_of(problem, rows_of(problem, table, held, room, turns)) == []


def test_whoever_searches_is_told_the_orders_of_those_who_look_for_the_same() -> None:
    company, order = Company(), empty_order(table_of(many(())))
    other = Order(order.places, order.length, np.ones(MANY, np.bool_))
    assert company.tell(1, worth(0.9), other) == []
    assert company.tell(2, worth(0.0), order) == []
    assert company.tell(2, worth(0.9, 1.0), order) == []
    (told,) = company.tell(2, worth(0.9), order)
    assert told.has.all()
    (told,) = company.tell(1, worth(0.9), other)
    assert not told.has.any()
