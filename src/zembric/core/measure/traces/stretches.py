"""Long arrays worked on a stretch at a time, so that what lies in between stays in the processor's cache."""

from __future__ import annotations

from typing import TYPE_CHECKING, TypeVar

if TYPE_CHECKING:
    from collections.abc import Callable

_STRETCH = 1 << 15

Found = TypeVar("Found")


def by_stretch(rows: int, work: Callable[[int, int], Found]) -> list[Found]:
    """What `work(start, stop)` gives for each stretch of 0 to `rows`, in order."""
    return [work(start, min(start + _STRETCH, rows)) for start in range(0, rows, _STRETCH)]
