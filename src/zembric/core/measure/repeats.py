"""A cell's capacity runs side by side: which count, whether they agree, and what they would be at reference conditions."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged, state_of_charge
from zembric.core.measure.charges import charge_history
from zembric.core.measure.figures import counted_runs, dc_resistance, deciding_capacity
from zembric.core.said import Amount, Said, said, volts
from zembric.core.story import CapacityRun

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.house.rules import HouseRules
    from zembric.core.measure.charges import ChargeHistory
    from zembric.core.story import CapacityMethod, Story


@dataclass(frozen=True, slots=True)
class ComparableCapacity:
    """Current [mA] and cut-off [V] of the run that decides, and what it comes to at the reference; None: not known.

    Only capacities by like currents and cut-offs stand beside one another, or all brought to the reference.
    """

    current_ma: float | None
    cut_off_v: float | None
    reference_mah: float | None
    reference_u_mah: float | None


@dataclass(frozen=True, slots=True)
class Run:
    """One capacity run, and why it does not count; None: it counts."""

    at: datetime
    value_mah: float
    method: CapacityMethod
    left_out: Said | None


@dataclass(frozen=True, slots=True)
class Repeats:
    """All runs of a cell. `reference_mah` is an estimate beside the measured figure, never in its place; None: not to be told."""

    runs: tuple[Run, ...]
    disagreement: Said | None
    reference_mah: float | None
    reference_said: Said | None


def repeats_of(story: Story, rules: HouseRules) -> Repeats:
    history = charge_history(story, rules)
    counted = counted_runs(history.complete)
    runs = tuple(
        Run(run.at, run.value_mah, run.method, _why_left_out(run, counted, history)) for run in story.of(CapacityRun)
    )
    reference_mah, reference = _at_reference(story, history.complete, rules)
    return Repeats(runs, disagreement_of(counted, rules), reference_mah, reference)


def comparable_of(story: Story, complete: Sequence[CapacityRun], rules: HouseRules) -> ComparableCapacity | None:
    """Under which conditions the deciding capacity was measured, and what it comes to at those of the reference.

    What is brought there is an estimate: half of the way it was brought is added to its uncertainty.
    """
    capacity = deciding_capacity(complete, rules)
    if capacity is None:
        return None
    last = counted_runs(complete)[-1]
    reference_mah, _ = _at_reference(story, complete, rules)
    reference_u = None
    if reference_mah is not None:
        shift = abs(reference_mah - capacity.value_mah)
        reference_u = math.hypot(capacity.u_mah, rules.value(limits.REFERENCE_ERROR_SHARE) * shift)
    return ComparableCapacity(last.current_ma, last.cut_off_v, reference_mah, reference_u)


def _why_left_out(run: CapacityRun, counted: list[CapacityRun], history: ChargeHistory) -> Said | None:
    for part, why in history.parts:
        if part is run:
            return said("left-out-part", why=why)
    if any(run is other for other in counted):
        return None
    return said("left-out-first" if run is history.complete[0] else "left-out-old")


def disagreement_of(counted: list[CapacityRun], rules: HouseRules) -> Said | None:
    """Said where the counted runs lie further apart than their methods allow."""
    if len(counted) < 2:
        return None
    values = [run.value_mah for run in counted]
    apart_pct = 100 * (max(values) - min(values)) / (sum(values) / len(values))
    allowed_pct = max(rules.value(limits.CAPACITY_HALF_WIDTH_PCT[run.method]) for run in counted)
    if apart_pct <= rules.value(limits.RUNS_DISAGREE) * allowed_pct:
        return None
    return said("ground-runs-differ", apart=Amount(apart_pct, "%", 1), allowed=Amount(allowed_pct, "%"))


_FALLING_RUNS = 3


def falling_runs(complete: Sequence[CapacityRun], rules: HouseRules) -> tuple[CapacityRun, ...]:
    """The last three complete runs where each holds less than the one before, by more in all than their methods allow.

    Such a cell loses capacity while it is measured, and the middle of its runs is no figure to be sure of. Empty: no fall.
    """
    last = tuple(complete[-_FALLING_RUNS:])
    if len(last) < _FALLING_RUNS or not all(later.value_mah < run.value_mah for run, later in pairwise(last)):
        return ()
    lost_pct = 100 * (last[0].value_mah - last[-1].value_mah) / last[0].value_mah
    allowed_pct = max(rules.value(limits.CAPACITY_HALF_WIDTH_PCT[run.method]) for run in last)
    return last if lost_pct > allowed_pct else ()


def _at_reference(story: Story, complete: Sequence[CapacityRun], rules: HouseRules) -> tuple[float | None, Said | None]:
    """Brings the deciding capacity to 0.2 C and the bench's cut-off by the family's table and the DC resistance.

    At the end of a run the cell itself stands at cut-off + I r; from there to the same point of the reference the
    table tells how much is left.
    """
    capacity, resistance, family = deciding_capacity(complete, rules), dc_resistance(story, rules), story.facts.family
    last = next((run for run in reversed(counted_runs(complete)) if run.current_ma and run.cut_off_v), None)
    if capacity is None or resistance is None or last is None or family is None:
        return None, None
    charged_as = as_charged(family)
    if charged_as not in (Family.LAYERED_OXIDE, Family.IRON_PHOSPHATE) or not last.current_ma or not last.cut_off_v:
        return None, None
    ohm, reference_a = resistance.value_mohm / 1000, limits.REFERENCE_C.value * capacity.value_mah / 1000
    cut_off_v = rules.of(limits.CUT_OFF_V, family)
    left = state_of_charge(charged_as, last.cut_off_v + last.current_ma / 1000 * ohm)
    left_at_reference = state_of_charge(charged_as, cut_off_v + reference_a * ohm)
    if max(left, left_at_reference) > rules.value(limits.REFERENCE_MOST_LEFT):
        return None, None
    value = capacity.value_mah * (1 - left_at_reference) / (1 - left)
    estimate = said(
        "at-reference",
        capacity=Amount(value, "mAh"),
        rate=Amount(limits.REFERENCE_C.value, "C", 1),
        cut_off=volts(cut_off_v),
        current=Amount(last.current_ma, "mA"),
        from_cut_off=volts(last.cut_off_v),
        resistance=Amount(resistance.value_mohm, "mΩ"),
    )
    return value, estimate
