"""Chemistry families: their names, voltages and how voltage follows charge."""

from __future__ import annotations

from bisect import bisect_right

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.said import Amount, named, plain, said, volts

# Generic shapes for planning and simulation [house]: state of charge 0 to 1, open-circuit voltage in V.
_OCV_TABLES: dict[Family, tuple[tuple[float, ...], tuple[float, ...]]] = {
    Family.LAYERED_OXIDE: (
        (0, 0.05, 0.10, 0.20, 0.30, 0.40, 0.50, 0.60, 0.70, 0.80, 0.90, 1),
        (3.00, 3.35, 3.45, 3.55, 3.60, 3.65, 3.72, 3.82, 3.92, 4.00, 4.08, 4.19),
    ),
    Family.IRON_PHOSPHATE: (
        (0, 0.05, 0.10, 0.20, 0.30, 0.50, 0.70, 0.80, 0.90, 0.95, 1),
        (2.50, 3.00, 3.15, 3.22, 3.25, 3.28, 3.30, 3.32, 3.33, 3.35, 3.45),
    ),
}


def as_charged(family: Family | None) -> Family | None:
    """The family whose limits and tables apply: high-voltage cobalt is treated as layered oxide."""
    return Family.LAYERED_OXIDE if family is Family.HIGH_VOLTAGE_COBALT else family


def full_voltage_v(family: Family | None, full_v: float | None) -> float | None:
    """What a cell is charged to [V]: its own mark where its family can have it, else the family's.

    None where the family is not known or primary. A mark that cannot be, kept before it was refused, is not believed.
    """
    if family is None or family is Family.PRIMARY:
        return None
    return full_v if full_v is not None and is_possible_mark(family, full_v) else limits.FULL_V[family].value


def overfull_above_v(family: Family | None, full_v: float | None) -> float | None:
    """A voltage [V] above this went too far: full, or what the family's sheets say at most, and a little."""
    full = _full_at_most_v(family, full_v)
    return None if full is None else full + limits.OVER_FULL_V.value


def hazard_above_v(family: Family | None, full_v: float | None) -> float | None:
    """A voltage [V] above this makes the cell a hazard, whatever it reads later.

    A high-voltage cobalt cell whose mark nobody read may be one for 4.45 V.
    """
    full = _full_at_most_v(family, full_v)
    if full is None or family is None:
        return None
    if family is Family.HIGH_VOLTAGE_COBALT and full == limits.FULL_V[family].value:
        full = limits.HIGH_VOLTAGE_USUAL_V.value
    return full + limits.OVER_HAZARD_V.value


def _full_at_most_v(family: Family | None, full_v: float | None) -> float | None:
    if family is None or family is Family.PRIMARY:
        return None
    return full_v if full_v is not None and is_possible_mark(family, full_v) else limits.OVERFULL_FROM_V[family].value


def is_possible_mark(family: Family, full_v: float) -> bool:
    """Whether a cell of the family can be marked with this full voltage [V]; both ends of the range can."""
    if family is Family.PRIMARY:
        return False
    least, most = limits.MARKED_FULL_LEAST_V[family].value, limits.MARKED_FULL_MOST_V[family].value
    return least - 1e-9 <= full_v <= most + 1e-9


def check_marked_full_v(family: str | None, full_v: float | None) -> None:
    """Refuses a marked full voltage [V] that does not belong to the family: it would set what the cell is charged to.

    Raises:
        BadInputError: outside the family's range, or nothing is known to hold it against.
    """
    if full_v is None:
        return
    if family is None or family == Family.PRIMARY:
        raise BadInputError(
            said("full-voltage-needs-family-that-can"),
            code="full-voltage",
            field="full_v",
        )
    known = Family(family)
    if not is_possible_mark(known, full_v):
        least, most = limits.MARKED_FULL_LEAST_V[known].value, limits.MARKED_FULL_MOST_V[known].value
        raise BadInputError(
            said(
                "no-full-voltage-of",
                full=plain(full_v, "V"),
                family=named("family", known),
                least=Amount(least, "", 2),
                most=volts(most),
            ),
            code="full-voltage",
            field="full_v",
        )


def open_circuit_v(family: Family, state_of_charge: float) -> float:
    """Open-circuit voltage [V] at a state of charge between 0 and 1, linear between the table's points."""
    charges, volts = _OCV_TABLES[as_charged(family) or family]
    clamped = min(max(state_of_charge, charges[0]), charges[-1])
    right = min(bisect_right(charges, clamped), len(charges) - 1)
    left = right - 1
    share = (clamped - charges[left]) / (charges[right] - charges[left])
    return volts[left] + share * (volts[right] - volts[left])


def has_ocv_table(family: Family) -> bool:
    """Whether a charge of this family can be followed over its voltage."""
    return (as_charged(family) or family) in _OCV_TABLES


def ocv_table(family: Family) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """States of charge (0 to 1, rising) and open-circuit voltages [V] at them.

    Raises:
        BadInputError: there is no table for the family.
    """
    table = _OCV_TABLES.get(as_charged(family) or family)
    if table is None:
        raise BadInputError(
            said("there-is-no-table-of-voltage", family=family.value),
            field="family",
        )
    return table


def state_of_charge(family: Family, open_v: float) -> float:
    """State of charge at an open-circuit voltage [V], linear between the table's points, 0 or 1 beyond its ends."""
    charges, volts = ocv_table(family)
    if open_v <= volts[0]:
        return charges[0]
    if open_v >= volts[-1]:
        return charges[-1]
    right = bisect_right(volts, open_v)
    share = (open_v - volts[right - 1]) / (volts[right] - volts[right - 1])
    return charges[right - 1] + share * (charges[right] - charges[right - 1])


def volts_per_charge(family: Family, open_v: float) -> float:
    """Slope of the table [V for the whole capacity] at an open-circuit voltage; of its end pieces beyond its ends."""
    charges, volts = ocv_table(family)
    right = min(max(bisect_right(volts, open_v), 1), len(volts) - 1)
    return (volts[right] - volts[right - 1]) / (charges[right] - charges[right - 1])
