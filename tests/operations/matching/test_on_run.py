"""The longest run of the cells on a shelf, where the load is large enough to matter."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import TWO_BY_TWO, at, resistance, shelf_of
from zembric.operations.actors import Actor
from zembric.operations.matching.on_run import longest_run

#: 1.5 A of two cells of 2.4 Ah: 0.31 C; 3.5 A: 0.73 C.
SMALL, LARGE = replace(TWO_BY_TWO, load_a=1.5), replace(TWO_BY_TWO, load_a=3.5)


@pytest.fixture
def shelf(session: Session, volunteer: Actor) -> list[str]:
    """Six cells, of which the two strongest conduct worse."""
    numbers = shelf_of(session, volunteer, [2500, 2480, 2400, 2380, 2370, 2360])
    for number in numbers[:2]:
        resistance(session, volunteer, number, "75", at(1.5))
    session.flush()
    return numbers


def test_at_a_large_load_the_longest_run_stands_beside_that_of_capacity(session: Session, shelf: list[str]) -> None:
    longest = longest_run(session, LARGE, at(2))
    assert longest is not None
    assert longest.rate_c == pytest.approx(0.725, abs=0.02)
    assert longest.found.seconds >= longest.found.by_capacity_seconds
    assert {key for group in longest.found.match.groups for key in group.keys} <= set(shelf)
    assert longest.found.match.weakest_mah <= longest.found.by_capacity.weakest_mah


@pytest.mark.parametrize(
    "request_",
    [TWO_BY_TWO, SMALL, replace(LARGE, target_mah=4000.0), replace(LARGE, donors="apart"), replace(LARGE, series=9)],
)
def test_it_is_not_told_where_nobody_asks_or_it_does_not_matter(
    session: Session, shelf: list[str], request_: object
) -> None:
    assert longest_run(session, request_, at(2)) is None  # type: ignore[arg-type]
