"""A target that every group reaches, with as little taken from the shelf as possible."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zembric.core.match import exact
from zembric.core.match.bounds import upper_bound
from zembric.core.match.holds import Holds
from zembric.core.match.model import OutOfReachError
from zembric.core.match.pool import Pool, with_rest_unused
from zembric.core.match.resistance import even_resistance, resistance_key
from zembric.core.match.search import Grouping, Window, dealt, search
from zembric.core.match.strongest import HELD_TURNS, LOOKS, climb, strongest_held, strongest_weakest
from zembric.core.match.turns import RESISTANCE_TURNS, SPREAD_UNTIL, until

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.scale import Ints

    Floats = NDArray[np.float64]
    IsOver = Callable[[], bool]
    TimeUsed = Callable[[], float]

_TARGET_TURNS, _TURNS_A_GROUP = 100, 5
_SHORT_WEIGHT, _LOOSELY = 100.0, 1.0004
#: Of the strongest cells that reach a target in all: how much more than it the first tries hold.
_MORE_THAN_TARGET = (1.0, 1.0005, 1.002, 1.01, 1.05)


def reach(pool: Pool, target: int, target_mah: float, seed: int, time_used: TimeUsed) -> tuple[Grouping, int]:
    """A grouping whose groups all reach the target and that takes little, and the bound on the weakest group.

    Raises:
        OutOfReachError: none was found.
    """
    bound = upper_bound(pool.steps, pool.series, pool.parallel)
    rng = np.random.default_rng(seed)
    target, is_over = max(target, 0), until(SPREAD_UNTIL, time_used)
    loose = pool.scale.steps_for(target_mah * _LOOSELY, pool.parallel) - target
    best: Grouping | None = None
    if target <= bound and pool.parallel > 1:
        for more in _MORE_THAN_TARGET:
            tried = _searched_for_target(_slice_holding(pool, target, more), target, loose, rng, is_over)
            if int(tried.sums.min()) >= target and (best is None or tried.sums.sum() < best.sums.sum()):
                best = tried
            if best is not None and (pool.is_near(best, target) or is_over()):
                break
    if best is None and pool.parallel == 1:
        best = _weakest_thatreach(pool, target)
    if best is None:
        strongest, bound = strongest_weakest(pool, rng, is_over)
        best = pool.with_unused(strongest)
        weakest = int(best.sums.min())
        if weakest < target:
            reachable_mah = pool.scale.group_mah(weakest, pool.parallel)
            raise OutOfReachError(target_mah, reachable_mah, pool.scale.group_mah(bound, pool.parallel))
    if not pool.is_near(best, target):
        best = _searched_for_target(best, target, loose, rng, is_over)
    if int(best.sums.sum()) > pool.series * target:
        taken = int(best.sums.sum())
        window = Window(target)
        answer = exact.least_total(pool.steps, pool.series, pool.parallel, window, taken, LOOKS, is_over)
        best = best if answer.rows is None else with_rest_unused(pool.steps, answer.rows)
    if pool.mohm is not None:
        window = Window(target, max(target, int(best.sums.max())))
        best = _evener_at_no_cost(best, pool.mohm, window, rng, until(1, time_used))
    return best, bound


def reach_held(
    pool: Pool, target: int, target_mah: float, holds: Holds, seed: int, time_used: TimeUsed
) -> tuple[Grouping, int]:
    """As `_reach`, where cells are held: from a start that reaches it down, as far as exchanges go.

    Raises:
        OutOfReachError: none was found.
    """
    rng = np.random.default_rng(seed)
    target, is_over = max(target, 0), until(SPREAD_UNTIL, time_used)
    turns = max(_TARGET_TURNS, _TURNS_A_GROUP * pool.series)
    reached, held, bound = strongest_held(pool, holds, turns, rng, is_over, enough=target)
    if int(reached.sums.min()) < target:
        best = climb(reached, bound, HELD_TURNS, rng, is_over, held)
        reachable_mah = pool.scale.group_mah(int(best.sums.min()), pool.parallel)
        raise OutOfReachError(target_mah, reachable_mah, pool.scale.group_mah(bound, pool.parallel))
    loose = pool.scale.steps_for(target_mah * _LOOSELY, pool.parallel) - target
    return _searched_for_target(reached, target, loose, rng, is_over, held), bound


def _weakest_thatreach(pool: Pool, target: int) -> Grouping | None:
    """Of groups of one cell: the weakest cells that reach the target; None where there are too few."""
    enough = np.flatnonzero(pool.steps >= target)
    if len(enough) < pool.series:
        return None
    return with_rest_unused(pool.steps, enough[-pool.series :][:, None])


def _slice_holding(pool: Pool, target: int, more: float) -> Grouping:
    """The weakest run of cells next to one another in capacity that holds so much more than the target in all."""
    totals = np.convolve(pool.steps, np.ones(pool.wanted, dtype=np.int64), "valid")
    enough = np.flatnonzero(totals >= pool.series * target * more)
    first = int(enough[-1]) if len(enough) else 0
    return dealt(pool.steps, np.arange(first, first + pool.wanted), pool.series, pool.parallel)


def _searched_for_target(
    start: Grouping,
    target: int,
    loose: int,
    rng: np.random.Generator,
    is_over: IsOver,
    held: Held | None = None,
) -> Grouping:
    def is_better(sums: Ints, best: Ints) -> bool:
        """Nearer to the target from below; from there on less in all."""
        short, best_short = int(np.maximum(target - sums, 0).sum()), int(np.maximum(target - best, 0).sum())
        return (short, int(sums.sum())) < (best_short, int(best.sum()))

    turns = max(_TARGET_TURNS, _TURNS_A_GROUP * len(start.rows))
    # First a little above it, which is soon reached by all, then as near as it goes.
    loosely = Window(target, target + loose, _SHORT_WEIGHT)
    reached = search(start, loosely, turns, rng, is_over, is_better=is_better, held=held)
    exactly = Window(target, target, _SHORT_WEIGHT)
    return search(reached, exactly, turns, rng, is_over, is_better=is_better, held=held)


def _evener_at_no_cost(
    here: Grouping, mohm: Floats, window: Window, rng: np.random.Generator, is_over: IsOver
) -> Grouping:
    evener = even_resistance(here, mohm, window, RESISTANCE_TURNS, rng, is_over)
    takes_no_more = int(evener.sums.sum()) <= int(here.sums.sum())
    return evener if takes_no_more and resistance_key(evener, mohm) < resistance_key(here, mohm) else here
