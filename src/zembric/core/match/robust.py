"""Capacities have errors: how likely the real weakest group falls short, and surer groups where the figures tie.

Errors of the cells count as independent and normal, a group's variance as the sum of those of its cells. A tester that
reads all cells alike too high is not seen by this; the same tester for all keeps the groups even all the same.
"""

from __future__ import annotations

import math
from statistics import NormalDist
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from zembric.core.match.holds import Held
    from zembric.core.match.model import Match, MatchCell
    from zembric.core.match.search import Grouping

    Floats = NDArray[np.float64]

_NORMAL = NormalDist()
_HALVINGS = 60
_EXCHANGES = 200
#: A group's sum less so many of its standard uncertainties is what it is worth where figures tie.
_CAREFUL = 1.28


def shortfall_probability(groups: Sequence[tuple[float, float]], least_mah: float) -> float:
    """How likely the weakest of the groups holds less than so much, 0 to 1.

    Each group is its capacity and its standard uncertainty [mAh]. Source: product of independent normal errors.
    """
    holds = 1.0
    for capacity_mah, u_mah in groups:
        if u_mah <= 0:
            holds *= 1.0 if capacity_mah >= least_mah else 0.0
        else:
            holds *= 1 - _NORMAL.cdf((least_mah - capacity_mah) / u_mah)
    return 1 - holds


def sure_weakest_mah(groups: Sequence[tuple[float, float]], certainty: float = 0.9) -> float:
    """What the weakest group holds at least [mAh], with this certainty."""
    low = min(capacity - 6 * u for capacity, u in groups)
    high = min(capacity for capacity, _ in groups) + 6 * max(u for _, u in groups)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if shortfall_probability(groups, middle) <= 1 - certainty:
            low = middle
        else:
            high = middle
    return low


def with_uncertainty(match: Match, cells: Sequence[MatchCell]) -> list[tuple[float, float]]:
    """Capacity and standard uncertainty [mAh] of each group."""
    u_mah = {cell.key: cell.capacity_u_mah for cell in cells}
    return [(group.capacity_mah, math.hypot(*(u_mah[key] for key in group.keys))) for group in match.groups]


def surer(here: Grouping, u_steps: Floats, mohm: Floats | None, held: Held | None) -> Grouping:
    """The same sums with cells of equal capacity exchanged between groups, as far as that makes the doubtful group surer.

    Nothing else changes: where resistances are known only cells of equal resistance change places.
    """
    if not np.ptp(u_steps) or len(here.rows) < 2:
        return here
    better = here.copy()
    kinds = np.unique(
        np.column_stack([better.steps, np.zeros_like(u_steps) if mohm is None else mohm]), axis=0, return_inverse=True
    )[1].ravel()
    rows, variances = better.rows, u_steps**2
    for _ in range(_EXCHANGES):
        held_variance = variances[rows].sum(axis=1)
        worth = better.sums - _CAREFUL * np.sqrt(held_variance)
        doubtful = int(worth.argmin())
        change = variances[rows][:, None, :] - variances[rows[doubtful]][None, :, None]
        may = kinds[rows][:, None, :] == kinds[rows[doubtful]][None, :, None]
        if held is not None:
            may &= held.may_exchange(rows, doubtful)
        mine = better.sums[doubtful] - _CAREFUL * np.sqrt(np.maximum(held_variance[doubtful] + change, 0))
        theirs = better.sums[:, None, None] - _CAREFUL * np.sqrt(np.maximum(held_variance[:, None, None] - change, 0))
        gains = np.where(may & (change < 0), np.minimum(mine, theirs) - worth[doubtful], -np.inf)
        gains[doubtful] = -np.inf
        other, i, j = np.unravel_index(int(gains.argmax()), gains.shape)
        if gains[other, i, j] <= 1e-9:
            break
        rows[doubtful, i], rows[other, j] = rows[other, j], rows[doubtful, i]
    return better
