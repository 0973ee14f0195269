"""Routes: packs and plans, and the way to the recycler."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.matching import request_of
from zembric.api.outside import page_address
from zembric.api.requests import read, read_file, write
from zembric.api.shown.packs import show_checks, show_joining, show_pack
from zembric.core.errors import ConflictError
from zembric.core.pack.parts import TypedPart
from zembric.core.pack.states import NEXT_STATES
from zembric.files.plans import plan_as_csv, plan_as_json
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing import packs, plans
from zembric.operations.packing.cards import card_of, pack_label_of
from zembric.operations.packing.checks import WhatIf, check_pack
from zembric.operations.packing.on_paper import joining_of
from zembric.operations.packing.outside import page_of
from zembric.operations.packing.parts import PartToKeep
from zembric.operations.packing.plan_files import plan_file
from zembric.prints.pack_labels import pack_label_pdf
from zembric.prints.pick_lists import pick_list_pdf
from zembric.prints.visitor_cards import visitor_card_pdf

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack
    from zembric.operations.actors import Actor

bp = make_blueprint("packs")


def parts_of(parts: Sequence[schemas.PartOfPlanIn]) -> tuple[PartToKeep, ...]:
    return tuple(PartToKeep(TypedPart(part.kind, part.figures, part.name), part.part_id) for part in parts)


@bp.get("/packs", responses={"200": schemas.PacksOut})
def get_packs() -> Response:
    def show(session: Session, _actor: Actor, now: datetime) -> schemas.PacksOut:
        rules = rules_in_force(session)
        return schemas.PacksOut(packs=[show_pack(pack, now, rules) for pack in packs.all_packs(session)])

    return read(show)


@bp.post("/packs", responses={"201": schemas.PackOut})
def post_pack(body: schemas.PackIn) -> Response:
    groups = tuple(tuple(group) for group in body.groups)
    wanted = plans.PackToKeep(body.purpose, request_of(body.request), groups, body.wish_id, parts_of(body.parts))
    return write(lambda session, actor, now: _shown(session, plans.keep_pack(session, actor, wanted, now), now), 201)


@bp.get("/packs/<string:number>", responses={"200": schemas.PackOut})
def get_pack(path: schemas.PackPath) -> Response:
    return read(lambda session, _actor, now: _shown(session, packs.get_pack(session, path.number), now))


@bp.post("/packs/<string:number>/moves", responses={"200": schemas.PackOut})
def post_pack_move(path: schemas.PackPath, body: schemas.PackMoveIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        pack = packs.move_pack(session, actor, path.number, packs.PackMove(**body.model_dump()), now)
        return _shown(session, pack, now)

    return write(perform)


@bp.post("/packs/<string:number>/stops", responses={"200": schemas.PackOut})
def post_pack_stop(path: schemas.PackPath, body: schemas.StopIn) -> Response:
    """Somebody says that it is dangerous; nobody needs to know which cell."""
    return write(
        lambda session, actor, now: _shown(session, packs.stop_pack(session, actor, path.number, body.why, now), now)
    )


@bp.put("/packs/<string:number>/parts", responses={"200": schemas.PackOut})
def put_pack_parts(path: schemas.PackPath, body: schemas.PartsIn) -> Response:
    """What it is built from and for."""
    kept = parts_of(body.parts)

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        return _shown(session, packs.set_parts(session, actor, path.number, kept, body.seen_version, now), now)

    return write(perform)


@bp.get("/packs/<string:number>/checks", responses={"200": schemas.ChecksOut})
def get_pack_checks(path: schemas.PackPath) -> Response:
    """Its plan, run on paper and checked with what is known of its cells now."""
    return read(
        lambda session, _actor, now: show_checks(check_pack(session, packs.get_pack(session, path.number), now))
    )


@bp.post("/packs/<string:number>/what-if", responses={"200": schemas.ChecksOut})
def post_pack_what_if(path: schemas.PackPath, body: schemas.PackWhatIfIn) -> Response:
    """Only computes: the same with another load, other cells, or a colder converter."""
    asked = WhatIf(**body.model_dump())
    return read(
        lambda session, _actor, now: show_checks(check_pack(session, packs.get_pack(session, path.number), now, asked))
    )


@bp.get("/packs/<string:number>/joining", responses={"200": schemas.JoiningAnswerOut})
def get_pack_joining(path: schemas.PackPath) -> Response:
    """What would flow when its cells are joined as they rest now, and ways to make them even before."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.JoiningAnswerOut:
        pack = packs.get_pack(session, path.number)
        try:
            return schemas.JoiningAnswerOut(joining=show_joining(joining_of(session, pack, now)), why_not=None)
        except ConflictError as unknown:
            return schemas.JoiningAnswerOut.model_validate({"joining": None, "why_not": unknown.said})

    return read(show)


