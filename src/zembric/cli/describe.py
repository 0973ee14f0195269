"""The API's description, and the front end's types made from it."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

from zembric.api.blueprints import describe_routes
from zembric.cli.describe_codes import describe_codes
from zembric.cli.describe_hazards import describe_hazards
from zembric.core.next_step.planner import STEP_RULES
from zembric.operations.database import make_engine
from zembric.paths import API_DESCRIPTION, FRONTEND_DIST, ROOT
from zembric.wording import say

PLANNER_PAGE = ROOT / "docs" / "next-step.md"
HAZARDS_PAGE = ROOT / "docs" / "hazards.md"
API_TYPES = API_DESCRIPTION.with_name("schema.d.ts")
PAGE_CODES = API_DESCRIPTION.with_name("codes.ts")


def describe_api() -> str:
    """The OpenAPI description as JSON; no database is asked for it."""
    describe_routes()
    from zembric.api.app import create_app  # noqa: PLC0415  # the routes are made as it is imported

    app = create_app(
        make_engine("postgresql://nowhere"), secret=b"-", newest_migration="", frontend_dist=FRONTEND_DIST, photos=ROOT
    )
    description = app.api_doc
    components = {key: value for key, value in description["components"].items() if value is not None}
    components["securitySchemes"] = {"sign-in": {"type": "apiKey", "in": "cookie", "name": "zembric"}}
    # Of what a write has to carry besides the cookie the description of the session tells: `csrf_token`, as X-CSRFToken.
    described = description | {"components": components, "security": [{"sign-in": []}]}
    return json.dumps(described, indent=1, sort_keys=True) + "\n"


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


def describe_planner() -> str:
    """The planner's table and its picture, as docs/next-step.md has them; made from the rules themselves."""
    lines = [
        "# The next step", "",
        "Made from `core/next_step/planner.py` by `./zembric describe`. Of these rules the first that applies is a cell's next step.", "",
        "| | when | next step | ends by | takes | needs |", "| --- | --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    for place, rule in enumerate(STEP_RULES, 1):
        takes = (
            "worked out" if callable(rule.minutes) else f"{rule.minutes:g} min" if rule.minutes else "until its time"
        )
        lines.append(
            f"| {place} | {say(rule.when)} | {rule.code} | {', '.join(rule.ends_by) or 'nothing: it goes to the recycler'} | {takes} | {say(rule.needs) if rule.needs else ''} |"
        )
    lines += ["", "```mermaid", "flowchart TD"]
    for place, rule in enumerate(STEP_RULES, 1):
        lines.append(f'  q{place}{{"{say(rule.when)}?"}} -->|yes| s{place}["{rule.code}"]')
        if place < len(STEP_RULES):
            lines.append(f"  q{place} -->|no| q{place + 1}")
        lines += [f"  s{place} -.->|{event}| q1" for event in rule.ends_by]
    return "\n".join([*lines, "```", ""])


def run_describe() -> int:
    """Writes what is made from the code anew: the API's description and types, the planner's picture and the table of hazards."""
    PLANNER_PAGE.write_text(describe_planner(), encoding="utf-8")
    HAZARDS_PAGE.write_text(describe_hazards(), encoding="utf-8")
    PAGE_CODES.write_text(describe_codes(), encoding="utf-8")
    API_DESCRIPTION.write_text(describe_api(), encoding="utf-8")
    write_types(API_DESCRIPTION, API_TYPES)
    return 0
