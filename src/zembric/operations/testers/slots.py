"""Slots: a cell is put in by scanning both, and taken out again."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.grade.assessment import assess
from zembric.core.identify.numbering import make_number, read_number
from zembric.core.said import said
from zembric.models import LIVE_STATES, SLOT_NUMBERS, Slot, SlotRun
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.keeping import cell_in_hand, refuse_work_on_hazard
from zembric.operations.cells.judged import story_of
from zembric.operations.changes import tell_table
from zembric.operations.known.rules import rules_in_force
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import CellRow
    from zembric.operations.actors import Actor


def all_slots(session: Session, *, also_inactive: bool = False) -> Sequence[Slot]:
    query = select(Slot).order_by(Slot.tester_id.is_(None), Slot.tester_id, Slot.channel, Slot.id)
    return session.scalars(query if also_inactive else query.where(Slot.is_active)).all()


def get_slot(session: Session, typed: str, *, lock: bool = False) -> Slot:
    """Raises:
    BadInputError: the number cannot be right.
    NotFoundError: nobody gave it out.
    """
    number = read_number("slot", typed)
    query = select(Slot).where(Slot.number == number)
    if lock:
        session.execute(select(Slot.id).where(Slot.number == number).with_for_update(key_share=True))
        query = query.execution_options(populate_existing=True)
    found = session.scalar(query)
    if found is None:
        raise NotFoundError(said("no-such-slot", number=number))
    return found


def add_charger(
    session: Session, actor: Actor, name: str, max_charge_ma: float, holds: tuple[str, ...], now: datetime
) -> Slot:
    """A charger nobody can ask: it gets the same clocks, and somebody looks."""
    name = name.strip()
    if not 2 <= len(name) <= 60:
        raise BadInputError(said("give-it-name-of-2"), field="name")
    if not 10 <= max_charge_ma <= 10_000:
        raise BadInputError(said("slot-current"), field="max_charge_ma")
    slot = Slot(
        number=make_number("slot", session.scalar(SLOT_NUMBERS) or 0), name=name, kind="charger", max_charge_ma=max_charge_ma,
        max_discharge_ma=0.0, holds=list(holds) or ["cylinder", "flat"],
    )  # fmt: skip
    session.add(slot)
    session.flush()
    tell_table(session)
    note(session, actor, "slot-added", now, slot=slot.number, name=name)
    return slot


def change_slot(
    session: Session, actor: Actor, number: str, name: str, max_charge_ma: float, max_discharge_ma: float, holds: tuple[str, ...],
    now: datetime, *, is_active: bool,
) -> Slot:  # fmt: skip
    """What a slot is called, bears and holds; refused while something runs in it."""
    require_coordinator(actor, said("doing-wiring-testers"))
    slot = get_slot(session, number, lock=True)
    if live_run_of(session, slot):
        raise ConflictError(said("tester-is-running"))
    name = name.strip()
    if not 2 <= len(name) <= 60:
        raise BadInputError(said("give-it-name-of-2"), field="name")
    if not (0 <= max_charge_ma <= 10_000 and 0 <= max_discharge_ma <= 20_000 and max_charge_ma + max_discharge_ma > 0):
        raise BadInputError(said("slot-current"), field="max_charge_ma")
    if not is_active and slot.cell_id is not None:
        raise ConflictError(said("slot-holds-a-cell", slot=slot.number, cell=slot.cell.number if slot.cell else ""))
    slot.name, slot.max_charge_ma, slot.is_active, slot.holds = name, max_charge_ma, is_active, list(holds)
    slot.max_discharge_ma = max_discharge_ma if slot.tester_id else 0.0
    tell_table(session)
    note(session, actor, "slot-changed", now, slot=slot.number, name=name)
    return slot


def put_in(session: Session, actor: Actor, slot_number: str, cell_number: str, now: datetime) -> Slot:
    """A cell lies in a slot from now on; whichever of the two was scanned first.

    Raises:
        ConflictError: the slot holds another, or the cell lies in another slot.
        BadInputError: it does not fit in.
        DangerError: the cell is a hazard.
    """
    slot = get_slot(session, slot_number, lock=True)
    cell = cell_in_hand(session, cell_number)
    refuse_work_on_hazard(session, cell)
    if slot.cell_id == cell.id:
        return slot
    if not slot.is_active:
        raise ConflictError(said("slot-is-put-away", slot=slot.number))
    if slot.cell_id is not None and slot.cell is not None:
        raise ConflictError(said("slot-holds-a-cell", slot=slot.number, cell=slot.cell.number))
    other = session.scalar(select(Slot).where(Slot.cell_id == cell.id))
    if other is not None:
        raise ConflictError(said("cell-lies-in-slot", cell=cell.number, slot=other.number))
    shape = _shape_of(session, cell)
    if shape is not None and shape not in slot.holds:
        raise BadInputError(said("slot-does-not-hold", slot=slot.number, cell=cell.number), field="cell")
    slot.cell, slot.cell_id, slot.cell_since = cell, cell.id, now
    tell_table(session)
    note(session, actor, "put-in-slot", now, cell_id=cell.id, slot=slot.number)
    session.flush()
    return slot


def take_out(session: Session, actor: Actor, slot_number: str, now: datetime) -> Slot:
    """Raises:
    ConflictError: something runs there; it is stopped first.
    """
    slot = get_slot(session, slot_number, lock=True)
    if live_run_of(session, slot):
        raise ConflictError(said("slot-runs", slot=slot.number))
    if slot.cell_id is not None:
        tell_table(session)
        note(session, actor, "taken-out-of-slot", now, cell_id=slot.cell_id, slot=slot.number)
        slot.cell, slot.cell_id, slot.cell_since = None, None, None
    session.flush()
    return slot


def live_run_of(session: Session, slot: Slot) -> SlotRun | None:
    return session.scalar(select(SlotRun).where(SlotRun.slot_id == slot.id, SlotRun.state.in_(LIVE_STATES)))


def switches(slot: Slot) -> bool:
    """Whether what hangs there can be set, or only tells what flows."""
    return slot.tester is None or slot.tester.link != "lines"


def _shape_of(session: Session, cell: CellRow) -> str | None:
    size = assess(story_of(session, cell), rules_in_force(session)).size
    return size.shape if size else None
