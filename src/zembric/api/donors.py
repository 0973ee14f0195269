"""Routes: donors and places."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.api.shown import show_donor
from zembric.operations import donors
from zembric.operations.cells import CellFilter, candidates, donor_cells
from zembric.operations.donors import DonorToOpen
from zembric.operations.places import all_places

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Donor
    from zembric.operations.actors import Actor

bp = make_blueprint("donors")


@bp.post("/donors", responses={"201": schemas.DonorOut})
def post_donor(body: schemas.DonorIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.DonorOut:
        donor = donors.open_donor(session, actor, DonorToOpen(**body.model_dump()), now)
        return show_donor(donor, candidates(session, CellFilter(donor_number=donor.number), now))

    return write(perform, 201)


@bp.get("/donors", responses={"200": schemas.DonorsOut})
def get_donors() -> Response:
    return read(
        lambda session, _actor, _now: schemas.DonorsOut(
            donors=[_line(donor, cells) for donor, cells in donors.recent_donors(session)]
        )
    )


@bp.get("/donors/<string:number>", responses={"200": schemas.DonorOut})
def get_donor(path: schemas.DonorPath) -> Response:
    def show(session: Session, _actor: Actor, now: datetime) -> schemas.DonorOut:
        donor = donors.get_donor(session, path.number)
        return show_donor(donor, donor_cells(session, donor, now))

    return read(show)


@bp.get("/places", responses={"200": schemas.PlacesOut})
def get_places() -> Response:
    return read(
        lambda session, _actor, _now: schemas.PlacesOut(
            places=[schemas.PlaceOut.model_validate(place) for place in all_places(session)]
        )
    )


def _line(donor: Donor, cells: int) -> schemas.DonorLineOut:
    return schemas.DonorLineOut.model_validate(
        {
            "number": donor.number,
            "kind": donor.kind,
            "description": donor.description,
            "opened_at": donor.opened_at,
            "cells": cells,
        }
    )
