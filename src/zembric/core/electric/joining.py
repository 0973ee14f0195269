"""Two cells of different voltage joined through a resistor: what flows, and for how long."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.identify.families import ocv_table, open_circuit_v, state_of_charge
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from zembric.core.house.limits import Family


@dataclass(frozen=True, slots=True)
class Joining:
    """First current [A], heat in the resistor [W], minutes until near enough, common voltage, points: minutes, Ua, Ub."""

    peak_a: float
    resistor_w: float
    minutes: float
    common_v: float
    points: tuple[tuple[float, float, float], ...]


def join_cells(
    ua_v: float,
    ub_v: float,
    ra_mohm: float,
    rb_mohm: float,
    r_ohm: float,
    qa_mah: float,
    qb_mah: float,
    family: Family,
    within_v: float,
) -> Joining:
    """I0 = (Ua - Ub) / (ra + rb + R); then charge flows until the open-circuit voltages differ by no more than asked.

    The difference of voltages is linear in the charge moved between the points of both tables, so each piece has a
    closed form.

    Raises:
        BadInputError: the first voltage is the lower one, or one lies outside the family's table.
    """
    charges, volts = ocv_table(family)
    for key, value in (("ua_v", ua_v), ("ub_v", ub_v)):
        if not volts[0] <= value <= volts[-1]:
            raise BadInputError(
                said(
                    "is-v",
                    key=key,
                    value=plain(value),
                    family=family.value,
                    least=plain(volts[0]),
                    most=plain(volts[-1]),
                ),
                field=key,
            )
    if ua_v < ub_v:
        raise BadInputError(said("ua-v-is-v-below-ub", ua=plain(ua_v)), field="ua_v")
    ohm = (ra_mohm + rb_mohm) / 1000 + r_ohm
    peak_a = (ua_v - ub_v) / ohm
    a, b = state_of_charge(family, ua_v), state_of_charge(family, ub_v)
    common_v = open_circuit_v(family, (a * qa_mah + b * qb_mah) / (qa_mah + qb_mah))

    def both_v(moved_mah: float) -> tuple[float, float]:
        return open_circuit_v(family, a - moved_mah / qa_mah), open_circuit_v(family, b + moved_mah / qb_mah)

    until_mah = (a - b) / (1 / qa_mah + 1 / qb_mah)
    knots = (
        {(a - s) * qa_mah for s in charges}
        | {(s - b) * qb_mah for s in charges}
        | {until_mah * k / 60 for k in range(61)}
    )
    hours, points = 0.0, [(0.0, ua_v, ub_v)]
    for start, knot in pairwise(sorted({0.0, until_mah} | {k for k in knots if 0 < k < until_mah})):
        first, last = (upper - lower for upper, lower in (both_v(start), both_v(knot)))
        end = knot
        if first <= within_v:
            break
        if last < within_v:
            end, last = start + (knot - start) * (first - within_v) / (first - last), within_v
        mean_v = first if math.isclose(first, last) else (first - last) / math.log(first / last)
        hours += (end - start) / 1000 * ohm / mean_v
        points.append((60 * hours, *both_v(end)))
    return Joining(peak_a, peak_a**2 * r_ohm, 60 * hours, common_v, tuple(points))
