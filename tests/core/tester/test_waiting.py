"""What a cell still needs at the testers follows from its next step."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from tests.core.tester.test_programs import LOOKED, NOW, assessed
from tests.support.stories import START
from zembric.core.next_step.planner import next_step
from zembric.core.story import CapacityRun, Charge, Finding, Inspection, ResistanceReading
from zembric.core.tester.waiting import needed_after, needed_by, usual_programs

FULL = Charge(NOW - timedelta(minutes=10), True, 4.2)
RUN = CapacityRun(
    NOW - timedelta(minutes=5), 2300, "trace", current_ma=1000, cut_off_v=3.0, complete=True, started_full=True
)
DOUBTED = replace(RUN, value_mah=2080)
FULL_AGAIN = Charge(NOW, True, 4.2)


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


@pytest.mark.parametrize(
    ("events", "step", "usual"),
    [
        (LOOKED, "charge", ("cycle", "charge")),
        ((*LOOKED, FULL, RUN, ResistanceReading(NOW, 40, "ac-1khz")), "charge", ("storage",)),
        ((*LOOKED, FULL, DOUBTED, ResistanceReading(NOW, 40, "ac-1khz")), "repeat-measurement", ("cycle", "charge")),
        (
            (*LOOKED, FULL, DOUBTED, ResistanceReading(NOW, 40, "ac-1khz"), FULL_AGAIN),
            "repeat-measurement",
            ("capacity",),
        ),
        ((*LOOKED, FULL, RUN, ResistanceReading(NOW, 132, "ac-1khz")), "repeat-measurement", ("pulse",)),
    ],
)
def test_the_usual_program_does_no_more_than_the_next_step_asks(
    events: tuple[Any, ...], step: str, usual: tuple[str, ...]
) -> None:
    """Not a whole cycle of hours for a cell that only has to be left fit for the shelf, or whose resistance is in doubt."""
    found = assessed(*events)
    assert (next_step(found, NOW).code, usual_programs(found, NOW)) == (step, usual)
