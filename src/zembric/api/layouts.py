"""Routes: where the cells of a pack stand, drawn, checked, kept, and as files."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, write
from zembric.api.shown.layouts import case_of, layout_of, show_body, show_laid_out, show_layout, show_proposal
from zembric.core.errors import ConflictError
from zembric.files.layouts import layout_as_json, layout_from_json, plate_as_dxf, plate_as_svg
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing.checks import worst_current_a
from zembric.operations.packing.layouts import (
    body_of,
    cells_by_key,
    keep_layout,
    kept_layout,
    layout_for,
    look_at_layout,
    plate_for,
    propose_layouts,
)
from zembric.operations.packing.packs import get_pack
from zembric.prints.layout_sheets import LayoutSheet, layout_pdf

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack
    from zembric.operations.actors import Actor

bp = make_blueprint("layouts")


@bp.get("/packs/<string:number>/layout", responses={"200": schemas.PackLayoutOut})
def get_layout(path: schemas.PackPath) -> Response:
    """The layout that is kept, with its lines; or why there can be none."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.PackLayoutOut:
        pack = get_pack(session, path.number)
        return _shown(session, pack, now)

    return read(show)


@bp.post("/packs/<string:number>/layout/proposals", responses={"200": schemas.LayoutProposalsOut})
def post_proposals(path: schemas.PackPath, body: schemas.LayoutProposalsIn) -> Response:
    """Only computes: ways to lay it out, the best first; none: it does not fit."""

    def show(session: Session, _actor: Actor, _now: datetime) -> schemas.LayoutProposalsOut:
        pack = get_pack(session, path.number)
        found = propose_layouts(session, pack, case_of(body.case))
        return schemas.LayoutProposalsOut(proposals=[show_proposal(each, pack) for each in found])

    return read(show)


@bp.post("/packs/<string:number>/layout/checks", responses={"200": schemas.LaidOutOut})
def post_layout_checks(path: schemas.PackPath, body: schemas.LayoutIn) -> Response:
    """Only computes: strips, what they carry, and what is to be said of a layout."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.LaidOutOut:
        pack = get_pack(session, path.number)
        found = look_at_layout(session, pack, layout_of(body), worst_current_a(session, pack, now), now)
        return show_laid_out(found, pack, rules_in_force(session))

    return read(show)


@bp.put("/packs/<string:number>/layout", responses={"200": schemas.PackLayoutOut})
def put_layout(path: schemas.PackPath, body: schemas.KeepLayoutIn) -> Response:
    layout = layout_of(body.layout) if body.layout else None

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PackLayoutOut:
        pack = get_pack(session, path.number)
        kept = keep_layout(session, actor, pack, layout, body.seen_version, now)
        session.flush()  # with the version it has from now on
        return _shown(session, kept, now)

    return write(perform)


@bp.post("/packs/<string:number>/layout/file", responses={"200": schemas.LayoutOut})
def post_layout_file(path: schemas.PackPath, body: schemas.LayoutFileIn) -> Response:
    """Only reads: a layout out of a file, for this pack; it is kept like any other."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.LayoutOut:
        pack = get_pack(session, path.number)
        layout = layout_from_json(body.content.encode())
        look_at_layout(session, pack, layout, None, now)
        return show_layout(layout, pack)

    return read(show)


@bp.get("/packs/<string:number>/layout.json", responses=a_file(".json"))
def get_layout_json(path: schemas.PackPath) -> Response:
    def make(session: Session, _actor: Actor, _now: datetime) -> bytes:
        pack = get_pack(session, path.number)
        cells = {key: cell.number for key, cell in cells_by_key(pack).items()}
        return layout_as_json(layout_for(pack), pack.number, cells, body_of(pack))

    return read_file(make, "application/json", f"layout-{path.number}.json", attached=True)


@bp.get("/packs/<string:number>/layout.svg", responses=a_file(".svg"))
def get_layout_svg(path: schemas.PackPath) -> Response:
    """The plate that holds the cells, for cutting."""
    return read_file(
        lambda session, _actor, _now: plate_as_svg(plate_for(session, get_pack(session, path.number))),
        "image/svg+xml", f"plate-{path.number}.svg", attached=True,
    )  # fmt: skip


@bp.get("/packs/<string:number>/layout.dxf", responses=a_file(".dxf"))
def get_layout_dxf(path: schemas.PackPath) -> Response:
    """The same as a drawing for a cutter."""
    return read_file(
        lambda session, _actor, _now: plate_as_dxf(plate_for(session, get_pack(session, path.number))),
        "image/vnd.dxf", f"plate-{path.number}.dxf", attached=True,
    )  # fmt: skip


@bp.get("/packs/<string:number>/layout.pdf", responses=a_file(".pdf"))
def get_layout_pdf(path: schemas.PackPath) -> Response:
    """Both faces at their true size, with a ruler."""

    def make(session: Session, _actor: Actor, _now: datetime) -> bytes:
        pack, rules = get_pack(session, path.number), rules_in_force(session)
        cells = {key: cell.number for key, cell in cells_by_key(pack).items()}
        return layout_pdf(LayoutSheet.of(pack.number, pack.purpose, layout_for(pack), body_of(pack), cells, rules))

    return read_file(make, "application/pdf", f"layout-{path.number}.pdf")


def _shown(session: Session, pack: Pack, now: datetime) -> schemas.PackLayoutOut:
    try:
        body = body_of(pack)
    except ConflictError as cannot:
        return schemas.PackLayoutOut.model_validate(
            {"version": pack.version, "body": None, "laid_out": None, "why_not": cannot.said}
        )
    layout = kept_layout(pack)
    laid_out = None
    if layout is not None:
        found = look_at_layout(session, pack, layout, worst_current_a(session, pack, now), now)
        laid_out = show_laid_out(found, pack, rules_in_force(session))
    return schemas.PackLayoutOut(version=pack.version, body=show_body(body), laid_out=laid_out, why_not=None)
