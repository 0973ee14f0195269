"""Databases for tests: each is used by one test after the other, and put back as it was when it was made.

To copy all of one for each test takes ten times as long as to write its rows back.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterable, Iterator
from itertools import count
from typing import Generic, TypeVar

import psycopg
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from zembric.operations.database import make_engine

# Each with its columns, as COPY takes it.
_TABLES = """SELECT format('%I (%s)', relname, string_agg(quote_ident(attname), ', ' ORDER BY attnum))
    FROM pg_class JOIN pg_attribute ON attrelid = pg_class.oid AND attnum > 0 AND NOT attisdropped AND attgenerated = ''
    WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' GROUP BY pg_class.oid"""
_SEQUENCES = "SELECT quote_ident(sequencename), coalesce(last_value, start_value), last_value IS NOT NULL FROM pg_sequences WHERE schemaname = 'public'"
_END_OTHERS = "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
# Neither what keeps the record from being changed nor what keeps rows together asks then.
_UNGUARDED, _GUARDED = (f"SET LOCAL session_replication_role = {role}" for role in ("replica", "origin"))
_numbers = count(1)
T = TypeVar("T")


def database_url(server_url: str, name: str) -> str:
    return server_url.rsplit("/", 1)[0] + f"/{name}"


class Databases:
    """Copies of one database, on one server."""

    def __init__(self, server_url: str, admin: Engine, template: str):
        self._server_url, self._admin, self._template = server_url, admin, template
        # Each with the connection that puts it back, which knows all tables already.
        self._idle: list[tuple[Engine, psycopg.Connection]] = []
        with _connect(database_url(server_url, template)) as connection:
            self._rows, self._sequences = _rows(connection), _sequences(connection)

    @contextlib.contextmanager
    def fresh(self) -> Iterator[Engine]:
        engine, connection = self._idle.pop() if self._idle else self._copy()
        yield engine
        engine.dispose()
        with connection.transaction():
            connection.execute(_END_OTHERS)
            _put(connection, self._rows, self._sequences)
        self._idle.append((engine, connection))

    def close(self) -> None:
        for _, connection in self._idle:
            connection.close()

    def _copy(self) -> tuple[Engine, psycopg.Connection]:
        name = f"test_{next(_numbers)}"
        with self._admin.connect() as connection:
            connection.execute(text(f"CREATE DATABASE {name} TEMPLATE {self._template}"))
        url = database_url(self._server_url, name)
        return make_engine(url), _connect(url)


class Remembered(Generic[T]):
    """What some work writes, so that the same work on the same tables is only written down again the next time."""

    def __init__(self) -> None:
        self._done: dict[object, tuple[dict[str, bytes], dict[str, bytes], str, T]] = {}

    def do(self, session: Session, key: object, work: Callable[[], T]) -> T:
        session.flush()
        connection = session.connection().connection.driver_connection
        assert isinstance(connection, psycopg.Connection)
        if key in self._done:
            before, after, sequences, answer = self._done[key]
            if _rows(connection, before) == before:
                _put(connection, after, sequences)
                session.expire_all()
                return answer
        found = _rows(connection)
        answer = work()
        session.flush()
        after = {table: rows for table, rows in _rows(connection).items() if rows != found[table]}
        self._done[key] = {table: found[table] for table in after}, after, _sequences(connection), answer
        return answer


def _rows(connection: psycopg.Connection, tables: Iterable[str] | None = None) -> dict[str, bytes]:
    """All rows of each table, or of some, as they are copied."""
    rows = {}
    with connection.cursor() as cursor:
        for table in tables or [table for (table,) in cursor.execute(_TABLES).fetchall()]:
            with cursor.copy(f"COPY {table} TO STDOUT") as copied:
                rows[table] = b"".join(copied)
    return rows


def _sequences(connection: psycopg.Connection) -> str:
    found = connection.execute(_SEQUENCES).fetchall()
    return "SELECT " + ", ".join(f"setval('{name}', {value}, {is_used})" for name, value, is_used in found)


def _put(connection: psycopg.Connection, rows: dict[str, bytes], sequences: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(_UNGUARDED)
        cursor.execute("; ".join(f"DELETE FROM {table.split(' (')[0]}" for table in rows))
        for table, content in rows.items():
            if content:
                with cursor.copy(f"COPY {table} FROM STDIN") as copied:
                    copied.write(content)
        cursor.execute(sequences)
        cursor.execute(_GUARDED)


def _connect(url: str) -> psycopg.Connection:
    return psycopg.connect(url.replace("postgresql+psycopg", "postgresql"))
