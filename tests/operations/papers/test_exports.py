"""Lists for a spreadsheet, as the database writes them."""

from __future__ import annotations

import csv

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
