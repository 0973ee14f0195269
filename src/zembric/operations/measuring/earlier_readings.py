"""An instrument's correction taken to what it measured before: seen first, kept as corrections, and taken back as a whole."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from sqlalchemy import select
from sqlalchemy.orm import aliased

from zembric.core.errors import ConflictError, NotFoundError
from zembric.core.said import Amount, Said, as_said, from_json, plain, said, to_json
from zembric.models import CellRow, Correction, Entry, ReadingEntry
from zembric.operations.actors import require_coordinator
from zembric.operations.cells.judged import rejudge
from zembric.operations.known.instruments import get_instrument
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy import ColumnElement
    from sqlalchemy.orm import Session

    from zembric.models import Instrument
    from zembric.operations.actors import Actor

#: Marks a reading that was corrected afterwards, so that all of them are found again.
_EARLIER = "corrected_afterwards"


@dataclass(frozen=True, slots=True)
class EarlierReading:
    """One reading, before and after, with the grade of its cell then."""

    number: str
    at: datetime
    before: float
    after: float
    grade_before: str
    grade_after: str


@dataclass(frozen=True, slots=True)
class Earlier:
    """What a correction does, or did, to earlier readings; `corrected`: how many carry it afterwards already."""

    readings: tuple[EarlierReading, ...]
    corrected: int


def preview_earlier(session: Session, actor: Actor, number: str, correction_id: int, now: datetime) -> Earlier:
    """What correcting earlier readings would come to, grades included; nothing of it stays."""
    instrument, correction = _get(session, number, correction_id)
    corrected = len(_corrected(session, correction))
    trial = session.begin_nested()
    try:
        found = _correct(session, actor, instrument, correction, now)
    finally:
        trial.rollback()
    return Earlier(found, corrected)


def correct_earlier(session: Session, actor: Actor, number: str, correction_id: int, now: datetime) -> Earlier:
    """Corrects every reading the instrument gave before, as far as it counts; each keeps what was shown then.

    Raises:
        ConflictError: the correction has ended, or there is nothing to correct.
    """
    require_coordinator(actor, said("doing-correcting-earlier-readings"))
    instrument, correction = _get(session, number, correction_id)
    if correction.ended_at is not None:
        raise ConflictError(said("this-correction-has-ended"))
    found = _correct(session, actor, instrument, correction, now)
    if not found:
        raise ConflictError(said("there-is-no-earlier-reading-without"))
    note(
        session, actor, "earlier-corrected", now, instrument=instrument.number, readings=len(found), correction=correction.id
    )  # fmt: skip
    return Earlier(found, len(_corrected(session, correction)))


def take_back_earlier(session: Session, actor: Actor, number: str, correction_id: int, now: datetime) -> Earlier:
    """Earlier readings that were corrected afterwards stand as they were shown again.

    Raises:
        ConflictError: none carries it.
    """
    require_coordinator(actor, said("doing-taking-back-what-was-corrected"))
    instrument, correction = _get(session, number, correction_id)
    corrected = _corrected(session, correction)
    if not corrected:
        raise ConflictError(said("no-earlier-reading-carries-this-correction"))
    pairs = [(entry, _copy(_shown(session, entry), actor, now)) for entry in corrected]
    found = _put(session, pairs, said("correction-taken-back", instrument=instrument.number), now)
    note(
        session, actor, "earlier-taken-back", now, instrument=instrument.number, readings=len(found), correction=correction.id
    )  # fmt: skip
    return Earlier(found, 0)


def _get(session: Session, number: str, correction_id: int) -> tuple[Instrument, Correction]:
    instrument = get_instrument(session, number)
    correction = next((each for each in instrument.corrections if each.id == correction_id), None)
    if correction is None:
        raise NotFoundError(said("has-no-such-correction", instrument=instrument.number))
    return instrument, correction


def _correct(
    session: Session, actor: Actor, instrument: Instrument, correction: Correction, now: datetime
) -> tuple[EarlierReading, ...]:
    pairs = []
    for old in _counting(
        session, ReadingEntry.instrument_id == instrument.id, ReadingEntry.quantity == correction.quantity,
        ReadingEntry.correction_id.is_(None),
    ):  # fmt: skip
        new = _copy(old, actor, now)
        then = said("adjusted-afterwards", factor=Amount(correction.factor, "", 4), instrument=instrument.number)
        worked = said("worked-then", worked=_worked(old), then=then)
        new.value, new.standard_u = old.value * correction.factor, old.standard_u * correction.factor
        new.correction_id = correction.id
        new.conditions = old.conditions | {
            "raw_value": old.conditions.get("raw_value", old.value), "worked": to_json(worked),
            _EARLIER: True,
        }  # fmt: skip
        pairs.append((old, new))
    return _put(session, pairs, said("correction-of", instrument=instrument.number), now)


def _worked(reading: ReadingEntry) -> Said:
    """How a reading was worked out; until 2026-11 that was kept in words, and rows are never rewritten."""
    kept = reading.conditions.get("worked")
    if kept is None:
        return said("worked-typed", value=plain(reading.value))
    return as_said(kept) if isinstance(kept, str) else from_json(kept)


def _put(
    session: Session, pairs: Sequence[tuple[ReadingEntry, ReadingEntry]], why: Said, now: datetime
) -> tuple[EarlierReading, ...]:
    """Puts each new reading in the place of its old one, and judges the cells anew, all locked in one order."""
    ids = sorted({old.cell_id for old, _ in pairs})
    query = select(CellRow).where(CellRow.id.in_(ids)).order_by(CellRow.id).with_for_update(of=CellRow, key_share=True)
    cells = {cell.id: cell for cell in session.scalars(query)}
    before = {cell.id: cell.judgement.grade if cell.judgement else "not-yet" for cell in cells.values()}
    for old, new in pairs:
        new.supersedes_id, new.conditions = old.id, new.conditions | {"why": to_json(why)}
        session.add(new)
    session.flush()
    after = {cell.id: rejudge(session, cell, now).grade for cell in cells.values()}
    return tuple(
        EarlierReading(cells[old.cell_id].number, old.at, old.value, new.value, before[old.cell_id], after[old.cell_id])
        for old, new in pairs
    )


def _counting(session: Session, *conditions: ColumnElement[bool]) -> Sequence[ReadingEntry]:
    """Readings that count, of cells that are still here, in order of their cells."""
    superseder = aliased(Entry)
    query = (
        select(ReadingEntry)
        .join(CellRow, CellRow.id == ReadingEntry.cell_id)
        .where(
            *conditions,
            CellRow.handed_over_at.is_(None),
            ~select(superseder.id).where(superseder.supersedes_id == ReadingEntry.id).exists(),
        )
        .order_by(ReadingEntry.cell_id, ReadingEntry.at, ReadingEntry.id)
    )
    return session.scalars(query).all()


def _corrected(session: Session, correction: Correction) -> list[ReadingEntry]:
    found = _counting(session, ReadingEntry.correction_id == correction.id)
    return [entry for entry in found if entry.conditions.get(_EARLIER)]


def _shown(session: Session, entry: ReadingEntry) -> ReadingEntry:
    """The reading as it stood before it was corrected afterwards."""
    assert entry.supersedes_id is not None
    return session.get_one(ReadingEntry, entry.supersedes_id)


def _copy(old: ReadingEntry, actor: Actor, now: datetime) -> ReadingEntry:
    kept: dict[str, Any] = {
        key: getattr(old, key)
        for key in (
            "cell_id", "at", "quantity", "value", "unit", "method", "conditions", "standard_u", "instrument_id",
            "correction_id", "log_id",
        )
    }  # fmt: skip
    return ReadingEntry(**kept, person_id=actor.person_id, recorded_at=now)
