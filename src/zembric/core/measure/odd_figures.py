"""Figures of one cell that do not go together: they change no grade, and somebody should know."""

from __future__ import annotations

import math
from statistics import median
from typing import TYPE_CHECKING

from zembric.core.grounds import Reason
from zembric.core.house import limits
from zembric.core.identify.families import full_voltage_v, has_ocv_table, open_circuit_v
from zembric.core.measure.figures import counted_runs, run_u_mah
from zembric.core.measure.repeats import disagreement_of, falling_runs
from zembric.core.measure.uncertainty import resistance_u_mohm
from zembric.core.said import Amount, said, volts
from zembric.core.story import (
    COUNTED_WHILE_CHARGING,
    Charge,
    ResistanceReading,
    RestingVoltage,
    UnrestedVoltage,
    empties,
    fills,
)

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import CapacityRun, Event, Story

_BEYOND_ERRORS = 2.0


def odd_figures(story: Story, complete: Sequence[CapacityRun], rules: HouseRules) -> tuple[Reason, ...]:
    """What a second look should be taken at: runs apart, charge against discharge, a rise, a race to full."""
    found = (
        _runs_differ(complete, rules),
        _runs_fall(complete, rules),
        _charge_differs(complete, rules),
        _resistance_rose(story, rules),
        _raced(story, rules),
    )
    return tuple(reason for reason in found if reason)


def _runs_differ(complete: Sequence[CapacityRun], rules: HouseRules) -> Reason | None:
    apart = disagreement_of(counted_runs(complete), rules)
    return Reason("runs-differ", apart) if apart else None


def _runs_fall(complete: Sequence[CapacityRun], rules: HouseRules) -> Reason | None:
    falling = falling_runs(complete, rules)
    if not falling:
        return None
    return Reason("runs-fall", said("ground-runs-fall", runs=tuple(Amount(run.value_mah, "mAh") for run in falling)))


def _charge_differs(complete: Sequence[CapacityRun], rules: HouseRules) -> Reason | None:
    """What went in against what came out, each by its last complete run."""
    charge = next((run for run in reversed(complete) if run.method in COUNTED_WHILE_CHARGING), None)
    discharge = next((run for run in reversed(complete) if run.method not in COUNTED_WHILE_CHARGING), None)
    if charge is None or discharge is None:
        return None
    apart_mah = charge.value_mah - discharge.value_mah
    apart_pct = 100 * apart_mah / discharge.value_mah
    if abs(apart_pct) <= rules.value(limits.CHARGE_DIFFERS_PCT) or _is_within(
        apart_mah, run_u_mah(charge, rules), run_u_mah(discharge, rules)
    ):
        return None
    went_in, came_out = Amount(charge.value_mah, "mAh"), Amount(discharge.value_mah, "mAh")
    text = said("ground-charge-differs", went_in=went_in, came_out=came_out)
    return Reason("charge-differs", text, apart_pct, rules.limit(limits.CHARGE_DIFFERS_PCT))


def _resistance_rose(story: Story, rules: HouseRules) -> Reason | None:
    """The last reading against the first by the same method; a tester's spring contacts tell nothing here."""
    for method in ("ac-1khz", "dc-10s", "dc-1s"):
        readings = [reading for reading in story.of(ResistanceReading) if reading.method == method]
        if len(readings) < 2:
            continue
        first, last = readings[0], readings[-1]
        rise_mohm = last.value_mohm - first.value_mohm
        rise_pct = 100 * rise_mohm / first.value_mohm
        if rise_pct > rules.value(limits.RESISTANCE_ROSE_PCT) and not _is_within(
            rise_mohm, resistance_u_mohm(first, rules), resistance_u_mohm(last, rules)
        ):
            was, now = Amount(first.value_mohm, "mΩ"), Amount(last.value_mohm, "mΩ")
            text = said("ground-resistance-rose", was=was, now=now)
            return Reason("resistance-rose", text, rise_pct, rules.limit(limits.RESISTANCE_ROSE_PCT))
    return None


def far_from_siblings(value_v: float, siblings_v: Sequence[float], rules: HouseRules) -> float | None:
    """How far [V] a cell lies below the middle of its siblings, the other cells of its donor; None within the usual.

    One above is told nothing: of two alone that differ nobody knows which is right, and the lower one is the likelier.
    """
    if not siblings_v:
        return None
    gap = value_v - median(siblings_v)
    return gap if gap < -rules.value(limits.SIBLING_GAP_V) - 1e-9 else None


def _raced(story: Story, rules: HouseRules) -> Reason | None:
    """From less than a third full to full in minutes: by the clock of the charge, or by a reading under charge soon after."""
    family = story.facts.family
    full_v = full_voltage_v(family, story.facts.full_v) if family else None
    if family is None or full_v is None or not has_ocv_table(family):
        return None
    low_v, nearly_full_v = (
        open_circuit_v(family, rules.value(limits.LOW_CHARGE_SHARE)),
        full_v - limits.CHARGED_WITHIN_V.value,
    )
    low: RestingVoltage | None = None
    for event in story.events:
        if isinstance(event, RestingVoltage):
            low = event if event.value_v <= low_v else None
            continue
        minutes = _minutes_to_full(event, low, nearly_full_v)
        if low and minutes is not None and minutes < rules.value(limits.RACED_MINUTES):
            text = said("ground-raced-to-full", low=volts(low.value_v), minutes=Amount(minutes, "min"))
            return Reason("raced-to-full", text, minutes, rules.limit(limits.RACED_MINUTES))
        if empties(event) or fills(event):
            low = None
    return None


def _minutes_to_full(event: Event, low: RestingVoltage | None, nearly_full_v: float) -> float | None:
    if low is None:
        return None
    if isinstance(event, Charge) and event.complete and event.end_v >= nearly_full_v:
        return event.minutes
    if isinstance(event, UnrestedVoltage) and event.state == "under-charge" and event.value_v >= nearly_full_v:
        return (event.at - low.at).total_seconds() / 60
    return None


def _is_within(apart: float, u_a: float, u_b: float) -> bool:
    return abs(apart) <= _BEYOND_ERRORS * math.hypot(u_a, u_b)
