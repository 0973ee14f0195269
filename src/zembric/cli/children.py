"""Processes beside the web server that are started again when they end by themselves."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import threading
import time
from typing import TYPE_CHECKING

from zembric.cli.postgres import end_with_parent

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping

#: Pauses before a child is started again [s]; the first once it lived this long.
_AGAIN_S = (0.3, 1.0, 2.0, 4.0)
_LIVED_S = 60.0
_PARENT = "ZEMBRIC_PARENT"


class _Child:
    def __init__(self, module: str, environment: Mapping[str, str], arguments: tuple[str, ...]) -> None:
        self._module = module
        self._command = [sys.executable, "-m", module, *arguments]
        self._environment = {**os.environ, **environment, _PARENT: str(os.getpid())}
        self._stopping = threading.Event()
        self._process = self._start()
        self._thread = threading.Thread(target=self._keep, name=module, daemon=True)
        self._thread.start()

    def _start(self) -> subprocess.Popen[bytes]:
        # Ctrl-C goes to us; we stop it in order.
        return subprocess.Popen(self._command, env=self._environment, start_new_session=True)

    def _keep(self) -> None:
        ended = 0
        while True:
            began_s = time.monotonic()
            code = self._process.wait()
            if self._stopping.is_set():
                return
            ended = 1 if time.monotonic() - began_s > _LIVED_S else ended + 1
            print(f"{self._module} ended ({code}); it is started again.", file=sys.stderr, flush=True)
            if self._stopping.wait(_AGAIN_S[min(ended, len(_AGAIN_S)) - 1]):
                return
            self._process = self._start()

    def stop(self, most_s: float) -> None:
        self._stopping.set()
        self._process.terminate()
        try:
            self._process.wait(timeout=most_s)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait()


@contextlib.contextmanager
def kept_alive(
    module: str, environment: Mapping[str, str], *arguments: str, most_stop_s: float = 10.0
) -> Iterator[None]:
    """A module of ours as a process of its own while the block runs; stopped in order at its end, by force where it hangs."""
    child = _Child(module, environment, arguments)
    try:
        yield
    finally:
        child.stop(most_stop_s)


def end_with_whoever_started_this() -> None:
    """Called first by such a process: the kernel ends it when its parent dies, however that dies."""
    parent = os.environ.get(_PARENT)
    if parent is None:
        return
    end_with_parent(signal.SIGTERM)
    if os.getppid() != int(parent):
        sys.exit(0)
