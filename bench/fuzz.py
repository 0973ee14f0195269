"""Every described route with made-up input, for each role: what answers 500 or falls silent.

    PYTHONPATH=src:. python bench/fuzz.py [MINUTES] [PATH_OF_schemathesis]

On a house of its own with the demo's data and two web servers, all roles at once, as in a real one; the fuzzer's own bench environment holds `schemathesis`.
"""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from pathlib import Path

from bench.browser import Browser
from zembric.cli.migrations import migrate
from zembric.cli.postgres import free_port, run_server
from zembric.cli.serve import start_beside, web_server
from zembric.demo.load import COORDINATOR, VOLUNTEER, load_demo
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.measuring.log_traces import LogStore
from zembric.paths import API_DESCRIPTION

os.environ.setdefault("ZEMBRIC_LOG", "ERROR")
PASSWORD = "a long password for a bench"
# What ends the fuzzer's own sign-in is asked by strangers only.
ENDS_THE_SIGN_IN = "^/api/(session|me/)"


@contextlib.contextmanager
def house() -> Iterator[int]:
    """The demo's data behind two web servers; gives their port."""
    directory, port = Path(tempfile.mkdtemp(prefix="zembric-fuzz-")), free_port()
    directory.chmod(0o711)
    try:
        with run_server(directory, durable=False) as server:
            engine = make_engine(server.url)
            migrate(engine)
            photos = directory / "photos"
            with unit_of_work(engine) as session:
                load_demo(session, PhotoStore(photos), LogStore(directory / "logs"), PASSWORD, datetime.now(UTC))
            engine.dispose()
            with web_server(server.url, "127.0.0.1", port, photos) as ours:
                start_beside(ours, server.url, photos)
                yield port
    finally:
        shutil.rmtree(directory, ignore_errors=True)


def fuzz(tool: str, port: int, minutes: float, name: str | None) -> str:
    """Runs the fuzzer as one person, None: a stranger; the last of what it says."""
    browser = Browser(port)
    if name:
        browser.sign_in(name, PASSWORD)
    command = [
        tool, "--no-color", "run", str(API_DESCRIPTION), "--url", f"http://127.0.0.1:{port}", "--phases", "coverage,fuzzing",
        "--checks", "not_a_server_error", "--max-time", str(int(60 * minutes)), "--continue-on-failure", "--no-shrink",
        "--suppress-health-check", "all", "--request-timeout", "20", "--warnings", "off", "--generation-database", "none",
        "--header", f"Cookie: {browser.cookie}", "--header", f"X-CSRFToken: {browser.token}",
    ]  # fmt: skip
    if name:
        command += ["--exclude-path-regex", ENDS_THE_SIGN_IN]
    with tempfile.TemporaryDirectory() as aside:  # the fuzzer keeps a store of its own where it runs
        done = subprocess.run(command, check=False, capture_output=True, text=True, cwd=aside)
    return done.stdout


def main() -> None:
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 20.0
    tool = sys.argv[2] if len(sys.argv) > 2 else "schemathesis"
    with house() as port, ThreadPoolExecutor() as pool:
        asked = {
            role: pool.submit(fuzz, tool, port, minutes, name)
            for role, name in (("stranger", None), ("volunteer", VOLUNTEER), ("coordinator", COORDINATOR))
        }
        for role, done in asked.items():
            said = done.result()
            cases = re.search(r"(\d+) generated", said)
            faults = sorted(set(re.findall(r"\[5\d\d\][^\n]*|Server error[^\n]*", said)))
            print(
                f"{role}: {cases.group(1) if cases else '?'} requests, {len(faults)} kinds of fault",
                *faults,
                sep="\n  ",
            )
            if faults or not cases:
                print(said[-6000:])


if __name__ == "__main__":
    main()
