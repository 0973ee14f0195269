"""Routes: donors with their clues, groups and parts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.api.shown.donors import show_donor, show_donor_line, show_groups, show_part
from zembric.models import Donor, Person
from zembric.operations import donors
from zembric.operations.cells.photos import photos_of
from zembric.operations.cells.shelf import donor_cells
from zembric.operations.donors import DonorToOpen
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("donors")


@bp.post("/donors", responses={"201": schemas.DonorOut})
def post_donor(body: schemas.DonorIn) -> Response:
    return write(
        lambda session, actor, now: _shown(
            session, donors.open_donor(session, actor, DonorToOpen(**body.model_dump()), now), now
        ),
        201,
    )


@bp.get("/donors", responses={"200": schemas.DonorsOut})
def get_donors(query: schemas.DonorsQuery) -> Response:
    """Donors that fit, the newest first, thirty at a time."""

    def perform(session: Session, _actor: Actor, _now: datetime) -> schemas.DonorsOut:
        wanted = donors.DonorFilter(query.text, query.kind, query.has_work, query.before)
        found, count = donors.listed_donors(session, wanted)
        return schemas.DonorsOut(donors=[show_donor_line(donor, cells) for donor, cells in found], count=count)

    return read(perform)


@bp.get("/donors/<string:number>", responses={"200": schemas.DonorOut})
def get_donor(path: schemas.DonorPath) -> Response:
    return read(lambda session, _actor, now: _shown(session, donors.get_donor(session, path.number), now))


@bp.put("/donors/<string:number>/clues", responses={"200": schemas.DonorOut})
def put_clues(path: schemas.DonorPath, body: schemas.CluesIn) -> Response:
    clues = body.model_dump(exclude_unset=True, exclude={"seen_version"})
    return write(
        lambda session, actor, now: _shown(
            session, donors.set_clues(session, actor, path.number, body.seen_version, clues, now), now
        )
    )


@bp.post("/donors/<string:number>/taped", responses={"200": schemas.DonorOut})
def post_taped(path: schemas.DonorPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    return write(lambda session, actor, now: _shown(session, donors.say_taped(session, actor, path.number, now), now))


@bp.post("/donors/<string:number>/groups", responses={"200": schemas.GroupsOut})
def post_groups(path: schemas.DonorPath, body: schemas.GroupsIn) -> Response:
    return write(
        lambda session, actor, now: show_groups(
            donors.log_groups(session, actor, path.number, body.parallel, body.voltages, now), rules_in_force(session)
        )
    )


@bp.post("/donors/<string:number>/parts", responses={"201": schemas.PartOut})
def post_part(path: schemas.DonorPath, body: schemas.PartIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PartOut:
        part = donors.keep_part(session, actor, path.number, body.kind, body.description, now)
        return show_part(part, session.get_one(Donor, part.donor_id))

    return write(perform, 201)


@bp.get("/parts", responses={"200": schemas.PartsOut})
def get_parts() -> Response:
    """The parts that are here, of all donors."""
    return read(
        lambda session, _actor, _now: schemas.PartsOut(
            parts=[show_part(part, donor) for part, donor in donors.parts_of(session)]
        )
    )


@bp.post("/parts/<int:part_id>/gone", responses={"200": schemas.PartOut})
def post_part_gone(path: schemas.PartPath, body: schemas.PartGoneIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PartOut:
        part = donors.take_part(session, actor, path.part_id, body.why, now)
        return show_part(part, session.get_one(Donor, part.donor_id))

    return write(perform)


def _shown(session: Session, donor: Donor, now: datetime) -> schemas.DonorOut:
    taped_by = session.get_one(Person, donor.taped_by_id).name if donor.taped_by_id else None
    return show_donor(
        donor,
        donor_cells(session, donor, now),
        rules_in_force(session),
        taped_by,
        donors.last_groups(session, donor.id),
        [part for part, _donor in donors.parts_of(session, donor)],
        photos_of(session, donor),
    )
