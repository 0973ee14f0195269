"""The matcher beside what people do by hand and beside a general solver, in one run at the same time limit.

    PYTHONPATH=src python bench/matching.py [SECONDS [POOLS]]

Dealing by hand: the strongest cells dealt to the groups in turn. Sorting in blocks: each group a run of neighbours. The
general solver is OR-Tools' CP-SAT on the exact model (a yes or no for each cell and group), with one worker as the matcher
has; it needs requirements-bench.txt and stays away without. All find the weakest group; the spread is what it left.
"""

from __future__ import annotations

import importlib
import importlib.util
import sys
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from time import perf_counter

import numpy as np

from zembric.core.match import MatchCell, dealt_like_cards, match

SECONDS = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
POOLS = int(sys.argv[2]) if len(sys.argv) > 2 else None
Sums = list[float]


@dataclass(frozen=True)
class Pool:
    name: str
    series: int
    parallel: int
    capacities: list[int]


def pools() -> list[Pool]:
    """Made-up shelves of different shapes, among them planted exact splits."""
    rng = np.random.default_rng(2026)

    def shelf(count: int) -> list[int]:
        return [round(value) for value in np.clip(rng.normal(2200, 250, count), 900, 3400)]

    def planted(series: int, parallel: int) -> list[int]:
        found: list[int] = []
        while len(found) < series * parallel:
            some = rng.integers(1500, 2900, parallel - 1).tolist()
            last = 2200 * parallel - sum(some)
            if 900 < last < 3400:
                found += [*some, last]
        return found

    return [
        Pool("small, all used", 4, 3, shelf(12)),
        Pool("7S4P of 40", 7, 4, shelf(40)),
        Pool("10S3P of 60", 10, 3, shelf(60)),
        Pool("14S7P of 220", 14, 7, shelf(220)),
        Pool("20S5P, all used", 20, 5, shelf(100)),
        Pool("planted 14S4P", 14, 4, planted(14, 4)),
        Pool("planted 40S3P", 40, 3, planted(40, 3)),
        Pool("14S40P of 5000", 14, 40, shelf(5000)),
    ]


def by_matcher(pool: Pool, bound: list[float]) -> Sums:
    began = perf_counter()
    found = match(cells(pool), pool.series, pool.parallel, time_used=lambda: (perf_counter() - began) / SECONDS)
    bound.append(found.bound_mah)
    return [group.capacity_mah for group in found.groups]


def dealt(pool: Pool) -> Sums:
    return [group.capacity_mah for group in dealt_like_cards(cells(pool), pool.series, pool.parallel).groups]


def in_blocks(pool: Pool) -> Sums:
    strongest = sorted(pool.capacities, reverse=True)[: pool.series * pool.parallel]
    return [sum(strongest[at : at + pool.parallel]) for at in range(0, len(strongest), pool.parallel)]


def by_general_solver(pool: Pool) -> Sums:
    """CP-SAT: the weakest group as strong as possible; of what choosing needs only the strongest cells are given to it."""
    if importlib.util.find_spec("ortools") is None:
        return []
    cp_model = importlib.import_module("ortools.sat.python.cp_model")
    capacities = sorted(pool.capacities, reverse=True)[: pool.series * pool.parallel]
    model = cp_model.CpModel()
    stands = [[model.new_bool_var("") for _ in range(pool.series)] for _ in capacities]
    weakest = model.new_int_var(0, sum(capacities), "")
    for row in stands:
        model.add_exactly_one(row)
    for group in range(pool.series):
        model.add(sum(row[group] for row in stands) == pool.parallel)
        model.add(sum(c * row[group] for c, row in zip(capacities, stands, strict=True)) >= weakest)
    model.maximize(weakest)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = SECONDS
    solver.parameters.num_workers = 1
    if solver.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return []
    return [
        float(sum(c for c, row in zip(capacities, stands, strict=True) if solver.boolean_value(row[group])))
        for group in range(pool.series)
    ]


def cells(pool: Pool) -> list[MatchCell]:
    return [MatchCell(f"C{index}", float(capacity)) for index, capacity in enumerate(pool.capacities)]


def timed(make: Callable[[], Sequence[float]]) -> str:
    began = perf_counter()
    sums = make()
    seconds = perf_counter() - began
    return (
        f"{min(sums):8.0f} {max(sums) - min(sums):6.0f} {seconds:6.2f} s"
        if sums
        else f"{'nothing':>15} {seconds:6.2f} s"
    )


def main() -> None:
    print(f"weakest group [mAh], spread [mAh], time; limit {SECONDS:g} s")
    print(f"{'':18}{'bound':>8}  {'matcher':>24}  {'dealt by hand':>24}  {'in blocks':>24}  {'general solver':>24}")
    for pool in pools()[:POOLS]:
        bound: list[float] = []
        mine = timed(lambda pool=pool, bound=bound: by_matcher(pool, bound))  # type: ignore[misc]
        others = [timed(lambda how=how, pool=pool: how(pool)) for how in (dealt, in_blocks, by_general_solver)]  # type: ignore[misc]
        print(
            f"{pool.name:18}{bound[0]:8.0f}  {mine:>24}  " + "  ".join(f"{other:>24}" for other in others), flush=True
        )


if __name__ == "__main__":
    main()
