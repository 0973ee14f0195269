"""Routes: packs outside the house, and the one page that is read without signing in."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING

from flask import Response, request

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import as_json, clock, engine, read, read_file, write
from zembric.api.shown.outside import (
    show_proved_before,
    show_public,
    show_recall_group,
    show_recalled,
    show_report,
    show_used,
)
from zembric.api.shown.packs import show_pack
from zembric.operations.database import unit_of_work
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing import mending, outside, public, recalls, taken_in
from zembric.operations.packing.acts import proved_before
from zembric.operations.packing.packs import get_pack
from zembric.prints.letters import recall_letter_pdf

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack
    from zembric.operations.actors import Actor

bp = make_blueprint("outside")


def page_address(token: str) -> str:
    """Where the page of a pack is read, as the house is called by whoever asks."""
    return f"{request.host_url}p/{token}"


@bp.get("/packs/<string:number>/outside", responses={"200": schemas.OutsideOut})
def get_outside(path: schemas.PackPath) -> Response:
    return read(lambda session, _actor, _now: _outside(session, get_pack(session, path.number)))


@bp.post("/packs/<string:number>/reports", responses={"200": schemas.OutsideOut})
def post_report(path: schemas.PackPath, body: schemas.ReportIn) -> Response:
    """Somebody tells how a pack does."""
    told = outside.TypedReport(body.words, body.hours, body.weeks)
    return write(
        lambda session, actor, now: _outside(session, outside.report_use(session, actor, path.number, told, now))
    )


@bp.post("/packs/<string:number>/returns", responses={"200": schemas.OutsideOut})
def post_return(path: schemas.PackPath, body: schemas.ReturnIn) -> Response:
    """What is wrong with a pack that came back."""
    told = outside.TypedReturn(body.words, tuple(body.seen), tuple(body.group_volts))
    return write(
        lambda session, actor, now: _outside(session, outside.take_back(session, actor, path.number, told, now)[0])
    )


@bp.post("/packs/<string:number>/decisions", responses={"200": schemas.OutsideOut})
def post_return_decision(path: schemas.PackPath, body: schemas.DecideIn) -> Response:
    return write(
        lambda session, actor, now: _outside(
            session, outside.decide_return(session, actor, path.number, body.decision, now)
        )
    )


@bp.get("/packs/<string:number>/mend-ways", responses={"200": schemas.MendWaysOut})
def get_mend_ways(path: schemas.PackPath, query: schemas.MendQuery) -> Response:
    """Cells of the shelf that could come for one, with how long the pack then runs."""
    return read(
        lambda session, _actor, now: schemas.MendWaysOut.model_validate(
            mending.mend_ways(session, get_pack(session, path.number), query.out, now)
        )
    )


@bp.post("/packs/<string:number>/exchanges", responses={"200": schemas.PackOut})
def post_exchange(path: schemas.PackPath, body: schemas.ExchangeIn) -> Response:
    """A cell of a pack that came back is exchanged."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        pack = mending.mend_back(session, actor, path.number, body.out, body.comes, now)
        return show_pack(pack, now, rules_in_force(session))

    return write(perform)


@bp.delete("/packs/<string:number>/holder", responses={"200": schemas.PackOut})
def delete_holder(path: schemas.PackPath) -> Response:
    """Who has it is forgotten."""
    return write(
        lambda session, actor, now: show_pack(
            outside.forget_holder(session, actor, path.number, now), now, rules_in_force(session)
        )
    )


@bp.get("/packs/<string:number>/holder.json", responses=a_file(".json"))
def get_holder(path: schemas.PackPath) -> Response:
    """What is kept about whoever has it, for them."""
    return read_file(
        lambda session, _actor, _now: json.dumps(
            outside.kept_about_holder(session, get_pack(session, path.number)), ensure_ascii=False, indent=1
        ).encode(),
        "application/json", f"kept-about-{path.number}.json", attached=True,
    )  # fmt: skip


