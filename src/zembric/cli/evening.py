"""The verb `evening`: who is here, what is on the table and what waits in, the plan of the evenings out."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from zembric.core.errors import BadInputError
from zembric.core.evening import EveningRefusedError, most_weight, vector_of
from zembric.evening_search import search_until
from zembric.files.evenings import plan_as_json, read_evenings
from zembric.wording import say

#: What ending the search and writing the answer may take of the seconds that are promised.
_AROUND_S = 0.17
_LEAST_S, _MOST_S = 0.1, 3600.0


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", type=Path, help="evenings, channels and cells in JSON; - for standard input")
    parser.add_argument(
        "--seconds",
        type=float,
        default=2.0,
        help="how long it may take in all (default: 2); about half of one is the least",
    )
    parser.add_argument("--seed", type=int, default=0, help="another seed may find another plan")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")


def answer_evening(arguments: argparse.Namespace, content: bytes, began_s: float) -> dict[str, Any]:
    """Raises:
    BadInputError: not JSON, or a time that cannot be.
    """
    if not _LEAST_S <= arguments.seconds <= _MOST_S:
        raise BadInputError(f"--seconds lies between {_LEAST_S} and {_MOST_S:g}.", code="bad-arguments")
    try:
        held = json.loads(content, parse_constant=float)
    except (ValueError, RecursionError):
        held = None
    key = held.get("id") if isinstance(held, dict) else None
    try:
        problem = read_evenings(held)
    except EveningRefusedError as refused:
        told = {"code": refused.code, "cell": refused.cell, "text": say(refused.said)}
        return {"id": key if isinstance(key, str) else None, "refused": told}
    until_s = began_s + max(arguments.seconds - _AROUND_S, arguments.seconds / 2)
    rows = search_until(problem, until_s, arguments.seed)
    vector = vector_of(problem, rows)
    return {
        **plan_as_json(held["id"], problem, rows),
        "vector": [vector.first_not_tonight, -vector.less_weight, vector.left_empty, vector.left_full, vector.sum_finish],
        "bound_weight": most_weight(problem),
    }  # fmt: skip
