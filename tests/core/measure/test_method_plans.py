"""What each way to measure asks of the bench, for one 18650 believed to hold 2400 mAh, worked out by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import RULES
from zembric.core.house.limits import Family
from zembric.core.measure.method_plans import BelievedCell, Meter, MethodPlan, plan_method
from zembric.core.measure.methods import METHODS
from zembric.wording import say

CELL = BelievedCell(2400, 62.5, 4.2, 3.6, 1200, Family.LAYERED_OXIDE, RULES)
CHEAP, FINE = Meter(0.01), Meter(0.001)
BY_HAND: dict[str, tuple[float, str, list[str]]] = {
    "tester": (480, "mA", ["about 5 h", "2.0 W"]),
    # 3.6 V / 0.48 A = 7.5 Ohm; 4.2 V on 8.2 Ohm are 2.15 W, twice that 4.3; 3.6 V / 8.2 Ohm = 439 mA.
    "resistor-log": (8.2, "Ω", ["439 mA", "2.2 W", "rated 5 W", "5.5 h"]),
    "resistor-clock": (8.2, "Ω", ["439 mA", "2.2 W", "rated 5 W", "5.5 h"]),
    # Held from 4.2 - 1.2 x 0.0625 = 4.125 V, which the table has at 0.941: 0.941 x 2.4 / 1.2 = 1.9 h before that;
    # the rest, 0.142 Ah, flows while 1.2 A fall to 10 mV / 62.5 mOhm = 0.16 A: mean (1.2 - 0.16) / ln 7.5 = 0.52 A, 0.27 h.
    "charge-counted": (2.2, "h", ["1200 mA until 120 mA", "1.9 h at that current"]),
    # The chip takes 5 - 3 V at 1.2 A.
    "usb-linear": (2.2, "h", ["2.4 W into heat", "2400 mAh on the meter"]),
    # 2.4 Ah at 3.6 V and twice 1.2 A on 62.5 mOhm above it, over 0.88.
    "usb-switching": (2.2, "h", ["10.2 Wh"]),
    # 0.48 A x 3.6 V x 0.88 = 1.52 W at 5 V: 16.4 Ohm; 18 Ohm take 1.39 W.
    "usb-step-up": (18, "Ω", ["1.4 W into heat", "rated 3 W", "5.5 h", "7.6 Wh"]),
    "ac-meter": (62, "mΩ", ["Four wires"]),
    # 3.6 V / 1.2 A = 3 Ohm; 4.2 V on 3.3 Ohm are 5.3 W.
    "two-voltage": (3.3, "Ω", ["1.1 A", "5.3 W"]),
    "two-current": (2.4, "A", ["0.48 A for 10 s", "2.4 A for 1 s"]),
    "tester-resistance": (3, "times", ["three times"]),
}  # fmt: skip


def told(plan: MethodPlan) -> str:
    return say(plan.said).replace("\u00a0", " ")


def test_every_way_has_a_plan() -> None:
    assert set(BY_HAND) == set(METHODS)


@pytest.mark.parametrize("name", BY_HAND)
def test_a_plan_says_what_to_set_what_it_must_stand_and_how_long_it_takes(name: str) -> None:
    figure, unit, says = BY_HAND[name]
    plan = plan_method(name, CELL, CHEAP)
    assert (plan.figure, plan.unit) == (figure, unit)
    assert [part for part in says if part not in told(plan)] == []


@pytest.mark.parametrize(
    ("name", "mohm", "meter", "sees"),
    [
        # 0.48 and 2.4 A: sqrt(2) x 10 mV / sqrt(12) / 1.92 A = 2.1 mOhm, a fifth of 10.6.
        ("two-current", 11, CHEAP, True),
        ("two-current", 10, CHEAP, False),
        ("two-current", 10, FINE, True),
        # About sqrt(2) x 2.9 mV / 1.09 A = 3.7 mOhm, a fifth of 18.7.
        ("two-voltage", 20, CHEAP, True),
        ("two-voltage", 17, CHEAP, False),
        # 20 / sqrt(3) = 11.5, a fifth of 57.7.
        ("tester-resistance", 58, CHEAP, True),
        ("tester-resistance", 57, CHEAP, False),
        ("ac-meter", 6, CHEAP, True),
        ("ac-meter", 5, CHEAP, False),
    ],
)
def test_a_plan_says_whether_the_meter_sees_what_is_wanted_and_what_would(
    name: str, mohm: float, meter: Meter, sees: bool
) -> None:
    plan = plan_method(name, replace(CELL, mohm=mohm), meter)
    assert plan.sees is sees
    assert ("take" in say(plan.sees_said).lower()) is not sees


def test_a_family_without_a_table_gets_a_current_and_no_time() -> None:
    titanate = replace(CELL, family=Family.TITANATE, full_v=2.7, nominal_v=2.3)
    plan = plan_method("charge-counted", titanate, CHEAP)
    assert (plan.figure, plan.unit) == (1200, "mA")
    assert "how long" in told(plan)
