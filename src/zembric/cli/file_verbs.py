"""Verbs that need no database: a file or a print in, one JSON object out."""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path
from typing import Any, NoReturn

from zembric.core.errors import BadInputError, ZembricError
from zembric.core.limits import Family
from zembric.core.rules import USUAL_RULES
from zembric.core.sizes import Size, check_claim, read_print

REFUSED = 2
#: What a refusal tells besides, where it knows.
_SAID_BESIDE = ("reachable_mah", "bound_mah", "needed", "have")


class _Parser(argparse.ArgumentParser):
    """Refuses as the verbs do, instead of printing its usage and ending."""

    def error(self, message: str) -> NoReturn:
        raise BadInputError(f"{message[:1].upper()}{message[1:]}.", code="bad-arguments")


def run_file_verb(verb: str, argv: list[str]) -> int:
    """Runs a verb. With --json exactly one object goes to standard output; exit 2: refused."""
    as_json = "--json" in argv
    try:
        answer = {"size": _size, "analyse": _analyse, "sums": _sums, "judge": _judge, "match": _match}[verb](argv)
    except ZembricError as error:
        line, column = getattr(error, "line", None), getattr(error, "column", None)
        answer = {"refused": {"code": error.code, "text": error.text, "line": line, "column": column}}
        answer["refused"] |= {key: getattr(error, key) for key in _SAID_BESIDE if hasattr(error, key)}
    try:
        print(json.dumps(answer, ensure_ascii=False, allow_nan=False) if as_json else _for_people(answer), flush=True)
    except BrokenPipeError:
        # Whoever read had enough; nothing more may be written, not even by the interpreter as it ends.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    if "refused" in answer:
        return REFUSED
    for remark in answer.get("remarks", ()):
        print(remark["text"] if isinstance(remark, dict) else remark, file=sys.stderr)
    return 0


def _size(argv: list[str]) -> dict[str, Any]:
    parser = _Parser(prog="./zembric size", description="What a print on a cell means, and whether its claim can be.")
    parser.add_argument("code", help="as printed, e.g. INR18650 or 603048")
    parser.add_argument("--claim-mah", type=_positive, help="the capacity that the print claims")
    parser.add_argument("--family", help=", ".join(Family))
    parser.add_argument("--mass-g", type=_positive, help="what the cell weighs")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")
    wanted = parser.parse_args(argv)
    found = read_print(wanted.code)
    family = _family(wanted.family, found.family)
    answer: dict[str, Any] = {
        "code": found.code,
        "shape": found.shape,
        "readings": [_reading(size) for size in found.readings],
        "ambiguous": found.ambiguous,
        "family": found.family,
        "rechargeable": found.rechargeable,
        "remarks": list(found.remarks),
    }
    if wanted.claim_mah is not None:
        check = check_claim(found.readings[0], family, wanted.claim_mah, USUAL_RULES, wanted.mass_g)
        if check is None:
            raise BadInputError(
                "A claim on a primary cell is not checked: it is never charged, so nothing follows from it."
            )
        answer["claim"] = {
            "verdict": check.verdict,
            "doubtful_above_mah": round(check.doubtful_above_mah, 1),
            "impossible_above_mah": round(check.impossible_above_mah, 1),
        }
    return answer


def _analyse(argv: list[str]) -> dict[str, Any]:
    from zembric.cli import analyse  # noqa: PLC0415  # brings NumPy and Arrow with it

    parser = _Parser(prog="./zembric analyse", description="What a tester's log measured.")
    analyse.add_arguments(parser)
    return analyse.analyse_file(parser.parse_args(argv))


def _sums(argv: list[str]) -> dict[str, Any]:
    from zembric.cli.sums import answer_sums  # noqa: PLC0415

    return answer_sums([word for word in argv if word != "--json"])


def _judge(argv: list[str]) -> dict[str, Any]:
    from zembric.core.judging import judge  # noqa: PLC0415
    from zembric.files.stories import read_story, write_judgement  # noqa: PLC0415

    parser = _Parser(prog="./zembric judge", description="What a cell's story comes to, and what it needs next.")
    parser.add_argument("file", type=Path, help="a story in JSON; - for standard input")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")
    path = parser.parse_args(argv).file
    try:
        content = sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
    except OSError as error:
        raise BadInputError(f"{path.name} cannot be read: {error.strerror}.", code="no-file") from error
    found = read_story(content)
    return write_judgement(judge(found.story, found.rules, found.now))


def _match(argv: list[str]) -> dict[str, Any]:
    from zembric.cli import match  # noqa: PLC0415  # brings NumPy with it

    parser = _Parser(prog="./zembric match", description="Cells into groups, the weakest as strong as can be.")
    match.add_arguments(parser)
    return match.match_file(parser.parse_args(argv))


def _reading(size: Size) -> dict[str, float]:
    volume = {"volume_cm3": round(size.volume_cm3, 3)}
    if size.thickness_mm is None:
        return {"diameter_mm": size.width_mm, "length_mm": size.length_mm, **volume}
    return {"thickness_mm": size.thickness_mm, "width_mm": size.width_mm, "length_mm": size.length_mm, **volume}


def _family(said: str | None, printed: Family | None) -> Family | None:
    """The family to reckon with: what was said, else what the print tells.

    Raises:
        BadInputError: there is no such family, or the two differ.
    """
    if said is None:
        return printed
    if said not in set(Family):
        raise BadInputError(f'"{said}" is not a chemistry family; there are {", ".join(Family)}.')
    if printed is not None and said != printed:
        raise BadInputError(f"The print says {printed} and --family says {said}. Look once more which it is.")
    return Family(said)


def _positive(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = 0.0
    if not 0 < value < float("inf"):
        raise argparse.ArgumentTypeError(f'"{text}" is not a number above zero')
    return value


def _for_people(answer: dict[str, Any]) -> str:
    if "refused" in answer:
        return str(answer["refused"]["text"])
    return "\n".join(
        f"{key}: {json.dumps(value, ensure_ascii=False)}" for key, value in answer.items() if key != "remarks"
    )