@bp.post("/packs/<string:number>/page", responses={"200": schemas.OutsideOut})
def post_pack_page(path: schemas.PackPath) -> Response:
    """Makes the page that anybody may read who has its address."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.OutsideOut:
        outside.open_page(session, actor, path.number, now)
        return _outside(session, get_pack(session, path.number))

    return write(perform)


@bp.delete("/packs/<string:number>/page", responses={"200": schemas.OutsideOut})
def delete_pack_page(path: schemas.PackPath) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.OutsideOut:
        outside.withdraw_page(session, actor, path.number, now)
        return _outside(session, get_pack(session, path.number))

    return write(perform)


@bp.get("/pages/<string:token>", responses={"200": schemas.PublicPackOut})
def get_public_page(path: schemas.PageTokenPath) -> Response:
    """Read without signing in, by whoever has the address; nothing in it is about a person."""
    with unit_of_work(engine()) as session:
        told = public.public_pack(session, path.token, clock())
        response = as_json(show_public(told.card, told.story, told.notices, is_stopped=told.is_stopped))
    response.headers["X-Robots-Tag"] = "noindex, nofollow"
    response.headers["Cache-Control"] = "no-store"
    return response


@bp.get("/promises", responses={"200": schemas.PromisesOut})
def get_promises() -> Response:
    """How true the promised hours turned out to be."""
    return read(
        lambda session, _actor, _now: schemas.PromisesOut.model_validate({"how_true": public.promises(session)})
    )


@bp.post("/used", responses={"200": schemas.WhereUsedOut})
def post_where_used(body: schemas.UsedIn) -> Response:
    """Only looks: which packs have such cells or parts."""
    return read(
        lambda session, _actor, _now: schemas.WhereUsedOut(
            packs=[show_used(each) for each in recalls.where_used(session, recalls.Asked(**body.model_dump()))]
        )
    )


@bp.get("/recalls", responses={"200": schemas.RecallsOut})
def get_recalls() -> Response:
    return read(
        lambda session, _actor, _now: schemas.RecallsOut(
            recalls=[show_recall_group(each) for each in recalls.recalls(session)]
        )
    )


@bp.post("/recalls", responses={"201": schemas.RecallGroupOut})
def post_recall(body: schemas.CallBackIn) -> Response:
    asked = recalls.Asked(body.about, body.text, body.since, body.until, body.utc_offset_min)
    return write(
        lambda session, actor, now: show_recall_group(
            recalls.call_back(session, actor, asked, body.why, body.tell, now)
        ),
        201,
    )


@bp.post("/recalled/<int:recalled>/settlements", responses={"200": schemas.RecalledOut})
def post_settlement(path: schemas.RecalledPath, body: schemas.SettleIn) -> Response:
    return write(
        lambda session, actor, now: show_recalled(recalls.settle(session, actor, path.recalled, body.how, now))
    )


@bp.get("/recalled/<int:recalled>/letter.pdf", responses=a_file(".pdf"))
def get_recall_letter(path: schemas.RecalledPath) -> Response:
    def make(session: Session, _actor: Actor, _now: datetime) -> bytes:
        return recall_letter_pdf(recalls.get_recalled(session, path.recalled))

    return read_file(make, "application/pdf", f"recall-{path.recalled}.pdf")


@bp.post("/packs/taken-in", responses={"201": schemas.PackOut})
def post_taken_in(body: schemas.TakeInIn) -> Response:
    """A pack that was made elsewhere."""
    wanted = taken_in.PackToTakeIn(**body.model_dump(exclude={"group_volts"}), group_volts=tuple(body.group_volts))
    return write(
        lambda session, actor, now: show_pack(
            taken_in.take_in(session, actor, wanted, now), now, rules_in_force(session)
        ),
        201,
    )


def _outside(session: Session, pack: Pack) -> schemas.OutsideOut:
    page = outside.page_of(session, pack)
    return schemas.OutsideOut(
        proved_before=show_proved_before(proved_before(session, pack)),
        reports=[show_report(each, pack) for each in outside.reports_of(session, pack)],
        page=page_address(page.token) if page else None,
        recalls=[show_recalled(each) for each in recalls.recalls_of(session, pack)],
    )
