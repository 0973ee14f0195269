"""Routes: the evening at the testers, planned and followed."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Any

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.core.errors import ConflictError
from zembric.core.said import from_json, said
from zembric.evening_search import search_aside
from zembric.models import LIVE_STATES
from zembric.operations.testers import evening as evenings
from zembric.operations.testers.live import house_times, slots_now
from zembric.operations.testers.planning import what_if
from zembric.operations.testers.slots import all_slots

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.models import EveningRow
    from zembric.operations.actors import Actor
    from zembric.operations.testers.live import SlotNow
    from zembric.operations.testers.planning import Planner

bp = make_blueprint("evening")
#: So long a plan is looked for while somebody waits for it [s].
_PLAN_S, _WHAT_IF_S = 0.8, 0.4
#: So many of the next steps stand on the first page.
_NEXT = 3


def _within(seconds: float) -> Planner:
    return lambda problem: search_aside(problem, seconds)


@bp.get("/evening", responses={"200": schemas.EveningOrNoneOut})
def get_evening() -> Response:
    """The evening that goes on, with its plan and what is to do next."""
    return read(lambda session, _actor, now: schemas.EveningOrNoneOut(evening=_open(session, now)))


@bp.post("/evening", responses={"201": schemas.EveningOrNoneOut})
def post_evening(body: schemas.EveningIn) -> Response:
    return write(
        lambda session, actor, now: schemas.EveningOrNoneOut(
            evening=_show(session, evenings.begin_evening(session, actor, _typed(body), now, _within(_PLAN_S)), now)
        ),
        201,
    )


@bp.put("/evening", responses={"200": schemas.EveningOrNoneOut})
def put_evening(body: schemas.EveningChangeIn) -> Response:
    """Planned anew: somebody comes or leaves, something is promised."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.EveningOrNoneOut:
        changed = evenings.change_evening(session, actor, _typed(body), body.version, now, _within(_PLAN_S))
        return schemas.EveningOrNoneOut(evening=_show(session, changed, now))

    return write(perform)


@bp.delete("/evening", responses={"200": schemas.EveningOrNoneOut})
def delete_evening() -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.EveningOrNoneOut:
        evenings.close_evening(session, actor, now)
        return schemas.EveningOrNoneOut(evening=None)

    return write(perform)


@bp.post("/evening/what-if", responses={"200": schemas.EveningWhatIfOut})
def post_evening_what_if(body: schemas.EveningWhatIfIn) -> Response:
    """What one more tester, charger, pair of hands or hour would bring; nothing is kept."""

    def perform(session: Session, _actor: Actor, now: datetime) -> schemas.EveningWhatIfOut:
        evening = evenings.open_evening(session)
        if evening is None or evening.plan is None:
            raise ConflictError(said("no-evening-goes-on"))
        would = what_if(session, evening, body.what, now, _within(_WHAT_IF_S))
        return schemas.EveningWhatIfOut(
            finished=max(would, len(evening.plan["finished"])), now=len(evening.plan["finished"])
        )

    return read(perform)


def _typed(body: schemas.EveningIn) -> evenings.TypedEvening:
    return evenings.TypedEvening(
        body.ends_at, tuple((person.name, person.until) for person in body.people), tuple(body.promised), tuple(body.slots),
        tuple((each.starts_at, each.ends_at) for each in body.later),
    )  # fmt: skip


def _open(session: Session, now: datetime) -> schemas.EveningOut | None:
    evening = evenings.open_evening(session)
    return _show(session, evening, now) if evening else None


def _show(session: Session, evening: EveningRow, now: datetime) -> schemas.EveningOut:
    session.flush()
    plan: dict[str, Any] = evening.plan or {}
    began = datetime.fromisoformat(plan["began"]) if plan else now
    names = {slot.number: slot.name for slot in all_slots(session, also_inactive=True)}
    rows = evenings.rows_of(session, evening, now)
    missed = {each.cell for each in rows if each.state == "missed"} & {*plan.get("tonight", [])}
    times = house_times(session)

    def row(each: evenings.PlannedRow) -> dict[str, Any]:
        return {
            "cell": each.cell, "slot": each.slot, "slot_name": names.get(each.slot, each.slot), "program": each.program,
            "starts_at": each.starts_at, "ends_at": each.ends_at, "state": each.state,
        }  # fmt: skip

    taken = [
        {
            "cell": cell, "slot": slot, "slot_name": names.get(slot, slot), "starts_at": began + timedelta(minutes=start),
            "ends_at": began + timedelta(minutes=end),
        }
        for slot, start, end, cell in plan.get("taken", [])
    ]  # fmt: skip
    return schemas.EveningOut.model_validate(
        {
            "version": evening.version, "starts_at": evening.starts_at, "ends_at": evening.ends_at, "planned_at": evening.planned_at,
            "people": evening.people, "promised": evening.promised, "slots": evening.slots, "later": evening.later,
            "rows": [row(each) for each in rows], "taken": taken, "next": [row(each) for each in evenings.tonight(evening, rows)[:_NEXT]],
            "running": [_running(each, now) for each in slots_now(session) if each.run and each.run.state in LIVE_STATES],
            "done": evenings.done_tonight(session, evening), "tonight": [cell for cell in plan.get("tonight", []) if cell not in missed],
            "finished": plan.get("finished", []), "not_begun": plan.get("not_begun", []),
            "waiting": plan.get("waiting", 0), "promises_missed": plan.get("promises_missed", 0) + len(missed & {*evening.promised}),
            "bound": plan.get("bound", 0),
            "changes": [{"at": change["at"], "said": [from_json(each) for each in change["said"]]} for change in evening.changes],
            "times_runs": times.runs, "times_factor": times.factor,
        }
    )  # fmt: skip


def _running(now_there: SlotNow, now: datetime) -> dict[str, Any]:
    run = now_there.run
    assert run is not None
    ends_at = now + timedelta(seconds=now_there.left.likely_s) if now_there.left else run.due_at
    return {
        "cell": run.cell.number, "slot": now_there.slot.number, "slot_name": now_there.slot.name, "program": run.program,
        "ends_at": ends_at,
    }  # fmt: skip
