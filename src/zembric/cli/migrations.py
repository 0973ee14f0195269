"""Brings a database to the newest shape, and its cells to what the judge says today."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import TYPE_CHECKING

from alembic import command
from alembic.config import Config

from zembric.operations.cells.all_judged import rejudge_outdated
from zembric.operations.database import unit_of_work
from zembric.paths import MIGRATIONS

if TYPE_CHECKING:
    from sqlalchemy import Connection, Engine

_LOCK = 0x5A656D62  # "Zemb": two servers that start at once migrate one after the other


def migrate(engine: Engine) -> None:
    """Runs all migrations that are still missing, all or none; safe to call from several servers."""
    with engine.connect() as connection:
        connection.exec_driver_sql("SELECT pg_advisory_lock(%s)", (_LOCK,))
        try:
            connection.commit()
            command.upgrade(alembic_config(connection), "head")
            connection.commit()
            with unit_of_work(engine) as session:
                rejudge_outdated(session, datetime.now(UTC))
        finally:
            connection.rollback()
            connection.exec_driver_sql("SELECT pg_advisory_unlock(%s)", (_LOCK,))


def alembic_config(connection: Connection) -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["connection"] = connection
    return config
