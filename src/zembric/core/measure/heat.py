"""Warmth of a cell as a sign of danger: by thermometer, or by hand in three steps."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.said import Amount, Said, named, said
from zembric.core.story import Inspection, Recovery, RestingVoltage, empties, fills

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.story import Heat, Story

_ROUNDING = 1e-9


def is_hot(heat: Heat) -> bool:
    """Whether a cell is hotter than one at rest can be: above 45 °C, or 10 K above its room; by hand warm or more."""
    if heat.warmth in ("warm", "too-hot"):
        return True
    if heat.cell_degc is None:
        return False
    if heat.cell_degc > limits.HOT_DEGC.value + _ROUNDING:
        return True
    return heat.room_degc is not None and heat.cell_degc - heat.room_degc > limits.HOT_ABOVE_ROOM_K.value + _ROUNDING


def is_cold_to_charge(heat: Heat) -> bool:
    """Whether a charge went on below the least temperature, as far as anybody said."""
    said = [degc for degc in (heat.cell_degc, heat.room_degc) if degc is not None]
    return any(degc < limits.NEVER_CHARGE_BELOW_DEGC.value - _ROUNDING for degc in said)


def heat_words(heat: Heat) -> Said:
    """How warm it was."""
    if heat.cell_degc is None:
        return named("warmth", heat.warmth or "warm")
    if heat.room_degc is None:
        return said("heat", cell=Amount(heat.cell_degc, "°C"))
    return said("heat-in-room", cell=Amount(heat.cell_degc, "°C"), room=Amount(heat.room_degc, "°C"))


def found_hot(story: Story) -> Heat | None:
    """The first time the cell was hot on its own; None: never.

    Warmth tells from an hour after its donor was opened and after its last charge or discharge; in a recovery, and
    within the hour after one, at once; so does a cell that is too hot to hold, or above 60 °C.
    """
    cooled = timedelta(hours=limits.COOLED_DOWN_H.value)
    warmed_at, recovered_at = story.opened_at, None
    for event in story.events:
        if fills(event) or empties(event):
            warmed_at = event.at
        elif isinstance(event, Recovery):
            recovered_at = event.at
            if is_hot(event.heat):
                return event.heat
        elif isinstance(event, Inspection | RestingVoltage) and is_hot(event.heat):
            by_recovery = _within(event.at, recovered_at, cooled)
            if by_recovery or _is_too_hot(event.heat) or warmed_at is None or event.at - warmed_at >= cooled:
                return event.heat
    return None


def _is_too_hot(heat: Heat) -> bool:
    return heat.warmth == "too-hot" or (heat.cell_degc is not None and heat.cell_degc > limits.TOO_HOT_DEGC.value)


def _within(at: datetime, since: datetime | None, span: timedelta) -> bool:
    return since is not None and at - since <= span
