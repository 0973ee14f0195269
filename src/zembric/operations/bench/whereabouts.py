"""Where a cell goes from the bench: onto the shelf, into another place, into a device, out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError, DangerError
from zembric.core.pack.rules import NOT_ONTO_THE_SHELF
from zembric.core.said import said
from zembric.models import (
    CellRow,
    PackCell,
    Place,
    StepEntry,
)
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.keeping import (
    cell_at_bench,
    common,
    keep,
    keep_step,
    refuse_work_on_hazard,
)
from zembric.operations.known.judgements import next_said
from zembric.operations.places import (
    get_place,
    move_cell,
    place_of_kind,
    refuse_full,
)
from zembric.operations.record import note

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor


def shelve(session: Session, actor: Actor, typed: str, place_id: int | None, now: datetime) -> CellRow:
    """Onto the shelf: only a graded cell, and only into a shelf box."""
    cell = cell_at_bench(session, typed)
    if cell.judgement is None or cell.judgement.grade not in ("A", "B", "C"):
        raise ConflictError(said("cell-not-graded", cell=cell.number, step=next_said(cell)))
    if cell.judgement.next_step in NOT_ONTO_THE_SHELF:
        raise ConflictError(said("cell-not-onto-shelf", cell=cell.number, step=next_said(cell)))
    box = _shelf_box(session, place_id)
    refuse_full(session, box, cell)
    cell.place, cell.slot, cell.in_use_in = box, None, None
    entry = StepEntry(**common(cell, actor, now), step="shelved", details={"place": box.name})
    keep(session, actor, cell, entry, now, place=box.name)
    return cell


def lay_into(session: Session, actor: Actor, typed: str, place: Place, slot: int | None, now: datetime) -> CellRow:
    """A cell lies in the place that was scanned after it; into a shelf box for the first time it is shelved by that."""
    cell = cell_at_bench(session, typed)
    is_due = cell.judgement is not None and cell.judgement.next_step == "shelve"
    if place.kind == "shelf-box" and is_due:
        return shelve(session, actor, typed, place.id, now)
    was_in_use = cell.in_use_in is not None
    if was_in_use and place.kind == "shelf-box":
        raise ConflictError(said("cell-comes-back-from-use", cell=cell.number))
    moved = move_cell(session, actor, cell, place, slot, now)
    if was_in_use:
        keep_step(session, actor, cell, "came-back", {"source": "device"}, now)
    return moved


def put_into_use(session: Session, actor: Actor, typed: str, device: str, now: datetime) -> CellRow:
    """A cell goes (back) into a device that takes it as it is, and is known as in use in it.

    Raises:
        DangerError: a hazard, or a cell that is out.
    """
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    _refuse_reserved(session, cell)
    device = device.strip()
    if not 2 <= len(device) <= 120:
        raise BadInputError(said("say-which-device-in-few-words"), field="device")
    if cell.judgement and cell.judgement.grade == "out":
        raise DangerError(said("cell-out-no-device", cell=cell.number, step=next_said(cell)))
    if cell.judgement and cell.judgement.next_step == "decide":
        raise DangerError(said("cell-undecided-no-device", cell=cell.number, step=next_said(cell)))
    cell.place, cell.slot, cell.in_use_in = None, None, device
    note(session, actor, "put-into-use", now, cell_id=cell.id, device=device)
    return cell


def put_out(session: Session, actor: Actor, typed: str, now: datetime) -> CellRow:
    """Into the out-box, where it waits for the recycler; a hazard belongs into the fire-safe box instead."""
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    if cell.judgement is None or cell.judgement.grade != "out":
        require_coordinator(actor, said("doing-cell-is-not-out", cell=cell.number))
    _refuse_reserved(session, cell)
    cell.place, cell.slot, cell.in_use_in = place_of_kind(session, "out-box"), None, None
    note(session, actor, "moved", now, cell_id=cell.id, place=cell.place.name)
    return cell


def _refuse_reserved(session: Session, cell: CellRow) -> None:
    if session.scalar(select(PackCell.id).where(PackCell.cell_id == cell.id, PackCell.released_at.is_(None))):
        raise ConflictError(said("cell-belongs-to-pack", cell=cell.number))


def _shelf_box(session: Session, place_id: int | None) -> Place:
    if place_id is None:
        return place_of_kind(session, "shelf-box")
    place = get_place(session, place_id)
    if place.kind != "shelf-box":
        raise BadInputError(said("is-not-shelf-box", place=place.name), field="place_id")
    return place
