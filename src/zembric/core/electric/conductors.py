"""Wires and strips between cells: what they lose, and what they stand."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.house.limits import Limit
    from zembric.core.house.rules import HouseRules

COPPER_OHM_M = limits.RESISTIVITY_OHM_M["copper"].value
STRIP_OHM_M: Mapping[str, float] = MappingProxyType(
    {material: limit.value for material, limit in limits.RESISTIVITY_OHM_M.items()}
)
_GAUGES = (-3, 50)


@dataclass(frozen=True, slots=True)
class Conductor:
    """Resistance [Ohm] of a length one way, its section [mm2], and the current [A] it stands beside cells."""

    ohm: float
    section_mm2: float
    most_a: float
    limit: Limit


def awg_diameter_mm(awg: float) -> float:
    """Source: 0.127 mm x 92^((36 - AWG) / 39), the definition of the gauge."""
    return 0.127 * math.pow(92, (36 - awg) / 39)


def check_awg(awg: float) -> None:
    """Raises:
    BadInputError: there is no such gauge.
    """
    if not _GAUGES[0] <= awg <= _GAUGES[1]:
        raise BadInputError(said("awg-is", awg=plain(awg)), field="awg")


def copper_wire(awg: float, length_m: float, rules: HouseRules) -> Conductor:
    """A copper wire by its gauge.

    Raises:
        BadInputError: there is no such gauge.
    """
    check_awg(awg)
    section_mm2 = math.pi * awg_diameter_mm(awg) ** 2 / 4
    ohm = COPPER_OHM_M * length_m / (section_mm2 * 1e-6)
    most_a, limit = _wire_stands(awg, rules)
    return Conductor(ohm, section_mm2, most_a, limit)


def _wire_stands(awg: float, rules: HouseRules) -> tuple[float, Limit]:
    """What a wire stands [A]: the table, between its gauges in equal ratios, beyond its ends by equal heat.

    Source: heat I^2 rho / section against surface, so I goes with the diameter to the power of 3/2.
    """
    gauges = sorted(limits.WIRE_STANDS_A)
    for thicker, thinner in pairwise(gauges):
        if thicker <= awg < thinner:
            share = (awg - thicker) / (thinner - thicker)
            low, high = rules.value(limits.WIRE_STANDS_A[thicker]), rules.value(limits.WIRE_STANDS_A[thinner])
            return low * (high / low) ** share, rules.limit(limits.WIRE_STANDS_A[thicker])
    end = gauges[0] if awg < gauges[0] else gauges[-1]
    limit = rules.limit(limits.WIRE_STANDS_A[end])
    return limit.value * (awg_diameter_mm(awg) / awg_diameter_mm(end)) ** 1.5, limit


def strip_conductor(
    material: str, thickness_mm: float, width_mm: float, length_mm: float, rules: HouseRules
) -> Conductor:
    """A flat strip. What it stands follows from one of nickel by equal heat from the surface.

    Source: I proportional to sqrt(section x outline / rho); house value 5 A at 0.15 x 8 mm of nickel.
    """
    section_mm2 = thickness_mm * width_mm
    ohm = STRIP_OHM_M[material] * (length_mm / 1000) / (section_mm2 * 1e-6)
    limit = rules.limit(limits.STRIP_STANDS_A)
    known = _cooling(limits.STRIP_THICKNESS_MM.value, limits.STRIP_WIDTH_MM.value, STRIP_OHM_M["nickel"])
    most_a = limit.value * math.sqrt(_cooling(thickness_mm, width_mm, STRIP_OHM_M[material]) / known)
    return Conductor(ohm, section_mm2, most_a, limit)


def _cooling(thickness_mm: float, width_mm: float, ohm_m: float) -> float:
    return thickness_mm * width_mm * 2 * (thickness_mm + width_mm) / ohm_m
