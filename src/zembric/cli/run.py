"""`./zembric demo` and `./zembric start`."""

from __future__ import annotations

import contextlib
import os
import shutil
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from zembric.cli.postgres import run_server
from zembric.cli.serve import choose_port, start_beside, stay, stop_politely_on_kill, web_server
from zembric.cli.storage import default_directory, make_directory, only_one, publish_server, published_server
from zembric.log_lines import write_log_lines

_LOOPBACK = "127.0.0.1"


@dataclass(slots=True)
class Loaded:
    """What the demo tells once it is loaded."""

    people: str = ""
    password: str = ""
    tester_port: int = 0
    tester_speed: float = 1.0


def run_demo(wanted_port: int | None, *, fresh: bool) -> int:
    """Made-up data on a server of its own, on loopback only, until Ctrl-C."""
    stop_politely_on_kill()
    write_log_lines()
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
            photos, loaded = directory / "photos", Loaded()

            def prepare() -> None:
                from zembric.cli.prepare import prepare_demo

                prepare_demo(server.url, directory, loaded)

            with web_server(server.url, _LOOPBACK, port, photos, prepare=prepare) as ours:
                # The simulated tester of the demo: at the port it was set up with, its clock faster than ours.
                at = ("--port", str(loaded.tester_port), "--speed", str(loaded.tester_speed))
                ours.start("zembric.cli.standin", {}, *at).keep()
                start_beside(ours, server.url, photos, 0.5)
                _say(
                    f"Zembric's demo is ready: {address}",
                    f"Sign in as {loaded.people}, password: {loaded.password}",
                    f"Made-up data in {directory}. Ctrl-C stops everything.",
                )
                stay()
    return 0


def run_start(host: str, wanted_port: int | None, data: Path | None, proxies: int) -> int:
    """Real data, until Ctrl-C."""
    stop_politely_on_kill()
    write_log_lines()
    port = choose_port(wanted_port)
    address = f"http://{_LOOPBACK if host == '0.0.0.0' else host}:{port}"
    os.environ["ZEMBRIC_PROXIES"] = str(proxies)
    with real_database(data, f"look at {address}") as (url, photos):
        invited: list[str] = []

        def prepare() -> None:
            from zembric.cli.prepare import prepare_start

            invited.extend(prepare_start(url))

        with web_server(url, host, port, photos, prepare=prepare) as ours:
            start_beside(ours, url, photos)
            where = "the server that DATABASE_URL names" if os.environ.get("DATABASE_URL") else str(photos.parent)
            _say(f"Zembric is ready: {address}", f"Data: {where}; photos: {photos}. Ctrl-C stops it.")
            for token in invited:
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


def _say(*lines: str) -> None:
    print(*lines, sep="\n", flush=True, file=sys.stdout)
