"""The one place that begins and commits."""

from __future__ import annotations

import contextlib
import time
from typing import TYPE_CHECKING

from psycopg import OperationalError as OperationalErrorOfDriver
from sqlalchemy import create_engine, event, text
from sqlalchemy.exc import DisconnectionError, IntegrityError, OperationalError
from sqlalchemy.orm import Session
from sqlalchemy.orm.exc import StaleDataError

from zembric.core.errors import ChangedMeanwhileError, ConflictError
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy import Engine
    from sqlalchemy.engine.interfaces import DBAPIConnection
    from sqlalchemy.pool import ConnectionPoolEntry

_SOMEBODY_WAS_FASTER = frozenset({"uq_pack_cell_live", "uq_cell_place_id_slot", "uq_entry_supersedes_id"})

_USED, _LIVES_FOR_S = "zembric-used", 1.0


def make_engine(url: str) -> Engine:
    """An engine for a PostgreSQL address; `postgresql://` is taken as well as SQLAlchemy's own spelling."""
    for plain in ("postgresql://", "postgres://"):
        if url.startswith(plain):
            url = "postgresql+psycopg://" + url.removeprefix(plain)
    engine = create_engine(
        url,
        # None is closed after a rush: each knows the usual statements, and a new one has to plan them all.
        pool_size=20,
        max_overflow=0,
        # The connection used last knows them best.
        pool_use_lifo=True,
        # Nothing asked here is so long that compiling it would pay, and it is asked often.
        connect_args={"prepare_threshold": 1, "options": "-c jit=off"},
    )
    _ask_idle_ones(engine)
    return engine


def _ask_idle_ones(engine: Engine) -> None:
    """The database may have been started anew; a connection that was used a moment ago is not asked whether it lives."""

    @event.listens_for(engine, "checkout")
    def ask(connection: DBAPIConnection, record: ConnectionPoolEntry, _proxy: object) -> None:
        if time.monotonic() - record.info.get(_USED, 0.0) < _LIVES_FOR_S:
            return
        try:
            engine.dialect.do_ping(connection)
        except OperationalErrorOfDriver as error:
            raise DisconnectionError from error  # another one is taken, or made

    @event.listens_for(engine, "checkin")
    def note_use(_connection: DBAPIConnection | None, record: ConnectionPoolEntry) -> None:
        record.info[_USED] = time.monotonic()


@contextlib.contextmanager
def unit_of_work(engine: Engine) -> Iterator[Session]:
    """One transaction: committed at the end, rolled back by any error.

    Raises:
        ChangedMeanwhileError: a row carried another version than the one that was read.
        ConflictError: a uniqueness that two people can run into at once.
    """
    with Session(engine, expire_on_commit=False) as session:
        try:
            yield session
            session.commit()
        except StaleDataError as error:
            raise ChangedMeanwhileError(said("this")) from error
        except IntegrityError as error:
            constraint = getattr(getattr(error.orig, "diag", None), "constraint_name", None)
            if constraint in _SOMEBODY_WAS_FASTER:
                raise ConflictError(said("somebody-was-faster")) from error
            raise


def newest_migration(engine: Engine) -> str | None:
    """The migration the database is at; None where it does not answer or was never migrated."""
    try:
        with engine.connect() as connection:
            if connection.scalar(text("SELECT to_regclass('alembic_version')")) is None:
                return None
            return str(connection.scalar(text("SELECT version_num FROM alembic_version")))
    except OperationalError:
        return None
