"""Figures of one cell that do not go together: they change no grade, and somebody should know."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from zembric.core import limits
from zembric.core.figures import counted_runs, run_u_mah
from zembric.core.judgement import Reason
from zembric.core.repeats import disagreement_of
from zembric.core.story import COUNTED_WHILE_CHARGING, CapacityRun, ResistanceReading
from zembric.core.uncertainty import resistance_u_mohm
from zembric.core.words import amount

if TYPE_CHECKING:
    from zembric.core.story import Story

_BEYOND_ERRORS = 2.0


def odd_figures(story: Story) -> tuple[Reason, ...]:
    """What a second look should be taken at: runs apart, charge against discharge, a resistance that rose."""
    found = (_runs_differ(story), _charge_differs(story), _resistance_rose(story))
    return tuple(reason for reason in found if reason)


def _runs_differ(story: Story) -> Reason | None:
    text = disagreement_of(counted_runs(story))
    return Reason("runs-differ", text) if text else None


def _charge_differs(story: Story) -> Reason | None:
    """What went in against what came out, each by its last complete run."""
    complete = [run for run in story.of(CapacityRun) if run.complete]
    charge = next((run for run in reversed(complete) if run.method in COUNTED_WHILE_CHARGING), None)
    discharge = next((run for run in reversed(complete) if run.method not in COUNTED_WHILE_CHARGING), None)
    if charge is None or discharge is None:
        return None
    apart_mah = charge.value_mah - discharge.value_mah
    apart_pct = 100 * apart_mah / discharge.value_mah
    if abs(apart_pct) <= limits.CHARGE_DIFFERS_PCT.value or _is_within(
        apart_mah, run_u_mah(charge), run_u_mah(discharge)
    ):
        return None
    text = (
        f"{amount(charge.value_mah, 'mAh')} went in and {amount(discharge.value_mah, 'mAh')} came out. "
        "Was it empty, and full, each time? A cell that takes more than it gives leaks inside."
    )
    return Reason("charge-differs", text, apart_pct, limits.CHARGE_DIFFERS_PCT)


def _resistance_rose(story: Story) -> Reason | None:
    """The last reading against the first by the same method; a tester's spring contacts tell nothing here."""
    for method in ("ac-1khz", "dc-10s", "dc-1s"):
        readings = [reading for reading in story.of(ResistanceReading) if reading.method == method]
        if len(readings) < 2:
            continue
        first, last = readings[0], readings[-1]
        rise_mohm = last.value_mohm - first.value_mohm
        rise_pct = 100 * rise_mohm / first.value_mohm
        if rise_pct > limits.RESISTANCE_ROSE_PCT.value and not _is_within(
            rise_mohm, resistance_u_mohm(first), resistance_u_mohm(last)
        ):
            text = (
                f"Its resistance rose from {amount(first.value_mohm, 'mΩ')} to {amount(last.value_mohm, 'mΩ')} by the same method. "
                "A contact, the cold, or age: measure it warm and clean once more."
            )
            return Reason("resistance-rose", text, rise_pct, limits.RESISTANCE_ROSE_PCT)
    return None


def _is_within(apart: float, u_a: float, u_b: float) -> bool:
    return abs(apart) <= _BEYOND_ERRORS * math.hypot(u_a, u_b)
