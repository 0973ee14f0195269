"""What is next: all cells by their next step, and what the trays wait for."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import Select, and_, func, or_, select, union_all

from zembric.models import (
    Place,
    Standing,
)
from zembric.operations.cells.listed import ListedCell, has_step, listed_of, runs_by_wire, step_now, waited
from zembric.operations.cells.shelf import WATCHED_STEPS, CellFilter, list_cells

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy import ColumnElement
    from sqlalchemy.orm import Session

_SHOWN_PER_STEP = 24


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


def by_step(session: Session, now: datetime) -> list[StepGroup]:
    """All cells here by next step; of each step the first ones, those that wait longest first.

    Cells that are watched at rest stand in a group of their own beside that of their next step.
    """
    step = step_now(now)
    counted = _counted(session, step, now)
    first = []
    for code in sorted(counted):
        first.append((code, session.scalars(_first_of_step(code, now)).all()))
    listed = {each.cell.id: each for each in listed_of(session, step, [key for _, keys in first for key in keys])}
    groups = [StepGroup(code, counted[code], tuple(listed[key] for key in keys)) for code, keys in first]
    return [*groups, *_watched(session, now)]


def _first_of_step(code: str, now: datetime) -> Select[int]:
    """Those that wait longest. One step at a time, and those whose waiting is over apart: an index leads to two dozen of each."""
    free = or_(~runs_by_wire(), Standing.step == "fire-safe-box")
    kinds: list[ColumnElement[bool]] = [
        and_(Standing.step == code, ~waited(now), free),
        and_(Standing.then_step == code, Standing.not_before <= now, free),
    ]
    if code == "on-tester":
        kinds = [has_step(code, now)]
    order = (Standing.not_before, Standing.cell_id)
    some = [select(*order).where(kind).order_by(*order).limit(_SHOWN_PER_STEP) for kind in kinds]
    found = union_all(*(each.subquery().select() for each in some)).subquery()
    return select(found.c.cell_id).order_by(found.c.not_before, found.c.cell_id).limit(_SHOWN_PER_STEP)


def _counted(session: Session, step: ColumnElement[str], now: datetime) -> dict[str, int]:
    """How many cells have each step now. What a program runs on is counted apart: it is little, and all others are plain columns."""
    has_waited = waited(now).label("waited")
    each = select(Standing.step, Standing.then_step, has_waited).subquery()
    plain = select(each, func.count().label("cells")).group_by(each.c.step, each.c.then_step, each.c.waited)
    counted: Counter[str] = Counter()
    for row in session.execute(plain):
        counted[row.then_step if row.waited else row.step] += row.cells
    for row in session.execute(
        select(Standing.step, Standing.then_step, has_waited, step.label("now")).where(runs_by_wire())
    ):
        counted[row.then_step if row.waited else row.step] -= 1
        counted[row.now] += 1
    return {code: cells for code, cells in counted.items() if cells}


def tray_steps(session: Session, now: datetime) -> list[TraySteps]:
    """Every tray that holds cells, by name, with the steps of its cells."""
    step = step_now(now)
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
