"""Local search: cells are dealt, then exchanged between groups and with the unused ones until every group lies in a window.

A grouping is an array of indices (groups, cells in a group) into the capacities, which are in steps (see scale). What
is looked for is a window of sums: first everything from a target on, which lifts the weakest group; then also nothing
above a top, which narrows the spread. The cost of a grouping is the squared distance of its sums to the window. Each
turn takes the group that lies furthest out (now and then another) and looks at all ways, or a large sample of them, to
deal its cells anew together with those of one or two other groups; all ways of a turn are looked at in one go.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.scale import Ints

    Indices = NDArray[np.intp]
    Floats = NDArray[np.float64]

#: Up to so many cells a group, three or two groups are dealt anew in every way there is.
_THREE_ANEW_UP_TO, _TWO_ANEW_UP_TO = 4, 6
_TRIPLES_A_TURN = {2: 400, 3: 160, 4: 16}
_PAIRS_OF_CELLS = 120
_GROUPS_FOR_PAIRS = 6
_UNUSED_A_TURN = 400
#: After so many turns that brought nothing the best grouping so far is taken up again, shaken.
_PATIENCE = 40


@dataclass(frozen=True, slots=True)
class Window:
    """Sums that are looked for [steps], both ends included; `most` None: no top."""

    least: int
    most: int | None = None
    #: How much more a sum below the window costs than one as far above it.
    short_weight: float = 1.0

    def cost(self, sums: Ints) -> Floats:
        """Squared distance of each sum to the window."""
        return self.cost_in_place(sums.astype(np.float64))

    def cost_in_place(self, sums: Floats) -> Floats:
        """As `cost`, where the sums are no longer needed: the many of a turn are not copied about."""
        above = None if self.most is None else sums - self.most
        np.subtract(self.least, sums, out=sums)
        if self.short_weight != 1:
            np.multiply(sums, math.sqrt(self.short_weight), out=sums)
        if above is not None:
            np.maximum(sums, above, out=sums)
        np.maximum(sums, 0, out=sums)
        return np.multiply(sums, sums, out=sums)


@dataclass(slots=True)
class Grouping:
    """Groups of indices, the capacities they index, and what nobody uses."""

    steps: Ints
    rows: Indices
    unused: Indices

    @property
    def sums(self) -> Ints:
        sums: Ints = self.steps[self.rows].sum(axis=1)
        return sums

    def copy(self) -> Grouping:
        return Grouping(self.steps, self.rows.copy(), self.unused.copy())


def dealt(steps: Ints, cells: Indices, series: int, parallel: int) -> Grouping:
    """The cells dealt by hand's best rule: the strongest first, each to the group that holds least and has room."""
    order = cells[np.argsort(-steps[cells], kind="stable")]
    rows = np.zeros((series, parallel), dtype=np.intp)
    held, filled = np.zeros(series, dtype=np.int64), np.zeros(series, dtype=np.intp)
    for index in order.tolist():
        group = int(np.argmin(np.where(filled < parallel, held, np.iinfo(np.int64).max)))
        rows[group, filled[group]] = index
        filled[group] += 1
        held[group] += steps[index]
    is_used = np.zeros(len(steps), dtype=bool)
    is_used[rows.ravel()] = True
    return Grouping(steps, rows, np.flatnonzero(~is_used))


def search(
    start: Grouping,
    window: Window,
    turns: int,
    rng: np.random.Generator,
    is_over: Callable[[], bool],
    *,
    is_better: Callable[[Ints, Ints], bool],
    held: Held | None = None,
) -> Grouping:
    """The best grouping met on the way into the window; ends there, after so many turns, or when time is up.

    `is_better` compares the sums of a grouping with those of the best so far; `held` is left as it is.
    """
    here, best = start.copy(), start.copy()
    sums, best_sums = here.sums, start.sums
    idle, gain = 0, 1.0
    for _ in range(turns):
        costs = window.cost(sums)
        if not costs.any() or is_over():
            break
        # The worst first; where nothing helped it, another.
        is_worst = gain > 0 or rng.random() < 0.3
        anchor = int(costs.argmax()) if is_worst else int(rng.choice(np.flatnonzero(costs)))
        gain = _turn(here, sums, anchor, window, rng, held)
        sums = here.sums
        if is_better(sums, best_sums):
            best, best_sums = here.copy(), sums.copy()
            idle = 0
        elif gain <= 0:
            idle += 1
        if idle > _PATIENCE:
            here, idle = best.copy(), 0
            for _shake in range(2):
                _shake_up(here, rng, held)
            sums = here.sums
    return best


