"""What no plan can exceed."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.evening.model import Problem


def most_weight(problem: Problem) -> int:
    """No plan finishes more: by the time of all channels and of all hands, each cell at its shortest."""
    room = sum(evening.end - evening.start for evening in problem.evenings)
    bounds = [sum(cell.weight for cell in problem.cells)]
    shortest = [sum(min(takes for _, takes in op.options) for op in cell.operations) for cell in problem.cells]
    bounds.append(_knapsack(problem, shortest, room * len(problem.channels)))
    if problem.volunteers is not None and problem.hand_over:
        hands = [problem.hand_over * len(cell.operations) for cell in problem.cells]
        bounds.append(_knapsack(problem, hands, room * problem.volunteers))
    return min(bounds)


def _knapsack(problem: Problem, takes: Sequence[int], room: int) -> int:
    """The most weight that fits, the last cell in part, rounded down."""
    order = sorted(range(len(takes)), key=lambda at: takes[at] / problem.cells[at].weight)
    weight = 0.0
    for at in order:
        if takes[at] >= room:
            return math.floor(weight + problem.cells[at].weight * room / takes[at] + 1e-9) if takes[at] else 0
        weight, room = weight + problem.cells[at].weight, room - takes[at]
    return math.floor(weight + 1e-9)
