"""Ways to measure, bench sums, instruments, logs and rests."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response, current_app, request

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, send_stored, stream, when, write
from zembric.api.shown.cells import show_cell
from zembric.api.shown.measuring import (
    show_agreement,
    show_curve,
    show_earlier,
    show_instrument,
    show_listed_log,
    show_log,
    show_measured,
    show_rest,
    show_sum,
)
from zembric.core.measure.methods import METHODS
from zembric.core.sums.all import ALL_SUMS, work_out
from zembric.core.sums.things import THINGS
from zembric.operations.bench.readings import UNIT_OF
from zembric.operations.bench.rests import rest_of_cell
from zembric.operations.cells import stories
from zembric.operations.known import instruments
from zembric.operations.known.instruments import TypedInstrument
from zembric.operations.known.rules import rules_in_force
from zembric.operations.measuring import earlier_readings, log_readings, log_traces, logs, methods
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.measuring.methods import TypedMeasurement

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import LogRow
    from zembric.operations.actors import Actor

bp = make_blueprint("measuring")
_HEAD_BYTES = 4096


def _store() -> LogStore:
    store: LogStore = current_app.extensions["zembric-logs"]
    return store


# --- Sums ------------------------------------------------------------------------------------------------------------


@bp.get("/sums", responses={"200": schemas.SumsOut})
def get_sums() -> Response:
    """Every bench sum with its inputs, units, formula and grounds."""
    return read(
        lambda _s, _actor, _now: schemas.SumsOut(
            sums=[schemas.SumOut.model_validate(entry) for entry in ALL_SUMS.values()],
            things=[schemas.ThingOut.model_validate(thing) for thing in THINGS],
        )
    )


@bp.post("/sums/<string:name>", responses={"200": schemas.SumAnswerOut})
def post_sum(path: schemas.SumPath, body: schemas.SumIn) -> Response:
    """Works out one sum; nothing is kept."""
    return read(lambda s, _actor, _now: show_sum(work_out(path.name, body.values, rules_in_force(s))))


# --- Ways to measure -------------------------------------------------------------------------------------------------


@bp.get("/methods", responses={"200": schemas.MethodsOut})
def get_methods() -> Response:
    return read(
        lambda _s, _actor, _now: schemas.MethodsOut(
            methods=[schemas.MethodOut.model_validate(method) for method in METHODS.values()]
        )
    )


@bp.post("/measurements", responses={"200": schemas.MeasuredOut})
def post_measurement_preview(body: schemas.MeasurementIn) -> Response:
    """What a measurement comes to; nothing is kept."""
    return read(
        lambda s, _actor, _now: show_measured(
            methods.work_out_measurement(s, _typed(body)), UNIT_OF[METHODS[body.method].quantity]
        )
    )


@bp.post("/cells/<string:number>/measurements", responses={"200": schemas.EntryAnswerOut})
def post_measurement(path: schemas.CellPath, body: schemas.MeasurementIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.EntryAnswerOut:
        cell = methods.keep_measurement(session, actor, path.number, _typed(body), now, typed_at=when(body))
        after = stories.after_entry(session, cell, now)
        return schemas.EntryAnswerOut(
            cell=show_cell(after.listed), entry_id=after.entry_id, gap_to_siblings_v=after.gap_to_siblings_v
        )

    return write(perform)


@bp.get("/cells/<string:number>/method-plan", responses={"200": schemas.MethodPlanOut})
def get_method_plan(path: schemas.CellPath, query: schemas.MethodPlanQuery) -> Response:
    """What to set for this cell, what it must stand, how long it takes, and whether this meter sees what is wanted."""
    return read(
        lambda s, _actor, _now: schemas.MethodPlanOut.model_validate(
            methods.plan_of_method(s, path.number, query.method, query.instrument)
        )
    )


@bp.get("/cells/<string:number>/rest", responses={"200": schemas.RestOut})
def get_rest(path: schemas.CellPath, query: schemas.RestQuery) -> Response:
    """Resting voltages over days, the line through them, and when the next reading will tell something."""
    return read(lambda s, _actor, _now: show_rest(rest_of_cell(s, path.number, query.instrument)))


def _typed(body: schemas.MeasurementIn) -> TypedMeasurement:
    return TypedMeasurement(body.method, body.values, dict(body.said), body.instrument, body.confirmed)


# --- Instruments -----------------------------------------------------------------------------------------------------


@bp.get("/instruments", responses={"200": schemas.InstrumentsOut})
def get_instruments() -> Response:
    return read(
        lambda s, _actor, _now: schemas.InstrumentsOut(
            instruments=[show_instrument(each) for each in instruments.all_instruments(s)]
        )
    )


@bp.post("/instruments", responses={"201": schemas.InstrumentOut})
def post_instrument(body: schemas.InstrumentIn) -> Response:
    typed = TypedInstrument(**body.model_dump())
    return write(lambda s, actor, now: show_instrument(instruments.add_instrument(s, actor, typed, now)), 201)


@bp.put("/instruments/<string:number>", responses={"200": schemas.InstrumentOut})
def put_instrument(path: schemas.InstrumentPath, body: schemas.InstrumentChangeIn) -> Response:
    typed = TypedInstrument(**body.model_dump(exclude={"version", "is_active"}))
    return write(
        lambda s, actor, now: show_instrument(
            instruments.change_instrument(s, actor, path.number, typed, body.version, now, is_active=body.is_active)
        )
    )


@bp.get("/agreement", responses={"200": schemas.AgreementOut})
def get_agreement(query: schemas.AgreementQuery) -> Response:
    """How two instruments agree on the cells that were measured with both."""
    return read(
        lambda s, _actor, _now: show_agreement(
            instruments.agreement(
                s, instruments.get_instrument(s, query.a), instruments.get_instrument(s, query.b), query.quantity
            )
        )
    )


@bp.post("/instruments/<string:number>/corrections", responses={"201": schemas.InstrumentOut})
def post_instrument_correction(path: schemas.InstrumentPath, body: schemas.InstrumentCorrectionIn) -> Response:
    """Takes the bias against another instrument as a correction, from now on."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.InstrumentOut:
        instruments.correct_instrument(session, actor, path.number, body.against, body.quantity, body.ground, now)
        return show_instrument(instruments.get_instrument(session, path.number))

    return write(perform, 201)


