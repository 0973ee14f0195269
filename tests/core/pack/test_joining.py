"""Cells that are to be joined: first currents and three ways, worked out by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import RULES
from zembric.core.errors import ConflictError
from zembric.core.house.limits import Family
from zembric.core.pack.joining import Joining, Way, plan_joining
from zembric.core.pack.on_paper import PaperCell
from zembric.wording import say

#: 3.82 V is 0.6 of the charge, 3.72 V is 0.5.
HIGH = PaperCell("HI", 2000, 30, 50, 2, "dc-10s", 3.82, 2.0)
LOW = replace(HIGH, number="LO", resting_v=3.72)


def joined(*groups: list[PaperCell], family: Family = Family.LAYERED_OXIDE) -> Joining:
    return plan_joining(groups, family, 3.6 if family is Family.IRON_PHOSPHATE else 4.2, RULES)


def way(found: Joining, code: str) -> Way:
    return next(each for each in found.ways if each.code == code)


def words(what: Way) -> str:
    return say(what.needs).replace("\u00a0", " ")


def test_at_first_a_tenth_of_a_volt_drives_an_ampere_through_two_cells_of_50_mohm() -> None:
    found = joined([HIGH, LOW])
    assert [(each.number, round(each.current_a, 6), each.is_too_much) for each in found.first] == [
        ("HI", 1.0, False), ("LO", -1.0, False),
    ]  # fmt: skip
    assert (round(found.gap_v, 6), found.is_open) == (0.1, False)


@pytest.mark.parametrize(("gap_v", "is_too_much"), [(0.19, False), (0.21, True)])
def test_what_is_pushed_into_a_cell_stays_below_its_capacity_an_hour(gap_v: float, is_too_much: bool) -> None:
    """2 A is 1 C of 2000 mAh, and what the other may give: 0.2 V over 100 mOhm."""
    found = joined([replace(HIGH, resting_v=3.72 + gap_v), LOW])
    assert [each.is_too_much for each in found.first] == [is_too_much, is_too_much]


def test_cells_of_different_groups_drive_nothing_through_each_other() -> None:
    assert [each.current_a for each in joined([HIGH], [LOW]).first] == pytest.approx([0, 0])


def test_the_smallest_resistor_keeps_the_first_current_gentle_and_itself_cool() -> None:
    """0.1 V / 1 A is 0.1 Ohm, within half of 2 A and half a watt: 0.1 Ohm each, two and 100 mOhm of cells: 0.33 A.

    A straight piece of the table (1 V a charge, 7200 As): 100 mV to 50 mV in R C ln 2, C = 7200 As / 1 V / 2, R = 0.3 Ohm.
    """
    found = way(joined([HIGH, LOW]), "resistors")
    assert "2 resistors of 0.1 Ω, 0.25 W each" in words(found)
    assert "0.33 A" in words(found)
    assert found.hours == pytest.approx(0.3 * 3600 * 0.6931 / 3600, rel=0.02)
    high_v, low_v = found.cell_v
    assert (high_v[0], low_v[0]) == pytest.approx((3.82, 3.72))
    assert high_v[-1] - low_v[-1] == pytest.approx(0.05, abs=1e-4)


def test_a_wide_gap_wants_a_larger_resistor_by_its_heat() -> None:
    """0.9 V: 0.81 / 0.5 W is 1.62 Ohm; the next that is sold is 1.8."""
    found = way(joined([replace(HIGH, resting_v=4.1), replace(LOW, resting_v=3.2)]), "resistors")
    assert "resistors of 1.8 Ω" in words(found)


def test_one_by_one_each_lower_cell_is_brought_up_and_rests() -> None:
    """A tenth of 2000 mAh at 1 A each: 0.2 h for two, and an hour of rest."""
    found = way(joined([HIGH, LOW, replace(LOW, number="LO2")]), "singly")
    assert found.hours == pytest.approx(2 * 0.2 + 1, abs=0.01)
    assert "2 cells are brought up to 3.82 V" in words(found)


def test_all_to_full_takes_as_long_as_the_emptiest_and_a_rest() -> None:
    """Half of 2000 mAh at 1 A is an hour; the last of it falls off, and an hour of rest follows."""
    found = way(joined([HIGH, LOW]), "charger")
    assert 2.0 < found.hours < 2.6
    assert "2 slots and a charger that ends at 4.20 V" in words(found)


def test_the_quickest_way_is_proposed_with_why() -> None:
    found = joined([HIGH, LOW])
    assert (found.best, say(found.why).startswith("Through resistors is the quickest")) == ("resistors", True)
    assert joined([HIGH, replace(HIGH, number="H2")]).best == "as-they-lie"


def test_on_a_flat_curve_equal_voltages_are_no_equal_charges_and_full_is_proposed() -> None:
    flat = replace(HIGH, resting_v=3.29)
    found = joined([flat, replace(flat, number="F2")], family=Family.IRON_PHOSPHATE)
    assert (found.is_flat, found.best) == (True, "charger")
    assert "says nothing about their charge" in say(found.why)
    told = joined([replace(flat, resting_v=3.2), replace(flat, resting_v=3.2)], family=Family.IRON_PHOSPHATE)
    assert (told.is_flat, told.best) == (False, "as-they-lie")


@pytest.mark.parametrize(
    ("cell", "family", "code"),
    [
        (replace(LOW, resting_v=None), Family.LAYERED_OXIDE, "no-voltage"),
        (replace(LOW, resistance_mohm=None), Family.LAYERED_OXIDE, "no-resistance"),
        (LOW, Family.TITANATE, "no-table"),
    ],
)
def test_what_is_not_known_is_asked_for(cell: PaperCell, family: Family, code: str) -> None:
    with pytest.raises(ConflictError) as refused:
        joined([HIGH, cell], family=family)
    assert refused.value.code == code