def _turn(
    here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator, held: Held | None
) -> float:
    """Makes the best change around one group, or the least bad; answers what it gained."""
    cost = float(window.cost(sums[anchor : anchor + 1])[0])
    possible: list[_Way] = []
    ways = _ways(here, sums, anchor, window, rng) if held is None else _held_ways(here, sums, anchor, window, rng, held)
    for way in ways:
        if way is not None:
            possible.append(way)
            if way.gain >= cost:  # in the window, and nobody else fell out of it
                break
    if not possible:
        return 0.0
    best = max(possible, key=lambda way: way.gain)
    if best.gain <= 0 and rng.random() < 0.5:
        # Every now and then another way than the best of them, or two groups would pass the same cells to and fro.
        best = possible[int(rng.integers(len(possible)))]
    best.make()
    return best.gain


def _ways(here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator) -> Iterator[_Way | None]:
    """The best change of each kind, the quickly found first."""
    series, parallel = here.rows.shape
    yield _with_unused(here, sums, anchor, window, rng)
    if series == 1:
        return
    if parallel <= _TWO_ANEW_UP_TO:
        yield _two_anew(here, sums, anchor, window)
    else:
        yield _one_for_one(here, sums, anchor, window)
        for other in _others(series, anchor, rng):
            yield _two_for_two(here, sums, anchor, int(other), window, rng)
    if series > 2 and 1 < parallel <= _THREE_ANEW_UP_TO:
        yield _three_anew(here, sums, anchor, window, rng)


def _held_ways(
    here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator, held: Held
) -> Iterator[_Way | None]:
    """One cell for another where nothing holds either; two for two where only single cells are held."""
    yield _one_with_unused(here, sums, anchor, window, rng, held)
    if len(here.rows) == 1:
        return
    yield _one_for_one(here, sums, anchor, window, held)
    if held.donors is None:
        for other in _others(len(here.rows), anchor, rng):
            yield _two_for_two(here, sums, anchor, int(other), window, rng, held)


@dataclass(frozen=True, slots=True)
class _Way:
    gain: float
    make: Callable[[], None]


def _others(series: int, anchor: int, rng: np.random.Generator) -> Indices:
    others = np.delete(np.arange(series), anchor)
    return rng.permutation(others)[:_GROUPS_FOR_PAIRS]


def _pick(gains: Floats, rng: np.random.Generator | None = None) -> int:
    """The place of the largest gain; of equals any, so that the search does not go round in a ring."""
    if rng is None:
        return int(gains.argmax())
    equals = np.flatnonzero(gains == gains.max())
    return int(equals[rng.integers(len(equals))])


def _with_unused(here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator) -> _Way | None:
    """One cell, or two, of the group for unused ones."""
    if not len(here.unused):
        return None
    steps, row = here.steps, here.rows[anchor].copy()
    places = (
        np.arange(len(here.unused))
        if len(here.unused) <= _UNUSED_A_TURN
        else rng.choice(len(here.unused), _UNUSED_A_TURN, replace=False)
    )
    before = float(window.cost(sums[anchor : anchor + 1])[0])
    change = steps[here.unused[places]][None, :] - steps[row][:, None]
    gains = np.where(change == 0, -np.inf, before - window.cost(sums[anchor] + change))
    i, j = np.unravel_index(_pick(gains, rng), gains.shape)
    one_gain = float(gains[i, j])
    one = _Way(one_gain, lambda: _give_out(here, anchor, row[[i]], places[[j]])) if np.isfinite(one_gain) else None
    if one_gain >= before or len(row) < 2 or len(places) < 2:
        return one
    inside = _pairs(len(row), rng)
    outside = places[_pairs(len(places), rng)]
    pair_change = steps[here.unused[outside]].sum(axis=1)[None, :] - steps[row[inside]].sum(axis=1)[:, None]
    pair_gains = np.where(pair_change == 0, -np.inf, before - window.cost(sums[anchor] + pair_change))
    a, b = np.unravel_index(_pick(pair_gains, rng), pair_gains.shape)
    two_gain = float(pair_gains[a, b])
    if two_gain <= one_gain or not np.isfinite(two_gain):
        return one
    return _Way(two_gain, lambda: _give_out(here, anchor, row[inside[a]], outside[b]))


