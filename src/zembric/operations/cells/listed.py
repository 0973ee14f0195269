"""A cell as every list shows it: how it stands now, with what is next and the pack that holds it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import ARRAY, DateTime, Integer, Select, and_, any_, bindparam, case, or_, select
from sqlalchemy.orm import contains_eager, joinedload

from zembric.models import (
    LIVE_STATES,
    CellRow,
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
    from sqlalchemy.orm import Session


@dataclass(frozen=True, slots=True)
class ListedCell:
    """A cell with what to do next now, and the pack that holds it."""

    cell: CellRow
    step: str
    pack_number: str | None


def step_now(now: datetime | BindParameter[datetime]) -> ColumnElement[str]:
    """What to do with a cell now: as it stands, unless a program runs on it or its waiting is over."""
    return case(
        # A hazard comes first, whatever tester holds the cell.
        (on_tester(), "on-tester"),
        (waited(now), Standing.then_step),
        else_=Standing.step,
    )


def waited(now: datetime | BindParameter[datetime]) -> ColumnElement[bool]:
    return and_(Standing.then_step.is_not(None), Standing.not_before.is_not(None), Standing.not_before <= now)


def has_step(code: str, now: datetime) -> ColumnElement[bool]:
    """The same as a condition, in columns that are indexed."""
    if code == "on-tester":
        return on_tester()
    here = or_(
        and_(Standing.step == code, ~waited(now)),
        and_(Standing.then_step == code, Standing.not_before <= now),
    )
    return here if code == "fire-safe-box" else and_(here, ~runs_by_wire())


def on_tester() -> ColumnElement[bool]:
    return and_(runs_by_wire(), Standing.step != "fire-safe-box")


def runs_by_wire() -> ColumnElement[bool]:
    """Whether a program runs on it by itself; a charger that nobody can ask leaves the cell its step, which is entered by hand."""
    live = select(SlotRun.cell_id).join(Slot, Slot.id == SlotRun.slot_id)
    return Standing.cell_id.in_(live.where(SlotRun.state.in_(LIVE_STATES), Slot.tester_id.is_not(None)))


def listed_of(session: Session, now: datetime, cells: Sequence[int], shown: str | None = None) -> list[ListedCell]:
    """Those cells with all that is shown of them, in any order; those that went to the recycler are left out.

    `shown`: what is said of all of them instead of the step that each has now.
    """
    # Planning the question takes longer than most answers to it.
    rows = session.execute(_listed(), {"now": now, "cells": [*cells]}) if cells else ()
    return [ListedCell(cell, shown or step, pack_number) for cell, step, pack_number in rows]


@built_once
def _listed() -> Select[CellRow, str, str | None]:
    return (
        select(CellRow, step_now(bindparam("now", type_=DateTime(timezone=True))), Pack.number)
        .join(Standing, Standing.cell_id == CellRow.id)
        .join(JudgementRow, CellRow.judgement_id == JudgementRow.id)
        .outerjoin(Place, CellRow.place_id == Place.id)
        .outerjoin(PackCell, and_(PackCell.cell_id == CellRow.id, PackCell.released_at.is_(None)))
        .outerjoin(PackGroup, PackGroup.id == PackCell.group_id)
        .outerjoin(Pack, Pack.id == PackGroup.pack_id)
        .where(CellRow.id == any_(bindparam("cells", type_=ARRAY(Integer))))
        .options(
            contains_eager(CellRow.judgement), contains_eager(CellRow.place), joinedload(CellRow.donor, innerjoin=True)
        )
    )


def listed_now(session: Session, cell: CellRow, now: datetime) -> ListedCell:
    if cell.handed_over_at is not None:
        return ListedCell(cell, "handed-over", None)
    step, pack_number = session.execute(_step_and_pack(), {"cell_id": cell.id, "now": now}).one()
    return ListedCell(cell, step, pack_number)


@built_once
def _step_and_pack() -> Select[str, str | None]:
    step = step_now(bindparam("now", type_=DateTime(timezone=True)))
    query = (
        select(step, Pack.number)
        .select_from(Standing)
        .outerjoin(PackCell, and_(PackCell.cell_id == Standing.cell_id, PackCell.released_at.is_(None)))
        .outerjoin(PackGroup, PackGroup.id == PackCell.group_id)
        .outerjoin(Pack, Pack.id == PackGroup.pack_id)
    )
    return query.where(Standing.cell_id == bindparam("cell_id"))
