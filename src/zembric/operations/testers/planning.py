"""An evening as a problem, from what waits, what runs and who is here; its plan, and what changed against the one before."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from sqlalchemy import select, update

from zembric.core.errors import BadInputError
from zembric.core.evening import Cell, Channel, Evening, Operation, Problem, Row, most_weight, vector_of
from zembric.core.grade.assessment import assess
from zembric.core.said import said, to_json
from zembric.core.tester.programs import planned_minutes
from zembric.core.tester.waiting import needed_after, needed_by
from zembric.models import LIVE_STATES, CellRow, EveningRow, JudgementRow, Slot, SlotRun
from zembric.operations.cells.judged import stories_of
from zembric.operations.changes import tell_table
from zembric.operations.known.rules import rules_in_force
from zembric.operations.testers.live import house_times, slots_now
from zembric.operations.testers.slots import all_slots

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session

    from zembric.core.evening.model import Leaves
    from zembric.core.grade.assessment import Assessment
    from zembric.core.said import Said
    from zembric.core.tester.programs import ProgramCode

HAND_OVER_MINUTES = 2
MOST_WAITING = 150
#: After a run on a load alone the cell is left for so long before it is charged [min].
_COOL_MIN = 10
_LEAVES: Mapping[str, Leaves] = MappingProxyType({"charge": "full"})
_WAITING = ("charge", "rest", "measure-capacity", "measure-resistance", "repeat-measurement")


#: Looks for a plan as long as whoever asks for it can wait.
Planner = Callable[[Problem], tuple[Row, ...]]


@dataclass(frozen=True, slots=True)
class _Waiting:
    cell: CellRow
    assessed: Assessment
    programs: tuple[tuple[ProgramCode, int], ...]
    ready: int


@dataclass(frozen=True, slots=True)
class _Set:
    """An evening as a problem, with what its places stand for."""

    problem: Problem
    slots: tuple[Slot, ...]
    waiting: tuple[_Waiting, ...]
    began: datetime
    #: Cells that run in the slots that are taken, by their place.
    running: Mapping[int, str]


def plan_anew(session: Session, evening: EveningRow, now: datetime, planner: Planner, why: Said | None = None) -> None:
    """Makes the plan from what there is now: what runs goes on, all else is laid anew. What changed is said."""
    before = evening.plan
    tell_table(session)
    made = _set_of(session, evening, now)
    rows = planner(made.problem)
    plan = _as_json(made, rows)
    told = [to_json(each) for each in ((why,) if why else ()) + _changes(before, plan)]
    changes = [{"at": now.isoformat(), "said": told}, *evening.changes][:20] if before is not None else evening.changes
    session.flush()
    # Not through the row: its version is for people who edit, and what they type must not grow old by a plan made anew.
    session.execute(
        update(EveningRow).where(EveningRow.id == evening.id).values(plan=plan, planned_at=now, changes=changes)
    )
    session.refresh(evening)


def what_if(session: Session, evening: EveningRow, what: str, now: datetime, planner: Planner) -> int:
    """How many cells would be finished with one more tester or charger, another pair of hands, or an hour longer."""
    made = _set_of(session, evening, now)
    problem = _changed(made, what)
    return sum(1 for _ in _finished(problem, planner(problem)))


def _changed(made: _Set, what: str) -> Problem:
    problem = made.problem
    if what == "hands":
        return replace(problem, volunteers=(problem.volunteers or 0) + 1)
    if what == "hour":
        first, *others = problem.evenings
        longer = Evening(first.start, first.end + 60)
        absent = tuple((since, longer.end if until == first.end else until) for since, until in problem.absent)
        return replace(problem, evenings=(longer, *others), absent=absent)
    like = next((at for at, slot in enumerate(made.slots) if (slot.max_discharge_ma > 0) == (what == "tester")), None)
    if like is None:
        raise BadInputError(said("evening-what-if"), field="what")
    new = len(problem.channels)
    cells = tuple(
        replace(
            cell,
            operations=tuple(
                replace(op, options=op.options + tuple((new, minutes) for at, minutes in op.options if at == like))
                for op in cell.operations
            ),
        )
        for cell in problem.cells
    )
    return replace(problem, channels=(*problem.channels, replace(problem.channels[like], key="new")), cells=cells)


def _set_of(session: Session, evening: EveningRow, now: datetime) -> _Set:
    """The evening as it stands now, in whole minutes from now on."""
    began = now.replace(second=0, microsecond=0)
    slots = tuple(slot for slot in all_slots(session) if slot.number in set(evening.slots))
    channels = tuple(
        Channel(slot.number, slot.kind, slot.max_charge_ma, slot.max_discharge_ma, frozenset(slot.holds))
        for slot in slots
    )
    ends = max(math.floor((evening.ends_at - began).total_seconds() / 60), 1)
    evenings = [Evening(0, ends)]
    for each in evening.later:
        start, end = (_minute(datetime.fromisoformat(each[key]), began) for key in ("starts_at", "ends_at"))
        if start > evenings[-1].end:
            evenings.append(Evening(start, end))
    people = [min(max(_minute(datetime.fromisoformat(each["until"]), began), 0), ends) for each in evening.people]
    times = house_times(session)
    taken, busy, running = _taken(session, slots, began)
    waiting = _waiting(session, began, busy)
    cells = tuple(
        made
        for each in waiting
        if (made := _cell(each, slots, now, times.factor, is_first=each.cell.number in evening.promised)) is not None
    )
    kept = {cell.key for cell in cells}
    return _Set(
        Problem(
            tuple(evenings), channels, cells, HAND_OVER_MINUTES, max(len(people), 1), taken,
            tuple((until, ends) for until in people if until < ends),
        ),
        slots, tuple(each for each in waiting if each.cell.number in kept), began, running,
    )  # fmt: skip


def _minute(at: datetime, began: datetime) -> int:
    return math.ceil((at - began).total_seconds() / 60)


def _taken(
    session: Session, slots: Sequence[Slot], began: datetime
) -> tuple[tuple[tuple[int, int, int], ...], dict[int, tuple[SlotRun, int]], dict[int, str]]:
    """Slots that run, until when; by cell the run with the minute it will be through; by slot the cell. A slot with a finished cell is free."""
    taken, busy, running = [], {}, {}
    places = {slot.id: at for at, slot in enumerate(slots)}
    for now in slots_now(session):
        if now.run is None or now.run.state not in LIVE_STATES:
            continue
        if now.left is not None:
            left_s = now.left.likely_s
        elif now.run.due_at is not None:
            left_s = (now.run.due_at - began).total_seconds()
        else:
            left_s = sum(stage.planned_s for stage in now.program.stages) if now.program else 0.0
        end = max(math.ceil(left_s / 60), 1)
        if now.slot.id in places:
            taken.append((places[now.slot.id], 0, end))
            running[places[now.slot.id]] = now.run.cell.number
        busy[now.run.cell_id] = (now.run, end)
    return tuple(taken), busy, running


def _waiting(session: Session, began: datetime, busy: Mapping[int, tuple[SlotRun, int]]) -> tuple[_Waiting, ...]:
    """Cells that something at the testers is the next step of, those that wait longest first."""
    rows = session.scalars(
        select(CellRow).join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(CellRow.handed_over_at.is_(None), JudgementRow.next_step.in_(_WAITING)).order_by(JudgementRow.at, CellRow.id)
        .limit(MOST_WAITING)
    ).all()  # fmt: skip
    stories, rules = stories_of(session, rows), rules_in_force(session)
    found = []
    for cell in rows:
        assessed = assess(stories[cell.id], rules)
        ready = 0
        if cell.id in busy:
            run, ready = busy[cell.id]
            needed = needed_after(run.program)  # type: ignore[arg-type]
            rest = needed.programs[0][1] if needed else 0
            ready += rest
        else:
            needed = needed_by(assessed, began)
            if needed and needed.not_before:
                ready = max(_minute(needed.not_before, began), 0)
        if needed is not None:
            found.append(_Waiting(cell, assessed, needed.programs, ready))
    return tuple(found)


def _cell(waiting: _Waiting, slots: Sequence[Slot], now: datetime, factor: float, *, is_first: bool) -> Cell | None:
    shape = waiting.assessed.size.shape if waiting.assessed.size else None
    operations = []
    # A load alone leaves a cell empty: it is used where nothing else measures, and a charge for the shelf follows.
    both = any(slot.max_charge_ma > 0 and slot.max_discharge_ma > 0 for slot in slots)
    programs = waiting.programs
    if not both and any(program == "capacity" for program, _ in programs):
        programs = (*programs, ("storage", _COOL_MIN))
    for at, (program, rest) in enumerate(programs):
        options = []
        for place, slot in enumerate(slots):
            if (shape is not None and shape not in slot.holds) or (
                slot.tester_id is None and program not in ("charge", "storage")
            ):
                continue
            if both and program == "capacity" and slot.max_charge_ma <= 0:
                continue
            try:
                minutes = planned_minutes(
                    program, waiting.assessed, now, slot_charge_a=slot.max_charge_ma / 1000,
                    slot_discharge_a=slot.max_discharge_ma / 1000,
                )  # fmt: skip
            except BadInputError:
                continue
            options.append((place, max(math.ceil(minutes * factor), 1)))
        if not options:
            return None
        operations.append(Operation(at, rest if at else 0, tuple(options), _LEAVES.get(program, "storage")))
    return Cell(waiting.cell.number, 1, is_first, tuple(operations), waiting.ready)


def _program_of(waiting: _Waiting, operation: int) -> ProgramCode:
    return waiting.programs[operation][0] if operation < len(waiting.programs) else "storage"


def _finished(problem: Problem, rows: Sequence[Row]) -> list[int]:
    done: dict[int, int] = {}
    for row in rows:
        done[row.cell] = done.get(row.cell, 0) + 1
    return [at for at, count in done.items() if count == len(problem.cells[at].operations)]


def _as_json(made: _Set, rows: Sequence[Row]) -> dict[str, Any]:
    problem = made.problem
    finished = set(_finished(problem, rows))
    vector = vector_of(problem, rows)
    tonight = {
        row.cell
        for row in rows
        if row.end <= problem.evenings[0].end and row.operation == len(problem.cells[row.cell].operations) - 1
    }
    return {
        "began": made.began.isoformat(),
        "rows": [
            {
                "cell": problem.cells[row.cell].key, "slot": made.slots[row.channel].number,
                "program": _program_of(made.waiting[row.cell], row.operation), "start": row.start, "end": row.end,
            }
            for row in rows
        ],
        "tonight": sorted(problem.cells[at].key for at in tonight),
        "finished": sorted(problem.cells[at].key for at in finished),
        "not_begun": [cell.key for at, cell in enumerate(problem.cells) if at not in finished],
        "waiting": len(problem.cells), "promises_missed": vector.first_not_tonight, "bound": most_weight(problem),
        "taken": [[made.slots[channel].number, start, end, made.running[channel]] for channel, start, end in problem.taken],
    }  # fmt: skip


def _changes(before: Mapping[str, Any] | None, after: Mapping[str, Any]) -> tuple[Said, ...]:
    """What a new plan does otherwise than the one before."""
    if before is None:
        return ()
    told = []
    lost = sorted(set(before["tonight"]) - set(after["tonight"]) - _begun(before, after))
    won = sorted(set(after["tonight"]) - set(before["tonight"]))
    if lost:
        told.append(said("evening-lost", count=len(lost), cells=tuple(lost[:8])))
    if won:
        told.append(said("evening-won", count=len(won), cells=tuple(won[:8])))
    was = {(row["cell"], row["program"]): row["slot"] for row in before["rows"]}
    moved = [row["cell"] for row in after["rows"] if was.get((row["cell"], row["program"]), row["slot"]) != row["slot"]]
    if moved:
        told.append(said("evening-moved", count=len(set(moved))))
    return tuple(told) or (said("evening-same"),)


def _begun(before: Mapping[str, Any], after: Mapping[str, Any]) -> set[str]:
    """Cells whose last step has begun since, so that nothing of them is left to plan."""
    planned = {row["cell"] for row in after["rows"]}
    return {cell for cell in before["tonight"] if cell not in planned and cell not in after["not_begun"]}
