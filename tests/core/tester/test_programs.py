"""Programs are made for one cell and stay inside what it bears; only a cell whose turn it is is given to a tester."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from tests.support.stories import START, a_story
from zembric.core.errors import BadInputError, DangerError
from zembric.core.grade.assessment import Assessment, assess
from zembric.core.house.limits import Family
from zembric.core.house.rules import USUAL_RULES
from zembric.core.story import Charge, Inspection, RestingVoltage
from zembric.core.tester.programs import Program, ProgramCode, as_json, check_program, from_json, make_program

LOOKED = (Inspection(START, frozenset()), RestingVoltage(START + timedelta(minutes=5), 3.62, 0.01))
NOW = START + timedelta(hours=1)


def assessed(*events: Any, **facts: Any) -> Assessment:
    return assess(a_story(*(events or LOOKED), **facts), USUAL_RULES)


def made(
    code: ProgramCode, found: Assessment | None = None, charge_a: float = 5.0, discharge_a: float = 5.0
) -> Program:
    return make_program(code, found or assessed(), NOW, slot_charge_a=charge_a, slot_discharge_a=discharge_a)


def test_a_whole_cycle_charges_rests_measures_and_leaves_nothing_empty() -> None:
    stages = made("cycle").stages
    assert [stage.kind for stage in stages] == [
        "charge", "rest", "rest", "discharge", "rest", "discharge", "rest", "charge",
    ]  # fmt: skip
    assert (stages[0].limit_v, stages[-1].limit_v) == (4.2, 3.8)
    assert stages[3].is_pulse


@pytest.mark.parametrize(("rated", "slot_a", "charge_a"), [(2600, 5.0, 1.3), (2600, 0.5, 0.5), (None, 5.0, 0.5)])
def test_a_charge_is_half_of_what_the_cell_holds_and_what_the_slot_gives(
    rated: float | None, slot_a: float, charge_a: float
) -> None:
    """Where nobody knows what it holds its current is that of a small cell, and what may go in that of a large one."""
    found = assessed(rated_mah=rated)
    stage = made("charge", found, slot_a).stages[0]
    assert stage.current_a == pytest.approx(charge_a)
    assert stage.most_mah == pytest.approx(1.2 * (rated or 4043), rel=0.01)


@pytest.mark.parametrize(
    ("found", "says"),
    [
        (assessed(family=None), "family-unknown"),
        (assessed(family=Family.PRIMARY), "primary"),
        (assessed(Inspection(START, frozenset())), "step-first"),
        (assessed(LOOKED[0], RestingVoltage(START, 2.7, 0.01)), "step-first"),
        (assessed(*LOOKED, Charge(START + timedelta(minutes=9), True, 4.4)), "step-first"),
    ],
)
def test_a_cell_that_needs_eyes_or_a_coordinator_is_given_to_no_tester(found: Assessment, says: str) -> None:
    with pytest.raises(DangerError) as refused:
        made("charge", found)
    assert refused.value.said.code.endswith(says)


def test_a_capacity_that_would_not_begin_full_is_not_begun() -> None:
    with pytest.raises(BadInputError, match="does not begin full"):
        made("capacity")


def test_a_slot_that_cannot_discharge_measures_nothing() -> None:
    with pytest.raises(BadInputError):
        made("cycle", discharge_a=0)


@pytest.mark.parametrize("change", [{"current_a": 3.0}, {"limit_v": 4.26}, {"current_a": 0.0}])
def test_no_program_goes_past_what_the_cell_bears_whoever_made_it(change: dict[str, Any]) -> None:
    program = made("charge")
    with pytest.raises(DangerError):
        check_program(replace(program, stages=(replace(program.stages[0], **change),)))


def test_a_program_comes_back_as_it_was_kept() -> None:
    program = made("cycle")
    assert from_json(as_json(program)) == program


def test_what_a_cell_should_read_follows_from_what_was_done_to_it_last() -> None:
    at_rest = made("charge").bounds.expected_v
    charged = made("charge", assessed(*LOOKED, Charge(START + timedelta(minutes=9), False, 3.9))).bounds.expected_v
    assert at_rest[0] < 3.62 < at_rest[1] < 3.8
    assert charged == pytest.approx((3.63, 3.96), abs=0.01)
