"""Figures and their uncertainties against values worked out by hand."""

from __future__ import annotations

import math
from dataclasses import replace
from random import Random

import pytest

from tests.support.stories import RULES, a_story, at, ran, resists
from zembric.core.house.limits import ALL_LIMITS, Family
from zembric.core.identify.families import open_circuit_v
from zembric.core.identify.sizes import read_size
from zembric.core.measure.figures import (
    Capacity,
    Resistance,
    continuous_current,
    deciding_capacity,
    deciding_resistance,
    resistance_by,
)
from zembric.core.measure.self_discharge import fit_slope
from zembric.core.measure.simulation import SimulatedCell
from zembric.core.measure.uncertainty import (
    capacity_u_mah,
    probability_below,
    resistance_u_mohm,
    sureness,
)
from zembric.core.story import ResistanceReading


@pytest.mark.parametrize(
    ("runs", "figure"),
    [
        ([2000], 2000),
        ([1500, 2000], 2000),  # the waking run does not count
        ([1500, 2000, 2100], 2050),  # of two left the mean
        ([1500, 2000, 2100, 2300], 2100),  # median of the last three
        ([1500, 900, 2000, 2100, 2300], 2100),
    ],
)
def test_the_capacity_that_decides(runs: list[float], figure: float) -> None:
    capacity = deciding_capacity([ran(value, at(day)) for day, value in enumerate(runs)], RULES)
    assert capacity is not None
    assert (capacity.value_mah, capacity.runs) == (figure, len(runs))


def test_the_best_method_decides_and_a_testers_least_of_three_counts() -> None:
    story = a_story(*[resists(value, at(day), "tester") for day, value in enumerate([60, 95, 70, 80])])
    least = resistance_by(story, "tester", RULES)
    assert least is not None
    assert least.value_mohm == 70  # the first of the four is too old
    better = a_story(resists(50, at(), "dc-10s"), resists(33, at(1), "ac-1khz"), resists(90, at(2), "tester"))
    deciding = deciding_resistance(better, RULES)
    assert deciding is not None
    assert (deciding.method, deciding.value_mohm) == ("ac-1khz", 33)


def test_uncertainty_of_capacity_is_allowance_and_scatter_in_squares() -> None:
    # 3 % of 2000 as a rectangle: 34.64; scatter of 1980, 2000, 2020: 20 / sqrt(3) = 11.55.
    assert capacity_u_mah(2000, "tester", RULES) == pytest.approx(34.64, abs=0.01)
    runs = [ran(value, at(day)) for day, value in enumerate((1700, 1980, 2000, 2020))]
    figure = deciding_capacity(runs, RULES)
    assert figure is not None
    assert figure.u_mah == pytest.approx(math.hypot(34.64, 11.55), abs=0.01)


def test_a_figure_that_knows_its_own_uncertainty_is_taken_by_that() -> None:
    """A tester that is right within 1 %, and a trace with 5 mAh: the widest share of the two, 11.5 of 2000."""
    own = [
        replace(ran(value, at(day)), own_u_mah=u)
        for day, (value, u) in enumerate([(1900, 60), (2000, 11.5), (2000, 5)])
    ]
    figure = deciding_capacity(own, RULES)
    assert figure is not None
    assert figure.u_mah == pytest.approx(11.5)
    assert resistance_u_mohm(ResistanceReading(at(), 50, "tester", own_u_mohm=1.5), RULES) == 1.5


def test_uncertainty_of_resistance_follows_the_meter() -> None:
    assert resistance_u_mohm(ResistanceReading(at(), 40, "ac-1khz"), RULES) == pytest.approx(2 / math.sqrt(3))
    assert resistance_u_mohm(ResistanceReading(at(), 100, "ac-1khz"), RULES) == pytest.approx(3 / math.sqrt(3))
    assert resistance_u_mohm(ResistanceReading(at(), 80, "tester"), RULES) == pytest.approx(20 / math.sqrt(3))
    # A 10 mV meter at 4.7 Ohm: both voltages leave 2.9 mV open, 4.7 / 3.7 * 2.9 mV * sqrt(2) = about 5.2 mOhm.
    by_voltages = ResistanceReading(at(), 50, "dc-10s", resolution_v=0.01, load_ohm=4.7)
    assert resistance_u_mohm(by_voltages, RULES) == pytest.approx(math.hypot(50 * 0.05 / math.sqrt(3), 5.24), rel=0.02)


@pytest.mark.parametrize(
    ("value", "u", "probability", "word"),
    [
        (79, 0, 1.0, "sure"),
        (81, 0, 0.0, "sure"),
        (80, 0, 0.5, "borderline"),
        (79, 1, 0.8413, "likely"),
        (78, 1, 0.9772, "sure"),
    ],
)
def test_probability_below_a_limit(value: float, u: float, probability: float, word: str) -> None:
    assert probability_below(value, 80, u) == pytest.approx(probability, abs=1e-4)
    assert sureness(value, 80, u, RULES) == word


def test_continuous_current_is_the_least_of_sag_heat_and_house_cap() -> None:
    size = read_size("18650")
    weak, fine = Resistance(200, 0, "dc-10s", 1), Resistance(20, 0, "dc-10s", 1)
    assert continuous_current(weak, Capacity(2400, 0, "tester", 1), size, "laptop", RULES).value_a == pytest.approx(1.5)
    assert continuous_current(fine, Capacity(2400, 0, "tester", 1), size, "laptop", RULES).set_by == "no-sheet"
    assert continuous_current(fine, Capacity(6000, 0, "tester", 1), size, "vape", RULES).value_a == pytest.approx(
        math.sqrt(1 / 0.02)
    )


def test_slope_and_error_of_three_readings() -> None:
    # Evenly spaced: slope by hand (4.148 - 4.180) / 14 d; error by a 1 mV last digit: 0.2887 mV / sqrt(98) d.
    slope = fit_slope([2, 9, 16], [4.180, 4.164, 4.148], [0.001] * 3, RULES)
    assert slope.mv_per_day == pytest.approx(32 / 14)
    assert slope.error_mv_per_day == pytest.approx(0.2887 / math.sqrt(98), abs=1e-4)
    assert slope.verdict == "watch"


@pytest.mark.parametrize("days", [[1.0], [5.0, 5.0]])
def test_a_slope_too_early_has_no_figures(days: list[float]) -> None:
    assert fit_slope(days, [4.1] * len(days), [0.01] * len(days), RULES).mv_per_day is None


def test_open_circuit_voltage_is_linear_between_its_points() -> None:
    assert open_circuit_v(Family.LAYERED_OXIDE, 0.55) == pytest.approx((3.72 + 3.82) / 2)
    assert open_circuit_v(Family.HIGH_VOLTAGE_COBALT, 1.0) == pytest.approx(4.19)
    assert open_circuit_v(Family.IRON_PHOSPHATE, 0) == 2.5


def test_a_simulated_cell_repeats_itself_from_the_same_seed() -> None:
    cell = SimulatedCell(2300, 60, 0.5)
    readings = [(cell.resting_v(chance), cell.measured_capacity_mah(chance)) for chance in (Random(7), Random(7))]
    assert readings[0] == readings[1]
    assert readings[0][0] == pytest.approx(3.72, abs=0.02)


def test_every_limit_says_where_it_comes_from() -> None:
    assert len(ALL_LIMITS) > 60
    assert all(limit.source and limit.meaning and math.isfinite(limit.value) for limit in ALL_LIMITS.values())
