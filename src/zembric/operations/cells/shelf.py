"""Cells by what is wanted of them: page by page, on the map, of one place or donor, and those that come nearest to a pack."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Any, Literal, NamedTuple

from sqlalchemy import Integer, Select, and_, cast, func, literal, or_, select

from zembric.core.errors import BadInputError
from zembric.core.said import said
from zembric.models import (
    CellRow,
    Donor,
    Pack,
    PackCell,
    PackGroup,
    Place,
    Standing,
)
from zembric.operations.cells.listed import ListedCell, has_step, listed_of, step_now

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy import ColumnElement
    from sqlalchemy.orm import InstrumentedAttribute, Session

SortKey = Literal["number", "capacity", "resistance", "voltage", "due", "watched"]
PAGE_MOST = 200
#: More points than this are heaped on the map, by fields across and up.
_MOST_POINTS, _FIELDS = 3000, (72, 40)
#: Maps of heaps and when they were made, by database and what is wanted; for how long they are shown, and how many are kept.
_heaps: dict[tuple[str, CellFilter], tuple[datetime, ShelfMap]] = {}
_HEAPS_KEEP, _MOST_MAPS = timedelta(seconds=10), 50
#: A cell watched at rest, until its next voltage tells something and from then on; beside its next step.
WATCHED, READ_AT_REST = "watched", "read-at-rest"
WATCHED_STEPS = (READ_AT_REST, WATCHED)


#: What a cell is sorted by; of a cell without one, that there is nothing.
NOTHING: Literal["none"] = "none"
SortedBy = float | datetime | Literal["none"]
_COLUMNS: dict[SortKey, InstrumentedAttribute[Any]] = {
    "number": Standing.cell_id,
    "capacity": Standing.capacity_mah,
    "resistance": Standing.resistance_mohm,
    "voltage": Standing.resting_voltage_v,
    "due": Standing.not_before,
    "watched": Standing.watched_reading_at,
}


@dataclass(frozen=True, slots=True)
class CellFilter:
    """What to show; None: no restriction. `on_shelf` keeps to shelf boxes, `free` leaves out cells of a pack."""

    on_shelf: bool = False
    free: bool = False
    step: str | None = None
    grades: tuple[str, ...] = ()
    size_code: str | None = None
    family: str | None = None
    place_id: int | None = None
    donor_number: str | None = None
    #: Cells whose size or chemistry nobody knows yet stand beside those of the wanted ones.
    or_unnamed: bool = False
    #: These cells and no others; None: no restriction.
    numbers: tuple[str, ...] | None = None
    #: Least and most, both included; a resistance is only held against those of its method.
    capacity_mah: tuple[float | None, float | None] = (None, None)
    resistance_mohm: tuple[float | None, float | None] = (None, None)
    resistance_method: str | None = None


@dataclass(frozen=True, slots=True)
class CellPage:
    """Which of many cells: in what order, and those behind or ahead of a cell by its number; `offset` where neither is there.

    `by` is what that cell was sorted by when it was shown (`CellsFound`): whatever became of it since, the next page begins there.
    """

    sort: SortKey = "number"
    falling: bool = False
    most: int = PAGE_MOST
    after: str | None = None
    before: str | None = None
    by: SortedBy | None = None
    offset: int = 0


class CellsFound(NamedTuple):
    """How many there are of the wanted kind, one page of them, and what its first and its last cell are sorted by."""

    total: int
    cells: list[ListedCell]
    ends: tuple[SortedBy, SortedBy]


@dataclass(frozen=True, slots=True)
class ShelfMap:
    """Cells by capacity and resistance, as far as both are known by one method; arrays of equal length.

    `methods` tells how many cells have a resistance by which method. Where there are many, those of one grade that lie near to one
    another are one point in their middle; `counts` tells how many they are.
    """

    method: str | None
    methods: dict[str, int]
    counts: tuple[int, ...]
    capacity_mah: tuple[float, ...]
    resistance_mohm: tuple[float, ...]
    grade: tuple[str, ...]


def list_cells(session: Session, wanted: CellFilter, now: datetime, page: CellPage) -> CellsFound:
    """Raises:
    BadInputError: no cell is sorted by such a value.
    """
    conditions = _conditions(wanted, now)
    total = session.scalar(select(func.count()).select_from(Standing).where(*conditions)) or 0
    column: ColumnElement[Any] = _COLUMNS[page.sort].expression
    # First which ones, from narrow rows; then those few with everything.
    query = select(Standing.cell_id, column).where(*conditions).limit(min(page.most, PAGE_MOST))
    there = _there(session, column, page)
    backwards = there is not None and page.after is None
    query = query.order_by(*_order(column, page.falling, backwards=backwards))
    if there is None:
        query = query.offset(page.offset)
    else:
        query = query.where(_beyond(column, there[0], there[1], page.falling, backwards=backwards))
    rows = session.execute(query).all()
    if backwards:
        rows = rows[::-1]
    shown = wanted.step if wanted.step in WATCHED_STEPS else None
    listed = {each.cell.id: each for each in listed_of(session, now, [key for key, _ in rows], shown)}
    first, last = (
        (NOTHING if value is None else value for value in (rows[0][1], rows[-1][1])) if rows else (NOTHING, NOTHING)
    )
    return CellsFound(total, [listed[key] for key, _ in rows], (first, last))


def _there(session: Session, column: ColumnElement[Any], page: CellPage) -> tuple[int, object] | None:
    """The cell beside which the page begins, by its id, and by what it is sorted; None where nobody knows that any more."""
    if not (beside := page.after or page.before):
        return None
    held = select(CellRow.id, Standing.cell_id, column).outerjoin(Standing, Standing.cell_id == CellRow.id)
    row = session.execute(held.where(CellRow.number == beside)).one_or_none()
    if row is None:
        return None
    key, standing, value = row
    if page.sort == "number":
        return key, key
    if page.by is not None:
        is_time = page.sort in ("due", "watched")
        if page.by != NOTHING and is_time is not isinstance(page.by, datetime):
            raise BadInputError(said("cells-are-not-sorted-by", value=str(page.by), sort=page.sort), field="by")
        return key, None if page.by == NOTHING else page.by
    return None if standing is None else (key, value)


def _order(column: ColumnElement[Any], falling: bool, *, backwards: bool) -> tuple[ColumnElement[Any], ...]:
    """By a value, those without one last, those alike by their numbers; or all the other way round."""
    by_value = column.desc() if falling != backwards else column.asc()
    if backwards:
        return by_value.nulls_first(), Standing.cell_id.desc()
    return by_value.nulls_last(), Standing.cell_id.asc()


def _beyond(
    column: ColumnElement[Any], cell_id: int, value: object, falling: bool, *, backwards: bool
) -> ColumnElement[bool]:
    """Behind a cell in that order, or ahead of it."""
    next_to = Standing.cell_id < cell_id if backwards else Standing.cell_id > cell_id
    if value is None:
        alike = and_(column.is_(None), next_to)
        return or_(alike, column.is_not(None)) if backwards else alike
    farther = or_(column < value if falling != backwards else column > value, and_(column == value, next_to))
    return farther if backwards else or_(farther, column.is_(None))


def shelf_map(session: Session, wanted: CellFilter, now: datetime) -> ShelfMap:
    """All cells of the wanted kind as points. Methods see different quantities: one at a time, unless said the commonest.

    A map of heaps is kept for ten seconds: many look at it, and whenever somebody enters anything all of them ask again.
    """
    key = (str(session.get_bind().engine.url), wanted)
    made_at, kept = _heaps.get(key, (now, None))
    # A clock that was set back makes no map younger.
    if kept is not None and timedelta(0) <= now - made_at < _HEAPS_KEEP:
        return kept
    conditions = _conditions(replace(wanted, resistance_method=None), now)
    conditions += [Standing.capacity_mah > 0, Standing.resistance_mohm > 0]
    tallied = (
        select(
            Standing.resistance_method, func.count(), func.min(Standing.capacity_mah), func.max(Standing.capacity_mah),
            func.min(Standing.resistance_mohm), func.max(Standing.resistance_mohm),
        )
        .where(*conditions, Standing.resistance_method.is_not(None))
        .group_by(Standing.resistance_method)
        .order_by(func.count().desc(), Standing.resistance_method)
    )  # fmt: skip
    ends = {row[0]: row for row in session.execute(tallied)}
    methods = {str(method): row[1] for method, row in ends.items()}
    method = wanted.resistance_method or next(iter(methods), None)
    if method not in ends:
        return ShelfMap(method, methods, (), (), (), ())
    _, count, *corners = ends[method]
    points = select(Standing.grade, Standing.capacity_mah, Standing.resistance_mohm)
    points = points.where(*conditions, Standing.resistance_method == method)
    if count > _MOST_POINTS:
        points = _heaped(points, *(corner or 0.0 for corner in corners))
    else:
        points = points.add_columns(literal(1))
    grades, capacities, resistances, counts = zip(*session.execute(points), strict=True)
    drawn = ShelfMap(method, methods, counts, capacities, resistances, grades)
    if count > _MOST_POINTS:
        if len(_heaps) >= _MOST_MAPS:
            _heaps.clear()
        _heaps[key] = now, drawn
    return drawn


def _heaped(
    points: Select[*tuple[Any, ...]], least_mah: float, most_mah: float, least_mohm: float, most_mohm: float
) -> Select[*tuple[Any, ...]]:
    """One point in the middle of all cells of a grade that share a field of the map."""
    columns, rows = _FIELDS
    across = func.floor((Standing.capacity_mah - least_mah) * columns / max(most_mah - least_mah, 1e-9))
    up = func.floor((Standing.resistance_mohm - least_mohm) * rows / max(most_mohm - least_mohm, 1e-9))
    # One whole number a field: several are grouped more slowly.
    laid = points.add_columns(cast(across * (rows + 1) + up, Integer).label("field")).subquery()
    heaps = select(laid.c.grade, func.avg(laid.c.capacity_mah), func.avg(laid.c.resistance_mohm), func.count())
    return heaps.group_by(laid.c.field, laid.c.grade)


def cells_in_place(session: Session, place: Place, now: datetime) -> tuple[int, list[ListedCell]]:
    """How many cells lie in a place, and the first of them: all of a tray, by their numbered places; of a box one page."""
    wanted = CellFilter(place_id=place.id)
    if place.kind == "tray":
        listed = sorted(candidates(session, wanted, now), key=lambda each: each.cell.slot or 0)
        return len(listed), listed
    found = list_cells(session, wanted, now, CellPage())
    return found.total, found.cells


def candidates(session: Session, wanted: CellFilter, now: datetime) -> list[ListedCell]:
    """All cells of the wanted kind, in order of their numbers."""
    found = listed_of(session, now, session.scalars(select(Standing.cell_id).where(*_conditions(wanted, now))).all())
    return sorted(found, key=lambda each: each.cell.id)


def count_cells(session: Session, wanted: CellFilter, now: datetime) -> int:
    return session.scalar(select(func.count()).select_from(Standing).where(*_conditions(wanted, now))) or 0


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is looked for among very many cells: `parallel` of one kind each time, near to a capacity (None: the strongest)."""

    parallel: int
    capacity_mah: float | None
    kind: Literal["model", "donor", "any"]


