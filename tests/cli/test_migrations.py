"""What lay in a database before an upgrade lies in it after, and reads the same."""

from __future__ import annotations

import contextlib
import lzma
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import psycopg
import pytest
from alembic import command
from sqlalchemy import Engine, text
from sqlalchemy.exc import ProgrammingError
from sqlalchemy.orm import Session

from tests.support.databases import database_url
from zembric.cli.migrations import alembic_config, migrate
from zembric.core.said import from_json
from zembric.operations.cells import stories
from zembric.operations.database import make_engine
from zembric.operations.signing_in import passwords
from zembric.wording import say

BEFORE_CODES = "0010"
OLD = """
INSERT INTO person (id, name, role, created_at) OVERRIDING SYSTEM VALUE VALUES (1, 'Ines', 'coordinator', now());
INSERT INTO donor (id, number, kind, description, opened_at, opened_by_id) OVERRIDING SYSTEM VALUE VALUES (1, 'D104', 'laptop', '', now(), 1);
INSERT INTO cell (id, number, donor_id) OVERRIDING SYSTEM VALUE VALUES (1, '1007', 1);
INSERT INTO judgement (id, cell_id, at, rule_set_version, grade, sure, reasons, next_step, next_text, next_needs) OVERRIDING SYSTEM VALUE VALUES (
    1, 1, now(), 1, 'not-yet', NULL,
    '[{"code": "missing", "text": "Still missing: a resistance.", "value": null, "margin": null, "limit": null},
      {"code": "watch", "text": "On watch.", "value": 3.1, "margin": 1.1, "limit": null}]',
    'measure-resistance', 'Measure its resistance.', 'a 1 kHz meter');
"""


# A house's database as each migration but the newest left it, with five weeks of made-up work in it.
DATABASES = Path(__file__).parent / "databases"
COUNTED = ("cell", "entry", "donor", "person", "place")


@contextlib.contextmanager
def database(server_url: str, admin: Engine, name: str) -> Iterator[Engine]:
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    engine = make_engine(database_url(server_url, name))
    try:
        yield engine
    finally:
        engine.dispose()
        with admin.connect() as connection:
            connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))


def load(engine: Engine, revision: str) -> dict[str, int]:
    """Loads a kept database; its rows by table."""
    # A connection of its own: a dump sets how it finds its tables.
    with psycopg.connect(engine.url.set(drivername="postgresql").render_as_string(hide_password=False)) as connection:
        connection.execute(lzma.decompress((DATABASES / f"{revision}.sql.xz").read_bytes()))
    return rows_of(engine)


def rows_of(engine: Engine) -> dict[str, int]:
    with engine.connect() as connection:
        there = connection.scalars(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")).all()
        return {
            table: connection.execute(text(f"SELECT count(*) FROM {table}")).scalar_one()
            for table in COUNTED
            if table in there
        }


@pytest.mark.parametrize("revision", [path.name[:4] for path in sorted(DATABASES.iterdir())])
def test_a_house_of_each_earlier_kind_is_brought_to_today(server_url: str, admin: Engine, revision: str) -> None:
    with database(server_url, admin, f"before_{revision}") as engine:
        before = load(engine, revision)
        migrate(engine)
        after = rows_of(engine)
        with Session(engine) as session:
            signed_in = passwords.sign_in(session, "Oona", "made-up-for-a-test", "here", datetime.now(UTC))
            numbers = session.scalars(text("SELECT number FROM cell ORDER BY number")).all()
            judged = [stories.get_cell(session, number).judgement is not None for number in numbers]
    assert {table: after[table] for table in before} == before
    assert signed_in is not None
    assert all(judged)


def test_an_upgrade_that_fails_leaves_all_as_it_was(server_url: str, admin: Engine) -> None:
    with database(server_url, admin, "fails") as engine:
        before = load(engine, "0014")
        with engine.begin() as connection:
            connection.exec_driver_sql("CREATE TABLE standing ()")  # in the way of the second of two migrations
        with pytest.raises(ProgrammingError, match="standing"):
            migrate(engine)
        with engine.connect() as connection:
            revision = connection.scalar(text("SELECT version_num FROM alembic_version"))
            tables = connection.scalars(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")).all()
        assert (revision, "tester" in tables, rows_of(engine)) == ("0014", False, before)


def test_what_was_said_in_words_is_kept_as_the_words_it_was(server_url: str, admin: Engine) -> None:
    with database(server_url, admin, "before_codes") as engine:
        with engine.connect() as connection:
            command.upgrade(alembic_config(connection), BEFORE_CODES)
            connection.exec_driver_sql(OLD)
            connection.commit()
        migrate(engine)
        with engine.begin() as connection:
            row = connection.execute(text("SELECT next_said, next_needs, reasons FROM judgement WHERE id = 1")).one()
    told = [
        say(from_json(stored)) for stored in (row.next_said, row.next_needs, *(each["said"] for each in row.reasons))
    ]
    assert told == ["Measure its resistance.", "a 1 kHz meter", "Still missing: a resistance.", "On watch."]
    assert [(each["code"], each["value"]) for each in row.reasons] == [("missing", None), ("watch", 3.1)]
