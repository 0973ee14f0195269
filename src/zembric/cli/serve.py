"""Runs the web server and stays until it is stopped."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import sys
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.error import HTTPError
from urllib.request import urlopen

from zembric.cli.children import Child, Children, children
from zembric.cli.postgres import free_port
from zembric.cli.problems import CannotStartError

WORKERS = 2
# Many threads that each hold on to what they needed once: two heaps for all, and what is large goes back at once.
_SMALL = {"MALLOC_ARENA_MAX": "2", "MALLOC_MMAP_THRESHOLD_": "1000000", "ARROW_DEFAULT_MEMORY_POOL": "system"}
_START_SECONDS = 60
_CLOSING_SECONDS = 5


def choose_port(wanted: int | None, usual: int = 8420) -> int:
    """The wanted port, else the usual one, else a free one.

    Raises:
        CannotStartError: the wanted port is taken.
    """
    if wanted is None:
        return usual if _is_free(usual) else free_port()
    # A server whose parent was killed a moment ago still holds its port while it closes.
    deadline = time.monotonic() + _CLOSING_SECONDS
    while not _is_free(wanted):
        if time.monotonic() > deadline:
            raise CannotStartError(f"Port {wanted} is taken. Leave --port out and Zembric looks for a free one.")
        time.sleep(0.1)
    return wanted


@contextlib.contextmanager
def web_server(
    database_url: str,
    host: str,
    port: int,
    photos: Path,
    *,
    workers: int = WORKERS,
    prepare: Callable[[], None] = lambda: None,
) -> Iterator[Children]:
    """gunicorn on one address, up and answering inside the block, stopped in order at its end; gives who is kept alive beside it.

    Args:
        prepare: What has to be done before it may use the database; done while it loads its routes.
    Raises:
        CannotStartError: it ended before it answered.
    """
    environment = {"DATABASE_URL": database_url, "ZEMBRIC_PHOTOS": str(photos)}
    small = {key: os.environ.get(key, value) for key, value in _SMALL.items()}
    with children() as ours:
        web = ours.start("zembric.cli.web", environment | small, f"{host}:{port}", str(workers), waits=True)
        prepare()
        web.go()
        _wait_until_it_answers(web, "127.0.0.1" if host == "0.0.0.0" else host, port)
        web.keep()
        yield ours


def start_beside(ours: Children, database_url: str, photos: Path, turn_s: float = 1.0) -> None:
    """What works beside the web server: the worker for what takes longer than a request, and the runner that drives the testers."""
    environment = {"DATABASE_URL": database_url, "ZEMBRIC_PHOTOS": str(photos), "ZEMBRIC_TURN_S": str(turn_s)}
    for module in ("zembric.cli.worker", "zembric.cli.runner"):
        ours.start(module, environment).keep()


def stay() -> None:
    """Until Ctrl-C or a plain kill: what ends by itself meanwhile is started again."""
    try:
        threading.Event().wait()
    except KeyboardInterrupt:
        print("\nStopping.", file=sys.stderr)


def stop_politely_on_kill() -> None:
    """Makes a plain `kill` run the same clean-up as Ctrl-C, and Ctrl-C work where a script started us in the background."""
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, signal.default_int_handler)


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _wait_until_it_answers(web: Child, host: str, port: int) -> None:
    deadline = time.monotonic() + _START_SECONDS
    while web.process.poll() is None and time.monotonic() < deadline:
        try:
            with urlopen(f"http://{host}:{port}/healthz", timeout=5):
                return
        except HTTPError:
            return  # it answers, and says what is not there yet
        except OSError:
            time.sleep(0.05)
    raise CannotStartError("The web server did not come up; what it said stands above.")
