"""Resistors as they are sold: the usual row of values, and ratings."""

from __future__ import annotations

import math

_E12 = (1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2)
_RATINGS_W = (0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 7.0, 10.0, 15.0, 20.0, 25.0, 50.0, 100.0)


def nearest_e12_ohm(wanted_ohm: float) -> float:
    """The resistor of the usual row of values that is nearest by ratio."""
    return min(_around(wanted_ohm), key=lambda ohm: abs(math.log(ohm / wanted_ohm)))


def e12_at_least_ohm(wanted_ohm: float) -> float:
    """The smallest resistor of the usual row that is not below."""
    return min(ohm for ohm in _around(wanted_ohm) if ohm >= wanted_ohm * (1 - 1e-9))


def usual_rating_w(heat_w: float) -> float:
    """The least rating that is sold and stands twice the heat [W]."""
    return next((rating for rating in _RATINGS_W if rating >= 2 * heat_w), float(math.ceil(2 * heat_w)))


def _around(wanted_ohm: float) -> list[float]:
    scale = 10.0 ** math.floor(math.log10(wanted_ohm))
    return [value * scale * step for step in (1, 10) for value in _E12]
