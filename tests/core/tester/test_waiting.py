"""What a cell still needs at the testers follows from its next step."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest

from tests.core.tester.test_programs import LOOKED, NOW, assessed
from tests.support.stories import START
from zembric.core.story import CapacityRun, Charge, Finding, Inspection
from zembric.core.tester.waiting import needed_after, needed_by

FULL = Charge(NOW - timedelta(minutes=10), True, 4.2)
RUN = CapacityRun(
    NOW - timedelta(minutes=5), 2300, "trace", current_ma=1000, cut_off_v=3.0, complete=True, started_full=True
)


@pytest.mark.parametrize(
    ("events", "programs"),
    [
        ((*LOOKED,), [("charge", 0), ("capacity", 30)]),
        ((*LOOKED, FULL), [("capacity", 0)]),
        ((*LOOKED, FULL, RUN), [("pulse", 0)]),
        ((Inspection(START, frozenset()),), None),
        ((Inspection(START, frozenset({Finding.SWOLLEN})),), None),
    ],
)
def test_programs_follow_from_the_next_step(events: tuple[Any, ...], programs: list[tuple[str, int]] | None) -> None:
    needed = needed_by(assessed(*events), NOW)
    assert (needed and list(needed.programs)) == programs


def test_a_rest_says_from_when_on_it_makes_sense() -> None:
    needed = needed_by(assessed(*LOOKED, FULL), NOW)
    assert needed is not None
    assert needed.not_before == FULL.at + timedelta(minutes=30)


def test_after_a_charge_comes_the_capacity_and_after_a_whole_cycle_nothing() -> None:
    after = needed_after("charge")
    assert after is not None
    assert after.programs == (("capacity", 30),)
    assert needed_after("cycle") is None
