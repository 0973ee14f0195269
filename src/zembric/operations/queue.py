"""Work that takes longer than a request: put into PostgreSQL in the same transaction as what it is about."""

from __future__ import annotations

from typing import TYPE_CHECKING

import procrastinate
from sqlalchemy import text

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

READ_LOG = "read-log"
SEARCH_MATCH = "search-match"
SETTLE_RUN = "settle-run"
PLAN_EVENING = "plan-evening"
PUSH_ALARM = "push-alarm"
JUDGE_SIBLINGS = "judge-siblings"
TAKE_UP_LOST = "take-up-lost"
#: Queues; the worker takes from all, some jobs at a time, so that a long search does not hold up a log.
LOGS, SEARCHES, JUDGING = "logs", "searches", "judging"
# It only writes jobs, on the connection of the transaction at hand; the worker has an app of its own.
_writer = procrastinate.App(connector=procrastinate.PsycopgConnector())

# Who measures a donor cell by cell, or several who do, make one job of it.
_MORE_COMES_WITHIN_S = 1

_WAITS_ALREADY = text("""
SELECT id FROM procrastinate_jobs WHERE task_name = :task AND lock = :lock AND status = 'todo' LIMIT 1 FOR SHARE SKIP LOCKED
""")


def put_once(session: Session, task: str, queue: str, lock: str, **arguments: int) -> None:
    """As `put_into_queue`, a moment later; where one with this lock waits already that one will do: it sees what this transaction wrote.

    Nobody takes it before the transaction is over, and one that is taken at this moment does not count.
    """
    if session.scalar(_WAITS_ALREADY, {"task": task, "lock": lock}) is None:
        put_into_queue(session, task, queue, lock, after_s=_MORE_COMES_WITHIN_S, **arguments)


def put_into_queue(
    session: Session, task: str, queue: str, lock: str | None = None, *, after_s: int = 0, **arguments: int
) -> int:
    """Puts a task into the queue; it is there when the transaction is committed, and only then. Gives the job's id.

    Args:
        lock: Tasks with the same lock are done one after the other, in order.
        after_s: Not before so long from now [s].
    """
    connection = session.connection().connection.driver_connection
    schedule_in = {"seconds": after_s} if after_s else None
    return _writer.configure_task(task, queue=queue, lock=lock, schedule_in=schedule_in, connection=connection).defer(
        **arguments
    )
