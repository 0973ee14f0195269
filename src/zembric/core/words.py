"""Numbers and times set in plain text, the same everywhere the core speaks."""

from __future__ import annotations

import math
from datetime import timedelta
from types import MappingProxyType

_DAY = timedelta(days=1)


def amount(value: float, unit: str, digits: int = 0) -> str:
    """A number with its unit, e.g. 3.71 V; a no-break space keeps them together."""
    # Halves go up, as people round and as the browser does; formatting alone would take them to the even digit.
    text = f"{value + math.copysign(1e-9, value):.{digits}f}"
    return f"{text}\u00a0{unit}" if unit else text


def volts(value_v: float) -> str:
    return amount(value_v, "V", 2)


def duration(span: timedelta) -> str:
    """A span in the largest unit that fits, e.g. 3 days, 40 min."""
    if span >= 2 * _DAY:
        return f"{span.days} days"
    if span >= timedelta(hours=2):
        return amount(span / timedelta(hours=1), "h")
    return amount(span / timedelta(minutes=1), "min")


def listed(words: list[str]) -> str:
    """a, b and c"""
    return " and ".join(part for part in (", ".join(words[:-1]), words[-1]) if part) if words else ""


_UNIT_OF_SUFFIX = MappingProxyType(
    {"v": "V", "wh": "Wh", "mah": "mAh", "ma": "mA", "min": "min", "ohm": "Ω", "g": "g", "mm": "mm"}
)


def unit_of(name: str) -> str:
    """The unit that a name carries at its end, as people write it: charger_r1_ohm is in Ω."""
    return _UNIT_OF_SUFFIX[name.rsplit("_", 1)[-1]]
