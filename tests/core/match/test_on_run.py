"""Groups for the longest run, against every grouping there is."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.match.test_match import cells_of, groupings
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family
from zembric.core.identify.families import ocv_table
from zembric.core.match import Duty, LoadTooLargeError, MatchCell, match, match_on_run
from zembric.core.run import Curve, Load, RunCell, run_times

CURVE = Curve(*ocv_table(Family.LAYERED_OXIDE))


def duty(kind: str = "current", value: float = 10.0, cutoff_v: float = 3.0) -> Duty:
    return Duty(CURVE, Load(kind, value), cutoff_v)  # type: ignore[arg-type]


def longest(packs: list[list[list[MatchCell]]], asked: Duty) -> float:
    run = [
        [[RunCell(c.key, "all", c.capacity_mah, c.resistance_mohm or 0, 1.0) for c in group] for group in groups]
        for groups in packs
    ]
    return float(run_times({"all": CURVE}, run, asked.load, asked.cutoff_v).max())


@settings(max_examples=8)
@given(
    st.lists(st.tuples(st.integers(1800, 2600), st.sampled_from([30, 40, 60, 300])), min_size=6, max_size=7),
    st.sampled_from([(3, 2), (2, 3), (2, 2)]),
    st.sampled_from([("current", 9.0), ("power", 60.0), ("resistor", 1.2)]),
)
def test_of_few_cells_the_longest_run_is_found(
    drawn: list[tuple[int, int]], shape: tuple[int, int], load: tuple[str, float]
) -> None:
    cells = [MatchCell(f"C{index}", float(mah), float(mohm)) for index, (mah, mohm) in enumerate(drawn)]
    asked = duty(*load)
    every = groupings(frozenset(range(len(cells))), *shape)
    best = longest([[[cells[index] for index in group] for group in laid] for laid in every], asked)
    found = match_on_run(cells, *shape, asked)
    assert found.seconds == pytest.approx(best, rel=1e-4, abs=1e-6)
    assert found.by_capacity_seconds <= found.seconds <= found.ideal_seconds + 1e-9


def test_at_a_current_no_grouping_runs_longer_than_what_is_proved() -> None:
    """4S3P of twelve: 220 groups, each with its own end."""
    cells = shelf(12, 2)
    found = match_on_run(cells, 4, 3, duty("current", 13.0))
    assert found.bound_seconds == pytest.approx(found.seconds, rel=1e-3)
    assert found.seconds < 0.95 * found.ideal_seconds
    assert match_on_run(cells, 4, 3, duty("power", 150.0), time_used=lambda: 1.0).bound_seconds is None


def shelf(count: int, poor: int) -> list[MatchCell]:
    rng = np.random.default_rng(4)
    return [
        MatchCell(f"C{index:03}", float(mah), 300.0 if index < poor else float(mohm))
        for index, (mah, mohm) in enumerate(
            zip(rng.integers(1800, 2600, count), rng.integers(25, 80, count), strict=True)
        )
    ]


def test_poor_contacts_are_spread_and_the_pack_runs_much_longer_than_by_capacity() -> None:
    """6S4P at 2 C with three poor contacts among 24: more than a tenth longer, for some of the weakest group."""
    cells = shelf(24, 3)
    found = match_on_run(cells, 6, 4, duty(value=17.6))
    assert found.seconds > 1.1 * found.by_capacity_seconds
    assert found.seconds > 0.85 * found.ideal_seconds
    assert found.by_capacity.weakest_mah == match(cells, 6, 4).weakest_mah
    assert found.match.weakest_mah <= found.match.bound_mah
    groups = [[c for c in cells if c.key in group.keys] for group in found.match.groups]
    assert found.seconds == pytest.approx(longest([groups], duty(value=17.6)))
    poor = [sum(key in {"C000", "C001", "C002"} for key in group.keys) for group in found.match.groups]
    assert max(poor) == 1


def test_of_more_cells_those_that_give_most_at_this_load_are_taken() -> None:
    found = match_on_run(shelf(24, 6), 4, 4, duty(value=20.0))
    assert {"C000", "C001", "C002", "C003", "C004", "C005"} <= set(found.match.left_over)
    assert len({key for group in found.match.groups for key in group.keys}) == 16


def test_without_time_the_groups_of_capacity_are_given() -> None:
    cells = shelf(40, 2)
    found = match_on_run(cells, 10, 4, duty(value=20.0), time_used=lambda: 1.0)
    assert found.seconds >= found.by_capacity_seconds


def test_the_same_cells_in_any_order_come_to_the_same_groups() -> None:
    cells = shelf(9, 2)
    assert match_on_run(cells, 4, 2, duty(value=8.0)) == match_on_run(cells[::-1], 4, 2, duty(value=8.0))


@pytest.mark.parametrize(
    ("cells", "asked", "code", "words"),
    [
        (cells_of([2000] * 4), duty(value=0), "bad-load", "above zero"),
        (cells_of([2000] * 4), duty(cutoff_v=4.2), "bad-input", "below 4.19\u00a0V"),
        ([MatchCell("a", 2000, 40), MatchCell("b", 2000, None)], duty(), "no-resistance", "Cell b has no resistance"),
    ],
)
def test_what_cannot_be_run_is_refused(cells: list[MatchCell], asked: Duty, code: str, words: str) -> None:
    with pytest.raises(BadInputError, match=words) as refused:
        match_on_run(cells, 1, 2, asked)
    assert refused.value.code == code


def test_a_power_that_nothing_carries_says_the_most_that_could_be() -> None:
    """Four cells of 4.19 V behind 40 mOhm: 4.19^2 / (4 x 0.04) W each."""
    with pytest.raises(LoadTooLargeError, match="at most") as refused:
        match_on_run(cells_of([2000] * 4), 2, 2, duty("power", 500.0))
    assert refused.value.most_w == pytest.approx(4 * 4.19**2 / 0.16)
