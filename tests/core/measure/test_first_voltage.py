"""Bands of the first voltage over families, schools and edges."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest

from tests.support.stories import a_story, at, judged, looked, resting
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules
from zembric.core.measure.first_voltage import band_of, bands_upwards
from zembric.core.story import UnrestedVoltage

OXIDE, COBALT, LFP, LTO = Family.LAYERED_OXIDE, Family.HIGH_VOLTAGE_COBALT, Family.IRON_PHOSPHATE, Family.TITANATE


@pytest.mark.parametrize(
    ("family", "school", "edges"),
    [
        # Each band from the voltage it begins at; just below it the one before holds.
        (OXIDE, "strict", [(0.1, "recycle"), (3.0, "go-on")]),
        (OXIDE, "usual", [(0.1, "recycle"), (2.0, "watched-recovery"), (2.5, "recovery"), (3.0, "go-on")]),
        (OXIDE, "thrifty", [(0.1, "recycle"), (1.5, "watched-recovery"), (2.5, "recovery"), (3.0, "go-on")]),
        (COBALT, "usual", [(0.1, "recycle"), (2.0, "watched-recovery"), (2.5, "recovery"), (3.0, "go-on")]),
        (LFP, "strict", [(0.1, "recycle"), (2.5, "go-on")]),
        (LFP, "usual", [(0.1, "recycle"), (1.5, "recovery"), (2.5, "go-on")]),
        (LFP, "thrifty", [(0.1, "recycle"), (1.5, "recovery"), (2.5, "go-on")]),
        (LTO, "usual", [(0.1, "recycle"), (1.0, "recovery"), (1.8, "go-on")]),
    ],
)
def test_a_band_begins_exactly_at_its_limit(family: Family, school: Any, edges: list[tuple[float, str]]) -> None:
    before = "recycle"
    for from_v, band in edges:
        assert band_of(from_v - 0.001, family, None, school).band == before
        assert band_of(from_v, family, None, school).band == band
        before = band


@pytest.mark.parametrize(
    ("family", "full_v", "most_v"),
    [(OXIDE, None, 4.25), (COBALT, None, 4.25), (COBALT, 4.40, 4.45), (LFP, None, 3.70), (LTO, None, 2.85)],
)
def test_over_voltage_begins_above_full_and_a_little(family: Family, full_v: float | None, most_v: float) -> None:
    assert band_of(most_v, family, full_v, "usual").band == "go-on"
    assert band_of(most_v + 0.01, family, full_v, "usual").band == "over-voltage"


def test_only_a_thrifty_find_below_two_volts_is_marked_for_life() -> None:
    assert band_of(1.8, OXIDE, None, "thrifty").marks
    assert not band_of(2.2, OXIDE, None, "thrifty").marks
    assert not band_of(2.2, OXIDE, None, "usual").marks


# What is done next with a cell that was looked at and read so much, under each school: strict, usual, thrifty.
DECISIONS: dict[tuple[Family | None, float], tuple[str, str, str]] = {
    (OXIDE, 0.4): ("out-box", "out-box", "out-box"),
    (OXIDE, 1.49): ("out-box", "out-box", "out-box"),
    (OXIDE, 1.5): ("out-box", "out-box", "recover"),
    (OXIDE, 1.99): ("out-box", "out-box", "recover"),
    (OXIDE, 2.0): ("out-box", "recover", "recover"),
    (OXIDE, 2.49): ("out-box", "recover", "recover"),
    (OXIDE, 2.99): ("out-box", "recover", "recover"),
    (OXIDE, 3.0): ("charge", "charge", "charge"),
    (OXIDE, 4.25): ("charge", "charge", "charge"),
    (OXIDE, 4.26): ("decide", "decide", "decide"),
    (COBALT, 1.99): ("out-box", "out-box", "recover"),
    (COBALT, 2.0): ("out-box", "recover", "recover"),
    (COBALT, 3.0): ("charge", "charge", "charge"),
    (COBALT, 4.26): ("decide", "decide", "decide"),
    (LFP, 1.49): ("out-box", "out-box", "out-box"),
    (LFP, 1.5): ("out-box", "recover", "recover"),
    (LFP, 2.49): ("out-box", "recover", "recover"),
    (LFP, 2.5): ("charge", "charge", "charge"),
    (LFP, 3.65): ("charge", "charge", "charge"),
    (LFP, 3.71): ("decide", "decide", "decide"),
    (LTO, 0.99): ("out-box", "out-box", "out-box"),
    (LTO, 1.0): ("out-box", "recover", "recover"),
    (LTO, 1.8): ("charge", "charge", "charge"),
    (LTO, 2.86): ("decide", "decide", "decide"),
    (None, 3.3): ("decide", "decide", "decide"),
    (Family.PRIMARY, 3.2): ("out-box", "out-box", "out-box"),
}


@pytest.mark.parametrize("school", ["strict", "usual", "thrifty"])
@pytest.mark.parametrize("read", DECISIONS)
def test_a_first_voltage_decides_the_next_step_by_family_and_school(
    read: tuple[Family | None, float], school: Any
) -> None:
    family, value_v = read
    story = a_story(looked(), resting(value_v, at(minutes=1)), family=family)
    expected = DECISIONS[read][("strict", "usual", "thrifty").index(school)]
    assert judged(story, at(minutes=2), HouseRules(1, school, "health")).next_step.code == expected


@pytest.mark.parametrize("school", ["strict", "usual", "thrifty"])
@pytest.mark.parametrize("family", [OXIDE, COBALT, LFP, LTO])
def test_bands_stand_upwards_without_a_gap_for_a_picture(family: Family, school: Any) -> None:
    bands = bands_upwards(family, school)
    edges = [band.from_v for band in bands]
    assert edges == sorted(edges)
    assert (edges[0], bands[0].band, bands[-1].band) == (0, "recycle", "over-voltage")
    for lower, upper in pairwise(bands):
        middle = (lower.from_v + upper.from_v) / 2
        assert band_of(middle, family, None, school).band == lower.band


def test_a_reading_near_zero_is_doubted_once_and_believed_the_second_time() -> None:
    once = a_story(looked(), resting(0.02, at(minutes=1)))
    assert judged(once, at(minutes=2)).next_step.code == "measure-voltage"
    twice = a_story(looked(), resting(0.02, at(minutes=1)), resting(0.03, at(minutes=5)))
    assert (judged(twice, at(minutes=6)).grade, judged(twice, at(minutes=6)).next_step.code) == ("out", "out-box")


def test_a_voltage_that_still_moves_decides_nothing_and_is_taken_again_after_half_an_hour() -> None:
    story = a_story(looked(), UnrestedVoltage(at(minutes=1), 1.2, "climbing"))
    step = judged(story, at(minutes=2)).next_step
    assert (step.code, step.not_before, step.then) == ("rest", at(minutes=31), "measure-voltage")
