"""Routes: labels, lists in and out, and photos."""

from __future__ import annotations

import base64
import zipfile
from typing import IO, TYPE_CHECKING

from flask import Response, current_app, request

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, send_made, write
from zembric.api.shown.catalogue import show_layouts, show_preview, show_print
from zembric.api.shown.cells import show_cell
from zembric.api.words import told
from zembric.core.errors import BadInputError
from zembric.core.labels import get_layout
from zembric.core.said import said
from zembric.files.stories import read_story
from zembric.operations.cells import listed, photos
from zembric.operations.cells.stories import cell_story
from zembric.operations.donors import get_donor
from zembric.operations.papers import exports, labels, lists
from zembric.operations.papers.taking_in import take_in_story
from zembric.prints.labels import label_pdf
from zembric.prints.sheets import ruler_page_pdf

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor
    from zembric.operations.cells.photos import PhotoStore

bp = make_blueprint("papers")


# --- Labels ----------------------------------------------------------------------------------------------------------


@bp.get("/prints", responses={"200": schemas.PrintsOut})
def get_prints() -> Response:
    return read(
        lambda session, _actor, _now: schemas.PrintsOut(
            layouts=show_layouts(),
            prints=[show_print(row) for row in labels.recent_prints(session)],
            unlabelled=list(labels.unlabelled_cells(session)),
        )
    )


@bp.post("/prints", responses={"201": schemas.PrintOut})
def post_print(body: schemas.PrintIn) -> Response:
    """Puts the print on record; its PDF is then fetched, as often as the printer jams."""
    return write(
        lambda session, actor, now: show_print(
            labels.record_print(session, actor, body.layout, body.numbers, body.first, body.why, now)
        ),
        201,
    )


@bp.get("/prints/<int:print_id>/labels.pdf", responses=a_file(".pdf"))
def get_print_pdf(path: schemas.PrintPath, query: schemas.ShiftQuery) -> Response:
    def draw(session: Session, _actor: Actor, _now: datetime) -> bytes:
        row = labels.get_print(session, path.print_id)
        texts = labels.label_texts(session, row.numbers)
        return label_pdf(get_layout(row.layout), texts, row.first, query.shift_x_mm, query.shift_y_mm)

    return read_file(draw, "application/pdf", f"labels-{path.print_id}.pdf")


@bp.get("/test-prints/<string:layout>.pdf", responses=a_file(".pdf"))
def get_test_print(path: schemas.LayoutPath) -> Response:
    """A page with a ruler and the outlines of the labels, to hold against the paper."""
    return read_file(
        lambda _session, _actor, _now: ruler_page_pdf(get_layout(path.layout)),
        "application/pdf",
        f"test-print-{path.layout}.pdf",
    )


# --- Lists -----------------------------------------------------------------------------------------------------------


#: What a line of a list says of a device, of a capacity, and besides.
_EXAMPLE = (said("example-donor"), said("example-capacity"), said("example-note"))


@bp.get("/lists/template.csv", responses=a_file(".csv"))
def get_list_template() -> Response:
    return read_file(
        lambda _session, _actor, _now: lists.template_csv(*(told(each) for each in _EXAMPLE)),
        "text/csv",
        "zembric-list.csv",
    )


@bp.post("/lists/previews", responses={"200": schemas.ListPreviewOut})
def post_list_preview(body: schemas.ListIn) -> Response:
    """Reads a list and tells what it would become; nothing is kept."""
    content = _content(body)
    return read(
        lambda session, _actor, _now: show_preview(lists.preview_list(session, body.file_name, content, body.columns))
    )


@bp.post("/lists", responses={"201": schemas.ListTakenOut})
def post_list(body: schemas.ListIn) -> Response:
    content = _content(body)
    return write(
        lambda session, actor, now: schemas.ListTakenOut(
            cells=lists.take_in_list(session, actor, body.file_name, content, body.columns, now).cells
        ),
        201,
    )


@bp.post("/stories", responses={"201": schemas.CellOut})
def post_story() -> Response:
    """A cell's story, in the open format, becomes a cell here."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.CellOut:
        # Read only once it is known who asks.
        story = read_story(request.get_data()).story
        cell = take_in_story(session, actor, story, told(said("taken-in-from-file")), now)
        return show_cell(listed.listed_now(session, cell, now))

    return write(perform, 201)


@bp.get("/exports/zembric.zip", responses=a_file(".zip"))
def get_export() -> Response:
    """All donors and cells as CSV; the same data always gives the same bytes."""

    def pack(session: Session, out: IO[bytes]) -> None:
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
            for name in exports.EXPORTS:
                # By its name, which has no date: a `ZipInfo` does not take the archive's level over, and three times as slow is the default.
                with archive.open(f"{name}.csv", "w", force_zip64=True) as written:
                    written.writelines(exports.export_csv(session, name))

    return send_made(pack, "application/zip", "zembric.zip")


@bp.get("/exports/<string:name>.csv", responses=a_file(".csv"))
def get_export_csv(path: schemas.ExportPath) -> Response:
    def written(session: Session, out: IO[bytes]) -> None:
        out.writelines(exports.export_csv(session, path.name))

    return send_made(written, "text/csv", f"{path.name}.csv")


# --- Photos ----------------------------------------------------------------------------------------------------------


@bp.post("/donors/<string:number>/photos", responses={"201": schemas.PhotoOut})
def post_donor_photo(path: schemas.DonorPath) -> Response:
    """The body is the picture itself: JPEG, PNG or WebP."""
    upload = request.get_data()
    return write(
        lambda session, actor, now: schemas.PhotoOut.model_validate(
            photos.add_photo(session, _store(), actor, upload, now, get_donor(session, path.number))
        ),
        201,
    )


@bp.post("/cells/<string:number>/photos", responses={"201": schemas.PhotoOut})
def post_cell_photo(path: schemas.CellPath) -> Response:
    """The body is the picture itself: JPEG, PNG or WebP."""
    upload = request.get_data()

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PhotoOut:
        cell = cell_story(session, path.number, now).listed.cell
        return schemas.PhotoOut.model_validate(photos.add_photo(session, _store(), actor, upload, now, cell))

    return write(perform, 201)


@bp.get("/photos/<int:photo_id>.jpg", responses=a_file(".jpg"))
def get_photo(path: schemas.PhotoPath) -> Response:
    return read_file(
        lambda session, _actor, _now: _store().read(photos.get_photo(session, path.photo_id).sha256),
        "image/jpeg",
        f"photo-{path.photo_id}.jpg",
    )


def _store() -> PhotoStore:
    store: PhotoStore = current_app.extensions["zembric-photos"]
    return store


def _content(body: schemas.ListIn) -> bytes:
    try:
        return base64.b64decode(body.content, validate=True)
    except ValueError as error:
        raise BadInputError(said("file-did-not-come-through-whole"), field="content") from error
