"""A test into charge, rest and discharge, each with its charge and energy and what the sampling leaves open."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.measure.traces.model import Floats, Step, StepKind, largest, some
from zembric.core.measure.traces.stretches import by_stretch
from zembric.core.measure.traces.timeline import usual_step_s

if TYPE_CHECKING:
    from zembric.core.measure.traces.model import Trace

_KINDS: dict[int, StepKind] = {-1: "discharge", 0: "rest", 1: "charge"}
_PULSE_S = 60.0
#: A pause within a step, such as the moment a tester lets go to look at the resting voltage.
#: Rows that are worked on at a time where a sum over all is wanted.
_STRETCH = 1 << 15
#: So many values of a sample tell a quantile; with fewer all are asked.
_ENOUGH = 1000
_PAUSE_S, _PAUSE_SHARE = 120.0, 0.05
_HELD_V = 0.012
#: Voltages that testers are set to cut off at.
_CUT_OFFS_V = np.array(
    [1.5, 1.6, 1.7, 1.8, 2.0, 2.2, 2.25, 2.3, 2.4, 2.5, 2.6, 2.7, 2.75, 2.8, 2.9, 3.0, 3.1, 3.2, 3.25, 3.3, 3.4]
)


@dataclass(frozen=True, slots=True)
class Flow:
    """Charge [mAh] and energy [mWh] of each interval between two rows, parted by direction; shape (n - 1,)."""

    in_mah: Floats
    out_mah: Floats
    in_mwh: Floats
    out_mwh: Floats
    step_s: Floats
    is_gap: np.ndarray[tuple[int], np.dtype[np.bool_]]


def flow_of(trace: Trace) -> Flow:
    """Trapezoids of I dt and U I dt, an interval split where the sign changes.

    A gap under the same load on both sides is bridged; one in which the voltage recovered, or with a rest on one
    side, is not: nobody knows when the load was switched.
    """
    intervals = trace.time_s.size - 1
    step_s = np.empty(intervals)
    # What no current of that direction flows in is never touched, and takes no room.
    in_mah, out_mah, in_mwh, out_mwh = (np.zeros(intervals) for _ in range(4))

    def lay_down(start: int, stop: int) -> None:
        rows, own = slice(start, stop + 1), slice(start, stop)
        amps = trace.current_a[rows]
        np.subtract(trace.time_s[start + 1 : stop + 1], trace.time_s[own], out=step_s[own])
        _areas(amps, step_s[own], in_mah[own], out_mah[own])
        _areas(amps * trace.voltage_v[rows], step_s[own], in_mwh[own], out_mwh[own])

    by_stretch(intervals, lay_down)
    gap = gaps(step_s)
    if gap.any():
        before, after = trace.current_a[:-1], trace.current_a[1:]
        steady = np.abs(after - before) < 0.2 * np.maximum(np.abs(before), np.abs(after))
        came_back = (trace.voltage_v[1:] - trace.voltage_v[:-1]) * np.sign(before) < -0.02
        lost = gap & (~steady | came_back)
        for values in (in_mah, out_mah, in_mwh, out_mwh):
            values[lost] = 0.0
    return Flow(in_mah, out_mah, in_mwh, out_mwh, step_s, gap)


def gaps(step_s: Floats) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Intervals far longer than the others of the same log."""
    few = some(step_s)
    positive = few[few > 0]
    if positive.size < _ENOUGH:
        positive = step_s[step_s > 0]
    if positive.size < 5:
        return np.zeros(step_s.size, dtype=bool)
    usual, long = (float(q) for q in np.quantile(some(positive), [0.5, 0.99]))
    return np.asarray(step_s > max(10 * usual, 3 * long, 2.0) if long < 10 * usual else step_s > max(10 * long, 2.0))


def _areas(values: Floats, step_s: Floats, above: Floats, below: Floats) -> None:
    """Positive and negative area of each trapezoid, both positive, in thousandths of value times hours; laid down where zeros stand."""
    left, right = values[:-1], values[1:]
    whole = left + right
    whole *= step_s
    whole *= 1 / 7.2
    least, most = float(np.min(values)), float(np.max(values))
    if least >= 0:
        above[:] = whole
        return
    if most <= 0:
        np.negative(whole, out=below)
        return
    np.maximum(whole, 0.0, out=above)
    np.subtract(above, whole, out=below)
    crossing = left * right < 0
    if crossing.any():
        a, b, dt = left[crossing], right[crossing], step_s[crossing]
        share = a / (a - b)
        first, second = a * share * dt / 7.2, b * (1 - share) * dt / 7.2
        above[crossing] = np.maximum(first, 0) + np.maximum(second, 0)
        below[crossing] = np.maximum(-first, 0) + np.maximum(-second, 0)


