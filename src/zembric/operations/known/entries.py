"""What was entered for a cell, read once a transaction: checks, judge and answer of one entry all ask for it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import bindparam, event, select
from sqlalchemy.orm import Session, with_polymorphic

from zembric.core.story import HAZARDS
from zembric.models import Entry, InspectionEntry, ReadingEntry, StepEntry
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy import Select

_ENTRIES = "zembric-entries"


def entries_of(session: Session, cell_id: int) -> Sequence[Entry]:
    """All entries of a cell in order of time, superseded and withdrawn ones included; those just added with them."""
    if session.autoflush:
        session.flush()
    known = _known(session)
    if cell_id not in known:
        known[cell_id] = list(session.scalars(_entries_of_one(), {"cell_id": cell_id}))
    return tuple(known[cell_id])


def counting(entries: Sequence[Entry]) -> list[Entry]:
    """The entries that count: not superseded, not withdrawn."""
    superseded = {entry.supersedes_id for entry in entries}
    return [entry for entry in entries if entry.id not in superseded and entry.kind != "withdrawal"]


def hazards_found(session: Session, cell_id: int) -> set[str]:
    """The hazards that were ever found on a cell, also where the finding was struck out later."""
    looks = (entry for entry in entries_of(session, cell_id) if isinstance(entry, InspectionEntry))
    return {finding for look in looks for finding in look.findings} & HAZARDS


def forget_entries(session: Session) -> None:
    """Others may have entered something meanwhile: what is asked from here on is read anew."""
    session.info.pop(_ENTRIES, None)


@dataclass(slots=True)
class _Known:
    transaction: object
    of_cells: dict[int, list[Entry]]


def _known(session: Session) -> dict[int, list[Entry]]:
    known: _Known | None = session.info.get(_ENTRIES)
    if known is None or known.transaction is not session.get_transaction():
        known = session.info[_ENTRIES] = _Known(session.get_transaction(), {})
    return known.of_cells


@event.listens_for(Session, "after_flush")
def _add_to_known(session: Session, _: object) -> None:
    known: _Known | None = session.info.get(_ENTRIES)
    for entry in session.new:
        if known is not None and isinstance(entry, Entry) and entry.cell_id in known.of_cells:
            of_cell = known.of_cells[entry.cell_id]
            of_cell.append(entry)
            of_cell.sort(key=lambda each: (each.at, each.id))


@event.listens_for(Session, "after_soft_rollback")
def _forget_what_was_rolled_back(session: Session, _: object) -> None:
    forget_entries(session)


@built_once
def _entries_of_one() -> Select[Entry]:
    """One query for all kinds of entry: a cell has a few dozen."""
    any_entry = with_polymorphic(Entry, [InspectionEntry, ReadingEntry, StepEntry])
    query = select(any_entry).where(any_entry.cell_id == bindparam("cell_id"))
    return query.order_by(any_entry.at, any_entry.id)
