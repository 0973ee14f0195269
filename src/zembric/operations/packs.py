"""Packs: built, given out, taken back, taken apart; their cells follow. And what goes to the recycler. Plans: see plans.py."""

from __future__ import annotations

from types import MappingProxyType
from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.orm import selectinload

from zembric.core.errors import ChangedMeanwhileError, ConflictError, DangerError, NotFoundError
from zembric.core.numbering import read_number
from zembric.core.words import listed
from zembric.models import CellRow, Happening, Pack, PackCell, PackGroup, Place
from zembric.operations.actors import require_coordinator
from zembric.operations.places import place_of_kind
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session
    from sqlalchemy.sql.base import ExecutableOption

    from zembric.operations.actors import Actor

#: What may follow what.
NEXT_STATES = MappingProxyType(
    {
        "planned": ("built", "dropped"),
        "built": ("given-out", "taken-apart"),
        "given-out": ("back",),
        "back": ("given-out", "taken-apart"),
        "taken-apart": (),
        "dropped": (),
    }
)
_HANDS_BACK_CELLS = frozenset({"taken-apart", "dropped"})


def move_pack(
    session: Session, actor: Actor, typed: str, state: str, seen_version: int, now: datetime, why: str | None = None
) -> Pack:
    """Takes a pack to its next state; the cells follow it out of their boxes and back.

    Raises:
        ChangedMeanwhileError: somebody moved it after it was seen.
        ConflictError: that state does not follow.
        DangerError: a cell of it has gone out since it was planned.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.version != seen_version:
        raise ChangedMeanwhileError(f"Pack {pack.number}")
    allowed = NEXT_STATES[pack.state]
    if state not in allowed:
        raise ConflictError(
            f"Pack {pack.number} is {pack.state}; after that it can be {' or '.join(allowed) or 'nothing else'}."
        )
    members = [member for group in pack.groups for member in group.cells if member.released_at is None]
    if state == "built":
        out = [
            member.cell.number for member in members if member.cell.judgement and member.cell.judgement.grade == "out"
        ]
        if out:
            raise DangerError(f"{listed(out)} may not stand in a pack any more: out. Mend the plan first.")
    box = place_of_kind(session, "shelf-box") if state == "taken-apart" else None
    for member in members:
        if state in ("built", "taken-apart"):
            member.cell.place, member.cell.slot = box, None
        if state in _HANDS_BACK_CELLS:
            member.released_at = now
        note(session, actor, f"pack-{state}", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number)
    pack.state = state
    note(session, actor, f"pack-{state}", now, pack_id=pack.id, why=why)
    session.flush()
    return pack


def get_pack(session: Session, typed: str) -> Pack:
    number = read_number("pack", typed)
    pack = session.scalar(select(Pack).where(Pack.number == number).options(*_with_cells()))
    if pack is None:
        raise NotFoundError(f"There is no pack {number}.")
    return pack


def all_packs(session: Session) -> Sequence[Pack]:
    """All packs, newest first."""
    return session.scalars(select(Pack).options(*_with_cells()).order_by(Pack.id.desc()).limit(200)).all()


def packs_in_state(session: Session, state: str) -> Sequence[Pack]:
    """All packs in a state, the oldest first."""
    return session.scalars(select(Pack).where(Pack.state == state).options(*_with_cells()).order_by(Pack.id)).all()


def pack_happenings(session: Session, pack: Pack) -> Sequence[Happening]:
    query = select(Happening).where(Happening.pack_id == pack.id, Happening.cell_id.is_(None))
    return session.scalars(query.order_by(Happening.at, Happening.id)).all()


def hand_over(session: Session, actor: Actor, place_id: int, taped: bool, now: datetime) -> int:
    """Everything in the out-box or the fire-safe box goes to the recycler; returns how many cells.

    Raises:
        NotAllowedError: not a coordinator.
        DangerError: the terminals are not taped.
        ConflictError: the box is empty, or it is no such box.
    """
    require_coordinator(actor, "Handing cells to the recycler")
    if not taped:
        raise DangerError(
            "Tape both ends of every cell first; loose cells short one another on the way.", field="taped"
        )
    box = session.get(Place, place_id)
    if box is None or box.kind not in ("out-box", "fire-safe-box"):
        raise ConflictError("Only the out-box and the fire-safe box go to the recycler.")
    cells = session.scalars(
        select(CellRow).where(CellRow.place_id == box.id).order_by(CellRow.id).with_for_update(of=CellRow)
    ).all()
    if not cells:
        raise ConflictError(f"The {box.name.lower()} is empty.")
    for cell in cells:
        cell.place, cell.slot, cell.handed_over_at = None, None, now
        note(session, actor, "handed-over", now, cell_id=cell.id, box=box.name)
    return len(cells)


def _with_cells() -> tuple[ExecutableOption, ...]:
    members = selectinload(Pack.groups).selectinload(PackGroup.cells).joinedload(PackCell.cell, innerjoin=True)
    return (members.joinedload(CellRow.judgement), members.joinedload(CellRow.place))
