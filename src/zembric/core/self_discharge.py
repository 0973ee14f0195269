"""Loss on the shelf from resting voltages over days."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core import limits
from zembric.core.families import full_voltage_v
from zembric.core.limits import Family
from zembric.core.story import Charge, RestingVoltage, Shelved, empties, fills, latest
from zembric.core.uncertainty import resolution_u

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.rules import HouseRules
    from zembric.core.story import Event, Story

SelfDischargeVerdict = Literal["fine", "watch", "leaking", "too-early"]
_DAY = timedelta(days=1)
_WATCHED_ON_SHELF = 2


@dataclass(frozen=True, slots=True)
class Slope:
    """Loss of resting voltage [mV a day], positive while it falls, with its standard error; None where too early."""

    verdict: SelfDischargeVerdict
    mv_per_day: float | None = None
    error_mv_per_day: float | None = None
    readings: int = 0


TOO_EARLY = Slope("too-early")


def self_discharge(story: Story, voltages: Sequence[RestingVoltage], rules: HouseRules | None = None) -> Slope:
    """The verdict on the resting voltages taken since the last charge or discharge.

    Readings within the relaxation time after a charge are left out. Where a single one qualifies, a cell charged
    to 4.20 V that rests below 4.10 V fourteen days later is put on watch.
    """
    last_use = next((event for event in reversed(story.events) if fills(event) or empties(event)), None)
    if last_use is None:
        return TOO_EARLY
    family = story.facts.family or Family.LAYERED_OXIDE
    if family is Family.PRIMARY:
        return TOO_EARLY
    relaxation = timedelta(hours=limits.RELAXATION_H[family].value if fills(last_use) else 0)
    qualifying = [r for r in voltages if r.at - last_use.at >= relaxation and r.at > last_use.at]
    days = [(r.at - last_use.at) / _DAY for r in qualifying]
    if len(qualifying) == 1:
        return _by_one_reading(story, last_use, qualifying[0])
    return fit_slope(days, [r.value_v for r in qualifying], [r.resolution_v for r in qualifying], rules)


def fit_slope(
    days: Sequence[float], volts: Sequence[float], resolutions_v: Sequence[float], rules: HouseRules | None = None
) -> Slope:
    """Weighted least squares of voltage over days; the error is the larger of the meter's and the scatter's.

    The verdict goes by the rules, without any by the defaults.

    Source: linear regression with weights 1/u^2; limits of the house rules.
    """
    if len(days) < 2 or days[-1] <= limits.SLOPE_FROM_DAY.value or max(days) == min(days):
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
    if error > limits.SLOPE_ERROR_MV_PER_DAY.value:
        return TOO_EARLY
    certain_loss = loss - 2 * error
    verdict: SelfDischargeVerdict = "fine"
    leaking, watch = (
        rules.value(each) if rules else each.value for each in (limits.LEAKING_MV_PER_DAY, limits.WATCH_MV_PER_DAY)
    )
    if certain_loss > leaking:
        verdict = "leaking"
    elif certain_loss > watch:
        verdict = "watch"
    return Slope(verdict, loss, error, len(days))


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


def _by_one_reading(story: Story, last_use: Event, reading: RestingVoltage) -> Slope:
    full_v = full_voltage_v(story.facts.family, story.facts.full_v)
    usual_full_v = limits.FULL_V[Family.LAYERED_OXIDE].value
    charged_full = (
        isinstance(last_use, Charge)
        and last_use.complete
        and last_use.end_v >= usual_full_v - limits.CHARGED_WITHIN_V.value
    )
    waited = reading.at - last_use.at >= timedelta(days=limits.WATCH_AGAIN_DAYS.value)
    if charged_full and waited and full_v == usual_full_v:
        low = reading.value_v < limits.WATCH_ONE_READING_V.value
        return Slope("watch" if low else "fine", readings=1)
    return TOO_EARLY


@dataclass(frozen=True, slots=True)
class RestReading:
    """One resting voltage in days since the last charge or discharge, and why it does not count; None: it counts."""

    days: float
    value_v: float
    left_out: str | None


@dataclass(frozen=True, slots=True)
class RestPicture:
    """A cell at rest: its readings, the line through those that count, and when the next one will tell something."""

    since: datetime
    after_charge: bool
    readings: tuple[RestReading, ...]
    slope: Slope
    line: FittedLine | None
    next_at: datetime | None
    text: str


def rest_picture(
    story: Story, voltages: Sequence[RestingVoltage], resolution_v: float | None = None
) -> RestPicture | None:
    """What the resting voltages since the last charge or discharge say.

    `resolution_v` is that of the meter that will read next; None: as fine as the last reading.
    None is returned where nothing was charged or discharged yet, or the cell is primary.
    """
    last_use = next((event for event in reversed(story.events) if fills(event) or empties(event)), None)
    family = story.facts.family or Family.LAYERED_OXIDE
    if last_use is None or family is Family.PRIMARY:
        return None
    relaxation = timedelta(hours=limits.RELAXATION_H[family].value if fills(last_use) else 0)
    since = [reading for reading in voltages if reading.at > last_use.at]
    readings = tuple(
        RestReading(
            (reading.at - last_use.at) / _DAY,
            reading.value_v,
            f"within {relaxation / timedelta(hours=1):.0f} h after the charge the voltage still settles"
            if reading.at - last_use.at < relaxation
            else None,
        )
        for reading in since
    )
    counted = [reading for reading in since if reading.at - last_use.at >= relaxation]
    slope = self_discharge(story, voltages)
    days = [(reading.at - last_use.at) / _DAY for reading in counted]
    has_line = slope.mv_per_day is not None and len(counted) > 1
    line = (
        line_of(days, [r.value_v for r in counted], [resolution_u(r.resolution_v) for r in counted], slope)
        if has_line
        else None
    )
    by_last = counted[-1].resolution_v if counted else limits.VOLTAGE_RESOLUTION_V.value
    resolution_v = resolution_v or by_last
    next_at = _next_reading(last_use.at, relaxation, counted, resolution_v, slope)
    return RestPicture(
        last_use.at, fills(last_use), readings, slope, line, next_at, _rest_text(slope, counted, resolution_v)
    )


def watched_reading_at(story: Story, voltages: Sequence[RestingVoltage]) -> datetime | None:
    """When the next voltage of a cell that is being watched at rest will tell something; None: nobody watches it.

    Watched is what was read since it settled and where nothing else was done since. On the shelf one reading is the
    usual look, so there it takes two.
    """
    if not story.events or not isinstance(story.events[-1], RestingVoltage):
        return None
    picture = rest_picture(story, voltages)
    if picture is None or all(reading.left_out for reading in picture.readings):
        return None
    shelved = latest(story.of(Shelved))
    is_shelved = shelved is not None and shelved.at >= picture.since
    return None if is_shelved and len(picture.readings) < _WATCHED_ON_SHELF else picture.next_at


def _next_reading(
    last_use_at: datetime,
    relaxation: timedelta,
    counted: Sequence[RestingVoltage],
    resolution_v: float,
    slope: Slope,
) -> datetime | None:
    """When a reading will tell something: the first as soon as it has settled, the next when the meter can tell a slope.

    Before the day from which a slope counts nothing is told by any meter.
    """
    if not counted:
        return last_use_at + relaxation
    if slope.verdict == "watch":
        return counted[-1].at + timedelta(days=limits.WATCH_AGAIN_DAYS.value)
    if slope.verdict != "too-early":
        return None
    wait = timedelta(days=days_to_tell(resolution_v, limits.WATCH_MV_PER_DAY.value))
    from_day = last_use_at + timedelta(days=limits.SLOPE_FROM_DAY.value)
    return max(counted[0].at + wait, counted[-1].at + _DAY, from_day)


def _rest_text(slope: Slope, counted: Sequence[RestingVoltage], resolution_v: float) -> str:
    if not counted:
        return "Nothing counts yet."
    if slope.verdict == "too-early":
        wait = days_to_tell(resolution_v, limits.WATCH_MV_PER_DAY.value)
        return f"Too early. A meter with {1000 * resolution_v:g} mV digits can tell 2 mV a day after {wait:.1f} days."
    if slope.mv_per_day is None or slope.error_mv_per_day is None:
        return "One reading two weeks after a full charge."
    return f"{slope.mv_per_day:.2f} ± {slope.error_mv_per_day:.2f} mV a day over {slope.readings} readings."
