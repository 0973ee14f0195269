"""Entries at the bench: each is checked, kept, and answered with the cell's new judgement."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta
from functools import cache
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, Literal, TypeAlias

from sqlalchemy import Select, bindparam, select
from sqlalchemy.orm import joinedload

from zembric.core.errors import BadInputError, ConflictError, DangerError, NotFoundError
from zembric.core.grade.assessment import assess
from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v, overfull_above_v
from zembric.core.identify.numbering import read_number as read_thing_number
from zembric.core.measure.entry_checks import KnownOfCell, check_voltage, read_minutes, read_number
from zembric.core.measure.first_voltage import nothing_reached
from zembric.core.measure.voltage_states import state_question
from zembric.core.pack.rules import NOT_ONTO_THE_SHELF
from zembric.core.said import from_json, said, to_json, volts
from zembric.core.story import HAZARDS, REPAIRABLE, Finding
from zembric.models import (
    CellRow,
    Entry,
    InspectionEntry,
    JudgementRow,
    Pack,
    PackCell,
    PackGroup,
    Place,
    ReadingEntry,
    StepEntry,
    WithdrawalEntry,
)
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.readings import TypedReading, corrected_entry, heat_details, reading_entry
from zembric.operations.cells.judged import rejudge, rejudge_siblings, story_of
from zembric.operations.known.entries import counting, entries_of, forget_entries, hazards_found
from zembric.operations.known.judgements import next_said
from zembric.operations.known.rules import rules_in_force
from zembric.operations.places import (
    get_place,
    is_hazard,
    move_cell,
    move_cursor,
    place_of_kind,
    refuse_full,
)
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.story import Near, OverruledGrade, SkippedQuantity, Warmth
    from zembric.operations.actors import Actor

WHY_MOST = 300
_WAITED_MOST = timedelta(days=7)
_CLOCKS_APART = timedelta(minutes=10)
# A low cell is brought up slowly first; one that rests above full waits for a coordinator.
_NO_CHARGE_BEFORE = ("recover", "decide")
_CAN_BE_STRUCK = ("charge", "recovery", "repair", "skip")
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

    Its siblings of the same donor are locked with it, all in one order: an entry may tell of them too.
    It is read only once the lock is held: whoever waited for it sees what the one before made of the cell.

    `wherever`: also where it was given out in a pack, as somebody calls about it.

    Raises: as `cell_in_hand`.
    """
    number = read_thing_number("cell", typed)
    session.execute(_siblings_to_lock(), {"number": number})
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


# Built once: every entry asks them, and to build them takes longer than to run them.


@cache
def _siblings_to_lock() -> Select[int]:
    donor_id = select(CellRow.donor_id).where(CellRow.number == bindparam("number")).scalar_subquery()
    return select(CellRow.id).where(CellRow.donor_id == donor_id).order_by(CellRow.id).with_for_update()


@cache
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


def inspect(
    session: Session,
    actor: Actor,
    typed: str,
    findings: Sequence[str],
    now: datetime,
    *,
    heat: Mapping[str, Any] = MappingProxyType({}),
    typed_at: TypedAt = None,
) -> CellRow:
    """A look at the cell, with how warm it was. A hazard is followed up at once, whatever the cell was meant for.

    A cell in a pack that was given out can be found a hazard too: whoever has it calls, perhaps only to say it is warm.
    """
    found = _findings(findings)
    cell = cell_at_bench(session, typed, wherever=_is_called_about(found, heat))
    _inspect(session, actor, cell, found, heat, now, typed_at)
    return cell


def first_look(
    session: Session,
    actor: Actor,
    typed: str,
    findings: Sequence[str],
    reading: TypedReading | None,
    now: datetime,
    *,
    heat: Mapping[str, Any] = MappingProxyType({}),
    typed_at: TypedAt = None,
) -> CellRow:
    """A look and the voltage after it in one go, as a tray is walked through; also moves the tray's cursor on.

    Raises:
        DangerError: a hazard was found by eye and a voltage came with it; nothing is kept then.
    """
    found = _findings(findings)
    # Nobody measures a cell over the telephone.
    cell = cell_at_bench(session, typed, wherever=reading is None and _is_called_about(found, heat))
    # Where it lies before it is looked at: a hazard is moved.
    slot, tray = cell.slot, cell.place if cell.slot else None
    if reading is None:
        _inspect(session, actor, cell, found, heat, now, typed_at)
    elif any(value is not None for value in heat.values()):
        # Its warmth may make it a hazard, and a hazard is not measured any more: what was measured before is kept first.
        _measure(session, actor, cell, reading, now, typed_at)
        _inspect(session, actor, cell, found, heat, now, typed_at)
    else:
        if found & HAZARDS:
            raise DangerError(said("cell-is-hazard-not-measured", cell=cell.number))
        refuse_work_on_hazard(session, cell)
        # Look and voltage go to the database together.
        with session.no_autoflush:
            _add(
                session, actor, cell, _inspection(cell, actor, found, heat, now, typed_at), now, findings=sorted(found)
            )
            _measure(session, actor, cell, reading, now, typed_at)
    if tray is not None and slot is not None:
        move_cursor(tray, slot, actor, now)
    return cell


