"""A plan whose cells went or were measured anew: what to exchange, with as few changes as possible."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from itertools import product
from typing import TYPE_CHECKING

from zembric.core.match.conditions import kind_of
from zembric.core.match.model import SAME_MAH

if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Iterator, Sequence

    from zembric.core.match.conditions import Candidate, Conditions

#: More exchanges than these beside the necessary ones are a new match.
_MOST_MORE = 3
_ROUNDS = 20


@dataclass(frozen=True, slots=True)
class Exchange:
    """One cell out of a group, another in."""

    group: int  # from 1 on
    out: str
    comes: str


@dataclass(frozen=True, slots=True)
class Repair:
    """The groups after some exchanges, in their places; the first of several has the fewest."""

    exchanges: tuple[Exchange, ...]
    groups: tuple[tuple[Candidate, ...], ...]

    @property
    def weakest_mah(self) -> float:
        return min(_sums(self.groups))

    @property
    def spread_mah(self) -> float:
        sums = _sums(self.groups)
        return max(sums) - min(sums)


def repairs(
    groups: Sequence[Sequence[Candidate]],
    gone: Collection[str],
    spare: Sequence[Candidate],
    conditions: Conditions,
) -> tuple[Repair, ...]:
    """Ways to mend a plan: first with the fewest exchanges, then with up to three more where the weakest group gains.

    `groups` are as they were planned, with today's figures; `gone` are those that cannot stay; `spare` is what may come.
    Empty where some that are gone have no replacement of their kind.
    """
    before = [list(group) for group in groups]
    free = sorted(spare, key=lambda cell: (-cell.capacity_mah, cell.capacity_u_mah, cell.key))
    holes = [(row, at) for row, group in enumerate(before) for at, cell in enumerate(group) if cell.key in gone]
    filled = _filled(before, holes, free, conditions)
    if filled is None:
        return ()
    found = [_repair(before, filled)]
    here = filled
    for _ in range(_MOST_MORE):
        used = {cell.key for group in here for cell in group}
        rest = [cell for cell in free if cell.key not in used]
        best = max(_one_more(here, rest, conditions), key=_key, default=None)
        if best is None or min(_sums(best)) <= min(_sums(here)) + SAME_MAH:
            break
        here = best
        found.append(_repair(before, here))
    return tuple(found)


def _filled(
    groups: list[list[Candidate]],
    holes: Sequence[tuple[int, int]],
    free: Sequence[Candidate],
    conditions: Conditions,
) -> list[list[Candidate]] | None:
    """The holes filled so that the weakest group is strong, then the spread small: the better of two beginnings.

    What is nearest to what went wastes least, but where two groups are the weakest no single exchange helps; the largest
    for the group that has kept least is the strongest there is where each group has one hole.
    """

    def nearest_to_what_went(row: int, at: int, cell: Candidate) -> tuple[float, float, str]:
        return abs(cell.capacity_mah - groups[row][at].capacity_mah), cell.capacity_u_mah, cell.key

    def largest(_row: int, _at: int, cell: Candidate) -> tuple[float, float, str]:
        return -cell.capacity_mah, cell.capacity_u_mah, cell.key

    begun = (_begun(groups, holes, free, conditions, order) for order in (nearest_to_what_went, largest))
    return max((_settled(here, holes, free, conditions) for here in begun if here is not None), key=_key, default=None)


def _begun(
    groups: list[list[Candidate]],
    holes: Sequence[tuple[int, int]],
    free: Sequence[Candidate],
    conditions: Conditions,
    order: Callable[[int, int, Candidate], tuple[float, float, str]],
) -> list[list[Candidate]] | None:
    """Every hole with the first by `order` of those that may stand there, the group that has kept least first."""
    here = [list(group) for group in groups]
    rest = list(free)
    open_holes = set(holes)
    kept = [sum(c.capacity_mah for at, c in enumerate(g) if (row, at) not in open_holes) for row, g in enumerate(here)]
    for row, at in sorted(holes, key=lambda hole: (kept[hole[0]], hole)):
        fits = [cell for cell in rest if _may_stand(cell, here, row, at, conditions, open_holes)]
        if not fits:
            return None
        here[row][at] = min(fits, key=partial(order, row, at))
        rest.remove(here[row][at])
        open_holes.discard((row, at))
    return here


def _settled(
    here: list[list[Candidate]], holes: Sequence[tuple[int, int]], free: Sequence[Candidate], conditions: Conditions
) -> list[list[Candidate]]:
    """The same after every single exchange that makes it better."""
    for _ in range(_ROUNDS):
        used = {cell.key for group in here for cell in group}
        outside = [cell for cell in free if cell.key not in used]
        best = max(_refilled(here, holes, outside, conditions), key=_key, default=None)
        if best is None or _key(best) <= _key(here):
            break
        here = best
    return here


def _refilled(
    here: list[list[Candidate]], holes: Sequence[tuple[int, int]], outside: Sequence[Candidate], conditions: Conditions
) -> Iterator[list[list[Candidate]]]:
    for (row, at), cell in product(holes, outside):
        if _may_stand(cell, here, row, at, conditions):
            yield _with(here, row, at, cell)
    for (row, at), (other, there) in product(holes, holes):
        if row < other:
            swapped = _with(_with(here, row, at, here[other][there]), other, there, here[row][at])
            if _may_stand(here[other][there], swapped, row, at, conditions) and _may_stand(
                here[row][at], swapped, other, there, conditions
            ):
                yield swapped


def _one_more(
    here: list[list[Candidate]], outside: Sequence[Candidate], conditions: Conditions
) -> Iterator[list[list[Candidate]]]:
    """A cell of the weakest group for an unused one."""
    sums = _sums(here)
    weakest = sums.index(min(sums))
    for at, cell in product(range(len(here[weakest])), outside):
        is_pinned = here[weakest][at].key in conditions.pins
        if not is_pinned and _may_stand(cell, here, weakest, at, conditions):
            yield _with(here, weakest, at, cell)


def _may_stand(
    cell: Candidate,
    here: Sequence[Sequence[Candidate]],
    row: int,
    at: int,
    conditions: Conditions,
    holes: Collection[tuple[int, int]] = (),
) -> bool:
    """Whether a cell keeps the rules of a group beside the others that stand there."""
    others = [other for place, other in enumerate(here[row]) if place != at and (row, place) not in holes]
    if conditions.donors == "apart" and any(other.donor == cell.donor for other in others):
        return False
    return all(kind_of(other, conditions) == kind_of(cell, conditions) for other in others)


def _with(here: list[list[Candidate]], row: int, at: int, cell: Candidate) -> list[list[Candidate]]:
    changed = [list(group) for group in here]
    changed[row][at] = cell
    return changed


def _sums(groups: Sequence[Sequence[Candidate]]) -> list[float]:
    return [sum(cell.capacity_mah for cell in group) for group in groups]


def _key(groups: Sequence[Sequence[Candidate]]) -> tuple[float, float, float]:
    """The stronger the weakest, then the smaller the spread, then the less is taken, the better."""
    sums = _sums(groups)
    return min(sums), min(sums) - max(sums), -sum(sums)


def _repair(before: Sequence[Sequence[Candidate]], after: Sequence[Sequence[Candidate]]) -> Repair:
    exchanges = tuple(
        Exchange(number, old.key, new.key)
        for number, (was, now) in enumerate(zip(before, after, strict=True), start=1)
        for old, new in zip(was, now, strict=True)
        if old.key != new.key
    )
    return Repair(exchanges, tuple(tuple(group) for group in after))
