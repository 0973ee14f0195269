"""The figures of a cell that decide: which capacity and which resistance, how well they are known, what follows."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import fmean, median
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.identify.sizes import Size, read_size
from zembric.core.measure.uncertainty import capacity_u_mah, mean_u, resistance_u_mohm
from zembric.core.story import ResistanceReading

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import (
        CapacityMethod,
        CapacityRun,
        DonorKind,
        ResistanceMethod,
        Story,
    )

#: Best first: which resistance decides where several methods were used.
METHODS_BEST_FIRST: tuple[ResistanceMethod, ...] = ("ac-1khz", "dc-10s", "dc-1s", "tester")
_DC_BEST_FIRST: tuple[ResistanceMethod, ...] = ("dc-10s", "dc-1s")
_KEPT_RUNS = 3


@dataclass(frozen=True, slots=True)
class Capacity:
    """The capacity that decides [mAh], its standard uncertainty, and how many complete runs stand behind it."""

    value_mah: float
    u_mah: float
    method: CapacityMethod
    runs: int


@dataclass(frozen=True, slots=True)
class Resistance:
    """A resistance that decides [mOhm], its standard uncertainty and its method; `readings` of that method."""

    value_mohm: float
    u_mohm: float
    method: ResistanceMethod
    readings: int


def deciding_capacity(complete: Sequence[CapacityRun], rules: HouseRules) -> Capacity | None:
    """Median of the last three of the complete runs (in order of time); None without one.

    The first complete run of a story does not count once a later one exists (a cell waking up gives less);
    of two that are left the mean counts. Source: house rule.
    """
    if not complete:
        return None
    kept = counted_runs(complete)
    values = [run.value_mah for run in kept]
    method = max((run.method for run in kept), key=lambda m: rules.value(limits.CAPACITY_HALF_WIDTH_PCT[m]))
    figure = median(values) if len(values) == _KEPT_RUNS else fmean(values)
    return Capacity(figure, mean_u(values, [run_u_mah(run, rules) for run in kept]), method, len(complete))


def run_u_mah(run: CapacityRun, rules: HouseRules) -> float:
    """Standard uncertainty [mAh] of one run: its own, else its method's and the width it was said with."""
    if run.own_u_mah is not None:
        return run.own_u_mah
    return capacity_u_mah(run.value_mah, run.method, rules, run.half_width_mah)


def counted_runs(complete: Sequence[CapacityRun]) -> list[CapacityRun]:
    """The runs that the deciding capacity is made of: the last three complete ones, without the first of the story."""
    return list(complete[1:] if len(complete) > 1 else complete)[-_KEPT_RUNS:]


def resistance_by(story: Story, method: ResistanceMethod, rules: HouseRules) -> Resistance | None:
    """The latest reading by a method; of a tester's own the least of the last three, its spring contacts only add."""
    readings = [reading for reading in story.of(ResistanceReading) if reading.method == method]
    if not readings:
        return None
    last = readings[-1]
    value = min(r.value_mohm for r in readings[-_KEPT_RUNS:]) if method == "tester" else last.value_mohm
    return Resistance(value, resistance_u_mohm(last, rules), method, len(readings))


def deciding_resistance(story: Story, rules: HouseRules) -> Resistance | None:
    return next((found for method in METHODS_BEST_FIRST if (found := resistance_by(story, method, rules))), None)


def dc_resistance(story: Story, rules: HouseRules) -> Resistance | None:
    return next((found for method in _DC_BEST_FIRST if (found := resistance_by(story, method, rules))), None)


def resistance_times_capacity(resistance: Resistance, capacity: Capacity) -> tuple[float, float]:
    """r Q [Ohm Ah], which does not depend on the cell's size, and its standard uncertainty."""
    product = resistance.value_mohm / 1000 * capacity.value_mah / 1000
    relative_u = math.hypot(resistance.u_mohm / resistance.value_mohm, capacity.u_mah / capacity.value_mah)
    return product, product * relative_u


def carries(
    story: Story, complete: Sequence[CapacityRun], capacity: Capacity | None, size: Size | None, rules: HouseRules
) -> ContinuousCurrent | None:
    """What a cell may be asked for in a pack; None: nothing is known of it.

    By its resistance under load; by one at 1 kHz as if that were twice as high, which limits of DC allow for as well.
    Without either it carries what it has shown in its last complete runs, and nothing more.
    """
    if capacity is None:
        return None
    sheet_ma = story.facts.most_discharge_ma
    dc, ac = dc_resistance(story, rules), resistance_by(story, "ac-1khz", rules)
    if dc is not None:
        return continuous_current(dc, capacity, size, story.donor_kind, rules, sheet_ma)
    if ac is not None:
        sees = rules.value(limits.SEES_OF_1_KHZ["dc-10s"])
        as_dc = Resistance(ac.value_mohm * sees, ac.u_mohm * sees, "dc-10s", ac.readings)
        return continuous_current(as_dc, capacity, size, story.donor_kind, rules, sheet_ma)
    shown = [run.current_ma for run in counted_runs(complete) if run.current_ma]
    if not shown:
        return None
    shown_a = max(shown) / 1000
    return ContinuousCurrent(min(shown_a, sheet_ma / 1000) if sheet_ma else shown_a, 0.0, "shown")


#: What sets a continuous current: its sag, its heat, its sheet, the house's cap where there is none, or what it gave.
SetBy = Literal["sag", "heat", "sheet", "no-sheet", "shown"]


@dataclass(frozen=True, slots=True)
class ContinuousCurrent:
    """What a cell may give for long [A], its standard uncertainty (0 for a house cap), and what sets it."""

    value_a: float
    u_a: float
    set_by: SetBy


def continuous_current(
    resistance: Resistance,
    capacity: Capacity,
    size: Size | None,
    donor_kind: DonorKind,
    rules: HouseRules,
    sheet_ma: float | None = None,
) -> ContinuousCurrent:
    """The least of what sag, heat and the data sheet [mA] allow; without a sheet the house cap takes its place.

    Heat may be 1 W for an 18650 and goes with the surface for other sizes; without a size that of an 18650 is taken.
    """
    ohm = resistance.value_mohm / 1000
    relative_u = resistance.u_mohm / resistance.value_mohm
    cap_c = rules.value(limits.NO_SHEET_VAPE_C if donor_kind == "vape" else limits.NO_SHEET_C)
    surface_ratio = size.surface_cm2 / read_size("18650").surface_cm2 if size else 1.0
    sag_a = rules.value(limits.SAG_V) / ohm
    heat_a = math.sqrt(rules.value(limits.HEAT_18650_W) * surface_ratio / ohm)
    cap = (
        ContinuousCurrent(cap_c * capacity.value_mah / 1000, 0.0, "no-sheet")
        if sheet_ma is None
        else ContinuousCurrent(sheet_ma / 1000, 0.0, "sheet")
    )
    return min(
        ContinuousCurrent(sag_a, sag_a * relative_u, "sag"),
        ContinuousCurrent(heat_a, heat_a * relative_u / 2, "heat"),
        cap,
        key=lambda current: current.value_a,
    )
