"""What a typed or scanned number names, and where that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import NotFoundError
from zembric.core.numbering import NumberedThing, read_any
from zembric.models import CellRow, Donor, Instrument, Pack, PackCell, PackGroup, Place

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


@dataclass(frozen=True, slots=True)
class Found:
    """A thing with its number, its name, and where it is in words."""

    thing: NumberedThing
    number: str
    name: str
    where: str


def find(session: Session, typed: str) -> Found:
    """The thing behind a number. A cell may also be named by the label it had in a list that was taken in.

    Raises:
        BadInputError: no number of Zembric's, or mistyped.
        NotFoundError: nothing has that number.
    """
    own = session.scalars(select(CellRow).where(CellRow.own_label == typed.strip()).limit(2)).all()
    if len(own) == 1:
        return Found("cell", own[0].number, f"Cell {own[0].number}", where_is(session, own[0]))
    named = read_any(typed)
    match named.thing:
        case "cell":
            cell = session.scalar(select(CellRow).where(CellRow.number == named.number))
            if cell:
                return Found("cell", cell.number, f"Cell {cell.number}", where_is(session, cell))
        case "donor":
            donor = session.scalar(select(Donor).where(Donor.number == named.number))
            if donor:
                name = donor.description or donor.kind_row.name
                return Found("donor", donor.number, name, f"opened on {donor.opened_at:%Y-%m-%d}")
        case "pack":
            pack = session.scalar(select(Pack).where(Pack.number == named.number))
            if pack:
                return Found("pack", pack.number, pack.purpose, pack.state.replace("-", " "))
        case "instrument":
            instrument = session.scalar(select(Instrument).where(Instrument.number == named.number))
            if instrument:
                return Found("instrument", instrument.number, instrument.name, instrument.kind.replace("-", " "))
        case _:
            place = session.scalar(select(Place).where(Place.number == named.number))
            if place:
                return Found(
                    "tray" if place.kind == "tray" else "box", place.number, place.name, place.kind.replace("-", " ")
                )
    raise NotFoundError(f"Nothing here has the number {named.number}. Is it from another cafe?")


def where_is(session: Session, cell: CellRow) -> str:
    if cell.handed_over_at:
        return f"went to the recycler on {cell.handed_over_at:%Y-%m-%d}"
    pack = session.scalar(
        select(Pack.number)
        .join(PackGroup)
        .join(PackCell)
        .where(PackCell.cell_id == cell.id, PackCell.released_at.is_(None))
    )
    if pack:
        return f"in pack {pack}"
    if cell.in_use_in:
        return f"in use in {cell.in_use_in}"
    if cell.place is None:
        return "nowhere on record"
    return f"{cell.place.name}, place {cell.slot}" if cell.slot else cell.place.name
