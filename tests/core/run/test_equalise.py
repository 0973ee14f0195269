"""Cells made even, against closed forms."""

from __future__ import annotations

import math

import pytest

from zembric.core.run import Curve, Rail, RefusedRunError, RunCell, equalise

CURVES = {"demo": Curve((0, 1), (3.0, 4.0)), "bent": Curve((0, 0.5, 1), (3.0, 3.2, 4.2))}


def cell(capacity_mah: float, mohm: float, soc: float, chemistry: str = "demo") -> RunCell:
    return RunCell("c", chemistry, capacity_mah, mohm, soc)


def test_two_cells_through_a_resistor_come_together_by_hand() -> None:
    """0.3 V over 0.5 Ohm; 1 Ah and 0.5 Ah in series make 1200 F, so tau is 600 s."""
    found = equalise(CURVES, [Rail([cell(1000, 100, 0.9)], 200), Rail([cell(500, 200, 0.6)])], 3)
    assert [*found.first_a[0], *found.first_a[1]] == pytest.approx([0.6, -0.6])
    assert (found.seconds, found.final_v, found.heat_wh) == pytest.approx((600 * math.log(100), 3.8, 0.015), rel=2e-4)
    assert [*found.final_soc[0], *found.final_soc[1]] == pytest.approx([0.8, 0.8])


def test_a_rail_of_two_cells_evens_itself_at_once_and_the_others_through_their_resistors() -> None:
    """A pair of 1 Ah without a resistor beside 2 Ah behind 1 Ohm: 3600 F against 3600 F, tau 1 Ohm x 1800 F... in series."""
    pair = [cell(1000, 0.1, 0.9), cell(1000, 0.1, 0.7)]
    found = equalise(CURVES, [Rail(pair), Rail([cell(2000, 0.1, 0.4)], 1000)], 4)
    assert found.first_a[0] == pytest.approx((1000.4, -999.6), rel=1e-3)
    assert sum(map(sum, found.first_a)) == pytest.approx(0, abs=1e-6)
    assert found.final_v == pytest.approx(3.6)
    assert found.seconds == pytest.approx(3600 * math.log(0.4 / 0.004), rel=2e-3)
    assert found.heat_wh == pytest.approx(0.1**2 + 0.4**2 / 2 * 1, rel=2e-3)


def test_in_the_end_all_hold_one_voltage_and_the_charge_they_had() -> None:
    rails = [Rail([cell(1000, 50, 0.9, "bent"), cell(700, 80, 0.5)], 300), Rail([cell(400, 20, 0.1, "bent")], 10)]
    found = equalise(CURVES, rails, 1)
    soc = [each for rail in found.final_soc for each in rail]
    assert 1000 * soc[0] + 700 * soc[1] + 400 * soc[2] == pytest.approx(1000 * 0.9 + 700 * 0.5 + 400 * 0.1)
    assert (3.0 + soc[1], 3.2 + 2 * (soc[0] - 0.5)) == pytest.approx((found.final_v, found.final_v))


def test_what_is_even_already_takes_no_time() -> None:
    found = equalise(CURVES, [Rail([cell(1000, 100, 0.5)]), Rail([cell(500, 200, 0.502)])], 3)
    assert (found.seconds, found.heat_wh) == (0, 0)


def test_everything_that_cannot_be_is_told_at_once() -> None:
    with pytest.raises(RefusedRunError) as refused:
        equalise(CURVES, [Rail([cell(0, 0, 2, "none")], -1), Rail([])], 0)
    assert [(each.code, each.group, each.cell) for each in refused.value.wrong] == [
        ("unknown_chemistry", 1, 1),
        ("capacity_not_positive", 1, 1),
        ("resistance_not_positive", 1, 1),
        ("soc_out_of_range", 1, 1),
        ("empty_group", 2, None),
        ("resistance_not_positive", 1, None),
        ("bad_value", None, None),
    ]