def measure(
    session: Session,
    actor: Actor,
    typed: str,
    reading: TypedReading,
    now: datetime,
    *,
    typed_at: TypedAt = None,
) -> CellRow:
    """A voltage, capacity or resistance as it was typed.

    Raises:
        BadInputError: the value cannot be, with the likely one offered.
        OddInputError: the value should be looked at once more; confirmed, it is taken.
        DangerError: the cell is a hazard and must not be worked on.
    """
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    _measure(session, actor, cell, reading, now, typed_at)
    return cell


def _is_called_about(found: frozenset[Finding], heat: Mapping[str, Any]) -> bool:
    """Whether somebody who has it in a pack may say so: a hazard, or that it is warm."""
    return bool(found & HAZARDS) or any(value is not None for value in heat.values())


def _inspection(
    cell: CellRow,
    actor: Actor,
    found: frozenset[Finding],
    heat: Mapping[str, Any],
    now: datetime,
    typed_at: TypedAt,
) -> InspectionEntry:
    at = _when(cell, now, typed_at)
    return InspectionEntry(**_common(cell, actor, now, at=at), findings=sorted(found), heat=dict(heat))


def _inspect(
    session: Session,
    actor: Actor,
    cell: CellRow,
    found: frozenset[Finding],
    heat: Mapping[str, Any],
    now: datetime,
    typed_at: TypedAt,
) -> None:
    _keep(session, actor, cell, _inspection(cell, actor, found, heat, now, typed_at), now, findings=sorted(found))


def _measure(
    session: Session, actor: Actor, cell: CellRow, reading: TypedReading, now: datetime, typed_at: TypedAt
) -> None:
    at = _when(cell, now, typed_at)
    if reading.state is None:
        question = state_question(story_of(session, cell), at, rules_in_force(session))
        reading = replace(reading, state=question.likely if question else "resting")
    entry = reading_entry(session, actor, cell, reading, at)
    entry.recorded_at = now
    if reading.turned == "can-is-plus":
        cell.plus_end = "can"
    _keep(session, actor, cell, entry, now, quantity=reading.quantity, value=entry.value)


def keep_reading(
    session: Session,
    actor: Actor,
    cell: CellRow,
    entry: ReadingEntry,
    now: datetime,
    *,
    typed_at: TypedAt = None,
) -> CellRow:
    """A reading that was worked out elsewhere, for a cell that is locked."""
    entry.cell_id, entry.person_id, entry.recorded_at = cell.id, actor.person_id, now
    entry.at = _when(cell, now, typed_at)
    _keep(session, actor, cell, entry, now, quantity=entry.quantity, value=entry.value)
    return cell


def keep_charge(
    session: Session, actor: Actor, cell: CellRow, end_v: float, complete: bool, minutes: float, now: datetime
) -> None:
    """A charge that was read from a log, for a cell that is locked. It happened, so it is kept, however far it went."""
    keep_step(session, actor, cell, "charge", {"complete": complete, "end_v": end_v, "minutes": minutes}, now)


@dataclass(frozen=True, slots=True)
class TypedCharge:
    """A finished charge as it was typed. `happened`: it went too far, and is written down as what happened."""

    end_v: str
    complete: bool
    minutes: str | None = None
    cell_degc: str | None = None
    bench_degc: str | None = None
    warmth: Warmth | None = None
    happened: bool = False


