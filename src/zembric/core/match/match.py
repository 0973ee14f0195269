"""The matcher: which cells in which groups, in the order of goals, with the bound beside it.

No clock: whoever waits tells by `time_used` what share of the time is gone, 0 to 1, and gets the best so far when it is
over. Otherwise the search ends by itself after a number of turns, and the same cells and seed give the same answer, in whatever order the cells come.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError
from zembric.core.match import exact
from zembric.core.match.bounds import largest_sum_up_to, upper_bound
from zembric.core.match.holds import Holds, bound_around_pins, held_start
from zembric.core.match.model import Match, MatchCell, OutOfReachError, as_group, check_pool
from zembric.core.match.resistance import even_resistance, resistance_key
from zembric.core.match.robust import surer
from zembric.core.match.scale import Scale, in_steps
from zembric.core.match.search import Grouping, Window, dealt, search
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.scale import Ints

    Floats = NDArray[np.float64]
    IsOver = Callable[[], bool]
    TimeUsed = Callable[[], float]

#: What the weakest group may give up [%] for evener resistance, to choose from.
GIVES_PCT = (0.0, 0.5, 1.0, 2.0, 5.0)
NOTHING_HELD = Holds()
#: What evener resistance has to bring to be a choice: of the ratio inside a group, of the spread of groups [%].
_RATIO_WORTH, _SPREAD_WORTH = 0.005, 0.5
_LOOKS = 150_000
_HELD_TURNS = 400
_HELD_STARTS, _FEW_HELD = 10, 24
_CLIMB_TURNS, _CLIMB_TURNS_LARGE = 200, 1500  # the turns of groups of up to four cells are dear, and find more
_DESCENTS, _STRIDES, _FEW = 2, 60, 12
_NARROW_TURNS, _NARROW_TURNS_LARGE, _RESISTANCE_TURNS = 150, 50, 400
_TARGET_TURNS, _TURNS_A_GROUP = 100, 5
#: A total this near to the least that could be is not worth another search.
_NEAR_ENOUGH = 1.0001
_SHORT_WEIGHT, _LOOSELY = 100.0, 1.0004
#: Of the strongest cells that reach a target in all: how much more than it the first tries hold.
_MORE_THAN_TARGET = (1.0, 1.0005, 1.002, 1.01, 1.05)


#: By these shares of the time the weakest group, then the spread, is left as it is.
_WEAKEST_UNTIL, _SPREAD_UNTIL = 0.65, 0.85


def _no_limit() -> float:
    return 0.0


def _until(share: float, time_used: TimeUsed) -> IsOver:
    return lambda: time_used() >= share


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
    pool = _Pool.of(cells, series, parallel)
    if not (np.isfinite(target_mah) and target_mah > 0):
        raise BadInputError(said("target-of-mah-cannot-be", target=plain(target_mah)), field="target_mah")
    target = pool.scale.steps_for(target_mah, parallel)
    if holds:
        return pool.answer(*_reach_held(pool, target, target_mah, holds, seed, time_used), is_ordered=bool(holds.pins))
    return pool.answer(*_reach(pool, target, target_mah, seed, time_used))


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
    pool = _Pool.of(cells, series, parallel)
    rng = np.random.default_rng(seed)
    held: Held | None = None
    if holds:
        here, held, bound = _strongest_held(pool, holds, _HELD_TURNS, rng, _until(_WEAKEST_UNTIL, time_used))
    else:
        strongest, bound = _strongest_weakest(pool, rng, _until(_WEAKEST_UNTIL, time_used))
        here = pool.with_unused(strongest)
    narrow = _narrowed(here, rng, _until(_SPREAD_UNTIL, time_used), held)
    weakest, top = int(narrow.sums.min()), int(narrow.sums.max())
    found: list[Alternative] = []
    last = narrow
    for give_pct in gives_pct:
        if pool.mohm is not None:
            least = weakest if give_pct == 0 else pool.given(weakest, give_pct)
            window = Window(least, top if give_pct == 0 else None)
            last = even_resistance(last, pool.mohm, window, _RESISTANCE_TURNS, rng, _until(1, time_used), held)
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
    pool = _Pool.of(cells, series, parallel)
    rows = np.arange(pool.wanted).reshape(parallel, series).T
    bound = upper_bound(pool.steps, series, parallel)
    return pool.answer(Grouping(pool.steps, rows, np.arange(pool.wanted, len(pool.cells))), bound)


def weakest_group_bound_mah(capacities_mah: Floats, series: int, parallel: int) -> float:
    """No grouping of these cells has a weakest group above it [mAh]; capacities in any order."""
    steps, scale = in_steps(capacities_mah)
    return scale.group_mah(upper_bound(np.sort(steps)[::-1], series, parallel), parallel)


@dataclass(frozen=True, slots=True)
class _Pool:
    """The cells from the strongest to the weakest, with their capacities in steps."""

    cells: tuple[MatchCell, ...]
    steps: Ints
    scale: Scale
    u_steps: Floats  # standard uncertainties
    mohm: Floats | None  # None: not every cell has a resistance
    series: int
    parallel: int

    @classmethod
    def of(cls, cells: Sequence[MatchCell], series: int, parallel: int) -> _Pool:
        check_pool(cells, series, parallel)
        # Of equals the surer come first, and are taken first.
        ordered = tuple(sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.capacity_u_mah, cell.key)))
        steps, scale = in_steps(np.array([cell.capacity_mah for cell in ordered], dtype=np.float64))
        known = [cell.resistance_mohm for cell in ordered if cell.resistance_mohm is not None]
        mohm = np.array(known, dtype=np.float64) if len(known) == len(ordered) else None
        u_steps = scale.in_steps(np.array([cell.capacity_u_mah for cell in ordered], dtype=np.float64))
        return cls(ordered, steps, scale, u_steps, mohm, series, parallel)

    @property
    def wanted(self) -> int:
        return self.series * self.parallel

    def with_unused(self, grouping: Grouping) -> Grouping:
        """A grouping of the strongest cells as one of all, with the rest unused."""
        return Grouping(self.steps, grouping.rows.copy(), np.arange(self.wanted, len(self.cells)))

    def given(self, weakest: int, give_pct: float) -> int:
        """The steps of a group that holds so much less [%]."""
        return self.scale.steps_for(self.scale.group_mah(weakest, self.parallel) * (1 - give_pct / 100), self.parallel)

    def is_near(self, grouping: Grouping, target: int) -> bool:
        """Whether all groups together take hardly more than the target each."""
        taken = math.fsum(self.scale.group_mah(int(held), self.parallel) for held in grouping.sums)
        return taken <= _NEAR_ENOUGH * self.series * self.scale.group_mah(target, self.parallel)

    def answer(self, grouping: Grouping, bound: int, *, is_ordered: bool = False) -> Match:
        """The grouping in the words of whoever asked; `is_ordered`: the order of its groups means something."""
        groups = [as_group([self.cells[index] for index in row]) for row in grouping.rows.tolist()]
        used = set(grouping.rows.ravel().tolist())
        return Match(
            groups=tuple(groups if is_ordered else sorted(groups, key=lambda group: (-group.capacity_mah, group.keys))),
            # Capacities are kept to a millionth: a sum of many may come out a little above the bound.
            bound_mah=max(self.scale.group_mah(bound, self.parallel), min(group.capacity_mah for group in groups)),
            left_over=tuple(cell.key for index, cell in enumerate(self.cells) if index not in used),
        )


# --- The weakest group as strong as possible -------------------------------------------------------------------------


def _better(sums: Ints, best: Ints) -> bool:
    """A stronger weakest group, or the same and less spread."""
    return (int(sums.min()), -int(np.ptp(sums))) > (int(best.min()), -int(np.ptp(best)))


def _strongest_weakest(pool: _Pool, rng: np.random.Generator, is_over: IsOver) -> tuple[Grouping, int]:
    """The best grouping of the strongest cells, which hold the best weakest group there is, and the proven bound."""
    steps = pool.steps[: pool.wanted]
    bound = upper_bound(steps, pool.series, pool.parallel)
    here = dealt(steps, np.arange(pool.wanted), pool.series, pool.parallel)
    if pool.parallel <= 2:
        # One cell a group leaves no choice; of pairs the strongest with the weakest is the best there is.
        here = _folded(steps, pool.series, pool.parallel)
        return here, int(here.sums.min())
    here = _climb(here, bound, _CLIMB_TURNS // 4, rng, is_over)
    if exact.can_be_listed(pool.wanted, pool.parallel):
        here, bound = _climb_exactly(here, bound, rng, is_over)
    turns = _CLIMB_TURNS if pool.parallel <= 4 else _CLIMB_TURNS_LARGE
    here = _climb(here, bound, turns, rng, is_over)
    if int(here.sums.min()) < bound and not is_over():
        reachable = largest_sum_up_to(steps, pool.parallel, bound)
        bound = bound if reachable is None else max(reachable, int(here.sums.min()))
    return here, bound


def _strongest_held(
    pool: _Pool, holds: Holds, turns: int, rng: np.random.Generator, is_over: IsOver, enough: int | None = None
) -> tuple[Grouping, Held, int]:
    """The strongest weakest group around what is held, or one that is `enough`, with the bound.

    Few cells leave an exchange little room: there the search begins anew several times.
    """
    start, held = held_start(pool.cells, pool.steps, pool.series, pool.parallel, holds, rng)
    bound = bound_around_pins(start, held, upper_bound(pool.steps, pool.series, pool.parallel))
    most = bound if enough is None else min(bound, enough)
    best = _climb(start, most, turns, rng, is_over, held)
    for _ in range(_HELD_STARTS if pool.wanted <= _FEW_HELD else 0):
        if int(best.sums.min()) >= most or is_over():
            break
        again, _ = held_start(pool.cells, pool.steps, pool.series, pool.parallel, holds, rng, by_chance=True)
        found = _climb(again, most, turns // _HELD_STARTS, rng, is_over, held)
        best = max(best, found, key=lambda each: int(each.sums.min()))
    return best, held, bound


def _folded(steps: Ints, series: int, parallel: int) -> Grouping:
    """The strongest with the weakest, and so on inwards."""
    places = np.arange(series * parallel)
    rows = places[:, None] if parallel == 1 else np.stack([places[:series], places[::-1][:series]], axis=1)
    return Grouping(steps, rows, np.array([], dtype=np.intp))


def _climb(
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
        tried = search(here, Window(wanted), turns, rng, is_over, is_better=_better, held=held)
        if _better(tried.sums, here.sums):
            here, reached = tried, int(tried.sums.min())
        if reached < wanted:
            most = wanted - 1
    return here


def _climb_exactly(here: Grouping, bound: int, rng: np.random.Generator, is_over: IsOver) -> tuple[Grouping, int]:
    """Lowers the bound as long as the exact search says no to it, then looks below for the best that it finds."""
    reached, (series, parallel) = int(here.sums.min()), here.rows.shape

    def ask(target: int, restarts: np.random.Generator | None = None) -> exact.Answer:
        return exact.grouping_within(here.steps, series, parallel, Window(target), _LOOKS, is_over, restarts)

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


# --- Then as even as possible ----------------------------------------------------------------------------------------


def _narrowed(here: Grouping, rng: np.random.Generator, is_over: IsOver, held: Held | None) -> Grouping:
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
            tried = _with_rest_unused(here.steps, answer.rows)
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
        return exact.grouping_within(here.steps, series, parallel, window, _LOOKS, is_over)
    assert window.most is not None
    more_than_all = series * window.most + 1
    return exact.least_total(here.steps, series, parallel, window, more_than_all, _LOOKS, is_over)


# --- A target with as little as possible -----------------------------------------------------------------------------


def _reach(pool: _Pool, target: int, target_mah: float, seed: int, time_used: TimeUsed) -> tuple[Grouping, int]:
    """A grouping whose groups all reach the target and that takes little, and the bound on the weakest group.

    Raises:
        OutOfReachError: none was found.
    """
    bound = upper_bound(pool.steps, pool.series, pool.parallel)
    rng = np.random.default_rng(seed)
    target, is_over = max(target, 0), _until(_SPREAD_UNTIL, time_used)
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
        best = _weakest_that_reach(pool, target)
    if best is None:
        strongest, bound = _strongest_weakest(pool, rng, is_over)
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
        answer = exact.least_total(pool.steps, pool.series, pool.parallel, window, taken, _LOOKS, is_over)
        best = best if answer.rows is None else _with_rest_unused(pool.steps, answer.rows)
    if pool.mohm is not None:
        window = Window(target, max(target, int(best.sums.max())))
        best = _evener_at_no_cost(best, pool.mohm, window, rng, _until(1, time_used))
    return best, bound


def _reach_held(
    pool: _Pool, target: int, target_mah: float, holds: Holds, seed: int, time_used: TimeUsed
) -> tuple[Grouping, int]:
    """As `_reach`, where cells are held: from a start that reaches it down, as far as exchanges go.

    Raises:
        OutOfReachError: none was found.
    """
    rng = np.random.default_rng(seed)
    target, is_over = max(target, 0), _until(_SPREAD_UNTIL, time_used)
    turns = max(_TARGET_TURNS, _TURNS_A_GROUP * pool.series)
    reached, held, bound = _strongest_held(pool, holds, turns, rng, is_over, enough=target)
    if int(reached.sums.min()) < target:
        best = _climb(reached, bound, _HELD_TURNS, rng, is_over, held)
        reachable_mah = pool.scale.group_mah(int(best.sums.min()), pool.parallel)
        raise OutOfReachError(target_mah, reachable_mah, pool.scale.group_mah(bound, pool.parallel))
    loose = pool.scale.steps_for(target_mah * _LOOSELY, pool.parallel) - target
    return _searched_for_target(reached, target, loose, rng, is_over, held), bound


def _weakest_that_reach(pool: _Pool, target: int) -> Grouping | None:
    """Of groups of one cell: the weakest cells that reach the target; None where there are too few."""
    enough = np.flatnonzero(pool.steps >= target)
    if len(enough) < pool.series:
        return None
    return _with_rest_unused(pool.steps, enough[-pool.series :][:, None])


def _with_rest_unused(steps: Ints, rows: NDArray[np.intp]) -> Grouping:
    is_used = np.zeros(len(steps), dtype=bool)
    is_used[rows.ravel()] = True
    return Grouping(steps, rows.copy(), np.flatnonzero(~is_used))


def _slice_holding(pool: _Pool, target: int, more: float) -> Grouping:
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
    evener = even_resistance(here, mohm, window, _RESISTANCE_TURNS, rng, is_over)
    takes_no_more = int(evener.sums.sum()) <= int(here.sums.sum())
    return evener if takes_no_more and resistance_key(evener, mohm) < resistance_key(here, mohm) else here
