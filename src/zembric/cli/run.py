"""`./zembric demo` and `./zembric start`."""

from __future__ import annotations

import contextlib
import os
import secrets
import shutil
import sys
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from zembric.cli.migrations import migrate
from zembric.cli.postgres import run_server
from zembric.cli.serve import choose_port, start_beside, stay, stop_politely_on_kill, web_server
from zembric.cli.storage import default_directory, make_directory, only_one, publish_server, published_server
from zembric.demo.load import COORDINATOR, VOLUNTEER, is_loaded, load_demo
from zembric.demo.testers import DEMO_SPEED, move_tester, tester_port
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.housekeeping import tidy
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.people import first_invitation

_LOOPBACK = "127.0.0.1"


def run_demo(wanted_port: int | None, *, fresh: bool) -> int:
    """Made-up data on a server of its own, on loopback only, until Ctrl-C."""
    stop_politely_on_kill()
    directory = default_directory("demo")
    make_directory(directory)
    port = choose_port(wanted_port)
    address = f"http://{_LOOPBACK}:{port}"
    with only_one(directory, f"look at {address}"):
        if fresh:
            shutil.rmtree(directory / "pg", ignore_errors=True)
            shutil.rmtree(directory / "photos", ignore_errors=True)
            shutil.rmtree(directory / "logs", ignore_errors=True)
        with run_server(directory) as server:
            publish_server(directory, server.url)
            password, standin_port = _load_demo_once(server.url, directory)
            photos = directory / "photos"
            with web_server(server.url, _LOOPBACK, port, photos) as ours:
                # The simulated tester of the demo: at the port it was set up with, its clock faster than ours.
                tester = ours.start("zembric.cli.standin", {}, "--port", str(standin_port), "--speed", str(DEMO_SPEED))
                tester.keep()
                start_beside(ours, server.url, photos, 0.5)
                _say(
                    f"Zembric's demo is ready: {address}",
                    f"Sign in as {COORDINATOR} (coordinator) or {VOLUNTEER} (volunteer), password: {password}",
                    f"Made-up data in {directory}. Ctrl-C stops everything.",
                )
                stay()
    return 0


def run_start(host: str, wanted_port: int | None, data: Path | None, proxies: int) -> int:
    """Real data, until Ctrl-C."""
    stop_politely_on_kill()
    port = choose_port(wanted_port)
    address = f"http://{_LOOPBACK if host == '0.0.0.0' else host}:{port}"
    os.environ["ZEMBRIC_PROXIES"] = str(proxies)
    with real_database(data, f"look at {address}") as (url, photos):
        engine = make_engine(url)
        migrate(engine)
        with unit_of_work(engine) as session:
            token = first_invitation(session, datetime.now(UTC))
            tidy(session, datetime.now(UTC))
        engine.dispose()
        with web_server(url, host, port, photos) as ours:
            start_beside(ours, url, photos)
            where = "the server that DATABASE_URL names" if os.environ.get("DATABASE_URL") else str(photos.parent)
            _say(f"Zembric is ready: {address}", f"Data: {where}; photos: {photos}. Ctrl-C stops it.")
            if token:
                _say(f"First coordinator, set your password here (works once): {address}/welcome/{token}")
            stay()
    return 0


@contextlib.contextmanager
def real_database(data: Path | None, note: str) -> Iterator[tuple[str, Path]]:
    """Address of the database for real use, and the directory of its photos: DATABASE_URL, else a server of our own."""
    directory = (data or default_directory("data")).absolute()
    url = os.environ.get("DATABASE_URL")
    if url:
        yield url, _photos(directory)
        return
    make_directory(directory)
    with only_one(directory, note), run_server(directory) as server:
        publish_server(directory, server.url)
        yield server.url, _photos(directory)


@contextlib.contextmanager
def database_at_hand(data: Path | None, note: str) -> Iterator[tuple[str, Path]]:
    """As `real_database`, but of a start that runs at the moment its server is shared."""
    directory = (data or default_directory("data")).absolute()
    running = None if os.environ.get("DATABASE_URL") or not directory.exists() else published_server(directory)
    if running:
        yield running, _photos(directory)
        return
    with real_database(data, note) as found:
        yield found


def _photos(directory: Path) -> Path:
    return Path(os.environ.get("ZEMBRIC_PHOTOS", directory / "photos")).absolute()


def _load_demo_once(url: str, directory: Path) -> tuple[str, int]:
    """Loads the demo where it is not there yet; half a demo cannot be, it is one transaction. Gives the password and the
    port that the simulated tester is to answer at."""
    password_file = directory / "demo-password"
    engine = make_engine(url)
    migrate(engine)
    with unit_of_work(engine) as session:
        if is_loaded(session) and password_file.exists():
            password = password_file.read_text(encoding="ascii")
        else:
            password = "-".join(secrets.token_hex(2) for _ in range(3))
            photos, logs = PhotoStore(directory / "photos"), LogStore(directory / "logs")
            load_demo(session, photos, logs, password, datetime.now(UTC))
            password_file.write_text(password, encoding="ascii")
            password_file.chmod(0o600)
        port = choose_port(None, tester_port(session))
        move_tester(session, port, datetime.now(UTC))
    engine.dispose()
    return password, port


def _say(*lines: str) -> None:
    print(*lines, sep="\n", flush=True, file=sys.stdout)
