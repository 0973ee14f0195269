"""Each way to measure without a log: its figure and its uncertainty worked out by hand, and its traps."""

from __future__ import annotations

import math

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError, DangerError
from zembric.core.measure.methods import METHODS, measure_by
from zembric.wording import say

RIGHT = {name: {trap.key: trap.right for trap in method.traps} for name, method in METHODS.items()}
BY_HAND: dict[str, tuple[dict[str, str], float, float]] = {
    "tester": ({"value_mah": "2310", "current_ma": "1000", "cut_off_v": "2.8"}, 2310, 0.03 * 2310 / math.sqrt(3)),
    # Areas of 30 min each: 3.95, 3.785, 3.66, 3.3 V: 14.695 / 2 = 7.3475 V h through 6.8 Ohm.
    "resistor-log": ({"minutes": "0; 30; 60; 90; 120", "volts": "4,05; 3,85; 3,72; 3,6; 3,0", "r_ohm": "6.8"}, 1080.51, 0.05 * 1080.51 / math.sqrt(3)),
    "resistor-clock": ({"mean_v": "3.6", "r_ohm": "6.8", "minutes": "250"}, 2205.88, 0.10 * 2205.88 / math.sqrt(3)),
    "charge-counted": ({"counted_mah": "2380"}, 2356.2, 0.03 * 2356.2 / math.sqrt(3)),
    "usb-linear": ({"meter_mah": "2450", "module_draw_ma": "4", "hours": "3.5"}, 2436, 0.04 * 2436 / math.sqrt(3)),
    "usb-switching": ({"meter_mwh": "10500", "efficiency": "0.88", "mean_v": "3.8"}, 2431.58, 0.08 * 2431.58 / math.sqrt(3)),
    "usb-step-up": ({"meter_mwh": "7200", "efficiency": "0.87", "mean_v": "3.7"}, 2236.72, 0.08 * 2236.72 / math.sqrt(3)),
    # 3 % of 48 is less than the 2 mOhm that such a meter is right within.
    "ac-meter": ({"value_mohm": "48"}, 48, 2 / math.sqrt(3)),
    "two-voltage": ({"u_rest_v": "3.92", "u_load_v": "3.80", "r_load_ohm": "4.7", "after_s": "10", "resolution_v": "0.01"}, 148.421, 6.6837),
    "two-current": ({"u1_v": "3.85", "i1_a": "0.5", "u2_v": "3.78", "i2_a": "2", "after_s": "1", "resolution_v": "0.001"}, 46.6667, 0.27217),
    "tester-resistance": ({"values_mohm": "78; 71; 74"}, 71, 20 / math.sqrt(3)),
}  # fmt: skip


@pytest.mark.parametrize("name", METHODS)
def test_a_method_gives_the_figure_and_uncertainty_worked_out_by_hand(name: str) -> None:
    typed, value, standard_u = BY_HAND[name]
    worked = measure_by(name, typed, RIGHT[name], RULES)
    assert worked.value == pytest.approx(value, rel=1e-4)
    assert worked.standard_u == pytest.approx(standard_u, rel=1e-3)
    assert worked.complete


@pytest.mark.parametrize(("name", "key", "said"), [(m.name, t.key, "no" if t.right == "yes" else "yes") for m in METHODS.values() for t in m.traps])  # fmt: skip
def test_a_trap_spoils_the_figure_as_it_says(name: str, key: str, said: str) -> None:
    """A figure of a part is never complete, one that is not the cell's is refused, anything else is noted."""
    trap = next(trap for trap in METHODS[name].traps if trap.key == key)
    answers = RIGHT[name] | {key: said}
    if trap.effect == "refuse":
        with pytest.raises(DangerError, match=say(trap.spoilt)[:30]):
            measure_by(name, BY_HAND[name][0], answers, RULES)
        return
    worked = measure_by(name, BY_HAND[name][0], answers, RULES)
    assert trap.spoilt in worked.cautions
    assert worked.complete == (trap.effect == "note")


def test_a_trap_that_was_not_answered_is_asked() -> None:
    with pytest.raises(BadInputError, match="charger") as asked:
        measure_by("two-voltage", BY_HAND["two-voltage"][0], {}, RULES)
    assert asked.value.field == "charger_on"


def test_what_was_measured_through_is_taken_off_only_where_it_was_said_and_is_shown() -> None:
    typed = {"value_mohm": "118", "through": "protection"}
    noted = measure_by("ac-meter", typed, RIGHT["ac-meter"], RULES)
    assert noted.value == 118
    assert any("50 to 80" in say(caution) for caution in noted.cautions)
    less = measure_by("ac-meter", typed | {"subtract_mohm": "65"}, RIGHT["ac-meter"], RULES)
    assert less.value == 53
    assert "less 65\u00a0mΩ for the protection" in say(less.worked)


def test_a_meter_that_cannot_see_the_resistance_says_what_would() -> None:
    """0.5 A and 10 mV: one digit is 20 mOhm."""
    typed = BY_HAND["two-voltage"][0] | {"u_rest_v": "3.75", "u_load_v": "3.73", "r_load_ohm": "7.5"}
    assert any(
        "20\u00a0mΩ at 0.50\u00a0A" in say(caution)
        for caution in measure_by("two-voltage", typed, RIGHT["two-voltage"], RULES).cautions
    )


def test_a_cold_cell_is_marked() -> None:
    cold = measure_by("ac-meter", {"value_mohm": "60", "cell_degc": "9"}, RIGHT["ac-meter"], RULES)
    assert any("9\u00a0°C" in say(caution) for caution in cold.cautions)
