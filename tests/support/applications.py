"""The web application for tests, with its routes made once: that takes a tenth of a second each time."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from flask import Flask
from sqlalchemy import Engine

from zembric.api.app import connect, create_app
from zembric.paths import FRONTEND_DIST, newest_migration_file

SECRET = b"x" * 32
_idle: list[Flask] = []


@contextlib.contextmanager
def application(engine: Engine, photos: Path, dist: Path = FRONTEND_DIST) -> Iterator[Flask]:
    """One that nobody else uses meanwhile, on a database of the test's own."""
    if _idle:
        app = _idle.pop()
        connect(app, engine, photos)
        app.config["FRONTEND_DIST"] = dist
    else:
        newest = newest_migration_file()
        app = create_app(engine, secret=SECRET, newest_migration=newest, frontend_dist=dist, photos=photos)
    yield app
    app.extensions["zembric-changes"].close()
    _idle.append(app)
