"""The one place that begins and commits."""

from __future__ import annotations

import contextlib
from typing import TYPE_CHECKING

from sqlalchemy import create_engine, text
from sqlalchemy.exc import IntegrityError, OperationalError
from sqlalchemy.orm import Session
from sqlalchemy.orm.exc import StaleDataError

from zembric.core.errors import ChangedMeanwhileError, ConflictError
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy import Engine

_SOMEBODY_WAS_FASTER = frozenset({"uq_pack_cell_live", "uq_cell_place_id_slot", "uq_entry_supersedes_id"})


def make_engine(url: str) -> Engine:
    """An engine for a PostgreSQL address; `postgresql://` is taken as well as SQLAlchemy's own spelling."""
    for plain in ("postgresql://", "postgres://"):
        if url.startswith(plain):
            url = "postgresql+psycopg://" + url.removeprefix(plain)
    # The connection used last knows the usual statements already.
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=10,
        max_overflow=10,
        pool_use_lifo=True,
        # Nothing asked here is so long that compiling it would pay, and it is asked often.
        connect_args={"prepare_threshold": 1, "options": "-c jit=off"},
    )


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