def nearest(session: Session, cells: CellFilter, wanted: Wanted, most: int, now: datetime) -> list[ListedCell]:
    """Of very many cells those whose groups would come nearest: each kind in lots of as many as stand in parallel, the best lots first."""
    held = Standing.capacity_mah
    off = func.abs(held - wanted.capacity_mah) if wanted.capacity_mah is not None else -held
    kind: ColumnElement[Any] = {
        "model": func.coalesce(CellRow.model_id, -CellRow.donor_id), "donor": -CellRow.donor_id, "any": literal(0),
    }[wanted.kind]  # fmt: skip
    placed = (
        select(Standing.cell_id, kind.label("kind"), off.label("off"))
        .join(CellRow, CellRow.id == Standing.cell_id)
        .where(*_conditions(cells, now), held.is_not(None))
        .subquery()
    )
    place = func.row_number().over(partition_by=placed.c.kind, order_by=(placed.c.off, placed.c.cell_id))
    lots = select(placed, ((place - 1) // wanted.parallel).label("lot")).subquery()
    of_lot = (lots.c.kind, lots.c.lot)
    ranked = select(
        lots.c.cell_id,
        (func.count().over(partition_by=of_lot) < wanted.parallel).label("is_part"),
        func.max(lots.c.off).over(partition_by=of_lot).label("worst"),
    ).subquery()
    keys = session.scalars(
        select(ranked.c.cell_id).order_by(ranked.c.is_part, ranked.c.worst, ranked.c.cell_id).limit(most)
    ).all()
    return listed_of(session, now, keys)


def cells_of_pack(session: Session, number: str) -> Sequence[str]:
    """The numbers of the cells that a pack holds."""
    query = select(CellRow.number).join(PackCell, and_(PackCell.cell_id == CellRow.id, PackCell.released_at.is_(None)))
    return session.scalars(query.join(PackGroup).join(Pack).where(Pack.number == number)).all()


def _conditions(wanted: CellFilter, now: datetime) -> list[ColumnElement[bool]]:
    conditions: list[ColumnElement[bool]] = []
    if wanted.on_shelf:
        conditions.append(Standing.place_kind == "shelf-box")
    if wanted.free:
        conditions.append(~Standing.in_pack)
    if wanted.step in WATCHED_STEPS:
        due = Standing.watched_reading_at <= now
        conditions += [~Standing.in_pack, ~Standing.in_use, due if wanted.step == READ_AT_REST else ~due]
    elif wanted.step:
        conditions.append(has_step(wanted.step, now))
    if wanted.grades:
        conditions.append(Standing.grade.in_(wanted.grades))
    kinds: tuple[tuple[ColumnElement[str | None], str | None], ...] = (
        (Standing.size_code.expression, wanted.size_code),
        (Standing.family.expression, wanted.family),
    )
    for kind, value in kinds:
        if value:
            conditions.append(or_(kind == value, kind.is_(None)) if wanted.or_unnamed else kind == value)
    if wanted.numbers is not None:
        conditions.append(Standing.number.in_(wanted.numbers))
    for column, (least, most) in (
        (Standing.capacity_mah, wanted.capacity_mah),
        (Standing.resistance_mohm, wanted.resistance_mohm),
    ):
        conditions += [column >= least] if least is not None else []
        conditions += [column <= most] if most is not None else []
    if wanted.resistance_method:
        conditions.append(Standing.resistance_method == wanted.resistance_method)
    if wanted.place_id:
        conditions.append(Standing.place_id == wanted.place_id)
    if wanted.donor_number:
        donor_id = select(Donor.id).where(Donor.number == wanted.donor_number).scalar_subquery()
        conditions.append(Standing.donor_id == donor_id)
    return conditions


@dataclass(frozen=True, slots=True)
class KindOnShelf:
    """Free cells of one size and chemistry: how many, and what the middle one holds and carries (None: not known)."""

    size_code: str
    family: str
    count: int
    capacity_mah: float
    continuous_a: float | None


def kinds_on_shelf(session: Session, now: datetime, grades: tuple[str, ...]) -> list[KindOnShelf]:
    """What lies ready in shelf boxes by size and chemistry, the commonest first."""
    step = step_now(now)
    conditions = _conditions(CellFilter(on_shelf=True, free=True, grades=grades), now)

    def middle(column: Any) -> Any:
        return func.percentile_cont(0.5).within_group(column)

    query = (
        select(
            Standing.size_code, Standing.family, func.count(), middle(Standing.capacity_mah), middle(Standing.carries_a)
        )
        .where(
            *conditions, Standing.size_code.is_not(None), Standing.family.is_not(None), step.in_(("keep", "recheck")),
            Standing.capacity_mah.is_not(None),
        )
        .group_by(Standing.size_code, Standing.family)
        .order_by(func.count().desc(), Standing.size_code)
    )  # fmt: skip
    return [KindOnShelf(*row) for row in session.execute(query)]


def sizes_here(session: Session) -> Sequence[str]:
    """The size codes of cells that are here, for filters."""
    return _each_once(session, Standing.size_code)


def sizes_ever(session: Session) -> Sequence[str]:
    """The size codes of all cells, those that went to the recycler too."""
    return _each_once(session, CellRow.size_code)


def _each_once(session: Session, column: InstrumentedAttribute[str | None]) -> Sequence[str]:
    # From one to the next by the index: a handful of steps, where DISTINCT reads the whole collection.
    found = select(func.min(column).label("value")).cte("found", recursive=True)
    following = select(func.min(column)).where(column > found.c.value).scalar_subquery()
    found = found.union_all(select(following).where(found.c.value.is_not(None)))
    return [value for value in session.scalars(select(found.c.value)) if value]


def donor_cells(session: Session, donor: Donor, now: datetime) -> list[ListedCell]:
    """All cells of a donor, those that went to the recycler included."""
    here = {found.cell.id: found for found in candidates(session, CellFilter(donor_number=donor.number), now)}
    return [here.get(cell.id) or ListedCell(cell, "handed-over", None) for cell in donor.cells]
