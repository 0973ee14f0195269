"""Hearing of what others changed: one connection of each server process listens to PostgreSQL's notifications."""

from __future__ import annotations

import threading
from typing import TYPE_CHECKING

import psycopg
import structlog
from sqlalchemy import text

if TYPE_CHECKING:
    from sqlalchemy import Engine

#: Sent by the database with every line of the record; see the migrations.
CHANNEL = "zembric_change"
_LISTEN_AGAIN_AFTER_S = 2.0
_log = structlog.get_logger()


class Changes:
    """Counts changes as they are committed, by whatever process; many threads wait for the next one.

    Whether anybody listens is not kept: after a lost connection the count goes up once, as something may have been missed.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._address = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._changed = threading.Condition()
        self._count = 0
        self._listener: threading.Thread | None = None
        self._closed = threading.Event()
        self._hears = threading.Event()

    @property
    def is_closed(self) -> bool:
        return self._closed.is_set()

    @property
    def count(self) -> int:
        return self._count

    def wait(self, seen: int, seconds: float) -> int:
        """The count, as soon as it is another than the one that was seen, or after that many seconds."""
        with self._changed:
            self._changed.wait_for(lambda: self._count != seen or self.is_closed, timeout=seconds)
            return self._count

    def listen(self) -> None:
        """Begins to listen, once for all who wait; a listener that is gone is replaced.

        Whoever asked first waits a moment until it hears, else its beginning would be told to them as a change.
        """
        with self._changed:
            if self._listener is None or not self._listener.is_alive():
                self._listener = threading.Thread(target=self._hear, name="changes", daemon=True)
                self._hears.clear()
                self._listener.start()
        self._hears.wait(_LISTEN_AGAIN_AFTER_S)

    def close(self) -> None:
        """Lets everybody who waits go, and ends the listener."""
        self._closed.set()
        self._tell()
        if self._listener is not None and self._listener.is_alive():
            with self._engine.begin() as connection:
                connection.execute(text(f"NOTIFY {CHANNEL}"))
            self._listener.join(timeout=_LISTEN_AGAIN_AFTER_S)

    def _hear(self) -> None:
        while not self._closed.is_set():
            try:
                with psycopg.connect(self._address, autocommit=True, application_name="zembric-changes") as connection:
                    connection.execute(f"LISTEN {CHANNEL}")
                    self._tell()
                    self._hears.set()
                    for _ in connection.notifies():
                        if self._closed.is_set():
                            return
                        self._tell()
            except psycopg.OperationalError as error:
                _log.warning("changes-not-heard", reason=str(error).strip())
            self._closed.wait(_LISTEN_AGAIN_AFTER_S)

    def _tell(self) -> None:
        with self._changed:
            self._count += 1
            self._changed.notify_all()
