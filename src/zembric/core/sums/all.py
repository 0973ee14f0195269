"""Every sum by its name, in the order a bench needs them."""

from __future__ import annotations

from types import MappingProxyType

from zembric.core.house.rules import USUAL_RULES, HouseRules
from zembric.core.sums import charging, electric, measuring
from zembric.core.sums.registry import Result, Sum, run_sum

ALL_SUMS: MappingProxyType[str, Sum] = MappingProxyType(
    {entry.name: entry for entry in (*measuring.SUMS, *charging.SUMS, *electric.SUMS)}
)


def work_out(name: str, typed: dict[str, str], rules: HouseRules = USUAL_RULES) -> Result:
    """One sum from typed values, by the house's rules or the usual ones; raises as `run_sum`."""
    return run_sum(ALL_SUMS, name, typed, rules)
