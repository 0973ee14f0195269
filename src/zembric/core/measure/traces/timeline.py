"""Rows into tests: clocks that ran backward mended, pasted exports told apart, the sign of the current found."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from zembric.core.measure.traces.model import Bools, Floats, LogRefusedError, Remark, Trace, some
from zembric.core.measure.traces.rows import STATES
from zembric.core.said import Said, said

if TYPE_CHECKING:
    from zembric.core.measure.traces.columns import Columns
    from zembric.core.measure.traces.model import Lines
    from zembric.core.measure.traces.rows import Rows

Sign = Literal["negative", "positive", "unsigned"]
_DAY_S = 86400.0
_MILLIS_WRAP_S = 2**32 / 1000
_DISORDER_ROWS = 10
_TREND_V = 0.06
_ROWS_TO_SEE = 100_000


@dataclass(frozen=True, slots=True)
class Timeline:
    """The separate tests of a log with discharge negative, and the sign that the log itself wrote."""

    tests: tuple[Trace, ...]
    discharge_current: Sign
    remarks: tuple[Remark, ...]


def lay_out(rows: Rows, columns: Columns, discharge: Literal["negative", "positive"] | None) -> Timeline:
    """Tests of a log in order of time.

    Raises:
        LogRefusedError: the times are no times, or too few rows are left.
    """
    remarks: list[Remark] = []
    _newest_last(rows, remarks)
    pieces = _pieces(rows, columns, remarks)
    tests = [test for start, stop in pieces if (test := _in_order(rows, start, stop, remarks)) is not None]
    if not tests:
        raise LogRefusedError(
            said("times-do-not-go"), code="bad-time", line=int(rows.line[0]),
            column=columns.time.header if columns.time else None,
        )  # fmt: skip
    sign = discharge or _sign_of(tests, rows, has_state=columns.state is not None)
    own: list[Sign] = [
        sign if discharge or len(tests) == 1 else _own_sign(test, sign, rows, has_state=columns.state is not None)
        for test in tests
    ]
    signed = tuple(_signed(test, of_test, rows) for test, of_test in zip(tests, own, strict=True))
    if columns.current is None:
        sign = "positive"
    elif len(set(own)) > 1:
        sign = "unsigned"
        remarks.append(
            Remark(
                "signs-differ",
                said("log-signs-differ"),
                int(rows.line[0]),
            )
        )
    elif sign == "unsigned":
        remarks.append(
            Remark(
                "unsigned-current",
                said("log-unsigned-current"),
                int(rows.line[0]),
            )
        )
    if len(tests) > 1:
        at = int(tests[1].line[0])
        remarks.append(Remark("several-tests", said("log-several-tests", count=len(tests), at=at), at))
    return Timeline(signed, sign, tuple(remarks))


def usual_step_s(time_s: Floats) -> float:
    """Median of the times between rows that differ [s]; 0 where all are equal."""
    steps = np.diff(_seen(time_s))
    steps = steps[steps > 0]
    return float(np.median(some(steps))) if steps.size else 0.0


def _newest_last(rows: Rows, remarks: list[Remark]) -> None:
    if rows.time_s[-1] >= rows.time_s[0]:
        return
    steps = np.diff(rows.time_s)
    if np.count_nonzero(steps < 0) > 0.9 * np.count_nonzero(steps):
        for name in ("time_s", "voltage_v", "current_a", "line"):
            setattr(rows, name, getattr(rows, name)[::-1].copy())
        rows.counter_mah = rows.counter_mah[::-1] if rows.counter_mah is not None else None
        rows.state = rows.state[::-1] if rows.state is not None else None
        remarks.append(
            Remark(
                "newest-first",
                said("log-newest-first"),
                int(rows.line[-1]),
            )
        )


def _pieces(rows: Rows, columns: Columns, remarks: list[Remark]) -> list[tuple[int, int]]:
    """Where separate tests begin and end; clocks that wrapped, or that start anew with each step, are carried on."""
    time_s = rows.time_s
    back = np.flatnonzero(time_s[1:] < time_s[:-1]) + 1
    if back.size > 0.2 * time_s.size + 3:
        raise LogRefusedError(
            said("times-run-backward-in-of-rows", backward=back.size, rows=time_s.size),
            code="bad-time",
            line=int(rows.line[back[0]]),
            column=columns.time.header if columns.time else None,
        )
    rows.is_rising = back.size == 0
    usual_s = usual_step_s(time_s)
    headers = np.array(rows.header_lines, dtype=np.int64)
    cuts: list[int] = []
    restarts = [int(at) for at in back if _is_restart(time_s, int(at), cuts[-1] if cuts else 0, usual_s)]
    carries_on = columns.steps_restart_time or (
        len(restarts) > 3
        and not headers.size
        and float(np.median(np.abs(rows.voltage_v[restarts] - rows.voltage_v[np.array(restarts) - 1]))) < 0.3
    )
    for at in back:
        index = int(at)
        wrap_s = _wrap_of(columns, float(time_s[index - 1]), float(time_s[index]))
        if wrap_s:
            time_s[index:] += wrap_s
            continue
        behind_header = _header_between(headers, rows.line, index)
        restart = index in restarts or behind_header
        if restart and carries_on and not behind_header:
            time_s[index:] += time_s[index - 1] - time_s[index] + usual_s
            continue
        if restart:
            cuts.append(index)
    if carries_on and restarts:
        remarks.append(
            Remark(
                "step-times",
                said("log-step-times"),
                int(rows.line[restarts[0]]),
            )
        )
    for line in headers:
        index = int(np.searchsorted(rows.line, line))
        if 0 < index < time_s.size and index not in cuts and time_s[index] - time_s[index - 1] > max(20 * usual_s, 60):
            cuts.append(index)
    edges = [0, *sorted(cuts), time_s.size]
    return [(start, stop) for start, stop in itertools.pairwise(edges) if stop - start >= 2]


def _is_restart(time_s: Floats, at: int, start: int, usual_s: float) -> bool:
    """Whether the clock began anew: back to about where its test had begun."""
    first = float(time_s[start])
    span = float(time_s[at - 1]) - first
    return float(time_s[at]) <= first + max(3 * usual_s, 0.02 * span) and span > 5 * usual_s


def _wrap_of(columns: Columns, before: float, after: float) -> float:
    drop = before - after
    if columns.time and columns.time.kind == "clock" and drop > 0.9 * _DAY_S and before < _DAY_S:
        return _DAY_S
    if columns.time and columns.time.unit == "ms" and abs(drop - _MILLIS_WRAP_S) < 600:
        return _MILLIS_WRAP_S
    return 0.0


def _header_between(headers: Lines, line: Lines, index: int) -> bool:
    return bool(np.any((headers > line[index - 1]) & (headers < line[index])))


def _in_order(rows: Rows, start: int, stop: int, remarks: list[Remark]) -> Trace | None:
    """One test with a clock that does not fall: rows out of order left out, a clock that was set back carried on."""
    time_s = rows.time_s[start:stop]
    time_s -= time_s[0].copy()
    if rows.is_rising and time_s[-1] > time_s[0]:
        return _as_trace(rows, slice(start, stop), time_s, None, remarks)
    keep = np.ones(time_s.size, dtype=bool)
    usual_s = usual_step_s(time_s)
    back = np.flatnonzero(time_s[1:] < time_s[:-1]) + 1
    while back.size:
        at = int(back[0])
        highest = float(np.max(time_s[:at][keep[:at]]))
        over = np.flatnonzero(time_s[at : at + _DISORDER_ROWS] > highest)
        line = int(rows.line[start + at])
        if over.size:
            until = at + int(over[0])
            keep[at:until] = False
            time_s[at:until] = highest
            _note_once(remarks, "backward-time", said("log-backward-time", line=line), line)
        elif time_s.size - at <= 2:
            keep[at:] = False
            time_s[at:] = highest
            _note_once(remarks, "backward-time", said("log-backward-time", line=line), line)
        else:
            time_s[at:] += highest - time_s[at] + usual_s
            _note_once(
                remarks,
                "clock-set-back",
                said("log-clock-set-back", line=line),
                line,
            )
        back = np.flatnonzero(np.diff(time_s) < 0) + 1
    if keep.sum() < 2 or time_s[keep][-1] <= time_s[keep][0]:
        return None
    return _as_trace(rows, slice(start, stop), time_s, None if keep.all() else keep, remarks)


def _as_trace(rows: Rows, cut: slice, time_s: Floats, keep: Bools | None, remarks: list[Remark]) -> Trace:
    """Rows as a trace with its own clock; `keep` None: all of them."""
    equal = int(np.count_nonzero(time_s[1:] == time_s[:-1]))
    if equal > 0.05 * time_s.size:
        at = int(np.flatnonzero(np.diff(time_s) == 0)[0]) + 1
        line = int(rows.line[cut.start + at])
        _note_once(remarks, "equal-times", said("log-equal-times", count=equal, line=line), line)
    if keep is None:
        whole = rows.counter_mah[cut] if rows.counter_mah is not None else None
        return Trace(time_s, rows.voltage_v[cut], rows.current_a[cut], rows.line[cut], whole)
    counter = rows.counter_mah[cut][keep] if rows.counter_mah is not None else None
    return Trace(time_s[keep], rows.voltage_v[cut][keep], rows.current_a[cut][keep], rows.line[cut][keep], counter)


def _note_once(remarks: list[Remark], code: str, what: Said, line: int) -> None:
    if not any(remark.code == code for remark in remarks):
        remarks.append(Remark(code, what, line))


# --- sign ------------------------------------------------------------------------------------------------------------


def _sign_of(tests: list[Trace], rows: Rows, *, has_state: bool) -> Sign:
    """Which sign the log gives a discharge: what pulls the voltage down."""
    edge_votes, run_votes, both = 0.0, 0.0, False
    for test in tests:
        high_a, low_a = float(np.max(test.current_a)), float(np.min(test.current_a))
        top_a = max(high_a, -low_a)
        if top_a <= 0:
            continue
        limit = 0.03 * top_a
        both = both or (high_a > limit and low_a < -limit)
        amps, volts = _seen(test.current_a), _seen(test.voltage_v)
        jump_a, jump_v = np.diff(amps), np.diff(volts)
        gaps_s = np.diff(_seen(test.time_s))
        edges = (
            (np.abs(jump_a) > 0.2 * top_a)
            & (np.abs(jump_v) > 0.002)
            & (gaps_s <= max(10.0, 2 * usual_step_s(test.time_s)))
        )
        edge_votes += float(np.sum(np.sign(jump_a[edges] * jump_v[edges])))
        mean_a = (amps[1:] + amps[:-1]) / 2
        loaded = (np.abs(mean_a) > limit) & ~edges
        run_votes += float(np.sum(jump_v[loaded] * np.sign(mean_a[loaded])))
    if not both and any(_rises_and_falls(test) for test in tests):
        return "unsigned"
    if has_state and not both and rows.state is not None:
        amps_discharging = rows.current_a[rows.state == STATES.index("discharge")]
        amps_charging = rows.current_a[rows.state == STATES.index("charge")]
        if amps_discharging.size and amps_charging.size:
            return "unsigned"
    vote = edge_votes if abs(edge_votes) >= 2 else run_votes
    return "negative" if vote >= 0 else "positive"


def _own_sign(test: Trace, usual: Sign, rows: Rows, *, has_state: bool) -> Sign:
    """The sign one test of several gives a discharge, where a current of one direction and a clear trend tell; else the log's."""
    limit = 0.03 * float(np.max(np.abs(test.current_a)))
    is_one_way = not (float(np.max(test.current_a)) > limit and float(np.min(test.current_a)) < -limit)
    if usual == "unsigned" or not is_one_way or abs(float(test.voltage_v[-1] - test.voltage_v[0])) < _TREND_V:
        return usual
    return _sign_of([test], rows, has_state=has_state)


