"""How a charge goes: constant current, then constant voltage, over the family's table of voltage and charge."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import ocv_table, open_circuit_v, state_of_charge
from zembric.core.said import Amount, plain, said

if TYPE_CHECKING:
    from collections.abc import Sequence


@dataclass(frozen=True, slots=True)
class ChargePlan:
    """Minutes of constant current and constant voltage, and points along the way: minutes, charge, volts, mA."""

    cc_minutes: float
    cv_minutes: float
    points: tuple[tuple[float, float, float, float], ...]

    @property
    def minutes(self) -> float:
        return self.cc_minutes + self.cv_minutes


def plan_charge(
    capacity_mah: float, current_ma: float, full_v: float, end_ma: float, start_soc: float, mohm: float, family: Family
) -> ChargePlan:
    """Integrates a charge: at the current until OCV + I r reaches full, then at full until the end current or all charge is in.

    Between the points of the table the voltage is linear, so each piece has a closed form.

    Raises:
        BadInputError: no table for the family, or a full voltage above what it bears.
    """
    check_full_v(family, full_v)
    charges, _ = ocv_table(family)
    ohm, amps, end_a = mohm / 1000, current_ma / 1000, end_ma / 1000
    capacity_ah = capacity_mah / 1000
    held_from = min(max(state_of_charge(family, full_v - amps * ohm), start_soc), 1.0)
    if open_circuit_v(family, start_soc) + amps * ohm >= full_v:
        held_from = start_soc
    hours = (held_from - start_soc) * capacity_ah / amps
    points = [
        (60 * hours * share, start_soc + share * (held_from - start_soc))
        for share in ([k / 40 for k in range(41)] if held_from > start_soc else [0.0])
    ]
    drawn = [(t, s, open_circuit_v(family, s) + amps * ohm, current_ma) for t, s in points]
    cc_minutes = 60 * hours
    minutes, soc = cc_minutes, held_from
    for knot in (c for c in [*_fine(charges), 1.0] if c > held_from):
        now_a = min((full_v - open_circuit_v(family, soc)) / ohm, amps)
        if now_a <= end_a or soc >= 1:
            break
        right, then_a = knot, (full_v - open_circuit_v(family, knot)) / ohm
        if then_a < end_a:
            # The current is linear in charge within a piece.
            right, then_a = soc + (knot - soc) * (now_a - end_a) / (now_a - then_a), end_a
        mean_a = now_a if math.isclose(now_a, then_a) else (now_a - then_a) / math.log(now_a / then_a)
        minutes += 60 * (right - soc) * capacity_ah / mean_a
        soc = right
        drawn.append((minutes, soc, full_v, 1000 * then_a))
    return ChargePlan(cc_minutes, minutes - cc_minutes, tuple(drawn))


def check_full_v(family: Family, full_v: float) -> None:
    """Refuses a charge that no cell of the family bears.

    Raises:
        BadInputError: primary, or above the family's full voltage by more than what is allowed.
    """
    if family is Family.PRIMARY:
        raise BadInputError(said("family-primary-cell-must-never"), field="family")
    most_v = limits.OVERFULL_FROM_V[family].value + limits.OVER_FULL_V.value
    if family is Family.HIGH_VOLTAGE_COBALT:
        most_v = limits.MARKED_FULL_MOST_V[family].value
    if full_v > most_v + 1e-9:
        raise BadInputError(
            said("full-v-is-v", full=plain(full_v), family=family.value, most=Amount(most_v, "", 2)), field="full_v"
        )


def _fine(charges: Sequence[float]) -> list[float]:
    """The table's points with some between, so that a drawn curve is smooth."""
    return [a + (b - a) * part / 6 for a, b in pairwise(charges) for part in range(1, 7)]
