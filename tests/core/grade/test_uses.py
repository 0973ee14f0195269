"""What a graded cell suits, what would settle a doubt, and figures that do not go together."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import (
    RULES,
    a_story,
    at,
    charged,
    fully_tested,
    judged,
    looked,
    ran,
    resists,
    resting,
    skipped,
)
from zembric.core.story import CapacityRun, Charge, Event, UnrestedVoltage
from zembric.wording import say

LATER = at(days=1, hours=1)


@pytest.mark.parametrize(
    ("mah", "mohm", "method", "drain"),
    [
        # r Q = 0.058 and 0.061 Ohm Ah; at 10 s twice that; tired from 0.15 on.
        (2300, 25, "ac-1khz", "high"),
        (2300, 27, "ac-1khz", "usual"),
        (2300, 50, "dc-10s", "high"),
        (2300, 64, "ac-1khz", "usual"),
        (2300, 70, "ac-1khz", "low"),
        (1400, 20, "ac-1khz", "usual"),  # a weak cell is none for high drain
        (2300, 60, "tester", None),
    ],
)
def test_the_load_a_cell_suits_follows_from_its_resistance_times_its_capacity(
    mah: float, mohm: float, method: str, drain: str | None
) -> None:
    said = judged(a_story(*fully_tested(mah, mohm, method)), LATER)
    assert said.good_for is not None
    assert said.good_for.drain == drain


def test_a_cell_without_a_resistance_is_never_for_high_drain_and_one_that_is_out_for_nothing() -> None:
    without = judged(a_story(*fully_tested(2300)[:-1], skipped(LATER)), LATER).good_for
    assert without is not None
    assert (without.drain, "Low drain only" in say(without.said)) == (None, True)
    assert judged(a_story(*fully_tested(900)), LATER).good_for is None


def test_a_house_may_keep_vape_cells_out_of_packs() -> None:
    vape = replace(a_story(*fully_tested(2300, 40)), donor_kind="vape")
    alone = replace(RULES, switches={**RULES.switches, "vape-cells": "single-use"})
    assert [judged(vape, LATER, rules).good_for.single_use for rules in (RULES, alone)] == [False, True]  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("story", "by"),
    [
        (a_story(*fully_tested(2300, 40)), None),  # 88 %: sure
        (a_story(*fully_tested(2115, 40)), "A run with a log"),  # 81.3 %: 36 mAh by a tester, 12 by a trace
        (a_story(*fully_tested(2081, 40)), "Hardly any measurement"),
        (a_story(*fully_tested(2300, 131)), "Three readings at 1 kHz"),
        (a_story(*fully_tested(2300, 120, "tester")), "A 1 kHz meter"),
    ],
)
def test_a_doubt_says_what_would_settle_it(story: object, by: str | None) -> None:
    settled = judged(story, LATER).settled_by  # type: ignore[arg-type]
    assert (settled is None) is (by is None)
    assert (by or "") in (say(settled) if settled else "")


def full(value_mah: float, day: float) -> CapacityRun:
    """A run of which somebody said that it began full."""
    return replace(ran(value_mah, at(day)), started_full=True)


def codes(*events: object) -> set[str]:
    story = a_story(looked(), resting(3.7), charged(at(hours=2)), *events)  # type: ignore[arg-type]
    return {reason.code for reason in judged(story, at(9)).reasons} & {
        "runs-differ",
        "runs-fall",
        "charge-differs",
        "resistance-rose",
    }


@pytest.mark.parametrize(
    ("events", "found"),
    [
        ([full(2300, 1), full(2310, 2), full(2290, 3)], set()),
        ([full(1000, 1), full(2300, 2), full(2100, 3)], {"runs-differ"}),  # 9 % apart, 3 % each way
        ([full(2400, 1), full(2350, 2), full(2300, 3)], {"runs-fall"}),  # 4 % in all, 3 % allowed
        ([full(2400, 1), full(2380, 2), full(2350, 3)], set()),
        ([ran(2300, at(1)), ran(2600, at(2), "charge-counted")], {"charge-differs"}),
        ([ran(2300, at(1)), ran(2400, at(2), "charge-counted")], set()),
        ([resists(40, at(1)), resists(60, at(2))], {"resistance-rose"}),
        ([resists(40, at(1)), resists(44, at(2))], set()),
        ([resists(40, at(1), "tester"), resists(90, at(2), "tester")], set()),
        ([resists(40, at(1)), resists(90, at(2), "dc-10s")], set()),  # different quantities
    ],
)
def test_figures_that_do_not_go_together_are_told(events: list[object], found: set[str]) -> None:
    assert codes(*events) == found


def test_a_grade_by_runs_that_fall_each_time_is_not_sure() -> None:
    story = a_story(
        looked(), resting(3.7), charged(at(hours=2)), full(2600, 1), full(2500, 2), full(2400, 3), resists(40, at(4))
    )
    assert (judged(story, at(9)).grade, judged(story, at(9)).sure) == ("A", "likely")


@pytest.mark.parametrize(
    ("value", "siblings", "gap"),
    [
        (3.70, (3.69, 3.71), None),
        (3.35, (3.70, 3.72), 0.36),
        (3.70, (3.35, 3.72), None),  # the odd one is the sibling
        (3.90, (3.70,), None),
        (3.91, (3.70,), None),  # one above is told nothing
        (3.49, (3.70,), 0.21),
        (3.35, (), None),
    ],
)
def test_a_cell_found_far_from_its_siblings_is_told(
    value: float, siblings: tuple[float, ...], gap: float | None
) -> None:
    story = replace(
        a_story(looked(), resting(value), charged(at(hours=2)), resting(4.15, at(2))), siblings_found_v=siblings
    )
    told = [reason.value for reason in judged(story, at(3)).reasons if reason.code == "siblings-differ"]
    assert told == ([] if gap is None else [pytest.approx(gap)])


@pytest.mark.parametrize(
    ("events", "told"),
    [
        ([Charge(at(hours=1), True, 4.2, 12)], [12]),
        ([UnrestedVoltage(at(minutes=9), 4.17, "under-charge")], [9]),
        ([Charge(at(hours=1), True, 4.2, 25)], []),
        ([Charge(at(hours=1), True, 3.8, 12)], []),  # to storage
        ([Charge(at(hours=1), False, 4.2, 12)], []),
        ([Charge(at(minutes=5), True, 4.2)], []),  # nobody looked at the clock
        ([resting(3.9, at(minutes=1)), Charge(at(hours=1), True, 4.2, 12)], []),  # it was nearly full
    ],
)
def test_a_voltage_that_races_to_full_is_told(events: list[Event], told: list[float]) -> None:
    story = a_story(looked(), resting(3.5), *events)
    assert [reason.value for reason in judged(story, at(3)).reasons if reason.code == "raced-to-full"] == told
