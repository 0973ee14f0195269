"""What a resting voltage says about a cell before anything was charged into it: the three schools."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core import limits
from zembric.core.families import as_charged, full_voltage_v
from zembric.core.limits import Family
from zembric.core.story import Recovery, RestingVoltage, Story, empties, fills

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.rules import VoltageSchool

Band = Literal["recycle", "watched-recovery", "recovery", "go-on", "over-voltage"]


@dataclass(frozen=True, slots=True)
class BandOfVoltage:
    """Where a voltage lies: the band, its lower edge and, for a recovery that marks the cell for life, `marks`."""

    band: Band
    from_v: float
    marks: bool = False


def band_of(value_v: float, family: Family, full_v: float | None, school: VoltageSchool) -> BandOfVoltage:
    """The band of a resting voltage [V]. A value on a limit belongs to the upper band."""
    full = full_voltage_v(family, full_v)
    for edge in _bands(as_charged(family) or family, school):
        if value_v < edge.from_v:
            continue
        if edge.band == "go-on" and full is not None and value_v > full + limits.OVER_FULL_V.value:
            return BandOfVoltage("over-voltage", full + limits.OVER_FULL_V.value)
        return edge
    return BandOfVoltage("recycle", 0.0)


def _bands(family: Family, school: VoltageSchool) -> tuple[BandOfVoltage, ...]:
    """Bands from the highest down; what lies below the last is recycled."""
    go_on = BandOfVoltage("go-on", limits.PRE_CHARGE_BELOW_V[family].value)
    if school == "strict":
        return (go_on,)
    never_below_v = limits.NEVER_CHARGE_BELOW_V[family].value
    if family is not Family.LAYERED_OXIDE:
        return (go_on, BandOfVoltage("recovery", never_below_v))
    bands = (
        go_on,
        BandOfVoltage("recovery", limits.WATCHED_BELOW_V.value),
        BandOfVoltage("watched-recovery", never_below_v),
    )
    if school == "usual":
        return bands
    return (*bands, BandOfVoltage("watched-recovery", limits.THRIFTY_FROM_V.value, marks=True))


def bands_upwards(family: Family, school: VoltageSchool) -> tuple[BandOfVoltage, ...]:
    """All bands of a family under a school from zero up, each with the voltage [V] it starts at."""
    recycle = BandOfVoltage("recycle", 0.0)
    over = BandOfVoltage("over-voltage", limits.FULL_V[family].value + limits.OVER_FULL_V.value)
    return (recycle, *reversed(_bands(as_charged(family) or family, school)), over)


def counting_voltages(story: Story) -> tuple[RestingVoltage, ...]:
    """Resting voltages that are voltages of the cell.

    The first one near zero only says that nothing was reached: a protection circuit tripped, or a tab is torn.
    A second such reading counts. Swapped leads (negative) never do.
    """
    counted: list[RestingVoltage] = []
    near_zero = 0
    for reading in story.of(RestingVoltage):
        if reading.value_v < 0:
            continue
        if reading.value_v < limits.NO_READING_BELOW_V.value:
            near_zero += 1
            if near_zero == 1:
                continue
        counted.append(reading)
    return tuple(counted)


def finds(story: Story) -> tuple[RestingVoltage, ...]:
    """The resting voltages that the school looks at.

    The lowest before the first charge or discharge, then any taken 14 days or more after the last one: an emptied
    cell that rests at 2.9 V an hour later is no find. A recovery is no charge: from 2.8 V on nothing more is asked.
    """
    pause = timedelta(days=limits.SCHOOL_LOOKS_AGAIN_AFTER_DAYS.value)
    before_first: list[RestingVoltage] = []
    later: list[RestingVoltage] = []
    last_use: datetime | None = None
    counted = set(counting_voltages(story))
    for event in story.events:
        if isinstance(event, RestingVoltage) and event in counted:
            if last_use is None:
                before_first.append(event)
            elif event.at - last_use >= pause:
                later.append(event)
        elif fills(event) or empties(event):
            last_use = event.at
    lowest = min(before_first, key=lambda reading: reading.value_v, default=None)
    return tuple(reading for reading in (lowest, *later) if reading is not None)


def recovery_failed(story: Story) -> Recovery | RestingVoltage | None:
    """What shows that a recovery failed: its own outcome, or a voltage that fell back an hour or more after it.

    The voltage counts until the cell is charged or discharged. The limit is 0.2 V below the family's pre-charge
    voltage, which is 2.8 V for layered oxide.
    """
    family = as_charged(story.facts.family) or Family.LAYERED_OXIDE
    if family is Family.PRIMARY:
        return None
    fell_below_v = limits.PRE_CHARGE_BELOW_V[family].value - limits.RECOVERED_BELOW_PRE_CHARGE_V.value
    settled = timedelta(hours=limits.RECOVERY_SETTLES_H.value)
    passed: Recovery | None = None
    for event in story.events:
        if isinstance(event, Recovery):
            if event.outcome == "failed":
                return event
            passed = event
        elif fills(event) or empties(event):
            passed = None
        elif isinstance(event, RestingVoltage) and passed:
            fell_back = 0 <= event.value_v < fell_below_v - 1e-9
            if fell_back and event.at - passed.at >= settled:
                return event
    return None
