"""A recovery from its first milliampere to its outcome; what was recorded tells anybody on any device how it stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from zembric.core.errors import BadInputError, ConflictError, DangerError
from zembric.core.grade.assessment import assess
from zembric.core.measure.entry_checks import KnownOfCell, check_voltage, read_degrees, read_number
from zembric.core.next_step.planner import recovery_plan
from zembric.core.next_step.recovery import RecoveryCheck, RecoveryPlan, RecoveryState, watch_recovery
from zembric.core.said import Amount, said, to_json
from zembric.core.story import Heat
from zembric.models import CellRow, JudgementRow, StepEntry
from zembric.operations.bench.entries import inspect
from zembric.operations.bench.keeping import cell_at_bench, keep_step, refuse_work_on_hazard
from zembric.operations.cells.judged import story_of
from zembric.operations.known.entries import counting, entries_of
from zembric.operations.known.judgements import next_said
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.story import Warmth
    from zembric.models import Entry
    from zembric.operations.actors import Actor


@dataclass(frozen=True, slots=True)
class RunningRecovery:
    """A recovery under way: its plan, what was set, the checks so far and how it stands."""

    plan: RecoveryPlan
    set_ma: float
    started_at: datetime
    started_by: str
    checks: tuple[RecoveryCheck, ...]
    state: RecoveryState


@dataclass(frozen=True, slots=True)
class TypedLook:
    """A look at a running recovery as it was typed: voltage, and how the cell is."""

    value: str
    cell_degc: str | None = None
    warmth: Warmth | None = None
    swells: bool = False


def start_recovery(
    session: Session, actor: Actor, typed: str, current: str, cell_degc: str | None, now: datetime
) -> CellRow:
    """The current is on, the clock runs.

    Raises:
        ConflictError: none is due, or one runs already.
        DangerError: more current than the plan allows.
    """
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    plan = plan_for(session, cell)
    if plan is None:
        raise ConflictError(said("no-recovery-due", cell=cell.number, step=next_said(cell)))
    running = running_recovery(cell, entries_of(session, cell.id), plan, now)
    if running:
        raise ConflictError(
            said("recovery-runs-already", cell=cell.number, by=running.started_by, state=running.state.said)
        )
    current_ma = read_number(current, "current", "current_ma")
    if current_ma <= 0:
        raise BadInputError(said("current-that-is-set-is-above"), field="current_ma")
    if current_ma > plan.current_ma * 1.001:
        raise DangerError(
            said("is-too-much-for-cell-found", current=Amount(current_ma, "mA"), most=Amount(plan.current_ma, "mA")),
            field="current_ma",
        )
    details = {"current_ma": current_ma, "found_v": plan.found_v, "cell_degc": read_degrees(cell_degc, "cell_degc")}
    keep_step(session, actor, cell, "recovery-started", details, now)
    return cell


def check_recovery(session: Session, actor: Actor, typed: str, look: TypedLook, now: datetime) -> CellRow:
    """A look at a running recovery. Where it passes or fails by that, the outcome is kept as well.

    Warm or swelling, the cell is a hazard at once.

    Raises:
        ConflictError: none runs.
    """
    cell = cell_at_bench(session, typed)
    refuse_work_on_hazard(session, cell)
    value_v = read_number(look.value, "voltage", "value")
    check_voltage(value_v, KnownOfCell(), rules_in_force(session))
    plan = plan_for(session, cell)
    if plan is None or running_recovery(cell, entries_of(session, cell.id), plan, now) is None:
        raise ConflictError(said("no-recovery-of-cell-runs", cell=cell.number))
    details = {
        "value_v": value_v, "cell_degc": read_degrees(look.cell_degc, "cell_degc"), "warmth": look.warmth,
        "swells": look.swells,
    }  # fmt: skip
    keep_step(session, actor, cell, "recovery-check", details, now)
    running = running_recovery(cell, entries_of(session, cell.id), plan, now)
    if running and running.state.status != "running":
        how = {"outcome": running.state.status, "said": to_json(running.state.said)}
        keep_step(session, actor, cell, "recovery", how, now)
        if running.state.findings:
            inspect(session, actor, cell.number, sorted(running.state.findings), now)
    return cell


def running_recoveries(session: Session, now: datetime) -> list[tuple[CellRow, RunningRecovery]]:
    """All recoveries under way, the one that is looked at next first; whoever stands nearest takes the look."""
    started = select(StepEntry.cell_id).where(StepEntry.step == "recovery-started")
    cells = session.scalars(
        select(CellRow)
        .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(JudgementRow.next_step == "recover", CellRow.id.in_(started), CellRow.handed_over_at.is_(None))
        .options(joinedload(CellRow.donor, innerjoin=True), joinedload(CellRow.judgement))
    ).all()
    running = []
    for cell in cells:
        plan = plan_for(session, cell)
        found = running_recovery(cell, entries_of(session, cell.id), plan, now) if plan else None
        if found:
            running.append((cell, found))
    return sorted(running, key=lambda each: each[1].state.next_check_at or each[1].state.ends_at)


def plan_for(session: Session, cell: CellRow) -> RecoveryPlan | None:
    """The recovery that is due for a cell; None where none is."""
    return recovery_plan(assess(story_of(session, cell), rules_in_force(session)))


def running_recovery(
    cell: CellRow, entries: Sequence[Entry], plan: RecoveryPlan, now: datetime
) -> RunningRecovery | None:
    """The recovery that was started and has no outcome yet; None where none was."""
    started: StepEntry | None = None
    checks: list[StepEntry] = []
    for entry in counting(entries):
        if not isinstance(entry, StepEntry):
            continue
        if entry.step == "recovery-started":
            started, checks = entry, []
        elif entry.step == "recovery":
            started = None
        elif entry.step == "recovery-check":
            checks.append(entry)
    if started is None or started.cell_id != cell.id:
        return None
    first_degc = started.details["cell_degc"]
    looked = [_check(check, first_degc) for check in checks]
    state = watch_recovery(plan, started.at, looked, now)
    return RunningRecovery(plan, started.details["current_ma"], started.at, started.person.name, tuple(looked), state)


def _check(entry: StepEntry, first_degc: float | None) -> RecoveryCheck:
    degc = entry.details["cell_degc"]
    warmer_k = degc - first_degc if degc is not None and first_degc is not None else None
    felt: Warmth | None = "warm" if entry.details.get("feels_warm") else None  # as it was kept until 2026-11
    heat = Heat(degc, None, entry.details.get("warmth") or felt)
    return RecoveryCheck(entry.at, entry.details["value_v"], warmer_k, heat, bool(entry.details.get("swells")))