def _seen(values: Floats) -> Floats:
    """A few stretches of a column that are enough to see how voltage and current go together."""
    if values.size <= _ROWS_TO_SEE:
        return values
    starts = np.linspace(0, values.size - _ROWS_TO_SEE // 20, 20).astype(np.int64)
    return np.concatenate([values[start : start + _ROWS_TO_SEE // 20] for start in starts])


def _rises_and_falls(test: Trace) -> bool:
    """Whether a current of one sign only both fills and empties: then it carries no sign."""
    # The way a voltage goes shows in a part of the rows as well.
    thin = slice(None, None, max(1, test.time_s.size // _ROWS_TO_SEE))
    test = Trace(test.time_s[thin], test.voltage_v[thin], test.current_a[thin], test.line[thin])
    runs = _one_way_runs(test)
    fills = any(trend > _TREND_V or _is_held(test, trend, first, last) for trend, first, last in runs)
    return fills and min((trend for trend, _, _ in runs), default=0) < -_TREND_V


def _is_held(test: Trace, trend: float, first: int, last: int) -> bool:
    """A voltage that stands at its highest while the current fades is held by a charger."""
    amps = np.abs(test.current_a)
    fades = float(amps[last]) < 0.7 * float(amps[min(first + 1, last)])
    return fades and trend > -0.02 and float(test.voltage_v[last]) > float(np.max(test.voltage_v)) - 0.01


def _one_way_runs(test: Trace) -> list[tuple[float, int, int]]:
    """Stretches under current in which the voltage goes one way: its change [V], first and last row."""
    amps = np.abs(test.current_a)
    loaded = amps > 0.02 * float(np.max(amps))
    bounds = np.flatnonzero(np.diff(np.concatenate(([0], loaded.astype(np.int8), [0]))))
    found: list[tuple[float, int, int]] = []
    for start, stop in zip(bounds[::2], bounds[1::2], strict=True):
        found += _split_at_turns(test.voltage_v, int(start), int(stop) - 1)
    return found


def _split_at_turns(volts: Floats, first: int, last: int) -> list[tuple[float, int, int]]:
    if last <= first:
        return [(0.0, first, last)]
    part = volts[first : last + 1]
    top, jumps = _top_turn(part)
    for turn, is_certain in ((first + top, jumps), (first + int(np.argmin(part)), False)):
        up, down = float(volts[turn] - volts[first]), float(volts[last] - volts[turn])
        if first < turn < last and (is_certain or (up * down < 0 and min(abs(up), abs(down)) > 0.1)):
            return _split_at_turns(volts, first, turn) + _split_at_turns(volts, turn + 1, last)
    # The jump at the start is the load's own; the way after it tells.
    skip = first + min(2, (last - first) // 2)
    return [(float(volts[last] - volts[skip]), first, last)]


def _top_turn(volts: Floats) -> tuple[int, bool]:
    """The last row of a charge that a discharge follows at once, and whether a jump down from about the top shows it."""
    highest = float(np.max(volts))
    falls = volts[:-1] - volts[1:]
    from_top = np.flatnonzero((volts[:-1] >= highest - 0.03) & (falls > 0.008))
    if from_top.size:
        at = int(from_top[np.argmax(falls[from_top])])
        if float(falls[at]) > 2 * float(np.quantile(np.abs(falls), 0.99)) or float(falls[at]) > 0.03:
            return at, True
    return volts.size - 1 - int(np.argmax(volts[::-1])), False


def _signed(test: Trace, sign: Sign, rows: Rows) -> Trace:
    if sign == "negative":
        return test
    if sign == "positive":
        return Trace(test.time_s, test.voltage_v, -test.current_a, test.line, test.counter_mah)
    amps = np.abs(test.current_a)
    direction = np.zeros(amps.size)
    if rows.state is not None:
        state = rows.state[np.searchsorted(rows.line, test.line)]
        direction[state == STATES.index("discharge")] = -1
        direction[state == STATES.index("charge")] = 1
    for trend, first, last in _one_way_runs(test):
        part = direction[first : last + 1]
        part[part == 0] = 1.0 if trend > 0 or _is_held(test, trend, first, last) else -1.0
    return Trace(test.time_s, test.voltage_v, amps * direction, test.line, test.counter_mah)
