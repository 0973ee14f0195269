"""Bands of the first voltage over families, schools and edges."""

from __future__ import annotations

from typing import Any

import pytest

from zembric.core.first_voltage import band_of
from zembric.core.limits import Family

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
    [(OXIDE, None, 4.25), (COBALT, None, 4.25), (COBALT, 4.40, 4.45), (LFP, None, 3.65), (LTO, None, 2.75)],
)
def test_over_voltage_begins_above_full_and_a_little(family: Family, full_v: float | None, most_v: float) -> None:
    assert band_of(most_v, family, full_v, "usual").band == "go-on"
    assert band_of(most_v + 0.01, family, full_v, "usual").band == "over-voltage"


def test_only_a_thrifty_find_below_two_volts_is_marked_for_life() -> None:
    assert band_of(1.8, OXIDE, None, "thrifty").marks
    assert not band_of(2.2, OXIDE, None, "thrifty").marks
    assert not band_of(2.2, OXIDE, None, "usual").marks
