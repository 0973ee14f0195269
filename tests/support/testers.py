"""A simulated tester as its own process, a runner beside it, and short ways to put a cell in and let it go."""

from __future__ import annotations

import contextlib
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import TypeVar

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from zembric.cli.postgres import free_port
from zembric.models import Slot, SlotRun, WiredTester
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.bench.keeping import cell_in_hand
from zembric.operations.bench.readings import TypedReading
from zembric.operations.database import unit_of_work
from zembric.operations.donors import DonorToOpen, open_donor
from zembric.operations.known.instruments import TypedInstrument, add_instrument
from zembric.operations.testers import wired
from zembric.operations.testers.runs import get_run
from zembric.runner.loop import Runner
from zembric.wire.mapping import as_json
from zembric.wire.standin import CHANNELS, STANDIN_MAP

Found = TypeVar("Found")


class StandInAtHand:
    """What hands and bad luck do to a simulated tester, over a line of their own."""

    def __init__(self, port: int) -> None:
        self.port = port
        self._line = socket.create_connection(("127.0.0.1", port), timeout=5)
        self._file = self._line.makefile("rw", newline="\n")

    def say(self, line: str) -> None:
        self._file.write(f"SIM:{line}\n")
        self._file.flush()

    def violations(self) -> str:
        self.say("VIOL?")
        return self._file.readline().strip()

    def close(self) -> None:
        self._file.close()
        self._line.close()


@contextlib.contextmanager
def standing_in(speed: float, seed: int = 1) -> Iterator[StandInAtHand]:
    port = free_port()
    command = [
        sys.executable,
        "-m",
        "zembric.wire.standin",
        "--port",
        str(port),
        "--speed",
        str(speed),
        "--seed",
        str(seed),
    ]
    process = subprocess.Popen(command)
    try:
        at_hand = until(lambda: _connected(port))
        try:
            yield at_hand
        finally:
            at_hand.close()
    finally:
        process.kill()
        process.wait()


def _connected(port: int) -> StandInAtHand | None:
    with contextlib.suppress(OSError):
        return StandInAtHand(port)
    return None


@contextlib.contextmanager
def running(engine: Engine, turn_s: float = 0.1) -> Iterator[Runner]:
    runner = Runner(engine, turn_s)
    thread = threading.Thread(target=runner.run)
    thread.start()
    try:
        yield runner
    finally:
        runner.stop()
        thread.join()


def until(look: Callable[[], Found | None], most_s: float = 60) -> Found:
    """What somebody waits for, as soon as it is there."""
    deadline = time.monotonic() + most_s
    while time.monotonic() < deadline:
        if found := look():
            return found
        time.sleep(0.05)
    raise AssertionError("it did not come")


def wire_up(session: Session, coordinator: Actor, port: int, now: datetime) -> WiredTester:
    """The simulated tester as a coordinator would add it."""
    instrument = add_instrument(session, coordinator, TypedInstrument("Eight slots", "tester"), now)
    typed = wired.TypedTester(
        instrument.number, "scpi", f"TCPIP::127.0.0.1::{port}::SOCKET", as_json(STANDIN_MAP), CHANNELS, 1500, 1500
    )
    return wired.add_tester(session, coordinator, typed, now)


def vape_cells(session: Session, who: Actor, count: int, volts: str = "3.62") -> list[str]:
    """Small cells, looked at and measured: ready for a tester."""
    now = datetime.now(UTC)
    donor = open_donor(
        session,
        who,
        DonorToOpen(
            "vape-single-use", "single use", count, size_code="13400", family="layered-oxide", rated_capacity_mah=550
        ),
        now,
    )
    numbers = [cell.number for cell in donor.cells]
    for number in numbers:
        entries.inspect(session, who, number, [], now)
        entries.measure(session, who, number, TypedReading("voltage", volts, "meter"), now)
    return numbers


def state_of(engine: Engine, run_id: int) -> SlotRun:
    with unit_of_work(engine) as session:
        return get_run(session, run_id)


def ended(engine: Engine, run_id: int, most_s: float = 60) -> SlotRun:
    return until(
        lambda: run if (run := state_of(engine, run_id)).state not in ("asked", "running", "waits") else None, most_s
    )


def step_of(session: Session, number: str) -> str:
    cell = cell_in_hand(session, number)
    assert cell.judgement is not None
    return cell.judgement.next_step


def slot_numbers(session: Session) -> list[str]:
    return [slot.number for slot in session.query(Slot).order_by(Slot.channel)]
