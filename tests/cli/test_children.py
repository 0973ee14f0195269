"""What works beside the web server is started again when it ends, stops in order, and does not outlive whoever started it."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from zembric.cli.children import children

CHILD = """
import os, pathlib, signal, subprocess, time
from zembric.cli.children import end_with_whoever_started_this
end_with_whoever_started_this()
pids = [os.getpid()]
if "HANGS" in os.environ:
    signal.signal(signal.SIGTERM, signal.SIG_IGN)
    pids.append(subprocess.Popen(["sleep", "60"]).pid)
pathlib.Path(os.environ["TOLD"]).open("a").write("".join(f"{pid}\\n" for pid in pids))
time.sleep(60)
"""
PARENT = """
import os, time
from zembric.cli.children import children
with children() as ours:
    ours.start("a_child", {"TOLD": os.environ["TOLD"]}).keep()
    time.sleep(60)
"""


def until(look: Callable[[], bool], most_s: float = 20) -> None:
    deadline = time.monotonic() + most_s
    while not look():
        assert time.monotonic() < deadline
        time.sleep(0.02)


def told(path: Path) -> list[int]:
    return [int(line) for line in path.read_text(encoding="ascii").split()] if path.exists() else []


def is_there(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def written(tmp_path: Path) -> dict[str, str]:
    (tmp_path / "a_child.py").write_text(CHILD, encoding="ascii")
    path = os.pathsep.join([str(tmp_path), *(each for each in sys.path if each)])
    return {"PYTHONPATH": path, "TOLD": str(tmp_path / "told")}


def test_a_child_that_is_killed_is_started_again_and_stops_with_the_block(tmp_path: Path) -> None:
    pids = tmp_path / "told"
    with children() as ours:
        ours.start("a_child", written(tmp_path)).keep()
        until(lambda: len(told(pids)) == 1)
        os.kill(told(pids)[0], signal.SIGKILL)
        until(lambda: len(told(pids)) == 2)
        assert is_there(told(pids)[1])
    assert not is_there(told(pids)[1])


def test_a_child_that_hangs_is_ended_by_force_with_what_it_started(tmp_path: Path) -> None:
    pids = tmp_path / "told"
    with children() as ours:
        ours.start("a_child", written(tmp_path) | {"HANGS": "1"}).keep()
        until(lambda: len(told(pids)) == 2)
    until(lambda: not any(is_there(pid) for pid in told(pids)))


def test_a_child_ends_when_whoever_started_it_is_killed(tmp_path: Path) -> None:
    environment, pids = written(tmp_path), tmp_path / "told"
    parent = subprocess.Popen([sys.executable, "-c", PARENT], env={**os.environ, **environment})
    try:
        until(lambda: len(told(pids)) == 1)
    finally:
        parent.kill()
        parent.wait()
    until(lambda: not is_there(told(pids)[0]))
