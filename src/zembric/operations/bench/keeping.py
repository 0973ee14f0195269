"""How an entry is kept: the cell in hand, its time, its line in the record, the judgement that follows, and what a hazard sets in motion."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Any, TypeAlias

from sqlalchemy import Select, bindparam, select
from sqlalchemy.orm import joinedload

from zembric.core.errors import BadInputError, ConflictError, DangerError, NotFoundError
from zembric.core.identify.numbering import read_number as read_thing_number
from zembric.core.said import from_json, said, to_json
from zembric.models import (
    CellRow,
    Entry,
    InspectionEntry,
    JudgementRow,
    Pack,
    PackCell,
    PackGroup,
    ReadingEntry,
    StepEntry,
    WithdrawalEntry,
)
from zembric.operations.cells.judged import rejudge
from zembric.operations.known.entries import forget_entries, hazards_found
from zembric.operations.places import (
    is_hazard,
    place_of_kind,
)
from zembric.operations.queue import JUDGE_SIBLINGS, JUDGING, put_once
from zembric.operations.record import note
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.story import Near
    from zembric.operations.actors import Actor


WHY_MOST = 300


_WAITED_MOST = timedelta(days=7)


_CLOCKS_APART = timedelta(minutes=10)


_FAR_AWAY_PACK_STATE = "given-out"


#: In a box without numbered places all are looked at once more, as long as they are not more than this.
_LOOKED_AT_IN_A_BOX = 200


@dataclass(frozen=True, slots=True)
class OnPaper:
    """When something was done that stood on paper until now."""

    at: datetime


#: When an entry was typed on a device that had no connection, or done where it stood on paper; None: just now.
TypedAt: TypeAlias = "datetime | OnPaper | None"


def cell_at_bench(session: Session, typed: str, *, wherever: bool = False) -> CellRow:
    """The cell with a typed number, locked, so that two entries for one cell are judged one after the other.

    It alone, and no longer than the entry takes: what it tells of its siblings is judged behind the answer.
    It is read only once the lock is held: whoever waited for it sees what the one before made of the cell.

    `wherever`: also where it was given out in a pack, as somebody calls about it.

    Raises: as `cell_in_hand`.
    """
    number = read_thing_number("cell", typed)
    session.execute(_to_lock(), {"number": number})
    forget_entries(session)
    return cell_in_hand(session, number, wherever=wherever)


def cell_in_hand(session: Session, typed: str, *, wherever: bool = False) -> CellRow:
    """The cell with a typed number, for reading.

    Raises:
        BadInputError: the number cannot be right.
        NotFoundError: nobody gave out that number.
        ConflictError: the cell is no longer here, or given out in a pack.
    """
    number = read_thing_number("cell", typed)
    found = session.execute(_cell_with_pack_far_away(), {"number": number}).one_or_none()
    if found is None:
        raise NotFoundError(said("there-is-no-cell-here", number=number))
    cell, pack = found
    if cell.handed_over_at:
        raise ConflictError(said("cell-went-to-recycler-on", number=number, on=f"{cell.handed_over_at:%Y-%m-%d}"))
    if pack and not wherever:
        raise ConflictError(said("cell-was-given-out-in-pack", number=number, pack=pack))
    return cell


@built_once
def _to_lock() -> Select[int]:
    return select(CellRow.id).where(CellRow.number == bindparam("number")).with_for_update(key_share=True)


@built_once
def _cell_with_pack_far_away() -> Select[CellRow, str | None]:
    far_away = (
        select(Pack.number)
        .join(PackGroup)
        .join(PackCell)
        .where(PackCell.cell_id == CellRow.id, PackCell.released_at.is_(None), Pack.state == _FAR_AWAY_PACK_STATE)
        .correlate(CellRow)
        .scalar_subquery()
    )
    return (
        select(CellRow, far_away)
        .where(CellRow.number == bindparam("number"))
        .options(joinedload(CellRow.donor, innerjoin=True), joinedload(CellRow.judgement), joinedload(CellRow.place))
        .execution_options(populate_existing=True)
    )


def common(
    cell: CellRow, actor: Actor, now: datetime, why: str | None = None, at: datetime | None = None
) -> dict[str, Any]:
    return {"cell_id": cell.id, "person_id": actor.person_id, "at": at or now, "recorded_at": now, "why": why}


def when_done(cell: CellRow, now: datetime, typed_at: TypedAt) -> datetime:
    """When an entry counts from; a device's clock may run ahead of ours.

    Raises:
        BadInputError: before its donor was opened; so long ago that the clock of a device must be wrong; or on paper
            and in the future.
    """
    if isinstance(typed_at, OnPaper):
        return _when_on_paper(cell, now, typed_at.at)
    if typed_at is None or typed_at >= now:
        return now
    if now - typed_at > _WAITED_MOST or typed_at < cell.donor.opened_at - _CLOCKS_APART:
        raise BadInputError(
            said("this-entry-for-cell-says", cell=cell.number, on=f"{typed_at:%Y-%m-%d at %H:%M}"),
            field="typed_at",
        )
    return max(typed_at, cell.donor.opened_at)


def _when_on_paper(cell: CellRow, now: datetime, at: datetime) -> datetime:
    if at > now:
        raise BadInputError(said("what-stands-on-paper-was-done"), field="paper_at")
    if at < cell.donor.opened_at:
        raise BadInputError(
            said("donor-of-cell-was-opened-on", cell=cell.number, on=f"{cell.donor.opened_at:%Y-%m-%d at %H:%M}"),
            field="paper_at",
        )
    return at


def _follow_hazard(session: Session, actor: Actor, cell: CellRow, found_at: datetime, now: datetime) -> None:
    """What a hazard sets in motion, wherever it was found: its box, its pack, and all that were near it."""
    assert cell.judgement is not None
    why = next(from_json(reason["said"]) for reason in cell.judgement.reasons if reason["code"] == "hazard")
    member = session.scalar(
        select(PackCell)
        .where(PackCell.cell_id == cell.id, PackCell.released_at.is_(None))
        .options(joinedload(PackCell.group).joinedload(PackGroup.pack))
    )
    pack = member.group.pack if member else None
    beside = _beside(session, cell, pack)
    if pack is None or pack.state == "planned":
        cell.place, cell.slot, cell.in_use_in = place_of_kind(session, "fire-safe-box"), None, None
        note(session, actor, "moved", now, cell_id=cell.id, place=cell.place.name, why="hazard")
    elif pack.stopped_at is None:
        pack.stopped_at, pack.stopped_by_id = now, actor.person_id
        pack.stopped_why = to_json(said("stopped-by-cell", cell=cell.number, ground=why))
        note(session, actor, "pack-stopped", now, pack_id=pack.id, pack=pack.number, stopped=pack.stopped_why)
    _flag_near(session, actor, cell, beside, found_at, now)


def _beside(session: Session, cell: CellRow, pack: Pack | None) -> dict[int, Near]:
    """The cells that were near this one, by how: of its pack, beside it in its tray, or in a box with it; then of its donor."""
    near: dict[int, Near] = {}
    siblings = select(CellRow.id).where(CellRow.donor_id == cell.donor_id, CellRow.id != cell.id)
    near |= dict.fromkeys(session.scalars(siblings), "donor")
    if cell.place_id is not None and (cell.place is None or cell.place.kind != "fire-safe-box"):
        lying = select(CellRow.id).where(CellRow.place_id == cell.place_id, CellRow.id != cell.id)
        if cell.slot is not None:
            columns = (cell.place.columns if cell.place else None) or 1
            lying = lying.where(CellRow.slot.in_(_slots_round(cell.slot, columns)))
        found = session.scalars(lying.limit(_LOOKED_AT_IN_A_BOX + 1)).all()
        if len(found) <= _LOOKED_AT_IN_A_BOX:
            near |= {each: "place" for each in found if each not in near}
    if pack is not None:
        members = select(PackCell.cell_id).join(PackGroup).where(
            PackGroup.pack_id == pack.id, PackCell.released_at.is_(None), PackCell.cell_id != cell.id
        )  # fmt: skip
        near |= dict.fromkeys(session.scalars(members), "pack")
    return near


def _slots_round(slot: int, columns: int) -> list[int]:
    """The numbered places that touch one, in a tray counted row by row."""
    row, column = divmod(slot - 1, columns)
    return [
        other_row * columns + other_column + 1
        for other_row in range(max(row - 1, 0), row + 2)
        for other_column in range(max(column - 1, 0), min(column + 2, columns))
        if (other_row, other_column) != (row, column)
    ]


def _flag_near(
    session: Session, actor: Actor, cell: CellRow, near: Mapping[int, Near], found_at: datetime, now: datetime
) -> None:
    """Every cell near it that is still here is looked at once more; those on their way out anyway are left.

    Whoever found it and looked at others after that knew of it, also where those looks came here first, over a slow Wi-Fi.
    """
    query = (
        select(CellRow)
        .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(CellRow.id.in_(near), CellRow.handed_over_at.is_(None), JudgementRow.grade != "out")
        .order_by(CellRow.id)
        .with_for_update(of=CellRow, key_share=True)
        .execution_options(populate_existing=True)
    )
    findings = sorted(hazards_found(session, cell.id))
    looks = select(InspectionEntry.cell_id).where(
        InspectionEntry.cell_id.in_(near), InspectionEntry.person_id == actor.person_id, InspectionEntry.at > found_at
    )
    looked_at = set(session.scalars(looks))
    for other in session.scalars(query).all():
        details = {"sibling": cell.number, "findings": findings, "near": near[other.id]}
        at = found_at if other.id in looked_at else now
        entry = StepEntry(**common(other, actor, now, at=at), step="second-look", details=details)
        keep(session, actor, other, entry, now, **details)


def keep_step(
    session: Session,
    actor: Actor,
    cell: CellRow,
    step: str,
    details: dict[str, Any],
    now: datetime,
    *,
    why: str | None = None,
) -> None:
    """Keeps something done with a cell, and judges it anew."""
    keep(session, actor, cell, StepEntry(**common(cell, actor, now, why), step=step, details=details), now, **details)


def add(session: Session, actor: Actor, cell: CellRow, entry: Entry, now: datetime, **details: Any) -> None:
    session.add(entry)
    note(session, actor, entry.kind, now, cell_id=cell.id, why=entry.why, **details)


def keep(session: Session, actor: Actor, cell: CellRow, entry: Entry, now: datetime, **details: Any) -> None:
    """Adds the entry, its line in the record, and the judgement that follows."""
    was_hazard = cell.judgement is not None and cell.judgement.next_step == "fire-safe-box"
    add(session, actor, cell, entry, now, **details)
    rejudge(session, cell, now)
    if not was_hazard and cell.judgement and cell.judgement.next_step == "fire-safe-box":
        _follow_hazard(session, actor, cell, entry.at, now)
    if _tells_of_siblings(session, entry):
        put_once(session, JUDGE_SIBLINGS, JUDGING, f"donor-{cell.donor_id}", donor_id=cell.donor_id)


def _tells_of_siblings(session: Session, entry: Entry) -> bool:
    """Whether a voltage came or went that the cells of the same donor are held against."""
    read = session.get(Entry, entry.supersedes_id) if isinstance(entry, WithdrawalEntry) else entry
    return isinstance(read, ReadingEntry) and read.quantity == "voltage"


def checked_why(why: str) -> str:
    why = why.strip()
    if not 3 <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=WHY_MOST), field="why")
    return why


def refuse_work_on_hazard(session: Session, cell: CellRow) -> None:
    if is_hazard(session, cell):
        raise DangerError(said("cell-is-hazard", cell=cell.number))
