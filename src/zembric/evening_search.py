"""Evenings planned against the clock: on all cores, and for a server in a process of its own.

What is compiled takes a hundred megabytes that no web server should keep, and while one searches nobody else would be answered.
Started as a module it reads what to plan from its input; with `--compile` it only makes sure that all is compiled.
"""

from __future__ import annotations

import os
import pickle  # between a process and its own child
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING

from zembric.core.evening import Cell, Channel, Evening, Operation, Problem, vector_of
from zembric.paths import ROOT

if TYPE_CHECKING:
    from collections.abc import Callable

    from zembric.core.evening import Row
    from zembric.core.evening.search import Company

_MOST_THREADS = 4
#: However late it is, so long is searched: enough for the plan of a few cells [s].
_LEAST_S = 0.15
#: How long a process may take to start and to answer, besides its search [s].
_AROUND_S = 60.0


def search_until(problem: Problem, until_s: float, seed: int) -> tuple[Row, ...]:
    """The best of what all cores find together, each with a seed of its own.

    Args:
        until_s: By the clock of `time.monotonic`.
    """
    plan_evenings, company = _load()

    def search(seed: int) -> tuple[Row, ...]:
        return plan_evenings(problem, is_over, seed, company)

    began_s = time.monotonic()
    least_s = max(until_s - began_s, _LEAST_S)

    def is_over() -> float:
        return (time.monotonic() - began_s) / least_s

    threads = min(len(os.sched_getaffinity(0)), _MOST_THREADS)
    with ThreadPoolExecutor(threads) as pool:
        found = list(pool.map(search, range(seed, seed + threads)))
    return min(found, key=lambda rows: vector_of(problem, rows))


def _load() -> tuple[Callable[..., tuple[Row, ...]], Company]:
    """The search, and where those who search meet. That takes some tenths of a second to load and, where it was not compiled yet, some
    seconds: after that the clock is started."""
    from zembric.core.evening.search import Company, plan_evenings  # noqa: PLC0415

    steps = (Operation(0, 0, ((0, 5),), "storage"), Operation(2, 5, ((0, 5),), "storage"))
    cells = (Cell("A", 1, True, steps), Cell("B", 1, False, steps[:1]))
    channel = Channel("T1", "tester", 1000, 1000, frozenset({"round"}))
    shares = iter((0.0, 0.05, 0.3, 0.9))
    plan_evenings(Problem((Evening(0, 60),), (channel,), cells, 2, 1), lambda: next(shares, 1.0), 0)
    return plan_evenings, Company()


def search_aside(problem: Problem, seconds: float) -> tuple[Row, ...]:
    """The same in a process of its own, which searches for so many seconds.

    Raises:
        subprocess.SubprocessError: the process failed.
    """
    done = subprocess.run(
        [sys.executable, "-m", "zembric.evening_search"], input=pickle.dumps((problem, seconds)), stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONPATH": str(ROOT / "src")}, timeout=seconds + _AROUND_S, check=True,
    )  # fmt: skip
    rows: tuple[Row, ...] = pickle.loads(done.stdout)
    return rows


def main() -> None:
    if sys.argv[1:] == ["--compile"]:
        _load()
        return
    problem, seconds = pickle.load(sys.stdin.buffer)
    rows = search_until(problem, time.monotonic() + seconds, 0)
    sys.stdout.buffer.write(pickle.dumps(rows))


if __name__ == "__main__":
    main()
