"""A trace with no more points than a screen can show, and no visible difference."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from zembric.core.measure.traces.analysis import Test
from zembric.core.measure.traces.model import Floats, Lines, Trace


@dataclass(frozen=True, slots=True)
class Curve:
    """Points to be drawn, in order. Charge [mAh] counts from the start of the discharge that counts; NaN outside of it."""

    time_s: Floats
    voltage_v: Floats
    current_a: Floats
    charge_mah: Floats


def curve_of(
    trace: Trace, charge_mah: Floats, *, columns: int, from_s: float | None = None, to_s: float | None = None
) -> Curve:
    """At most four points for each column of pixels: its first, lowest, highest and last voltage.

    Args:
        charge_mah: Charge given at each row, as `charge_of` tells it.
        columns: Width of the picture in pixels, at least 2.
        from_s: Start of what is shown; None: the whole test.
        to_s: End of what is shown.
    """
    low = float(trace.time_s[0]) if from_s is None else from_s
    high = float(trace.time_s[-1]) if to_s is None else to_s
    start, stop = (int(at) for at in np.searchsorted(trace.time_s, [low, np.nextafter(high, np.inf)]))
    # One row beyond each edge, so that a line leaves the picture where it should.
    start, stop = max(start - 1, 0), min(stop + 1, trace.time_s.size)
    rows = _telling_rows(trace.time_s, trace.voltage_v, start, stop, columns)
    return Curve(trace.time_s[rows], trace.voltage_v[rows], trace.current_a[rows], charge_mah[rows])


def charge_of(test: Test) -> Floats:
    """Charge given since the start of the discharge that counts [mAh] at each row; NaN outside of it."""
    charge = np.full(test.trace.time_s.size, np.nan)
    before = 0.0
    for step in test.discharge:
        given = np.concatenate(([0.0], np.cumsum(test.flow.out_mah[step.first : step.last])))
        charge[step.first : step.last + 1] = before + given
        before += float(given[-1])
    return charge


def _telling_rows(time_s: Floats, volts: Floats, start: int, stop: int, columns: int) -> Lines:
    if stop - start <= 4 * columns:
        return np.arange(start, stop)
    edges = np.searchsorted(time_s[start:stop], np.linspace(time_s[start], time_s[stop - 1], columns + 1)) + start
    edges[-1] = stop
    kept: set[int] = {start, stop - 1}
    for left, right in itertools.pairwise(edges):
        if right > left:
            part = volts[left:right]
            kept |= {int(left), int(right) - 1, int(left) + int(np.argmin(part)), int(left) + int(np.argmax(part))}
    return np.array(sorted(kept), dtype=np.int64)
