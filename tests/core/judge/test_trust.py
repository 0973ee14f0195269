"""A cell is never believed for ever, and a sound one is never thrown away: over random stories."""

from __future__ import annotations

from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.sound_cells import a_life
from tests.support.sound_stories import SOUND
from tests.support.stories import RULES, START, a_story
from zembric.core.grade.assessment import Assessment, assess
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules
from zembric.core.story import (
    CameBack,
    CapacityRun,
    Charge,
    Event,
    Finding,
    Heat,
    Inspection,
    Recovery,
    Repair,
    ResistanceReading,
    RestingVoltage,
    Shelved,
    UnrestedVoltage,
)

_HEATS = st.builds(
    Heat,
    st.sampled_from((None, -5.0, 20.0, 44.0, 65.0)),
    st.sampled_from((None, -5.0, 20.0)),
    st.sampled_from((None, "cool", "warm", "too-hot")),
)
_VOLTS = st.sampled_from((0.0, 0.9, 1.6, 1.99, 2.0, 2.4, 2.6, 2.79, 2.9, 3.0, 3.3, 3.7, 3.85, 4.1, 4.2, 4.3, 4.5))
_AT = st.just(START)


def _events() -> st.SearchStrategy[Event]:
    """Everything that is not a person's decision."""
    return st.one_of(
        st.builds(Inspection, _AT, st.frozensets(st.sampled_from(Finding), max_size=1), _HEATS),
        st.builds(Repair, _AT, st.frozensets(st.sampled_from(Finding))),
        st.builds(RestingVoltage, _AT, _VOLTS, st.sampled_from((0.01, 0.001)), _HEATS),
        st.builds(UnrestedVoltage, _AT, _VOLTS, st.sampled_from(("off-charger", "under-charge", "under-load"))),
        st.builds(Recovery, _AT, st.sampled_from(("passed", "failed"))),
        st.builds(Charge, _AT, st.booleans(), _VOLTS, heat=_HEATS),
        st.builds(CapacityRun, _AT, st.just(2300.0), st.sampled_from(("tester", "charge-counted")), st.booleans(), st.none(), st.none()),
        st.builds(ResistanceReading, _AT, st.sampled_from((40.0, 400.0)), st.just("ac-1khz")),
        st.builds(Shelved, _AT),
        st.builds(CameBack, _AT, st.sampled_from(("pack", "device", "fall", "stopped"))),
    )  # fmt: skip


def _restriction(assessed: Assessment) -> int:
    """3: a hazard, 2: out whatever its figures, 1: waits for a coordinator, 0: goes on."""
    if assessed.hazards:
        return 3
    return 2 if assessed.outs else min(len(assessed.decisions_due), 1)


@settings(max_examples=300)
@given(
    st.lists(st.tuples(_events(), st.sampled_from((0.0, 0.3, 1.0, 24.0, 72.0, 500.0))), min_size=1, max_size=9),
    st.sampled_from((*Family, None)),
    st.sampled_from(("strict", "usual", "thrifty")),
)
def test_no_later_event_makes_a_dangerous_cell_less_restricted(
    found: list[tuple[Event, float]], family: Family | None, school: str
) -> None:
    rules = HouseRules(1, school, "health")  # type: ignore[arg-type]
    now, events, before = START, [], 0
    for event, hours_later in found:
        now += timedelta(hours=hours_later)
        object.__setattr__(event, "at", now)
        events.append(event)
        restriction = _restriction(assess(a_story(*events, family=family), rules))
        assert restriction >= before
        before = restriction


@settings(max_examples=400)
@given(st.integers(0, 10**6))
def test_no_sound_cell_is_ever_out_or_held_back(seed: int) -> None:
    cell = a_life(seed)
    for count in range(1, len(cell.events) + 1):
        story = a_story(*cell.events[:count], size=cell.size, family=cell.family, rated_mah=cell.rated_mah)
        assessed = assess(story, RULES)
        assert (assessed.hazards, assessed.outs, assessed.decisions_due, assessed.grade == "out") == ((), (), (), False)


@pytest.mark.parametrize("name", SOUND)
def test_no_sound_cell_is_thrown_away_or_put_aside_for_what_people_did(name: str) -> None:
    assessed = assess(SOUND[name], RULES)
    assert (assessed.hazards, assessed.outs, assessed.decisions_due, assessed.grade == "out") == ((), (), (), False)
