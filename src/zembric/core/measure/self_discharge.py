"""Loss on the shelf from resting voltages over days."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.measure.first_voltage import ended_at_v
from zembric.core.measure.uncertainty import resolution_u
from zembric.core.said import Amount, Said, plain, said, volts
from zembric.core.story import (
    Charge,
    Recovery,
    RestingVoltage,
    Shelved,
    fills,
    latest,
    uses,
)

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import Event, Story

SelfDischargeVerdict = Literal["fine", "watch", "leaking", "too-early"]
_DAY = timedelta(days=1)
_WATCHED_ON_SHELF = 2
_ROUNDING = 1e-9


@dataclass(frozen=True, slots=True)
class Slope:
    """Loss of resting voltage [mV a day], positive while it falls, with its standard error; None where too early.

    `readings` are those behind it; 1: the last reading against the end of the charge. `rises`: by more than its errors,
    which is no self-discharge.
    """

    verdict: SelfDischargeVerdict
    mv_per_day: float | None = None
    error_mv_per_day: float | None = None
    readings: int = 0
    rises: bool = False


TOO_EARLY = Slope("too-early")


@dataclass(frozen=True, slots=True)
class _AtRest:
    """The time since the last charge: what began it (None: nothing was charged yet) and the readings since."""

    began: Event | None
    readings: tuple[RestingVoltage, ...]


def self_discharge(story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules) -> Slope:
    """The verdict on the resting voltages taken since the last charge; after a discharge there is none.

    Where the line through them does not tell yet, the last reading may tell alone.
    """
    at_rest = _now_at_rest(story, voltages)
    return _verdict(story, at_rest, rules) if at_rest else TOO_EARLY


def first_said(
    verdict: SelfDischargeVerdict, story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules
) -> Slope | None:
    """The first time that the readings said this; leaking stays said, whatever was charged since. None: never."""
    counted, is_off = set(voltages), False
    began: Event | None = None
    readings: tuple[RestingVoltage, ...] = ()
    for event in story.events:
        if uses(event):
            began, readings, is_off = event, (), not (fills(event) or isinstance(event, Recovery))
        elif isinstance(event, RestingVoltage) and event in counted and not is_off:
            readings = (*readings, event)
            slope = _verdict(story, _AtRest(began, readings), rules)
            if slope.verdict == verdict:
                return slope
    return None


def _now_at_rest(story: Story, voltages: Sequence[RestingVoltage]) -> _AtRest | None:
    """None: it was emptied or used last, so nothing is known to start from."""
    began = latest(event for event in story.events if uses(event))
    if began is not None and not (fills(began) or isinstance(began, Recovery)):
        return None
    return _AtRest(began, tuple(reading for reading in voltages if began is None or reading.at > began.at))


def _verdict(story: Story, at_rest: _AtRest, rules: HouseRules) -> Slope:
    family = story.facts.family or Family.LAYERED_OXIDE
    if family is Family.PRIMARY:
        return TOO_EARLY
    counted = [reading for reading in at_rest.readings if not _left_out(reading, at_rest, family, rules)]
    zero_at = at_rest.began.at if at_rest.began else counted[0].at if counted else None
    if zero_at is None:
        return TOO_EARLY
    days = [(reading.at - zero_at) / _DAY for reading in counted]
    if at_rest.began is None and days[-1] < rules.value(limits.SLOPE_FROM_DAY):
        return _as_found(counted, days, family, rules)
    line = fit_slope(days, [r.value_v for r in counted], [r.resolution_v for r in counted], rules)
    if line.verdict != "too-early":
        return line
    alone = _by_last_reading(story, at_rest, family, rules)
    if alone is None or (line.rises and alone.verdict == "fine"):
        return line
    return alone if alone.verdict != "too-early" or line.mv_per_day is None else line


def _as_found(counted: Sequence[RestingVoltage], days: Sequence[float], family: Family, rules: HouseRules) -> Slope:
    """The first days of a cell as it was found: nobody knows what was done to it last, so it may still settle.

    Only what it falls by beyond the allowance for settling is a loss.
    """
    if len(counted) < 2 or days[-1] <= 0:
        return TOO_EARLY
    is_settled = days[-1] >= rules.of(limits.RELAXATION_H, family) / 24
    settles_v = rules.value(limits.SETTLES_ENDED_V if is_settled else limits.SETTLES_STOPPED_V)
    first, last = counted[0], counted[-1]
    lost_v = first.value_v - last.value_v - settles_v
    if lost_v <= 0:
        return TOO_EARLY
    error_v = math.hypot(resolution_u(first.resolution_v), resolution_u(last.resolution_v))
    resolution_v = max(first.resolution_v, last.resolution_v)
    return _judged(1000 * lost_v / days[-1], 1000 * error_v / days[-1], lost_v, resolution_v, days[-1], 2, rules)


def _left_out(reading: RestingVoltage, at_rest: _AtRest, family: Family, rules: HouseRules) -> Said | None:
    """Why a reading says nothing about loss; None: it does."""
    if at_rest.began is not None:
        relaxation_h = rules.of(limits.RELAXATION_H, family)
        if reading.at - at_rest.began.at < timedelta(hours=relaxation_h):
            return said("left-out-settles", within=Amount(relaxation_h, "h"))
    if family is Family.IRON_PHOSPHATE and reading.value_v > rules.value(limits.FLAT_SETTLES_ABOVE_V) + _ROUNDING:
        return said("left-out-flat", above=volts(rules.value(limits.FLAT_SETTLES_ABOVE_V)))
    return None


def _by_last_reading(story: Story, at_rest: _AtRest, family: Family, rules: HouseRules) -> Slope | None:
    """What the last reading alone says against the voltage that the charge ended at; None: nothing.

    From the end of the charge less an allowance for settling, which is larger where it was stopped under current.
    Source: house rule, docs/judging.md.
    """
    began = at_rest.began
    if began is None or not fills(began) or not at_rest.readings:
        return None
    last, ended_v = at_rest.readings[-1], ended_at_v(story, began)
    days = (last.at - began.at) / _DAY
    if not ended_v or days < rules.value(limits.SLOPE_FROM_DAY) - _ROUNDING:
        return None
    ended_by_itself = not isinstance(began, Charge) or began.complete
    starts_v = ended_v - rules.value(limits.SETTLES_ENDED_V if ended_by_itself else limits.SETTLES_STOPPED_V)
    if family is Family.IRON_PHOSPHATE:
        starts_v = min(starts_v, rules.value(limits.FLAT_STARTS_AT_MOST_V))
        if last.value_v >= rules.value(limits.FLAT_TELLS_BELOW_V) - _ROUNDING:
            return None
    lost_v = max(starts_v - last.value_v, 0.0)
    error_v = math.hypot(rules.value(limits.CHARGE_END_KNOWN_V), resolution_u(last.resolution_v))
    return _judged(1000 * lost_v / days, 1000 * error_v / days, lost_v, last.resolution_v, days, 1, rules)


def fit_slope(
    days: Sequence[float], volts: Sequence[float], resolutions_v: Sequence[float], rules: HouseRules
) -> Slope:
    """Weighted least squares of voltage over days; the error is the larger of the meter's and the scatter's.

    Source: linear regression with weights 1/u^2; limits of the house rules.
    """
    if len(days) < 2 or max(days) == min(days):
        return TOO_EARLY
    weights = [1 / max(resolution_u(resolution), 1e-6) ** 2 for resolution in resolutions_v]
    total = math.fsum(weights)
    mean_day = math.fsum(w * d for w, d in zip(weights, days, strict=True)) / total
    mean_v = math.fsum(w * v for w, v in zip(weights, volts, strict=True)) / total
    spread = math.fsum(w * (d - mean_day) ** 2 for w, d in zip(weights, days, strict=True))
    slope = math.fsum(w * (d - mean_day) * (v - mean_v) for w, d, v in zip(weights, days, volts, strict=True)) / spread
    by_meter = math.sqrt(1 / spread)
    misfit = math.fsum(
        w * (v - mean_v - slope * (d - mean_day)) ** 2 for w, d, v in zip(weights, days, volts, strict=True)
    )
    by_scatter = math.sqrt(misfit / (len(days) - 2) / spread) if len(days) > 2 else 0.0
    loss, error = -1000 * slope, 1000 * max(by_meter, by_scatter)
    return _judged(loss, error, volts[0] - volts[-1], max(resolutions_v), days[-1], len(days), rules)


def _judged(
    loss: float, error: float, fall_v: float, resolution_v: float, last_day: float, readings: int, rules: HouseRules
) -> Slope:
    """A loss [mV a day] with its standard error against the limits; a fall of less than three last digits is none yet."""
    leaking, watch = rules.value(limits.LEAKING_MV_PER_DAY), rules.value(limits.WATCH_MV_PER_DAY)
    certain = loss - 2 * error
    has_fallen = fall_v >= limits.WAIT_RESOLUTIONS.value * resolution_v - _ROUNDING
    rises = loss < -2 * error
    verdict: SelfDischargeVerdict = "too-early"
    if has_fallen and certain > leaking + _ROUNDING:
        verdict = "leaking"
    elif has_fallen and certain > watch + _ROUNDING:
        verdict = "watch"
    elif not rises and loss + 2 * error < leaking and last_day > rules.value(limits.SLOPE_FROM_DAY):
        verdict = "fine"
    return Slope(verdict, loss, error, readings, rises)


@dataclass(frozen=True, slots=True)
class FittedLine:
    """A line through resting voltages with the band of two standard errors; arrays of equal length."""

    days: tuple[float, ...]
    volts: tuple[float, ...]
    low_v: tuple[float, ...]
    high_v: tuple[float, ...]


def line_of(days: Sequence[float], volts: Sequence[float], standard_u_v: Sequence[float], slope: Slope) -> FittedLine:
    """The fitted line to be drawn, from the first to the last reading, with its band."""
    weights = [1 / max(u, 1e-6) ** 2 for u in standard_u_v]
    total = math.fsum(weights)
    mean_day = math.fsum(w * d for w, d in zip(weights, days, strict=True)) / total
    mean_v = math.fsum(w * v for w, v in zip(weights, volts, strict=True)) / total
    per_day = -(slope.mv_per_day or 0.0) / 1000
    error = (slope.error_mv_per_day or 0.0) / 1000
    at = [days[0] + (days[-1] - days[0]) * k / 20 for k in range(21)]
    middle = [mean_v + per_day * (d - mean_day) for d in at]
    half = [2 * math.hypot(error * (d - mean_day), 1 / math.sqrt(total)) for d in at]
    return FittedLine(
        tuple(at), tuple(middle),
        tuple(v - h for v, h in zip(middle, half, strict=True)), tuple(v + h for v, h in zip(middle, half, strict=True)),
    )  # fmt: skip


def days_to_tell(resolution_v: float, limit_mv_per_day: float) -> float:
    """How long to wait until a meter can tell a slope: three of its last digits [days]."""
    return limits.WAIT_RESOLUTIONS.value * 1000 * resolution_v / limit_mv_per_day


@dataclass(frozen=True, slots=True)
class RestReading:
    """One resting voltage in days since the last charge or discharge, and why it does not count; None: it counts."""

    days: float
    value_v: float
    left_out: Said | None


@dataclass(frozen=True, slots=True)
class RestPicture:
    """A cell at rest: its readings, the line through those that count, and when the next one will tell something."""

    since: datetime
    after_charge: bool
    readings: tuple[RestReading, ...]
    slope: Slope
    line: FittedLine | None
    next_at: datetime | None
    said: Said


def rest_picture(
    story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules, resolution_v: float | None = None
) -> RestPicture | None:
    """What the resting voltages since the last charge say.

    `resolution_v` is that of the meter that will read next; None: as fine as the last reading.
    None is returned where nothing was charged yet, where it was emptied since, or where the cell is primary.
    """
    family = story.facts.family or Family.LAYERED_OXIDE
    at_rest = _now_at_rest(story, voltages)
    if at_rest is None or at_rest.began is None or family is Family.PRIMARY:
        return None
    began_at = at_rest.began.at
    readings = tuple(
        RestReading((reading.at - began_at) / _DAY, reading.value_v, _left_out(reading, at_rest, family, rules))
        for reading in at_rest.readings
    )
    counted = [r for r, told in zip(at_rest.readings, readings, strict=True) if told.left_out is None]
    slope = self_discharge(story, voltages, rules)
    days = [(reading.at - began_at) / _DAY for reading in counted]
    line = (
        line_of(days, [r.value_v for r in counted], [resolution_u(r.resolution_v) for r in counted], slope)
        if slope.mv_per_day is not None and slope.readings > 1
        else None
    )
    by_last = counted[-1].resolution_v if counted else rules.value(limits.VOLTAGE_RESOLUTION_V)
    resolution_v = resolution_v or by_last
    next_at = _next_reading(began_at, family, counted, resolution_v, slope, rules)
    return RestPicture(began_at, True, readings, slope, line, next_at, _rest_said(slope, counted, resolution_v, rules))


def watched_reading_at(story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules) -> datetime | None:
    """When the next voltage of a cell that is being watched at rest will tell something; None: nobody watches it.

    Watched is what was read since it settled and where nothing else was done since. On the shelf one reading is the
    usual look, so there it takes two.
    """
    if not story.events or not isinstance(story.events[-1], RestingVoltage):
        return None
    picture = rest_picture(story, voltages, rules)
    if picture is None or all(reading.left_out for reading in picture.readings):
        return None
    shelved = latest(story.of(Shelved))
    is_shelved = shelved is not None and shelved.at >= picture.since
    return None if is_shelved and len(picture.readings) < _WATCHED_ON_SHELF else picture.next_at


def _next_reading(
    began_at: datetime,
    family: Family,
    counted: Sequence[RestingVoltage],
    resolution_v: float,
    slope: Slope,
    rules: HouseRules,
) -> datetime | None:
    """When a reading will tell something: the first as soon as it has settled, the next when the meter can tell a slope."""
    if not counted:
        return began_at + timedelta(hours=rules.of(limits.RELAXATION_H, family))
    if slope.verdict == "watch":
        return counted[-1].at + timedelta(days=rules.value(limits.WATCH_AGAIN_DAYS))
    if slope.verdict != "too-early":
        return None
    wait = timedelta(days=days_to_tell(resolution_v, rules.value(limits.WATCH_MV_PER_DAY)))
    from_day = began_at + timedelta(days=rules.value(limits.SLOPE_FROM_DAY))
    return max(counted[0].at + wait, counted[-1].at + _DAY, from_day)


def _rest_said(slope: Slope, counted: Sequence[RestingVoltage], resolution_v: float, rules: HouseRules) -> Said:
    watch = rules.value(limits.WATCH_MV_PER_DAY)
    if slope.rises:
        return said("rest-rises")
    if slope.verdict == "too-early" and counted:
        wait = Amount(days_to_tell(resolution_v, watch), "", 1)
        return said("rest-too-early", resolution=plain(1000 * resolution_v, "mV"), watch=plain(watch, "mV"), days=wait)
    if not counted or slope.mv_per_day is None or slope.error_mv_per_day is None:
        return said("rest-nothing-counts")
    loss, error = Amount(slope.mv_per_day, "", 2), Amount(slope.error_mv_per_day, "mV", 2)
    if slope.readings == 1:
        return said("rest-loss-by-last", loss=loss, error=error)
    return said("rest-loss", loss=loss, error=error, readings=slope.readings)
