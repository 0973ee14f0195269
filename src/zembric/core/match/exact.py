"""Exact search: is there a grouping whose sums all lie in a window? Yes with the groups, no with proof, or not known.

Every group that could be part of one is listed: its sum lies in the window, and above its lower end by no more than the
slack, which is what all groups together hold above it. Then groups are laid so that every cell is covered once, the strongest
uncovered cell, or the one with the fewest groups, first; whatever a group takes above the lower end is slack that the others no longer have.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations
from math import comb
from typing import TYPE_CHECKING, Literal

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.match.scale import Ints
    from zembric.core.match.search import Window

    Floats = NDArray[np.float64]
    Indices = NDArray[np.intp]

#: So many groups can be listed, and so many looked at, in a fraction of a second.
MOST_LISTED = 300_000
_MOST_KEPT = 60_000
_LOOKS_BETWEEN_CLOCKS = 2_000
_RESTARTS = 8
#: How far an order is shuffled, in mean slacks of a group.
_SHUFFLED_BY = 1.5


@dataclass(frozen=True, slots=True)
class Answer:
    """`rows`: the groups as indices, where the answer is yes."""

    found: Literal["yes", "no", "unknown"]
    rows: Indices | None = None


_NO, UNKNOWN = Answer("no"), Answer("unknown")


def can_be_listed(cells: int, parallel: int) -> bool:
    return comb(cells, parallel) <= MOST_LISTED


def grouping_within(
    falling: Ints,
    series: int,
    parallel: int,
    window: Window,
    most_looks: int,
    is_over: Callable[[], bool],
    restarts: np.random.Generator | None = None,
) -> Answer:
    """Whether all of the cells, strongest first, can be laid in groups whose sums all lie in the window [steps].

    With `restarts` the search begins anew several times, each in another order: more often yes where there are many
    groupings, and never a no.
    """
    slack = int(falling.sum()) - series * window.least
    if slack < 0:
        return _NO
    if not can_be_listed(len(falling), parallel):
        return UNKNOWN
    groups = _groups(len(falling), parallel)
    excess = falling[groups].sum(axis=1) - window.least
    most = slack if window.most is None else min(slack, window.most - window.least)
    fits = np.flatnonzero((excess >= 0) & (excess <= most))
    if len(fits) > _MOST_KEPT:
        return UNKNOWN
    if restarts is None:
        answer = UNKNOWN
        for fewest_first in (False, True):
            cover = _Cover(groups[fits], excess[fits], len(falling), fewest_first=fewest_first)
            answer = cover.search(excess[fits], slack, most_looks, is_over)
            if answer.found != "unknown":
                break
        return answer
    cover = _Cover(groups[fits], excess[fits], len(falling), fewest_first=True)
    for _ in range(_RESTARTS):
        order = excess[fits] + _SHUFFLED_BY * slack / series * restarts.random(len(fits))
        answer = cover.search(order, slack, most_looks // _RESTARTS, is_over)
        if answer.found == "yes" or is_over():
            return answer
    return UNKNOWN


def least_total(
    falling: Ints,
    series: int,
    parallel: int,
    window: Window,
    taken: int,
    most_looks: int,
    is_over: Callable[[], bool],
) -> Answer:
    """Groups of some of the cells with sums in the window that take less in all than `taken`; no: there are none.

    Groups are taken in the order of what they hold above the target, so that the rest can only hold as much each.
    """
    if not can_be_listed(len(falling), parallel):
        return UNKNOWN
    groups = _groups(len(falling), parallel)
    excess = falling[groups].sum(axis=1) - window.least
    most = taken - series * window.least
    group_most = most if window.most is None else min(most, window.most - window.least)
    fits = np.flatnonzero((excess >= 0) & (excess <= group_most))
    if len(fits) > _MOST_KEPT:
        return UNKNOWN
    fits = fits[np.argsort(excess[fits], kind="stable")]
    above: list[int] = excess[fits].tolist()
    bits = [sum(1 << index for index in group) for group in groups[fits].tolist()]
    best, best_above = None, most
    looks = 0
    levels: list[tuple[int, int, int]] = [(0, 0, 0)]  # where to go on, what is covered, what is held above the target
    chosen: list[int] = []
    while levels:
        start, covered, held = levels.pop()
        del chosen[len(levels) :]
        missing = series - len(levels)
        for place in range(start, len(fits)):
            looks += 1
            if held + missing * above[place] >= best_above:
                break
            if bits[place] & covered:
                continue
            if missing == 1:
                best, best_above = [*chosen, place], held + above[place]
                break
            levels += [(place + 1, covered, held), (place + 1, covered | bits[place], held + above[place])]
            chosen.append(place)
            break
        if looks > most_looks or is_over():
            return Answer("unknown", None if best is None else groups[fits[best]])
    return _NO if best is None else Answer("yes", groups[fits[best]])


@lru_cache(maxsize=4)
def _groups(cells: int, parallel: int) -> Indices:
    """All groups of so many of the cells, each with its strongest first, in order."""
    flat = np.fromiter(
        (index for group in combinations(range(cells), parallel) for index in group),
        dtype=np.intp,
        count=comb(cells, parallel) * parallel,
    )
    return flat.reshape(-1, parallel)


class _Cover:
    """Lays groups over the cells, each cell once."""

    def __init__(self, groups: Indices, excess: Ints, cells: int, *, fewest_first: bool) -> None:
        self._groups = groups
        self._excess: list[int] = excess.tolist()
        self._cells = cells
        # The strongest first is quick to prove that there is none, the one with the fewest groups to find one.
        rank = np.arange(cells)
        if fewest_first:
            rank[np.argsort(np.bincount(groups.ravel(), minlength=cells), kind="stable")] = np.arange(cells)
        ranked = rank[groups]
        self._first: list[int] = ranked.min(axis=1).tolist()
        self._bits = [0] * len(groups)
        for column in ranked.T.tolist():
            for place, index in enumerate(column):
                self._bits[place] |= 1 << index

    def search(self, order: Ints | Floats, slack: int, most_looks: int, is_over: Callable[[], bool]) -> Answer:
        """Tries the groups of each cell in this order; without a yes after all of them it is proven that there is none."""
        by_first: list[list[tuple[int, int, int]]] = [[] for _ in range(self._cells)]
        for place in np.argsort(order, kind="stable").tolist():
            by_first[self._first[place]].append((self._excess[place], self._bits[place], place))
        everything = (1 << self._cells) - 1
        chosen: list[int] = []
        looks, next_clock = 0, _LOOKS_BETWEEN_CLOCKS
        # One level a group: its first cell, where to go on among the candidates, what is covered, what slack is left.
        levels: list[tuple[int, int, int, int]] = [(0, 0, 0, slack)]
        failed: set[tuple[int, int]] = set()
        while levels:
            first, start, covered, left = levels.pop()
            del chosen[len(levels) :]
            candidates = by_first[first]
            for place in range(start, len(candidates)):
                excess, bits, group = candidates[place]
                if excess <= left and not bits & covered and (covered | bits, left - excess) not in failed:
                    levels.append((first, place + 1, covered, left))
                    chosen.append(group)
                    now_covered = covered | bits
                    if now_covered == everything:
                        return Answer("yes", self._groups[chosen])
                    free = ~now_covered & everything
                    levels.append(((free & -free).bit_length() - 1, 0, now_covered, left - excess))
                    looks += place - start + 1
                    break
            else:
                looks += len(candidates) - start
                failed.add((covered, left))
            if looks >= next_clock:
                next_clock = looks + _LOOKS_BETWEEN_CLOCKS
                if looks > most_looks or is_over():
                    return UNKNOWN
        return _NO
