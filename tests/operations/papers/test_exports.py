"""Lists for a spreadsheet, as the database writes them."""

from __future__ import annotations

import csv

import psycopg
import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from tests.support.benchwork import shelf_of
from zembric.operations.actors import Actor
from zembric.operations.cells.stories import get_cell
from zembric.operations.papers.exports import export_csv


def test_numbers_are_as_typed_without_what_arithmetic_leaves_behind(session: Session, volunteer: Actor) -> None:
    cell = get_cell(session, shelf_of(session, volunteer, [2080])[0])
    cell.mass_g, cell.width_mm, cell.length_mm = 46.1 + 0.2, 1e-30, 65.2
    session.flush()
    (row,) = csv.DictReader(b"".join(export_csv(session, "cells")).decode().splitlines())
    assert [row[name] for name in ("mass_g", "width_mm", "length_mm", "capacity_mah")] == ["46.3", "0", "65.2", "2080"]


def test_whoever_takes_a_part_only_leaves_the_connection_to_the_next(session: Session, volunteer: Actor) -> None:
    many = "INSERT INTO donor (number, kind, description, opened_at, opened_by_id) SELECT 'D9' || n, 'laptop', repeat('long', 50), now(), :who FROM generate_series(1, 1500) n"
    session.execute(text(many), {"who": volunteer.person_id})
    before = session.begin_nested()
    pieces = export_csv(session, "donors")
    assert next(pieces).startswith(b"number,kind,description,")
    pieces.close()  # type: ignore[attr-defined]
    before.rollback()
    assert session.scalar(text("SELECT count(*) FROM donor")) == 1500


def test_an_export_that_fails_half_way_is_no_whole_one(session: Session, volunteer: Actor) -> None:
    last = get_cell(session, shelf_of(session, volunteer, [2080, 2090])[-1])
    last.mass_g = 1e305
    session.flush()
    with pytest.raises(psycopg.errors.NumericValueOutOfRange):
        b"".join(export_csv(session, "cells"))
