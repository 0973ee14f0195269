"""Eight simulated slots for a simulated week at 600 times the clock, with random faults: what was lost, doubled, or went past a limit.

    PYTHONPATH=src python bench/soak.py [HOURS OF THE TESTER'S CLOCK]

A week (168 hours) takes 17 minutes. The runner is killed now and then and started again; contacts are lost, cells run hot, race to full or
lie the wrong way round, the line talks garbage, the power is cut. The simulated tester counts what no tester may do.
"""

from __future__ import annotations

import contextlib
import os
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from random import Random

from sqlalchemy import Engine, func, select

from zembric.cli.migrations import migrate
from zembric.cli.postgres import free_port, run_server
from zembric.core.errors import ZembricError
from zembric.models import LIVE_STATES, AlarmRow, LogRow, ReadingEntry, RunRow, Slot, SlotRun
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.bench.readings import TypedReading
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.donors import DonorToOpen, open_donor
from zembric.operations.known.instruments import TypedInstrument, add_instrument
from zembric.operations.signing_in import passwords
from zembric.operations.testers import alarms, runs, slots, wired
from zembric.wire.mapping import as_json
from zembric.wire.standin import CHANNELS, STANDIN_MAP

SPEED = 600
#: Mean seconds between two faults, and between two kills of the runner.
FAULT_EVERY_S, KILL_EVERY_S = 6.0, 90.0
FAULTS = (
    "CHAN{n}:FAULT contact",
    "CHAN{n}:FAULT hot",
    "CHAN{n}:FAULT swelling",
    "CHAN{n}:FAULT reversed",
    "MOOD garbage",
    "MOOD silent",
    "MOOD cut",
)


class Hands:
    """Lines to the simulated tester that stand for hands and bad luck."""

    def __init__(self, port: int) -> None:
        for _ in range(100):
            with contextlib.suppress(OSError):
                self._file = socket.create_connection(("127.0.0.1", port), timeout=5).makefile("rw", newline="\n")
                return
            time.sleep(0.1)
        raise SystemExit("The simulated tester did not come up.")

    def say(self, line: str) -> None:
        self._file.write(f"SIM:{line}\n")
        self._file.flush()

    def say_all(self, lines: list[str]) -> None:
        for line in lines:
            self.say(line)

    def violations(self) -> str:
        self.say("VIOL?")
        return self._file.readline().strip()


@contextlib.contextmanager
def a_process(module: str, *arguments: str, **environment: str) -> Iterator[subprocess.Popen[bytes]]:
    process = subprocess.Popen([sys.executable, "-m", module, *arguments], env={**os.environ, **environment})
    try:
        yield process
    finally:
        process.kill()
        process.wait()


def rss_mb(pid: int) -> float:
    status = Path(f"/proc/{pid}/status").read_text(encoding="ascii")
    return next(int(line.split()[1]) / 1024 for line in status.splitlines() if line.startswith("VmRSS"))


class Table:
    """Whoever stands at the table: puts cells in, lets them go, takes them out, answers alarms."""

    def __init__(self, engine: Engine, who: Actor, chance: Random) -> None:
        self.engine, self.who, self.chance = engine, who, chance
        self.waiting: list[str] = []
        self.begun = 0

    def round(self) -> None:
        now = datetime.now(UTC)
        with unit_of_work(self.engine) as session:
            for alarm in alarms.open_alarms(session):
                alarms.acknowledge(session, self.who, alarm.id, "seen", now)
            alarms.somebody_is_here(session, self.who, now)
            places = [slot.number for slot in slots.all_slots(session) if slots.live_run_of(session, slot) is None]
        for place in places:
            if not self.waiting:
                self._open_more()
            with contextlib.suppress(ZembricError), unit_of_work(self.engine) as session:
                slots.take_out(session, self.who, place, now)
                slots.put_in(session, self.who, place, self.waiting.pop(), now)
            with contextlib.suppress(ZembricError), unit_of_work(self.engine) as session:
                runs.ask_for_run(session, self.who, place, "cycle", now)
                self.begun += 1

    def _open_more(self) -> None:
        now = datetime.now(UTC)
        with unit_of_work(self.engine) as session:
            donor = open_donor(
                session, self.who, DonorToOpen("vape-single-use", "soak", 16, size_code="13400", family="layered-oxide", rated_capacity_mah=550), now
            )  # fmt: skip
            for cell in donor.cells:
                entries.inspect(session, self.who, cell.number, [], now)
                volts = f"{self.chance.uniform(3.3, 3.9):.2f}"
                entries.measure(session, self.who, cell.number, TypedReading("voltage", volts, "meter"), now)
                self.waiting.append(cell.number)