def find_steps(trace: Trace, flow: Flow) -> tuple[Step, ...]:
    """The steps of a test in order of time."""
    signs = _signs(trace)
    runs = _with_tails(_without_pauses(_runs(signs), trace), trace)
    family_v = float(np.quantile(some(trace.voltage_v), 0.98))
    steps = [_step(trace, flow, _KINDS[sign], first, last, family_v) for sign, first, last in runs]
    return tuple(_mark_pulses(steps))


Run = tuple[int, int, int]


def _signs(trace: Trace) -> np.ndarray[tuple[int], np.dtype[np.int8]]:
    """-1, 0 or 1 for each row. What counts as no current is a small share of the usual one, more where the zero is noisy."""
    amps = trace.current_a
    top = largest(amps)
    if top == 0:
        return np.zeros(amps.size, dtype=np.int8)
    few = np.abs(some(amps))
    few = few[few > 0.02 * top]
    if few.size < _ENOUGH:
        few = np.abs(some(amps[np.abs(amps) > 0.02 * top]))
    usual = float(np.quantile(few, 0.9))
    signs = np.zeros(amps.size, dtype=np.int8)
    for share in (0.005, 0.01, 0.02, 0.04):
        # Two comparisons as bytes, one from the other: a sign without an array of floats for each row.
        signs = (amps > share * usual).view(np.int8) - (amps < -share * usual).view(np.int8)
        runs = _runs(signs)
        flicker = sum(
            1 for sign, first, last in runs if last - first < 3 and largest(amps[first : last + 1]) < 0.06 * usual
        )
        if flicker <= 3:
            break
    return _without_specks(signs, amps, usual)


def _without_specks(
    signs: np.ndarray[tuple[int], np.dtype[np.int8]], amps: Floats, usual: float
) -> np.ndarray[tuple[int], np.dtype[np.int8]]:
    """Takes runs of a row or two of next to no current into the run before."""
    for sign, first, last in _runs(signs):
        if first > 0 and sign != 0 and last - first < 2 and largest(amps[first : last + 1]) < 0.06 * usual:
            signs[first : last + 1] = signs[first - 1]
    return signs


def _runs(signs: np.ndarray[tuple[int], np.dtype[np.int8]]) -> list[Run]:
    bounds = np.flatnonzero(np.diff(signs)) + 1
    firsts = np.concatenate(([0], bounds))
    lasts = np.concatenate((bounds - 1, [signs.size - 1]))
    return [(int(signs[a]), int(a), int(b)) for a, b in zip(firsts, lasts, strict=True)]


def _without_pauses(runs: list[Run], trace: Trace) -> list[Run]:
    """Joins two runs of one direction over a short rest between them."""

    def lasts_s(run: Run) -> float:
        return float(trace.time_s[run[2]] - trace.time_s[run[1]])

    joined: list[Run] = []
    for run in runs:
        if len(joined) >= 2 and joined[-1][0] == 0 and joined[-2][0] == run[0] != 0:
            pause, before = joined[-1], joined[-2]
            pause_s = float(trace.time_s[run[1]] - trace.time_s[before[2]])
            held = min(lasts_s(before), lasts_s(run))
            if pause_s <= _PAUSE_S and (pause_s <= _PAUSE_SHARE * held or (pause[2] - pause[1] < 2 and held > pause_s)):
                joined[-2:] = [(run[0], before[1], run[2])]
                continue
        joined.append(run)
    return joined


def _with_tails(runs: list[Run], trace: Trace) -> list[Run]:
    """Gives the last, faint part of a held voltage to the step it belongs to, however far its current has faded."""
    amps, volts = np.abs(trace.current_a), trace.voltage_v
    grown = list(runs)
    for at, (sign, first, last) in enumerate(runs[:-1]):
        rest_sign, _, end = runs[at + 1]
        if sign == 0 or rest_sign != 0 or _held_from(trace, _KINDS[sign], first, last) is None:
            continue
        part = slice(last + 1, end + 1)
        goes_on = (np.sign(trace.current_a[part]) == sign) & (np.abs(volts[part] - volts[last]) < _HELD_V)
        length = int(np.argmin(goes_on)) if not goes_on.all() else goes_on.size
        # A zero that is a little off stands still; a tail fades.
        if length < 3 or amps[last + 1] < 1.5 * amps[last + length]:
            continue
        grown[at] = (sign, first, last + length)
        grown[at + 1] = (0, last + length + 1, end)
    return [run for run in grown if run[1] <= run[2]]