def charge(
    session: Session,
    actor: Actor,
    typed: str,
    charged: TypedCharge,
    now: datetime,
    *,
    typed_at: TypedAt = None,
) -> CellRow:
    """A finished charge, the voltage it ended at and how warm the cell was.

    Raises:
        DangerError: the cell must not be charged, or not that far (`went-too-far`). Said that it happened all the same,
            it is kept, and the judge makes of it what it is.
    """
    cell = cell_at_bench(session, typed)
    volts_at_end = read_number(charged.end_v, "voltage", "end_v")
    check_voltage(volts_at_end, KnownOfCell(), rules_in_force(session))
    if not charged.happened:
        refuse_work_on_hazard(session, cell)
        _refuse_dangerous_charge(session, cell, volts_at_end)
    details = {
        "complete": charged.complete, "end_v": volts_at_end, "minutes": read_minutes(charged.minutes, "minutes"),
        **heat_details(charged.cell_degc, charged.bench_degc, charged.warmth),
    }  # fmt: skip
    entry = StepEntry(**_common(cell, actor, now, at=_when(cell, now, typed_at)), step="charge", details=details)
    _keep(session, actor, cell, entry, now, **details)
    return cell


def recover(session: Session, actor: Actor, typed: str, outcome: Literal["passed", "failed"], now: datetime) -> CellRow:
    """The outcome of a recovery. Only where one is due; a failed one is final."""
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    if cell.judgement and cell.judgement.next_step != "recover":
        raise ConflictError(said("no-recovery-due", cell=cell.number, step=next_said(cell)))
    entry = StepEntry(**_common(cell, actor, now), step="recovery", details={"outcome": outcome})
    _keep(session, actor, cell, entry, now, outcome=outcome)
    return cell


def repair(
    session: Session, actor: Actor, typed: str, done: Sequence[str], now: datetime, *, typed_at: TypedAt = None
) -> CellRow:
    """Wrap, tab or ends mended."""
    cell = cell_at_bench(session, typed)
    mended = _findings(done)
    if not mended or not mended <= REPAIRABLE:
        raise BadInputError(said("say-what-was-mended"), field="done")
    entry = StepEntry(
        **_common(cell, actor, now, at=_when(cell, now, typed_at)), step="repair", details={"done": sorted(mended)}
    )
    _keep(session, actor, cell, entry, now, done=sorted(mended))
    return cell


def skip(session: Session, actor: Actor, typed: str, what: SkippedQuantity, why: str, now: datetime) -> CellRow:
    """Something cannot be measured here. Without a resistance the grade is at most the second best, else there is none."""
    cell = cell_at_bench(session, typed)
    entry = StepEntry(**_common(cell, actor, now, why=_checked_why(why)), step="skip", details={"what": what})
    _keep(session, actor, cell, entry, now, skipped=what)
    return cell


def decide(session: Session, actor: Actor, typed: str, about: str, outcome: str, why: str, now: datetime) -> CellRow:
    """A coordinator's decision on a cell that was put aside."""
    require_coordinator(actor, said("doing-deciding-on-cell-that-was-put"))
    cell = cell_at_bench(session, typed)
    if about not in ("over-voltage", "recovery-mark") or outcome not in ("go-on", "out"):
        raise BadInputError(said("decide-about-over-voltage-or-recovery"), field="outcome")
    details = {"about": about, "outcome": outcome}
    entry = StepEntry(**_common(cell, actor, now, why=_checked_why(why)), step="decision", details=details)
    _keep(session, actor, cell, entry, now, **details)
    return cell


def overrule(
    session: Session, actor: Actor, typed: str, grade: OverruledGrade | None, why: str, now: datetime
) -> CellRow:
    """A coordinator judges a cell otherwise than the rules, or takes that back (None). It stays in the story for ever.

    Raises:
        DangerError: a hazard or another ground puts it out, which nobody overrules.
        ConflictError: it is not graded yet.
    """
    require_coordinator(actor, said("doing-judging-otherwise-than-rules"))
    cell = cell_at_bench(session, typed)
    assessed = assess(story_of(session, cell), rules_in_force(session))
    if assessed.outs:
        raise DangerError(said("nobody-overrules", ground=assessed.outs[0].said))
    if not assessed.may_be_overruled:
        raise ConflictError(said("cell-is-not-graded-yet", cell=cell.number))
    keep_step(session, actor, cell, "overruled", {"grade": grade}, now, why=_checked_why(why))
    return cell


