"""Routes: matching, designs for a need, long searches, and wishes."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.api.shown.matching import (
    show_designs,
    show_longest_run,
    show_match_options,
    show_proposal,
    show_search,
    show_several,
    show_stand_ins,
    show_wish,
)
from zembric.core.house.limits import Family
from zembric.core.match.stand_ins import in_the_place_of
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching import searches
from zembric.operations.matching.needs import TypedNeed, designs_for
from zembric.operations.matching.on_run import longest_run
from zembric.operations.matching.proposals import MatchRequest, propose, propose_several
from zembric.operations.matching.stand_ins import TypedDevice, stand_ins_for
from zembric.operations.packing import wishes

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("matching")


@bp.get("/match-options", responses={"200": schemas.MatchOptionsOut})
def get_match_options() -> Response:
    return read(lambda session, _actor, _now: show_match_options(rules_in_force(session)))


@bp.post("/matches", responses={"200": schemas.ProposalOut})
def post_match(body: schemas.MatchIn) -> Response:
    """Only computes; nothing is reserved until a pack is kept."""
    return read(lambda session, _actor, now: show_proposal(propose(session, request_of(body), now)))


@bp.post("/matches/longest-run", responses={"200": schemas.LongestRunAnswerOut})
def post_longest_run(body: schemas.MatchIn) -> Response:
    """Only computes: how long the same cells can run at the load."""
    return read(lambda session, _actor, now: show_longest_run(longest_run(session, request_of(body), now)))


@bp.post("/matches/several", responses={"200": schemas.SeveralOut})
def post_matches(body: schemas.MatchesIn) -> Response:
    """Only computes: several packs from one shelf."""
    requests = [request_of(each) for each in body.requests]
    return read(lambda session, _actor, now: show_several(propose_several(session, requests, body.way, now)))


@bp.post("/designs", responses={"200": schemas.DesignsOut})
def post_designs(body: schemas.NeedIn) -> Response:
    """Only computes: packs that would do for a need."""
    typed = TypedNeed(**body.model_dump())
    return read(lambda session, _actor, now: show_designs(designs_for(session, typed, now)))


@bp.post("/stand-ins", responses={"200": schemas.StandInsOut})
def post_stand_ins(body: schemas.PoorDeviceIn) -> Response:
    """Only computes: cells of the shelf for a good device with a poor cell."""
    typed = TypedDevice(**body.model_dump())
    return read(lambda session, _actor, now: show_stand_ins(stand_ins_for(session, typed, now)))


@bp.post("/in-place-of", responses={"200": schemas.InPlaceOut})
def post_in_place_of(body: schemas.InPlaceIn) -> Response:
    """Only computes: our cells beside so many alkaline, nickel or lead cells."""

    def show(session: Session, _actor: Actor, _now: datetime) -> schemas.InPlaceOut:
        found = in_the_place_of(body.what, body.count, rules_in_force(session))
        return schemas.InPlaceOut.model_validate(
            {"empty_v": found.empty_v, "full_v": found.full_v, "beside": list(found.beside), "never": list(found.never)}
        )

    return read(show)


# --- Long searches ---------------------------------------------------------------------------------------------------


@bp.post("/match-searches", responses={"201": schemas.SearchOut})
def post_match_search(body: schemas.SearchIn) -> Response:
    request = request_of(body.request)
    return write(
        lambda session, actor, now: show_search(searches.ask_for_search(session, actor, request, body.seconds, now)),
        201,
    )


@bp.get("/match-searches/<int:search_id>", responses={"200": schemas.SearchOut})
def get_match_search(path: schemas.SearchPath) -> Response:
    return read(lambda session, _actor, _now: show_search(searches.get_search(session, path.search_id)))


@bp.get("/match-searches/<int:search_id>/proposal", responses={"200": schemas.ProposalOut})
def get_match_search_proposal(path: schemas.SearchPath) -> Response:
    """The best that a search has found so far."""
    return read(lambda session, _actor, now: show_proposal(searches.best_so_far(session, path.search_id, now)))


@bp.post("/match-searches/<int:search_id>/stop", responses={"200": schemas.SearchOut})
def post_match_search_stop(path: schemas.SearchPath) -> Response:
    return write(lambda session, actor, _now: show_search(searches.stop_search(session, actor, path.search_id)))


# --- Wishes ----------------------------------------------------------------------------------------------------------


@bp.get("/wishes", responses={"200": schemas.WishesOut})
def get_wishes() -> Response:
    return read(lambda session, _actor, now: _wishes(session, now))


@bp.post("/wishes", responses={"201": schemas.WishesOut})
def post_wish(body: schemas.WishIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.WishesOut:
        wishes.make_wish(session, actor, body.purpose, request_of(body.request), now)
        return _wishes(session, now)

    return write(perform, 201)


@bp.delete("/wishes/<int:wish_id>", responses={"200": schemas.WishesOut})
def delete_wish(path: schemas.WishPath) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.WishesOut:
        wishes.give_up_wish(session, actor, path.wish_id, now)
        return _wishes(session, now)

    return write(perform)


def _wishes(session: Session, now: datetime) -> schemas.WishesOut:
    return schemas.WishesOut(wishes=[show_wish(state) for state in wishes.wish_states(session, now)])


def request_of(body: schemas.MatchIn) -> MatchRequest:
    """What was asked, as the operations take it."""
    said = body.model_dump()
    return MatchRequest(
        **said
        | {
            "family": Family(body.family),
            "banned": tuple(body.banned),
            "marked_allowed": tuple(body.marked_allowed),
            "only": tuple(body.only),
        }
    )
