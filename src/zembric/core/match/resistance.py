"""Evener resistance inside the groups, within what the capacities may give.

The cost of a group is the fourth power of the logarithm of its largest over its smallest resistance, so that the worst
group counts most; and a little of how its cells scatter, so that of two that are alike the farthest one can go first. Each turn takes one group, mostly the worst, and exchanges one of its cells for one of another group
or an unused one, whichever lowers the cost most while every sum stays in its window.
"""

from __future__ import annotations

from bisect import bisect_left
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.match.search import Grouping

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.search import Window

    Floats = NDArray[np.float64]

_PATIENCE = 30
_UNUSED_A_TURN = 600
_GROUP_TURNS = 60
#: Groups nearer to one another than this share are as even as anybody can measure.
_ALIKE = 1e-3
#: What the scatter inside a group counts beside its span.
_SCATTER = 1e-4


def even_resistance(
    start: Grouping,
    mohm: Floats,
    window: Window,
    turns: int,
    rng: np.random.Generator,
    is_over: Callable[[], bool],
    held: Held | None = None,
) -> Grouping:
    """The grouping with the smallest worst ratio, then the smallest spread of group resistance, that was met.

    `mohm` holds a resistance above zero for every cell; the sums of `start` lie in the window; what is held stays.
    """
    here, logs = start.copy(), np.log(mohm)
    best, best_key = start.copy(), resistance_key(start, mohm)
    idle = 0
    if start.rows.shape[1] == 1:
        return best if held is not None else _most_alike(start, mohm, window)
    for _ in range(turns):
        if is_over() or idle > _PATIENCE:
            break
        spans = np.ptp(logs[here.rows], axis=1)
        worst = int(spans.argmax())
        anchor = worst if rng.random() < 0.7 else int(rng.integers(len(spans)))
        gain = _exchange(here, logs, spans, anchor, window, rng, held)
        is_changed = gain > 0 or (held is None and len(here.unused) > 0 and _take_run(here, logs, anchor, window))
        key = resistance_key(here, mohm) if is_changed else best_key
        if key < best_key:
            best, best_key, idle = here.copy(), key, 0
        else:
            idle += 1
    if held is None:
        neighbours = _neighbours(start, mohm, window)
        if neighbours is not None and resistance_key(neighbours, mohm) < best_key:
            best = neighbours
    return _evener_groups(best, mohm, window, is_over, held)


def _neighbours(start: Grouping, mohm: Floats, window: Window) -> Grouping | None:
    """Groups of cells next to one another in resistance, with the smallest worst ratio there is; None: not in the window.

    Where capacities do not matter, as they are equal, no other grouping is evener. Neighbours within a ratio are taken from
    the smallest resistance on, and a cell is left over where its neighbours lie too far from it.
    """
    series, parallel = start.rows.shape
    rising = np.argsort(mohm, kind="stable")
    values = mohm[rising]
    ratios = values[parallel - 1 :] / values[: len(values) - parallel + 1]
    steps = np.unique(ratios)
    enough = bisect_left(
        range(len(steps)), True, key=lambda at: len(_firsts(ratios, float(steps[at]), parallel)) >= series
    )
    if enough == len(steps):
        return None
    firsts = _firsts(ratios, float(steps[enough]), parallel)[:series]
    rows = np.array([np.sort(rising[first : first + parallel]) for first in firsts])
    if window.cost(start.steps[rows].sum(axis=1)).any():
        return None
    is_used = np.zeros(len(mohm), dtype=bool)
    is_used[rows] = True
    return Grouping(start.steps, rows, np.flatnonzero(~is_used))


def _firsts(ratios: Floats, most: float, parallel: int) -> list[int]:
    """Where groups of neighbours within a ratio begin, taken from the smallest resistance on."""
    firsts: list[int] = []
    at, within = 0, np.flatnonzero(ratios <= most)
    for first in within.tolist():
        if first >= at:
            firsts.append(first)
            at = first + parallel
    return firsts


