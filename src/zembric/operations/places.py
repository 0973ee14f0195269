"""Places, and finding room in them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import func, select

from zembric.core.errors import NotFoundError
from zembric.models import CellRow, Place

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session

_SMALL_TRAY = (4, 5)
_LARGE_TRAY = (5, 8)
_PLACES_LOCK = 0x706C6163  # "plac"
LARGEST_TRAY = _LARGE_TRAY[0] * _LARGE_TRAY[1]


def all_places(session: Session) -> Sequence[Place]:
    return session.scalars(select(Place).order_by(Place.kind, Place.id)).all()


def place_of_kind(session: Session, kind: str) -> Place:
    """The first place of a kind; a shelf box is made where there is none yet."""
    query = select(Place).where(Place.kind == kind).order_by(Place.id).limit(1)
    place = session.scalar(query)
    if place is None:
        _lock_places(session)
        place = session.scalar(query)
    if place is None:
        place = Place(name=f"{kind.capitalize().replace('-', ' ')} 1", kind=kind, rows=None, columns=None)
        session.add(place)
        session.flush()
    return place


def get_place(session: Session, place_id: int) -> Place:
    place = session.get(Place, place_id)
    if place is None:
        raise NotFoundError("There is no such place any more. Choose another one.")
    return place


def room_in_tray(session: Session, cells: int) -> tuple[Place, list[int]]:
    """A tray with room for so many cells and the free numbered places to use, in order; a new tray where none has room."""
    _lock_places(session)
    trays = session.scalars(select(Place).where(Place.kind == "tray").order_by(Place.id)).all()
    for tray in trays:
        taken = set(session.scalars(select(CellRow.slot).where(CellRow.place_id == tray.id)))
        free = [slot for slot in range(1, (tray.rows or 0) * (tray.columns or 0) + 1) if slot not in taken]
        if len(free) >= cells:
            return tray, free[:cells]
    rows, columns = _SMALL_TRAY if cells <= _SMALL_TRAY[0] * _SMALL_TRAY[1] else _LARGE_TRAY
    tray = Place(name=f"Tray {len(trays) + 1}", kind="tray", rows=rows, columns=columns)
    session.add(tray)
    session.flush()
    return tray, list(range(1, cells + 1))


def _lock_places(session: Session) -> None:
    """Until the end of the transaction nobody else makes places or gives them out, so two never get the same."""
    session.execute(select(func.pg_advisory_xact_lock(_PLACES_LOCK)))
