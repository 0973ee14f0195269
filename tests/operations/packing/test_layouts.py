"""Where a pack's cells stand: kept, carried along with exchanges, out into files and in again, each of them measured."""

from __future__ import annotations

import io
import json
from dataclasses import replace
from typing import Any
from xml.etree.ElementTree import fromstring

import pypdfium2
import pytest
from ezdxf.entities.lwpolyline import LWPolyline
from ezdxf.filemanagement import read
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.support.benchwork import at, keep, move, shelf_of
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError
from zembric.core.pack.layout import Case, PackLayout
from zembric.files.layouts import layout_as_json, layout_from_json, plate_as_dxf, plate_as_svg
from zembric.models import CellRow, Pack
from zembric.operations.actors import Actor
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing import plans
from zembric.operations.packing.checks import open_stops
from zembric.operations.packing.layouts import (
    body_of,
    cells_by_key,
    keep_layout,
    kept_layout,
    layout_for,
    plate_for,
    propose_layouts,
)
from zembric.prints.layout_sheets import LayoutSheet, layout_pdf

FIVE = [2500, 2450, 2400, 2350, 2300]


@pytest.fixture
def pack(session: Session, volunteer: Actor) -> Pack:
    shelf_of(session, volunteer, FIVE)
    return keep(session, volunteer)


def best(session: Session, pack: Pack, case: Case | None = None) -> PackLayout:
    return propose_layouts(session, pack, case)[0].layout


def test_a_layout_is_kept_and_its_findings_stop_the_pack(session: Session, volunteer: Actor, pack: Pack) -> None:
    layout = best(session, pack)
    keep_layout(session, volunteer, pack, layout, pack.version, at(2))
    assert kept_layout(pack) == layout
    assert "layout-touching" in [line.id for line in open_stops(session, pack, at(2))]
    keep_layout(session, volunteer, pack, replace(layout, has_spacers=True), pack.version, at(2))
    assert "layout-touching" not in [line.id for line in open_stops(session, pack, at(2))]
    with pytest.raises(ChangedMeanwhileError):
        keep_layout(session, volunteer, pack, None, pack.version - 1, at(2))
    keep_layout(session, volunteer, pack, None, pack.version, at(2))
    with pytest.raises(ConflictError, match="Draw it first"):
        layout_for(pack)


def test_of_a_pack_without_cells_nothing_is_laid_out(session: Session, volunteer: Actor, pack: Pack) -> None:
    move(session, volunteer, pack, "dropped", at(3))
    session.expire_all()
    with pytest.raises(ConflictError, match="no cells any more"):
        propose_layouts(session, pack, None)


