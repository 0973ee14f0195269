"""Routes: a pack step by step, built and proved."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, write
from zembric.api.shown.handwork import show_finding, show_handwork, show_trouble
from zembric.operations.packing import handwork
from zembric.operations.packing.packs import get_pack
from zembric.prints.build_sheets import build_sheet_pdf

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("handwork")


@bp.get("/packs/<string:number>/steps/<string:stage>", responses={"200": schemas.HandworkOut})
def get_steps(path: schemas.StepsPath) -> Response:
    return read(
        lambda session, _actor, now: show_handwork(
            handwork.handwork_of(session, get_pack(session, path.number), path.stage, now)
        )
    )


@bp.post("/packs/<string:number>/steps/<string:stage>", responses={"200": schemas.StepDoneOut})
def post_step(path: schemas.StepsPath, body: schemas.StepIn) -> Response:
    """Somebody did a step, or measured at it."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.StepDoneOut:
        pack, finding = handwork.do_step(session, actor, path.number, path.stage, body.step, body.figures, now)
        work = handwork.handwork_of(session, pack, path.stage, now, with_checks=False)
        return schemas.StepDoneOut(finding=show_finding(finding), work=show_handwork(work))

    return write(perform)


@bp.post("/packs/<string:number>/steps/<string:stage>/confirmations", responses={"200": schemas.HandworkOut})
def post_step_confirmation(path: schemas.StepsPath, body: schemas.StepKeyIn) -> Response:
    """A second person looked at it."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.HandworkOut:
        pack = handwork.confirm_step(session, actor, path.number, path.stage, body.step, now)
        return show_handwork(handwork.handwork_of(session, pack, path.stage, now, with_checks=False))

    return write(perform)


@bp.post("/packs/<string:number>/steps/<string:stage>/takebacks", responses={"200": schemas.HandworkOut})
def post_step_takeback(path: schemas.StepsPath, body: schemas.StepKeyIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.HandworkOut:
        pack = handwork.undo_step(session, actor, path.number, path.stage, body.step, now)
        return show_handwork(handwork.handwork_of(session, pack, path.stage, now, with_checks=False))

    return write(perform)


@bp.post("/packs/<string:number>/steps/<string:stage>/waivers", responses={"200": schemas.HandworkOut})
def post_step_waiver(path: schemas.StepsPath, body: schemas.StepWaiveIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.HandworkOut:
        pack = handwork.waive_step(session, actor, path.number, path.stage, body.step, body.why, now)
        return show_handwork(handwork.handwork_of(session, pack, path.stage, now, with_checks=False))

    return write(perform)


@bp.post("/packs/<string:number>/swaps", responses={"200": schemas.HandworkOut})
def post_swap(path: schemas.PackPath, body: schemas.SwapIn) -> Response:
    """A cell is exchanged at the bench, and so in the plan."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.HandworkOut:
        pack = handwork.swap_cell(session, actor, path.number, body.out, body.comes, body.seen_version, now)
        return show_handwork(handwork.building_of(session, pack, now, with_checks=False))

    return write(perform)


@bp.post("/run-logs", responses={"200": schemas.RunInLogOut})
def post_run_log(body: schemas.RunLogIn) -> Response:
    """Only reads: what a tester's log tells of a run to the stop."""
    return read(
        lambda _session, _actor, _now: schemas.RunInLogOut.model_validate(
            handwork.figures_from_log(body.content.encode())
        )
    )


@bp.get("/trouble", responses={"200": schemas.TroubleOut})
def get_trouble() -> Response:
    """Nothing comes out of a pack: questions with a reading at each fork."""
    return read(lambda _session, _actor, _now: show_trouble())


@bp.get("/packs/<string:number>/build-sheet.pdf", responses=a_file(".pdf"))
def get_build_sheet(path: schemas.PackPath) -> Response:
    """The same steps on paper, with room for each reading."""

    def make(session: Session, _actor: Actor, now: datetime) -> bytes:
        pack = get_pack(session, path.number)
        work = handwork.building_of(session, pack, now)
        in_the_way = [refusal.said for refusal in work.refused]
        return build_sheet_pdf(pack.number, pack.purpose, work.steps_alone(), in_the_way)

    return read_file(make, "application/pdf", f"build-sheet-{path.number}.pdf")