def main() -> None:
    hours = float(sys.argv[1]) if len(sys.argv) > 1 else 168.0
    directory = Path(tempfile.mkdtemp(prefix="zembric-soak-"))
    directory.chmod(0o711)
    chance, port = Random(1), free_port()
    with run_server(directory) as server, a_process("zembric.wire.standin", "--port", str(port), "--speed", str(SPEED)):
        engine = make_engine(server.url)
        migrate(engine)
        hands, now = Hands(port), datetime.now(UTC)
        with unit_of_work(engine) as session:
            invitation = people.add_person(session, "Soak", "coordinator", now)
            who = passwords.accept_invitation(session, invitation, "Soak", "a long password for a soak", now)
            instrument = add_instrument(session, who, TypedInstrument("Eight slots", "tester"), now)
            typed = wired.TypedTester(
                instrument.number,
                "scpi",
                f"TCPIP::127.0.0.1::{port}::SOCKET",
                as_json(STANDIN_MAP),
                CHANNELS,
                1500,
                1500,
            )
            wired.add_tester(session, who, typed, now)
        environment = {"DATABASE_URL": server.url, "ZEMBRIC_PHOTOS": str(directory / "photos"), "ZEMBRIC_TURN_S": "0.2"}
        with a_process("zembric.cli.worker", **environment):
            soak(engine, who, hands, chance, hours * 3600 / SPEED, environment)
            report(engine, hands, hours)
        engine.dispose()
    shutil.rmtree(directory, ignore_errors=True)


def soak(engine: Engine, who: Actor, hands: Hands, chance: Random, seconds: float, environment: dict[str, str]) -> None:
    table, told = Table(engine, who, chance), Counter[str]()
    ends_at = time.monotonic() + seconds
    memory: list[float] = []
    while time.monotonic() < ends_at:
        with a_process("zembric.cli.runner", **environment) as runner:
            kill_at = time.monotonic() + chance.expovariate(1 / KILL_EVERY_S)
            fault_at = time.monotonic() + chance.expovariate(1 / FAULT_EVERY_S)
            while time.monotonic() < min(ends_at, kill_at):
                table.round()
                if time.monotonic() > fault_at:
                    fault = chance.choice(FAULTS)
                    told[fault.split(" ")[-1]] += 1
                    hands.say(fault.format(n=chance.randint(1, CHANNELS)))
                    mend = (
                        ["MOOD well"]
                        if fault.startswith("MOOD")
                        else [f"CHAN{n}:FAULT none" for n in range(1, CHANNELS + 1)]
                    )
                    pause_s = chance.uniform(0.5, 14 if fault.startswith("MOOD") else 4)
                    after = threading.Timer(pause_s, hands.say_all, [mend])
                    after.start()
                    fault_at = time.monotonic() + chance.expovariate(1 / FAULT_EVERY_S)
                time.sleep(0.3)
            memory.append(rss_mb(runner.pid))
            told["runner killed"] += 1
    print(
        "faults:",
        dict(told),
        " begun:",
        table.begun,
        " runner's memory at each end [MB]:",
        [round(each) for each in memory],
    )
    with a_process("zembric.cli.runner", **environment):
        hands.say("MOOD well")
        with unit_of_work(engine) as session:
            for run in runs.live_runs(session):
                runs.stop_run(session, who, run.id, datetime.now(UTC))
        deadline = time.monotonic() + 180
        while time.monotonic() < deadline:
            with unit_of_work(engine) as session:
                left = session.scalar(select(func.count()).select_from(SlotRun).where(SlotRun.settled_at.is_(None)))
            if not left:
                return
            time.sleep(0.5)
        print("not settled:", left)


def report(engine: Engine, hands: Hands, hours: float) -> None:
    with unit_of_work(engine) as session:
        states = Counter(session.scalars(select(SlotRun.state)))
        over = session.scalars(select(SlotRun).where(SlotRun.state.not_in(LIVE_STATES))).all()
        kept = sum(run.log_id is not None and run.not_kept_said is None for run in over)
        lost = [run.id for run in over if run.rows and run.log_id is None]
        logs = session.scalar(select(func.count()).select_from(LogRow))
        doubled = session.execute(
            select(ReadingEntry.log_id, func.count()).where(ReadingEntry.quantity == "capacity").group_by(ReadingEntry.log_id).having(func.count() > 1)
        ).all()  # fmt: skip
        rows = session.scalar(select(func.sum(SlotRun.rows)))
        left = session.scalar(select(func.count()).select_from(RunRow))
        alarms_told = Counter(session.scalars(select(AlarmRow.code)))
        not_kept = Counter(run.not_kept_said["code"] for run in over if run.not_kept_said)
        cells = session.scalar(select(func.count(Slot.id)))
    print(
        f"{hours:g} h on {cells} slots: runs {dict(states)}, rows {rows}, logs {logs}, entered {kept}, not entered {dict(not_kept)}"
    )
    print("alarms:", dict(alarms_told))
    print("lost (rows without a log):", lost, " rows left over:", left, " capacities entered twice:", doubled)
    print("past a limit, as the simulated tester counts:", hands.violations())


if __name__ == "__main__":
    main()
