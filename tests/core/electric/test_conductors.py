"""Wires and strips by their definitions, worked out a second way."""

from __future__ import annotations

import math

import pytest

from tests.support.stories import RULES
from zembric.core.electric.conductors import awg_diameter_mm, copper_wire, strip_conductor
from zembric.core.errors import BadInputError
from zembric.core.house import limits


@pytest.mark.parametrize(("awg", "diameter_mm"), [(36, 0.127), (20, 0.8128), (10, 2.588), (0, 8.251)])
def test_a_gauge_is_the_diameter_that_tables_give(awg: float, diameter_mm: float) -> None:
    assert awg_diameter_mm(awg) == pytest.approx(diameter_mm, rel=2e-3)


def test_a_wire_has_the_resistance_and_section_of_its_length() -> None:
    wire = copper_wire(20, 0.5, RULES)
    assert wire.section_mm2 == pytest.approx(math.pi * 0.8128**2 / 4, rel=4e-3)
    assert wire.ohm == pytest.approx(1.72e-8 * 0.5 / (wire.section_mm2 / 1e6), rel=1e-9)


@pytest.mark.parametrize(("awg", "stands_a"), [(12, 23), (20, 7.5), (28, 1.5)])
def test_a_gauge_of_the_table_stands_what_the_table_says(awg: int, stands_a: float) -> None:
    wire = copper_wire(awg, 1, RULES)
    assert wire.most_a == pytest.approx(stands_a)
    assert (wire.limit.key, wire.limit.value) == (f"wire_stands_a/{awg}", stands_a)


def test_between_two_gauges_the_ratio_is_shared_evenly() -> None:
    assert copper_wire(19, 1, RULES).most_a == pytest.approx(math.sqrt(10 * 7.5))
    assert copper_wire(18.5, 1, RULES).most_a == pytest.approx(10 * (7.5 / 10) ** 0.25)
    assert copper_wire(19, 1, RULES).limit.key == "wire_stands_a/18"


@pytest.mark.parametrize(("awg", "end", "end_a"), [(8, 12, 23), (34, 28, 1.5)])
def test_beyond_the_table_it_is_the_same_heat_from_the_same_surface(awg: int, end: int, end_a: float) -> None:
    wire = copper_wire(awg, 1, RULES)
    assert wire.most_a == pytest.approx(end_a * (awg_diameter_mm(awg) / awg_diameter_mm(end)) ** 1.5)
    assert wire.limit.key == f"wire_stands_a/{end}"


@pytest.mark.parametrize("awg", [-3, 50])
def test_the_ends_of_the_gauge_are_gauges(awg: int) -> None:
    assert copper_wire(awg, 1, RULES).ohm > 0


@pytest.mark.parametrize("awg", [-4, 51])
def test_beyond_them_there_is_none(awg: int) -> None:
    with pytest.raises(BadInputError, match=str(abs(awg))) as refused:
        copper_wire(awg, 1, RULES)
    assert refused.value.field == "awg"


def test_the_usual_strip_stands_what_the_house_says() -> None:
    strip = strip_conductor("nickel", 0.15, 8, 30, RULES)
    assert strip.section_mm2 == pytest.approx(1.2)
    assert strip.most_a == pytest.approx(5)
    assert strip.ohm == pytest.approx(6.99e-8 * 0.03 / 1.2e-6)
    assert strip.limit is limits.STRIP_STANDS_A


@pytest.mark.parametrize("material", ["nickel", "copper", "plated-steel"])
def test_another_strip_stands_what_makes_it_as_warm(material: str) -> None:
    """Heat I^2 rho / section spread over the outline is the same as at 5 A in 0.15 x 8 mm of nickel."""
    strip = strip_conductor(material, 0.2, 10, 30, RULES)
    warmth = strip.most_a**2 * limits.RESISTIVITY_OHM_M[material].value / (0.2 * 10) / (2 * (0.2 + 10))
    assert warmth == pytest.approx(5**2 * 6.99e-8 / (0.15 * 8) / (2 * (0.15 + 8)))
