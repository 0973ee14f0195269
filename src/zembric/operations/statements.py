"""Statements that every entry at the bench asks: to build one takes longer than to run it.

They are built and compiled before threads share them. A statement, and an alias in it, makes its columns as it is first used, and two threads
that are the first at once may leave it half made; kept, it would fail for everybody until the next start.
"""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING, TypeVar

if TYPE_CHECKING:
    from collections.abc import Callable

    from sqlalchemy import ClauseElement, Engine

S = TypeVar("S", bound="ClauseElement")
_builders: list[Callable[[], ClauseElement]] = []


def built_once(build: Callable[[], S]) -> Callable[[], S]:
    """Keeps what a function builds."""
    kept = cache(build)
    _builders.append(kept)
    return kept


def compile_statements(engine: Engine) -> None:
    """Makes all that is kept ready for threads; once, before there are any."""
    for build in _builders:
        build().compile(dialect=engine.dialect)