@bp.delete("/instruments/<string:number>/corrections/<int:correction_id>", responses={"200": schemas.InstrumentOut})
def delete_instrument_correction(path: schemas.CorrectionPath) -> Response:
    """Ends a correction; readings that were taken with it keep it."""
    return write(
        lambda s, actor, now: show_instrument(
            instruments.end_correction(s, actor, path.number, path.correction_id, now)
        )
    )


@bp.get("/instruments/<string:number>/corrections/<int:correction_id>/earlier", responses={"200": schemas.EarlierOut})
def get_earlier_readings(path: schemas.CorrectionPath) -> Response:
    """What a correction would do to readings before it, and how many carry it afterwards already; nothing is kept."""
    return read(
        lambda s, actor, now: show_earlier(
            earlier_readings.preview_earlier(s, actor, path.number, path.correction_id, now)
        )
    )


@bp.post("/instruments/<string:number>/corrections/<int:correction_id>/earlier", responses={"200": schemas.EarlierOut})
def post_earlier_readings(path: schemas.CorrectionPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    return write(
        lambda s, actor, now: show_earlier(
            earlier_readings.correct_earlier(s, actor, path.number, path.correction_id, now)
        )
    )


@bp.delete(
    "/instruments/<string:number>/corrections/<int:correction_id>/earlier", responses={"200": schemas.EarlierOut}
)
def delete_earlier_readings(path: schemas.CorrectionPath) -> Response:
    """They stand as they were shown again."""
    return write(
        lambda s, actor, now: show_earlier(
            earlier_readings.take_back_earlier(s, actor, path.number, path.correction_id, now)
        )
    )


# --- Logs ------------------------------------------------------------------------------------------------------------


@bp.post("/logs", responses={"201": schemas.LogOut})
def post_log(query: schemas.LogQuery) -> Response:
    """The body is the file as it is. A large one is read by the worker; its state tells how far it is."""
    file = _store().receive(request.stream, logs.MOST_LOG_BYTES)

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.LogOut:
        log = logs.take_in_log(
            session, _store(), actor, query.name, file, now, cell_number=query.cell, instrument_number=query.instrument
        )  # fmt: skip
        return _shown(session, log).model_copy(update={"is_again": log.at != now})

    return write(perform, 201, body=file.sha256.encode())


@bp.get("/logs", responses={"200": schemas.LogsOut})
def get_logs(query: schemas.LogsQuery) -> Response:
    """The newest logs first, thirty at a time: of a cell, by an instrument, by words of the file's name."""

    def perform(session: Session, _actor: Actor, _now: datetime) -> schemas.LogsOut:
        wanted = logs.LogFilter(query.text, query.cell, query.instrument, query.is_read, query.before)
        found, count = logs.listed_logs(session, wanted)
        return schemas.LogsOut(logs=[show_listed_log(log) for log in found], count=count)

    return read(perform)


@bp.get("/logs/<int:log_id>", responses={"200": schemas.LogOut})
def get_log(path: schemas.LogPath) -> Response:
    return read(lambda s, _actor, _now: _shown(s, logs.get_log(s, path.log_id)))


@bp.post("/logs/<int:log_id>/answers", responses={"200": schemas.LogOut})
def post_log_answers(path: schemas.LogPath, body: schemas.LogAnswersIn) -> Response:
    """Reads a log anew by what a person says of it."""
    answers = body.model_dump(exclude={"remember"}, exclude_none=True)
    return write(
        lambda s, actor, now: _shown(
            s, logs.answer_log(s, _store(), actor, path.log_id, answers, now, remember=body.remember)
        )
    )


@bp.post("/logs/<int:log_id>/forget", responses={"200": schemas.LogOut})
def post_log_forget(path: schemas.LogPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    """What was remembered for logs of its kind is remembered no longer."""
    return write(lambda s, actor, now: _shown(s, logs.forget_habit(s, _store(), actor, path.log_id, now)))


@bp.post("/logs/<int:log_id>/stop", responses={"200": schemas.LogOut})
def post_log_stop(path: schemas.LogPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    return write(lambda s, actor, now: _shown(s, logs.stop_log(s, actor, path.log_id, now)))


@bp.post("/logs/<int:log_id>/readings", responses={"200": schemas.EntryAnswerOut})
def post_log_readings(path: schemas.LogPath, body: schemas.KeepLogIn) -> Response:
    """What a test of the log measured becomes readings of a cell."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.EntryAnswerOut:
        cell = log_readings.keep_log(
            session,
            _store(),
            actor,
            path.log_id,
            body.cell,
            body.test,
            now,
            confirmed=body.confirmed,
            started_full=body.started_full,
        )
        after = stories.after_entry(session, cell, now)
        return schemas.EntryAnswerOut(
            cell=show_cell(after.listed), entry_id=after.entry_id, gap_to_siblings_v=after.gap_to_siblings_v
        )

    return write(perform)


@bp.get("/logs/<int:log_id>/file", responses=a_file(""))
def get_log_file(path: schemas.LogPath) -> Response:
    """The file as it came."""
    return send_stored(
        lambda s, _actor, _now: _store().found(logs.get_log(s, path.log_id).sha256),
        "application/octet-stream",
        f"log-{path.log_id}.txt",
    )


@bp.get("/logs/<int:log_id>/tests/<int:test>/curve", responses={"200": schemas.CurveOut})
def get_curve(path: schemas.LogTestPath, query: schemas.CurveQuery) -> Response:
    """Points of a trace, never more than a picture of that width can show."""
    return read(
        lambda s, _actor, _now: show_curve(
            log_traces.curve(
                _store(),
                logs.get_log(s, path.log_id),
                path.test,
                columns=query.width,
                from_s=query.from_s,
                to_s=query.to_s,
            )
        )
    )


@bp.get("/logs/<int:log_id>/tests/<int:test>/trace.csv", responses=a_file(".csv"))
def get_trace_csv(path: schemas.LogTestPath) -> Response:
    """The trace in the open battery data columns; discharge negative."""
    return stream(
        lambda s, _actor, _now: log_traces.trace_csv(_store(), logs.get_log(s, path.log_id), path.test),
        "text/csv",
        f"trace-{path.log_id}-{path.test + 1}.csv",
    )


@bp.get("/logs/<int:log_id>/tests/<int:test>/trace.parquet", responses=a_file(".parquet"))
def get_trace_parquet(path: schemas.LogTestPath) -> Response:
    """The same columns as a table in binary."""
    return stream(
        lambda s, _actor, _now: log_traces.trace_parquet(_store(), logs.get_log(s, path.log_id), path.test),
        "application/vnd.apache.parquet",
        f"trace-{path.log_id}-{path.test + 1}.parquet",
    )


def _shown(session: Session, log: LogRow) -> schemas.LogOut:
    return show_log(log, logs.readings_of(session, log), logs.head_of(_store(), log, _HEAD_BYTES))
