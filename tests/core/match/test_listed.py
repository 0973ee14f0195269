"""Disjoint groups of which the first ends latest, against all there are, and what is proved of it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.match.test_match import groupings
from zembric.core.match.listed import can_be_listed, latest_first_end, list_groups

SHAPES = st.sampled_from([(6, 2, 3), (7, 2, 3), (6, 3, 2), (8, 3, 2), (8, 2, 3), (9, 3, 2)])


@settings(max_examples=60)
@given(SHAPES, st.integers(0, 2**32 - 1))
def test_of_all_groupings_the_one_with_the_latest_first_end_is_laid_and_proved(
    shape: tuple[int, int, int], seed: int
) -> None:
    cells, parallel, series = shape
    groups = list_groups(cells, parallel)
    seconds = np.random.default_rng(seed).integers(1, 60, len(groups)).astype(float)
    end = dict(zip(groups, seconds.tolist(), strict=True))
    laid = groupings(frozenset(range(cells)), series, parallel)
    best = max(min(end[tuple(sorted(group))] for group in rows) for rows in laid)
    found = latest_first_end(groups, seconds, cells, series, 0.0, lambda: False)
    assert found.rows is not None
    assert min(end[tuple(sorted(row))] for row in found.rows) == found.bound_s == best
    assert len({cell for row in found.rows for cell in row}) == series * parallel
    again = latest_first_end(groups, seconds, cells, series, best, lambda: False)
    assert (again.rows, again.bound_s) == (None, best)


def test_what_was_proved_before_the_clock_ran_out_stands() -> None:
    groups = list_groups(16, 4)
    seconds = np.random.default_rng(1).normal(100, 10, len(groups))
    found = latest_first_end(groups, seconds, 16, 4, 0.0, lambda: True)
    assert found.bound_s <= seconds.max()


@pytest.mark.parametrize(("cells", "parallel", "listed"), [(20, 4, True), (22, 4, False), (52, 4, False)])
def test_no_more_groups_are_listed_than_can_be_run(cells: int, parallel: int, listed: bool) -> None:
    assert can_be_listed(cells, parallel) == listed