def _most_alike(start: Grouping, mohm: Floats, window: Window) -> Grouping:
    """Of groups of one cell: the run of cells next to one another in resistance that lies closest together.

    Only cells whose capacity lies in the window; without its upper end the strongest that were taken are the end.
    """
    series = len(start.rows)
    fits = np.flatnonzero(window.cost(start.steps) == 0)
    if len(fits) <= series:
        return start
    rising = fits[np.argsort(mohm[fits], kind="stable")]
    values = mohm[rising]
    runs = np.lib.stride_tricks.sliding_window_view(values, series)
    spreads = (runs[:, -1] - runs[:, 0]) / runs.mean(axis=1)
    first = int(spreads.argmin())
    if spreads[first] >= resistance_key(start, mohm)[1] - 1e-9:
        return start
    taken = np.sort(rising[first : first + series])
    is_used = np.zeros(len(start.steps), dtype=bool)
    is_used[taken] = True
    return Grouping(start.steps, taken[:, None], np.flatnonzero(~is_used))


def _evener_groups(
    start: Grouping, mohm: Floats, window: Window, is_over: Callable[[], bool], held: Held | None
) -> Grouping:
    """Brings the resistances of the groups together, as long as no group gets less even inside.

    The group with the most or the least resistance exchanges a cell for an unused one, or for one of another group.
    """
    best, best_key = start.copy(), resistance_key(start, mohm)
    for _ in range(_GROUP_TURNS):
        if is_over() or best_key[1] <= _ALIKE:
            break
        together = 1 / (1 / mohm[best.rows]).sum(axis=1)
        tried = min(
            (
                _best_exchange(best, mohm, window, int(anchor), held)
                for anchor in (together.argmax(), together.argmin())
            ),
            key=lambda each: each[0],
        )
        if tried[0] >= best_key or tried[1] is None:
            break
        best_key, best = tried[0], tried[1]
    return best


def _best_exchange(
    here: Grouping, mohm: Floats, window: Window, anchor: int, held: Held | None
) -> tuple[tuple[float, float], Grouping | None]:
    """The exchange of one cell of a group that brings resistances closest, with what it then comes to."""
    steps, row, sums = here.steps, here.rows[anchor], here.sums
    best_key, best = resistance_key(here, mohm), None
    wanted = 1 / (1 / mohm[here.rows]).sum(axis=1)
    aim = float(np.median(wanted))
    outside = here.unused
    for k, mine in enumerate(row.tolist()):
        others = [(None, outside)] + [(g, here.rows[g]) for g in range(len(here.rows)) if g != anchor]
        for group, places in others:
            change = steps[places] - steps[mine]
            fits = window.cost(sums[anchor] + change) == 0
            if group is None:
                fits &= held.may_take(row, places)[k] if held is not None else True
            else:
                fits &= window.cost(sums[group] - change) == 0
                if held is not None:
                    fits &= held.may_exchange(here.rows, anchor)[group, k]
            if not fits.any():
                continue
            new = 1 / ((1 / mohm[row]).sum() - 1 / mohm[mine] + 1 / mohm[places])
            at = int(np.where(fits, np.abs(new - aim), np.inf).argmin())
            tried = here.copy()
            if group is None:
                tried.rows[anchor, k], tried.unused[at] = tried.unused[at], tried.rows[anchor, k]
            else:
                tried.rows[anchor, k], tried.rows[group, at] = tried.rows[group, at], tried.rows[anchor, k]
            key = resistance_key(tried, mohm)
            if key < best_key:
                best_key, best = key, tried
    return best_key, best


def resistance_key(grouping: Grouping, mohm: Floats) -> tuple[float, float]:
    """Worst ratio inside a group, and relative spread of the group resistances; less is better."""
    inside = mohm[grouping.rows]
    together = 1 / (1 / inside).sum(axis=1)
    ratio = float((inside.max(axis=1) / inside.min(axis=1)).max())
    return round(ratio, 9), round(float(np.ptp(together) / together.mean()), 9)


