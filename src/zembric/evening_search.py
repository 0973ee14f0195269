"""Evenings planned against the clock: on all cores, and for a server in a process of its own.

While one searches nobody else would be answered. Started as a module it reads what to plan from its input; with `--compile` it only
makes sure that the search is compiled.
"""

from __future__ import annotations

import os
import pickle  # between a process and its own child
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from hashlib import sha256
from pathlib import Path
from typing import TYPE_CHECKING

from zembric.core.evening import vector_of
from zembric.core.evening.search import Company, plan_evenings
from zembric.paths import ROOT

if TYPE_CHECKING:
    from zembric.core.evening import Problem, Row
    from zembric.core.evening.native import Turns

#: What the compiled search is made of: also what lays out the arrays that it reads.
_MADE_OF = *sorted((ROOT / "src/zembric/core/evening").glob("*.py")), ROOT / "requirements.txt"
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
    turns, company = compiled_turns(), Company()

    def search(seed: int) -> tuple[Row, ...]:
        return plan_evenings(problem, is_over, seed, turns, company)

    # Where it was not compiled yet that took some seconds, and the clock is started after it.
    began_s = time.monotonic()
    least_s = max(until_s - began_s, _LEAST_S)

    def is_over() -> float:
        return (time.monotonic() - began_s) / least_s

    threads = min(len(os.sched_getaffinity(0)), _MOST_THREADS)
    with ThreadPoolExecutor(threads) as pool:
        found = list(pool.map(search, range(seed, seed + threads)))
    return min(found, key=lambda rows: vector_of(problem, rows))


def compiled_turns() -> Turns:
    """What is compiled of the search: as it is kept, or anew where that was made of another version or for another processor.

    Raises:
        OSError: it cannot be kept where `ZEMBRIC_COMPILED` says.
    """
    from zembric.core.evening import native  # noqa: PLC0415

    place = Path(os.environ.get("ZEMBRIC_COMPILED") or ROOT / ".venv" / "compiled") / "turns"
    made_of = "".join(file.read_text() for file in _MADE_OF)
    mark = sha256(f"{made_of}{native.processor()}".encode()).digest()
    held = place.read_bytes() if place.exists() else b""
    code = held[2 * len(mark) :]
    if held != mark + sha256(code).digest() + code:
        code = native.compiled()
        place.parent.mkdir(parents=True, exist_ok=True)
        aside = place.with_name(f"{place.name}.{os.getpid()}")
        aside.write_bytes(mark + sha256(code).digest() + code)
        aside.replace(place)
    return native.Turns(code)


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
        compiled_turns()
        return
    problem, seconds = pickle.load(sys.stdin.buffer)
    rows = search_until(problem, time.monotonic() + seconds, 0)
    sys.stdout.buffer.write(pickle.dumps(rows))


if __name__ == "__main__":
    main()
