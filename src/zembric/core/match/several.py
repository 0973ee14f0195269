"""Several packs at once from one shelf: one after the other in order of priority, or all alike as good as they can be together."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, Literal

from zembric.core.match.model import OutOfReachError, TooFewCellsError
from zembric.core.match.plan import Plan, make_plan

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from zembric.core.errors import ConflictError
    from zembric.core.match.conditions import Candidate
    from zembric.core.match.plan import Job

Way = Literal["in-order", "alike"]
_HALVINGS = 6


def plan_in_order(
    pools: Sequence[Sequence[Candidate]],
    jobs: Sequence[Job],
    *,
    time_used: Callable[[], float] = lambda: 0.0,
) -> list[Plan | ConflictError]:
    """Each job from what those before it left; a job that cannot be met says why, and the next has its turn.

    `pools` are the cells each job may take from; a cell may be in several of them.
    """
    taken: set[str] = set()
    found: list[Plan | ConflictError] = []
    for place, (pool, job) in enumerate(zip(pools, jobs, strict=True)):

        def used(place: int = place) -> float:
            return min(1.0, max(0.0, time_used() * len(jobs) - place))

        try:
            plan = make_plan([cell for cell in pool if cell.key not in taken], job, time_used=used)
        except (TooFewCellsError, OutOfReachError) as error:
            found.append(error)
            continue
        found.append(plan)
        taken |= _cells_of(plan)
    return found


def plan_alike(
    pools: Sequence[Sequence[Candidate]],
    jobs: Sequence[Job],
    *,
    time_used: Callable[[], float] = lambda: 0.0,
) -> list[Plan | ConflictError]:
    """All jobs so that each comes as near as the others to what it would be alone, by its weakest group.

    Jobs with a target of their own keep it. Where they cannot all be met the answer is that of `plan_in_order`.
    """
    in_order = plan_in_order(pools, jobs, time_used=lambda: time_used() * 4)
    if any(not isinstance(each, Plan) for each in in_order):
        return in_order
    alone = [make_plan(pool, job, time_used=lambda: time_used() * 2).choices[0].match.weakest_mah
             for pool, job in zip(pools, jobs, strict=True)]  # fmt: skip
    shares = [
        plan.choices[0].match.weakest_mah / most if most else 1.0
        for plan, most in zip(in_order, alone, strict=True)
        if isinstance(plan, Plan)
    ]
    best, low, high = in_order, min(shares), 1.0
    for _ in range(_HALVINGS):
        if time_used() >= 1 or high - low < 1e-3:
            break
        share = (low + high) / 2
        asked = [
            job if job.target_mah is not None else replace(job, target_mah=share * most)
            for job, most in zip(jobs, alone, strict=True)
        ]
        tried = plan_in_order(pools, asked, time_used=time_used)
        if all(isinstance(each, Plan) for each in tried):
            best, low = tried, share
        else:
            high = share
    return best


def _cells_of(plan: Plan) -> set[str]:
    return {key for group in plan.choices[0].match.groups for key in group.keys}
