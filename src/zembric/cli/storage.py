"""Where Zembric keeps what it must not lose, and that only one start uses it at a time."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
from collections.abc import Iterator
from pathlib import Path

from zembric.cli.postgres import server_can_reach
from zembric.cli.problems import CannotStartError
from zembric.paths import ROOT


def default_directory(name: str) -> Path:
    """The data directory of a kind of use. The demo's carries the checkout's hash, so that two checkouts do not mix."""
    if name == "demo":
        name += "-" + hashlib.sha256(str(ROOT).encode()).hexdigest()[:8]
    if os.geteuid() == 0:
        return Path("/var/lib/zembric") / name
    return Path(os.environ.get("XDG_DATA_HOME", Path.home() / ".local" / "share")) / "zembric" / name


def make_directory(directory: Path) -> None:
    """Makes a data directory.

    Raises:
        CannotStartError: it cannot be made, or the PostgreSQL server's user cannot enter it.
    """
    try:
        directory.mkdir(parents=True, exist_ok=True)
        directory.chmod(0o711)
    except OSError as error:
        raise CannotStartError(f"The data directory {directory} cannot be used: {error.strerror}.") from error
    if not server_can_reach(directory):
        raise CannotStartError(
            f"The PostgreSQL server's user may not enter {directory}. Choose a directory outside closed homes with --data."
        )


@contextlib.contextmanager
def only_one(directory: Path, note: str) -> Iterator[None]:
    """Holds the directory for this process; the kernel lets go of it however the process ends.

    Raises:
        CannotStartError: another start holds it; tells where it serves.
    """
    with (directory / "in-use").open("a+", encoding="utf-8") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            held.seek(0)
            raise CannotStartError(f"Zembric already runs on {directory}: {held.read().strip()}") from None
        held.truncate(0)
        held.write(f"{note}, process {os.getpid()}\n")
        held.flush()
        yield


def publish_server(directory: Path, url: str) -> None:
    """Leaves the address of the running server for `./zembric person`, readable by this user only."""
    file = directory / "server-url"
    file.touch(mode=0o600)
    file.write_text(url, encoding="utf-8")


def published_server(directory: Path) -> str | None:
    """The address of the server that a start on this directory runs at the moment; None where none runs."""
    try:
        with only_one(directory, "looking"):
            return None
    except CannotStartError:
        return (directory / "server-url").read_text(encoding="utf-8")
