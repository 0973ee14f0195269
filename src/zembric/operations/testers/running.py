"""What the runner reads and writes: the work there is, and all that one turn brought, in one transaction."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from datetime import timedelta
from typing import TYPE_CHECKING, Any

from sqlalchemy import insert, select, text, update

from zembric.core.house import limits
from zembric.core.said import Amount, said, to_json
from zembric.core.tester.run import progress_as_json
from zembric.models import LIVE_STATES, CellRow, JudgementRow, LineTry, RunRow, Slot, SlotRun, WiredTester
from zembric.operations.changes import LIVE_CHANNEL, tell_table
from zembric.operations.known.entries import entries_of
from zembric.operations.queue import LOGS, PLAN_EVENING, SETTLE_RUN, put_into_queue
from zembric.operations.record import note
from zembric.operations.testers.alarms import is_anybody_here, last_presence, raise_alarm
from zembric.operations.testers.evening import is_left_behind, open_evening, why_anew

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.codes import TesterState
    from zembric.core.said import Said
    from zembric.core.tester.run import Alarm, Progress, Sample

#: PostgreSQL takes no longer text along with a notification.
_MOST_PAYLOAD = 7500
_OVERDUE_AFTER = 1.0


@dataclass(frozen=True, slots=True)
class Work:
    """What the runner has to look after, as it stands in the database."""

    testers: Sequence[WiredTester]
    slots: Sequence[Slot]
    runs: Sequence[SlotRun]
    tries: Sequence[LineTry]
    present_at: datetime | None
    #: Runs on cells that somebody found to be a hazard meanwhile.
    on_hazards: frozenset[int] = frozenset()


@dataclass(slots=True)
class RunTurn:
    """What one turn brought for one run. `end_said` with `state` stopped or refused says why it is over."""

    run_id: int
    state: str
    progress: Progress | None = None
    rows: list[tuple[Sample, int]] = field(default_factory=list)
    alarms: list[Alarm] = field(default_factory=list)
    end_said: Said | None = None
    began_at: datetime | None = None
    began_clock_s: float | None = None
    due_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class TesterTurn:
    """How a tester is, where that changed."""

    tester_id: int
    state: TesterState
    identity: str = ""
    trouble: Said | None = None
    has_watchdog: bool = False
    alarm: Alarm | None = None


@dataclass(slots=True)
class Turn:
    """Everything that one turn of the runner brought."""

    runs: list[RunTurn] = field(default_factory=list)
    testers: list[TesterTurn] = field(default_factory=list)
    tries: list[tuple[int, str | None, str | None]] = field(default_factory=list)
    #: What each slot reads now, for those who look: slot's id and its figures.
    live: list[dict[str, Any]] = field(default_factory=list)


def work_of(session: Session) -> Work:
    slots = session.scalars(select(Slot).where(Slot.is_active, Slot.tester_id.is_not(None)).order_by(Slot.id)).all()
    return Work(
        session.scalars(select(WiredTester).where(WiredTester.is_active).order_by(WiredTester.id)).all(), slots,
        session.scalars(select(SlotRun).where(SlotRun.state.in_(LIVE_STATES)).order_by(SlotRun.id)).all(),
        session.scalars(select(LineTry).where(LineTry.done_at.is_(None)).order_by(LineTry.id).limit(10)).all(),
        last_presence(session), _on_hazards(session),
    )  # fmt: skip


def _on_hazards(session: Session) -> frozenset[int]:
    query = (
        select(SlotRun.id).join(CellRow, CellRow.id == SlotRun.cell_id).join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(SlotRun.state.in_(LIVE_STATES), JudgementRow.next_step == "fire-safe-box")
    )  # fmt: skip
    return frozenset(session.scalars(query))


def keep_turn(session: Session, turn: Turn, now: datetime) -> None:
    """Keeps what a turn brought: rows, how far each run is, alarms; what is over goes to the worker to be read."""
    for of_tester in turn.testers:
        _keep_tester(session, of_tester, now)
    for tried, answer, trouble in turn.tries:
        row = session.get(LineTry, tried)
        if row is not None:
            row.answer, row.trouble, row.done_at = answer, trouble, now
    for of_run in turn.runs:
        _keep_run(session, of_run, now)
    _tell_live(session, turn.live)


def _keep_tester(session: Session, turn: TesterTurn, now: datetime) -> None:
    was = session.scalar(select(WiredTester.state).where(WiredTester.id == turn.tester_id))
    if was is None:
        return
    values: dict[str, Any] = {
        "state": turn.state, "has_watchdog": turn.has_watchdog, "trouble": to_json(turn.trouble) if turn.trouble else None,
    }  # fmt: skip
    if turn.identity:
        values["identity"] = turn.identity
    if was != turn.state:
        tell_table(session)
        values["state_at"] = now
        note(session, None, "tester-state", now, tester=turn.tester_id, state=turn.state)
    # Not through the row: its version is for people who edit.
    session.execute(update(WiredTester).where(WiredTester.id == turn.tester_id).values(values))
    if turn.alarm is not None:
        raise_alarm(session, turn.alarm.code, turn.alarm.said, now, tester_id=turn.tester_id)


def _keep_run(session: Session, turn: RunTurn, now: datetime) -> None:
    run = session.scalar(
        select(SlotRun)
        .where(SlotRun.id == turn.run_id)
        .with_for_update(of=SlotRun, key_share=True)
        .execution_options(populate_existing=True)
    )
    if run is None or run.state not in LIVE_STATES:
        return
    was_asked = run.state == "asked"
    if turn.rows:
        values = [
            {
                "run_id": run.id, "number": run.rows + at, "time_s": row.time_s, "voltage_v": row.voltage_v, "current_a": row.current_a,
                "cell_degc": row.cell_degc, "stage": stage,
            }
            for at, (row, stage) in enumerate(turn.rows)
        ]  # fmt: skip
        session.execute(insert(RunRow), values)
        run.rows += len(values)
        run.beat_at = now
    if turn.progress is not None:
        run.progress = progress_as_json(turn.progress)
    run.began_at, run.began_clock_s = (
        turn.began_at or run.began_at,
        turn.began_clock_s if turn.began_clock_s is not None else run.began_clock_s,
    )
    run.due_at = turn.due_at or run.due_at
    for alarm in turn.alarms:
        raise_alarm(session, alarm.code, alarm.said, now, run=run)
    if run.state != turn.state:
        run.state = turn.state
        tell_table(session)
        if turn.state in LIVE_STATES:
            what = "run-began" if was_asked else "run-waits" if turn.state == "waits" else "run-goes-on"
            note(session, None, what, now, cell_id=run.cell_id, slot=run.slot.number)
        if turn.state not in LIVE_STATES:
            _end(session, run, turn.end_said, now)


def _end(session: Session, run: SlotRun, end_said: Said | None, now: datetime) -> None:
    run.ended_at = now
    run.end_said = to_json(end_said) if end_said else None
    note(session, None, "run-over", now, cell_id=run.cell_id, slot=run.slot.number, state=run.state)
    if run.rows:
        put_into_queue(session, SETTLE_RUN, LOGS, run_id=run.id)
    else:
        run.settled_at = now


def _tell_live(session: Session, live: list[dict[str, Any]]) -> None:
    """Tells whoever looks, in pieces that fit into a notification."""
    pieces: list[list[dict[str, Any]]] = [[]]
    length = 2
    for each in live:
        size = len(json.dumps(each, separators=(",", ":"))) + 1
        if length + size > _MOST_PAYLOAD and pieces[-1]:
            pieces.append([])
            length = 2
        pieces[-1].append(each)
        length += size
    for piece in pieces:
        if piece:
            payload = json.dumps(piece, separators=(",", ":"))
            session.execute(text(f"SELECT pg_notify('{LIVE_CHANNEL}', :payload)"), {"payload": payload})


def look_after_plans(session: Session, now: datetime) -> None:
    """Lets the worker plan the evening anew where it slipped."""
    evening = open_evening(session)
    if evening is None or (evening.planned_at is not None and now - evening.planned_at < timedelta(minutes=2)):
        return
    if is_left_behind(session, evening, now) or (now < evening.ends_at and why_anew(session, evening, now) is not None):
        put_into_queue(session, PLAN_EVENING, LOGS)


def look_after_hazards(session: Session, now: datetime) -> None:
    """A hazard on a charger nobody can ask: only hands take it off."""
    for run_id in _on_hazards(session):
        run = session.get_one(SlotRun, run_id)
        if run.slot.tester_id is None:
            raise_alarm(session, "take-it-off", said("alarm-hazard-in-slot", cell=run.cell.number), now, run=run)


def look_after_chargers(session: Session, now: datetime) -> None:
    """Chargers without a wire: one whose charge was entered is done; of the others one that should be done long ago is said
    aloud, and one that nobody looks after."""
    is_looked_after = is_anybody_here(last_presence(session), now)
    query = select(SlotRun).join(Slot).where(Slot.tester_id.is_(None), SlotRun.state == "running").order_by(SlotRun.id)
    for run in session.scalars(query).all():
        assert run.began_at is not None
        assert run.due_at is not None
        if _is_charged_since(session, run.cell, run.began_at):
            run.state, run.ended_at, run.settled_at = "ended", now, now
            tell_table(session)
            continue
        if not is_looked_after:
            minutes = Amount(limits.SOMEBODY_HERE_MIN.value, "min")
            words = said("alarm-nobody-looks", minutes=minutes, slot=run.slot.number, cell=run.cell.number)
            raise_alarm(session, "nobody-here", words, now, run=run)
        late_s = (now - run.due_at).total_seconds()
        planned_s = (run.due_at - run.began_at).total_seconds()
        if late_s > min(_OVERDUE_AFTER * planned_s, timedelta(hours=2).total_seconds()):
            words = said("alarm-charger-overdue", slot=run.slot.number, cell=run.cell.number)
            raise_alarm(session, "charger-overdue", words, now, run=run)


def _is_charged_since(session: Session, cell: CellRow, since: datetime) -> bool:
    return any(getattr(entry, "step", "") == "charge" and entry.at > since for entry in entries_of(session, cell.id))
