"""Connections that are kept: quick while they live, replaced when they do not."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError

from zembric.operations import database
from zembric.operations.database import make_engine, unit_of_work


@pytest.fixture
def kept(engine: Engine) -> Iterator[Engine]:
    """An engine with one connection that was used and lies in its pool."""
    kept = make_engine(engine.url.render_as_string(hide_password=False))
    with unit_of_work(kept) as session:
        mine = session.scalar(text("SELECT pg_backend_pid()"))
    with engine.begin() as connection:
        connection.execute(text("SELECT pg_terminate_backend(:mine, 5000)"), {"mine": mine})
    yield kept
    kept.dispose()


def test_a_connection_that_was_closed_while_it_lay_idle_is_replaced_unseen(
    kept: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "_LIVES_FOR_S", 0.0)
    with unit_of_work(kept) as session:
        assert session.scalar(text("SELECT 1")) == 1


def test_one_that_was_closed_just_after_its_use_costs_one_try_and_no_more(
    kept: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "_LIVES_FOR_S", 600.0)
    with pytest.raises(OperationalError), unit_of_work(kept) as session:
        session.scalar(text("SELECT 1"))
    with unit_of_work(kept) as session:
        assert session.scalar(text("SELECT 1")) == 1
