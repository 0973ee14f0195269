"""The evening at the testers: who is here, what waits, what was promised; planned, followed, and planned anew when it slips."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from sqlalchemy import func, select

from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError, NotFoundError
from zembric.core.identify.numbering import read_number
from zembric.core.said import said, to_json
from zembric.models import LIVE_STATES, CellRow, EveningRow, JudgementRow, Person, SlotRun
from zembric.operations.actors import require_them
from zembric.operations.changes import tell_table
from zembric.operations.record import note
from zembric.operations.testers.planning import plan_anew
from zembric.operations.testers.runs import live_runs
from zembric.operations.testers.slots import all_slots

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session

    from zembric.core.said import Said
    from zembric.core.tester.programs import ProgramCode
    from zembric.operations.actors import Actor
    from zembric.operations.testers.planning import Planner

_MOST_PEOPLE, _MOST_HOURS, _MOST_LATER = 12, 12, 5
#: A start is late once it is later than this; a plan is made anew for it.
_SLIPS_AFTER = timedelta(minutes=6)
_LEFT_BEHIND_AFTER = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class TypedEvening:
    """Who is here until when, what was promised, and which slots stand on the table; `later` further evenings."""

    ends_at: datetime
    people: tuple[tuple[str, datetime], ...]
    promised: tuple[str, ...] = ()
    slots: tuple[str, ...] = ()
    later: tuple[tuple[datetime, datetime], ...] = ()


def open_evening(session: Session, *, lock: bool = False) -> EveningRow | None:
    """The evening that goes on; None: nobody planned one."""
    query = select(EveningRow).where(EveningRow.closed_at.is_(None)).order_by(EveningRow.id.desc()).limit(1)
    if lock:
        query = query.with_for_update(key_share=True).execution_options(populate_existing=True)
    return session.scalar(query)


def begin_evening(session: Session, actor: Actor, typed: TypedEvening, now: datetime, planner: Planner) -> EveningRow:
    """An evening with its first plan; one that was still open is over with it.

    Raises:
        BadInputError: times that cannot be, nobody there, a cell or slot nobody knows.
    """
    before = open_evening(session, lock=True)
    if before is not None:
        before.closed_at = now
    evening = EveningRow(
        starts_at=now.replace(second=0, microsecond=0), ends_at=typed.ends_at, people=[], promised=[], slots=[], later=[], changes=[],
        made_by_id=actor.person_id,
    )  # fmt: skip
    _fill(session, evening, typed, now)
    session.add(evening)
    session.flush()
    note(session, actor, "evening-planned", now, people=len(evening.people))
    plan_anew(session, evening, now, planner)
    return evening


def change_evening(
    session: Session, actor: Actor, typed: TypedEvening, seen_version: int, now: datetime, planner: Planner
) -> EveningRow:
    """Somebody comes or leaves, something is promised: the plan is made anew, and what runs goes on.

    Raises:
        ConflictError: no evening goes on.
        ChangedMeanwhileError: somebody changed it meanwhile.
    """
    evening = open_evening(session, lock=True)
    if evening is None:
        raise ConflictError(said("no-evening-goes-on"))
    if evening.version != seen_version:
        raise ChangedMeanwhileError(said("this-evening"))
    _fill(session, evening, typed, now)
    note(session, actor, "evening-changed", now, people=len(evening.people))
    plan_anew(session, evening, now, planner)
    return evening


def close_evening(session: Session, actor: Actor, now: datetime) -> None:
    """Everybody goes home.

    Raises:
        ConflictError: no evening goes on, or something runs yet.
        NotAllowedError: somebody else's, and no coordinator.
    """
    evening = open_evening(session, lock=True)
    if evening is None:
        raise ConflictError(said("no-evening-goes-on"))
    require_them(actor, session.get_one(Person, evening.made_by_id), said("doing-ending-evening"))
    runs = live_runs(session)
    if runs:
        raise ConflictError(
            said("evening-still-runs", cell=runs[0].cell.number, slot=runs[0].slot.number, count=len(runs))
        )
    evening.closed_at = now
    tell_table(session)
    note(session, actor, "evening-over", now)


def _fill(session: Session, evening: EveningRow, typed: TypedEvening, now: datetime) -> None:
    if not now + timedelta(minutes=10) <= typed.ends_at <= now + timedelta(hours=_MOST_HOURS):
        raise BadInputError(said("evening-ends", most=_MOST_HOURS), field="ends_at")
    if not 1 <= len(typed.people) <= _MOST_PEOPLE:
        raise BadInputError(said("evening-people", most=_MOST_PEOPLE), field="people")
    ends = typed.ends_at
    for begins, until in typed.later[:_MOST_LATER]:
        if not (ends < begins < until <= begins + timedelta(hours=_MOST_HOURS)):
            raise BadInputError(said("evening-later"), field="later")
        ends = until
    known = {slot.number for slot in all_slots(session)}
    wanted = [read_number("slot", each) for each in typed.slots] or sorted(known)
    missing = next((number for number in wanted if number not in known), None)
    if missing is not None:
        raise NotFoundError(said("no-such-slot", number=missing))
    promised = [read_number("cell", each) for each in typed.promised]
    for number in promised:
        if session.scalar(select(CellRow.id).where(CellRow.number == number)) is None:
            raise NotFoundError(said("there-is-no-cell-here", number=number))
    evening.ends_at = typed.ends_at
    evening.people = [
        {"name": name.strip()[:40], "until": min(until, typed.ends_at).isoformat()}
        for name, until in typed.people
        if name.strip()
    ]
    evening.promised, evening.slots = promised, wanted
    evening.later = [
        {"starts_at": begins.isoformat(), "ends_at": until.isoformat()} for begins, until in typed.later[:_MOST_LATER]
    ]


# --- Followed --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class PlannedRow:
    """A line of the plan, and how far it is: ahead, due, late, running, done, or missed: it would end after the evening now."""

    cell: str
    slot: str
    program: ProgramCode
    starts_at: datetime
    ends_at: datetime
    state: str


def rows_of(session: Session, evening: EveningRow, now: datetime) -> tuple[PlannedRow, ...]:
    if evening.plan is None:
        return ()
    began = datetime.fromisoformat(evening.plan["began"])
    runs: dict[tuple[str, str], str] = {}
    query = select(SlotRun).where(SlotRun.asked_at >= began - timedelta(minutes=1)).order_by(SlotRun.id)
    for run in session.scalars(query):
        runs[run.cell.number, run.program] = "running" if run.state in LIVE_STATES else "done"
    found = []
    missed: set[str] = set()
    for row in sorted(evening.plan["rows"], key=lambda each: (each["start"], each["slot"])):
        starts, ends = (began + timedelta(minutes=row[key]) for key in ("start", "end"))
        state = runs.get((row["cell"], row["program"])) or _ahead(starts, ends, evening.ends_at, now)
        # What follows a step that is not begun tonight is not, either.
        if state == "missed" or (
            state in ("ahead", "due", "late") and row["cell"] in missed and starts < evening.ends_at
        ):
            state = "missed"
            missed.add(row["cell"])
        found.append(PlannedRow(row["cell"], row["slot"], row["program"], starts, ends, state))
    return tuple(found)


def _ahead(starts: datetime, ends: datetime, over: datetime, now: datetime) -> str:
    """How far something is that nobody began. Nothing runs on after an evening, when nobody is there."""
    is_late = now > starts + _SLIPS_AFTER
    if starts < over and (now >= over or (is_late and now + (ends - starts) > over)):
        return "missed"
    return "late" if is_late else "due" if now >= starts - timedelta(minutes=1) else "ahead"


def tonight(evening: EveningRow, rows: Sequence[PlannedRow]) -> tuple[PlannedRow, ...]:
    """What is to do by hand tonight, in its order."""
    return tuple(row for row in rows if row.state in ("due", "late", "ahead") and row.starts_at < evening.ends_at)


def done_tonight(session: Session, evening: EveningRow) -> int:
    """How many cells a program was brought to its end on, since the evening began."""
    query = select(func.count(SlotRun.cell_id.distinct())).where(
        SlotRun.state == "ended", SlotRun.ended_at >= evening.starts_at
    )
    return session.scalar(query) or 0


def why_anew(session: Session, evening: EveningRow, now: datetime) -> Said | None:
    """Why the plan does not hold any more; None: it does."""
    if evening.plan is None or evening.planned_at is None:
        return None
    rows = rows_of(session, evening, now)
    late = next((row for row in rows if row.state in ("late", "missed")), None)
    if late is not None:
        return said("evening-slipped", cell=late.cell, slot=late.slot)
    stopped = session.scalar(
        select(SlotRun).where(SlotRun.ended_at > evening.planned_at, SlotRun.state.in_(("stopped", "refused"))).limit(1)
    )
    if stopped is not None:
        return said("evening-stopped", cell=stopped.cell.number, slot=stopped.slot.number)
    planned = {row.cell for row in rows if row.state in ("ahead", "due")}
    if planned:
        lost = session.scalar(
            select(CellRow).join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
            .where(CellRow.number.in_(planned), JudgementRow.next_step.in_(("fire-safe-box", "out-box", "decide"))).limit(1)
        )  # fmt: skip
        if lost is not None:
            return said("evening-cell-lost", cell=lost.number)
    return None


def is_left_behind(session: Session, evening: EveningRow, now: datetime) -> bool:
    """Whether its time is long over and nothing runs any more: nobody said that it is over."""
    return now > evening.ends_at + _LEFT_BEHIND_AFTER and not live_runs(session)


def look_after_evening(session: Session, now: datetime, planner: Planner) -> bool:
    """Makes the plan of the evening anew where it slipped; one that was left behind is closed. Whether anything was done."""
    evening = open_evening(session)
    if evening is None:
        return False
    if is_left_behind(session, evening, now):
        evening.closed_at = now
        return True
    if evening.planned_at is not None and now - evening.planned_at < timedelta(minutes=2):
        return False
    why = why_anew(session, evening, now)
    if why is None or now >= evening.ends_at - timedelta(minutes=5):
        return False
    plan_anew(session, evening, now, planner, why)
    note(session, None, "evening-planned-anew", now, said=to_json(why))
    return True
