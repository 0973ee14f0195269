"""Routes: testers and chargers on the table, what runs in their slots, and alarms."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read, write
from zembric.api.shown.testers import (
    any_charges,
    show_alarm,
    show_alarms,
    show_choice,
    show_planned,
    show_slot,
    show_tester,
)
from zembric.core.house import limits
from zembric.operations.testers import alarms, choosing, live, pushing, runs, slots, wired
from zembric.wire.mapping import as_json
from zembric.wire.ports import found_ports
from zembric.wire.standin import STANDIN_MAP

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("testers")


# --- Instruments on the wire -----------------------------------------------------------------------------------------


@bp.get("/testers", responses={"200": schemas.TestersOut})
def get_testers() -> Response:
    """Instruments on the wire, and ports of this machine where more could hang."""
    ports = found_ports()
    return read(
        lambda session, _actor, _now: schemas.TestersOut(
            testers=[show_tester(each) for each in wired.all_testers(session)],
            ports=[schemas.PortOut.model_validate(port) for port in ports], example=as_json(STANDIN_MAP),
        )
    )  # fmt: skip


@bp.post("/testers", responses={"201": schemas.TesterOut})
def post_tester(body: schemas.TesterIn) -> Response:
    return write(lambda session, actor, now: show_tester(wired.add_tester(session, actor, _typed(body), now)), 201)


@bp.put("/testers/<int:tester_id>", responses={"200": schemas.TesterOut})
def put_tester(path: schemas.TesterPath, body: schemas.TesterChangeIn) -> Response:
    return write(
        lambda session, actor, now: show_tester(
            wired.change_tester(
                session, actor, path.tester_id, _typed(body), body.version, now, is_active=body.is_active
            )
        )
    )


@bp.post("/testers/<int:tester_id>/tries", responses={"201": schemas.TriedLineOut})
def post_try(path: schemas.TesterPath, body: schemas.LineIn) -> Response:
    """Sends one line to an instrument; what it answers is read from its tries a moment later."""
    return write(
        lambda session, actor, now: schemas.TriedLineOut.model_validate(
            wired.try_line(session, actor, path.tester_id, body.line, now)
        ),
        201,
    )


@bp.get("/testers/<int:tester_id>/tries", responses={"200": schemas.TriesOut})
def get_tries(path: schemas.TesterPath) -> Response:
    return read(
        lambda session, _actor, _now: schemas.TriesOut(
            tries=[schemas.TriedLineOut.model_validate(each) for each in wired.tries_of(session, path.tester_id)]
        )
    )


def _typed(body: schemas.TesterIn) -> wired.TypedTester:
    return wired.TypedTester(
        body.instrument, body.link, body.address, dict(body.mapping), body.channels, body.max_charge_ma, body.max_discharge_ma,
        tuple(body.holds), body.resistor_ohm,
    )  # fmt: skip


# --- Slots -----------------------------------------------------------------------------------------------------------


@bp.get("/table", responses={"200": schemas.TableOut})
def get_table() -> Response:
    """Every slot as it stands, with what runs in it."""
    return read(lambda session, _actor, _now: _table(session))


@bp.post("/slots", responses={"201": schemas.SlotOut})
def post_slot(body: schemas.ChargerIn) -> Response:
    """A charger without a wire."""
    return write(
        lambda session, actor, now: _slot(
            session, slots.add_charger(session, actor, body.name, body.max_charge_ma, tuple(body.holds), now).number
        ),
        201,
    )


@bp.get("/slots/<string:number>", responses={"200": schemas.ChoicesOut})
def get_slot(path: schemas.SlotPath) -> Response:
    """A slot with what could run on the cell in it."""
    return read(lambda session, _actor, now: _choices(session, path.number, now))


@bp.put("/slots/<string:number>", responses={"200": schemas.SlotOut})
def put_slot(path: schemas.SlotPath, body: schemas.SlotIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.SlotOut:
        slots.change_slot(
            session, actor, path.number, body.name, body.max_charge_ma, body.max_discharge_ma, tuple(body.holds), now,
            is_active=body.is_active,
        )  # fmt: skip
        session.flush()
        return show_slot(live.SlotNow(slots.get_slot(session, path.number), None, None, None, None))

    return write(perform)


@bp.post("/slots/<string:number>/cell", responses={"200": schemas.ChoicesOut})
def post_slot_cell(path: schemas.SlotPath, body: schemas.CellInSlotIn) -> Response:
    """A cell lies in the slot from now on."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.ChoicesOut:
        slots.put_in(session, actor, path.number, body.cell, now)
        return _choices(session, path.number, now)

    return write(perform)


@bp.delete("/slots/<string:number>/cell", responses={"200": schemas.ChoicesOut})
def delete_slot_cell(path: schemas.SlotPath) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.ChoicesOut:
        slots.take_out(session, actor, path.number, now)
        return _choices(session, path.number, now)

    return write(perform)


