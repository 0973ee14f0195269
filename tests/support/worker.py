"""The worker on a test's own database, until nothing is left to do."""

from __future__ import annotations

import threading

from sqlalchemy import Engine

from zembric.cli.worker import make_worker
from zembric.operations.measuring.log_traces import LogStore


def work_off_the_queue(engine: Engine, store: LogStore) -> None:
    """In a thread of its own: a browser's driver may have an event loop in this one."""
    url = engine.url.render_as_string(hide_password=False)
    faults: list[BaseException] = []

    def work() -> None:
        try:
            make_worker(url, engine, store).run_worker(
                wait=False, install_signal_handlers=False, listen_notify=False, delete_jobs="successful"
            )
        except BaseException as fault:  # raised where it is waited for
            faults.append(fault)

    thread = threading.Thread(target=work)
    thread.start()
    thread.join()
    if faults:
        raise faults[0]
