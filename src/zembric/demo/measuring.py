"""What the mending table measures with: instruments, logs of testers, two testers that disagree, a cell watched at rest."""

from __future__ import annotations

import io
from datetime import datetime, timedelta
from random import Random
from typing import TYPE_CHECKING

from zembric.core.house.limits import Family
from zembric.core.measure.simulation import SimulatedBench, SimulatedCell, SimulatedRow
from zembric.demo.evening import Evening
from zembric.operations.bench import entries
from zembric.operations.bench.readings import TypedReading
from zembric.operations.donors import DonorToOpen
from zembric.operations.file_store import Received
from zembric.operations.known import instruments
from zembric.operations.known.instruments import TypedInstrument
from zembric.operations.measuring import log_readings, logs, methods
from zembric.operations.measuring.methods import TypedMeasurement

if TYPE_CHECKING:
    from collections.abc import Iterable

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor
    from zembric.operations.measuring.log_traces import LogStore

_LAYERED = Family.LAYERED_OXIDE.value
_RUN = {"started_full": "yes", "ran_out": "yes"}


def instruments_of_the_table(session: Session, who: Actor, at: datetime) -> dict[str, str]:
    """Numbers of the table's instruments by a short name."""
    wanted = {
        "yellow": TypedInstrument("Yellow meter on the string", "voltmeter", resolution_v="0.01"),
        "grey": TypedInstrument("Grey meter in the drawer", "voltmeter", resolution_v="0.001"),
        "window": TypedInstrument("Tester by the window", "tester", half_width_pct="1.5"),
        "door": TypedInstrument("Tester by the door", "tester"),
        "four-wire": TypedInstrument("Four-wire meter", "ac-meter", note="zero it with its pins together"),
    }
    return {name: instruments.add_instrument(session, who, typed, at).number for name, typed in wanted.items()}


def two_testers(bench: Evening, numbers: dict[str, str]) -> None:
    """Six cells on both testers: the one by the door reads about 4 % less, and once a cell slipped in its holder."""
    donor = bench.open(
        DonorToOpen("unknown", "Starting-gate lights of the regatta", 6, "18650", _LAYERED, rated_capacity_mah=2600),
        [SimulatedCell(bench.chance.uniform(1750, 2350), bench.chance.uniform(55, 75), 0.4) for _ in range(6)],
    )
    cells = [cell.number for cell in donor.cells]
    for number in cells:
        bench.look_and_measure(number)
    for tester, bias in (("window", 0.0), ("door", -4.0)):
        for number in cells:
            bench.charge(number)
        bench.pause(hours=20)
        for place, number in enumerate(cells):
            slipped = 0.78 if tester == "door" and place == 4 else 1.0
            value = bench.cells[number].measured_capacity_mah(bench.chance, bias) * slipped
            typed = TypedMeasurement(
                "tester", {"value_mah": f"{value:.0f}", "current_ma": "1000", "cut_off_v": "3.0", "cell_degc": "21"}, _RUN,
                numbers[tester], confirmed=True,
            )  # fmt: skip
            bench.pause(minutes=3)
            methods.keep_measurement(bench.session, bench.who, number, typed, bench.now)
    values = {"u_rest_v": "3.312", "u_load_v": "3.271", "r_load_ohm": "4.7", "after_s": "10", "cell_degc": "21"}
    for number in cells[:3]:
        bench.pause(minutes=2)
        typed = TypedMeasurement("two-voltage", values, {"charger_on": "no"}, numbers["grey"], confirmed=True)
        methods.keep_measurement(bench.session, bench.who, number, typed, bench.now)


