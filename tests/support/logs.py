"""Logs of made-up testers over the core's own cell model."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from zembric.core.measure.simulation import SimulatedBench, SimulatedCell, SimulatedRow

Rows = Sequence[SimulatedRow]
HEADER = "time (s),voltage (V),current (A)"


@cache
def whole_run() -> tuple[SimulatedRow, ...]:
    """Rest, charge with its constant-voltage tail, rest, discharge at 1 A to 3.0 V, rest; a row each 5 s."""
    bench = SimulatedBench(SimulatedCell(2400, 60, 0.3), every_s=5)
    bench.rest(60)
    bench.charge(1.0, 0.05)
    bench.rest(600)
    bench.discharge(1.0, 3.0)
    bench.rest(300)
    return tuple(bench.rows)


@cache
def one_discharge(every_s: float = 5.0) -> tuple[SimulatedRow, ...]:
    """From full at 1 A to 3.0 V, nothing before and after."""
    bench = SimulatedBench(SimulatedCell(2400, 60, 1.0), every_s=every_s)
    bench.discharge(1.0, 3.0)
    return tuple(bench.rows)


def true_discharge_mah(rows: Rows) -> float:
    """What the model's cell gave: each row's current flows until the next row."""
    every_s = rows[1].time_s - rows[0].time_s
    return sum(-row.current_a for row in rows if row.current_a < 0) * every_s / 3.6


def csv_of(rows: Rows, line: str = "{t:.1f},{v:.4f},{i:.4f}", header: str | None = HEADER) -> str:
    """A log; in `line` stand t [s], v [V], i [A], h (clock), vm [mV], im [mA], n (row)."""
    out = [header] if header is not None else []
    for number, row in enumerate(rows):
        seconds = row.time_s
        clock = f"{int(seconds // 3600):02d}:{int(seconds // 60) % 60:02d}:{int(seconds) % 60:02d}"
        out.append(
            line.format(
                t=seconds, v=row.voltage_v, i=row.current_a, h=clock, vm=row.voltage_v * 1000, im=row.current_a * 1000,
                n=number + 1, a=abs(row.current_a),
            )
        )  # fmt: skip
    return "\n".join(out) + "\n"


def comma_decimals(text: str) -> str:
    return text.replace(".", ",")
