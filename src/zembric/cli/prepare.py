"""What a start does to a database before anybody uses it, while the web server loads."""

from __future__ import annotations

import secrets
from datetime import UTC, datetime
from typing import TYPE_CHECKING

from zembric.cli.migrations import migrate
from zembric.cli.serve import choose_port
from zembric.demo.load import COORDINATOR, VOLUNTEER, is_loaded, load_demo
from zembric.demo.testers import DEMO_SPEED, move_tester, tester_port
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.housekeeping import tidy
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.people import first_invitation

if TYPE_CHECKING:
    from pathlib import Path

    from zembric.cli.run import Loaded


def prepare_start(url: str) -> list[str]:
    """Brings a database to the newest shape and clears away; the token of the first coordinator where nobody is there yet."""
    engine = make_engine(url)
    migrate(engine)
    with unit_of_work(engine) as session:
        token = first_invitation(session, datetime.now(UTC))
        tidy(session, datetime.now(UTC))
    engine.dispose()
    return [token] if token else []


def prepare_demo(url: str, directory: Path, loaded: Loaded) -> None:
    """Loads the demo where it is not there yet; half a demo cannot be, it is one transaction."""
    password_file = directory / "demo-password"
    engine = make_engine(url)
    migrate(engine)
    with unit_of_work(engine) as session:
        if is_loaded(session) and password_file.exists():
            password = password_file.read_text(encoding="ascii")
        else:
            password = "-".join(secrets.token_hex(2) for _ in range(3))
            photos, logs = PhotoStore(directory / "photos"), LogStore(directory / "logs")
            load_demo(session, photos, logs, password, datetime.now(UTC))
            password_file.write_text(password, encoding="ascii")
            password_file.chmod(0o600)
        port = choose_port(None, tester_port(session))
        move_tester(session, port, datetime.now(UTC))
    engine.dispose()
    loaded.people = f"{COORDINATOR} (coordinator) or {VOLUNTEER} (volunteer)"
    loaded.password, loaded.tester_port, loaded.tester_speed = password, port, DEMO_SPEED
