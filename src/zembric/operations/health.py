"""Whether all that Zembric lives on is there: database, worker, runner, queue, room on the disk."""

from __future__ import annotations

import shutil
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from sqlalchemy import text
from sqlalchemy.exc import DBAPIError, OperationalError

if TYPE_CHECKING:
    from pathlib import Path

    from sqlalchemy import Connection, Engine

Part = Literal["database", "migrations", "worker", "runner", "queue", "disk"]
#: Held by the one runner that drives the instruments, as an advisory lock.
RUNNER_LOCK = 0x5A454D42
#: The worker says so often that it is there [s]; silent for so long it is taken to be gone.
HEARTBEAT_S = 2.0
SILENT_S = 8
#: A job that waits for longer does not move [s], unless one was begun within so long: then there are many.
_WAITS_S, _WORKS_S = 60, 900
#: Less room than this is a full disk: PostgreSQL stops for good when nothing is left.
LEAST_FREE_BYTES = 300_000_000

_LOOK = text("""
SELECT
    (SELECT version_num FROM alembic_version) AS migration,
    EXISTS (SELECT FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => :silent)) AS worker,
    EXISTS (
        SELECT FROM pg_locks WHERE locktype = 'advisory' AND classid = 0 AND objid = :lock AND objsubid = 1 AND granted
            AND database = (SELECT oid FROM pg_database WHERE datname = current_database())
    ) AS runner,
    NOT EXISTS (
        SELECT FROM procrastinate_jobs AS job WHERE job.status = 'todo' AND coalesce(
            job.scheduled_at, (SELECT max(at) FROM procrastinate_events WHERE job_id = job.id), now()
        ) < now() - make_interval(secs => :waits)
    ) OR EXISTS (
        SELECT FROM procrastinate_jobs AS job JOIN procrastinate_events AS event ON event.job_id = job.id
        WHERE job.status = 'doing' AND event.type = 'started' AND event.at > now() - make_interval(secs => :works)
    ) AS queue
""")


@dataclass(frozen=True, slots=True)
class Health:
    """`migration`: the one the database is at; None where it does not answer or was never set up."""

    migration: str | None
    answers: bool
    down: tuple[Part, ...]


def look_at_health(engine: Engine, newest_migration: str, directory: Path) -> Health:
    """What is down now, in the order in which it is to be mended; each part that hangs on another is told with it.

    Args:
        newest_migration: The one this program wants.
        directory: Where photos and logs lie, and with a server of our own its data.
    """
    full: tuple[Part, ...] = () if has_room(directory) else ("disk",)
    try:
        with engine.connect() as connection:
            return _asked(connection, newest_migration, full)
    except OperationalError:
        return Health(None, answers=False, down=(*full, "database"))


def _asked(connection: Connection, newest_migration: str, full: tuple[Part, ...]) -> Health:
    if connection.scalar(text("SELECT to_regclass('alembic_version')")) is None:
        return Health(None, answers=True, down=(*full, "migrations"))
    try:
        found = connection.execute(
            _LOOK, {"silent": SILENT_S, "lock": RUNNER_LOCK, "waits": _WAITS_S, "works": _WORKS_S}
        ).one()
    except OperationalError:
        raise
    except DBAPIError:
        # A table that it asks for is not there yet.
        return Health(None, answers=True, down=(*full, "migrations"))
    parts: tuple[tuple[Part, bool], ...] = (
        ("migrations", found.migration == newest_migration),
        ("worker", found.worker),
        ("runner", found.runner),
        ("queue", found.queue),
    )
    return Health(str(found.migration), answers=True, down=(*full, *(part for part, is_well in parts if not is_well)))


def has_room(directory: Path) -> bool:
    """Whether there is room left where a directory is, or is to be."""
    while not directory.exists():
        directory = directory.parent
    return shutil.disk_usage(directory).free >= LEAST_FREE_BYTES
