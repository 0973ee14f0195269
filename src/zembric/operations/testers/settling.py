"""A run that is over becomes a log like any other: written down, analysed, entered for its cell, judged. Nobody types."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from sqlalchemy import delete, select

from zembric.core.errors import ZembricError
from zembric.core.said import said, to_json
from zembric.models import LIVE_STATES, RunRow, SlotRun
from zembric.operations.changes import tell_table
from zembric.operations.database import unit_of_work
from zembric.operations.measuring.log_readings import keep_log
from zembric.operations.measuring.logs import MOST_LOG_BYTES, take_in_log
from zembric.operations.people import actor_by_id
from zembric.operations.queue import LOGS, SETTLE_RUN, put_into_queue
from zembric.operations.record import note

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from zembric.operations.measuring.log_traces import LogStore

_HEAD = "test_time_second,voltage_volt,current_ampere,temperature_celsius\n"
_PIECE = 5000


def settle_run(engine: Engine, store: LogStore, run_id: int, now: datetime) -> None:
    """What the worker does with a run that is over. Done twice it is done once: the log is known by its hash, its readings by the log."""
    with unit_of_work(engine) as session:
        run = session.scalar(select(SlotRun).where(SlotRun.id == run_id).with_for_update(of=SlotRun, key_share=True))
        if run is None or run.state in LIVE_STATES or run.settled_at is not None:
            return
        content = _as_csv(session, run)
        received = store.receive(io.BytesIO(content), MOST_LOG_BYTES)
        actor = actor_by_id(session, run.asked_by_id)
        name = f"{run.slot.number}-{run.cell.number}-{run.id}.csv"
        instrument = run.slot.tester.instrument.number if run.slot.tester else None
        log = take_in_log(
            session,
            store,
            actor,
            name,
            received,
            now,
            cell_number=run.cell.number,
            instrument_number=instrument,
            is_read_now=True,
        )
        run.log_id = log.id
        session.flush()
        # The rows lie in the log now, which is kept as it is for ever.
        session.execute(delete(RunRow).where(RunRow.run_id == run.id))
    with unit_of_work(engine) as session:
        _keep(session, store, run_id, now)


def _keep(session: Session, store: LogStore, run_id: int, now: datetime) -> None:
    run = session.scalar(select(SlotRun).where(SlotRun.id == run_id).with_for_update(of=SlotRun, key_share=True))
    if run is None or run.log_id is None or run.settled_at is not None:
        return
    actor = actor_by_id(session, run.asked_by_id)
    try:
        with session.begin_nested():
            keep_log(
                session, store, actor, run.log_id, run.cell.number, 0, now, confirmed=False,
                only_resistance=run.program == "pulse", most_degc=_warmest(run),
            )  # fmt: skip
    except ZembricError as refused:
        # The log stands beside the cell with why; a person looks and keeps it, or does not.
        run.not_kept_said = to_json(refused.said)
        note(session, None, "run-not-kept", now, cell_id=run.cell_id, run=run.id, said=run.not_kept_said)
    run.settled_at = now
    tell_table(session)
    note(session, None, "run-settled", now, cell_id=run.cell_id, run=run.id)


def _warmest(run: SlotRun) -> float | None:
    return (run.progress or {}).get("most_degc")


def give_up_run(engine: Engine, run_id: int, now: datetime) -> None:
    """By our fault nothing could be made of a run; its rows stay."""
    with unit_of_work(engine) as session:
        run = session.scalar(select(SlotRun).where(SlotRun.id == run_id).with_for_update(of=SlotRun, key_share=True))
        if run is not None and run.settled_at is None:
            run.not_kept_said, run.settled_at = to_json(said("log-our-fault")), now


def take_up_runs_again(session: Session) -> None:
    """Puts runs that are over and not settled into the queue once more, after a worker that was killed."""
    over = select(SlotRun.id).where(
        SlotRun.state.not_in(LIVE_STATES), SlotRun.settled_at.is_(None), SlotRun.ended_at.is_not(None)
    )
    for run_id in session.scalars(over):
        put_into_queue(session, SETTLE_RUN, LOGS, run_id=run_id)


def _as_csv(session: Session, run: SlotRun) -> bytes:
    """The rows in the columns of the open battery data format; discharge negative, as they are kept."""
    query = (
        select(RunRow.time_s, RunRow.voltage_v, RunRow.current_a, RunRow.cell_degc)
        .where(RunRow.run_id == run.id)
        .order_by(RunRow.number)
        .execution_options(yield_per=_PIECE)
    )
    out = io.StringIO()
    out.write(_HEAD)
    for time_s, voltage_v, current_a, degc in session.execute(query):
        out.write(f"{time_s:.2f},{voltage_v:.4f},{current_a:.4f},{'' if degc is None else f'{degc:.1f}'}\n")
    return out.getvalue().encode("ascii")
