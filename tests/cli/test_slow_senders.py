"""Whoever sends a request drop by drop is cut, and keeps nobody else out."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import socket
import subprocess
import sys
import threading
import urllib.request
from collections.abc import Iterator

import pytest
from sqlalchemy import Engine

from zembric.cli.postgres import free_port

# As the web server is run, with two threads and less patience: what is cut after ten seconds there is cut after half of one here.
_SERVER = """
import sys
from zembric.cli import web
web._THREADS, web._HEAD_WITHIN_S, web._BODY_WITHIN_S = 2, 0.5, 0.5
web._WebServer(sys.argv[1], 1).run()
"""
_HEAD = "POST /api/session HTTP/1.1\r\nHost: here\r\nContent-Type: application/json\r\nContent-Length: 1000\r\n"


@pytest.fixture(scope="module")
def port(shared_engine: Engine, tmp_path_factory: pytest.TempPathFactory) -> Iterator[int]:
    port, url = free_port(), shared_engine.url.render_as_string(hide_password=False)
    photos = str(tmp_path_factory.mktemp("photos"))
    environment = {**os.environ, "DATABASE_URL": url, "ZEMBRIC_PHOTOS": photos, "PYTHONPATH": "src"}
    with subprocess.Popen([sys.executable, "-c", _SERVER, f"127.0.0.1:{port}"], env=environment) as server:
        while server.poll() is None:
            with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port)):
                break
        yield port
        server.terminate()


@pytest.mark.parametrize("sent", [_HEAD, _HEAD + "\r\n" + '{"name": "Vol'], ids=["half a head", "half a body"])
def test_those_who_stall_hold_no_thread_for_long(port: int, sent: str) -> None:
    with contextlib.ExitStack() as open_sockets:
        slow = [open_sockets.enter_context(socket.create_connection(("127.0.0.1", port))) for _ in range(4)]
        for each in slow:
            each.sendall(sent.encode())
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=20) as answer:
            assert json.load(answer)["person"] is None
        for each in slow:
            each.settimeout(20)
            each.recv(4096)  # an answer or nothing
            while each.recv(4096):
                pass


def test_who_pauses_between_requests_keeps_the_line(port: int) -> None:
    with contextlib.closing(http.client.HTTPConnection("127.0.0.1", port, timeout=20)) as line:
        line.connect()
        first = line.sock
        for _ in range(3):
            line.request("GET", "/api/session")
            assert json.loads(line.getresponse().read())["person"] is None
            threading.Event().wait(0.6)  # longer than a head may take there
        assert line.sock is first
