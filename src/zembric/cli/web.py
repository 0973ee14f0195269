"""The web server as a process of its own: `python -m zembric.cli.web HOST:PORT WORKERS`."""

from __future__ import annotations

import signal
import sys
import time
from multiprocessing.sharedctypes import RawArray
from typing import TYPE_CHECKING, Any

from gunicorn.app.base import BaseApplication
from gunicorn.http.errors import NoMoreData
from gunicorn.workers.gthread import ThreadWorker

from zembric.api.wsgi import load_routes, make_app
from zembric.cli.children import end_with_parent, end_with_whoever_started_this, wait_for_go

if TYPE_CHECKING:
    from flask import Flask

# A page that listens for changes keeps a thread while it is open.
_THREADS = 56


#: A worker may have so many connections more than another that was heard of within so long [s].
_A_FEW, _SILENT_S = 2, 3.0
#: The head of a request has to come within so long [s]; its body too, or else at so many bytes a second on average.
_HEAD_WITHIN_S, _BODY_WITHIN_S, _LEAST_BYTES_S = 5.0, 10.0, 8_192


class Balance:
    """How many connections each worker has, in memory that all share.

    A browser stays with the worker that took its connection. Left to chance one worker has most of them, and waits for itself while
    a processor is idle.
    """

    def __init__(self, workers: int) -> None:
        self._held, self._told_s = RawArray("i", workers + 1), RawArray("d", workers + 1)

    def may_have(self, place: int, held: int) -> int:
        """How many a worker may have: hardly more than whoever has fewest, unless that one is silent."""
        now_s = time.monotonic()
        self._held[place], self._told_s[place] = held, now_s
        there: list[int] = [
            count for count, told_s in zip(self._held, self._told_s, strict=True) if now_s - told_s < _SILENT_S
        ]
        return min(there) + _A_FEW


class _Worker(ThreadWorker):  # type: ignore[misc]
    """Takes its share of the connections, and cuts whoever sends a request drop by drop: each holds a thread, and there are few of them."""

    balance: Balance
    place = 0

    @property
    def worker_connections(self) -> int:
        """How many it takes, asked each time it looks for more."""
        return min(self._most, self.balance.may_have(self.place, self.nr_conns))

    @worker_connections.setter
    def worker_connections(self, most: int) -> None:
        self._most = most

    def handle(self, conn: Any) -> Any:
        if not conn.initialized:
            init = conn.init

            def init_with_a_clock() -> None:
                conn.init = init  # asked for again at each request
                init()
                conn.clock = _Clock(conn.parser.unreader)

            conn.init = init_with_a_clock
        else:
            conn.clock.start_head()
        return super().handle(conn)

    def handle_request(self, req: Any, conn: Any) -> Any:
        conn.clock.start_body()
        return super().handle_request(req, conn)


class _Clock:
    """Stands before what reads from a connection."""

    def __init__(self, unreader: Any) -> None:
        self._sock, self._chunk = unreader.sock, unreader.chunk
        self.start_head()
        unreader.chunk = self._read

    def start_head(self) -> None:
        self._is_head, self._begun_s, self._bytes = True, time.monotonic(), 0

    def start_body(self) -> None:
        self._is_head, self._begun_s, self._bytes = False, time.monotonic(), 0

    def _read(self, size_hint: int | None = None) -> bytes:
        within_s = _HEAD_WITHIN_S if self._is_head else _BODY_WITHIN_S + self._bytes / _LEAST_BYTES_S
        left_s = self._begun_s + within_s - time.monotonic()
        try:
            if left_s <= 0:
                raise TimeoutError
            self._sock.settimeout(left_s)
            data: bytes = self._chunk(size_hint)
        except TimeoutError:
            if self._is_head:
                raise NoMoreData from None
            raise  # whoever reads the body answers
        finally:
            self._sock.settimeout(None)
        self._bytes += len(data)
        return data


class _WebServer(BaseApplication):
    def __init__(self, bind: str, workers: int) -> None:
        self._bind, self._workers = bind, workers
        _Worker.balance = Balance(workers)
        super().__init__()

    def load_config(self) -> None:
        for key, value in {
            "bind": self._bind,
            "workers": self._workers,
            "worker_class": _Worker,
            "threads": _THREADS,
            "graceful_timeout": 1,
            # Longer than anybody at a bench pauses: a line that is closed as an entry is sent costs a second try.
            "keepalive": 20,
            "control_socket_disable": True,
            "loglevel": "warning",
            "worker_tmp_dir": "/dev/shm",
            # Loaded once and shared by all workers.
            "preload_app": True,
            "pre_fork": _give_it_a_place,
            # A worker whose master was killed would keep the port for a while.
            "post_fork": _end_with_the_master,
        }.items():
            self.cfg.set(key, value)

    def load(self) -> Flask:
        return make_app()


def _give_it_a_place(server: Any, worker: Any) -> None:
    taken = {other.place for other in server.WORKERS.values()}
    worker.place = next(place for place in range(server.num_workers + 1) if place not in taken)


def _end_with_the_master(_server: Any, _worker: Any) -> None:
    end_with_parent(signal.SIGKILL)


if __name__ == "__main__":
    end_with_whoever_started_this(signal.SIGQUIT)
    load_routes()
    wait_for_go()
    _WebServer(sys.argv[1], int(sys.argv[2])).run()
