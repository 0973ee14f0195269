"""What people read stands in the catalogue: no sentence lies about in the code that says it."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from zembric.paths import ROOT

PACKAGE = ROOT / "src" / "zembric"
SAYING = ("core", "operations", "files", "api", "prints")
#: For developers, for PostgreSQL, for patterns, and for a browser's own policy.
NOT_FOR_PEOPLE = {"ValueError", "AssertionError", "RuntimeError", "TypeError", "CheckConstraint", "text", "compile", "fullmatch", "search", "cast", "exec_"}  # fmt: skip
POLICIES = {"api/app.py", "api/live.py", "api/pages.py", "api/requests.py", "core/measure/traces/words.py"}


def files() -> list[Path]:
    return [path for each in SAYING for path in sorted((PACKAGE / each).rglob("*.py"))]


def sentences(path: Path) -> Iterator[str]:
    """Texts of three words and more that are no docstrings."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    aside: set[int] = set()
    for node in ast.walk(tree):
        called = node.func if isinstance(node, ast.Call) else None
        name = getattr(called, "id", getattr(called, "attr", None))
        if name in NOT_FOR_PEOPLE or isinstance(node, ast.Assert):
            aside |= {id(inner) for inner in ast.walk(node)}
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            aside.add(id(node.value))
        elif isinstance(node, ast.JoinedStr):
            aside |= {id(inner) for inner in ast.walk(node) if inner is not node}
    for node in ast.walk(tree):
        if id(node) in aside:
            continue
        if isinstance(node, ast.JoinedStr):
            told = "".join(str(part.value) for part in node.values if isinstance(part, ast.Constant))
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            told = node.value
        else:
            continue
        if " " in told and "|" not in told and len(re.findall(r"[A-Za-z]{2,}", told)) >= 3:
            yield told


def _name(path: Path) -> str:
    return path.relative_to(PACKAGE).as_posix()


@pytest.mark.parametrize("path", [path for path in files() if _name(path) not in POLICIES], ids=_name)
def test_no_sentence_stands_outside_the_catalogue(path: Path) -> None:
    assert list(sentences(path)) == []