@bp.post("/slots/<string:number>/runs", responses={"201": schemas.ChoicesOut})
def post_run(path: schemas.SlotPath, body: schemas.ProgramIn) -> Response:
    """Lets a program run on the cell in the slot; the runner begins it after a look at the voltage."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.ChoicesOut:
        runs.ask_for_run(session, actor, path.number, body.program, now)
        return _choices(session, path.number, now)

    return write(perform, 201)


@bp.post("/runs/<int:run_id>/stop", responses={"200": schemas.ChoicesOut})
def post_run_stop(path: schemas.RunPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    return write(
        lambda session, actor, now: _choices(session, runs.stop_run(session, actor, path.run_id, now).slot.number, now)
    )


@bp.get("/runs/<int:run_id>/curve", responses={"200": schemas.RunCurveOut})
def get_run_curve(path: schemas.RunPath, query: schemas.RunCurveQuery) -> Response:
    """Points of a run that goes on, never more than a picture of that width can show."""
    return read(
        lambda session, _actor, _now: schemas.RunCurveOut.model_validate(
            live.curve_of(session, path.run_id, query.width)
        )
    )


def _table(session: Session) -> schemas.TableOut:
    going = runs.live_runs(session)
    return schemas.TableOut(
        slots=[show_slot(now) for now in live.slots_now(session)], alarms=[show_alarm(each) for each in alarms.open_alarms(session)],
        present_at=alarms.last_presence(session), here_minutes=limits.SOMEBODY_HERE_MIN.value, charges=any_charges(going),
        times_runs=live.house_times(session).runs,
    )  # fmt: skip


def _slot(session: Session, number: str) -> schemas.SlotOut:
    session.flush()
    slot = slots.get_slot(session, number)
    return next(show_slot(now) for now in live.slots_now(session) if now.slot.id == slot.id)


def _choices(session: Session, number: str, now: datetime) -> schemas.ChoicesOut:
    slot = slots.get_slot(session, number)
    found = choosing.choices(session, slot, now)
    return schemas.ChoicesOut(
        slot=_slot(session, number), choices=[show_choice(each) for each in found.programs],
        planned=show_planned(found.planned, slots.get_slot(session, found.planned.slot).name) if found.planned else None,
        evening_ends_at=found.evening_ends_at,
    )  # fmt: skip


# --- Alarms ----------------------------------------------------------------------------------------------------------


@bp.get("/alarms", responses={"200": schemas.AlarmsOut})
def get_alarms() -> Response:
    """Those that nobody answered yet, and whether somebody has to say that they are here."""
    return read(lambda session, _actor, _now: _alarms(session))


@bp.get("/alarms/past", responses={"200": schemas.AlarmsOut})
def get_past_alarms() -> Response:
    return read(
        lambda session, _actor, _now: show_alarms(
            alarms.past_alarms(session), alarms.last_presence(session), runs.live_runs(session)
        )
    )


@bp.post("/alarms/<int:alarm_id>/answer", responses={"200": schemas.AlarmsOut})
def post_alarm_answer(path: schemas.AlarmPath, body: schemas.AnswerAlarmIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.AlarmsOut:
        alarms.acknowledge(session, actor, path.alarm_id, body.done, now)
        return _alarms(session)

    return write(perform)


@bp.post("/presence", responses={"200": schemas.AlarmsOut})
def post_presence(body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    """Somebody is here and looks."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.AlarmsOut:
        alarms.somebody_is_here(session, actor, now)
        return _alarms(session)

    return write(perform)


@bp.get("/push", responses={"200": schemas.PushOut})
def get_push() -> Response:
    """Whether a locked phone can be told of alarms here."""
    return write(lambda session, _actor, _now: schemas.PushOut(key=pushing.public_key(session)))


@bp.post("/push", responses={"200": schemas.PushOut})
def post_push(body: schemas.PushIn) -> Response:
    """This device wants to be told of alarms, also while it is locked."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.PushOut:
        pushing.subscribe(session, actor, body.endpoint, body.p256dh, body.auth, now)
        return schemas.PushOut(key=pushing.public_key(session))

    return write(perform)


@bp.delete("/push", responses={"200": schemas.PushOut})
def delete_push(body: schemas.PushIn) -> Response:
    def perform(session: Session, actor: Actor, _now: datetime) -> schemas.PushOut:
        pushing.unsubscribe(session, actor, body.endpoint)
        return schemas.PushOut(key=pushing.public_key(session))

    return write(perform)


def _alarms(session: Session) -> schemas.AlarmsOut:
    return show_alarms(alarms.open_alarms(session), alarms.last_presence(session), runs.live_runs(session))
