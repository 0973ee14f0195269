"""`./zembric doctor`: what is wrong with an installation, and how to mend it."""

from __future__ import annotations

import os
import shutil
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from zembric.cli.postgres import client_program, server_can_reach, server_programs
from zembric.cli.problems import CannotStartError
from zembric.cli.storage import default_directory, published_server
from zembric.models import LogRow, Photo
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine
from zembric.operations.health import LEAST_FREE_BYTES, look_at_health
from zembric.operations.measuring.log_traces import LogStore
from zembric.paths import FRONTEND_DIST, newest_migration_file

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy import Engine

_ILL = 1
_BACKUP_AGE = timedelta(days=8)
_MEND = {
    "database": "Look into server.log in the data directory; where DATABASE_URL is set: is that server up, is its password right?",
    "migrations": "The next ./zembric start brings the database to the newest shape; make a backup before.",
    "worker": "./zembric start starts it again by itself; what it says there tells why it ends.",
    "runner": "./zembric start starts it again by itself; what it says there tells why it ends.",
    "queue": "Jobs wait and nobody does them: end ./zembric start and start it again.",
    "disk": "Make room: move old backups away.",
}


class Finding(NamedTuple):
    is_well: bool
    what: str
    mend: str = ""


def run_doctor(data: Path | None) -> int:
    """Looks at everything, changes nothing; 1 where something is wrong."""
    directory = (data or default_directory("data")).absolute()
    findings = [*_programs(), *_directory(directory), *_database(directory)]
    for finding in findings:
        print(("well   " if finding.is_well else "WRONG  ") + finding.what)
        if not finding.is_well and finding.mend:
            print(f"         {finding.mend}")
    ill = sum(not finding.is_well for finding in findings)
    print(f"{ill} of {len(findings)} wrong." if ill else f"All {len(findings)} are well.")
    return _ILL if ill else 0


def _programs() -> Iterator[Finding]:
    is_built = (FRONTEND_DIST / "index.html").is_file()
    yield Finding(is_built, "The front end is built.", "./zembric start builds it; what went wrong stands there.")
    if not os.environ.get("DATABASE_URL"):
        try:
            yield Finding(True, f"PostgreSQL's server is installed: {server_programs()}.")
        except CannotStartError as error:
            yield Finding(False, "PostgreSQL's server is installed.", str(error))
    try:
        yield Finding(True, f"Backups can be made: {client_program('pg_dump')}.")
    except CannotStartError as error:
        yield Finding(False, "Backups can be made.", str(error))


def _directory(directory: Path) -> Iterator[Finding]:
    if not directory.exists():
        yield Finding(
            False, f"There is data in {directory}.", "The first ./zembric start makes it; else name it with --data."
        )
        return
    yield Finding(
        os.access(directory, os.W_OK | os.X_OK),
        f"{directory} may be written.",
        "Run this as the user who runs the start.",
    )
    yield Finding(
        server_can_reach(directory),
        f"PostgreSQL's user may enter {directory}.",
        f"chmod o+x {directory} and what it lies in.",
    )
    free = shutil.disk_usage(directory).free
    told = f"There is room: {free / 1e9:.1f} GB are free in {directory}."
    yield Finding(free >= LEAST_FREE_BYTES, told, _MEND["disk"])
    backups = [file.stat().st_mtime for file in (directory / "backups").glob("*.zembric*")]
    if not backups:
        yield Finding(
            False, f"There is a backup in {directory / 'backups'}.", "./zembric backup --nightly; docs/running.md."
        )
        return
    newest = datetime.fromtimestamp(max(backups), UTC)
    is_new = datetime.now(UTC) - newest < _BACKUP_AGE
    yield Finding(
        is_new, f"The newest backup is of {newest:%Y-%m-%d %H:%M} UTC.", "Does the timer run? docs/running.md."
    )


def _database(directory: Path) -> Iterator[Finding]:
    url = os.environ.get("DATABASE_URL") or (published_server(directory) if directory.exists() else None)
    if url is None:
        yield Finding(False, "Zembric runs.", "./zembric start, or by systemd: docs/running.md.")
        return
    photos = Path(os.environ.get("ZEMBRIC_PHOTOS", directory / "photos")).absolute()
    engine = make_engine(url)
    try:
        health = look_at_health(engine, newest_migration_file(), photos.parent)
        for part in ("database", "migrations", "worker", "runner", "queue"):
            if part in health.down or health.answers:
                yield Finding(part not in health.down, f"The {part}: {_WELL[part]}.", _MEND[part])
        if health.answers and "migrations" not in health.down:
            yield _files(engine, photos)
    finally:
        engine.dispose()


_WELL = {
    "database": "answers",
    "migrations": "of the newest shape",
    "worker": "takes what was put into the queue",
    "runner": "holds the testers",
    "queue": "moves",
}


def _files(engine: Engine, photos: Path) -> Finding:
    store = PhotoStore(photos)
    logs = LogStore(photos.parent / "logs")
    with Session(engine) as session:
        missing = sum(not store.path(key).exists() for key in session.scalars(select(Photo.sha256).distinct()))
        missing += sum(not logs.path(key).exists() for key in session.scalars(select(LogRow.sha256).distinct()))
    told = "Each photo and log has its file." if not missing else f"{missing} photos or logs have no file."
    return Finding(
        not missing, told, f"Take photos/ and logs/ beside {photos} from a backup; files that are there may stay."
    )