def _one_with_unused(
    here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator, held: Held
) -> _Way | None:
    if not len(here.unused):
        return None
    steps, row = here.steps, here.rows[anchor].copy()
    change = steps[here.unused][None, :] - steps[row][:, None]
    gains = window.cost(sums[anchor : anchor + 1])[0] - window.cost(sums[anchor] + change)
    gains[(change == 0) | ~held.may_take(row, here.unused)] = -np.inf
    i, place = np.unravel_index(_pick(gains, rng), gains.shape)
    if not np.isfinite(gains[i, place]):
        return None
    return _Way(float(gains[i, place]), lambda: _give_out(here, anchor, row[[i]], np.array([place])))


def _give_out(here: Grouping, group: int, cells: Indices, places: Indices) -> None:
    """Cells of a group for those at places of the unused."""
    for cell, place in zip(cells.tolist(), places.tolist(), strict=True):
        here.rows[group, here.rows[group] == cell] = here.unused[place]
        here.unused[place] = cell


def _pairs(count: int, rng: np.random.Generator) -> Indices:
    """Pairs of places, all of few, a sample of many."""
    pairs = _all_pairs(count)
    return pairs if len(pairs) <= _PAIRS_OF_CELLS else pairs[rng.integers(len(pairs), size=_PAIRS_OF_CELLS)]


@lru_cache(maxsize=64)
def _all_pairs(count: int) -> Indices:
    return np.stack(np.triu_indices(count, 1), axis=1)


def _one_for_one(here: Grouping, sums: Ints, anchor: int, window: Window, held: Held | None = None) -> _Way | None:
    """A cell of the group for one of any other."""
    steps, rows = here.steps, here.rows
    change = steps[rows][:, None, :] - steps[rows[anchor]][None, :, None]
    before = window.cost(sums)
    after = window.cost(sums[anchor] + change) + window.cost(sums[:, None, None] - change)
    gains = (before + before[anchor])[:, None, None] - after
    gains[change == 0] = -np.inf
    gains[anchor] = -np.inf
    if held is not None:
        gains[~held.may_exchange(rows, anchor)] = -np.inf
    other, i, j = np.unravel_index(int(gains.argmax()), gains.shape)
    if not np.isfinite(gains[other, i, j]):
        return None

    def make() -> None:
        rows[anchor, i], rows[other, j] = rows[other, j], rows[anchor, i]

    return _Way(float(gains[other, i, j]), make)


def _two_for_two(
    here: Grouping,
    sums: Ints,
    anchor: int,
    other: int,
    window: Window,
    rng: np.random.Generator,
    held: Held | None = None,
) -> _Way | None:
    """Two cells of the group for two of another."""
    steps, rows = here.steps, here.rows
    mine, theirs = _pairs(rows.shape[1], rng), _pairs(rows.shape[1], rng)
    if held is not None:
        mine = mine[~held.fixed[rows[anchor][mine]].any(axis=1)]
        theirs = theirs[~held.fixed[rows[other][theirs]].any(axis=1)]
    if not len(mine) or not len(theirs):
        return None
    change = steps[rows[other][theirs]].sum(axis=1)[None, :] - steps[rows[anchor][mine]].sum(axis=1)[:, None]
    before = float(window.cost(sums[[anchor, other]]).sum())
    gains = before - window.cost(sums[anchor] + change) - window.cost(sums[other] - change)
    gains[change == 0] = -np.inf
    a, b = np.unravel_index(_pick(gains, rng), gains.shape)
    if not np.isfinite(gains[a, b]):
        return None

    def make() -> None:
        for i, j in zip(mine[a], theirs[b], strict=True):
            rows[anchor, i], rows[other, j] = rows[other, j], rows[anchor, i]

    return _Way(float(gains[a, b]), make)


