"""`./zembric analyse FILE`: a tester's log into what it measured, as interfaces promise it."""

from __future__ import annotations

import argparse
import math
from pathlib import Path
from threading import Thread
from typing import TYPE_CHECKING, Any

from zembric.cli.numbers import positive
from zembric.core.errors import BadInputError

if TYPE_CHECKING:
    from zembric.core.measure.traces.analysis import LogAnalysis, Test
    from zembric.core.measure.traces.columns import Column
    from zembric.core.measure.traces.model import Remark, Step

_HIGHER_CUT_OFFS_V = (2.0, 2.5, 2.8, 3.0, 3.2, 3.3, 3.5)
_MOST_BYTES = 2 * 1024**3


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", type=Path, metavar="FILE", help="the log as the tester wrote it")
    parser.add_argument("--columns", help="what each column is, e.g. time,voltage,current,other")
    parser.add_argument("--time-unit", choices=("s", "ms", "min", "h"))
    parser.add_argument("--voltage-unit", choices=("V", "mV"))
    parser.add_argument("--current-unit", choices=("A", "mA"))
    parser.add_argument("--discharge", choices=("negative", "positive"), help="the sign that the log gives a discharge")
    parser.add_argument("--resistor-ohm", type=positive, help="of a log without currents: the load, leads included")
    parser.add_argument("--every-s", type=positive, help="of a log without times: seconds from row to row")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")


def analyse_file(wanted: argparse.Namespace) -> dict[str, Any]:
    """The answer of the verb.

    Raises:
        LogRefusedError: the log cannot be read for certain.
        BadInputError: there is no such file.
    """
    reading = _Reading(wanted.file)
    # These bring NumPy and Arrow with them, and are loaded while the file is read.
    from zembric.core.measure.traces.analysis import analyse_log  # noqa: PLC0415
    from zembric.core.measure.traces.model import Answers  # noqa: PLC0415
    from zembric.files.logs import log_text  # noqa: PLC0415

    columns = tuple(part.strip() for part in wanted.columns.split(",")) if wanted.columns else None
    answers = Answers(
        columns, wanted.time_unit, wanted.voltage_unit, wanted.current_unit, wanted.discharge, wanted.resistor_ohm, wanted.every_s
    )  # fmt: skip
    return show_analysis(wanted.file.name, analyse_log(log_text(reading.content()), answers))


