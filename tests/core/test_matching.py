"""Matching against exhaustive search, planted splits and the bound."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zembric.core.errors import BadInputError
from zembric.core.matching import MatchCell, TooFewCellsError, match, weakest_group_bound_mah

Capacities = st.lists(st.integers(300, 3500), min_size=4, max_size=8)


def cells_of(capacities: list[int] | list[float]) -> list[MatchCell]:
    return [MatchCell(f"C{index:04}", capacity, 40.0) for index, capacity in enumerate(capacities)]


def best_by_trying_all(capacities: list[int], series: int, parallel: int) -> int:
    """The strongest weakest group there can be, by trying every choice of groups."""

    def best(left: frozenset[int], groups: int) -> float:
        if groups == 0:
            return float("inf")
        found = 0.0
        for group in combinations(sorted(left), parallel):
            weight = sum(capacities[index] for index in group)
            if weight > found:
                found = max(found, min(weight, best(left - set(group), groups - 1)))
        return found

    return int(best(frozenset(range(len(capacities))), series))


@settings(max_examples=60)
@given(Capacities, st.sampled_from([(2, 1), (2, 2), (1, 3), (3, 1), (4, 1)]))
def test_the_bound_is_never_below_what_can_be_reached(capacities: list[int], shape: tuple[int, int]) -> None:
    series, parallel = shape
    falling = np.array(sorted(capacities, reverse=True), dtype=np.float64)
    assert weakest_group_bound_mah(falling, series, parallel) >= best_by_trying_all(capacities, series, parallel)


@settings(max_examples=60)
@given(st.lists(st.integers(1500, 3000), min_size=6, max_size=8))
def test_small_pools_come_near_the_best_there_is(capacities: list[int]) -> None:
    weakest = match(cells_of(capacities), 2, 3).weakest_mah
    assert weakest >= 0.99 * best_by_trying_all(capacities, 2, 3)


@given(Capacities, st.randoms())
def test_neither_order_nor_scale_of_the_pool_matters(capacities: list[int], chance: object) -> None:
    plain = match(cells_of(capacities), 2, 2)
    shuffled = cells_of(capacities)
    chance.shuffle(shuffled)  # type: ignore[attr-defined]
    scaled = match(cells_of([2 * capacity for capacity in capacities]), 2, 2)
    assert match(shuffled, 2, 2) == plain
    assert scaled.weakest_mah == 2 * plain.weakest_mah


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


@pytest.mark.parametrize(("series", "parallel"), [(0, 2), (2, 0), (41, 1), (1, 41)])
def test_shapes_that_nobody_builds_are_refused(series: int, parallel: int) -> None:
    with pytest.raises(BadInputError, match="1 to 40"):
        match(cells_of([2000] * 4), series, parallel)


def test_a_cell_without_capacity_is_refused_by_name() -> None:
    with pytest.raises(BadInputError, match="C0001"):
        match(cells_of([2000, 0]), 1, 1)
