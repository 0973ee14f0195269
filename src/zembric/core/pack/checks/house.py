"""What volunteers build at all, and how a pack leaves the house."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.checks.model import Check, CheckKey, CheckState, amount, of_limit
from zembric.core.said import named, said

if TYPE_CHECKING:
    from collections.abc import Iterator

    from zembric.core.house.limits import Limit
    from zembric.core.pack.checks.model import Checked


def check_house(checked: Checked) -> Iterator[Check]:
    """Volts and watt-hours against the house's limits and those of a coordinator; the way it leaves."""
    yield _within("pack-volts", checked.full_v, "V", 1, limits.PACK_FULL_V, limits.PACK_FULL_MOST_V)
    yield _within("pack-energy", checked.energy_wh, "Wh", 0, limits.PACK_ENERGY_WH, limits.PACK_ENERGY_MOST_WH)
    promise = checked.plan.promise
    leaves = promise.leaves if promise else "by-hand"
    yield Check(
        "transport", "holds" if leaves == "by-hand" else "stop", named("worked-transport", leaves),
        mend=None if leaves == "by-hand" else said("mend-transport"),
    )  # fmt: skip


def _within(key: CheckKey, value: float, unit: str, digits: int, usual: Limit, most: Limit) -> Check:
    is_never = value > most.value + 1e-9
    state: CheckState = "stop" if value > usual.value + 1e-9 else "holds"
    mend = None if state == "holds" else named("mend-house", f"{key}-never" if is_never else key)
    told = amount(value, unit, digits)
    worked = said(
        f"worked-house-{key}", value=told, usual=amount(usual.value, unit, 0), most=amount(most.value, unit, 0)
    )
    return Check(
        key,
        state,
        worked,
        told,
        **of_limit(most if is_never else usual, digits=0),
        mend=mend,
        may_be_waived=not is_never,
    )
