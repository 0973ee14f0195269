"""How near to one another the cells of one pack have to be: presets with numbers instead of "similar"."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.house import limits
from zembric.core.house.rules import USUAL_RULES

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.house.rules import HouseRules

ToleranceKey = Literal["strict", "usual", "relaxed"]
TOLERANCE_KEYS: tuple[ToleranceKey, ...] = get_args(ToleranceKey)


@dataclass(frozen=True, slots=True)
class Tolerance:
    """`capacity_pct`: how far the weakest cell may lie below the strongest; `resistance_ratio`: largest over smallest."""

    key: ToleranceKey
    capacity_pct: float
    resistance_ratio: float
    #: Resting voltages of cells that are joined as they lie.
    voltage_v: float


def tolerances_of(rules: HouseRules) -> Mapping[ToleranceKey, Tolerance]:
    """The presets with the house's numbers."""
    return MappingProxyType(
        {
            key: Tolerance(
                key,
                rules.value(limits.NEAR_CAPACITY_PCT[key]),
                rules.value(limits.NEAR_RESISTANCE_RATIO[key]),
                rules.value(limits.NEAR_VOLTAGE_V[key]),
            )
            for key in TOLERANCE_KEYS
        }
    )


USUAL_TOLERANCES = tolerances_of(USUAL_RULES)
