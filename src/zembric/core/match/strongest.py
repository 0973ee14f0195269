"""The weakest group as strong as possible, with the proven bound, and then the groups as near to one another as they go."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zembric.core.match import exact
from zembric.core.match.bounds import largest_sum_up_to, upper_bound
from zembric.core.match.holds import Holds, bound_around_pins, held_start
from zembric.core.match.pool import Pool, with_rest_unused
from zembric.core.match.search import Grouping, Window, dealt, search

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.scale import Ints

    IsOver = Callable[[], bool]

LOOKS = 150_000
HELD_TURNS = 400
_HELD_STARTS, _FEW_HELD = 10, 24
_CLIMB_TURNS, _CLIMB_TURNS_LARGE = 200, 1500  # the turns of groups of up to four cells are dear, and find more
_DESCENTS, _STRIDES, _FEW = 2, 60, 12
_NARROW_TURNS, _NARROW_TURNS_LARGE = 150, 50


def is_stronger(sums: Ints, best: Ints) -> bool:
    """A stronger weakest group, or the same and less spread."""
    return (int(sums.min()), -int(np.ptp(sums))) > (int(best.min()), -int(np.ptp(best)))


def strongest_weakest(pool: Pool, rng: np.random.Generator, is_over: IsOver) -> tuple[Grouping, int]:
    """The best grouping of the strongest cells, which hold the best weakest group there is, and the proven bound."""
    steps = pool.steps[: pool.wanted]
    bound = upper_bound(steps, pool.series, pool.parallel)
    here = dealt(steps, np.arange(pool.wanted), pool.series, pool.parallel)
    if pool.parallel <= 2:
        # One cell a group leaves no choice; of pairs the strongest with the weakest is the best there is.
        here = _folded(steps, pool.series, pool.parallel)
        return here, int(here.sums.min())
    here = climb(here, bound, _CLIMB_TURNS // 4, rng, is_over)
    if exact.can_be_listed(pool.wanted, pool.parallel):
        here, bound = _climb_exactly(here, bound, rng, is_over)
    turns = _CLIMB_TURNS if pool.parallel <= 4 else _CLIMB_TURNS_LARGE
    here = climb(here, bound, turns, rng, is_over)
    if int(here.sums.min()) < bound and not is_over():
        reachable = largest_sum_up_to(steps, pool.parallel, bound)
        bound = bound if reachable is None else max(reachable, int(here.sums.min()))
    return here, bound


def strongest_held(
    pool: Pool, holds: Holds, turns: int, rng: np.random.Generator, is_over: IsOver, enough: int | None = None
) -> tuple[Grouping, Held, int]:
    """The strongest weakest group around what is held, or one that is `enough`, with the bound.

    Few cells leave an exchange little room: there the search begins anew several times.
    """
    start, held = held_start(pool.cells, pool.steps, pool.series, pool.parallel, holds, rng)
    bound = bound_around_pins(start, held, upper_bound(pool.steps, pool.series, pool.parallel))
    most = bound if enough is None else min(bound, enough)
    best = climb(start, most, turns, rng, is_over, held)
    for _ in range(_HELD_STARTS if pool.wanted <= _FEW_HELD else 0):
        if int(best.sums.min()) >= most or is_over():
            break
        again, _ = held_start(pool.cells, pool.steps, pool.series, pool.parallel, holds, rng, by_chance=True)
        found = climb(again, most, turns // _HELD_STARTS, rng, is_over, held)
        best = max(best, found, key=lambda each: int(each.sums.min()))
    return best, held, bound


def _folded(steps: Ints, series: int, parallel: int) -> Grouping:
    """The strongest with the weakest, and so on inwards."""
    places = np.arange(series * parallel)
    rows = places[:, None] if parallel == 1 else np.stack([places[:series], places[::-1][:series]], axis=1)
    return Grouping(steps, rows, np.array([], dtype=np.intp))


def climb(
    here: Grouping,
    bound: int,
    turns: int,
    rng: np.random.Generator,
    is_over: IsOver,
    held: Held | None = None,
) -> Grouping:
    """Lifts the weakest group: halves the way to the bound, or to what was tried in vain."""
    reached, most = int(here.sums.min()), bound
    while reached < most and not is_over():
        wanted = (reached + most + 1) // 2
        tried = search(here, Window(wanted), turns, rng, is_over, is_better=is_stronger, held=held)
        if is_stronger(tried.sums, here.sums):
            here, reached = tried, int(tried.sums.min())
        if reached < wanted:
            most = wanted - 1
    return here


def _climb_exactly(here: Grouping, bound: int, rng: np.random.Generator, is_over: IsOver) -> tuple[Grouping, int]:
    """Lowers the bound as long as the exact search says no to it, then looks below for the best that it finds."""
    reached, (series, parallel) = int(here.sums.min()), here.rows.shape

    def ask(target: int, restarts: np.random.Generator | None = None) -> exact.Answer:
        return exact.grouping_within(here.steps, series, parallel, Window(target), LOOKS, is_over, restarts)

    # Where the search says no, and above where it does not get done: the bound comes down to there.
    least, most = reached + 1, bound
    while least <= most and not is_over():
        target = (least + most + 1) // 2 if most - least > _FEW else most
        answer = ask(target)
        if answer.rows is not None:
            here = _laid(here, answer.rows)
            reached = int(here.sums.min())
            least = max(least, reached + 1)
        elif answer.found == "no":
            most = target - 1
            bound = most
        elif most - least > _FEW:
            least = target + 1
        else:
            break
    # Twice from the bound down, in growing strides: where one order of looking fails another may not.
    for _ in range(_DESCENTS):
        target, stride = bound, max(1, (bound - reached) // _STRIDES)
        while reached < target and not is_over():
            answer = ask(target, rng)
            if answer.rows is not None:
                here = _laid(here, answer.rows)
                reached = int(here.sums.min())
            target -= stride
            stride += max(1, stride // 4)
    return here, bound


def _laid(grouping: Grouping, rows: NDArray[np.intp]) -> Grouping:
    return Grouping(grouping.steps, rows.copy(), grouping.unused)


def narrowed(here: Grouping, rng: np.random.Generator, is_over: IsOver, held: Held | None) -> Grouping:
    """Lowers the strongest group as far as it goes with the weakest where it is."""
    least, reached = int(here.sums.min()), int(here.sums.max())
    series, parallel = here.rows.shape
    if not len(here.unused) and parallel <= 2 and held is None:
        return here  # dealt so that the strongest is as weak as it can be, too
    # With cells to spare every group may come down to the weakest; else what is above it must lie somewhere.
    ideal = least if len(here.unused) else -(-int(here.sums.sum()) // series)
    is_listed = held is None and exact.can_be_listed(len(here.steps), parallel)

    def is_better(sums: Ints, best: Ints) -> bool:
        return int(sums.min()) >= least and (int(sums.max()), int(sums.sum())) < (int(best.max()), int(best.sum()))

    most = ideal
    while most < reached and not is_over():
        window = Window(least, most)
        answer = _within(here, window, is_over) if is_listed else exact.UNKNOWN
        if answer.rows is not None:
            tried = with_rest_unused(here.steps, answer.rows)
        elif answer.found == "no":
            tried = here
        else:
            turns = _NARROW_TURNS if parallel <= 6 else _NARROW_TURNS_LARGE
            tried = search(here, window, turns, rng, is_over, is_better=is_better, held=held)
        if is_better(tried.sums, here.sums):
            here, reached = tried, int(tried.sums.max())
        if reached > most:
            ideal = most + 1
        most = (ideal + reached) // 2
    return here


def _within(here: Grouping, window: Window, is_over: IsOver) -> exact.Answer:
    """Whether some of the cells, or all where none are to spare, can be laid in groups within the window."""
    series, parallel = here.rows.shape
    if not len(here.unused):
        return exact.grouping_within(here.steps, series, parallel, window, LOOKS, is_over)
    assert window.most is not None
    more_than_all = series * window.most + 1
    return exact.least_total(here.steps, series, parallel, window, more_than_all, LOOKS, is_over)