@bp.post("/packs/<string:number>/waivers", responses={"200": schemas.PackOut})
def post_waiver(path: schemas.PackPath, body: schemas.WaiveIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        return _shown(session, packs.waive_check(session, actor, path.number, body.check, body.why, now), now)

    return write(perform)


@bp.post("/packs/<string:number>/marks", responses={"200": schemas.PackOut})
def post_mark(path: schemas.PackPath, body: schemas.MarkIn) -> Response:
    """A coordinator's yes to a cell that was recovered from very low, for this pack."""
    return write(
        lambda session, actor, now: _shown(
            session, packs.allow_mark(session, actor, path.number, body.cell, body.why, now), now
        )
    )


@bp.post("/hand-overs", responses={"200": schemas.HandOverOut})
def post_hand_over(body: schemas.HandOverIn) -> Response:
    return write(
        lambda session, actor, now: schemas.HandOverOut(
            handed_over=packs.hand_over(session, actor, body.place_id, body.taped, now)
        )
    )


@bp.post("/packs/<string:number>/repairs", responses={"200": schemas.PackOut})
def post_pack_repair(path: schemas.PackPath, body: schemas.MendIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        pack = plans.repair_plan(session, actor, path.number, body.exchanges, body.seen_version, now)
        return _shown(session, pack, now)

    return write(perform)


@bp.post("/packs/<string:number>/picks", responses={"200": schemas.PackOut})
def post_pack_pick(path: schemas.PackPath, body: schemas.PickIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackOut:
        act = plans.put_back if body.back else plans.pick_cell
        return _shown(session, act(session, actor, path.number, body.cell, now), now)

    return write(perform)


@bp.get("/packs/<string:number>/plan.json", responses=a_file(".json"))
def get_pack_json(path: schemas.PackPath) -> Response:
    return read_file(
        lambda session, _actor, now: plan_as_json(plan_file(session, path.number, now)),
        "application/json", f"pack-{path.number}.json", attached=True,
    )  # fmt: skip


@bp.get("/packs/<string:number>/plan.csv", responses=a_file(".csv"))
def get_pack_csv(path: schemas.PackPath) -> Response:
    return read_file(
        lambda session, _actor, now: plan_as_csv(plan_file(session, path.number, now)),
        "text/csv", f"pack-{path.number}.csv", attached=True,
    )  # fmt: skip


@bp.get("/packs/<string:number>/pick-list.pdf", responses=a_file(".pdf"))
def get_pick_list(path: schemas.PackPath) -> Response:
    return read_file(
        lambda session, _actor, now: pick_list_pdf(plan_file(session, path.number, now)),
        "application/pdf", f"pick-list-{path.number}.pdf",
    )  # fmt: skip


@bp.get("/packs/<string:number>/pack-label.pdf", responses=a_file(".pdf"))
def get_pack_label(path: schemas.PackPath, query: schemas.PackLabelQuery) -> Response:
    """The label for the pack itself, in one of its own sizes."""
    return read_file(
        lambda session, _actor, now: pack_label_pdf(pack_label_of(session, path.number, now), query.size),
        "application/pdf", f"pack-label-{path.number}.pdf",
    )  # fmt: skip


@bp.get("/packs/<string:number>/visitor-card.pdf", responses=a_file(".pdf"))
def get_visitor_card(path: schemas.PackPath, query: schemas.CardQuery) -> Response:
    """The card that goes with a built pack, in large print where that is asked for; with the code of its page if it has one."""

    def make(session: Session, _actor: Actor, now: datetime) -> bytes:
        page = page_of(session, packs.get_pack(session, path.number))
        address = page_address(page.token) if page else None
        return visitor_card_pdf(card_of(session, path.number, now), is_large=query.large, address=address)

    return read_file(make, "application/pdf", f"card-{path.number}.pdf")


def _shown(session: Session, pack: Pack, now: datetime) -> schemas.PackOut:
    ahead = next((state for state in NEXT_STATES[pack.state] if state in ("built", "given-out")), None)
    return show_pack(
        pack, now, rules_in_force(session), happenings=packs.pack_happenings(session, pack),
        plan=plans.plan_state(session, pack, now),
        refused=packs.refusals_to_move(session, pack, ahead, now) if ahead else (),
    )  # fmt: skip
