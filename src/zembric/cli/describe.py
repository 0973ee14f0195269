"""The API's description, and the front end's types made from it."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

from zembric.api.app import create_app
from zembric.operations.database import make_engine
from zembric.paths import API_DESCRIPTION, FRONTEND_DIST, ROOT

API_TYPES = API_DESCRIPTION.with_name("schema.d.ts")


def describe_api() -> str:
    """The OpenAPI description as JSON; no database is asked for it."""
    app = create_app(
        make_engine("postgresql://nowhere"), secret=b"-", newest_migration="", frontend_dist=FRONTEND_DIST, photos=ROOT
    )
    return json.dumps(app.api_doc, indent=1, sort_keys=True) + "\n"


def write_types(description: Path, types: Path) -> None:
    """TypeScript types of a description; raises CalledProcessError if the generator fails."""
    command = [
        "npm",
        "exec",
        "--silent",
        "-w",
        "tools/apigen",
        "--",
        "openapi-typescript",
        str(description),
        "-o",
        str(types),
    ]
    subprocess.run([*command, "--default-non-nullable=false"], cwd=ROOT / "frontend", check=True, capture_output=True)


def run_describe() -> int:
    """Writes both files anew; for whoever changes the API."""
    API_DESCRIPTION.write_text(describe_api(), encoding="utf-8")
    write_types(API_DESCRIPTION, API_TYPES)
    return 0
