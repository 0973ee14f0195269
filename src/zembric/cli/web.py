"""The web server as a process of its own: `python -m zembric.cli.web HOST:PORT WORKERS`."""

from __future__ import annotations

import signal
import sys
from typing import TYPE_CHECKING, Any

from gunicorn.app.base import BaseApplication

from zembric.api.wsgi import load_routes, make_app
from zembric.cli.children import end_with_parent, end_with_whoever_started_this, wait_for_go

if TYPE_CHECKING:
    from flask import Flask

# A page that listens for changes keeps a thread while it is open.
_THREADS = 56


class _WebServer(BaseApplication):
    def __init__(self, bind: str, workers: int) -> None:
        self._bind, self._workers = bind, workers
        super().__init__()

    def load_config(self) -> None:
        for key, value in {
            "bind": self._bind,
            "workers": self._workers,
            "worker_class": "gthread",
            "threads": _THREADS,
            "graceful_timeout": 1,
            "control_socket_disable": True,
            "loglevel": "warning",
            "worker_tmp_dir": "/dev/shm",
            # Loaded once and shared by all workers.
            "preload_app": True,
            # A worker whose master was killed would keep the port for a while.
            "post_fork": _end_with_the_master,
        }.items():
            self.cfg.set(key, value)

    def load(self) -> Flask:
        return make_app()


def _end_with_the_master(_server: Any, _worker: Any) -> None:
    end_with_parent(signal.SIGKILL)


if __name__ == "__main__":
    end_with_whoever_started_this(signal.SIGQUIT)
    load_routes()
    wait_for_go()
    _WebServer(sys.argv[1], int(sys.argv[2])).run()
