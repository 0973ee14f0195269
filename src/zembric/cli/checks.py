"""`./zembric test`: every check beside every test; one that fails does not keep the others from running."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from zembric.paths import API_DESCRIPTION, ROOT

_MOST_WORKERS = 6
_LONG = ("tests/browser", "tests/runner")


@dataclass(frozen=True, slots=True)
class Outcome:
    name: str
    said: str  # empty: passed
    seconds: float


def run_checks(pytest_arguments: list[str]) -> int:
    """Checks beside pytest, which often waits for a browser; what they found stands below it. Returns the exit code."""
    if pytest_arguments and pytest_arguments[0] == "--":
        pytest_arguments = pytest_arguments[1:]
    if pytest_arguments:  # somebody works on a few tests
        os.chdir(ROOT)
        os.execv(sys.executable, [sys.executable, "-m", "pytest", *pytest_arguments])
    with ThreadPoolExecutor(max_workers=1) as pool:
        checked = [pool.submit(_time, *check) for check in _checks()]
        tests = _pytest(_every_test())
        outcomes = [each.result() for each in checked]
    failed = [outcome for outcome in outcomes if outcome.said]
    for outcome in outcomes:
        print(f"{'FAILED' if outcome.said else 'passed'}  {outcome.name} ({outcome.seconds:.1f} s)", flush=True)
    for outcome in failed:
        print(f"\n--- {outcome.name}\n{outcome.said}", flush=True)
    return tests or (1 if failed else 0)


def _every_test() -> list[str]:
    """Each worker has a PostgreSQL server and a browser of its own; tests of one file stay together.

    The runner's and the browser's long files come before the core's many short tests, which fill up the workers at the
    end. Two workers more than there are processors: a browser waits as often as it works.
    """
    workers = str(min((os.cpu_count() or 2) + 2, _MOST_WORKERS))
    folders = sorted({str(each.relative_to(ROOT).parents[-3]) for each in (ROOT / "tests").rglob("test_*.py")})
    folders.sort(key=lambda folder: folder not in _LONG)
    return ["-n", workers, "--dist", "loadscope", "--no-loadscope-reorder", *folders]


def _pytest(arguments: list[str]) -> int:
    return subprocess.run([sys.executable, "-m", "pytest", *arguments], cwd=ROOT, check=False).returncode


def _checks() -> list[tuple[str, Callable[[], str]]]:
    python, frontend = [sys.executable, "-m"], ROOT / "frontend"
    bin_directory = Path(sys.executable).parent
    return [
        ("Python types (mypy, strict)", lambda: _run([*python, "mypy"])),
        ("Python format (ruff)", lambda: _run([*python, "ruff", "format", "--check", "."])),
        ("Python lint (ruff)", lambda: _run([*python, "ruff", "check", "."])),
        ("import rules (import-linter)", lambda: _run([str(bin_directory / "lint-imports"), "--no-logo"])),
        ("front-end types (tsc)", lambda: _run(["npm", "run", "-s", "types"], frontend)),
        ("front-end format and lint (biome)", lambda: _run(["npm", "run", "-s", "lint"], frontend)),
        ("front-end unit tests (vitest)", lambda: _run(["npm", "run", "-s", "test"], frontend)),
        ("generated API client is current", _client_is_current),
    ]


def _time(name: str, check: Callable[[], str]) -> Outcome:
    started = time.monotonic()
    return Outcome(name, check(), time.monotonic() - started)


def _run(command: list[str], directory: Path = ROOT) -> str:
    """What a failing command said; empty if it passed."""
    done = subprocess.run(
        command, cwd=directory, check=False, text=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    )
    return "" if done.returncode == 0 else done.stdout or f"exit code {done.returncode}"


def _client_is_current() -> str:
    # All routes come with it: whoever runs a few tests does not wait for them.
    from zembric.cli.describe import (  # noqa: PLC0415
        API_TYPES,
        HAZARDS_PAGE,
        PAGE_CODES,
        PLANNER_PAGE,
        describe_api,
        describe_planner,
        write_types,
    )
    from zembric.cli.describe_codes import describe_codes  # noqa: PLC0415
    from zembric.cli.describe_hazards import describe_hazards  # noqa: PLC0415

    if describe_codes() != PAGE_CODES.read_text(encoding="utf-8"):
        return "frontend/src/api/codes.ts is not made from the core: run ./zembric describe"
    if describe_planner() != PLANNER_PAGE.read_text(encoding="utf-8"):
        return "docs/next-step.md is not what core/next_step/planner.py says: run ./zembric describe"
    if describe_hazards() != HAZARDS_PAGE.read_text(encoding="utf-8"):
        return "docs/hazards.md is not what the rules answer: run ./zembric describe"
    described = describe_api()
    if described != API_DESCRIPTION.read_text(encoding="utf-8"):
        return "frontend/src/api/openapi.json is not what the server describes: run ./zembric describe"
    with tempfile.TemporaryDirectory() as directory:
        types = Path(directory) / "schema.d.ts"
        write_types(API_DESCRIPTION, types)
        if types.read_text(encoding="utf-8") != API_TYPES.read_text(encoding="utf-8"):
            return "frontend/src/api/schema.d.ts is not made from openapi.json: run ./zembric describe"
    return ""
