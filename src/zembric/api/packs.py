"""Routes: matching, packs, and the way to the recycler."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.api.shown.packs import show_designs, show_pack, show_proposal
from zembric.core.limits import Family
from zembric.operations import packs
from zembric.operations.matching import MatchRequest, propose
from zembric.operations.needs import TypedNeed, designs_for

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack
    from zembric.operations.actors import Actor

bp = make_blueprint("packs")


@bp.post("/matches", responses={"200": schemas.ProposalOut})
def post_match(body: schemas.MatchIn) -> Response:
    """Only computes; nothing is reserved until a pack is kept."""
    return read(lambda session, _actor, now: show_proposal(propose(session, _request(body), now)))


@bp.post("/designs", responses={"200": schemas.DesignsOut})
def post_designs(body: schemas.NeedIn) -> Response:
    """Only computes: packs that would do for a need."""
    typed = TypedNeed(**body.model_dump())
    return read(lambda session, _actor, now: show_designs(designs_for(session, typed, now)))


@bp.get("/packs", responses={"200": schemas.PacksOut})
def get_packs() -> Response:
    return read(
        lambda session, _actor, _now: schemas.PacksOut(packs=[show_pack(pack) for pack in packs.all_packs(session)])
    )


@bp.post("/packs", responses={"201": schemas.PackOut})
def post_pack(body: schemas.PackIn) -> Response:
    wanted = packs.PackToKeep(body.purpose, _request(body.request), tuple(tuple(group) for group in body.groups))
    return write(lambda session, actor, now: _shown(session, packs.keep_pack(session, actor, wanted, now)), 201)


@bp.get("/packs/<string:number>", responses={"200": schemas.PackOut})
def get_pack(path: schemas.PackPath) -> Response:
    return read(lambda session, _actor, _now: _shown(session, packs.get_pack(session, path.number)))


@bp.post("/packs/<string:number>/moves", responses={"200": schemas.PackOut})
def post_pack_move(path: schemas.PackPath, body: schemas.PackMoveIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        pack = packs.move_pack(session, actor, path.number, body.state, body.seen_version, now, body.why)
        return _shown(session, pack)

    return write(perform)


@bp.post("/hand-overs", responses={"200": schemas.HandOverOut})
def post_hand_over(body: schemas.HandOverIn) -> Response:
    return write(
        lambda session, actor, now: schemas.HandOverOut(
            handed_over=packs.hand_over(session, actor, body.place_id, body.taped, now)
        )
    )


def _request(body: schemas.MatchIn) -> MatchRequest:
    return MatchRequest(body.series, body.parallel, Family(body.family), body.size_code, body.least_grade)


def _shown(session: Session, pack: Pack) -> schemas.PackOut:
    return show_pack(pack, packs.pack_happenings(session, pack))
