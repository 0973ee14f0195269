"""Chemistry families: their names, voltages and how voltage follows charge."""

from __future__ import annotations

from bisect import bisect_right

from zembric.core import limits
from zembric.core.errors import BadInputError
from zembric.core.limits import Family

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
    """Full voltage [V] of a cell: its own where known, else its family's; None where neither is known or it is primary."""
    if family is None or family is Family.PRIMARY:
        return None
    return full_v if full_v is not None else limits.FULL_V[family].value


def check_marked_full_v(family: str | None, full_v: float | None) -> None:
    """Refuses a marked full voltage [V] that would let a cell be charged higher than its family bears.

    Raises:
        BadInputError: the family has one full voltage for all its cells, or none is marked that high or low.
    """
    if full_v is None:
        return
    if family != Family.HIGH_VOLTAGE_COBALT:
        raise BadInputError(
            "A marked full voltage belongs to high-voltage cobalt; the others have their family's. Leave it empty.",
            field="full_v",
        )
    least, most = limits.FULL_V[Family.HIGH_VOLTAGE_COBALT].value, limits.MARKED_FULL_MOST_V.value
    if not least <= full_v <= most:
        raise BadInputError(f"A marked full voltage lies between {least:.2f} and {most:.2f} V.", field="full_v")


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
            f"There is no table of voltage over charge for {family.value}; there is one for layered oxide and iron phosphate.",
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
