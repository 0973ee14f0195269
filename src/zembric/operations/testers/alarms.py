"""Alarms and whether anybody is here: raised by the runner, answered by people, in the record for ever."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import ConflictError, NotFoundError
from zembric.core.house import limits
from zembric.core.said import said, to_json
from zembric.models import AlarmRow, Presence
from zembric.operations.changes import tell_table
from zembric.operations.queue import LOGS, PUSH_ALARM, put_into_queue
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.said import Said
    from zembric.core.tester.run import AlarmCode
    from zembric.models import Slot, SlotRun
    from zembric.operations.actors import Actor

_DONE_MOST = 300


def raise_alarm(
    session: Session, code: AlarmCode, words: Said, now: datetime, *, slot: Slot | None = None, run: SlotRun | None = None,
    tester_id: int | None = None,
) -> AlarmRow:  # fmt: skip
    """Says that something is wrong. The same of the same run is said once while nobody answered."""
    same = select(AlarmRow).where(
        AlarmRow.code == code, AlarmRow.acknowledged_at.is_(None),
        AlarmRow.run_id == run.id if run else AlarmRow.run_id.is_(None),
        AlarmRow.tester_id == tester_id if tester_id else AlarmRow.tester_id.is_(None),
    )  # fmt: skip
    before = session.scalar(same.limit(1))
    if before is not None:
        return before
    slot = slot or (run.slot if run else None)
    alarm = AlarmRow(
        code=code, said=to_json(words), at=now, slot_id=slot.id if slot else None, run_id=run.id if run else None,
        tester_id=tester_id, cell_id=run.cell_id if run else slot.cell_id if slot else None,
    )  # fmt: skip
    session.add(alarm)
    session.flush()
    tell_table(session)
    put_into_queue(session, PUSH_ALARM, LOGS, alarm_id=alarm.id)
    note(
        session,
        None,
        "alarm",
        now,
        cell_id=alarm.cell_id,
        alarm=code,
        slot=slot.number if slot else None,
        said=alarm.said,
    )
    session.flush()
    return alarm


def open_alarms(session: Session) -> Sequence[AlarmRow]:
    """Those that nobody answered yet, the newest first."""
    return session.scalars(
        select(AlarmRow)
        .where(AlarmRow.acknowledged_at.is_(None))
        .order_by(AlarmRow.at.desc(), AlarmRow.id.desc())
        .limit(50)
    ).all()


def past_alarms(session: Session, count: int = 60) -> Sequence[AlarmRow]:
    return session.scalars(select(AlarmRow).order_by(AlarmRow.id.desc()).limit(count)).all()


def acknowledge(session: Session, actor: Actor, alarm_id: int, done: str, now: datetime) -> AlarmRow:
    """A person answers an alarm; who looks is here.

    Raises:
        ConflictError: somebody else was faster; says who.
    """
    alarm = session.scalar(select(AlarmRow).where(AlarmRow.id == alarm_id).with_for_update(of=AlarmRow, key_share=True))
    if alarm is None:
        raise NotFoundError(said("no-such-alarm"))
    if alarm.acknowledged_at is not None:
        by = alarm.acknowledged_by.name if alarm.acknowledged_by else ""
        raise ConflictError(said("alarm-was-answered", by=by))
    alarm.acknowledged_at, alarm.acknowledged_by_id = now, actor.person_id
    alarm.done = done.strip()[:_DONE_MOST] or None
    note(session, actor, "alarm-answered", now, cell_id=alarm.cell_id, alarm=alarm.code, why=alarm.done)
    somebody_is_here(session, actor, now)
    session.flush()
    session.refresh(alarm)
    return alarm


def somebody_is_here(session: Session, actor: Actor, now: datetime) -> None:
    tell_table(session)
    session.add(Presence(person_id=actor.person_id, at=now))
    note(session, actor, "somebody-is-here", now)
    session.flush()


def last_presence(session: Session) -> datetime | None:
    return session.scalar(select(Presence.at).order_by(Presence.at.desc()).limit(1))


def is_anybody_here(last: datetime | None, now: datetime) -> bool:
    """Whether somebody said so within the time that a charge may be left to itself."""
    return last is not None and now - last <= timedelta(minutes=limits.SOMEBODY_HERE_MIN.value)
