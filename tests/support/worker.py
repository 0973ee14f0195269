"""The worker on a test's own database, until nothing is left to do."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable

from sqlalchemy import Engine, text

from zembric.cli.worker import make_worker
from zembric.operations.measuring.log_traces import LogStore


def work_off_the_queue(engine: Engine, store: LogStore) -> None:
    worker = make_worker(engine.url.render_as_string(hide_password=False), engine, store)
    with engine.begin() as connection:
        connection.execute(text("UPDATE procrastinate_jobs SET scheduled_at = NULL WHERE status = 'todo'"))
    _aside(
        lambda: worker.run_worker(
            wait=False, install_signal_handlers=False, listen_notify=False, delete_jobs="successful"
        )
    )


def run_once(engine: Engine, store: LogStore, task: str) -> None:
    """One of the worker's periodic tasks, now."""
    worker = make_worker(engine.url.render_as_string(hide_password=False), engine, store)

    async def run() -> None:
        async with worker.open_async():
            await worker.tasks[task](timestamp=0)

    _aside(lambda: asyncio.run(run()))


def _aside(work: Callable[[], None]) -> None:
    """In a thread of its own: a browser's driver may have an event loop in this one."""
    faults: list[BaseException] = []

    def tried() -> None:
        try:
            work()
        except BaseException as fault:  # raised where it is waited for
            faults.append(fault)

    thread = threading.Thread(target=tried)
    thread.start()
    thread.join()
    if faults:
        raise faults[0]
