"""An evening with fifty people: how long an entry takes while they all type, watch, and a backup runs.

    PYTHONPATH=src:. python bench/load.py [SECONDS] [PEOPLE] [PATH_OF_locust]

Few donors, so that many work on cells of the same one; each person enters a voltage every three seconds or so and keeps a stream of changes open.
The people are played by locust, from the benches' own environment; the house, two web servers, worker and runner are ours.
"""

from __future__ import annotations

import contextlib
import csv
import os
import shutil
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from bench.browser import Browser
from bench.live import Watcher
from zembric.api.live import MOST_STREAMS
from zembric.cli.backup import run_backup
from zembric.cli.migrations import migrate
from zembric.cli.postgres import free_port, run_server
from zembric.cli.serve import start_beside, web_server
from zembric.operations import people
from zembric.operations.bench import entries
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.donors import DonorToOpen, open_donor
from zembric.operations.signing_in import passwords

if TYPE_CHECKING:
    from sqlalchemy import Engine

os.environ.setdefault("ZEMBRIC_LOG", "ERROR")
PASSWORD, DONORS, CELLS_A_DONOR = "a long password for a bench", 5, 40

PEOPLE = """
import random
from locust import FastHttpUser, between, task

PASSWORD = %(password)r
NAMES = iter(%(names)r)
NUMBERS = %(numbers)r


class Volunteer(FastHttpUser):
    # Nobody types in step with others: paced alike, those who were begun in the same second enter at the same moment for ever.
    wait_time = between(2, 4)

    def on_start(self):
        self.token = self.client.get("/api/session", name="begin").json()["csrf_token"]
        said = self.client.post("/api/session", json={"name": next(NAMES), "password": PASSWORD},
                                headers={"X-CSRFToken": self.token}, name="sign in")
        self.token = said.json()["csrf_token"]
        self.mine = random.sample(NUMBERS, 20)

    @task(8)
    def enter(self):
        body = {"quantity": "voltage", "value": f"{random.uniform(3.55, 3.75):.3f}", "method": "meter", "confirmed": True}
        key = f"{random.getrandbits(80):020x}"
        self.client.post(f"/api/cells/{random.choice(self.mine)}/readings", json=body, name="entry",
                         headers={"X-CSRFToken": self.token, "Idempotency-Key": key})

    @task(2)
    def look(self):
        self.client.get(f"/api/cells/{random.choice(self.mine)}/bench", name="bench")

    @task(1)
    def home(self):
        self.client.get("/api/home", name="home")
"""


def _fill(engine: Engine, count: int) -> tuple[list[str], list[str]]:
    """As many people as play, and the cells of few donors, looked at already."""
    names, numbers, now = [f"Person {each}" for each in range(1, count + 1)], [], datetime.now(UTC)
    with unit_of_work(engine) as session:
        for name in names:
            actor = passwords.accept_invitation(
                session, people.add_person(session, name, "volunteer", now), name, PASSWORD, now
            )
        for _ in range(DONORS):
            opened = open_donor(session, actor, DonorToOpen("laptop", "", CELLS_A_DONOR, "18650", "layered-oxide"), now)
            numbers += [cell.number for cell in opened.cells]
        for number in numbers:
            entries.inspect(session, actor, number, [], now)
    return names, numbers


@contextlib.contextmanager
def _watching(port: int, names: list[str]) -> Iterator[None]:
    """Streams of changes, as many as the server lets listen, until the end."""
    for name in names[:MOST_STREAMS]:
        watcher = Watcher(port, Browser(port).sign_in(name, PASSWORD).cookie)
        watcher.start()
    yield


def _back_up(url: str, directory: Path) -> None:
    os.environ["DATABASE_URL"], os.environ["ZEMBRIC_PHOTOS"] = url, str(directory / "photos")
    run_backup(directory / "evening.zembric", None)


def main() -> None:
    seconds = int(sys.argv[1]) if len(sys.argv) > 1 else 600
    count = int(sys.argv[2]) if len(sys.argv) > 2 else 50
    tool = sys.argv[3] if len(sys.argv) > 3 else "locust"
    directory, port = Path(tempfile.mkdtemp(prefix="zembric-load-", dir="/var/tmp")), free_port()
    directory.chmod(0o711)
    try:
        with run_server(directory) as server:
            engine = make_engine(server.url)
            migrate(engine)
            names, numbers = _fill(engine, count)
            engine.dispose()
            photos = directory / "photos"
            with web_server(server.url, "127.0.0.1", port, photos) as ours, _watching(port, names):
                start_beside(ours, server.url, photos)
                script = directory / "people.py"
                script.write_text(PEOPLE % {"password": PASSWORD, "names": names, "numbers": numbers})
                backup = threading.Timer(seconds / 3, _back_up, (server.url, directory))
                backup.start()
                subprocess.run(
                    [
                        tool, "-f", script, "--headless", "-u", str(count), "-r", "10", "-t", f"{seconds}s", "--host", f"http://127.0.0.1:{port}",
                        "--csv", directory / "told", "--only-summary",
                    ], check=False, capture_output=True,
                )  # fmt: skip
                backup.join()
            for kind in (directory / "told_failures.csv").read_text(encoding="utf-8").splitlines()[1:]:
                print(kind)
            print(f"{'request':10}{'count':>8}{'failed':>8}{'median':>9}{'p95':>9}{'p99':>9}{'most':>9}")
            with (directory / "told_stats.csv").open(encoding="utf-8") as file:
                for row in csv.DictReader(file):
                    figures = (row["50%"], row["95%"], row["99%"], row["100%"])
                    print(
                        f"{row['Name']:10}{row['Request Count']:>8}{row['Failure Count']:>8}"
                        + "".join(f"{figure:>6} ms" for figure in figures)
                    )
    finally:
        shutil.rmtree(directory, ignore_errors=True)


if __name__ == "__main__":
    main()