def shelve(session: Session, actor: Actor, typed: str, place_id: int | None, now: datetime) -> CellRow:
    """Onto the shelf: only a graded cell, and only into a shelf box."""
    cell = cell_at_bench(session, typed)
    if cell.judgement is None or cell.judgement.grade not in ("A", "B", "C"):
        raise ConflictError(said("cell-not-graded", cell=cell.number, step=next_said(cell)))
    if cell.judgement.next_step in NOT_ONTO_THE_SHELF:
        raise ConflictError(said("cell-not-onto-shelf", cell=cell.number, step=next_said(cell)))
    box = _shelf_box(session, place_id)
    refuse_full(session, box, cell)
    cell.place, cell.slot, cell.in_use_in = box, None, None
    entry = StepEntry(**_common(cell, actor, now), step="shelved", details={"place": box.name})
    _keep(session, actor, cell, entry, now, place=box.name)
    return cell


def lay_into(session: Session, actor: Actor, typed: str, place: Place, slot: int | None, now: datetime) -> CellRow:
    """A cell lies in the place that was scanned after it; into a shelf box for the first time it is shelved by that."""
    cell = cell_at_bench(session, typed)
    is_due = cell.judgement is not None and cell.judgement.next_step == "shelve"
    if place.kind == "shelf-box" and is_due:
        return shelve(session, actor, typed, place.id, now)
    was_in_use = cell.in_use_in is not None
    if was_in_use and place.kind == "shelf-box":
        raise ConflictError(said("cell-comes-back-from-use", cell=cell.number))
    moved = move_cell(session, actor, cell, place, slot, now)
    if was_in_use:
        keep_step(session, actor, cell, "came-back", {"source": "device"}, now)
    return moved


def put_into_use(session: Session, actor: Actor, typed: str, device: str, now: datetime) -> CellRow:
    """A cell goes (back) into a device that takes it as it is, and is known as in use in it.

    Raises:
        DangerError: a hazard, or a cell that is out.
    """
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    _refuse_reserved(session, cell)
    device = device.strip()
    if not 2 <= len(device) <= 120:
        raise BadInputError(said("say-which-device-in-few-words"), field="device")
    if cell.judgement and cell.judgement.grade == "out":
        raise DangerError(said("cell-out-no-device", cell=cell.number, step=next_said(cell)))
    if cell.judgement and cell.judgement.next_step == "decide":
        raise DangerError(said("cell-undecided-no-device", cell=cell.number, step=next_said(cell)))
    cell.place, cell.slot, cell.in_use_in = None, None, device
    note(session, actor, "put-into-use", now, cell_id=cell.id, device=device)
    return cell


def put_out(session: Session, actor: Actor, typed: str, now: datetime) -> CellRow:
    """Into the out-box, where it waits for the recycler; a hazard belongs into the fire-safe box instead."""
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    if cell.judgement is None or cell.judgement.grade != "out":
        require_coordinator(actor, said("doing-cell-is-not-out", cell=cell.number))
    _refuse_reserved(session, cell)
    cell.place, cell.slot, cell.in_use_in = place_of_kind(session, "out-box"), None, None
    note(session, actor, "moved", now, cell_id=cell.id, place=cell.place.name)
    return cell


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
    entry = WithdrawalEntry(**_common(cell, actor, now), supersedes_id=newest.id)
    _keep(session, actor, cell, entry, now, withdrawn=newest.id)
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
    entry = WithdrawalEntry(**_common(cell, actor, now, _checked_why(why)), supersedes_id=old.id)
    _keep(session, actor, cell, entry, now, struck=old.id)
    return cell


def correct(
    session: Session, actor: Actor, typed: str, entry_id: int, reading: TypedReading, why: str, now: datetime
) -> CellRow:
    """Replaces a reading by a right one with the ground for it; the old one stays readable."""
    cell = cell_at_bench(session, typed)
    old = next((entry for entry in counting(entries_of(session, cell.id)) if entry.id == entry_id), None)
    if not isinstance(old, ReadingEntry) or old.quantity != reading.quantity:
        raise ConflictError(said("that-reading-was-corrected-or-taken"))
    entry = corrected_entry(session, actor, cell, reading, old)
    entry.recorded_at, entry.supersedes_id, entry.why = now, old.id, _checked_why(why)
    _keep(session, actor, cell, entry, now, corrected=old.id, value=entry.value)
    return cell


# --- Helpers ---------------------------------------------------------------------------------------------------------


def _common(
    cell: CellRow, actor: Actor, now: datetime, why: str | None = None, at: datetime | None = None
) -> dict[str, Any]:
    return {"cell_id": cell.id, "person_id": actor.person_id, "at": at or now, "recorded_at": now, "why": why}


def _when(cell: CellRow, now: datetime, typed_at: TypedAt) -> datetime:
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


def _follow_hazard(session: Session, actor: Actor, cell: CellRow, now: datetime) -> None:
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
    _flag_near(session, actor, cell, beside, now)


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


