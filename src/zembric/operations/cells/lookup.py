"""What a typed or scanned number names and where that is; and what words lead to."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from typing import TYPE_CHECKING

from sqlalchemy import and_, func, or_, select
from sqlalchemy.orm import joinedload

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.identify.numbering import NumberedThing, read_any
from zembric.core.said import Said, named, said
from zembric.models import (
    CellRow,
    Donor,
    DonorKindRow,
    Entry,
    Instrument,
    Pack,
    PackCell,
    PackGroup,
    Person,
    Place,
)
from zembric.operations.cells.shelf import sizes_ever

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy import ColumnElement, Select
    from sqlalchemy.orm import Session


_Hours = tuple[datetime, datetime]
#: Days that anybody means.
FIRST_YEAR, LAST_YEAR = 2000, 2200
_MOST_WORDS, _MOST_SHOWN, _FEW = 6, 12, 300
#: 2026-11-28, 28.11.2026, 28.11.26 or 28.11.
_DAY = re.compile(
    r"(?P<year>\d{4})-(?P<month>\d{1,2})-(?P<day>\d{1,2})|(?P<early_day>\d{1,2})[./](?P<late_month>\d{1,2})[./]?(?P<late_year>\d{2}|\d{4})?"
)


@dataclass(frozen=True, slots=True)
class Found:
    """A thing with its number, its name, and where it is in words."""

    thing: NumberedThing
    number: str
    name: Said | str
    where: Said


def find(session: Session, typed: str, here: tzinfo = UTC) -> Found:
    """The thing behind a number. A cell may also be named by the label it had in a list that was taken in.

    Args:
        here: The clock that days are said by.

    Raises:
        BadInputError: no number of Zembric's, or mistyped.
        NotFoundError: nothing has that number.
    """
    own = session.scalars(select(CellRow).where(CellRow.own_label == typed.strip()).limit(2)).all()
    if len(own) == 1:
        return Found("cell", own[0].number, said("found-cell", number=own[0].number), _where_is(session, own[0]))
    meant = read_any(typed)
    match meant.thing:
        case "cell":
            cell = session.scalar(select(CellRow).where(CellRow.number == meant.number))
            if cell:
                return Found("cell", cell.number, said("found-cell", number=cell.number), _where_is(session, cell))
        case "donor":
            donor = session.scalar(select(Donor).where(Donor.number == meant.number))
            if donor:
                name = donor.description or donor.kind_row.name
                return Found(
                    "donor", donor.number, name, said("where-opened", on=f"{donor.opened_at.astimezone(here):%Y-%m-%d}")
                )
        case "pack":
            pack = session.scalar(select(Pack).where(Pack.number == meant.number))
            if pack:
                return Found("pack", pack.number, pack.purpose, named("pack-state", pack.state))
        case "instrument":
            instrument = session.scalar(select(Instrument).where(Instrument.number == meant.number))
            if instrument:
                return Found(
                    "instrument", instrument.number, instrument.name, named("instrument-kind", instrument.kind)
                )
        case _:
            place = session.scalar(select(Place).where(Place.number == meant.number))
            if place:
                return Found(
                    "tray" if place.kind == "tray" else "box", place.number, place.name, named("place-kind", place.kind)
                )
    raise NotFoundError(said("nothing-here-has-number", named=meant.number))


@dataclass(frozen=True, slots=True)
class Sought:
    """What fits all words: donors, packs, places and instruments, then cells, the first of each; `cells`: how many in all."""

    found: tuple[Found, ...]
    cells: int


def search(session: Session, typed: str, here: datetime) -> Sought:
    """Everything that fits every word: of a device, a size, a place, a person or a day (2026-11-28, 28.11., yesterday).

    A cell is found by its own words and by those of the donor it came out of.

    Args:
        here: What the clock of whoever asks shows: days begin and end by it.

    Raises:
        BadInputError: no words.
    """
    words = typed.split()[:_MOST_WORDS]
    if not words:
        raise BadInputError(said("type-number-or-words-of-what"), field="text")
    days = [_hours_of(_day_of(word, here.date()), here) for word in words]
    of_donor = [_donor_says(session, word, day) for word, day in zip(words, days, strict=True)]
    donors = session.execute(
        select(Donor, DonorKindRow.name)
        .join(DonorKindRow, DonorKindRow.code == Donor.kind)
        .where(*of_donor)
        .order_by(Donor.id.desc())
        .limit(_MOST_SHOWN)
    )
    found = [
        Found(
            "donor",
            donor.number,
            donor.description or kind,
            said("where-opened", on=f"{donor.opened_at.astimezone(here.tzinfo):%Y-%m-%d}"),
        )
        for donor, kind in donors
    ]
    packs = session.scalars(
        select(Pack)
        .where(*(Pack.purpose.icontains(word, autoescape=True) for word in words))
        .order_by(Pack.id.desc())
        .limit(_MOST_SHOWN)
    )
    found += [Found("pack", pack.number, pack.purpose, named("pack-state", pack.state)) for pack in packs]
    places = session.scalars(
        select(Place)
        .where(*(Place.name.icontains(word, autoescape=True) for word in words))
        .order_by(Place.id)
        .limit(_MOST_SHOWN)
    )
    found += [
        Found("tray" if place.kind == "tray" else "box", place.number, place.name, named("place-kind", place.kind))
        for place in places
    ]
    instruments = session.scalars(
        select(Instrument)
        .where(*(Instrument.name.icontains(word, autoescape=True) for word in words))
        .order_by(Instrument.id)
        .limit(_MOST_SHOWN)
    )
    found += [Found("instrument", each.number, each.name, named("instrument-kind", each.kind)) for each in instruments]
    # Who, where, what size and which donors are few: looked up first, so that no word is sought in a hundred thousand cells.
    query = select(CellRow).where(
        *(_cell_says(session, word, day, says) for word, day, says in zip(words, days, of_donor, strict=True))
    )
    count = session.scalar(select(func.count()).select_from(query.subquery())) or 0
    with_more = (joinedload(CellRow.donor), joinedload(CellRow.place))
    cells = session.scalars(query.order_by(CellRow.id.desc()).limit(_MOST_SHOWN).options(*with_more)).all()
    packs_of = _packs_of(session, cells)
    found += [Found("cell", cell.number, _sized(cell), _where(cell, packs_of.get(cell.id))) for cell in cells]
    return Sought(tuple(found), count)


def _donor_says(session: Session, word: str, day: _Hours | None) -> ColumnElement[bool]:
    """Whether a donor, its kind or whoever opened it has the word, or it was opened on the day."""
    said: list[ColumnElement[bool]] = [Donor.description.icontains(word, autoescape=True)]
    if kinds := session.scalars(
        select(DonorKindRow.code).where(DonorKindRow.name.icontains(word, autoescape=True))
    ).all():
        said.append(Donor.kind.in_(kinds))
    if people := _ids_named(session, Person, word):
        said.append(Donor.opened_by_id.in_(people))
    if day:
        begins, ends = day
        said.append(and_(Donor.opened_at >= begins, Donor.opened_at < ends))
    return or_(*said)


def _hours_of(day: date | None, here: datetime) -> _Hours | None:
    if day is None:
        return None
    begins = datetime.combine(day, time.min, here.tzinfo)
    return begins, begins + timedelta(days=1)


def _ids_named(session: Session, table: type[Person | Place], word: str) -> Sequence[int]:
    return session.scalars(select(table.id).where(table.name.icontains(word, autoescape=True))).all()


def _cell_says(session: Session, word: str, day: _Hours | None, of_donor: ColumnElement[bool]) -> ColumnElement[bool]:
    """Whether a cell, its place or its donor has the word, or somebody of that name or on that day entered something for it."""
    said: list[ColumnElement[bool]] = [
        and_(column.is_not(None), column.icontains(word, autoescape=True))
        for column in (CellRow.own_label, CellRow.in_use_in)
    ]
    # Few donors, and few cells, are named one by one: then no other cell is looked at.
    if (donors := _few(session, select(Donor.id).where(of_donor))) is not None:
        said.append(CellRow.donor_id.in_(donors))
    sizes = [size for size in sizes_ever(session) if word.lower() in size.lower()]
    if sizes:
        said.append(CellRow.size_code.in_(sizes))
    if places := _ids_named(session, Place, word):
        said.append(CellRow.place_id.in_(places))
    entered = select(Entry.cell_id)
    if people := _ids_named(session, Person, word):
        said.append(CellRow.id.in_(entered.where(Entry.person_id.in_(people))))
    if day:
        begins, ends = day
        cells = _few(session, entered.where(Entry.at >= begins, Entry.at < ends).distinct())
        if cells is not None:
            said.append(CellRow.id.in_(cells))
    return or_(*said)


def _few(session: Session, wanted: Select[int]) -> Sequence[int] | Select[int] | None:
    """The numbers themselves where they are few; the question for them where they are many; None: there are none."""
    found = session.scalars(wanted.limit(_FEW + 1)).all()
    return None if not found else found if len(found) <= _FEW else wanted


def _day_of(word: str, today: date) -> date | None:
    """The day that a word names; None: it names none."""
    near = {"today": 0, "yesterday": 1}.get(word.lower())
    if near is not None:
        return today - timedelta(days=near)
    matched = _DAY.fullmatch(word)
    if matched is None:
        return None
    year = int(matched["year"] or matched["late_year"] or today.year)
    year += 2000 if year < 100 else 0
    try:
        day = date(year, int(matched["month"] or matched["late_month"]), int(matched["day"] or matched["early_day"]))
    except ValueError:
        return None
    return day if FIRST_YEAR <= year <= LAST_YEAR else None


def _sized(cell: CellRow) -> Said:
    donor = cell.donor.description or cell.donor.number
    return (
        said("found-sized", size=cell.size_code, donor=donor) if cell.size_code else said("found-unsized", donor=donor)
    )


def _where_is(session: Session, cell: CellRow) -> Said:
    return _where(cell, _packs_of(session, [cell]).get(cell.id))


def _packs_of(session: Session, cells: Sequence[CellRow]) -> dict[int, str]:
    """The number of the pack that each of the cells is in, if it is in one."""
    packed = select(PackCell.cell_id, Pack.number).select_from(PackCell).join(PackGroup).join(Pack)
    packed = packed.where(PackCell.cell_id.in_([cell.id for cell in cells]), PackCell.released_at.is_(None))
    return {cell_id: number for cell_id, number in session.execute(packed)}  # noqa: C416  # rows are no tuples to dict()


def _where(cell: CellRow, pack: str | None) -> Said:
    if cell.handed_over_at:
        return said("where-recycler", on=f"{cell.handed_over_at:%Y-%m-%d}")
    if pack:
        return said("where-in-pack", pack=pack)
    if cell.in_use_in:
        return said("where-in-use", device=cell.in_use_in)
    if cell.place is None:
        return said("where-nowhere")
    if cell.slot:
        return said("where-in-slot", place=cell.place.name, slot=cell.slot)
    return said("where-in-place", place=cell.place.name)
