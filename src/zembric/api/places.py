"""Routes: places, what lies in them, stock-takes, and the pass through a tray."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, write
from zembric.api.shown.bench import show_tray
from zembric.api.shown.cells import show_cell
from zembric.api.words import told
from zembric.core.errors import BadInputError
from zembric.core.said import said
from zembric.operations import places
from zembric.operations.bench.benchside import tray_pass
from zembric.operations.cells.listed import listed_now
from zembric.operations.cells.shelf import CellFilter, candidates, cells_in_place
from zembric.operations.places import Counted, PlaceToMake
from zembric.prints.sheets import TraySheet, tray_sheet_pdf

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Place
    from zembric.operations.actors import Actor

bp = make_blueprint("places")


@bp.get("/places", responses={"200": schemas.PlacesOut})
def get_places() -> Response:
    return read(
        lambda session, _actor, _now: schemas.PlacesOut(
            places=[
                schemas.PlaceLineOut(place=schemas.PlaceOut.model_validate(place), cells=cells)
                for place, cells in places.counted_places(session)
            ]
        )
    )


@bp.post("/places", responses={"201": schemas.PlaceOut})
def post_place(body: schemas.PlaceIn) -> Response:
    wanted = PlaceToMake(**body.model_dump())
    return write(
        lambda session, actor, now: schemas.PlaceOut.model_validate(places.make_place(session, actor, wanted, now)), 201
    )


@bp.get("/places/<string:number>", responses={"200": schemas.PlaceOpenOut})
def get_place(path: schemas.PlacePath) -> Response:
    def show(session: Session, _actor: Actor, now: datetime) -> schemas.PlaceOpenOut:
        place = places.place_by_number(session, path.number)
        counted = places.last_stock_take(session, place)
        total, listed = cells_in_place(session, place, now)
        return schemas.PlaceOpenOut(
            place=schemas.PlaceOut.model_validate(place),
            total=total,
            cells=[show_cell(each) for each in listed],
            last_counted_at=counted.at if counted else None,
            last_counted_by=counted.person.name if counted else None,
            last_missing=counted.missing if counted else [],
        )

    return read(show)


@bp.put("/places/<string:number>", responses={"200": schemas.PlaceOut})
def put_place(path: schemas.PlacePath, body: schemas.PlaceChangeIn) -> Response:
    return write(
        lambda session, actor, now: schemas.PlaceOut.model_validate(
            places.change_place(session, actor, path.number, body.seen_version, body.name, body.capacity, now)
        )
    )


@bp.post("/places/<string:number>/counts", responses={"200": schemas.StockTakeOut})
def post_count(path: schemas.PlacePath, body: schemas.StockTakeIn) -> Response:
    """Only compares; nothing is kept until the stock-take is."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.StockTakeOut:
        place = places.place_by_number(session, path.number)
        return _counted(session, places.count_stock(session, place, body.seen), now)

    return read(show)


@bp.post("/places/<string:number>/stock-takes", responses={"201": schemas.StockTakeOut})
def post_stock_take(path: schemas.PlacePath, body: schemas.StockTakeIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.StockTakeOut:
        place = places.place_by_number(session, path.number)
        return _counted(session, places.take_stock(session, actor, place, body.seen, now), now)

    return write(perform, 201)


@bp.get("/trays/<string:number>", responses={"200": schemas.TrayOut})
def get_tray(path: schemas.PlacePath) -> Response:
    return read(lambda session, _actor, now: show_tray(tray_pass(session, _tray(session, path.number), now)))


@bp.get("/trays/<string:number>/sheet.pdf", responses=a_file(".pdf"))
def get_tray_sheet(path: schemas.PlacePath) -> Response:
    def draw(session: Session, _actor: Actor, now: datetime) -> bytes:
        tray = _tray(session, path.number)
        cells = candidates(session, CellFilter(place_id=tray.id), now)
        slots = {each.cell.slot: each.cell.number for each in cells if each.cell.slot}
        return tray_sheet_pdf(TraySheet(tray.number, tray.name, tray.rows or 0, tray.columns or 0, slots))

    return read_file(draw, "application/pdf", f"tray-{path.number}.pdf")


def _tray(session: Session, number: str) -> Place:
    place = places.place_by_number(session, number)
    if place.kind != "tray":
        raise BadInputError(said("is-box-not-tray", place=place.name, number=place.number), field="number")
    return place


def _counted(session: Session, counted: Counted, now: datetime) -> schemas.StockTakeOut:
    return schemas.StockTakeOut(
        here=[show_cell(listed_now(session, cell, now)) for cell in counted.here],
        missing=[show_cell(listed_now(session, cell, now)) for cell in counted.missing],
        misplaced=[show_cell(listed_now(session, cell, now)) for cell in counted.misplaced],
        unknown=[schemas.UnknownOut(typed=typed, text=told(why)) for typed, why in counted.unknown],
    )