def _step(trace: Trace, flow: Flow, kind: StepKind, first: int, last: int, family_v: float) -> Step:
    time_s, volts, amps = trace.time_s, trace.voltage_v, trace.current_a
    duration_s = float(time_s[last] - time_s[first])
    charge_mah = energy_mwh = allowance_mah = 0.0
    mah, mwh = (flow.in_mah, flow.in_mwh) if kind == "charge" else (flow.out_mah, flow.out_mwh)
    if kind != "rest":
        # The intervals at both ends belong to it: half of them was under load.
        start, stop = max(first - 1, 0), min(last + 1, mah.size)
        charge_mah, energy_mwh = float(np.sum(mah[start:stop])), float(np.sum(mwh[start:stop]))
        allowance_mah = _allowance_mah(trace, flow, mah, first, last)
    mean_v = energy_mwh / charge_mah if charge_mah > 0 else float(np.mean(volts[first : last + 1]))
    sign = -1.0 if kind == "discharge" else 1.0
    hours = duration_s / 3600
    mean_ma = (
        sign * float(np.sum(mah[first:last])) / hours
        if hours > 0 and kind != "rest"
        else float(np.mean(amps[first : last + 1]) * 1000)
    )
    held_from = _held_from(trace, kind, first, last)
    complete, cut_off_v = _ending(trace, kind, first, last, held_from, family_v)
    return Step(
        kind, first, last, duration_s, charge_mah, energy_mwh, float(volts[first]), float(volts[last]), mean_v,
        mean_ma if kind != "rest" else 0.0, complete, allowance_mah, held_from, cut_off_v,
    )  # fmt: skip


def _allowance_mah(trace: Trace, flow: Flow, mah: Floats, first: int, last: int) -> float:
    """Half width that the sampling leaves open: when the load was switched, what happened in gaps, and the curve between rows."""
    amps = trace.current_a
    usual_s = usual_step_s(trace.time_s)
    open_mah = 0.0
    for inside, outside in ((first, first - 1), (last, last + 1)):
        if 0 <= outside < amps.size:
            between_s = float(flow.step_s[min(inside, outside)])
            is_gap = bool(flow.is_gap[min(inside, outside)])
            open_mah += abs(float(amps[inside])) * (usual_s if is_gap else between_s) / 7.2
        else:
            open_mah += abs(float(amps[inside])) * usual_s / 7.2
    inner, own = slice(first, last), amps[first : last + 1]
    open_mah += _jumps_as(own, flow.step_s[inner], 0.05 * largest(own)) / 7.2
    if flow.is_gap[inner].any():
        open_mah += float(np.sum(mah[inner][flow.is_gap[inner]]))
    return open_mah + _curve_mah(trace.time_s[first : last + 1], amps[first : last + 1])


def _jumps_as(amps: Floats, step_s: Floats, least_a: float) -> float:
    """Sum of the larger jumps of current times how long each took [A s]."""

    def of(start: int, stop: int) -> float:
        jumps = np.diff(amps[start : stop + 1])
        np.abs(jumps, out=jumps)
        jumps *= jumps > least_a
        return float(np.dot(jumps, step_s[start:stop]))

    return sum(by_stretch(step_s.size, of))


def _curve_mah(time_s: Floats, amps: Floats) -> float:
    """What every second row alone would give otherwise: a bound for what lies between the rows of a smooth curve."""
    if time_s.size < 5:
        return 0.0
    last = time_s.size - 1 - (time_s.size - 1) % 2
    fine = _twice_area(amps[: last + 1], time_s[: last + 1])
    coarse = _twice_area(amps[: last + 1 : 2], time_s[: last + 1 : 2])
    return abs(fine - coarse) / 7.2


def _twice_area(amps: Floats, time_s: Floats) -> float:
    """2 ∫ I dt by trapezoids, as products of whole arrays: nothing is laid down between."""
    ahead = float(np.dot(amps[1:], time_s[1:])) - float(np.dot(amps[1:], time_s[:-1]))
    return ahead + float(np.dot(amps[:-1], time_s[1:])) - float(np.dot(amps[:-1], time_s[:-1]))


