"""The matcher: which cells in which groups, in the order of goals, with the bound beside it.

No clock: whoever waits tells by `time_used` what share of the time is gone, 0 to 1, and gets the best so far when it is
over. Otherwise the search ends by itself after a number of turns, and the same cells and seed give the same answer, in whatever order the cells come.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError
from zembric.core.match.bounds import upper_bound
from zembric.core.match.holds import Holds
from zembric.core.match.model import Match, MatchCell
from zembric.core.match.pool import Pool
from zembric.core.match.resistance import even_resistance
from zembric.core.match.robust import surer
from zembric.core.match.scale import in_steps
from zembric.core.match.search import Grouping, Window
from zembric.core.match.strongest import HELD_TURNS, narrowed, strongest_held, strongest_weakest
from zembric.core.match.target import reach, reach_held
from zembric.core.match.turns import RESISTANCE_TURNS, SPREAD_UNTIL, WEAKEST_UNTIL, until
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held

    Floats = NDArray[np.float64]
    TimeUsed = Callable[[], float]

#: What the weakest group may give up [%] for evener resistance, to choose from.
GIVES_PCT = (0.0, 0.5, 1.0, 2.0, 5.0)
NOTHING_HELD = Holds()
#: What evener resistance has to bring to be a choice: of the ratio inside a group, of the spread of groups [%].
_RATIO_WORTH, _SPREAD_WORTH = 0.005, 0.5


def _no_limit() -> float:
    return 0.0


@dataclass(frozen=True, slots=True)
class Alternative:
    """A grouping whose weakest group may lie so much [%] below the best found, for evener resistance."""

    give_pct: float
    match: Match


def match(
    cells: Sequence[MatchCell],
    series: int,
    parallel: int,
    *,
    target_mah: float | None = None,
    give_pct: float = 0.0,
    seed: int = 0,
    time_used: TimeUsed = _no_limit,
    holds: Holds = NOTHING_HELD,
) -> Match:
    """Deals series x parallel of the cells into groups, whose order in the answer is from the strongest to the weakest.

    Without a target the weakest group becomes as strong as it can; with one every group reaches it and as little
    capacity as possible is taken. Where exactly so many cells are given, all are used. With pins the groups stand in
    their order instead, from 1 on.

    Raises:
        BadInputError: a shape, a cell, a pin, a target or a share that cannot be.
        TooFewCellsError: fewer cells than the shape needs.
        OutOfReachError: the target was not reached.
        ConflictError: no way was found to hold what is to be held.
    """
    if target_mah is None:
        found = alternatives(cells, series, parallel, (give_pct,), seed=seed, time_used=time_used, holds=holds)
        return found[0].match
    pool = Pool.of(cells, series, parallel)
    if not (np.isfinite(target_mah) and target_mah > 0):
        raise BadInputError(said("target-of-mah-cannot-be", target=plain(target_mah)), field="target_mah")
    target = pool.scale.steps_for(target_mah, parallel)
    if holds:
        return pool.answer(*reach_held(pool, target, target_mah, holds, seed, time_used), is_ordered=bool(holds.pins))
    return pool.answer(*reach(pool, target, target_mah, seed, time_used))


def alternatives(
    cells: Sequence[MatchCell],
    series: int,
    parallel: int,
    gives_pct: Sequence[float] = GIVES_PCT,
    *,
    seed: int = 0,
    time_used: TimeUsed = _no_limit,
    holds: Holds = NOTHING_HELD,
) -> list[Alternative]:
    """Groupings for rising shares given up, each better than those before in resistance; the first is always there.

    With holds the bound knows of the pins, not of donors that are kept apart.

    Raises: as `match`.
    """
    if not all(np.isfinite(give) and 0 <= give < 100 for give in gives_pct):
        raise BadInputError(said("what-weakest-group-may-give-up"), field="give_pct")
    pool = Pool.of(cells, series, parallel)
    rng = np.random.default_rng(seed)
    held: Held | None = None
    if holds:
        here, held, bound = strongest_held(pool, holds, HELD_TURNS, rng, until(WEAKEST_UNTIL, time_used))
    else:
        strongest, bound = strongest_weakest(pool, rng, until(WEAKEST_UNTIL, time_used))
        here = pool.with_unused(strongest)
    narrow = narrowed(here, rng, until(SPREAD_UNTIL, time_used), held)
    weakest, top = int(narrow.sums.min()), int(narrow.sums.max())
    found: list[Alternative] = []
    last = narrow
    for give_pct in gives_pct:
        if pool.mohm is not None:
            least = weakest if give_pct == 0 else pool.given(weakest, give_pct)
            window = Window(least, top if give_pct == 0 else None)
            last = even_resistance(last, pool.mohm, window, RESISTANCE_TURNS, rng, until(1, time_used), held)
        answer = pool.answer(surer(last, pool.u_steps, pool.mohm, held), bound, is_ordered=bool(holds.pins))
        if not found or (pool.mohm is not None and is_evener(answer, found[-1].match)):
            found.append(Alternative(give_pct, answer))
    return found


def is_evener(one: Match, other: Match) -> bool:
    """Whether a grouping is evener in resistance than another by so much that somebody would choose it for that."""
    ratio, spread = one.worst_resistance_ratio, one.group_resistance_spread_pct
    other_ratio, other_spread = other.worst_resistance_ratio, other.group_resistance_spread_pct
    if ratio is None or other_ratio is None or spread is None or other_spread is None:
        return False
    return ratio < other_ratio - _RATIO_WORTH or (ratio < other_ratio + 1e-9 and spread < other_spread - _SPREAD_WORTH)


def dealt_like_cards(cells: Sequence[MatchCell], series: int, parallel: int) -> Match:
    """What sorting by hand brings: the strongest cells dealt to the groups in turn; to see what matching is worth.

    Raises: as `match`.
    """
    pool = Pool.of(cells, series, parallel)
    rows = np.arange(pool.wanted).reshape(parallel, series).T
    bound = upper_bound(pool.steps, series, parallel)
    return pool.answer(Grouping(pool.steps, rows, np.arange(pool.wanted, len(pool.cells))), bound)


def weakest_group_bound_mah(capacities_mah: Floats, series: int, parallel: int) -> float:
    """No grouping of these cells has a weakest group above it [mAh]; capacities in any order."""
    steps, scale = in_steps(capacities_mah)
    return scale.group_mah(upper_bound(np.sort(steps)[::-1], series, parallel), parallel)
