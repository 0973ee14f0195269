"""What is taken over from an order that was laid out before is as if it were laid out anew; who searches beside others hears of their orders."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.core.evening.test_evening import TESTER, WHOLE, cell, evenings
from zembric.core.evening import Evening, Problem
from zembric.core.evening.order import empty_order, room_for, table_of
from zembric.core.evening.search import Company
from zembric.core.evening.shapes import APART, Cost, Order, Worth
from zembric.evening_search import compiled_turns
from zembric.files.evenings import read_evenings

MANY = 30


def many(absent: tuple[tuple[int, int], ...]) -> Problem:
    testers = [{**TESTER, "id": f"T{at}"} for at in range(6)]
    held = evenings(*(cell(f"C{at}", *WHOLE) for at in range(MANY)), channels=testers, length=200, volunteers=2)
    return replace(read_evenings(held), evenings=(Evening(0, 200), Evening(1440, 1700)), absent=absent)


def worth(late: float, minute: float = 0.01) -> Worth:
    each = np.full(MANY, 100.0)
    return Worth(minute, np.zeros(2, np.int64), late, 0.01, 0.0, 0.0, each, np.zeros(MANY))


@pytest.mark.parametrize("absent", [(), ((30, 90), (60, 1500))])
def test_after_many_turns_the_order_costs_what_it_costs_laid_out_anew(absent: tuple[tuple[int, int], ...]) -> None:
    turns, table = compiled_turns(), table_of(many(absent))
    held, tried, best = (empty_order(table) for _ in range(3))
    counted, cost, scratch = worth(0.9), Cost(np.zeros(1), np.zeros(1)), np.zeros(MANY * 5, np.int64)
    chance = np.array([0.0, *np.random.default_rng(1).random(30_000)])
    turns.hold(table, counted, held, cost, room := room_for(table))
    turns.take_turns(
        3000, np.array([20.0]), table, np.ones(MANY, np.bool_), counted, counted, held, best, cost, tried, room, scratch, chance,
    )()  # fmt: skip
    before, costs = held.places[: held.length[0]].copy(), cost.held[0]
    turns.hold(table, counted, held, cost, room_for(table))
    assert held.length[0] > 2 * APART
    assert (held.places[: held.length[0]] == before).all()
    assert cost.held[0] == pytest.approx(costs)


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