def _held_from(trace: Trace, kind: StepKind, first: int, last: int) -> int | None:
    """Row from which the voltage is held while the current fades; None where it never is."""
    if kind == "rest" or last - first < 4:
        return None
    volts, amps = trace.voltage_v[first : last + 1], trace.current_a[first : last + 1]
    hold_v = float(np.median(volts[-max(3, volts.size // 50) :]))
    start = _last_away(volts, hold_v) + 1
    before = float(np.median(np.abs(amps[max(start - 4, 0) : start + 1]))) if start else abs(float(amps[0]))
    if volts.size - start < 4 or before <= 0 or abs(float(amps[-1])) > 0.8 * before:
        return None
    fading = np.flatnonzero(np.abs(amps[start:]) < 0.985 * before)
    return first + start + (int(fading[0]) if fading.size else 0)


def _last_away(volts: Floats, hold_v: float) -> int:
    """The last row whose voltage is none that is held, looked for from the end; -1: all are."""
    for end in range(volts.size, 0, -_STRETCH):
        start = max(end - _STRETCH, 0)
        away = np.flatnonzero(np.abs(volts[start:end] - hold_v) > _HELD_V)
        if away.size:
            return start + int(away[-1])
    return -1


def _ending(
    trace: Trace, kind: StepKind, first: int, last: int, held_from: int | None, family_v: float
) -> tuple[bool, float | None]:
    """Whether a step came to its own end, and the cut-off of a discharge."""
    if kind == "rest":
        return True, None
    volts, amps = trace.voltage_v, np.abs(trace.current_a)
    end_v = float(volts[last])
    if held_from is not None:
        before = float(np.median(amps[max(first, held_from - 5) : held_from + 1]))
        faded = float(amps[last]) <= 0.25 * before or last + 1 < amps.size
        return faded, _as_set(float(np.median(volts[held_from : last + 1])), 0.02) if kind == "discharge" else None
    if kind == "charge":
        top_v = _full_of(family_v)
        return last + 1 < amps.size and end_v >= top_v - 0.06, None
    return _discharge_ending(trace, first, last, family_v)


def _full_of(family_v: float) -> float:
    """Full voltage of the family that a log's highest voltages suggest."""
    return 2.7 if family_v <= 2.95 else 3.6 if family_v <= 3.75 else 4.2


def _discharge_ending(trace: Trace, first: int, last: int, family_v: float) -> tuple[bool, float | None]:
    """A discharge is complete where it ended at a cut-off: low enough for its family, and switched off there.

    With rows after it the load was let go at the last voltage. Where the log ends with it, that voltage must be one
    that a tester is set to, within what one row falls.
    """
    volts = trace.voltage_v
    end_v = float(min(volts[last], volts[max(last - 1, first)]))
    full_v = _full_of(family_v)
    most_v = {2.7: 2.05, 3.6: 2.95}.get(full_v, 3.45)
    tail = volts[max(first, last - 5) : last + 1]
    fall_v = max(float(np.max(-np.diff(tail), initial=0.0)), 0.0)
    resolution_v = _resolution(volts[max(first, last - 500) : last + 1])
    near = _as_set(end_v, min(max(1.2 * fall_v, 1.5 * resolution_v, 0.006), 0.03))
    let_go = last + 1 < volts.size
    if end_v > most_v:
        return False, None
    if let_go:
        return True, near if near is not None else round(end_v, 2)
    if near is not None:
        return True, near
    # So far down the fall is steep: nothing but a cut-off ends a run there.
    deep_v = {2.7: 1.85, 3.6: 2.55}.get(full_v, 2.85)
    return (True, round(end_v, 2)) if end_v <= deep_v else (False, None)


def _as_set(end_v: float, tolerance_v: float) -> float | None:
    """The voltage of a tester's scale that an end lies at, within what one row falls; None where none is near."""
    distance = np.abs(_CUT_OFFS_V - end_v)
    near = np.flatnonzero(distance <= tolerance_v + 1e-9)
    return float(_CUT_OFFS_V[min(near, key=lambda at: float(distance[at]))]) if near.size else None


def _resolution(values: Floats) -> float:
    steps = np.abs(np.diff(np.unique(np.round(values, 6))))
    return float(np.min(steps)) if steps.size else 0.0


def _mark_pulses(steps: list[Step]) -> list[Step]:
    """Short loads between rests are pulses."""
    marked = []
    for at, step in enumerate(steps):
        alone = all(other < 0 or other >= len(steps) or steps[other].kind == "rest" for other in (at - 1, at + 1))
        is_pulse = step.kind != "rest" and step.duration_s <= _PULSE_S and alone and len(steps) > 1
        marked.append(replace(step, is_pulse=is_pulse, complete=step.complete and not is_pulse) if is_pulse else step)
    return marked