def test_a_layout_of_other_cells_is_refused_and_what_is_kept_stays(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    layout = best(session, pack)
    keep_layout(session, volunteer, pack, layout, pack.version, at(2))
    twice = (*layout.places[1:], layout.places[1])
    for wrong in (
        replace(layout, places=layout.places[1:]), replace(layout, places=twice), replace(layout, minus_at=9),
        replace(layout, arrangement="stack"), replace(layout, case=Case(-1, 10, 10)),
        replace(layout, places=(replace(layout.places[0], x_mm=float("nan")), *layout.places[1:])),
    ):  # fmt: skip
        with pytest.raises(BadInputError):
            keep_layout(session, volunteer, pack, wrong, pack.version, at(2))
    assert kept_layout(pack) == layout


def test_a_file_of_a_layout_comes_in_as_it_went_out(session: Session, pack: Pack) -> None:
    layout = best(session, pack, Case(120, 60, 70))
    cells = {key: cell.number for key, cell in cells_by_key(pack).items()}
    content = layout_as_json(layout, pack.number, cells, body_of(pack))
    assert layout_from_json(content) == layout
    assert {place["cell_id"] for place in json.loads(content)["places"]} == set(cells.values())


@pytest.mark.parametrize(
    "content", [b"", b"[]", b"{}", b"[" * 100_000, b'{"format": "zembric-layout", "version": 1}', b'{"format": "zembric-layout", "version": 1, "arrangement": "rows", "places": [{"group": "x"}], "minus_at": 1, "plus_at": 1}']
)  # fmt: skip
def test_a_file_that_is_no_layout_is_refused_with_what_it_lacks(content: bytes) -> None:
    with pytest.raises(BadInputError) as refused:
        layout_from_json(content)
    assert refused.value.field == "file"


def test_the_plate_has_true_millimetres_as_a_drawing_for_a_cutter(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    """2S2P of 18650 in rows: 18 and 18.5 mm apart, 3 mm of edge, holes 0.3 mm wider."""
    keep_layout(session, volunteer, pack, best(session, pack), pack.version, at(2))
    plate = plate_for(session, pack)
    drawing = read(io.StringIO(plate_as_dxf(plate).decode()))
    space = drawing.modelspace()
    assert drawing.header["$INSUNITS"] == 4  # millimetres
    circles = list(space.query("CIRCLE"))
    assert sorted({round(circle.dxf.radius, 3) for circle in circles}) == [9.15]
    assert len(circles) == 4
    middles = sorted((round(c.dxf.center.x, 3), round(c.dxf.center.y, 3)) for c in circles)
    assert middles == [(12, 12), (12, 30.5), (30.5, 12), (30.5, 30.5)]
    (outline,) = space.query("LWPOLYLINE")
    assert isinstance(outline, LWPolyline)
    assert max(point[0] for point in outline.get_points()) == pytest.approx(42.5)
    svg = fromstring(plate_as_svg(plate))
    assert (svg.get("width"), svg.get("height"), svg.get("viewBox")) == ("42.500mm", "42.500mm", "0 0 42.500 42.500")


def test_the_print_is_true_to_size_and_its_underside_is_mirrored(
    session: Session, volunteer: Actor, pack: Pack, request: pytest.FixtureRequest
) -> None:
    layout = replace(best(session, pack), has_spacers=True)
    keep_layout(session, volunteer, pack, layout, pack.version, at(2))
    cells = {key: cell.number for key, cell in cells_by_key(pack).items()}
    sheet = LayoutSheet.of(pack.number, pack.purpose, layout, body_of(pack), cells, rules_in_force(session))
    printed = pypdfium2.PdfDocument(layout_pdf(sheet))
    request.addfinalizer(printed.close)
    assert len(printed) == 2
    assert [round(side * 25.4 / 72) for side in printed[0].get_size()] == [210, 297]
    # A cell's number stands at the same height on both faces, and as far from the right as it did from the left.
    found = [_place_of(printed[page], cells[1, 1]) for page in (0, 1)]
    other = [_place_of(printed[page], cells[2, 1]) for page in (0, 1)]
    assert abs(found[0][0] - other[0][0]) + abs(found[0][1] - other[0][1]) == pytest.approx(18.5, abs=0.2)
    assert found[0][0] - other[0][0] == pytest.approx(other[1][0] - found[1][0], abs=0.2)
    assert found[0][1] == pytest.approx(found[1][1], abs=0.2)


def _place_of(page: Any, text: str) -> tuple[float, float]:
    """Where a text begins, in mm."""
    words = page.get_textpage()
    index = words.search(text).get_next()
    assert index is not None
    left, bottom, _, _ = words.get_charbox(index[0])
    return left * 25.4 / 72, bottom * 25.4 / 72


def test_a_cell_whose_size_is_no_longer_known_stops_the_pack_and_not_its_page(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    keep_layout(session, volunteer, pack, replace(best(session, pack), has_spacers=True), pack.version, at(2))
    assert "layout-fits" not in [line.id for line in open_stops(session, pack, at(2))]
    cell = cells_by_key(pack)[1, 1]
    cell.size_code = cell.width_mm = cell.length_mm = None
    assert "layout-fits" in [line.id for line in open_stops(session, pack, at(2))]


def test_a_cell_that_comes_for_another_stands_where_that_stood(session: Session, volunteer: Actor, pack: Pack) -> None:
    keep_layout(session, volunteer, pack, best(session, pack), pack.version, at(2))
    inside = {key: cell.number for key, cell in cells_by_key(pack).items()}
    spare = next(number for number in session.scalars(select(CellRow.number)) if number not in inside.values())
    plans.repair_plan(session, volunteer, pack.number, {inside[2, 1]: spare}, pack.version, at(2))
    assert cells_by_key(pack)[2, 1].number == spare
    assert kept_layout(pack) is not None
