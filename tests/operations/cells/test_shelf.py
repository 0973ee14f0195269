"""Many cells: page by page behind a cell whatever comes and goes, and heaped on the map."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from typing import Any, get_args

import pytest
from sqlalchemy import delete
from sqlalchemy.orm import Session

from tests.support.benchwork import at, capacity, numbers_of, open_donor, shelf_of
from zembric.core.errors import BadInputError
from zembric.models import Standing
from zembric.operations.actors import Actor
from zembric.operations.cells import shelf
from zembric.operations.cells.shelf import CellFilter, CellPage, SortKey, list_cells, shelf_map

LATER = at(3)


@pytest.fixture
def cells(session: Session, volunteer: Actor) -> list[str]:
    """Of some nothing is known yet, of others the same."""
    strangers = numbers_of(open_donor(session, volunteer, 3))
    return [*shelf_of(session, volunteer, [2300, 1500, 2300]), *strangers]


def _turned(session: Session, page: CellPage, way: str) -> Iterator[str]:
    """All cells, two a page, from one page to the next."""
    beyond: dict[str, Any] = {}
    while True:
        _, found, ends = list_cells(session, CellFilter(), LATER, CellPage(page.sort, page.falling, 2, **beyond))
        numbers = [each.cell.number for each in found]
        if not numbers:
            return
        yield from numbers if way == "after" else numbers[::-1]
        at = -1 if way == "after" else 0
        beyond = {way: numbers[at], "by": ends[at]}


@pytest.mark.parametrize("falling", [False, True])
@pytest.mark.parametrize("sort", get_args(SortKey))
def test_page_by_page_each_cell_comes_once_on_the_way_there_and_back(
    session: Session, cells: list[str], sort: SortKey, falling: bool
) -> None:
    page = CellPage(sort, falling)
    _, found, _ = list_cells(session, CellFilter(), LATER, page)
    order = [each.cell.number for each in found]
    assert set(order) == set(cells)
    assert [*_turned(session, page, "after")] == order
    _, last, _ = list_cells(session, CellFilter(), LATER, CellPage(sort, falling, before=order[-1]))
    assert [each.cell.number for each in last] == order[:-1]


def test_behind_a_cell_that_is_gone_the_page_begins_where_it_stood(session: Session, cells: list[str]) -> None:
    _, found, _ = list_cells(session, CellFilter(), LATER, CellPage(after="9999999", offset=4))
    assert [each.cell.number for each in found] == sorted(cells, key=int)[4:]


def test_a_cell_that_changed_while_somebody_turns_pages_does_not_take_the_page_along(
    session: Session, volunteer: Actor, cells: list[str]
) -> None:
    page = CellPage("capacity", falling=True)
    order = [each.cell.number for each in list_cells(session, CellFilter(), LATER, page).cells]
    found = list_cells(session, CellFilter(), LATER, replace(page, most=1))
    capacity(session, volunteer, order[0], "2000", at(2))
    behind = replace(page, after=order[0], by=found.ends[1])
    assert list_cells(session, CellFilter(), LATER, behind).cells[0].cell.number == order[1]


def test_behind_a_cell_that_went_meanwhile_the_page_begins_where_it_was_sorted(
    session: Session, cells: list[str]
) -> None:
    page = CellPage("capacity", falling=True)
    order = [each.cell.number for each in list_cells(session, CellFilter(), LATER, page).cells]
    found = list_cells(session, CellFilter(), LATER, replace(page, most=2))
    session.execute(delete(Standing).where(Standing.number == order[1]))
    behind = replace(page, after=order[1], by=found.ends[1], offset=2)
    assert list_cells(session, CellFilter(), LATER, behind).cells[0].cell.number == order[2]


@pytest.mark.parametrize(("sort", "by"), [("due", 3.2), ("capacity", LATER)])
def test_a_page_beside_what_cells_are_not_sorted_by_is_refused(
    session: Session, cells: list[str], sort: SortKey, by: Any
) -> None:
    with pytest.raises(BadInputError, match="No cell is sorted by"):
        list_cells(session, CellFilter(), LATER, CellPage(sort, after=cells[0], by=by))


def test_a_map_of_heaps_is_made_anew_after_ten_seconds(
    session: Session, volunteer: Actor, cells: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(shelf, "_MOST_POINTS", 1)
    monkeypatch.setattr(shelf, "_heaps", {})
    drawn = shelf_map(session, CellFilter(), LATER)
    assert sorted(zip(drawn.capacity_mah, drawn.counts, strict=True)) == [(1500, 1), (2300, 2)]
    shelf_of(session, volunteer, [1500])
    assert shelf_map(session, CellFilter(), LATER + timedelta(seconds=9)) == drawn
    for now in (LATER + timedelta(seconds=10), LATER - timedelta(seconds=1)):
        assert sum(shelf_map(session, CellFilter(), now).counts) == 4
