"""What is next: all cells by their next step, and what the trays wait for."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import TYPE_CHECKING, get_args

from sqlalchemy import DateTime, Select, Text, and_, bindparam, func, or_, select, union_all
from sqlalchemy.dialects.postgresql import array

from zembric.core.next_step.steps import StepCode, Whereabouts
from zembric.models import (
    Place,
    Standing,
)
from zembric.operations.cells.listed import ListedCell, listed_of, on_tester, runs_by_wire, step_now, waited
from zembric.operations.cells.shelf import WATCHED_STEPS, CellFilter, CellPage, list_cells
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy import BindParameter, ColumnElement, TableValuedColumn
    from sqlalchemy.orm import Session

_SHOWN_PER_STEP = 24
_STEPS = (*get_args(StepCode), *get_args(Whereabouts))


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
    counted = _counted(session, now)
    first = []
    for code in sorted(counted):
        asked = _first_on_tester() if code == "on-tester" else _first_of_step()
        first.append((code, session.scalars(asked, {"code": code, "now": now}).all()))
    listed = {each.cell.id: each for each in listed_of(session, now, [key for _, keys in first for key in keys])}
    groups = [StepGroup(code, counted[code], tuple(listed[key] for key in keys)) for code, keys in first]
    return [*groups, *_watched(session, now)]


def _now() -> BindParameter[datetime]:
    return bindparam("now", type_=DateTime(timezone=True))


@built_once
def _first_of_step() -> Select[int]:
    """Those that wait longest. One step at a time, and those whose waiting is over apart: an index leads to two dozen of each."""
    code, free = bindparam("code", type_=Text), or_(~runs_by_wire(), Standing.step == "fire-safe-box")
    return _first(
        and_(Standing.step == code, ~waited(_now()), free),
        and_(Standing.then_step == code, Standing.not_before <= _now(), free),
    )


@built_once
def _first_on_tester() -> Select[int]:
    return _first(on_tester())


def _first(*kinds: ColumnElement[bool]) -> Select[int]:
    order = (Standing.not_before, Standing.cell_id)
    some = [select(*order).where(kind).order_by(*order).limit(_SHOWN_PER_STEP) for kind in kinds]
    found = union_all(*(each.subquery().select() for each in some)).subquery()
    return select(found.c.cell_id).order_by(found.c.not_before, found.c.cell_id).limit(_SHOWN_PER_STEP)


def _counted(session: Session, now: datetime) -> dict[str, int]:
    """How many cells have each step now. What a program runs on is counted apart: it is little, and all others are plain columns."""
    counted: Counter[str] = Counter()
    for row in session.execute(_counts()):
        counted[row.step] = row.cells
    for waited_for in session.execute(_counts_of_waited(), {"now": now}):
        counted[waited_for.step] -= waited_for.cells
        counted[waited_for.then_step] += waited_for.cells
    for driven in session.execute(_on_testers(), {"now": now}):
        counted[driven.then_step if driven.waited else driven.step] -= 1
        counted[driven.now] += 1
    return {code: cells for code, cells in counted.items() if cells}


def _codes() -> TableValuedColumn[str]:
    """Every step that a cell may have as it stands: of each an index tells how many, three times as fast as they are sorted into heaps."""
    return func.unnest(array(_STEPS, type_=Text)).column_valued("code")


@built_once
def _counts() -> Select[str, int]:
    code = _codes()
    return select(
        code.label("step"), select(func.count()).where(Standing.step == code).scalar_subquery().label("cells")
    )


@built_once
def _counts_of_waited() -> Select[str, str, int]:
    """Those whose waiting is over, by the step that they stood at and the one that took its place."""
    code = _codes()
    of_one = select(Standing.step, func.count().label("cells")).group_by(Standing.step)
    here = of_one.where(Standing.then_step == code, Standing.not_before <= _now()).lateral()
    # That of each code is looked for within: the codes come first.
    return select(code.label("then_step"), here.c.step, here.c.cells)


@built_once
def _on_testers() -> Select[str, str | None, bool, str]:
    return select(
        Standing.step, Standing.then_step, waited(_now()).label("waited"), step_now(_now()).label("now")
    ).where(runs_by_wire())


def tray_steps(session: Session, now: datetime) -> list[TraySteps]:
    """Every tray that holds cells, by name, with the steps of its cells."""
    trays: dict[str, TraySteps] = {}
    for number, name, code, count in session.execute(_counts_in_trays(), {"now": now}):
        before = trays.get(number, TraySteps(number, name, ()))
        trays[number] = TraySteps(number, name, (*before.steps, (code, count)))
    return list(trays.values())


@built_once
def _counts_in_trays() -> Select[str, str, str, int]:
    step = step_now(_now()).label("step_now")
    query = select(Place.number, Place.name, step, func.count()).join(Standing, Standing.place_id == Place.id)
    query = query.where(Standing.place_kind == "tray")
    return query.group_by(Place.number, Place.name, step).order_by(Place.name, step)


def _watched(session: Session, now: datetime) -> list[StepGroup]:
    groups = []
    for step in WATCHED_STEPS:
        wanted = CellFilter(step=step)
        total, first, _ = list_cells(session, wanted, now, CellPage("watched", most=_SHOWN_PER_STEP))
        if total:
            groups.append(StepGroup(step, total, tuple(first)))
    return groups