@lru_cache(maxsize=16)
def _splits(parallel: int, groups: int) -> Indices:
    """Every way to deal groups x parallel places into groups, which are alike: (ways, groups, parallel)."""

    def ways(left: tuple[int, ...]) -> list[list[tuple[int, ...]]]:
        if not left:
            return [[]]
        first, rest = left[0], left[1:]
        found = []
        for others in combinations(rest, parallel - 1):
            taken = (first, *others)
            found += [[taken, *tail] for tail in ways(tuple(place for place in rest if place not in others))]
        return found

    return np.array(ways(tuple(range(groups * parallel))), dtype=np.intp)


@lru_cache(maxsize=16)
def _membership(parallel: int, groups: int) -> tuple[Floats, ...]:
    """For each group but the last which places it holds in each way, to have all sums by one product: (places, ways)."""
    splits = _splits(parallel, groups)
    members = []
    for group in range(groups - 1):
        member = np.zeros((groups * parallel, len(splits)))
        member[splits[:, group], np.arange(len(splits))[:, None]] = 1
        members.append(member)
    return tuple(members)


def _anew(here: Grouping, sums: Ints, together: Indices, window: Window, rng: np.random.Generator | None) -> _Way:
    """The cells of some groups dealt anew, for many choices of groups at once: `together` (choices, groups)."""
    groups, parallel = together.shape[1], here.rows.shape[1]
    places = here.rows[together].reshape(len(together), -1)
    capacities = here.steps[places].astype(np.float64)
    rest = np.repeat(capacities.sum(axis=1)[:, None], len(_splits(parallel, groups)), axis=1)
    costs = np.zeros_like(rest)
    for member in _membership(parallel, groups):
        dealt_sums = capacities @ member
        rest -= dealt_sums
        costs += window.cost_in_place(dealt_sums)
    costs += window.cost_in_place(rest)
    gains = np.subtract(window.cost(sums)[together].sum(axis=1)[:, None], costs, out=costs)
    gains[:, 0] = -np.inf  # as they lie
    choice, way = np.unravel_index(_pick(gains, rng), gains.shape)

    def make() -> None:
        here.rows[together[choice]] = places[choice][_splits(parallel, groups)[way]]

    return _Way(float(gains[choice, way]), make)


def _two_anew(here: Grouping, sums: Ints, anchor: int, window: Window) -> _Way | None:
    series, parallel = here.rows.shape
    others = np.delete(np.arange(series), anchor)
    if parallel == 1:
        return None
    return _anew(here, sums, np.stack([np.full(len(others), anchor), others], axis=1), window, None)


def _three_anew(here: Grouping, sums: Ints, anchor: int, window: Window, rng: np.random.Generator) -> _Way:
    series, parallel = here.rows.shape
    others = np.delete(np.arange(series), anchor)
    pairs, most = _all_pairs(len(others)), _TRIPLES_A_TURN[parallel]
    if len(pairs) > most:
        pairs = pairs[rng.choice(len(pairs), most, replace=False)]
    triples = np.column_stack([np.full(len(pairs), anchor), others[pairs]])
    return _anew(here, sums, triples, window, rng)


def _shake_up(here: Grouping, rng: np.random.Generator, held: Held | None) -> None:
    """Two groups exchange a cell, whatever it does."""
    series, parallel = here.rows.shape
    if series < 2:
        return
    a, b = rng.choice(series, 2, replace=False)
    i, j = rng.integers(parallel, size=2)
    if held is not None and not held.may_exchange(here.rows, int(a))[b, i, j]:
        return
    here.rows[a, i], here.rows[b, j] = here.rows[b, j], here.rows[a, i]
