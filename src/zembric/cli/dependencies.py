"""`./zembric audit` and `./zembric renew-locks`: what is known against what we rest on, and newer versions of it."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from datetime import UTC, datetime
from pathlib import Path

from zembric.paths import ROOT

#: Each lock file and what of pyproject.toml it locks.
_LOCKS = {
    "requirements.txt": ["pyproject.toml", "--group", "dev"],
    "requirements-bench.txt": ["--group", "bench"],
    "requirements-bootstrap.txt": ["--group", "bootstrap"],
    "requirements-node.txt": ["--group", "node"],
    "requirements-audit.txt": ["--group", "audit"],
}
_FRONTEND = ROOT / "frontend"


def run_audit(report: Path | None) -> int:
    """Asks the public databases of faults about every locked version; 1 where one is known, 2 where they could not be asked."""
    found = [f"# Audit of {datetime.now(UTC):%Y-%m-%d}", ""]
    codes = []
    for name, command, directory in (
        (
            "Python",
            [*_pip_audit(), "--requirement", "requirements.txt", "--disable-pip", "--progress-spinner", "off"],
            ROOT,
        ),
        ("Front end", ["npm", "audit", "--omit=dev"], _FRONTEND),
    ):
        done = subprocess.run(command, cwd=directory, check=False, capture_output=True, text=True)
        said = (done.stdout.strip() or done.stderr.strip()).replace(str(ROOT), ".")
        unasked = said.count("could not be audited")
        if unasked:
            said = f"{unasked} packages could not be asked about: the public list of faults does not answer from here."
        found += [f"## {name}", "", said or "No known fault.", ""]
        codes.append(2 if unasked else _code_of(done.returncode, said))
    text = "\n".join(found)
    print(text)
    if report is not None:
        report.write_text(text, encoding="utf-8")
    return max(codes)


def _code_of(returned: int, said: str) -> int:
    if returned == 0:
        return 0
    return 1 if "vulnerabilit" in said.lower() and "found" in said.lower() else 2


def _pip_audit() -> list[str]:
    """The auditor, in an environment of its own: nobody who serves needs it."""
    place = Path(tempfile.gettempdir()) / "zembric-audit"
    if not (place / "bin" / "pip-audit").exists():
        subprocess.run([sys.executable, "-m", "venv", place], check=True)
        subprocess.run(
            [place / "bin" / "pip", "install", "-q", "--require-hashes", "-r", ROOT / "requirements-audit.txt"],
            check=True,
        )
    return [str(place / "bin" / "pip-audit")]


def run_renew_locks() -> int:
    """Looks for the newest versions that pyproject.toml and package.json allow, and writes all lock files anew."""
    for name, what in _LOCKS.items():
        subprocess.run(
            [sys.executable, "-m", "uv", "pip", "compile", "--universal", "--generate-hashes", "--no-header", "-q", "--upgrade", *what, "-o", name],
            cwd=ROOT, check=True,
        )  # fmt: skip
    subprocess.run(
        ["npm", "update", "--package-lock-only", "--omit-lockfile-registry-resolved"], cwd=_FRONTEND, check=True
    )
    lock = json.loads((_FRONTEND / "package-lock.json").read_text(encoding="utf-8"))
    hosts = [name for name, held in lock["packages"].items() if str(held.get("resolved", "")).startswith("http")]
    if hosts:
        print(f"package-lock.json names a registry for {hosts[0]}; nothing that is committed may.", file=sys.stderr)
        return 1
    print("All lock files are renewed. Run ./zembric test before they are committed.")
    return 0
