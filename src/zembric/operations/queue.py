"""Work that takes longer than a request: put into PostgreSQL in the same transaction as what it is about."""

from __future__ import annotations

from typing import TYPE_CHECKING

import procrastinate

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

READ_LOG = "read-log"
SEARCH_MATCH = "search-match"
SETTLE_RUN = "settle-run"
PLAN_EVENING = "plan-evening"
PUSH_ALARM = "push-alarm"
#: Queues; the worker takes from both, three jobs at a time, so that a long search does not hold up a log.
LOGS, SEARCHES = "logs", "searches"
# It only writes jobs, on the connection of the transaction at hand; the worker has an app of its own.
_writer = procrastinate.App(connector=procrastinate.PsycopgConnector())


def put_into_queue(session: Session, task: str, queue: str, **arguments: int) -> int:
    """Puts a task into the queue; it is there when the transaction is committed, and only then. Gives the job's id."""
    connection = session.connection().connection.driver_connection
    return _writer.configure_task(task, queue=queue, connection=connection).defer(**arguments)
