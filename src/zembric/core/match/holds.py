"""Cells that stay where a builder put them, and donors that are kept apart: what the search may not touch."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.match.search import Grouping
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Mapping

    from numpy.typing import NDArray

    from zembric.core.match.model import MatchCell
    from zembric.core.match.scale import Ints

    Flags = NDArray[np.bool_]
    Indices = NDArray[np.intp]

_TRIES = 40


@dataclass(frozen=True, slots=True)
class Holds:
    """`pins`: the group, from 1 on, a cell has to stand in. `donors`: of two cells with one donor no two may share a group."""

    pins: Mapping[str, int] = field(default_factory=dict)
    donors: Mapping[str, str] | None = None

    def __bool__(self) -> bool:
        return bool(self.pins) or self.donors is not None


@dataclass(frozen=True, slots=True)
class Held:
    """The same by index of the cells: which are fixed, and a number for each donor (None: donors do not matter)."""

    fixed: Flags
    donors: Indices | None

    def may_exchange(self, rows: Indices, anchor: int) -> Flags:
        """Whether a cell of the group may change places with one of another: (other group, own cell, cell of the other)."""
        free = ~self.fixed[rows]
        may: Flags = free[anchor][None, :, None] & free[:, None, :]
        if self.donors is not None:
            theirs = self.donors[rows]
            mine = theirs[anchor]
            is_same = mine[None, :, None] == theirs[:, None, :]
            comes_twice = np.isin(theirs, mine)[:, None, :]
            goes_twice = is_same.any(axis=2)[:, :, None]
            may &= is_same | ~(comes_twice | goes_twice)
        return may

    def may_take(self, row: Indices, outside: Indices) -> Flags:
        """Whether an unused cell may come for one of the group: (cell of the group, unused cell)."""
        may: Flags = np.repeat(~self.fixed[row][:, None], len(outside), axis=1)
        if self.donors is not None:
            mine, theirs = self.donors[row], self.donors[outside]
            may &= (mine[:, None] == theirs[None, :]) | ~np.isin(theirs, mine)[None, :]
        return may


def held_start(
    cells: tuple[MatchCell, ...],
    steps: Ints,
    series: int,
    parallel: int,
    holds: Holds,
    rng: np.random.Generator,
    *,
    by_chance: bool = False,
) -> tuple[Grouping, Held]:
    """Cells dealt as the holds want it: the pinned first, then the strongest to the group that holds least and may have it.

    `by_chance`: in an order of chance instead, to begin elsewhere.

    Raises:
        BadInputError: a pinned cell that is not there, or a group that is none.
        ConflictError: what is held does not leave a way.
    """
    place = {cell.key: index for index, cell in enumerate(cells)}
    labels: Indices | None = None
    if holds.donors is not None:
        names = [holds.donors.get(cell.key, cell.key) for cell in cells]
        labels = np.unique(np.array(names), return_inverse=True)[1].astype(np.intp)
    pinned: list[list[int]] = [[] for _ in range(series)]
    for key, group in holds.pins.items():
        if key not in place:
            raise BadInputError(said("cell-is-pinned-to-group-but", key=key, group=group), field="pins")
        if not 1 <= group <= series:
            raise BadInputError(said("cell-is-pinned-to-group", key=key, group=group, series=series), field="pins")
        pinned[group - 1].append(place[key])
    for number, row in enumerate(pinned, start=1):
        if len(row) > parallel:
            raise ConflictError(
                said("cells-are-pinned-to-group-which", count=len(row), number=number, parallel=parallel)
            )
        if labels is not None and len(set(labels[row].tolist())) < len(row):
            raise ConflictError(said("cells-of-one-donor-are-pinned", number=number))
    fixed = np.zeros(len(cells), dtype=bool)
    fixed[[index for row in pinned for index in row]] = True
    for attempt in range(_TRIES):
        rows = _dealt_around(pinned, steps, parallel, fixed, labels, rng if by_chance or attempt else None)
        if rows is not None:
            is_used = np.zeros(len(cells), dtype=bool)
            is_used[rows.ravel()] = True
            return Grouping(steps, rows, np.flatnonzero(~is_used)), Held(fixed, labels)
    raise ConflictError(
        said("no-way-was-found-to-keep"),
        code="cannot-hold",
    )


def bound_around_pins(start: Grouping, held: Held, bound: int) -> int:
    """The bound [steps] lowered by what the pins take: a group cannot hold more than its pinned cells and the strongest others."""
    steps, parallel = start.steps, start.rows.shape[1]
    falling = np.sort(steps[~held.fixed])[::-1]
    strongest = np.concatenate(([0], np.cumsum(falling)))
    is_pinned = held.fixed[start.rows]
    pinned = np.where(is_pinned, steps[start.rows], 0).sum(axis=1)
    most = pinned + strongest[parallel - is_pinned.sum(axis=1)]
    in_all = int(pinned.sum()) + int(strongest[int((~is_pinned).sum())])
    return min(bound, int(most.min()), in_all // len(start.rows))


def _dealt_around(
    pinned: list[list[int]],
    steps: Ints,
    parallel: int,
    fixed: Flags,
    labels: Indices | None,
    rng: np.random.Generator | None,
) -> Indices | None:
    """One deal; None where it got stuck. With `rng` in an order of chance, of donors those with most cells first."""
    rows = [list(row) for row in pinned]
    free = np.flatnonzero(~fixed)
    if labels is None:
        order = free if rng is None else rng.permutation(free)
    elif rng is None:
        order = _strongest_that_stay_apart(free, steps, rows, parallel, labels)
    else:
        counts = np.bincount(labels[free], minlength=int(labels.max()) + 1)
        order = free[np.lexsort((rng.random(len(free)), -np.minimum(counts[labels[free]], len(rows))))]
    held = np.array([int(steps[row].sum()) for row in rows], dtype=np.int64)
    room = len(rows) * parallel - sum(len(row) for row in rows)
    for index in order.tolist():
        if not room:
            break
        open_rows = [
            number for number, row in enumerate(rows)
            if len(row) < parallel and (labels is None or all(labels[other] != labels[index] for other in row))
        ]  # fmt: skip
        if not open_rows:
            continue
        best = min(open_rows, key=lambda number: (held[number], number))
        rows[best].append(index)
        held[best] += steps[index]
        room -= 1
    return None if room else np.array(rows, dtype=np.intp)


def _strongest_that_stay_apart(
    free: Indices, steps: Ints, rows: list[list[int]], parallel: int, labels: Indices
) -> Indices:
    """The strongest cells of which no donor has more than there are groups, those of the largest donors first."""
    room = len(rows) * parallel - sum(len(row) for row in rows)
    taken = np.zeros(int(labels.max()) + 1, dtype=np.intp)
    for row in rows:
        taken[labels[row]] += 1
    chosen: list[int] = []
    for index in free[np.argsort(-steps[free], kind="stable")].tolist():
        if len(chosen) == room:
            break
        if taken[labels[index]] < len(rows):
            taken[labels[index]] += 1
            chosen.append(index)
    order = sorted(chosen, key=lambda index: (-taken[labels[index]], labels[index], -steps[index], index))
    return np.array(order, dtype=np.intp)