def watched_at_rest(bench: Evening, numbers: dict[str, str], now: datetime) -> None:
    """Cells kept full and read with the fine meter: for three weeks one holds and one loses 3 mV a day; two came later."""
    donor = bench.open(
        DonorToOpen("unknown", "Bird-song box of the primary school", 4, "18650", _LAYERED, rated_capacity_mah=2200),
        [
            SimulatedCell(1980, 62, 0.4, loss_mv_per_day=0.4), SimulatedCell(1960, 66, 0.4, loss_mv_per_day=3.1),
            SimulatedCell(1940, 61, 0.4, loss_mv_per_day=0.6), SimulatedCell(2010, 64, 0.4, loss_mv_per_day=0.3),
        ],
    )  # fmt: skip
    holds, loses, due, waits = (cell.number for cell in donor.cells)
    for number in (holds, loses, due, waits):
        bench.look_and_measure(number)
    watches = (((holds, loses), 22.5, (0.2, 1.5, 5, 9, 14, 21)), ((due,), 6, (0.2, 1.5)), ((waits,), 2, (0.2, 1.2)))
    for cells, days_ago, read_after in watches:
        bench.now = now - timedelta(days=days_ago)
        for number in cells:
            bench.charge(number)
        for days in read_after:
            bench.now = now - timedelta(days=days_ago - days)
            for number in cells:
                settled_v = 4.196 if days < 1 else 4.186
                loss_v = bench.cells[number].loss_mv_per_day * days / 1000
                value = f"{settled_v - loss_v + bench.chance.gauss(0, 0.0006):.3f}"
                reading = TypedReading("voltage", value, "meter", confirmed=True, instrument=numbers["grey"])
                entries.measure(bench.session, bench.who, number, reading, bench.now)
                bench.pause(minutes=1)


def logs_of_testers(bench: Evening, store: LogStore, numbers: dict[str, str]) -> None:
    """Three cells of one donor with their curves, one of them measured twice; a log that asks, one that is refused."""
    donor = bench.open(
        DonorToOpen("unknown", "Hymn board of the chapel", 3, "18650", _LAYERED, rated_capacity_mah=2600),
        [SimulatedCell(2290, 58, 0.35), SimulatedCell(1905, 84, 0.35), SimulatedCell(2240, 61, 0.35)],
    )
    cells = [cell.number for cell in donor.cells]
    for place, number in enumerate(cells):
        bench.look_and_measure(number)
        for run in range(2 if place == 0 else 1):
            bench.pause(hours=7)
            rows = _whole_run(bench.cells[number])
            name = f"slot{place + 1}-run{run + 1}.csv"
            log = logs.take_in_log(
                bench.session, store, bench.who, name, _file(store, _with_noise(rows, bench.chance)), bench.now, cell_number=number,
                instrument_number=numbers["window"],
            )  # fmt: skip
            log_readings.keep_log(bench.session, store, bench.who, log.id, number, 0, bench.now, confirmed=True)
    bench.pause(hours=1)
    bare = "".join(
        f"{row.time_s:.0f}\t{1000 * row.voltage_v:.0f}\t{-1000 * row.current_a:.0f}\n" for row in _discharge(0.5)
    )
    logs.take_in_log(bench.session, store, bench.who, "serial monitor", _file(store, bare.encode()), bench.now)
    by_lamp = "time (s);voltage (V)\n" + "".join(f"{row.time_s:.0f};{row.voltage_v:.3f}\n" for row in _discharge(0.4))
    logs.take_in_log(bench.session, store, bench.who, "bulb, every 20 s.csv", _file(store, by_lamp.encode()), bench.now)


def _file(store: LogStore, content: bytes) -> Received:
    return store.receive(io.BytesIO(content), logs.MOST_LOG_BYTES)


def _whole_run(cell: SimulatedCell) -> list[SimulatedRow]:
    tester = SimulatedBench(cell, every_s=10)
    tester.rest(120)
    tester.charge(1.0, 0.05)
    tester.rest(1800)
    tester.discharge(1.0, 3.0)
    tester.rest(900)
    return tester.rows


def _discharge(current_a: float) -> list[SimulatedRow]:
    tester = SimulatedBench(SimulatedCell(2100, 70, 1.0), every_s=20)
    tester.discharge(current_a, 3.0)
    return tester.rows


def _with_noise(rows: Iterable[SimulatedRow], chance: Random) -> bytes:
    """As a tester of the table writes it: decimal commas, millivolts of noise."""
    lines = ["Zeit [s];Spannung [V];Strom [A]"]
    for row in rows:
        volts, amps = (
            row.voltage_v + chance.gauss(0, 0.0008),
            row.current_a + (chance.gauss(0, 0.0008) if row.current_a else 0),
        )
        lines.append(f"{row.time_s:.0f};{volts:.3f};{amps:.3f}".replace(".", ","))
    return ("\n".join(lines) + "\n").encode()
