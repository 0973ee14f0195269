"""Processes that a start keeps alive: started again when they end by themselves, stopped together and in time at its end."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import TYPE_CHECKING

import structlog

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping

#: Pauses before a child is started again [s]; from the first on again once it lived this long.
_AGAIN_S = (0.3, 1.0, 2.0, 4.0)
_LIVED_S = 60.0
#: What hangs after so long is ended by force [s].
_MOST_STOP_S = 1.6
_PARENT = "ZEMBRIC_PARENT"
_PR_SET_PDEATHSIG = 1
_log = structlog.get_logger()


class Child:
    """One process, whichever it is at the moment."""

    def __init__(
        self,
        name: str,
        start: Callable[[], subprocess.Popen[bytes]],
        stop_signal: signal.Signals = signal.SIGTERM,
        end_signal: signal.Signals = signal.SIGKILL,
    ) -> None:
        self._name, self._start, self._stop_signal, self._end_signal = name, start, stop_signal, end_signal
        self._stopping = threading.Event()
        self.process = start()
        self._thread: threading.Thread | None = None

    def keep(self) -> None:
        """From now on it is started again when it ends."""
        self._thread = threading.Thread(target=self._keep, name=self._name, daemon=True)
        self._thread.start()

    def _keep(self) -> None:
        ended = 0
        while True:
            began_s = time.monotonic()
            code = self.process.wait()
            while True:
                if self._stopping.is_set():
                    return
                ended = 1 if time.monotonic() - began_s > _LIVED_S else ended + 1
                _log.warning("child-ended", child=self._name, code=code, then="it is started again")
                if self._stopping.wait(_AGAIN_S[min(ended, len(_AGAIN_S)) - 1]):
                    return
                try:
                    self.process = self._start()
                    break
                except OSError as error:
                    # A full disk or too many processes now may be none in a moment.
                    _log.warning("child-cannot-be-started", child=self._name, error=str(error))

    def go(self) -> None:
        """What it waited for is there: it reads the end of its input."""
        if self.process.stdin is not None:
            self.process.stdin.close()

    def ask_to_stop(self) -> None:
        self._stopping.set()
        self.process.send_signal(self._stop_signal)

    def stop_by(self, deadline_s: float) -> None:
        """Waits until it has stopped; from the deadline on, on the monotonic clock, it is ended by force."""
        if self._thread is not None:
            # It may have been about to start it again.
            self._thread.join(timeout=max(deadline_s - time.monotonic(), 0.02))
            self.process.send_signal(self._stop_signal)
        try:
            self.process.wait(timeout=max(deadline_s - time.monotonic(), 0.02))
        except subprocess.TimeoutExpired:
            self._end()

    def _end(self) -> None:
        if self._end_signal != signal.SIGKILL:
            self.process.send_signal(self._end_signal)
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.process.wait(timeout=0.5)
                return
        # What it leaves behind would hold the port, or the database's memory.
        for pid in _with_all_it_started(self.process.pid):
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        self.process.wait()


def _with_all_it_started(pid: int) -> list[int]:
    found = [pid]
    for thread in Path(f"/proc/{pid}/task").glob("*/children"):
        with contextlib.suppress(OSError):
            for started in thread.read_text(encoding="ascii").split():
                found += _with_all_it_started(int(started))
    return found


class Children:
    """Modules of ours, each as a process of its own."""

    def __init__(self) -> None:
        self._children: list[Child] = []

    def start(self, module: str, environment: Mapping[str, str], *arguments: str, waits: bool = False) -> Child:
        """One more; it is looked after from `Child.keep` on. With `waits` it may load what it needs and goes on at `Child.go`."""
        command = [sys.executable, "-m", module, *arguments]
        whole = {**os.environ, **environment, _PARENT: str(os.getpid())}

        stdin = subprocess.PIPE if waits else subprocess.DEVNULL

        def start() -> subprocess.Popen[bytes]:
            nonlocal stdin
            # Ctrl-C goes to us; we stop it in order.
            process = subprocess.Popen(command, env=whole, stdin=stdin, start_new_session=True)
            stdin = subprocess.DEVNULL
            return process

        child = Child(module, start)
        self._children.append(child)
        return child

    @property
    def processes(self) -> list[subprocess.Popen[bytes]]:
        return [child.process for child in self._children]

    def stop(self) -> None:
        deadline_s = time.monotonic() + _MOST_STOP_S
        for child in self._children:
            child.ask_to_stop()
        for child in self._children:
            child.stop_by(deadline_s)


@contextlib.contextmanager
def children() -> Iterator[Children]:
    """Processes that live while the block runs; stopped all at once at its end, by force where they hang."""
    ours = Children()
    try:
        yield ours
    finally:
        ours.stop()


def wait_for_go() -> None:
    """Called by a process that may have been told to wait."""
    if os.environ.get(_PARENT) is not None:
        sys.stdin.read()


def end_with_parent(how: int) -> None:
    """Asks the kernel to send this signal when the parent dies, however it dies."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, how)


def end_with_whoever_started_this(how: int = signal.SIGTERM) -> None:
    """Called first by such a process: the kernel ends it when its parent dies, however that dies."""
    parent = os.environ.get(_PARENT)
    if parent is None:
        return
    end_with_parent(how)
    if os.getppid() != int(parent):
        sys.exit(0)
