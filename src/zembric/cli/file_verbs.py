"""Verbs that need no database: a file or a print in, one JSON object out."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, NoReturn

from zembric.core.errors import BadInputError, ZembricError
from zembric.wording import say

REFUSED = 2
#: What a refusal tells besides, where it knows.
_SAID_BESIDE = ("reachable_mah", "bound_mah", "needed", "have", "most_w")


class _Parser(argparse.ArgumentParser):
    """Refuses as the verbs do, instead of printing its usage and ending."""

    def error(self, message: str) -> NoReturn:
        raise BadInputError(f"{message[:1].upper()}{message[1:]}.", code="bad-arguments")


def run_file_verb(verb: str, argv: list[str]) -> int:
    """Runs a verb. With --json exactly one object goes to standard output; exit 2: refused."""
    as_json = "--json" in argv
    try:
        answer = _VERBS[verb](argv)
    except ZembricError as error:
        line, column = getattr(error, "line", None), getattr(error, "column", None)
        answer = {"refused": {"code": error.code, "text": say(error.said), "line": line, "column": column}}
        answer["refused"] |= {key: getattr(error, key) for key in _SAID_BESIDE if hasattr(error, key)}
    try:
        print(json.dumps(answer, ensure_ascii=False, allow_nan=False) if as_json else _for_people(answer), flush=True)
    except BrokenPipeError:
        # Whoever read had enough; nothing more may be written, not even by the interpreter as it ends.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    if "refused" in answer or answer.get("status") == "refused":
        return REFUSED
    for remark in answer.get("remarks", ()):
        print(remark["text"] if isinstance(remark, dict) else remark, file=sys.stderr)
    return 0


def _size(argv: list[str]) -> dict[str, Any]:
    from zembric.cli import size  # noqa: PLC0415

    parser = _Parser(prog="./zembric size", description="What a print on a cell means, and whether its claim can be.")
    size.add_arguments(parser)
    return size.answer_size(parser.parse_args(argv))


def _analyse(argv: list[str]) -> dict[str, Any]:
    from zembric.cli import analyse  # noqa: PLC0415  # brings NumPy and Arrow with it

    parser = _Parser(prog="./zembric analyse", description="What a tester's log measured.")
    analyse.add_arguments(parser)
    return analyse.analyse_file(parser.parse_args(argv))


def _sums(argv: list[str]) -> dict[str, Any]:
    from zembric.cli.sums import answer_sums  # noqa: PLC0415

    return answer_sums([word for word in argv if word != "--json"])


def _judge(argv: list[str]) -> dict[str, Any]:
    from zembric.core.judge.judge import judge  # noqa: PLC0415
    from zembric.files.stories import read_story, write_judgement  # noqa: PLC0415

    parser = _Parser(prog="./zembric judge", description="What a cell's story comes to, and what it needs next.")
    parser.add_argument("file", type=Path, help="a story in JSON; - for standard input")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")
    found = read_story(_read(parser.parse_args(argv).file))
    return write_judgement(judge(found.story, found.rules, found.now))


def _match(argv: list[str]) -> dict[str, Any]:
    from zembric.cli import match  # noqa: PLC0415  # brings NumPy with it

    parser = _Parser(prog="./zembric match", description="Cells into groups, the weakest as strong as can be.")
    match.add_arguments(parser)
    return match.match_file(parser.parse_args(argv))


def _packrun(argv: list[str]) -> dict[str, Any]:
    from zembric.files.pack_cases import answer_case  # noqa: PLC0415  # brings NumPy with it

    parser = _Parser(prog="./zembric packrun", description="A pack run on paper, or cells made even.")
    parser.add_argument("file", type=Path, help="a case in JSON (docs/pack-run.md); - for standard input")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")
    return answer_case(_read(parser.parse_args(argv).file))


def _evening(argv: list[str]) -> dict[str, Any]:
    import time  # noqa: PLC0415

    from zembric.cli import evening  # noqa: PLC0415

    told = os.environ.get("ZEMBRIC_BEGAN_S")
    began_s = time.monotonic() - (max(time.time() - float(told), 0.0) if told else 0.0)
    parser = _Parser(prog="./zembric evening", description="The plan of the evenings at the testers.")
    evening.add_arguments(parser)
    arguments = parser.parse_args(argv)
    return evening.answer_evening(arguments, _read(arguments.file), began_s)


def _read(path: Path) -> bytes:
    try:
        return sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
    except OSError as error:
        raise BadInputError(f"{path.name} cannot be read: {error.strerror}.", code="no-file") from error


_VERBS: dict[str, Callable[[list[str]], dict[str, Any]]] = {
    "size": _size, "analyse": _analyse, "sums": _sums, "judge": _judge, "match": _match, "packrun": _packrun,
    "evening": _evening,
}  # fmt: skip


def _for_people(answer: dict[str, Any]) -> str:
    if "refused" in answer:
        return str(answer["refused"]["text"])
    if answer.get("status") == "refused":
        from zembric.core.run import Wrong, said_of  # noqa: PLC0415  # brings NumPy with it

        return "\n".join(dict.fromkeys(say(said_of(Wrong(**each))) for each in answer["errors"]))
    return "\n".join(
        f"{key}: {json.dumps(value, ensure_ascii=False)}" for key, value in answer.items() if key != "remarks"
    )
