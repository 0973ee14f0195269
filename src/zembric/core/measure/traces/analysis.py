"""A log from bytes to what it measured."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.measure.traces.columns import Columns, choose_columns
from zembric.core.measure.traces.edges import ResistanceAfter, find_edges, resistances_after
from zembric.core.measure.traces.model import Answers, Edge, LogRefusedError, Remark, Step, Trace
from zembric.core.measure.traces.pasted import parts_of
from zembric.core.measure.traces.rows import Progress, read_rows
from zembric.core.measure.traces.steps import Flow, find_steps, flow_of
from zembric.core.measure.traces.table import Table, open_table
from zembric.core.measure.traces.text import LogText, read_text
from zembric.core.measure.traces.timeline import Sign, lay_out, usual_step_s
from zembric.core.said import Amount, said

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.measure.traces.model import Floats

_COUNTER_DIFFERS = 0.01
#: Minutes after the end of a charge at which the falling voltage is told.
_RELAXED_AFTER_MIN = (1, 10, 30, 60)
_SAG_AFTER_S = 10.0
#: Rows that are looked through at a time.
_STRETCH = 1 << 15


@dataclass(frozen=True, slots=True)
class ReadAs:
    """How a log was read."""

    encoding: str
    delimiter: str
    decimal: str
    columns: Columns
    discharge_current: Sign
    headers: tuple[str, ...] | None
    #: The same for all files of one tester: what a remembered answer is found by.
    signature: str


@dataclass(frozen=True, slots=True)
class Relaxation:
    """The voltage some minutes after the end of a charge [V]."""

    minutes: int
    voltage_v: float


@dataclass(frozen=True, slots=True)
class ToCutOff:
    """What a discharge gave until it fell to a voltage."""

    cut_off_v: float
    capacity_mah: float
    energy_mwh: float


@dataclass(frozen=True, slots=True)
class Test:
    """What one test measured. Capacities in mAh, energy in mWh, positive."""

    trace: Trace
    flow: Flow
    steps: tuple[Step, ...]
    edges: tuple[Edge, ...]
    resistances: tuple[ResistanceAfter, ...]
    sampling_s: float
    #: The steps that together are the discharge that counts: the last complete one, else the last.
    discharge: tuple[Step, ...]
    #: The last charge, all its parts.
    charge: tuple[Step, ...]
    relaxations: tuple[Relaxation, ...]
    sag_v: float | None

    @property
    def discharge_complete(self) -> bool:
        return bool(self.discharge) and self.discharge[-1].complete

    @property
    def discharge_capacity_mah(self) -> float | None:
        return sum(step.capacity_mah for step in self.discharge) if self.discharge else None

    @property
    def discharge_energy_mwh(self) -> float | None:
        return sum(step.energy_mwh for step in self.discharge) if self.discharge else None

    @property
    def charge_capacity_mah(self) -> float | None:
        return sum(step.capacity_mah for step in self.charge) if self.charge else None

    @property
    def cut_off_v(self) -> float | None:
        return self.discharge[-1].cut_off_v if self.discharge_complete else None

    @property
    def capacity_allowance_pct(self) -> float | None:
        """Half width of the discharge (without one: of the charge) that the sampling leaves open [%]."""
        parts = self.discharge or self.charge
        moved = sum(step.capacity_mah for step in parts)
        return 100 * sum(step.allowance_mah for step in parts) / moved if moved > 0 else None


@dataclass(frozen=True, slots=True)
class LogAnalysis:
    read_as: ReadAs
    tests: tuple[Test, ...]
    remarks: tuple[Remark, ...]


def analyse_log(content: bytes, answers: Answers | None = None, progress: Progress | None = None) -> LogAnalysis:
    """Reads a tester's log and works out what it measured.

    Args:
        content: The file as it is.
        answers: What is known of it beforehand.
        progress: Called now and then with the share that is read; may raise to stop.

    Raises:
        LogRefusedError: it cannot be read for certain; names line, column and what would help.
    """
    answered = answers or Answers()
    text = read_text(content)
    del content
    table = open_table(text.body)
    parts = parts_of(table)
    about = replace(text, body=b"")
    if len(parts) > 1:
        return _together([_analyse_part(part, before, about, answered, progress) for before, part in parts])
    # The text is the largest of all and is let go once its rows are read: nobody else may hold on to it.
    alone = [table]
    del text, table, parts
    return _analyse_table(alone, about, answered, progress, ends_with_newline=about.ends_with_newline)


def _analyse_part(
    body: bytes, lines_before: int, text: LogText, answers: Answers, progress: Progress | None
) -> LogAnalysis:
    """One of several exports in a file; its lines count from the start of the whole."""
    try:
        found = _analyse_table([open_table(body)], text, answers, progress, ends_with_newline=True)
    except LogRefusedError as refused:
        line = None if refused.line is None else refused.line + lines_before
        raise LogRefusedError(refused.said, code=refused.code, line=line, column=refused.column) from refused
    for test in found.tests:
        test.trace.line[:] += lines_before
    moved = tuple(replace(r, line=None if r.line is None else r.line + lines_before) for r in found.remarks)
    return LogAnalysis(found.read_as, found.tests, moved)


def _together(found: Sequence[LogAnalysis]) -> LogAnalysis:
    tests = tuple(test for each in found for test in each.tests)
    line = int(found[1].tests[0].trace.line[0])
    remark = Remark(
        "several-exports",
        said("log-several-exports", count=len(found), line=line),
        line,
    )
    return LogAnalysis(found[0].read_as, tests, (*(r for each in found for r in each.remarks), remark))


def _analyse_table(
    alone: list[Table], text: LogText, answers: Answers, progress: Progress | None, *, ends_with_newline: bool
) -> LogAnalysis:
    table = alone.pop()
    columns = choose_columns(table, answers)
    rows = read_rows(table, columns, ends_with_newline=ends_with_newline, progress=progress)
    table = replace(table, body=b"")
    timeline = lay_out(rows, columns, answers.discharge)
    read_as = ReadAs(
        text.encoding,
        table.delimiter,
        table.decimal,
        columns,
        timeline.discharge_current,
        table.headers,
        _signature(table),
    )
    tests = tuple(analyse_trace(trace) for trace in timeline.tests)
    remarks = [*text.remarks, *table.remarks, *columns.remarks, *rows.remarks, *timeline.remarks]
    if rows.is_truncated:
        remarks.append(Remark("truncated", said("log-truncated"), int(rows.line[-1])))
    for test in tests:
        remarks += _remarks_on(test)
    return LogAnalysis(read_as, tests, tuple(remarks))


def signature_of(content: bytes) -> str:
    """What all logs of one kind of tester have in common: delimiter, decimal mark and headers.

    Raises:
        LogRefusedError: it has no rows of numbers.
    """
    return _signature(open_table(read_text(content).body))


def analyse_trace(trace: Trace) -> Test:
    """Steps, capacities and resistances of one test."""
    flow = flow_of(trace)
    steps = find_steps(trace, flow)
    edges = find_edges(trace)
    return Test(
        trace, flow, steps, edges, resistances_after(trace, edges), usual_step_s(trace.time_s), _discharge_of(steps),
        _charge_of(steps), _relaxations(trace, steps), _sag_v(trace, steps),
    )  # fmt: skip


def capacities_to_cut_offs(test: Test, cut_offs_v: Sequence[float]) -> tuple[ToCutOff, ...]:
    """Charge and energy of the discharge up to cut-offs above its own, highest first, without those it never fell to."""
    volts, flow = test.trace.voltage_v, test.flow
    found: list[ToCutOff] = []
    wanted = sorted(cut_offs_v, reverse=True)
    before_mah = before_mwh = 0.0
    for step in test.discharge:
        counted = start = max(step.first - 1, 0)
        at, part_mah, part_mwh = step.first, before_mah, before_mwh
        while len(found) < len(wanted):
            cut_off_v = wanted[len(found)]
            row = _first_below(volts, at, step.last + 1, cut_off_v)
            if row is None:
                break
            whole = max(row - 1, start)
            part_mah += float(np.sum(flow.out_mah[counted:whole]))
            part_mwh += float(np.sum(flow.out_mwh[counted:whole]))
            at, counted = row, whole
            share = 0.0
            if row > start:
                fall_v = float(volts[row - 1] - volts[row])
                share = min(max(float(volts[row - 1] - cut_off_v) / fall_v, 0.0), 1.0) if fall_v > 0 else 1.0
            found.append(
                ToCutOff(
                    cut_off_v,
                    part_mah + (share * float(flow.out_mah[row - 1]) if share else 0.0),
                    part_mwh + (share * float(flow.out_mwh[row - 1]) if share else 0.0),
                )
            )
        before_mah += step.capacity_mah
        before_mwh += step.energy_mwh
    return tuple(found)


def _first_below(volts: Floats, start: int, stop: int, limit_v: float) -> int | None:
    """The first row from `start` to before `stop` at or below a voltage."""
    for first in range(start, stop, _STRETCH):
        is_below = volts[first : min(first + _STRETCH, stop)] <= limit_v
        at = int(np.argmax(is_below))
        if is_below[at]:
            return first + at
    return None


def _signature(table: Table) -> str:
    names = table.headers or tuple(f"{place}:{kind}" for place, kind in enumerate(table.kinds))
    return "|".join((table.delimiter, table.decimal, *(name.strip().lower() for name in names)))


def _discharge_of(steps: Sequence[Step]) -> tuple[Step, ...]:
    """The discharge that counts: the parts up to a cut-off, whatever pauses lie between; else the last parts.

    A part that came to its own end closes a discharge; so does a charge after it.
    """
    groups: list[list[Step]] = [[]]
    for step in steps:
        if step.kind == "discharge":
            groups[-1].append(step)
        if groups[-1] and (
            (step.kind == "discharge" and step.complete) or (step.kind == "charge" and not step.is_pulse)
        ):
            groups.append([])
    filled = [group for group in groups if group]
    complete = [group for group in filled if group[-1].complete]
    return tuple((complete or filled or [[]])[-1])


def _charge_of(steps: Sequence[Step]) -> tuple[Step, ...]:
    groups: list[list[Step]] = [[]]
    for step in steps:
        if step.kind == "charge":
            groups[-1].append(step)
        elif step.kind == "discharge" and not step.is_pulse and groups[-1]:
            groups.append([])
    filled = [group for group in groups if group]
    return tuple(filled[-1]) if filled else ()


def _relaxations(trace: Trace, steps: Sequence[Step]) -> tuple[Relaxation, ...]:
    """How the voltage fell in the rest after the last charge."""
    for before, rest in reversed(list(itertools.pairwise(steps))):
        if before.kind == "charge" and rest.kind == "rest":
            start_s = float(trace.time_s[before.last])
            found = []
            for minutes in _RELAXED_AFTER_MIN:
                if start_s + 60 * minutes <= float(trace.time_s[rest.last]) + 0.5:
                    at = rest.first + int(
                        np.argmin(np.abs(trace.time_s[rest.first : rest.last + 1] - start_s - 60 * minutes))
                    )
                    found.append(Relaxation(minutes, float(trace.voltage_v[at])))
            return tuple(found)
    return ()


def _sag_v(trace: Trace, steps: Sequence[Step]) -> float | None:
    """How far the voltage fell when the load of the last discharge came on; None without a rest before it."""
    for before, load in reversed(list(itertools.pairwise(steps))):
        if before.kind == "rest" and load.kind == "discharge" and not load.is_pulse:
            at = int(np.searchsorted(trace.time_s, float(trace.time_s[load.first]) + _SAG_AFTER_S))
            return float(trace.voltage_v[before.last] - trace.voltage_v[min(at, load.last)])
    return None


def _remarks_on(test: Test) -> list[Remark]:
    remarks = []
    trace = test.trace
    for at in np.flatnonzero(test.flow.is_gap)[:5]:
        line = int(trace.line[at + 1])
        bridged = float(test.flow.in_mah[at] + test.flow.out_mah[at])
        missing = Amount(float(test.flow.step_s[at]), "s")
        if bridged:
            text = said("log-gap-bridged", seconds=missing, line=line, bridged=Amount(bridged, "mAh", 1))
        else:
            text = said("log-gap", seconds=missing, line=line)
        remarks.append(Remark("gap", text, line))
    if test.discharge and not test.discharge_complete:
        last = test.discharge[-1]
        line = int(trace.line[last.last])
        remarks.append(
            Remark(
                "unfinished",
                said("log-unfinished", end_voltage=Amount(last.end_voltage_v, "", 2), line=line),
                line,
            )
        )
    if not test.discharge:
        remarks.append(Remark("no-discharge", said("log-no-discharge"), int(trace.line[0])))
    if not test.edges and test.sampling_s > 10:
        remarks.append(
            Remark(
                "no-resistance",
                said("log-no-resistance", sampling=Amount(test.sampling_s, "")),
                int(trace.line[0]),
            )
        )
    remarks += _counter_remarks(test)
    return remarks


def _counter_remarks(test: Test) -> list[Remark]:
    """Where the tester's own counter and the integral differ by more than 1 %."""
    counter = test.trace.counter_mah
    if counter is None or not test.discharge:
        return []
    counted = sum(_counted_mah(counter[step.first : step.last + 1]) for step in test.discharge)
    summed = test.discharge_capacity_mah or 0.0
    differs = abs(counted / summed - 1) if summed > 0 and counted > 0.02 * summed else 0.0
    if differs <= _COUNTER_DIFFERS:
        return []
    line = int(test.trace.line[test.discharge[-1].last])
    return [
        Remark(
            "counter-differs",
            said(
                "log-counter-differs",
                counted=Amount(counted, "", 1),
                summed=Amount(summed, "", 1),
                differs=Amount(100 * differs, "", 1),
            ),
            line,
        )
    ]


def _counted_mah(counter: Floats) -> float:
    values = counter[np.isfinite(counter)]
    return abs(float(values[-1] - values[0])) if values.size > 1 else 0.0
