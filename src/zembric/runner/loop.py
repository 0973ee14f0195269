"""The runner's loop: one turn a second. It owns the ports by a lock in PostgreSQL, so that there is one however many are started."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from typing import TYPE_CHECKING

import psycopg
import structlog
from sqlalchemy.exc import DBAPIError

from zembric.operations.database import unit_of_work
from zembric.operations.health import RUNNER_LOCK
from zembric.operations.testers.alarms import is_anybody_here
from zembric.operations.testers.running import (
    Turn,
    Work,
    keep_turn,
    look_after_chargers,
    look_after_hazards,
    look_after_plans,
    work_of,
)
from zembric.runner.testers import HeldTester

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy import Engine

_TRY_AGAIN_S = 1.0
#: So long the instruments are driven on while the database does not answer [s]; then everything is switched off.
_WITHOUT_DATABASE_S = 20.0
_MOST_TESTERS_AT_ONCE = 8
_CHARGERS_EVERY = 15
_log = structlog.get_logger()


class Runner:
    """Drives every instrument that is on the wire until it is told to stop."""

    def __init__(self, engine: Engine, turn_s: float = 1.0) -> None:
        self._engine, self._turn_s = engine, turn_s
        self._address = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._lock: psycopg.Connection | None = None
        self._testers: dict[int, HeldTester] = {}
        self._stop = threading.Event()
        self._pool = ThreadPoolExecutor(_MOST_TESTERS_AT_ONCE, thread_name_prefix="tester")
        self._work: Work | None = None
        #: Turns that could not be kept yet, and since when.
        self._unkept: list[tuple[Turn, datetime]] = []
        self._unkept_since_s: float | None = None
        self._count = 0

    def stop(self) -> None:
        self._stop.set()

    def run(self) -> None:
        try:
            while not self._stop.is_set():
                if not self._is_ours():
                    self._let_go()
                    self._stop.wait(_TRY_AGAIN_S)
                    continue
                began_s = time.monotonic()
                self._turn()
                self._stop.wait(max(self._turn_s - (time.monotonic() - began_s), 0.01))
        finally:
            for tester in self._testers.values():
                tester.stop_all()
            self._pool.shutdown()
            if self._lock is not None:
                self._lock.close()

    # --- One owner ---------------------------------------------------------------------------------------------------

    def _is_ours(self) -> bool:
        """Whether this process holds the lock; it falls with the connection, so a killed runner holds nothing."""
        try:
            if self._lock is None or self._lock.closed:
                connection = psycopg.connect(
                    self._address, autocommit=True, application_name="zembric-runner", connect_timeout=3
                )
                row = connection.execute("SELECT pg_try_advisory_lock(%s)", (RUNNER_LOCK,)).fetchone()
                if not row or not row[0]:
                    connection.close()
                    return False
                self._lock = connection
            else:
                self._lock.execute("SELECT 1")
        except psycopg.Error as error:
            if self._lock is not None:
                self._lock.close()
            # The database is gone, and with it every other runner's lock: this one drives on for a while, see _keep.
            may = bool(self._testers) and not self._is_too_long_without(time.monotonic())
            if not may:
                _log.warning("runner-without-database", reason=str(error).strip()[:200])
            return may
        return True

    def _let_go(self) -> None:
        """Another one drives, or nobody may: nothing flows that this one does not watch."""
        for tester in self._testers.values():
            tester.stop_all()
        self._testers.clear()

    # --- One turn ----------------------------------------------------------------------------------------------------

    def _turn(self) -> None:
        now = datetime.now(UTC)
        if self._unkept and not self._keep([]) and self._is_too_long_without(time.monotonic()):
            # Nothing flows that nobody writes down.
            self._let_go()
            return
        work = self._read_work() if not self._unkept else self._work
        if work is None:
            return
        self._follow(work)
        may_charge = is_anybody_here(work.present_at, now)
        futures = {
            held: self._pool.submit(
                held.turn,
                [slot for slot in work.slots if slot.tester_id == held.tester_id],
                [run for run in work.runs if run.slot.tester_id == held.tester_id],
                [tried for tried in work.tries if tried.tester_id == held.tester_id],
                now,
                may_charge=may_charge,
                on_hazards=work.on_hazards,
            )
            for held in self._testers.values()
        }
        turn = Turn()
        for held, future in futures.items():
            try:
                done = future.result()
            except Exception as fault:  # a fault of ours with one instrument leaves the others running
                _log.error("tester-turn-failed", tester=held.tester_id, reason=repr(fault)[:300])
                held.stop_all()
                continue
            turn.runs += done.runs
            turn.testers += done.testers
            turn.tries += done.tries
            turn.live += done.live
        self._keep([(turn, now)])

    def _read_work(self) -> Work | None:
        try:
            with unit_of_work(self._engine) as session:
                self._work = work_of(session)
                self._count += 1
                look_after_hazards(session, datetime.now(UTC))
                if self._count % _CHARGERS_EVERY == 1:
                    look_after_chargers(session, datetime.now(UTC))
                    look_after_plans(session, datetime.now(UTC))
        except DBAPIError as error:
            _log.warning("runner-cannot-read", reason=str(error.orig)[:200])
            self._unkept_since_s = self._unkept_since_s or time.monotonic()
        return self._work

    def _follow(self, work: Work) -> None:
        """Holds the testers there are, each as it was set last."""
        wanted = {tester.id: tester for tester in work.testers}
        for gone in self._testers.keys() - wanted.keys():
            self._testers.pop(gone).stop_all()
        for key, tester in wanted.items():
            held = self._testers.get(key)
            if held is None or held.version != tester.version:
                if held is not None:
                    held.stop_all()
                self._testers[key] = HeldTester.of(tester)

    def _keep(self, turns: Sequence[tuple[Turn, datetime]]) -> bool:
        """Rows are safe once this is over; what could not be kept is kept as soon as it can. Whether everything is."""
        pending = [*self._unkept, *turns]
        try:
            with unit_of_work(self._engine) as session:
                for each, at in pending:
                    keep_turn(session, each, at)
        except DBAPIError as error:
            _log.warning("runner-cannot-keep", reason=str(error.orig)[:200], turns=len(pending))
            self._unkept = pending
            self._unkept_since_s = self._unkept_since_s or time.monotonic()
            return False
        self._unkept, self._unkept_since_s = [], None
        return True

    def _is_too_long_without(self, clock_s: float) -> bool:
        return self._unkept_since_s is not None and clock_s - self._unkept_since_s > _WITHOUT_DATABASE_S
