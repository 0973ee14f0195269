"""What a resting voltage says about a cell: as it was found, by the three schools, and at every later time."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged, full_voltage_v, overfull_above_v
from zembric.core.story import (
    CameBack,
    CapacityRun,
    Charge,
    Recovery,
    RestingVoltage,
    Story,
    empties,
    fills,
    latest,
    uses,
)

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.house.rules import HouseRules, VoltageSchool
    from zembric.core.story import Event

_ROUNDING = 1e-9
Band = Literal["recycle", "watched-recovery", "recovery", "go-on", "over-voltage"]


@dataclass(frozen=True, slots=True)
class BandOfVoltage:
    """Where a voltage lies: the band, its lower edge and, for a recovery that marks the cell for life, `marks`."""

    band: Band
    from_v: float
    marks: bool = False


def band_of(value_v: float, family: Family, full_v: float | None, school: VoltageSchool) -> BandOfVoltage:
    """The band of a resting voltage [V]. A value on a limit belongs to the upper band."""
    most_v = overfull_above_v(family, full_v)
    if most_v is not None and value_v > most_v + _ROUNDING:
        return BandOfVoltage("over-voltage", most_v)
    bands = _bands(as_charged(family) or family, school)
    return next((edge for edge in bands if value_v >= edge.from_v), BandOfVoltage("recycle", 0.0))


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
    over = BandOfVoltage("over-voltage", overfull_above_v(family, None) or 0.0)
    return (recycle, *reversed(_bands(as_charged(family) or family, school)), over)


def counting_voltages(story: Story) -> tuple[RestingVoltage, ...]:
    """Resting voltages that are voltages of the cell.

    One near zero only says that nothing was reached: a protection circuit tripped, or a tab is torn. A second such
    reading in a row counts. Swapped leads (negative) never do.
    """
    counted: list[RestingVoltage] = []
    near_zero = 0
    for reading in story.of(RestingVoltage):
        if reading.value_v < 0:
            continue
        near_zero = near_zero + 1 if reading.value_v < limits.NO_READING_BELOW_V.value else 0
        if near_zero != 1:
            counted.append(reading)
    return tuple(counted)


def nothing_reached(story: Story) -> RestingVoltage | None:
    """The last resting voltage where it was the first in a row near zero, so that it has to be taken again."""
    readings = [reading for reading in story.of(RestingVoltage) if reading.value_v >= 0]
    if not readings or readings[-1] in counting_voltages(story)[-1:]:
        return None
    return readings[-1]


def find_of(story: Story) -> RestingVoltage | None:
    """How the cell was found: the lowest resting voltage before the first charge, discharge or recovery."""
    counted = set(counting_voltages(story))
    before: list[RestingVoltage] = []
    for event in story.events:
        if uses(event):
            break
        if isinstance(event, RestingVoltage) and event in counted:
            before.append(event)
    return min(before, key=lambda reading: reading.value_v, default=None)


def standing_voltage(story: Story, voltages: Sequence[RestingVoltage]) -> RestingVoltage | None:
    """The last resting voltage that still holds: taken an hour or more after the last charge, load or recovery.

    None where there is none, or where the last reading reached nothing.
    """
    if nothing_reached(story):
        return None
    last_use = latest(event for event in story.events if uses(event))
    rested = timedelta(hours=limits.RESTED_H.value)
    holding = [reading for reading in voltages if last_use is None or reading.at - last_use.at >= rested]
    return holding[-1] if holding else None


LaterGround = Literal["too-low", "lost-its-charge"]


def later_ground(
    story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules
) -> tuple[LaterGround, RestingVoltage] | None:
    """What a resting voltage after the first charge or discharge says against a cell; the first that does.

    Below what its family may be charged from it is too low at any time. Between that and the pre-charge limit it lost
    its charge by itself, unless somebody or some use emptied it since the last charge that ended well above.
    """
    family = as_charged(story.facts.family)
    if family is None or family is Family.PRIMARY:
        return None
    never_v, pre_charge_v = limits.NEVER_CHARGE_BELOW_V[family].value, limits.PRE_CHARGE_BELOW_V[family].value
    well_above_v = pre_charge_v + rules.value(limits.CHARGED_ABOVE_PRE_CHARGE_V)
    counted, was_used, is_charged = set(voltages), False, False
    for event in story.events:
        if isinstance(event, RestingVoltage) and event in counted and was_used:
            if event.value_v < never_v - _ROUNDING:
                return "too-low", event
            if event.value_v < pre_charge_v - _ROUNDING and is_charged:
                return "lost-its-charge", event
        was_used = was_used or uses(event)
        if fills(event):
            is_charged = is_charged or ended_at_v(story, event, well_above_v) >= well_above_v - _ROUNDING
        elif empties(event) or isinstance(event, CameBack):
            is_charged = False
    return None


def ended_at_v(story: Story, event: Event, unknown_v: float = 0.0) -> float:
    """The voltage [V] that a charge ended at; one that was counted to its end is full, else it is not known."""
    if isinstance(event, Charge):
        return event.end_v
    if isinstance(event, CapacityRun) and event.complete:
        return full_voltage_v(story.facts.family, story.facts.full_v) or unknown_v
    return 0.0


@dataclass(frozen=True, slots=True)
class RecoveryProof:
    """How the last recovery stands: what shows that it failed, or the reading that proves it.

    `pending` is the recovery that still wants its reading at rest; `charged_since`: it was charged without.
    `stands_from`: since then a mark for life can be decided; a later recovery does not take that back.
    """

    failed: Recovery | RestingVoltage | None = None
    pending: Recovery | None = None
    charged_since: Event | None = None
    proved_by: RestingVoltage | None = None
    stands_from: datetime | None = None


def recovery_proof(story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules) -> RecoveryProof:
    """A recovery has passed only with a reading an hour after it; one that was charged without by the first from day 3 on.

    Once failed, always failed: by its own outcome, or by a voltage more than 0.2 V below the family's pre-charge limit,
    which is 2.8 V for layered oxide.
    """
    family = as_charged(story.facts.family) or Family.LAYERED_OXIDE
    if family is Family.PRIMARY:
        return RecoveryProof()
    fell_below_v = limits.PRE_CHARGE_BELOW_V[family].value - limits.RECOVERED_BELOW_PRE_CHARGE_V.value
    settles, takes_its_place = (
        timedelta(hours=limits.RECOVERY_SETTLES_H.value),
        timedelta(days=rules.value(limits.SLOPE_FROM_DAY)),
    )
    counted = set(voltages)
    passed: Recovery | None = None
    charged: Event | None = None
    proof: RestingVoltage | None = None
    stands_from: datetime | None = None
    is_emptied = False
    for event in story.events:
        if isinstance(event, Recovery):
            if event.outcome == "failed":
                return RecoveryProof(failed=event)
            passed, charged, proof, is_emptied = event, None, None, False
        elif passed is None:
            continue
        elif fills(event):
            charged, is_emptied = event, False
            stands_from = event.at if proof is None else stands_from
        elif empties(event) or isinstance(event, CameBack):
            is_emptied = True
        elif isinstance(event, RestingVoltage) and event in counted and not is_emptied:
            is_due = event.at - passed.at >= settles if charged is None else event.at - charged.at >= takes_its_place
            tells = is_due and (proof is None or charged is None)
            if tells and event.value_v < fell_below_v - _ROUNDING:
                return RecoveryProof(failed=event)
            if tells and proof is None:
                proof, stands_from = event, event.at
    if passed is None or proof is not None:
        return RecoveryProof(proved_by=proof, stands_from=stands_from)
    return RecoveryProof(pending=passed, charged_since=charged, stands_from=stands_from)
