"""One cell with all that was ever said of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from zembric.core.errors import NotFoundError
from zembric.core.identify.numbering import read_number
from zembric.core.measure.repeats import Repeats, repeats_of
from zembric.core.said import said
from zembric.models import (
    CellRow,
    Entry,
    Happening,
    JudgementRow,
)
from zembric.operations.cells.judged import facts_of, story_of
from zembric.operations.cells.listed import ListedCell, listed_now
from zembric.operations.cells.siblings import gap_to_siblings
from zembric.operations.known.entries import counting, entries_of
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session


@dataclass(frozen=True, slots=True)
class CellStory:
    """Everything known of one cell."""

    listed: ListedCell
    entries: Sequence[Entry]
    judgements: Sequence[JudgementRow]
    happenings: Sequence[Happening]
    siblings: Sequence[CellRow]
    gap_to_siblings_v: float | None
    repeats: Repeats


def get_cell(session: Session, typed: str) -> CellRow:
    """The cell with a typed number, wherever it is by now.

    Raises:
        BadInputError: the number cannot be right.
        NotFoundError: nobody gave it out.
    """
    number = read_number("cell", typed)
    cell = session.scalar(
        select(CellRow).where(CellRow.number == number).options(joinedload(CellRow.donor), joinedload(CellRow.model))
    )
    if cell is None:
        raise NotFoundError(said("there-is-no-cell-here", number=number))
    return cell


def cell_story(session: Session, typed: str, now: datetime) -> CellStory:
    """One cell with all that was ever said of it, also after it went to the recycler."""
    number = read_number("cell", typed)
    cell = session.scalar(
        select(CellRow)
        .where(CellRow.number == number)
        .options(joinedload(CellRow.judgement), joinedload(CellRow.place), joinedload(CellRow.donor))
    )
    if cell is None:
        raise NotFoundError(said("there-is-no-cell-here", number=number))
    siblings = session.scalars(
        select(CellRow)
        .where(CellRow.donor_id == cell.donor_id, CellRow.id != cell.id)
        .options(joinedload(CellRow.judgement))
        .order_by(CellRow.id)
    ).all()
    entries, rules = entries_of(session, cell.id), rules_in_force(session)
    return CellStory(
        listed=listed_now(session, cell, now),
        entries=entries,
        judgements=session.scalars(
            select(JudgementRow).where(JudgementRow.cell_id == cell.id).order_by(JudgementRow.id)
        ).all(),
        happenings=session.scalars(
            select(Happening).where(Happening.cell_id == cell.id).order_by(Happening.at, Happening.id)
        ).all(),
        siblings=siblings,
        gap_to_siblings_v=gap_to_siblings(session, cell, rules),
        repeats=repeats_of(story_of(session, cell), rules.for_cell(facts_of(cell, cell.model))),
    )


@dataclass(frozen=True, slots=True)
class AfterEntry:
    """A cell just after an entry, with the entry that could be undone (None: none counts)."""

    listed: ListedCell
    entry_id: int | None
    gap_to_siblings_v: float | None


def after_entry(session: Session, cell: CellRow, now: datetime) -> AfterEntry:
    newest = max((entry.id for entry in counting(entries_of(session, cell.id))), default=None)
    return AfterEntry(listed_now(session, cell, now), newest, gap_to_siblings(session, cell, rules_in_force(session)))
