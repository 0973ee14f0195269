"""How well a figure is known: allowances, repeats, and the width of what was said as "about"."""

from __future__ import annotations

import math

import pytest

from tests.support.stories import RULES, START
from zembric.core.measure.uncertainty import (
    capacity_u_mah,
    least_sure,
    mean_u,
    probability_below,
    rectangle_u,
    resistance_u_mohm,
    resolution_u,
    sureness,
)
from zembric.core.story import ResistanceReading


def test_a_rectangle_and_a_last_digit_are_as_the_guide_has_them() -> None:
    assert rectangle_u(0.5) == pytest.approx(0.288675, abs=1e-6)
    assert resolution_u(1.0) == pytest.approx(rectangle_u(0.5))


@pytest.mark.parametrize(
    ("value", "limit", "standard_u", "below"),
    [(80, 80, 1, 0.5), (81, 80, 1, 0.158655), (79, 80, 1, 0.841345), (80, 80, 0, 0.5), (79, 80, 0, 1), (81, 80, 0, 0)],
)
def test_the_chance_to_lie_below_a_limit(value: float, limit: float, standard_u: float, below: float) -> None:
    assert probability_below(value, limit, standard_u) == pytest.approx(below, abs=1e-6)


@pytest.mark.parametrize(
    ("distance_u", "said"), [(0, "borderline"), (0.6, "borderline"), (0.7, "likely"), (1.6, "likely"), (1.7, "sure")]
)
def test_sureness_grows_with_the_distance_from_the_limit_on_both_sides(distance_u: float, said: str) -> None:
    assert sureness(80 + distance_u, 80, 1, RULES) == said
    assert sureness(80 - distance_u, 80, 1, RULES) == said


def test_several_are_as_sure_as_the_least_sure_of_them() -> None:
    assert least_sure(["sure", "borderline", "likely"]) == "borderline"
    assert least_sure([]) == "sure"


def test_repeating_shrinks_the_scatter_but_never_the_instruments_allowance() -> None:
    once = mean_u([2300], [40])
    assert once == pytest.approx(40)
    assert mean_u([2300] * 4, [40] * 4) == pytest.approx(once)
    scattered = [2280, 2320, 2290, 2310]
    assert mean_u(scattered, [40] * 4) > once
    assert mean_u([2280, 2320] * 8, [40] * 16) < mean_u([2280, 2320] * 2, [40] * 4)


@pytest.mark.parametrize(("half_width", "more"), [(0, 0), (115, 115 / math.sqrt(3))])
def test_what_was_said_as_about_is_less_well_known(half_width: float, more: float) -> None:
    exact = capacity_u_mah(2300, "tester", RULES)
    assert capacity_u_mah(2300, "tester", RULES, half_width) == pytest.approx(math.hypot(exact, more))
    plain = ResistanceReading(START, 50, "ac-1khz")
    wide = ResistanceReading(START, 50, "ac-1khz", half_width_mohm=half_width)
    assert resistance_u_mohm(wide, RULES) == pytest.approx(math.hypot(resistance_u_mohm(plain, RULES), more))


def test_of_two_voltages_the_meters_last_digit_decides_how_well_a_small_resistance_is_known() -> None:
    fine, coarse = (
        resistance_u_mohm(ResistanceReading(START, 50, "dc-10s", resolution_v=resolution, load_ohm=4.7), RULES)
        for resolution in (0.001, 0.01)
    )
    # r = R (U0 - U1) / U1: a last digit of 10 mV at 4.7 Ohm and 3.7 V leaves about 5 mOhm.
    assert coarse == pytest.approx(5.4, abs=0.3)
    assert fine < coarse / 3
