"""Runs are asked for and stopped by people; a charger without a wire is started, watched and ended by hand."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.grade.assessment import assess
from zembric.core.said import said, to_json
from zembric.core.tester.programs import as_json, make_program
from zembric.models import LIVE_STATES, Slot, SlotRun
from zembric.operations.bench.keeping import cell_at_bench, refuse_work_on_hazard
from zembric.operations.cells.judged import story_of
from zembric.operations.changes import tell_table
from zembric.operations.known.rules import rules_in_force
from zembric.operations.record import note
from zembric.operations.testers.alarms import somebody_is_here
from zembric.operations.testers.slots import get_slot, live_run_of, switches

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.tester.programs import ProgramCode
    from zembric.operations.actors import Actor


def ask_for_run(session: Session, actor: Actor, slot_number: str, program: ProgramCode, now: datetime) -> SlotRun:
    """A program is to run on the cell in a slot; the runner begins it, after a look at the voltage. Whoever starts one is here.

    Raises:
        ConflictError: nothing in the slot, something runs there, or its tester has no watchdog for a charge.
        DangerError: the cell must not be charged.
    """
    slot = get_slot(session, slot_number, lock=True)
    if slot.cell is None:
        raise ConflictError(said("slot-is-empty", slot=slot.number))
    if live_run_of(session, slot):
        raise ConflictError(said("slot-runs", slot=slot.number))
    cell = cell_at_bench(session, slot.cell.number)
    refuse_work_on_hazard(session, cell)
    assessed = assess(story_of(session, cell), rules_in_force(session))
    made = make_program(
        program, assessed, now, slot_charge_a=slot.max_charge_ma / 1000, slot_discharge_a=slot.max_discharge_ma / 1000,
        switches=switches(slot),
    )  # fmt: skip
    charges = any(stage.kind == "charge" for stage in made.stages)
    if slot.tester is not None and charges and slot.tester.state == "here" and not slot.tester.has_watchdog:
        raise ConflictError(said("tester-has-no-watchdog", instrument=slot.tester.instrument.number))
    if slot.tester is None and (program not in ("charge", "storage")):
        raise BadInputError(said("charger-only-charges"), field="program")
    planned_s = sum(stage.planned_s for stage in made.stages)
    by_hand = slot.tester is None
    run = SlotRun(
        slot_id=slot.id, cell_id=cell.id, program=program, plan=as_json(made), state="running" if by_hand else "asked", asked_at=now,
        asked_by_id=actor.person_id, began_at=now if by_hand else None, due_at=now + timedelta(seconds=planned_s) if by_hand else None,
    )  # fmt: skip
    session.add(run)
    session.flush()
    tell_table(session)
    note(session, actor, "run-started", now, cell_id=cell.id, slot=slot.number, program=program)
    somebody_is_here(session, actor, now)
    session.refresh(run)
    return run


def get_run(session: Session, run_id: int, *, lock: bool = False) -> SlotRun:
    if lock:
        session.execute(select(SlotRun.id).where(SlotRun.id == run_id).with_for_update(key_share=True))
    found = session.scalar(select(SlotRun).where(SlotRun.id == run_id).execution_options(populate_existing=True))
    if found is None:
        raise NotFoundError(said("no-such-run"))
    return found


def stop_run(session: Session, actor: Actor, run_id: int, now: datetime) -> SlotRun:
    """Asks the runner to end a run; what was recorded stays as a part run. One by hand has ended with this."""
    run = get_run(session, run_id, lock=True)
    tell_table(session)
    if run.state not in LIVE_STATES:
        raise ConflictError(said("run-is-over"))
    if run.stop_asked_at is None:
        run.stop_asked_at, run.stop_asked_by_id = now, actor.person_id
        note(session, actor, "run-stopped", now, cell_id=run.cell_id, slot=run.slot.number)
    if run.slot.tester_id is None or run.state == "asked":
        run.state, run.ended_at, run.settled_at = "stopped", now, now
        run.end_said = to_json(said("run-stopped-by", by=actor.name))
    session.flush()
    return run


def live_runs(session: Session) -> Sequence[SlotRun]:
    return session.scalars(select(SlotRun).where(SlotRun.state.in_(LIVE_STATES)).order_by(SlotRun.id)).all()


def last_run_of(session: Session, slot: Slot) -> SlotRun | None:
    """The run in a slot, or the last one of the cell that still lies there."""
    if slot.cell_id is None:
        return None
    query = select(SlotRun).where(SlotRun.slot_id == slot.id, SlotRun.cell_id == slot.cell_id)
    if slot.cell_since is not None:
        query = query.where(SlotRun.asked_at >= slot.cell_since)
    return session.scalar(query.order_by(SlotRun.id.desc()).limit(1))
