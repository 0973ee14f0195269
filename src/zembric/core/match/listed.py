"""The grouping whose first end comes latest, where all groups can be listed with their own end: found, or its bound proved.

At a constant current groups do not see each other, so each group that could be laid has one run time, whatever stands beside
it. Then it is a matter of laying disjoint groups that all last at least so long: yes with the groups, or no, which proves that
no grouping lasts as long.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from math import comb
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Flags = NDArray[np.bool_]
    Rows = list[list[int]]

#: So many groups are listed and run in about a second.
MOST_LISTED = 6_000
#: So many looks between two on the clock, and so many for one question at most.
_LOOKS, _LOOKS_MOST = 64, 50_000


@dataclass(frozen=True, slots=True)
class Listed:
    """The groups that were laid (None: none that last longer than was known), and a run time [s] that none exceeds."""

    rows: Rows | None
    bound_s: float


class _OverTimeError(Exception):
    pass


def can_be_listed(cells: int, parallel: int) -> bool:
    return comb(cells, parallel) <= MOST_LISTED


def list_groups(cells: int, parallel: int) -> list[tuple[int, ...]]:
    return list(combinations(range(cells), parallel))


def latest_first_end(
    groups: list[tuple[int, ...]], seconds: Floats, cells: int, series: int, known_s: float, is_over: Callable[[], bool]
) -> Listed:
    """Disjoint groups, so many in series, of which the first ends as late as can be; `known_s` is one that is known.

    Run times are halved between what can be laid and what cannot; where the time runs out, what was proved so far stands.
    """
    member = np.zeros((len(groups), cells), dtype=bool)
    for row, group in enumerate(groups):
        member[row, list(group)] = True
    # What could be the first end: run times above what is known, rising. `most` is the first that cannot be laid.
    steps = np.unique(seconds[seconds > known_s])
    least, most, rows = 0, len(steps), None
    try:
        while least < most:
            middle = (least + most) // 2
            found = _Laying(member, seconds, is_over).lay(steps[middle], series)
            if found is None:
                most = middle
            else:
                rows = [list(groups[row]) for row in found]
                # What was laid may last longer than was asked for.
                least = int(np.searchsorted(steps, seconds[found].min(), side="right"))
    except _OverTimeError:
        pass
    return Listed(rows, float(steps[most - 1]) if most else known_s)


class _Laying:
    """Whether groups that last long enough can be laid side by side."""

    def __init__(self, member: Flags, seconds: Floats, is_over: Callable[[], bool]) -> None:
        self._member, self._seconds, self._is_over = member, seconds, is_over
        self._looks = 0

    def lay(self, least_s: float, series: int) -> list[int] | None:
        """Raises _OverTimeError: the clock ran out first."""
        rows = np.flatnonzero(self._seconds >= least_s)
        # The longest first: they leave the weaker cells to each other as seldom as can be.
        rows = rows[np.argsort(-self._seconds[rows], kind="stable")]
        cells, parallel = self._member.shape[1], int(self._member[0].sum())
        return self._lay(rows, np.ones(cells, dtype=bool), series, cells - series * parallel)

    def _lay(self, rows: NDArray[np.intp], free: Flags, series: int, spare: int) -> list[int] | None:
        """`spare`: so many of the free cells may be left over."""
        if series == 0:
            return []
        self._looks += 1
        if self._looks > _LOOKS_MOST or (self._looks % _LOOKS == 0 and self._is_over()):
            raise _OverTimeError
        member = self._member[rows]
        counts = member.sum(axis=0)
        spare -= int((free & (counts == 0)).sum())
        if spare < 0 or len(rows) < series:
            return None
        free = free & (counts > 0)
        # The cell that the fewest groups hold is in one of them, or left over.
        scarce = int(np.where(free, counts, np.iinfo(counts.dtype).max).argmin())
        holding = member[:, scarce]
        for row in rows[holding].tolist():
            taken = self._member[row]
            others = rows[~(member & taken).any(axis=1)]
            laid = self._lay(others, free & ~taken, series - 1, spare)
            if laid is not None:
                return [row, *laid]
        if spare == 0:
            return None
        without = free.copy()
        without[scarce] = False
        return self._lay(rows[~holding], without, series, spare - 1)
