"""What no grouping can pass: proven upper bounds on the weakest group, and the least a group must take for a target.

All in steps (see scale). The cells of the best weakest group are the strongest ones: in any grouping an unused cell
that is stronger than a used one can take its place, and no group gets weaker.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from zembric.core.match.scale import Ints

#: Sums wider than this are not searched for one by one: a gap would be far below what anybody measures.
_MOST_BITS = 4_000_000
_MOST_WORK = 1_000_000_000


def upper_bound(falling: Ints, series: int, parallel: int) -> int:
    """The best of the bounds that follow from counting; capacities from the strongest to the weakest."""
    cells = falling[: series * parallel]
    return min(_bound_by_strong_cells(cells, series, parallel), _bound_by_weak_cells(cells, series, parallel))


def _bound_by_strong_cells(cells: Ints, series: int, parallel: int) -> int:
    """The least of the counting bounds, for every j of the groups and every K of the strongest cells.

    Of the K strongest cells the j groups that hold fewest of them hold most where all groups hold alike: K = q S + r,
    and r groups one more than the others, so j q and one for each of the j that is among the r. Their other places are
    held by the cells from the K-th on at best; the weakest group is not above their mean. Source: counting.
    """
    wanted = len(cells)
    prefix = np.concatenate(([0], np.cumsum(cells)))
    strongest = np.arange(wanted + 1)
    bound: int | None = None
    for groups in range(1, series + 1):
        places = groups * parallel
        alike, over = np.divmod(strongest, series)
        held = np.minimum(groups * alike + np.maximum(groups - (series - over), 0), places)
        last = strongest + places - held
        reachable = last <= wanted
        sums = prefix[held[reachable]] + prefix[last[reachable]] - prefix[strongest[reachable]]
        least = int(sums.min()) // groups
        bound = least if bound is None else min(bound, least)
    assert bound is not None
    return bound


def _bound_by_weak_cells(cells: Ints, series: int, parallel: int) -> int:
    """The least, over L, of what the groups that hold the L weakest cells can have on average.

    The L weakest lie in some number m of groups, whose other m P - L places are held by the strongest cells at best;
    the weakest group is not above the mean of the m, for the m that is best. Source: counting.
    """
    wanted = len(cells)
    strongest = np.concatenate(([0], np.cumsum(cells)))
    weakest = np.concatenate(([0], np.cumsum(cells[::-1])))
    held = np.arange(1, wanted + 1)[:, None]
    groups = np.arange(1, series + 1)[None, :]
    others = groups * parallel - held
    possible = (others >= 0) & (groups <= held)
    means = (weakest[held] + strongest[np.where(possible, others, 0)]) // groups
    return int(np.where(possible, means, -1).max(axis=1).min())


def largest_sum_up_to(cells: Ints, parallel: int, most: int) -> int | None:
    """The largest sum of so many of the cells that does not pass `most`; None where there is none, or it is too far to search.

    Source: dynamic programme over sums, a bit for each.
    """
    if most < 0 or most > _MOST_BITS or len(cells) * parallel * most > 8 * _MOST_WORK:
        return None
    sums = _sums_by_count(cells, parallel, most)
    return sums.bit_length() - 1 if sums else None


def _sums_by_count(cells: Ints, parallel: int, most: int) -> int:
    mask = (1 << (most + 1)) - 1
    by_count = [1] + [0] * parallel
    for value in cells.tolist():
        if value <= most:
            for count in range(parallel, 0, -1):
                if by_count[count - 1]:
                    by_count[count] |= (by_count[count - 1] << value) & mask
    return by_count[parallel]
