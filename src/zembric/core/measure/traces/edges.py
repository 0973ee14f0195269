"""Resistance from steps of current: delta V over delta I, with the time it took."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.house import limits
from zembric.core.measure.traces.model import Edge, largest, some
from zembric.core.measure.traces.stretches import by_stretch

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.measure.traces.model import Floats, Lines, Trace

_LEAST_A = 0.015
_MOST_OHM = 5.0
_MOST_EDGES = 500
#: Times after a step at which resistances are compared.
SECONDS_AFTER = (1.0, 10.0)


@dataclass(frozen=True, slots=True)
class ResistanceAfter:
    """Resistance a stated time after a step of current: the median of several edges and their spread (half of the range)."""

    after_s: float
    mohm: float
    spread_mohm: float
    edges: int
    #: Half width from the resolution of the logged voltage and current.
    allowance_mohm: float

    @property
    def half_width_mohm(self) -> float:
        return max(self.spread_mohm, self.allowance_mohm)

    @property
    def tells(self) -> bool:
        """Whether it is a figure at all, and no noise around nothing."""
        return self.half_width_mohm < limits.TELLING_SHARE.value * self.mohm


def find_edges(trace: Trace) -> tuple[Edge, ...]:
    """Steps of current between neighbouring rows, also over a row or two caught in between.

    None where rows lie more than 10 s apart, where the voltage did not follow, or where its last digit hides it.
    """
    return tuple(edge for before, after in _jumps(trace) if (edge := _edge(trace, before, after)) is not None)[
        :_MOST_EDGES
    ]


def resistances_after(trace: Trace, edges: Sequence[Edge]) -> tuple[ResistanceAfter, ...]:
    """Resistance 1 s and 10 s after the steps where the new current was kept that long and rows lie near enough."""
    found = []
    resolution_v, resolution_a = _resolution(trace.voltage_v), _resolution(trace.current_a)
    for after_s in SECONDS_AFTER:
        values = [value for edge in edges if (value := _after(trace, edge, after_s)) is not None]
        if values:
            ohms = [ohm for ohm, _ in values]
            middle = float(np.median(ohms))
            amps = float(np.median([amps for _, amps in values]))
            allowance = resolution_v / amps + middle * resolution_a / amps
            found.append(
                ResistanceAfter(after_s, 1000 * middle, 500 * (max(ohms) - min(ohms)), len(ohms), 1000 * allowance)
            )
    return tuple(found)


def _jumps(trace: Trace) -> list[tuple[int, int]]:
    """Pairs of rows (last before, first after) around each step of current."""
    amps = trace.current_a
    top = largest(amps)
    if top == 0:
        return []
    noise = 1.5 * float(np.median(np.abs(some(amps[1:]) - some(amps[:-1]))))
    limit = max(0.1 * top, 6 * noise, _LEAST_A)

    def large_in(start: int, stop: int) -> Lines:
        return start + np.flatnonzero(np.abs(np.diff(amps[start : stop + 1])) >= limit)

    # A step may take two rows: a row caught in the middle moves half the way.
    big = np.concatenate(by_stretch(amps.size - 1, large_in))
    merged: list[tuple[int, int]] = []
    for at in big:
        index = int(at)
        goes_on = merged and index == merged[-1][1]
        if goes_on and (amps[index + 1] - amps[index]) * (amps[index] - amps[index - 1]) > 0:
            merged[-1] = (merged[-1][0], index + 1)
        else:
            merged.append((index, index + 1))
        if len(merged) > 20 * _MOST_EDGES:
            break
    return [(before, _settled(trace, before, after, limit)) for before, after in merged]


def _settled(trace: Trace, before: int, after: int, limit: float) -> int:
    """The first row after a step at which time has passed and the current stands."""
    amps, last = trace.current_a, trace.current_a.size - 1
    whole = abs(float(amps[after] - amps[before]))
    for row in range(after, min(after + 3, last)):
        has_passed = trace.time_s[row] > trace.time_s[before]
        stands = abs(float(amps[row + 1] - amps[row])) < max(0.15 * whole, 0.3 * limit)
        if has_passed and stands:
            return row
    return after


def _edge(trace: Trace, before: int, after: int) -> Edge | None:
    over_s = float(trace.time_s[after] - trace.time_s[before])
    delta_v = float(trace.voltage_v[after] - trace.voltage_v[before])
    delta_a = float(trace.current_a[after] - trace.current_a[before])
    if not 0 < over_s <= limits.EDGE_APART_S.value or abs(delta_a) < _LEAST_A:
        return None
    ohm = delta_v / delta_a
    near = trace.voltage_v[max(before - 20, 0) : after + 20]
    if not 0 < ohm <= _MOST_OHM or abs(delta_v) < 1.5 * _resolution(near):
        return None
    return Edge(1000 * ohm, over_s, delta_v, delta_a, before, after)


def _after(trace: Trace, edge: Edge, after_s: float) -> tuple[float, float] | None:
    """Resistance [Ohm] a time after a step, and the step [A]; None where the current was not kept or no row lies there."""
    start_s = float(trace.time_s[edge.before])
    row = int(np.searchsorted(trace.time_s, start_s + after_s))
    candidates = [r for r in (row - 1, row) if edge.after <= r < trace.time_s.size]
    if not candidates:
        return None
    row = min(candidates, key=lambda r: abs(float(trace.time_s[r]) - start_s - after_s))
    if abs(float(trace.time_s[row]) - start_s - after_s) > 0.3 * after_s:
        return None
    kept = trace.current_a[edge.after : row + 1]
    if float(np.ptp(kept)) > 0.1 * abs(edge.delta_i_a):
        return None
    ohm = float(trace.voltage_v[row] - trace.voltage_v[edge.before]) / edge.delta_i_a
    return (ohm, abs(edge.delta_i_a)) if 0 < ohm <= _MOST_OHM else None


def _resolution(values: Floats) -> float:
    """The smallest step that values of a log move in."""
    steps = np.diff(np.unique(np.round(values[:5000], 6)))
    return float(np.min(steps)) if steps.size else 0.0
