"""Places: making them, finding room in them, moving cells by scanning, and counting what is there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import joinedload

from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotFoundError,
)
from zembric.core.identify.numbering import make_number, read_any
from zembric.core.pack.rules import NOT_ONTO_THE_SHELF
from zembric.core.said import Parameter, Said, said
from zembric.models import (
    PLACE_NUMBERS,
    CellRow,
    Pack,
    PackCell,
    PackGroup,
    Place,
    StockTake,
    TraySize,
)
from zembric.operations.actors import require_coordinator
from zembric.operations.known.entries import hazards_found
from zembric.operations.known.judgements import next_said
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_PLACES_LOCK = 0x706C6163  # "plac"
LARGEST_TRAY = 40
NAME_MOST = 60
# One fire-safe box and one out-box are where the rules send cells; the others can be as many as a cafe has.
_MADE_BY_PEOPLE = ("tray", "holding-box", "shelf-box", "out-box", "fire-safe-box")


def all_places(session: Session) -> Sequence[Place]:
    return session.scalars(select(Place).order_by(Place.kind, Place.id)).all()


def counted_places(session: Session) -> list[tuple[Place, int]]:
    """All places, each with how many cells lie in it."""
    counted = select(CellRow.place_id, func.count().label("cells")).group_by(CellRow.place_id).subquery()
    query = select(Place, func.coalesce(counted.c.cells, 0)).outerjoin(counted, counted.c.place_id == Place.id)
    return [(place, cells) for place, cells in session.execute(query.order_by(Place.kind, Place.id))]


def place_of_kind(session: Session, kind: str) -> Place:
    """The first place of a kind; a shelf box is made where there is none yet."""
    query = select(Place).where(Place.kind == kind).order_by(Place.id).limit(1)
    place = session.scalar(query)
    if place is None:
        _lock_places(session)
        place = session.scalar(query)
    return place or _new_place(session, f"{kind.capitalize().replace('-', ' ')} 1", kind)


def get_place(session: Session, place_id: int) -> Place:
    place = session.get(Place, place_id)
    if place is None:
        raise NotFoundError(said("there-is-no-such-place-any"))
    return place


def place_by_number(session: Session, typed: str) -> Place:
    named = read_any(typed)
    place = session.scalar(select(Place).where(Place.number == named.number))
    if place is None:
        raise NotFoundError(said("no-such-place", place=named.number, example=make_number("tray", 12)))
    return place


@dataclass(frozen=True, slots=True)
class PlaceToMake:
    """A new place, or what an old one is to be. Rows and columns belong to trays, capacity to boxes (None: not counted)."""

    name: str
    kind: str
    rows: int | None = None
    columns: int | None = None
    capacity: int | None = None


def make_place(session: Session, actor: Actor, wanted: PlaceToMake, now: datetime) -> Place:
    """A tray or box of one's own.

    Raises:
        BadInputError: the name is taken, or a tray without rows and columns.
    """
    _check_place(session, wanted, None)
    _lock_places(session)
    place = _new_place(session, wanted.name.strip(), wanted.kind, wanted.rows, wanted.columns, wanted.capacity)
    note(session, actor, "place-made", now, place=place.number, name=place.name)
    return place


def make_place_for_list(session: Session, file_name: str) -> Place:
    """A box for the cells of a list, under a name that is free; from there they are laid where they belong."""
    _lock_places(session)
    names = {place.name.lower() for place in all_places(session)}
    base = f"List {file_name}"[: NAME_MOST - 4]
    name = next(n for n in (base, *(f"{base} {i}" for i in range(2, 1000))) if n.lower() not in names)
    return _new_place(session, name, "holding-box")


def change_place(
    session: Session, actor: Actor, typed: str, seen_version: int, name: str, capacity: int | None, now: datetime
) -> Place:
    """Another name or capacity. A tray keeps its numbered places: cells lie in them."""
    require_coordinator(actor, said("doing-changing-place"))
    place = place_by_number(session, typed)
    if place.version != seen_version:
        raise ChangedMeanwhileError(said("this-place", place=place.name))
    _check_place(session, PlaceToMake(name, place.kind, place.rows, place.columns, capacity), place)
    before = {"name": place.name, "capacity": place.capacity}
    place.name, place.capacity = name.strip(), capacity
    place.version += 1
    note(session, actor, "place-changed", now, place=place.number, before=before, name=place.name)
    return place


def tray_sizes(session: Session) -> Sequence[TraySize]:
    query = select(TraySize).where(TraySize.is_active).order_by(TraySize.rows * TraySize.columns, TraySize.id)
    return session.scalars(query).all()


def room_in_tray(session: Session, cells: int, size_id: int | None = None) -> tuple[Place, list[int]]:
    """A tray with room for so many cells and the free numbered places to use, in order; a new tray where none has room.

    With a tray size the cells get a new tray of that size.

    Raises:
        BadInputError: no tray of the cafe has so many places.
    """
    _lock_places(session)
    trays = session.scalars(select(Place).where(Place.kind == "tray").order_by(Place.id)).all()
    for tray in trays if size_id is None else ():
        free = free_slots(session, tray)
        if len(free) >= cells:
            return tray, free[:cells]
    sizes = [size for size in tray_sizes(session) if size_id is None or size.id == size_id]
    usual = [size for size in sizes if size.rows * size.columns >= max(cells, 20)] or sizes
    size = next((size for size in usual if size.rows * size.columns >= cells), None)
    if size is None:
        raise BadInputError(said("no-tray-here-has-places", cells=cells), field="cells")
    names = {place.name for place in all_places(session)}
    number = next(n for n in range(len(trays) + 1, len(trays) + 1000) if f"Tray {n}" not in names)
    tray = _new_place(session, f"Tray {number}", "tray", size.rows, size.columns)
    return tray, list(range(1, cells + 1))


def free_slots(session: Session, tray: Place) -> list[int]:
    taken = set(session.scalars(select(CellRow.slot).where(CellRow.place_id == tray.id)))
    return [slot for slot in range(1, (tray.rows or 0) * (tray.columns or 0) + 1) if slot not in taken]


def move_cursor(tray: Place, slot: int, actor: Actor, now: datetime) -> None:
    """The pass through a tray goes on behind this numbered place; behind the last one it begins anew."""
    places = (tray.rows or 0) * (tray.columns or 0)
    tray.cursor_slot = slot % places + 1 if places else None
    tray.cursor_at, tray.cursor_by_id = now, actor.person_id


# --- Moving and counting ---------------------------------------------------------------------------------------------


def move_cell(session: Session, actor: Actor, cell: CellRow, place: Place, slot: int | None, now: datetime) -> CellRow:
    """A cell is laid into a place, as its label and the place's were scanned. Onto the shelf it goes by shelving it.

    Raises:
        DangerError: a hazard leaves the fire-safe box, or a cell that is out goes anywhere but out.
        ConflictError: it belongs to a pack, the place is full, or the numbered place is taken.
    """
    _refuse_wrong_place(session, cell, place)
    _lock_places(session)
    if place.kind == "tray":
        free = free_slots(session, place)
        if cell.place_id == place.id and slot is None:
            return cell
        if slot is not None and slot not in free and not (cell.place_id == place.id and cell.slot == slot):
            raise ConflictError(said("slot-is-not-free", slot=slot, place=place.name, free=_some(free)))
        if slot is None and not free:
            raise ConflictError(said("tray-is-full", place=place.name))
        cell.slot = slot or free[0]
    else:
        refuse_full(session, place, cell)
        cell.slot = None
    cell.place, cell.in_use_in = place, None
    session.flush()
    note(session, actor, "moved", now, cell_id=cell.id, place=place.name, slot=cell.slot)
    return cell


def refuse_full(session: Session, place: Place, cell: CellRow) -> None:
    """Raises ConflictError where a box takes no more cells."""
    if place.capacity is None or cell.place_id == place.id:
        return
    inside = session.scalar(select(func.count()).select_from(CellRow).where(CellRow.place_id == place.id)) or 0
    if inside >= place.capacity:
        raise ConflictError(said("box-is-full", place=place.name, inside=inside, capacity=place.capacity))


@dataclass(frozen=True, slots=True)
class Counted:
    """What a stock-take found: in order, missing though they should be here, here though they belong elsewhere."""

    here: tuple[CellRow, ...]
    missing: tuple[CellRow, ...]
    misplaced: tuple[CellRow, ...]
    #: What was typed and is no number of a cell, with why not.
    unknown: tuple[tuple[str, Said], ...] = ()


def count_stock(session: Session, place: Place, seen: Sequence[str]) -> Counted:
    """What was seen in a place against what should be in it; what is no number of a cell is named and left out."""
    unknown: list[tuple[str, Said]] = []
    typed: dict[str, str] = {}
    for text in seen:
        try:
            typed.setdefault(read_any(text).number, text)
        except BadInputError as error:
            unknown.append((text, error.said))
    numbers = list(typed)
    query = select(CellRow).options(joinedload(CellRow.place), joinedload(CellRow.donor), joinedload(CellRow.judgement))
    found = {cell.number: cell for cell in session.scalars(query.where(CellRow.number.in_(numbers)))}
    unknown += [(text, said("no-cell-here", cell=number)) for number, text in typed.items() if number not in found]
    should = session.scalars(query.where(CellRow.place_id == place.id).order_by(CellRow.id)).all()
    return Counted(
        here=tuple(cell for cell in should if cell.number in found),
        missing=tuple(cell for cell in should if cell.number not in found),
        misplaced=tuple(cell for number in numbers if (cell := found.get(number)) and cell.place_id != place.id),
        unknown=tuple(unknown),
    )


def take_stock(session: Session, actor: Actor, place: Place, seen: Sequence[str], now: datetime) -> Counted:
    """Counts and keeps the result; nothing is moved by it.

    Raises:
        NotFoundError: something that was seen is no cell here.
    """
    counted = count_stock(session, place, seen)
    if counted.unknown:
        raise NotFoundError(counted.unknown[0][1], field="seen")
    session.add(
        StockTake(
            at=now,
            person_id=actor.person_id,
            place_id=place.id,
            seen=[cell.number for cell in (*counted.here, *counted.misplaced)],
            missing=[cell.number for cell in counted.missing],
            misplaced=[cell.number for cell in counted.misplaced],
        )
    )
    note(
        session,
        actor,
        "stock-taken",
        now,
        place=place.number,
        missing=len(counted.missing),
        misplaced=len(counted.misplaced),
    )
    return counted


def last_stock_take(session: Session, place: Place) -> StockTake | None:
    return session.scalar(
        select(StockTake).where(StockTake.place_id == place.id).order_by(StockTake.id.desc()).limit(1)
    )


def _refuse_wrong_place(session: Session, cell: CellRow, place: Place) -> None:
    pack = session.scalar(
        select(Pack.number)
        .join(PackGroup)
        .join(PackCell)
        .where(PackCell.cell_id == cell.id, PackCell.released_at.is_(None))
    )
    if pack:
        raise ConflictError(said("cell-belongs-to-that-pack", cell=cell.number, pack=pack))
    if is_hazard(session, cell) and place.kind != "fire-safe-box":
        raise DangerError(said("cell-is-hazard-stays-in-its-box", cell=cell.number))
    is_out = cell.judgement is not None and cell.judgement.grade == "out"
    if is_out and place.kind not in ("out-box", "fire-safe-box"):
        raise DangerError(said("cell-is-out", cell=cell.number, place=place.name))
    if place.kind == "shelf-box" and (cell.judgement is None or cell.judgement.grade not in ("A", "B", "C")):
        raise ConflictError(said("cell-not-graded-not-onto-shelf", cell=cell.number, step=next_said(cell)))
    if place.kind == "shelf-box" and cell.judgement and cell.judgement.next_step in NOT_ONTO_THE_SHELF:
        raise ConflictError(said("cell-not-onto-shelf", cell=cell.number, step=next_said(cell)))
    if place.kind == "out-box" and not is_out:
        raise ConflictError(said("cell-is-not-out", cell=cell.number))


def is_hazard(session: Session, cell: CellRow) -> bool:
    """Whether the cell is a hazard: as it was judged, or by anything ever found on it."""
    if cell.judgement and cell.judgement.next_step == "fire-safe-box":
        return True
    return bool(hazards_found(session, cell.id))


def _check_place(session: Session, wanted: PlaceToMake, own: Place | None) -> None:
    name = wanted.name.strip()
    if not 1 <= len(name) <= NAME_MOST:
        raise BadInputError(said("place-has-name-of-1", name=NAME_MOST), field="name")
    same = session.scalar(select(Place).where(func.lower(Place.name) == name.lower()))
    if same is not None and same is not own:
        raise BadInputError(said("there-is-place-called-already", same=same.name), field="name")
    if wanted.kind not in _MADE_BY_PEOPLE:
        raise BadInputError(said("is-not-kind-of-place", wanted=wanted.kind), field="kind")
    has_grid = wanted.rows is not None and wanted.columns is not None
    if (wanted.kind == "tray") != has_grid:
        raise BadInputError(said("tray-has-rows-and-columns-box"), field="rows")
    if wanted.capacity is not None and (wanted.kind == "tray" or wanted.capacity < 1):
        raise BadInputError(said("how-many-cells-box-takes"), field="capacity")


def _new_place(
    session: Session,
    name: str,
    kind: str,
    rows: int | None = None,
    columns: int | None = None,
    capacity: int | None = None,
) -> Place:
    number = make_number("tray" if kind == "tray" else "box", session.scalar(PLACE_NUMBERS))
    place = Place(number=number, name=name, kind=kind, rows=rows, columns=columns, capacity=capacity)
    session.add(place)
    session.flush()
    return place


def _some(slots: Sequence[int]) -> Parameter:
    return tuple(str(slot) for slot in slots[:8]) or said("no-slot-is-free")


def _lock_places(session: Session) -> None:
    """Until the end of the transaction nobody else makes places or gives them out, so two never get the same."""
    session.execute(select(func.pg_advisory_xact_lock(_PLACES_LOCK)))