def _exchange(
    here: Grouping,
    logs: Floats,
    spans: Floats,
    anchor: int,
    window: Window,
    rng: np.random.Generator,
    held: Held | None,
) -> float:
    """Makes the exchange that lowers the cost most; answers by how much, 0 where none does."""
    steps, rows = here.steps, here.rows
    sums, row = here.sums, rows[anchor]
    low, high = _without_each(logs[rows])
    # Axes: other group, cell of the anchor, cell of the other group.
    mine, theirs = logs[row][None, :, None], logs[rows][:, None, :]
    new_span = np.maximum(high[anchor][None, :, None], theirs) - np.minimum(low[anchor][None, :, None], theirs)
    their_span = np.maximum(high[:, None, :], mine) - np.minimum(low[:, None, :], mine)
    change = steps[rows][:, None, :] - steps[row][None, :, None]
    fits = (window.cost(sums[anchor] + change) == 0) & (window.cost(sums[:, None, None] - change) == 0)
    if held is not None:
        fits &= held.may_exchange(rows, anchor)
    costs = spans**4
    totals = logs[rows].sum(axis=1)
    scatter = _scatter_change(totals[anchor], mine, theirs, len(row))
    scatter = scatter + _scatter_change(totals[:, None, None], theirs, mine, len(row))
    new_costs = new_span**4 + their_span**4 + _SCATTER * scatter
    gains = np.where(fits, (costs + costs[anchor])[:, None, None] - new_costs, -np.inf)
    gains[anchor] = -np.inf
    other, i, j = np.unravel_index(int(gains.argmax()), gains.shape)
    gain = float(gains[other, i, j])
    if len(here.unused):
        places = here.unused if len(here.unused) <= _UNUSED_A_TURN else rng.choice(here.unused, _UNUSED_A_TURN, False)
        outside = logs[places][None, :]
        span = np.maximum(high[anchor][:, None], outside) - np.minimum(low[anchor][:, None], outside)
        fits_unused = window.cost(sums[anchor] + steps[places][None, :] - steps[row][:, None]) == 0
        if held is not None:
            fits_unused &= held.may_take(row, places)
        scatter = _scatter_change(totals[anchor], logs[row][:, None], outside, len(row))
        unused_gains = np.where(fits_unused, costs[anchor] - span**4 - _SCATTER * scatter, -np.inf)
        k, place = np.unravel_index(int(unused_gains.argmax()), unused_gains.shape)
        if unused_gains[k, place] > max(gain, 1e-12):
            at = int(np.flatnonzero(here.unused == places[place])[0])
            rows[anchor, k], here.unused[at] = here.unused[at], rows[anchor, k]
            return float(unused_gains[k, place])
    if gain <= 1e-12:
        return 0.0
    rows[anchor, i], rows[other, j] = rows[other, j], rows[anchor, i]
    return gain


def _take_run(here: Grouping, logs: Floats, anchor: int, window: Window) -> bool:
    """Whether a group became more even by taking cells next to one another in resistance, of its own and the unused.

    Where each single exchange makes it worse, all at once may not.
    """
    row, parallel = here.rows[anchor], here.rows.shape[1]
    own = np.concatenate([row, here.unused])
    own = own[np.argsort(logs[own], kind="stable")]
    runs = np.lib.stride_tricks.sliding_window_view(own, parallel)
    spans = logs[runs[:, -1]] - logs[runs[:, 0]]
    spans[window.cost(here.steps[runs].sum(axis=1)) != 0] = np.inf
    first = int(spans.argmin())
    if spans[first] >= np.ptp(logs[row]) - 1e-12:
        return False
    here.rows[anchor] = runs[first]
    here.unused[:] = np.delete(own, np.arange(first, first + parallel))
    return True


def _scatter_change(total: Floats, out: Floats, comes: Floats, count: int) -> Floats:
    """By how much the squared deviations from their mean grow where one of `count` values of this total is replaced."""
    return (comes - out) * ((comes + out) - (2 * total + comes - out) / count)


def _without_each(values: Floats) -> tuple[Floats, Floats]:
    """Smallest and largest of each row without each of its values in turn."""
    ordered = np.sort(values, axis=1)
    least, second_least = ordered[:, :1], ordered[:, 1:2]
    most, second_most = ordered[:, -1:], ordered[:, -2:-1]
    low = np.where(values == least, second_least, least)
    high = np.where(values == most, second_most, most)
    # Of two equal smallest values the other one stays the smallest, which is what the second of the row says.
    return low, high
