"""Evener resistance inside the groups, within what the capacities may give.

The cost of a group is the fourth power of the logarithm of its largest over its smallest resistance, so that the worst
group counts most. Each turn takes one group, mostly the worst, and exchanges one of its cells for one of another group
or an unused one, whichever lowers the cost most while every sum stays in its window.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.matching.holds import Held
    from zembric.core.matching.search import Grouping, Window

    Floats = NDArray[np.float64]

_PATIENCE = 30
_UNUSED_A_TURN = 600


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
        return best
    for _ in range(turns):
        if is_over() or idle > _PATIENCE:
            break
        spans = np.ptp(logs[here.rows], axis=1)
        worst = int(spans.argmax())
        anchor = worst if rng.random() < 0.7 else int(rng.integers(len(spans)))
        gain = _exchange(here, logs, spans, anchor, window, rng, held)
        key = resistance_key(here, mohm) if gain > 0 else best_key
        if key < best_key:
            best, best_key, idle = here.copy(), key, 0
        else:
            idle += 1
    return best


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
    gains = np.where(fits, (costs + costs[anchor])[:, None, None] - new_span**4 - their_span**4, -np.inf)
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
        unused_gains = np.where(fits_unused, costs[anchor] - span**4, -np.inf)
        k, place = np.unravel_index(int(unused_gains.argmax()), unused_gains.shape)
        if unused_gains[k, place] > max(gain, 1e-12):
            at = int(np.flatnonzero(here.unused == places[place])[0])
            rows[anchor, k], here.unused[at] = here.unused[at], rows[anchor, k]
            return float(unused_gains[k, place])
    if gain <= 1e-12:
        return 0.0
    rows[anchor, i], rows[other, j] = rows[other, j], rows[anchor, i]
    return gain


def _without_each(values: Floats) -> tuple[Floats, Floats]:
    """Smallest and largest of each row without each of its values in turn."""
    ordered = np.sort(values, axis=1)
    least, second_least = ordered[:, :1], ordered[:, 1:2]
    most, second_most = ordered[:, -1:], ordered[:, -2:-1]
    low = np.where(values == least, second_least, least)
    high = np.where(values == most, second_most, most)
    # Of two equal smallest values the other one stays the smallest, which is what the second of the row says.
    return low, high
