"""What gunicorn loads: the application for the database that DATABASE_URL names."""

from __future__ import annotations

import gc
import os
from pathlib import Path
from typing import TYPE_CHECKING

from zembric.log_lines import write_log_lines
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.people import server_secret
from zembric.operations.statements import compile_statements
from zembric.paths import FRONTEND_DIST, newest_migration_file

if TYPE_CHECKING:
    from flask import Flask

_COLLECT_AFTER = 20_000


def load_routes() -> None:
    """What takes longest of `make_app`, and needs no database."""
    # What is loaded stays for good: the collector need not walk through it, now or in the middle of somebody's entry.
    gc.disable()
    import zembric.api.app  # noqa: F401, PLC0415  # all routes come with it


def make_app() -> Flask:
    """The application, loaded once and then shared by all workers that are forked from here: no connection stays open."""
    load_routes()
    from zembric.api.app import create_app  # noqa: PLC0415

    write_log_lines()
    engine = make_engine(os.environ["DATABASE_URL"])
    with unit_of_work(engine) as session:
        secret = server_secret(session)
    engine.dispose()
    compile_statements(engine)
    app = create_app(
        engine,
        secret=secret,
        newest_migration=newest_migration_file(),
        frontend_dist=FRONTEND_DIST,
        photos=Path(os.environ["ZEMBRIC_PHOTOS"]),
        proxies=int(os.environ.get("ZEMBRIC_PROXIES", "0")),
    )
    gc.freeze()
    gc.set_threshold(_COLLECT_AFTER, 20, 50)
    gc.enable()
    return app
