"""The worker: takes what was put into the queues, three at a time, beside the web server. `python -m zembric.cli.worker`"""

from __future__ import annotations

import os
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

import procrastinate
from sqlalchemy import make_url, text

from zembric.cli.children import end_with_whoever_started_this
from zembric.core.said import named
from zembric.evening_search import search_aside
from zembric.log_lines import write_log_lines
from zembric.operations.cells.judged import judge_sibling, siblings_that_stand_otherwise
from zembric.operations.changes import CHANNEL
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.health import HEARTBEAT_S, SILENT_S
from zembric.operations.matching.searches import give_up_search, run_search, take_up_searches_again
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.measuring.logs import give_up_log, read_waiting_log, take_up_again
from zembric.operations.queue import (
    JUDGE_SIBLINGS,
    JUDGING,
    LOGS,
    PLAN_EVENING,
    PUSH_ALARM,
    READ_LOG,
    SEARCH_MATCH,
    SEARCHES,
    SETTLE_RUN,
    TAKE_UP_LOST,
)
from zembric.operations.room import is_no_room
from zembric.operations.statements import compile_statements
from zembric.operations.testers.evening import look_after_evening
from zembric.operations.testers.sending import push_alarm
from zembric.operations.testers.settling import give_up_run, settle_run, take_up_runs_again
from zembric.wording import say

if TYPE_CHECKING:
    from sqlalchemy import Engine

    from zembric.models import AlarmRow

# A job that fails for a reason of the moment, such as a database that restarts, is tried again.
_TRIES = 3
# Where the disk is full it is tried again after so long.
_UNTIL_ROOM_S = 20
_BEHIND = 10
_PLAN_S = 2.0
# What is due later is seen so soon; what is due at once is told.
_LOOKS_EVERY_S = 1.0


class _Again(procrastinate.BaseRetryStrategy):
    """A few times at once; where the disk is full, until there is room."""

    def get_retry_decision(
        self, *, exception: BaseException, job: procrastinate.jobs.Job
    ) -> procrastinate.RetryDecision | None:
        if is_no_room(exception):
            return procrastinate.RetryDecision(retry_in={"seconds": _UNTIL_ROOM_S})
        return None if _is_hopeless(exception, job.attempts) else procrastinate.RetryDecision(retry_in={"seconds": 0})


def _is_hopeless(fault: BaseException, attempts: int) -> bool:
    return attempts >= _TRIES and not is_no_room(fault)


def make_worker(url: str, engine: Engine, store: LogStore) -> procrastinate.App:
    """The worker's application with all its tasks, on one database."""
    plain = make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=plain))

    @app.task(name=READ_LOG, queue=LOGS, retry=_Again(), pass_context=True)
    def read_log(context: procrastinate.JobContext, log_id: int) -> None:
        try:
            read_waiting_log(engine, store, log_id)
        except Exception as fault:
            # The fault itself is logged by the queue; whoever waits for the log has to know as well.
            if _is_hopeless(fault, context.job.attempts):
                give_up_log(engine, log_id)
            raise

    @app.task(name=SEARCH_MATCH, queue=SEARCHES, retry=_Again(), pass_context=True)
    def search_match(context: procrastinate.JobContext, search_id: int) -> None:
        try:
            run_search(engine, search_id, lambda: datetime.now(UTC))
        except Exception as fault:
            if _is_hopeless(fault, context.job.attempts):
                give_up_search(engine, search_id, datetime.now(UTC))
            raise

    @app.task(name=SETTLE_RUN, queue=LOGS, retry=_Again(), pass_context=True)
    def settle(context: procrastinate.JobContext, run_id: int) -> None:
        try:
            settle_run(engine, store, run_id, datetime.now(UTC))
        except Exception as fault:
            if _is_hopeless(fault, context.job.attempts):
                give_up_run(engine, run_id, datetime.now(UTC))
            raise

    @app.task(name=JUDGE_SIBLINGS, queue=JUDGING, retry=_Again())
    def judge_siblings(donor_id: int, cell_id: int = 0) -> None:  # noqa: ARG001  # jobs of an older version name one
        with unit_of_work(engine) as session:
            otherwise = siblings_that_stand_otherwise(session, donor_id)
        for sibling_id in otherwise:
            with unit_of_work(engine) as session:
                judge_sibling(session, sibling_id, datetime.now(UTC))
        if otherwise:
            # Whoever looks at one of them looks again.
            with unit_of_work(engine) as session:
                session.execute(text(f"NOTIFY {CHANNEL}"))

    @app.periodic(cron="* * * * *")
    @app.task(name=TAKE_UP_LOST, queue=JUDGING)
    async def take_up_lost(timestamp: int) -> None:  # noqa: ARG001  # when it was due
        # A worker that was killed in the middle of one would hold up all that follows of the same donor.
        for job in await app.job_manager.get_stalled_jobs(
            queue=JUDGING, task_name=JUDGE_SIBLINGS, seconds_since_heartbeat=SILENT_S
        ):
            await app.job_manager.retry_job(job)

    @app.task(name=PLAN_EVENING, queue=LOGS, retry=_Again())
    def plan_evening() -> None:
        with unit_of_work(engine) as session:
            look_after_evening(session, datetime.now(UTC), lambda problem: search_aside(problem, _PLAN_S))

    @app.task(name=PUSH_ALARM, queue=LOGS)
    def push(alarm_id: int) -> None:
        with unit_of_work(engine) as session:
            push_alarm(session, alarm_id, _alarm_in_words)

    return app


def _alarm_in_words(alarm: AlarmRow) -> str:
    where = " ".join(each for each in (alarm.slot and alarm.slot.name, alarm.cell and alarm.cell.number) if each)
    return f"{say(named('alarm-name', alarm.code))}: {where}" if where else say(named("alarm-name", alarm.code))


def run_worker() -> None:
    """Works until it is told to stop, and finishes what it is at; what a killed one left half done is done again."""
    end_with_whoever_started_this()
    write_log_lines()
    # Whoever types goes before whatever is worked on behind them.
    os.nice(_BEHIND)
    url = os.environ["DATABASE_URL"]
    engine = make_engine(url)
    compile_statements(engine)
    store = LogStore(Path(os.environ["ZEMBRIC_PHOTOS"]).parent / "logs")
    try:
        with unit_of_work(engine) as session:
            take_up_again(session)
            take_up_searches_again(session)
            take_up_runs_again(session)
        make_worker(url, engine, store).run_worker(
            queues=[JUDGING, LOGS, SEARCHES],
            concurrency=4,
            fetch_job_polling_interval=_LOOKS_EVERY_S,
            delete_jobs="successful",
            update_heartbeat_interval=HEARTBEAT_S,
        )
    finally:
        engine.dispose()


if __name__ == "__main__":
    # By its own name: the queue asks of its tasks that they can be found again.
    from zembric.cli import worker  # noqa: PLW0406

    worker.run_worker()
