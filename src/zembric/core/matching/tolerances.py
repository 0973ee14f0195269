"""How near to one another the cells of one pack have to be: presets with numbers instead of "similar"."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.limits import JOIN_WITHIN_V

if TYPE_CHECKING:
    from collections.abc import Mapping

ToleranceKey = Literal["strict", "usual", "relaxed"]


@dataclass(frozen=True, slots=True)
class Tolerance:
    """`capacity_pct`: how far the weakest cell may lie below the strongest; `resistance_ratio`: largest over smallest."""

    key: ToleranceKey
    capacity_pct: float
    resistance_ratio: float
    #: Resting voltages of cells that are joined as they lie.
    voltage_v: float


#: House defaults: strict for packs that work hard, usual for most, relaxed where the load is small.
TOLERANCES: Mapping[ToleranceKey, Tolerance] = MappingProxyType(
    {
        "strict": Tolerance("strict", 3, 1.2, 0.01),
        "usual": Tolerance("usual", 10, 1.5, 0.02),
        "relaxed": Tolerance("relaxed", 30, 3, JOIN_WITHIN_V.value),
    }
)