class _Reading:
    """Reads a file on a thread of its own."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._found: list[bytes] = []
        self._error: BadInputError | None = None
        self._thread = Thread(target=self._read)
        self._thread.start()

    def content(self) -> bytes:
        """The bytes of the file, which are not kept here: given once.

        Raises:
            BadInputError: it cannot be read, or is too large.
        """
        self._thread.join()
        if self._error:
            raise self._error
        return self._found.pop()

    def _read(self) -> None:
        try:
            if self.path.stat().st_size > _MOST_BYTES:
                self._error = BadInputError("The file is larger than 2 GB.", code="too-large")
            else:
                self._found.append(self.path.read_bytes())
        except MemoryError:
            self._error = BadInputError("There is not enough memory for this file.", code="too-large")
        except (OSError, ValueError) as error:
            reason = getattr(error, "strerror", None) or "no such file"
            self._error = BadInputError(f'"{self.path}" cannot be read: {reason}.', code="no-file")


def show_analysis(file_name: str, analysis: LogAnalysis) -> dict[str, Any]:
    read_as = analysis.read_as
    columns = read_as.columns
    return {
        "file": file_name,
        "read_as": {
            "encoding": read_as.encoding,
            "delimiter": read_as.delimiter,
            "decimal": read_as.decimal,
            "columns": {
                "time": _column(columns.time, columns.time.kind if columns.time else None),
                "voltage": _column(columns.voltage),
                "current": _column(columns.current),
            },
            "discharge_current": read_as.discharge_current,
            "resistor_ohm": columns.resistor_ohm,
        },
        "tests": [_test(test) for test in analysis.tests],
        "remarks": [_remark(remark) for remark in analysis.remarks],
    }


def _column(column: Column | None, kind: str | None = None) -> dict[str, Any] | None:
    if column is None:
        return None
    unit = column.unit or {"clock": "hh:mm:ss", "date": "date"}.get(kind or "")
    return {"header": column.header, "unit": unit, "place": column.place + 1}


def _test(test: Test) -> dict[str, Any]:
    from zembric.core.measure.traces.analysis import capacities_to_cut_offs  # noqa: PLC0415

    trace = test.trace
    to_cut_offs = [
        {
            "cut_off_v": found.cut_off_v,
            "capacity_mah": _number(found.capacity_mah, 2),
            "energy_mwh": _number(found.energy_mwh, 1),
        }
        for found in reversed(capacities_to_cut_offs(test, _HIGHER_CUT_OFFS_V))
    ]
    return {
        "rows": int(trace.time_s.size),
        "duration_s": _number(float(trace.time_s[-1] - trace.time_s[0]), 3),
        "steps": [_step(test, step) for step in test.steps],
        "discharge_capacity_mah": _number(test.discharge_capacity_mah, 3),
        "discharge_energy_mwh": _number(test.discharge_energy_mwh, 2),
        "discharge_complete": test.discharge_complete,
        "charge_capacity_mah": _number(test.charge_capacity_mah, 3),
        "resistances": [
            {
                "mohm": _number(edge.mohm, 3),
                "over_s": _number(edge.over_s, 3),
                "delta_v": _number(edge.delta_v, 6),
                "delta_i_a": _number(edge.delta_i_a, 6),
                "first_line": int(trace.line[edge.before]),
                "last_line": int(trace.line[edge.after]),
            }
            for edge in test.edges
        ],
        "resistances_after": [
            {
                "after_s": found.after_s,
                "mohm": _number(found.mohm, 2),
                "spread_mohm": _number(found.spread_mohm, 2),
                "allowance_mohm": _number(found.allowance_mohm, 2),
                "edges": found.edges,
            }
            for found in test.resistances
        ],
        "cut_off_v": _number(test.cut_off_v, 3),
        "sampling_s": _number(test.sampling_s, 4),
        "capacity_allowance_pct": _number(test.capacity_allowance_pct, 4),
        "to_cut_offs": to_cut_offs,
        "relaxation_after_charge": [
            {"minutes": relaxed.minutes, "voltage_v": _number(relaxed.voltage_v, 4)} for relaxed in test.relaxations
        ],
        "sag_v": _number(test.sag_v, 4),
    }


def _step(test: Test, step: Step) -> dict[str, Any]:
    line = test.trace.line
    held = step.constant_voltage_from
    return {
        "kind": step.kind,
        "first_line": int(min(line[step.first], line[step.last])),
        "last_line": int(max(line[step.first], line[step.last])),
        "duration_s": _number(step.duration_s, 3),
        "capacity_mah": _number(step.capacity_mah, 3),
        "energy_mwh": _number(step.energy_mwh, 2),
        "start_voltage_v": _number(step.start_voltage_v, 4),
        "end_voltage_v": _number(step.end_voltage_v, 4),
        "mean_voltage_v": _number(step.mean_voltage_v, 4),
        "mean_current_ma": _number(step.mean_current_ma, 2),
        "complete": step.complete,
        "pulse": step.is_pulse,
        "constant_voltage_from_line": int(line[held]) if held is not None else None,
    }


def _remark(remark: Remark) -> dict[str, Any]:
    from zembric.wording import say  # noqa: PLC0415

    return {"code": remark.code, "line": remark.line, "column": remark.column, "text": say(remark.said)}


def _number(value: float | None, digits: int) -> float | None:
    return round(value, digits) if value is not None and math.isfinite(value) else None
