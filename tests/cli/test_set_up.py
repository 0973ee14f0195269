"""What the launcher sets up, on machines that have something older already."""

import os
import subprocess
from pathlib import Path

from zembric.paths import ROOT


def put(place: Path, says: str) -> None:
    place.parent.mkdir(parents=True, exist_ok=True)
    place.write_text(f"#!/bin/sh\n{says}\n")
    place.chmod(0o755)


def test_beside_an_older_node_the_packaged_one_is_set_up_and_used(tmp_path: Path) -> None:
    machine, environment, wheel = tmp_path / "bin", tmp_path / ".venv", tmp_path / "wheel"
    put(machine / "node", "exit 1")
    put(machine / "npm", "echo 9.2.0")
    put(environment / "bin" / "uv", "")
    put(environment / "bin" / "python", f"echo {wheel}")
    put(wheel / "bin" / "node", "exit 0")
    put(wheel / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js", "echo 11.0.0")
    functions, _, _ = (ROOT / "zembric").read_text().partition("\nverb=")
    launcher = tmp_path / "zembric"
    launcher.write_text(f"{functions}\nsetup_node\nnpm --version\n")
    ran = subprocess.run(
        ["bash", str(launcher)], capture_output=True, text=True, check=False,
        env={**os.environ, "PATH": f"{machine}:{os.environ['PATH']}"},
    )  # fmt: skip
    assert (ran.returncode, ran.stdout) == (0, "11.0.0\n"), ran.stderr