def _flag_near(session: Session, actor: Actor, cell: CellRow, near: Mapping[int, Near], now: datetime) -> None:
    """Every cell near it that is still here is looked at once more; those on their way out anyway are left."""
    query = (
        select(CellRow)
        .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(CellRow.id.in_(near), CellRow.handed_over_at.is_(None), JudgementRow.grade != "out")
        .order_by(CellRow.id)
        .with_for_update(of=CellRow)
        .execution_options(populate_existing=True)
    )
    findings = sorted(hazards_found(session, cell.id))
    for other in session.scalars(query).all():
        details = {"sibling": cell.number, "findings": findings, "near": near[other.id]}
        entry = StepEntry(**_common(other, actor, now), step="second-look", details=details)
        _keep(session, actor, other, entry, now, **details)


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
    _keep(session, actor, cell, StepEntry(**_common(cell, actor, now, why), step=step, details=details), now, **details)


def _add(session: Session, actor: Actor, cell: CellRow, entry: Entry, now: datetime, **details: Any) -> None:
    session.add(entry)
    note(session, actor, entry.kind, now, cell_id=cell.id, why=entry.why, **details)


def _keep(session: Session, actor: Actor, cell: CellRow, entry: Entry, now: datetime, **details: Any) -> None:
    """Adds the entry, its line in the record, and the judgement that follows."""
    was_hazard = cell.judgement is not None and cell.judgement.next_step == "fire-safe-box"
    _add(session, actor, cell, entry, now, **details)
    rejudge(session, cell, now)
    if not was_hazard and cell.judgement and cell.judgement.next_step == "fire-safe-box":
        _follow_hazard(session, actor, cell, now)
    if _tells_of_siblings(session, entry):
        rejudge_siblings(session, cell, now)


def _tells_of_siblings(session: Session, entry: Entry) -> bool:
    """Whether a voltage came or went that the cells of the same donor are held against."""
    read = session.get(Entry, entry.supersedes_id) if isinstance(entry, WithdrawalEntry) else entry
    return isinstance(read, ReadingEntry) and read.quantity == "voltage"


def _findings(codes: Sequence[str]) -> frozenset[Finding]:
    try:
        return frozenset(Finding(code) for code in codes)
    except ValueError as error:
        raise BadInputError(said("not-something-to-look-for", error=str(error)), field="findings") from error


def _checked_why(why: str) -> str:
    why = why.strip()
    if not 3 <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=WHY_MOST), field="why")
    return why


def refuse_work_on_hazard(session: Session, cell: CellRow) -> None:
    if is_hazard(session, cell):
        raise DangerError(said("cell-is-hazard", cell=cell.number))


def _refuse_dangerous_charge(session: Session, cell: CellRow, end_v: float) -> None:
    """Raises:
    DangerError: a charge that must not have been (`went-too-far`).
    """
    family = Family(cell.family) if cell.family else None
    judged = cell.judgement
    if family is Family.PRIMARY:
        wrong = said("charge-primary")
    elif family is None:
        wrong = said("charge-unknown-family")
    elif judged and judged.grade == "out":
        wrong = said("charge-of-out", cell=cell.number, step=next_said(cell))
    elif judged and judged.next_step in _NO_CHARGE_BEFORE:
        wrong = said("charge-too-early", cell=cell.number, step=next_said(cell))
    elif nothing_reached(story_of(session, cell)):
        wrong = said("charge-at-zero", cell=cell.number)
    else:
        full_v, most_v = full_voltage_v(family, cell.full_v), overfull_above_v(family, cell.full_v)
        if most_v is None or full_v is None or end_v <= most_v + 1e-9:
            return
        too_high = said("charge-too-high", ended=volts(end_v), full=volts(full_v))
        raise DangerError(too_high, code="went-too-far", field="end_v")
    raise DangerError(wrong, code="went-too-far")


def _refuse_reserved(session: Session, cell: CellRow) -> None:
    if session.scalar(select(PackCell.id).where(PackCell.cell_id == cell.id, PackCell.released_at.is_(None))):
        raise ConflictError(said("cell-belongs-to-pack", cell=cell.number))


def _shelf_box(session: Session, place_id: int | None) -> Place:
    if place_id is None:
        return place_of_kind(session, "shelf-box")
    place = get_place(session, place_id)
    if place.kind != "shelf-box":
        raise BadInputError(said("is-not-shelf-box", place=place.name), field="place_id")
    return place
