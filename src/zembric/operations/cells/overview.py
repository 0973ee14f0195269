"""Finding cells: the home overview, the shelf, one cell with its story."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, Literal

from sqlalchemy import DateTime, Select, and_, bindparam, case, func, literal, or_, select, union_all
from sqlalchemy.orm import aliased, contains_eager, joinedload

from zembric.models import (
    LIVE_STATES,
    CellRow,
    Donor,
    JudgementRow,
    Pack,
    PackCell,
    PackGroup,
    Place,
    Slot,
    SlotRun,
    Standing,
)
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy import BindParameter, ColumnElement
    from sqlalchemy.orm import InstrumentedAttribute, Session

SortKey = Literal["number", "capacity", "resistance", "voltage", "due", "watched"]
PAGE_MOST = 200
_SHOWN_PER_STEP = 24
#: More points than this are heaped on the map, by fields across and up.
_MOST_POINTS, _FIELDS = 3000, (72, 40)
_ON_ITS_WAY_OUT = ("fire-safe-box", "out-box")
#: A cell watched at rest, until its next voltage tells something and from then on; beside its next step.
WATCHED, READ_AT_REST = "watched", "read-at-rest"
WATCHED_STEPS = (READ_AT_REST, WATCHED)


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


@dataclass(frozen=True, slots=True)
class ListedCell:
    """A cell with what to do next now, and the pack that holds it."""

    cell: CellRow
    step: str
    pack_number: str | None


@dataclass(frozen=True, slots=True)
class StepGroup:
    """All cells that have the same next step: how many, and the first of them."""

    step: str
    count: int
    cells: tuple[ListedCell, ...]


@dataclass(frozen=True, slots=True)
class TraySteps:
    """What the cells of one tray need next: how many of each step."""

    number: str
    name: str
    steps: tuple[tuple[str, int], ...]


def _step_now(now: datetime | BindParameter[datetime]) -> ColumnElement[str]:
    """What to do with a cell now: as it stands, unless a program runs on it or its waiting is over."""
    return case(
        # A hazard comes first, whatever tester holds the cell.
        (and_(_runs_by_wire(), Standing.step != "fire-safe-box"), "on-tester"),
        (_waited(now), Standing.then_step),
        else_=Standing.step,
    )


def _waited(now: datetime | BindParameter[datetime]) -> ColumnElement[bool]:
    return and_(Standing.then_step.is_not(None), Standing.not_before.is_not(None), Standing.not_before <= now)


def _has_step(code: str, now: datetime) -> ColumnElement[bool]:
    """The same as a condition, in columns that are indexed."""
    if code == "on-tester":
        return and_(_runs_by_wire(), Standing.step != "fire-safe-box")
    here = or_(
        and_(Standing.step == code, ~_waited(now)),
        and_(Standing.then_step == code, Standing.not_before <= now),
    )
    return here if code == "fire-safe-box" else and_(here, ~_runs_by_wire())


def _runs_by_wire() -> ColumnElement[bool]:
    """Whether a program runs on it by itself; a charger that nobody can ask leaves the cell its step, which is entered by hand."""
    live = select(SlotRun.cell_id).join(Slot, Slot.id == SlotRun.slot_id)
    return Standing.cell_id.in_(live.where(SlotRun.state.in_(LIVE_STATES), Slot.tester_id.is_not(None)))


def _listed(session: Session, step: ColumnElement[str], cells: Select[int] | Sequence[int]) -> list[ListedCell]:
    """Those cells with all that is shown of them, in any order; those that went to the recycler are left out."""
    member = aliased(PackCell)
    query = (
        select(CellRow, step, Pack.number)
        .join(Standing, Standing.cell_id == CellRow.id)
        .join(JudgementRow, CellRow.judgement_id == JudgementRow.id)
        .outerjoin(Place, CellRow.place_id == Place.id)
        .outerjoin(member, and_(member.cell_id == CellRow.id, member.released_at.is_(None)))
        .outerjoin(PackGroup, PackGroup.id == member.group_id)
        .outerjoin(Pack, Pack.id == PackGroup.pack_id)
        .where(CellRow.id.in_(cells))
        .options(
            contains_eager(CellRow.judgement), contains_eager(CellRow.place), joinedload(CellRow.donor, innerjoin=True)
        )
    )
    return [ListedCell(cell, shown, pack_number) for cell, shown, pack_number in session.execute(query)]


def home(session: Session, now: datetime) -> list[StepGroup]:
    """All cells here by next step; of each step the first ones, those that wait longest first.

    Cells that are watched at rest stand in a group of their own beside that of their next step.
    """
    step = _step_now(now)
    counted = _counted(session, step, now)
    first = []
    for code in sorted(counted):
        first.append((code, session.scalars(_first_of_step(code, now)).all()))
    listed = {each.cell.id: each for each in _listed(session, step, [key for _, keys in first for key in keys])}
    groups = [StepGroup(code, counted[code], tuple(listed[key] for key in keys)) for code, keys in first]
    return [*groups, *_watched(session, now)]


def _first_of_step(code: str, now: datetime) -> Select[int]:
    """Those that wait longest. One step at a time, and those whose waiting is over apart: an index leads to two dozen of each."""
    free = or_(~_runs_by_wire(), Standing.step == "fire-safe-box")
    kinds: list[ColumnElement[bool]] = [
        and_(Standing.step == code, ~_waited(now), free),
        and_(Standing.then_step == code, Standing.not_before <= now, free),
    ]
    if code == "on-tester":
        kinds = [_has_step(code, now)]
    order = (Standing.not_before, Standing.cell_id)
    some = [select(*order).where(kind).order_by(*order).limit(_SHOWN_PER_STEP) for kind in kinds]
    found = union_all(*(each.subquery().select() for each in some)).subquery()
    return select(found.c.cell_id).order_by(found.c.not_before, found.c.cell_id).limit(_SHOWN_PER_STEP)


def _counted(session: Session, step: ColumnElement[str], now: datetime) -> dict[str, int]:
    """How many cells have each step now. What a program runs on is counted apart: it is little, and all others are plain columns."""
    waited = _waited(now).label("waited")
    each = select(Standing.step, Standing.then_step, waited).subquery()
    plain = select(each, func.count().label("cells")).group_by(each.c.step, each.c.then_step, each.c.waited)
    counted: Counter[str] = Counter()
    for row in session.execute(plain):
        counted[row.then_step if row.waited else row.step] += row.cells
    for row in session.execute(
        select(Standing.step, Standing.then_step, waited, step.label("now")).where(_runs_by_wire())
    ):
        counted[row.then_step if row.waited else row.step] -= 1
        counted[row.now] += 1
    return {code: cells for code, cells in counted.items() if cells}


def tray_steps(session: Session, now: datetime) -> list[TraySteps]:
    """Every tray that holds cells, by name, with the steps of its cells."""
    step = _step_now(now)
    query = select(Place.number, Place.name, step, func.count()).join(Standing, Standing.place_id == Place.id)
    counted = (
        query.where(Standing.place_kind == "tray").group_by(Place.number, Place.name, step).order_by(Place.name, step)
    )
    trays: dict[str, TraySteps] = {}
    for number, name, code, count in session.execute(counted):
        before = trays.get(number, TraySteps(number, name, ()))
        trays[number] = TraySteps(number, name, (*before.steps, (code, count)))
    return list(trays.values())


def _watched(session: Session, now: datetime) -> list[StepGroup]:
    groups = []
    for step in WATCHED_STEPS:
        wanted = CellFilter(step=step)
        total, first = list_cells(session, wanted, now, sort="watched", falling=False, offset=0, most=_SHOWN_PER_STEP)
        if total:
            groups.append(StepGroup(step, total, tuple(first)))
    return groups


def list_cells(
    session: Session, wanted: CellFilter, now: datetime, *, sort: SortKey, falling: bool, offset: int, most: int
) -> tuple[int, list[ListedCell]]:
    """How many cells there are of the wanted kind, and one page of them."""
    step = _step_now(now)
    conditions = _conditions(wanted, now)
    total = session.scalar(select(func.count()).select_from(Standing).where(*conditions)) or 0
    column: ColumnElement[Any] = {
        "number": Standing.cell_id,
        "capacity": Standing.capacity_mah,
        "resistance": Standing.resistance_mohm,
        "voltage": Standing.resting_voltage_v,
        "due": Standing.not_before,
        "watched": Standing.watched_reading_at,
    }[sort].expression
    order = (column.desc() if falling else column.asc()).nulls_last()
    # First which ones, from narrow rows; then those few with everything.
    page = select(Standing.cell_id).where(*conditions).order_by(order, Standing.cell_id)
    keys = session.scalars(page.offset(offset).limit(min(most, PAGE_MOST))).all()
    shown_step = literal(wanted.step) if wanted.step in WATCHED_STEPS else step
    listed = {each.cell.id: each for each in _listed(session, shown_step, keys)}
    return total, [listed[key] for key in keys]


def shelf_map(session: Session, wanted: CellFilter, now: datetime) -> ShelfMap:
    """All cells of the wanted kind as points. Methods see different quantities: one at a time, unless said the commonest."""
    conditions = _conditions(replace(wanted, resistance_method=None), now)
    conditions += [Standing.capacity_mah > 0, Standing.resistance_mohm > 0, Standing.resistance_method.is_not(None)]
    tallied = (
        select(
            Standing.resistance_method, func.count(), func.min(Standing.capacity_mah), func.max(Standing.capacity_mah),
            func.min(Standing.resistance_mohm), func.max(Standing.resistance_mohm),
        )
        .where(*conditions)
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
    return ShelfMap(method, methods, counts, capacities, resistances, grades)


def _heaped(
    points: Select[*tuple[Any, ...]], least_mah: float, most_mah: float, least_mohm: float, most_mohm: float
) -> Select[*tuple[Any, ...]]:
    """One point in the middle of all cells of a grade that share a field of the map."""
    columns, rows = _FIELDS
    laid = points.add_columns(
        func.floor((Standing.capacity_mah - least_mah) * columns / max(most_mah - least_mah, 1e-9)).label("column"),
        func.floor((Standing.resistance_mohm - least_mohm) * rows / max(most_mohm - least_mohm, 1e-9)).label("row"),
    ).subquery()
    heaps = select(laid.c.grade, func.avg(laid.c.capacity_mah), func.avg(laid.c.resistance_mohm), func.count())
    return heaps.group_by(laid.c.column, laid.c.row, laid.c.grade)


def cells_in_place(session: Session, place: Place, now: datetime) -> tuple[int, list[ListedCell]]:
    """How many cells lie in a place, and the first of them: all of a tray, by their numbered places; of a box one page."""
    wanted = CellFilter(place_id=place.id)
    if place.kind == "tray":
        listed = sorted(candidates(session, wanted, now), key=lambda each: each.cell.slot or 0)
        return len(listed), listed
    return list_cells(session, wanted, now, sort="number", falling=False, offset=0, most=PAGE_MOST)


def candidates(session: Session, wanted: CellFilter, now: datetime) -> list[ListedCell]:
    """All cells of the wanted kind, in order of their numbers."""
    step = _step_now(now)
    found = _listed(session, step, select(Standing.cell_id).where(*_conditions(wanted, now)))
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
    return _listed(session, _step_now(now), keys)


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
        conditions.append(_has_step(wanted.step, now))
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
    step = _step_now(now)
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


def listed_now(session: Session, cell: CellRow, now: datetime) -> ListedCell:
    if cell.handed_over_at is not None:
        return ListedCell(cell, "handed-over", None)
    step, pack_number = session.execute(_step_and_pack(), {"cell_id": cell.id, "now": now}).one()
    return ListedCell(cell, step, pack_number)


@built_once
def _step_and_pack() -> Select[str, str | None]:
    step = _step_now(bindparam("now", type_=DateTime(timezone=True)))
    query = (
        select(step, Pack.number)
        .select_from(Standing)
        .outerjoin(PackCell, and_(PackCell.cell_id == Standing.cell_id, PackCell.released_at.is_(None)))
        .outerjoin(PackGroup, PackGroup.id == PackCell.group_id)
        .outerjoin(Pack, Pack.id == PackGroup.pack_id)
    )
    return query.where(Standing.cell_id == bindparam("cell_id"))
