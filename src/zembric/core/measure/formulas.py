"""What readings come to: resistances from two voltages, charge through a module, two instruments side by side."""

from __future__ import annotations

import math
from statistics import fmean, stdev
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.measure.uncertainty import rectangle_u, resolution_u
from zembric.core.said import Amount, plain, said

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules


def two_voltage_mohm(rest_v: float, load_v: float, load_ohm: float) -> float:
    """r = R (U0 - U1) / U1 [mOhm].

    Raises:
        BadInputError: the loaded voltage does not lie below the resting one.
    """
    if load_v >= rest_v:
        raise BadInputError(
            said("with-resistor-on-it-reads-v", load=plain(load_v), rest=plain(rest_v)),
            field="u_load_v",
        )
    return 1000 * load_ohm * (rest_v - load_v) / load_v


def two_voltage_u_mohm(rest_v: float, load_v: float, load_ohm: float, resolution_v: float, rules: HouseRules) -> float:
    """Standard uncertainty [mOhm]: the meter's last digit in both readings, and the tolerance of the resistor."""
    by_meter = 1000 * resolution_u(resolution_v) * math.hypot(load_ohm / load_v, load_ohm * rest_v / load_v**2)
    by_resistor = (
        rectangle_u(rules.value(limits.DC_HALF_WIDTH_PCT) / 100) * 1000 * load_ohm * (rest_v - load_v) / load_v
    )
    return math.hypot(by_meter, by_resistor)


def two_current_mohm(u1_v: float, i1_a: float, u2_v: float, i2_a: float) -> float:
    """r = (U1 - U2) / (I2 - I1) [mOhm], discharge positive.

    Raises:
        BadInputError: the currents are equal, or the larger one does not pull the voltage lower.
    """
    if i1_a == i2_a:
        raise BadInputError(said("i2-equals-i1"), field="i2_a")
    ohm = (u1_v - u2_v) / (i2_a - i1_a)
    if ohm <= 0:
        raise BadInputError(
            said("larger-current-must-pull-voltage-lower"),
            field="u2_v",
        )
    return 1000 * ohm


def two_current_u_mohm(i1_a: float, i2_a: float, resolution_v: float) -> float:
    return 1000 * math.sqrt(2) * resolution_u(resolution_v) / abs(i2_a - i1_a)


def usb_linear_mah(meter_mah: float, draw_ma: float, hours: float) -> float:
    """Charge into the cell [mAh]: what the meter counted, less what the module itself drew.

    Raises:
        BadInputError: nothing is left.
    """
    left = meter_mah - draw_ma * hours
    if left <= 0:
        raise BadInputError(
            said("module-alone-would-have-drawn-mah", draw=Amount(draw_ma * hours, ""), hours=plain(hours)),
            field="module_draw_ma",
        )
    return left


def compare_pct(a: tuple[float, ...], b: tuple[float, ...]) -> tuple[float, float]:
    """Mean relative difference of two testers on the same cells and its standard error [%], b against a.

    Raises:
        BadInputError: fewer than three pairs, or not as many of one as of the other.
    """
    if len(a) != len(b):
        raise BadInputError(said("b-has-values-and-has", count=len(b), other=len(a)), field="b")
    if len(a) < 3:
        raise BadInputError(said("cells-say-nothing-about-two-testers", count=len(a)), field="a")
    if min(*a, *b) <= 0:
        raise BadInputError(said("every-value-must-be-above-zero"), field="a" if min(a) <= 0 else "b")
    differences = [200 * (second - first) / (first + second) for first, second in zip(a, b, strict=True)]
    return fmean(differences), stdev(differences) / math.sqrt(len(differences))
