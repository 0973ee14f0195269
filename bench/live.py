"""The live page: rows a second taken in, how soon those who look are told, and what it costs, with two web servers and fifty watchers.

    PYTHONPATH=src:. python bench/live.py [SECONDS] [WATCHERS]

Eight simulated channels at 60 times the clock, the runner asking once a second, the watchers on streams of two servers.
"""

from __future__ import annotations

import http.client
import json
import os
import shutil
import sys
import tempfile
import threading
import time
from datetime import UTC, datetime
from pathlib import Path
from random import Random
from statistics import median
from typing import Any

from sqlalchemy import func, select

from bench.soak import Hands, Table, a_process
from zembric.cli.migrations import migrate
from zembric.cli.postgres import free_port, run_server
from zembric.cli.serve import web_server
from zembric.models import SlotRun
from zembric.operations import people
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.known.instruments import TypedInstrument, add_instrument
from zembric.operations.signing_in import passwords
from zembric.operations.testers import wired
from zembric.wire.mapping import as_json
from zembric.wire.standin import CHANNELS, STANDIN_MAP

PASSWORD = "a long password for a bench"


def cpu_s(pid: int) -> float:
    fields = Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


def with_children(pid: int) -> list[int]:
    found = [pid]
    for each in Path(f"/proc/{pid}/task/{pid}/children").read_text(encoding="ascii").split():
        found += with_children(int(each))
    return found


class Watcher(threading.Thread):
    """One who looks: how often it was told, and how long apart."""

    def __init__(self, port: int, cookie: str) -> None:
        super().__init__(daemon=True)
        self.port, self.cookie = port, cookie
        self.told_at: list[float] = []
        self.refused = False

    def run(self) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        connection.request("GET", "/api/changes", headers={"Cookie": self.cookie})
        answer = connection.getresponse()
        self.refused = answer.status != 200
        while not self.refused and (line := answer.readline()):
            if line.startswith(b"event: live"):
                self.told_at.append(time.monotonic())


def sign_in(port: int) -> str:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
    connection.request("GET", "/api/session")
    answer = connection.getresponse()
    token = json.loads(answer.read())["csrf_token"]
    cookie = (answer.getheader("Set-Cookie") or "").split(";")[0]
    headers = {"Cookie": cookie, "X-CSRFToken": token, "Content-Type": "application/json"}
    connection.request("POST", "/api/session", json.dumps({"name": "Bench", "password": PASSWORD}), headers)
    answer = connection.getresponse()
    answer.read()
    return (answer.getheader("Set-Cookie") or cookie).split(";")[0]


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 30.0
    count = int(sys.argv[2]) if len(sys.argv) > 2 else 50
    directory = Path(tempfile.mkdtemp(prefix="zembric-live-"))
    directory.chmod(0o711)
    port = free_port()
    with (
        run_server(directory) as server,
        a_process("zembric.wire.standin", "--port", str(port), "--speed", "60") as standin,
    ):
        engine = make_engine(server.url)
        migrate(engine)
        Hands(port)
        now = datetime.now(UTC)
        with unit_of_work(engine) as session:
            who = passwords.accept_invitation(
                session, people.add_person(session, "Bench", "coordinator", now), "Bench", PASSWORD, now
            )
            instrument = add_instrument(session, who, TypedInstrument("Eight slots", "tester"), now)
            address = f"TCPIP::127.0.0.1::{port}::SOCKET"
            wired.add_tester(
                session,
                who,
                wired.TypedTester(instrument.number, "scpi", address, as_json(STANDIN_MAP), CHANNELS, 1500, 1500),
                now,
            )
        environment = {"DATABASE_URL": server.url, "ZEMBRIC_PHOTOS": str(directory / "photos"), "ZEMBRIC_TURN_S": "1"}
        first, second = free_port(), free_port()
        with (
            a_process("zembric.cli.runner", **environment) as runner,
            web_server(server.url, "127.0.0.1", first, directory / "photos") as one,
            web_server(server.url, "127.0.0.1", second, directory / "photos") as two,
        ):
            watch(
                engine,
                who,
                seconds,
                count,
                (first, second),
                {
                    "runner": runner.pid,
                    "web servers": one.processes[0].pid,
                    " and": two.processes[0].pid,
                    "tester": standin.pid,
                },
            )
        engine.dispose()
    shutil.rmtree(directory, ignore_errors=True)


def watch(engine: Any, who: Any, seconds: float, count: int, ports: tuple[int, int], pids: dict[str, int]) -> None:

    Table(engine, who, Random(1)).round()
    cookies = [sign_in(port) for port in ports]
    watchers = [Watcher(ports[at % 2], cookies[at % 2]) for at in range(count)]
    for watcher in watchers:
        watcher.start()
    time.sleep(4)
    before = {name: sum(cpu_s(each) for each in with_children(pid)) for name, pid in pids.items()}
    rows_before, began = rows(engine), time.monotonic()
    time.sleep(seconds)
    took = time.monotonic() - began
    cpu = {
        name: 100 * (sum(cpu_s(each) for each in with_children(pid)) - before[name]) / took
        for name, pid in pids.items()
    }
    apart = [b - a for watcher in watchers for a, b in zip(watcher.told_at, watcher.told_at[1:], strict=False)]
    print(f"{count} watchers on two servers, {sum(watcher.refused for watcher in watchers)} refused, {took:.0f} s")
    print(f"rows taken in: {(rows(engine) - rows_before) / took:.0f} a second")
    print(f"told every {median(apart):.2f} s, at most {max(apart):.2f} s apart")
    print("CPU of one core: " + ", ".join(f"{name} {share:.0f} %" for name, share in cpu.items()))


def rows(engine: Any) -> int:
    with unit_of_work(engine) as session:
        return session.scalar(select(func.sum(SlotRun.rows))) or 0


if __name__ == "__main__":
    main()
