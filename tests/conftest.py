"""A real PostgreSQL server for the whole run, and a fresh database, made by the real migrations, for each test."""

from __future__ import annotations

import gc
import shutil
import tempfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import hypothesis
import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.support.databases import Databases, database_url
from tests.support.people import PASSWORD
from zembric.cli.migrations import migrate
from zembric.cli.postgres import run_server
from zembric.core.errors import ZembricError
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.signing_in import passwords, sign_ins
from zembric.wording import say

#: Those who are signed in already in every database that is copied from the template.
tokens: dict[str, str] = {}
# Thousands of functions are loaded, and none of them is ever let go: the collector waits until all are there.
gc.disable()


# A refusal reads in a test as it reads to people.
ZembricError.__str__ = lambda error: say(error.said)  # type: ignore[method-assign, attr-defined]


def pytest_collection_finish() -> None:
    gc.freeze()
    gc.enable()


# A slow machine is no fault of the code.
hypothesis.settings.register_profile(
    "unhurried", deadline=None, suppress_health_check=[hypothesis.HealthCheck.too_slow]
)
hypothesis.settings.load_profile("unhurried")


@pytest.fixture(scope="session")
def server_url() -> Iterator[str]:
    """A server of the tests' own; nothing is synced to disk, nothing is left behind."""
    directory = Path(tempfile.mkdtemp(prefix="zembric-test-"))
    directory.chmod(0o711)
    try:
        with run_server(directory, durable=False) as server:
            yield server.url
    finally:
        shutil.rmtree(directory, ignore_errors=True)


@pytest.fixture(scope="session")
def admin(server_url: str) -> Iterator[Engine]:
    """Makes and drops databases."""
    engine = make_engine(server_url).execution_options(isolation_level="AUTOCOMMIT")
    yield engine
    engine.dispose()


@pytest.fixture(scope="session")
def databases(server_url: str, admin: Engine) -> Iterator[Databases]:
    """Each a migrated database with a coordinator and a volunteer."""
    with admin.connect() as connection:
        connection.execute(text("CREATE DATABASE template_zembric"))
    engine = make_engine(database_url(server_url, "template_zembric"))
    migrate(engine)
    with unit_of_work(engine) as session:
        now = datetime.now(UTC) - timedelta(days=365)
        for name, role in (("Coordinator", "coordinator"), ("Volunteer", "volunteer")):
            link = people.add_person(session, name, role, now)
            actor = passwords.accept_invitation(session, link, name, PASSWORD, now)
            tokens[name] = sign_ins.begin(session, actor, sign_ins.Device("", ""), "password", datetime.now(UTC))
    engine.dispose()
    databases = Databases(server_url, admin, "template_zembric")
    yield databases
    databases.close()


@pytest.fixture
def engine(databases: Databases) -> Iterator[Engine]:
    with databases.fresh() as engine:
        yield engine


@pytest.fixture(scope="session")
def shared_engine(databases: Databases) -> Iterator[Engine]:
    """One database for all tests whose work is rolled back."""
    with databases.fresh() as engine:
        yield engine


@pytest.fixture
def session(request: pytest.FixtureRequest) -> Iterator[Session]:
    """All in one transaction that is rolled back; where something else looks at the database too, in one of its own."""
    if "engine" in request.fixturenames:
        with Session(request.getfixturevalue("engine"), expire_on_commit=False) as session:
            yield session
        return
    with request.getfixturevalue("shared_engine").connect() as connection:
        whole = connection.begin()
        with Session(connection, expire_on_commit=False, join_transaction_mode="create_savepoint") as session:
            yield session
        whole.rollback()


@pytest.fixture
def coordinator(session: Session) -> Actor:
    return _actor(session, "Coordinator")


@pytest.fixture
def volunteer(session: Session) -> Actor:
    return _actor(session, "Volunteer")


def _actor(session: Session, name: str) -> Actor:
    return people.actor_by_id(session, people.get_person(session, name).id)
