"""Matching against exhaustive search, planted splits and the bound."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zembric.core.errors import BadInputError
from zembric.core.match import (
    MatchCell,
    OutOfReachError,
    TooFewCellsError,
    alternatives,
    match,
)


def cells_of(capacities: list[int] | list[float]) -> list[MatchCell]:
    return [MatchCell(f"C{index:04}", capacity, 40.0) for index, capacity in enumerate(capacities)]


def groupings(cells: frozenset[int], series: int, parallel: int) -> Iterator[list[tuple[int, ...]]]:
    """Every grouping of some of the cells, each once."""
    if series == 0:
        yield []
        return
    for group in combinations(sorted(cells), parallel):
        rest = frozenset(cell for cell in cells - set(group) if cell > group[0])
        for others in groupings(rest, series - 1, parallel):
            yield [group, *others]


def sums_of_all(capacities: list[int], series: int, parallel: int) -> list[list[int]]:
    everything = frozenset(range(len(capacities)))
    return [
        [sum(capacities[cell] for cell in group) for group in grouping]
        for grouping in groupings(everything, series, parallel)
    ]


SHAPES = [(2, 1), (3, 1), (2, 2), (3, 2), (4, 2), (2, 3), (3, 3), (2, 4), (1, 3)]


@settings(max_examples=60)
@given(st.data(), st.sampled_from(SHAPES))
def test_of_few_cells_the_best_grouping_is_found_and_proved(data: st.DataObject, shape: tuple[int, int]) -> None:
    """The weakest group as strong as any, the bound at it, and the spread the least that goes with it."""
    series, parallel = shape
    wanted = series * parallel
    capacities = data.draw(
        st.lists(st.integers(0, 60) | st.integers(800, 3400), min_size=wanted, max_size=min(wanted + 2, 9))
    )
    every = sums_of_all(capacities, series, parallel)
    weakest = max(min(sums) for sums in every)
    spread = min(max(sums) - weakest for sums in every if min(sums) == weakest)
    found = match(cells_of(capacities), series, parallel)
    assert (found.weakest_mah, found.bound_mah, found.proved_best) == (weakest, weakest, True)
    assert found.spread_mah == spread


@settings(max_examples=20)
@given(st.data(), st.sampled_from(SHAPES))
def test_a_target_takes_the_least_or_is_refused_with_what_can_be_reached(
    data: st.DataObject, shape: tuple[int, int]
) -> None:
    series, parallel = shape
    wanted = series * parallel
    capacities = data.draw(st.lists(st.integers(800, 3400), min_size=wanted, max_size=min(wanted + 2, 9)))
    target = data.draw(st.integers(700 * parallel, 3500 * parallel))
    every = sums_of_all(capacities, series, parallel)
    totals = [sum(sums) for sums in every if min(sums) >= target]
    if not totals:
        with pytest.raises(OutOfReachError) as refused:
            match(cells_of(capacities), series, parallel, target_mah=target)
        assert refused.value.reachable_mah == max(min(sums) for sums in every)
        return
    found = match(cells_of(capacities), series, parallel, target_mah=target)
    assert found.weakest_mah >= target
    assert found.total_mah == min(totals)


@settings(max_examples=12)
@given(st.lists(st.integers(300, 3500), min_size=8, max_size=24), st.sampled_from([(2, 3), (4, 2), (2, 4)]))
def test_neither_order_nor_names_nor_scale_matter_and_one_more_cell_never_harms(
    capacities: list[int], shape: tuple[int, int]
) -> None:
    plain = match(cells_of(capacities), *shape)
    assert match(cells_of(capacities)[::-1], *shape) == plain
    renamed = match([replace(cell, key=f"x{cell.key}") for cell in cells_of(capacities)], *shape)
    assert renamed.weakest_mah == plain.weakest_mah
    scaled = match(cells_of([2 * capacity for capacity in capacities]), *shape)
    assert scaled.weakest_mah == 2 * plain.weakest_mah
    assert match(cells_of([*capacities, 2000]), *shape).weakest_mah >= plain.weakest_mah


@pytest.mark.parametrize("shape", [(40, 3), (14, 3), (12, 4), (20, 10), (40, 20), (40, 2), (100, 1)])
def test_a_planted_even_split_is_found_however_many_cells(shape: tuple[int, int]) -> None:
    series, parallel = shape
    rng = np.random.default_rng(7)
    found = match(cells_of(planted(series, parallel, rng)), series, parallel)
    assert (found.weakest_mah, found.spread_mah, found.proved_best) == (2100 * parallel, 0, True)


def planted(series: int, parallel: int, rng: np.random.Generator) -> list[int]:
    """Capacities that can be dealt into groups which all hold 2100 mAh a cell."""
    capacities: list[int] = []
    while len(capacities) < series * parallel:
        some = rng.integers(800, 3400, parallel - 1).tolist()
        last = 2100 * parallel - sum(some)
        if 500 < last < 3600:
            capacities += [*some, last]
    return capacities


@pytest.mark.parametrize(
    ("series", "parallel", "of"), [(7, 14, 220), (14, 40, 600), (40, 4, 160), (20, 5, 100), (40, 3, 120)]
)
def test_of_many_cells_the_weakest_group_comes_to_within_a_tenth_of_a_percent_of_the_bound(
    series: int, parallel: int, of: int
) -> None:
    capacities = np.random.default_rng(3).integers(800, 3400, of).tolist()
    assert match(cells_of(capacities), series, parallel).at_most_better_pct < 0.1


def test_dead_cells_that_must_be_used_and_huge_ones_leave_the_bound_where_it_can_be_reached() -> None:
    """Three dead cells: each wants two of the six strongest, of which the best pairs hold 6000."""
    found = match(cells_of([0, 0, 0, 3100, 3050, 3000, 3000, 2950, 2900, 2200, 2150, 2100]), 4, 3)
    assert (found.weakest_mah, found.proved_best) == (6000, True)
    huge = match(cells_of([20_000] * 5 + [2000 + 10 * index for index in range(95)]), 10, 10)
    # The five groups without a huge cell hold the fifty strongest others.
    assert (huge.weakest_mah, huge.proved_best) == (10 * (2000 + 10 * 69.5), True)


def test_what_is_given_up_of_the_weakest_group_buys_evener_resistance() -> None:
    rng = np.random.default_rng(4)
    pool = [
        MatchCell(f"C{index:04}", float(mah), float(mohm))
        for index, (mah, mohm) in enumerate(zip(rng.integers(1800, 2600, 60), rng.integers(20, 90, 60), strict=True))
    ]
    found = alternatives(pool, 6, 5)
    weakest = found[0].match.weakest_mah
    assert found[0].give_pct == 0
    assert found[0].match.proved_best
    for choice in found:
        assert choice.match.weakest_mah >= weakest * (1 - choice.give_pct / 100) - 1e-6
    ratios = [choice.match.worst_resistance_ratio or 0 for choice in found]
    assert ratios == sorted(ratios, reverse=True)
    assert ratios[-1] < 0.6 * ratios[0]


def test_with_no_time_left_there_is_a_grouping_all_the_same() -> None:
    capacities = np.random.default_rng(5).integers(800, 3400, 120).tolist()
    found = match(cells_of(capacities), 40, 3, time_used=lambda: 1.0)
    assert len({key for group in found.groups for key in group.keys}) == 120
    assert found.bound_mah >= match(cells_of(capacities), 40, 3).weakest_mah


def test_a_planted_even_split_is_found_and_proved() -> None:
    capacities = [2400, 1600, 2300, 1700, 2200, 1800, 2100, 1900]
    found = match(cells_of(capacities), 4, 2)
    assert (found.weakest_mah, found.spread_mah, found.bound_mah, found.proved_best) == (4000, 0, 4000, True)


def test_one_huge_cell_does_not_hide_the_bound() -> None:
    # The group without the huge cell decides: 1000 + 990.
    found = match(cells_of([9000, 1000, 990, 300]), 2, 2)
    assert (found.weakest_mah, found.bound_mah, found.proved_best) == (1990, 1990, True)


def test_stronger_groups_take_the_weakest_left_over_cell_that_will_do() -> None:
    found = match(cells_of([3000, 2000, 2000, 1990, 1000]), 2, 2)
    assert found.weakest_mah == 4000
    assert found.spread_mah == 0  # 3000 + 1000, not 3000 + 1990
    assert found.left_over == ("C0003",)


def test_every_group_has_its_cells_once_and_its_common_resistance() -> None:
    found = match(cells_of(list(range(2000, 2240, 10))), 4, 5)
    keys = [key for group in found.groups for key in group.keys]
    assert len(set(keys)) == 20
    assert len(keys) + len(found.left_over) == 24
    assert found.groups[0].resistance_mohm == pytest.approx(40 / 5)


def test_a_cell_without_resistance_leaves_its_group_without_one() -> None:
    found = match([MatchCell("a", 2000, 40), MatchCell("b", 2000, None)], 2, 1)
    assert sorted(group.resistance_mohm or 0 for group in found.groups) == [0, 40]


def test_too_few_cells_say_how_many_are_missing() -> None:
    with pytest.raises(TooFewCellsError, match="6 cells are needed and 4 may take part; 2 are missing"):
        match(cells_of([2000] * 4), 2, 3)


@pytest.mark.parametrize(("series", "parallel"), [(0, 2), (2, 0), (101, 1), (1, 41)])
def test_shapes_that_nobody_builds_are_refused(series: int, parallel: int) -> None:
    with pytest.raises(BadInputError, match="1 to 100 groups of 1 to 40"):
        match(cells_of([2000] * 4), series, parallel)


def test_a_cell_without_capacity_is_refused_by_name() -> None:
    with pytest.raises(BadInputError, match="C0001"):
        match(cells_of([2000, -1]), 1, 1)


def test_of_equal_capacities_the_evener_resistances_are_taken() -> None:
    pool = [MatchCell(f"C{index}", 2300, mohm) for index, mohm in enumerate((40.0, 40.0, 40.0, 110.0))]
    found = match(pool, 2, 1)
    assert "C3" not in {key for group in found.groups for key in group.keys}
