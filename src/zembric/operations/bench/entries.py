"""Entries at the bench: each is checked, kept, and answered with the cell's new judgement."""

from __future__ import annotations

from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, Literal

from zembric.core.errors import BadInputError, ConflictError, DangerError
from zembric.core.grade.assessment import assess
from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v, overfull_above_v
from zembric.core.measure.entry_checks import KnownOfCell, check_voltage, read_minutes, read_number
from zembric.core.measure.first_voltage import nothing_reached
from zembric.core.measure.voltage_states import state_question
from zembric.core.said import said, volts
from zembric.core.story import HAZARDS, REPAIRABLE, Finding
from zembric.models import (
    CellRow,
    InspectionEntry,
    ReadingEntry,
    StepEntry,
)
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.keeping import (
    TypedAt,
    add,
    cell_at_bench,
    checked_why,
    common,
    keep,
    keep_step,
    refuse_work_on_hazard,
    when_done,
)
from zembric.operations.bench.readings import TypedReading, heat_details, reading_entry
from zembric.operations.cells.judged import story_of
from zembric.operations.known.judgements import next_said
from zembric.operations.known.rules import rules_in_force
from zembric.operations.places import (
    move_cursor,
)

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.story import OverruledGrade, SkippedQuantity, Warmth
    from zembric.operations.actors import Actor

# A low cell is brought up slowly first; one that rests above full waits for a coordinator.
_NO_CHARGE_BEFORE = ("recover", "decide")


# Built once: every entry asks them, and to build them takes longer than to run them.


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
            add(session, actor, cell, _inspection(cell, actor, found, heat, now, typed_at), now, findings=sorted(found))
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
    at = when_done(cell, now, typed_at)
    return InspectionEntry(**common(cell, actor, now, at=at), findings=sorted(found), heat=dict(heat))


def _inspect(
    session: Session,
    actor: Actor,
    cell: CellRow,
    found: frozenset[Finding],
    heat: Mapping[str, Any],
    now: datetime,
    typed_at: TypedAt,
) -> None:
    keep(session, actor, cell, _inspection(cell, actor, found, heat, now, typed_at), now, findings=sorted(found))


def _measure(
    session: Session, actor: Actor, cell: CellRow, reading: TypedReading, now: datetime, typed_at: TypedAt
) -> None:
    at = when_done(cell, now, typed_at)
    if reading.state is None:
        question = state_question(story_of(session, cell), at, rules_in_force(session))
        reading = replace(reading, state=question.likely if question else "resting")
    entry = reading_entry(session, actor, cell, reading, at)
    entry.recorded_at = now
    if reading.turned == "can-is-plus":
        cell.plus_end = "can"
    keep(session, actor, cell, entry, now, quantity=reading.quantity, value=entry.value)


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
    entry.at = when_done(cell, now, typed_at)
    keep(session, actor, cell, entry, now, quantity=entry.quantity, value=entry.value)
    return cell


def keep_charge(
    session: Session,
    actor: Actor,
    cell: CellRow,
    end_v: float,
    complete: bool,
    minutes: float,
    now: datetime,
    cell_degc: float | None = None,
) -> None:
    """A charge that was read from a log, for a cell that is locked. It happened, so it is kept, however far it went."""
    warm = {} if cell_degc is None else {"cell_degc": cell_degc}
    keep_step(session, actor, cell, "charge", {"complete": complete, "end_v": end_v, "minutes": minutes, **warm}, now)


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
    entry = StepEntry(**common(cell, actor, now, at=when_done(cell, now, typed_at)), step="charge", details=details)
    keep(session, actor, cell, entry, now, **details)
    return cell


def recover(session: Session, actor: Actor, typed: str, outcome: Literal["passed", "failed"], now: datetime) -> CellRow:
    """The outcome of a recovery. Only where one is due; a failed one is final."""
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    if cell.judgement and cell.judgement.next_step != "recover":
        raise ConflictError(said("no-recovery-due", cell=cell.number, step=next_said(cell)))
    entry = StepEntry(**common(cell, actor, now), step="recovery", details={"outcome": outcome})
    keep(session, actor, cell, entry, now, outcome=outcome)
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
        **common(cell, actor, now, at=when_done(cell, now, typed_at)), step="repair", details={"done": sorted(mended)}
    )
    keep(session, actor, cell, entry, now, done=sorted(mended))
    return cell


def skip(session: Session, actor: Actor, typed: str, what: SkippedQuantity, why: str, now: datetime) -> CellRow:
    """Something cannot be measured here. Without a resistance the grade is at most the second best, else there is none."""
    cell = cell_at_bench(session, typed)
    entry = StepEntry(**common(cell, actor, now, why=checked_why(why)), step="skip", details={"what": what})
    keep(session, actor, cell, entry, now, skipped=what)
    return cell


def decide(session: Session, actor: Actor, typed: str, about: str, outcome: str, why: str, now: datetime) -> CellRow:
    """A coordinator's decision on a cell that was put aside."""
    require_coordinator(actor, said("doing-deciding-on-cell-that-was-put"))
    cell = cell_at_bench(session, typed)
    if about not in ("over-voltage", "recovery-mark") or outcome not in ("go-on", "out"):
        raise BadInputError(said("decide-about-over-voltage-or-recovery"), field="outcome")
    details = {"about": about, "outcome": outcome}
    entry = StepEntry(**common(cell, actor, now, why=checked_why(why)), step="decision", details=details)
    keep(session, actor, cell, entry, now, **details)
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
    keep_step(session, actor, cell, "overruled", {"grade": grade}, now, why=checked_why(why))
    return cell


# --- Helpers ---------------------------------------------------------------------------------------------------------


def _findings(codes: Sequence[str]) -> frozenset[Finding]:
    try:
        return frozenset(Finding(code) for code in codes)
    except ValueError as error:
        raise BadInputError(said("not-something-to-look-for", error=str(error)), field="findings") from error


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
