"""Testers, slots, runs and alarms, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.core.house import limits
from zembric.core.said import from_json
from zembric.core.tester.run import DANGERS
from zembric.models import LIVE_STATES

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.models import AlarmRow, SlotRun, WiredTester
    from zembric.operations.testers.choosing import Choice
    from zembric.operations.testers.evening import PlannedRow
    from zembric.operations.testers.live import SlotNow


def show_tester(tester: WiredTester) -> schemas.TesterOut:
    return schemas.TesterOut.model_validate(
        {
            "id": tester.id, "instrument": tester.instrument.number, "name": tester.instrument.name, "link": tester.link,
            "address": tester.address, "mapping": tester.mapping, "resistor_ohm": tester.resistor_ohm, "is_active": tester.is_active,
            "state": tester.state, "identity": tester.identity, "trouble": from_json(tester.trouble) if tester.trouble else None,
            "state_at": tester.state_at, "has_watchdog": tester.has_watchdog, "version": tester.version,
        }
    )  # fmt: skip


def show_slot(now: SlotNow) -> schemas.SlotOut:
    slot = now.slot
    judgement = slot.cell.judgement if slot.cell else None
    cell = None
    if slot.cell is not None:
        cell = {
            "number": slot.cell.number, "step": judgement.next_step if judgement else None,
            "step_said": from_json(judgement.next_said) if judgement else None, "grade": judgement.grade if judgement else None,
        }  # fmt: skip
    return schemas.SlotOut.model_validate(
        {
            "id": slot.id, "number": slot.number, "name": slot.name, "kind": slot.kind, "tester_id": slot.tester_id,
            "channel": slot.channel, "tester_state": slot.tester.state if slot.tester else None, "max_charge_ma": slot.max_charge_ma,
            "max_discharge_ma": slot.max_discharge_ma, "holds": slot.holds, "cell": cell, "run": _run(now) if now.run else None,
        }
    )  # fmt: skip


def _run(now: SlotNow) -> dict[str, object]:
    run, program, progress = now.run, now.program, now.progress
    assert run is not None
    assert program is not None
    last = progress.last if progress else None
    return {
        "id": run.id, "program": run.program, "state": run.state, "asked_at": run.asked_at, "by": run.asked_by.name, "began_at": run.began_at,
        "due_at": run.due_at, "ended_at": run.ended_at, "end_said": from_json(run.end_said) if run.end_said else None,
        "not_kept_said": from_json(run.not_kept_said) if run.not_kept_said else None, "log_id": run.log_id,
        "is_settled": run.settled_at is not None, "rows": run.rows, "stages": program.stages, "stage": progress.stage if progress else 0,
        "time_s": last.time_s if last else None, "voltage_v": last.voltage_v if last else None,
        "current_a": last.current_a if last else None, "cell_degc": last.cell_degc if last else None,
        "in_mah": progress.in_mah if progress else 0.0, "out_mah": progress.out_mah if progress else 0.0,
        "believed_mah": program.bounds.believed_mah, "left": now.left,
    }  # fmt: skip


def show_alarm(alarm: AlarmRow) -> schemas.AlarmOut:
    return schemas.AlarmOut.model_validate(
        {
            "id": alarm.id, "code": alarm.code, "said": from_json(alarm.said), "is_danger": alarm.code in DANGERS,
            "slot": alarm.slot.number if alarm.slot else None, "slot_name": alarm.slot.name if alarm.slot else None,
            "cell": alarm.cell.number if alarm.cell else None, "at": alarm.at, "answered_at": alarm.acknowledged_at,
            "answered_by": alarm.acknowledged_by.name if alarm.acknowledged_by else None, "done": alarm.done,
        }
    )  # fmt: skip


def show_alarms(alarms: Sequence[AlarmRow], present_at: datetime | None, runs: Sequence[SlotRun]) -> schemas.AlarmsOut:
    return schemas.AlarmsOut(
        alarms=[show_alarm(alarm) for alarm in alarms], present_at=present_at, here_minutes=limits.SOMEBODY_HERE_MIN.value,
        charges=any_charges(runs),
    )  # fmt: skip


def any_charges(runs: Sequence[SlotRun]) -> bool:
    """Whether anything that goes on charges, now or later."""
    return any(
        run.state in LIVE_STATES and any(stage["kind"] == "charge" for stage in run.plan["stages"]) for run in runs
    )


def show_planned(row: PlannedRow, slot_name: str) -> schemas.PlannedHereOut:
    return schemas.PlannedHereOut(slot=row.slot, slot_name=slot_name, program=row.program, starts_at=row.starts_at)


def show_choice(choice: Choice) -> schemas.ProgramChoiceOut:
    stages = choice.program.stages if choice.program else ()
    return schemas.ProgramChoiceOut(
        program=choice.code,
        is_usual=choice.is_usual,
        planned_s=sum(stage.planned_s for stage in stages) if choice.program else None,
        why_not=choice.why_not,  # type: ignore[arg-type]  # turned into words by its type
    )
