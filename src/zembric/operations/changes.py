"""Hearing of what others changed: one connection of each server process listens to PostgreSQL's notifications."""

from __future__ import annotations

import json
import threading
from collections import deque
from typing import TYPE_CHECKING

import psycopg
import structlog
from sqlalchemy import text

if TYPE_CHECKING:
    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

#: Sent by the database with every line of the record; see the migrations.
CHANNEL = "zembric_change"
#: Sent by the runner with what each slot reads now.
LIVE_CHANNEL = "zembric_live"
_LIVE_KEPT = 32
#: Sent there too: slots, runs, alarms or the evening changed.
TABLE_CHANGED = '[{"table":1}]'
_LISTEN_AGAIN_AFTER_S = 2.0
#: Changes that come so soon after another are told together.
_GATHER_S = 0.25
_log = structlog.get_logger()


def tell_table(session: Session) -> None:
    """Lets everybody who looks at the testers look again, once this is committed; others are not disturbed."""
    session.execute(text("SELECT pg_notify(:channel, :payload)"), {"channel": LIVE_CHANNEL, "payload": TABLE_CHANGED})


class Changes:
    """Counts changes as they are committed, by whatever process; many threads wait for the next one.

    Whether anybody listens is not kept: after a lost connection the count goes up once, as something may have been missed.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._address = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._changed = threading.Condition()
        self._count = 0
        # What slots read, as it came last, each with a number of its own: those who look are told what they have not seen.
        self._live: deque[tuple[int, str]] = deque(maxlen=_LIVE_KEPT)
        self._live_count = 0
        self._listener: threading.Thread | None = None
        self._closed = threading.Event()
        self._hears = threading.Event()

    @property
    def is_closed(self) -> bool:
        return self._closed.is_set()

    @property
    def count(self) -> int:
        return self._count

    def wait(self, seen: int, seen_live: int, seconds: float) -> tuple[int, int, list[str]]:
        """Both counts, as soon as one is another than the one that was seen, or after that many seconds; and what slots read since."""
        with self._changed:
            self._changed.wait_for(
                lambda: self._count != seen or self._live_count != seen_live or self.is_closed, timeout=seconds
            )
            return self._count, self._live_count, [payload for number, payload in self._live if number > seen_live]

    @property
    def live_count(self) -> int:
        return self._live_count

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
                    connection.execute(f"LISTEN {LIVE_CHANNEL}")
                    self._tell()
                    self._hears.set()
                    while not self._closed.is_set():
                        heard = [*connection.notifies(stop_after=1), *connection.notifies(timeout=0)]
                        for each in heard:
                            if each.channel == LIVE_CHANNEL:
                                self._tell_live(each.payload)
                        if any(each.channel == CHANNEL for each in heard):
                            self._tell()
                            # To wake everybody who waits takes long: what comes meanwhile is told at once then.
                            self._closed.wait(_GATHER_S)
            except psycopg.OperationalError as error:
                _log.warning("changes-not-heard", reason=str(error).strip())
            self._closed.wait(_LISTEN_AGAIN_AFTER_S)

    def _tell_live(self, payload: str) -> None:
        # It goes out to every page as it is: nothing but what our own runner writes passes.
        try:
            json.loads(payload)
        except ValueError:
            return
        with self._changed:
            self._live_count += 1
            self._live.append((self._live_count, payload))
            self._changed.notify_all()

    def _tell(self) -> None:
        with self._changed:
            self._count += 1
            self._changed.notify_all()
