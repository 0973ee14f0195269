"""Exports of different kinds that were pasted together into one file."""

from __future__ import annotations

import re
from itertools import pairwise
from typing import TYPE_CHECKING

from zembric.core.measure.traces.table import Table, split_line
from zembric.core.measure.traces.words import Role, read_heading

if TYPE_CHECKING:
    from collections.abc import Sequence

#: In longer files nobody pastes by hand, and looking for a second header would take as long as reading.
_MOST_BYTES = 30_000_000
_MOST_PARTS = 20
_BEGINS_WITH_A_WORD = re.compile(rb"\n[#\" \t]*(?=[A-Za-z\xc3-\xf4])")
_DELIMITERS = (";", "\t", "|", ",", " ")
_NEEDED: frozenset[Role] = frozenset({"voltage", "current"})


def parts_of(table: Table) -> list[tuple[int, bytes]]:
    """Parts of a file that begin with a header unlike the first one: how many lines stand before each, and its text."""
    body = table.body
    if table.headers is None or len(body) > _MOST_BYTES:
        return [(0, body)]
    known = [name.lower() for name in table.headers]
    cuts = [0]
    position = 0
    for _ in range(table.first_line - 1):
        position = body.index(b"\n", position) + 1
    for found in _BEGINS_WITH_A_WORD.finditer(body, position):
        start = found.start() + 1
        line = body[start : body.find(b"\n", start)].decode("utf-8", "replace").lstrip("# ")
        if _is_header(line) and not _is_same(line, known, table.delimiter) and len(cuts) < _MOST_PARTS:
            cuts.append(start)
    edges = [*cuts, len(body)]
    return [(body.count(b"\n", 0, a), body[a:b]) for a, b in pairwise(edges)]


def _is_header(line: str) -> bool:
    return any(
        {read_heading(name).role for name in names} >= _NEEDED
        for delimiter in _DELIMITERS
        if len(names := split_line(line, delimiter)) >= 2
    )


def _is_same(line: str, known: Sequence[str], delimiter: str) -> bool:
    names = [name.lower() for name in split_line(line, delimiter)]
    # A row of units may have been put behind the names.
    return len(names) == len(known) and all(own.startswith(name) for name, own in zip(names, known, strict=True))
