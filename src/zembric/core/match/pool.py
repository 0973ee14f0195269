"""The cells of a match from the strongest to the weakest, in steps, and their groupings in the words of whoever asked."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.match.model import Match, MatchCell, as_group, check_pool
from zembric.core.match.scale import Scale, in_steps
from zembric.core.match.search import Grouping

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from zembric.core.match.scale import Ints

    Floats = NDArray[np.float64]

#: A total this near to the least that could be is not worth another search.
_NEAR_ENOUGH = 1.0001


@dataclass(frozen=True, slots=True)
class Pool:
    """The cells from the strongest to the weakest, with their capacities in steps."""

    cells: tuple[MatchCell, ...]
    steps: Ints
    scale: Scale
    u_steps: Floats  # standard uncertainties
    mohm: Floats | None  # None: not every cell has a resistance
    series: int
    parallel: int

    @classmethod
    def of(cls, cells: Sequence[MatchCell], series: int, parallel: int) -> Pool:
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


def with_rest_unused(steps: Ints, rows: NDArray[np.intp]) -> Grouping:
    """These groups, and all other cells unused."""
    is_used = np.zeros(len(steps), dtype=bool)
    is_used[rows.ravel()] = True
    return Grouping(steps, rows.copy(), np.flatnonzero(~is_used))
