"""How fast, and in how much memory, a log of 3,000,000 rows is analysed, against a plain CSV reader in the same run.

    .venv/bin/python bench/logs.py [ROWS [RUNS]]

The reader is pyarrow's, which Zembric has anyway; each is a whole process of its own, the file is in the page cache.
Where pandas or polars are installed they are measured as well.
"""

from __future__ import annotations

import importlib.util
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parents[1]
READERS = {
    "pyarrow": "from pyarrow import csv; csv.read_csv(path)",
    "pandas": "import pandas; pandas.read_csv(path)",
    "polars": "import polars; polars.read_csv(path)",
}
RUNS = int(sys.argv[2]) if len(sys.argv) > 2 else 5


def write_log(path: Path, rows: int) -> None:
    """One long discharge with a millivolt and a milliampere of noise."""
    chance = np.random.default_rng(1)
    time_s = np.arange(rows) * 0.5
    volts = 4.2 - 1.2 * np.arange(rows) / rows + chance.normal(0, 0.001, rows)
    amps = -0.01 + chance.normal(0, 0.001, rows)
    with path.open("w", encoding="ascii") as file:
        file.write("test_time_second,voltage_volt,current_ampere\n")
        for start in range(0, rows, 100_000):
            part = zip(*(values[start : start + 100_000] for values in (time_s, volts, amps)), strict=True)
            file.writelines(f"{t:.3f},{v:.6f},{i:.6f}\n" for t, v, i in part)


def measure(commands: dict[str, list[str]]) -> dict[str, tuple[float, float]]:
    """Best seconds of several runs, and the most memory of one [MB]; in turn, so that a busy minute is everybody's."""
    found = dict.fromkeys(commands, (float("inf"), 0.0))
    for name, command in [*commands.items()] * RUNS:
        started = time.perf_counter()
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        _, status, usage = os.wait4(process.pid, 0)
        process.returncode = status
        if status:
            raise SystemExit(f"{command} failed")
        best_s, most_mb = found[name]
        found[name] = min(best_s, time.perf_counter() - started), max(most_mb, usage.ru_maxrss / 1024)
    return found


def main() -> None:
    rows = int(sys.argv[1]) if len(sys.argv) > 1 else 3_000_000
    with tempfile.TemporaryDirectory() as directory:
        path = Path(directory) / "long.csv"
        write_log(path, rows)
        print(f"{rows} rows, {path.stat().st_size / 1e6:.0f} MB, {os.cpu_count()} cores, best of {RUNS}")
        commands = {"analyse": [str(ROOT / "zembric"), "analyse", str(path), "--json"]}
        for name, code in READERS.items():
            if importlib.util.find_spec(name):
                commands[name] = [sys.executable, "-c", f"path = {str(path)!r}; {code}"]
        found = measure(commands)
        for name, (seconds, memory_mb) in found.items():
            print(f"{name:10} {seconds:6.2f} s {memory_mb:6.0f} MB")
        fastest_s = min(seconds for name, (seconds, _) in found.items() if name in READERS)
        print(f"analyse takes {found['analyse'][0] / fastest_s:.2f} times the fastest reader")


if __name__ == "__main__":
    main()
