"""Entries taken back, struck out or corrected: what was typed stays readable."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.errors import ConflictError, DangerError
from zembric.core.said import said
from zembric.models import (
    CellRow,
    ReadingEntry,
    StepEntry,
    WithdrawalEntry,
)
from zembric.operations.actors import require_coordinator, require_them
from zembric.operations.bench.keeping import (
    cell_at_bench,
    checked_why,
    common,
    keep,
)
from zembric.operations.bench.readings import TypedReading, corrected_entry
from zembric.operations.known.entries import counting, entries_of
from zembric.operations.places import (
    is_hazard,
)

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor


_CAN_BE_STRUCK = ("charge", "recovery", "repair", "skip")


def withdraw(session: Session, actor: Actor, typed: str, entry_id: int, now: datetime) -> CellRow:
    """Takes one's own last entry on a cell back; it stays readable and counts no longer.

    Raises:
        ConflictError: it is not the last one that counts, or it was somebody else's.
        DangerError: it found a hazard; that is never taken back.
    """
    cell = cell_at_bench(session, typed)
    counted = counting(entries_of(session, cell.id))
    newest = max(counted, key=lambda entry: entry.id, default=None)
    if newest is None or newest.id != entry_id:
        raise ConflictError(said("only-last-entry-of-cell-can"))
    if newest.person_id != actor.person_id:
        require_coordinator(actor, said("doing-undoing-entry-of", person=newest.person.name))
    if cell.judgement and cell.judgement.next_step == "fire-safe-box":
        raise DangerError(said("hazard-is-never-taken-back"))
    entry = WithdrawalEntry(**common(cell, actor, now), supersedes_id=newest.id)
    keep(session, actor, cell, entry, now, withdrawn=newest.id)
    return cell


def strike(session: Session, actor: Actor, typed: str, entry_id: int, why: str, now: datetime) -> CellRow:
    """Strikes an entry out where nobody knows the right value: it stays readable with the ground, and counts no longer.

    One's own figure can be struck by whoever typed it. What somebody else typed, what was found or done, and whatever
    stands at a cell that is a hazard, is struck by a coordinator only.

    Raises:
        ConflictError: it counts no longer, or is nothing that can be struck out.
        NotAllowedError: a coordinator has to.
    """
    cell = cell_at_bench(session, typed)
    old = next((entry for entry in counting(entries_of(session, cell.id)) if entry.id == entry_id), None)
    if old is None:
        raise ConflictError(said("that-entry-was-corrected-or-taken"))
    if isinstance(old, StepEntry) and old.step not in _CAN_BE_STRUCK:
        raise ConflictError(said("that-is-no-figure"))
    if not isinstance(old, ReadingEntry):
        require_coordinator(actor, said("doing-striking-out-what-was-found"))
    elif old.person_id != actor.person_id:
        require_coordinator(actor, said("doing-striking-out-figure-of", person=old.person.name))
    elif is_hazard(session, cell):
        require_coordinator(actor, said("doing-cell-is-hazard", cell=cell.number))
    entry = WithdrawalEntry(**common(cell, actor, now, checked_why(why)), supersedes_id=old.id)
    keep(session, actor, cell, entry, now, struck=old.id)
    return cell


def correct(
    session: Session, actor: Actor, typed: str, entry_id: int, reading: TypedReading, why: str, now: datetime
) -> CellRow:
    """Replaces a reading by a right one with the ground for it; the old one stays readable.

    Raises:
        ConflictError: it counts no longer, or is another quantity.
        NotAllowedError: somebody else typed it; they or a coordinator have to.
    """
    cell = cell_at_bench(session, typed)
    old = next((entry for entry in counting(entries_of(session, cell.id)) if entry.id == entry_id), None)
    if not isinstance(old, ReadingEntry) or old.quantity != reading.quantity:
        raise ConflictError(said("that-reading-was-corrected-or-taken"))
    require_them(actor, old.person, said("doing-correcting-reading"))
    entry = corrected_entry(session, actor, cell, reading, old)
    entry.recorded_at, entry.supersedes_id, entry.why = now, old.id, checked_why(why)
    keep(session, actor, cell, entry, now, corrected=old.id, value=entry.value)
    return cell
