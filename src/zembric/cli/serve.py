"""Runs the web server and stays until it is stopped."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from urllib.error import URLError
from urllib.request import urlopen

from zembric.cli.children import kept_alive
from zembric.cli.postgres import end_with_parent, free_port
from zembric.cli.problems import CannotStartError

WORKERS = 2
# A page that listens for changes keeps a thread while it is open.
THREADS = 56
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
    database_url: str, host: str, port: int, photos: Path, *, workers: int = WORKERS
) -> Iterator[subprocess.Popen[bytes]]:
    """gunicorn on one address, up and answering inside the block, stopped in order at its end.

    Raises:
        CannotStartError: it ended before it answered.
    """
    command = [
        sys.executable, "-m", "gunicorn", "zembric.api.wsgi:make_app()", "--bind", f"{host}:{port}", "--workers", str(workers),
        "--worker-class", "gthread", "--threads", str(THREADS), "--graceful-timeout", "3", "--no-control-socket",
        "--log-level", "warning", "--worker-tmp-dir", "/dev/shm", "--preload",
    ]  # fmt: skip
    process = subprocess.Popen(
        command,
        env={**_SMALL, **os.environ, "DATABASE_URL": database_url, "ZEMBRIC_PHOTOS": str(photos)},
        start_new_session=True,  # Ctrl-C goes to us; we stop it in order
        preexec_fn=lambda: end_with_parent(signal.SIGQUIT),  # noqa: PLW1509  # no thread runs this early
    )
    try:
        _wait_until_it_answers(process, "127.0.0.1" if host == "0.0.0.0" else host, port)
        yield process
    finally:
        process.terminate()
        process.wait(timeout=30)


@contextlib.contextmanager
def beside_the_server(database_url: str, photos: Path, turn_s: float = 1.0) -> Iterator[None]:
    """What works beside the web server: the worker for what takes longer than a request, and the runner that drives the testers."""
    environment = {"DATABASE_URL": database_url, "ZEMBRIC_PHOTOS": str(photos), "ZEMBRIC_TURN_S": str(turn_s)}
    with (
        kept_alive("zembric.cli.worker", environment, most_stop_s=60),
        kept_alive("zembric.cli.runner", environment),
    ):
        yield


def stay(process: subprocess.Popen[bytes]) -> None:
    """Waits for the server to end by itself, which is a fault, or for Ctrl-C, which is not."""
    try:
        if process.wait() != 0:
            raise CannotStartError("The web server ended by itself; what it said stands above.")
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


def _wait_until_it_answers(process: subprocess.Popen[bytes], host: str, port: int) -> None:
    deadline = time.monotonic() + _START_SECONDS
    while process.poll() is None and time.monotonic() < deadline:
        with contextlib.suppress(URLError, OSError), urlopen(f"http://{host}:{port}/healthz", timeout=5):
            return
        time.sleep(0.05)
    raise CannotStartError("The web server did not come up; what it said stands above.")
