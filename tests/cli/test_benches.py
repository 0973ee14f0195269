"""The benchmarks still run: each on a small scale, for what it says, not for how fast it is."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest

from zembric.paths import ROOT


@pytest.mark.parametrize(
    ("bench", "arguments", "says"),
    [
        ("shelf", ("300", "1"), "bare SQL"),
        ("logs", ("2000", "1"), "times the fastest reader"),
        ("matching", ("0.2", "2"), "7S4P of 40"),
    ],
)
def test_a_benchmark_runs_small(bench: str, arguments: tuple[str, ...], says: str) -> None:
    command = [sys.executable, str(ROOT / "bench" / f"{bench}.py"), *arguments]
    done = subprocess.run(
        command,
        env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        check=False,
        text=True,
        capture_output=True,
        timeout=300,
    )
    assert done.returncode == 0, done.stderr
    assert says in done.stdout
