"""How well a figure is known, and what that means against a limit."""

from __future__ import annotations

import math
from statistics import NormalDist, fmean, stdev
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import CapacityMethod, ResistanceReading

Sureness = Literal["sure", "likely", "borderline"]
_WORST_FIRST: tuple[Sureness, ...] = ("borderline", "likely", "sure")


def rectangle_u(half_width: float) -> float:
    """Standard uncertainty of a value known to lie within +- half width. Source: GUM, 4.3.7."""
    return half_width / math.sqrt(3)


def resolution_u(resolution: float) -> float:
    """Standard uncertainty left by a last digit of this size. Source: GUM, F.2.2.1."""
    return resolution / math.sqrt(12)


def probability_below(value: float, limit: float, standard_u: float) -> float:
    """Probability that the true value lies below the limit; 0, 0.5 or 1 where nothing is uncertain."""
    if standard_u <= 0:
        return 0.5 if value == limit else float(value < limit)
    return NormalDist(value, standard_u).cdf(limit)


def sureness(value: float, limit: float, standard_u: float, rules: HouseRules) -> Sureness:
    """How sure it is on which side of the limit the value lies."""
    sure_from, likely_from = rules.value(limits.SURE_FROM), rules.value(limits.LIKELY_FROM)
    below = probability_below(value, limit, standard_u)
    probability = max(below, 1 - below)
    if probability >= sure_from:
        return "sure"
    return "likely" if probability >= likely_from else "borderline"


def least_sure(judged: Sequence[Sureness]) -> Sureness:
    """The least sure of several; nothing that could be unsure is sure."""
    return min(judged, key=_WORST_FIRST.index, default="sure")


def surest(judged: Sequence[Sureness]) -> Sureness:
    """The surest of several grounds of which each would do alone."""
    return max(judged, key=_WORST_FIRST.index)


def capacity_u_mah(value_mah: float, method: CapacityMethod, rules: HouseRules, half_width_mah: float = 0.0) -> float:
    """Standard uncertainty [mAh] of one run: its method's allowance, and half the width of a value said as "about"."""
    allowance = rectangle_u(rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]) / 100 * value_mah)
    return math.hypot(allowance, rectangle_u(half_width_mah))


def mean_u(values: Sequence[float], own_u: Sequence[float]) -> float:
    """Standard uncertainty of the mean of repeats, in their unit: the widest of their own, and their standard error.

    The allowance is common to all runs of an instrument, so repeating does not shrink it.
    """
    widest = max(u / value for u, value in zip(own_u, values, strict=True))
    return math.hypot(widest * fmean(values), _standard_error(values))


def resistance_u_mohm(reading: ResistanceReading, rules: HouseRules) -> float:
    """Standard uncertainty [mOhm] of one resistance reading: its own, else its method's and the width it was said with."""
    if reading.own_u_mohm is not None:
        return reading.own_u_mohm
    return math.hypot(_method_u_mohm(reading, rules), rectangle_u(reading.half_width_mohm))


def _method_u_mohm(reading: ResistanceReading, rules: HouseRules) -> float:
    value = reading.value_mohm
    if reading.method == "ac-1khz":
        return rectangle_u(
            max(rules.value(limits.AC_HALF_WIDTH_PCT) / 100 * value, rules.value(limits.AC_HALF_WIDTH_MOHM))
        )
    if reading.method == "tester":
        return rectangle_u(rules.value(limits.TESTER_HALF_WIDTH_MOHM))
    resistor_u = rectangle_u(rules.value(limits.DC_HALF_WIDTH_PCT) / 100 * value)
    if reading.resolution_v is None or reading.load_ohm is None:
        return resistor_u
    return math.hypot(resistor_u, _two_voltage_u_mohm(value, reading.resolution_v, reading.load_ohm))


def _two_voltage_u_mohm(value_mohm: float, resolution_v: float, load_ohm: float) -> float:
    """What the meter's last digit leaves open in r = R (U0 - U1) / U1, both voltages read with it, at 3.7 V at rest."""
    rest_v = 3.7
    loaded_v = rest_v * load_ohm / (load_ohm + value_mohm / 1000)
    by_rest, by_loaded = load_ohm / loaded_v, load_ohm * rest_v / loaded_v**2
    return 1000 * resolution_u(resolution_v) * math.hypot(by_rest, by_loaded)


def _standard_error(values: Sequence[float]) -> float:
    return stdev(values) / math.sqrt(len(values)) if len(values) > 1 else 0.0
