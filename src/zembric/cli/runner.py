"""The runner beside the web server: `python -m zembric.cli.runner`. With ZEMBRIC_TURN_S it asks the instruments more often."""

from __future__ import annotations

import os
import signal

from zembric.cli.children import end_with_whoever_started_this
from zembric.log_lines import write_log_lines
from zembric.operations.database import make_engine
from zembric.runner.loop import Runner


def run_runner() -> None:
    """Drives the instruments until it is told to stop, and switches every current off on the way out."""
    end_with_whoever_started_this()
    write_log_lines()
    engine = make_engine(os.environ["DATABASE_URL"])
    runner = Runner(engine, float(os.environ.get("ZEMBRIC_TURN_S", "1")))
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda _number, _frame: runner.stop())
    try:
        runner.run()
    finally:
        engine.dispose()


if __name__ == "__main__":
    run_runner()
