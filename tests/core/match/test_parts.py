"""The parts of a match each against all there is to choose from: deals, windows, exchanges, orders and presets."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.match.test_match import cells_of, groupings
from tests.core.match.test_plans import ANY, cell, groups_of
from tests.support.stories import RULES
from zembric.core.match import (
    Holds,
    Job,
    MatchCell,
    Plan,
    alternatives,
    is_better_plan,
    make_plan,
    match,
    plan_alike,
    plan_in_order,
    repairs,
    sift,
    tolerances_of,
)
from zembric.core.match.bounds import largest_sum_up_to
from zembric.core.match.conditions import broken_in_groups, missing_cells, strongest_of_each_donor
from zembric.core.match.scale import in_steps
from zembric.wording import say

# --- Deals -----------------------------------------------------------------------------------------------------------


@settings(max_examples=60)
@given(st.lists(st.tuples(st.integers(900, 3000), st.sampled_from("abcd")), min_size=6, max_size=9), st.booleans())
def test_the_first_deal_takes_the_strongest_cells_that_can_be_kept_apart(
    drawn: list[tuple[int, str]], is_pinned: bool
) -> None:
    """No time: what is dealt first is the answer. Two groups, so that of each donor two cells can be used at most."""
    capacities = [mah for mah, _ in drawn]
    last = len(drawn) - 1

    def can_stay_apart(taken: tuple[int, ...]) -> bool:
        donors = [drawn[index][1] for index in taken]
        return (not is_pinned or last in taken) and all(donors.count(donor) <= 2 for donor in donors)

    totals = [
        sum(capacities[index] for index in taken)
        for taken in combinations(range(len(drawn)), 4)
        if can_stay_apart(taken)
    ]
    assume(totals)
    cells = cells_of(capacities)
    holds = Holds(
        {f"C{last:04}": 2} if is_pinned else {},
        {each.key: donor for each, (_, donor) in zip(cells, drawn, strict=True)},
    )
    found = match(cells, 2, 2, holds=holds, time_used=lambda: 1.0)
    assert found.total_mah == max(totals)
    assert not is_pinned or f"C{last:04}" in found.groups[1].keys


def test_cells_of_unknown_donors_are_of_different_ones() -> None:
    found = match(cells_of([2000] * 4), 2, 2, holds=Holds(donors={"C0000": "D1", "C0001": "D1"}))
    assert all(not {"C0000", "C0001"} <= set(group.keys) for group in found.groups)


@settings(max_examples=40)
@given(st.lists(st.tuples(st.integers(1, 9), st.sampled_from("abc")), min_size=4, max_size=7), st.data())
def test_around_pins_and_donors_a_target_is_reached_where_it_can_be(
    drawn: list[tuple[int, str]], data: st.DataObject
) -> None:
    capacities = [100 * mah for mah, _ in drawn]
    pinned = data.draw(st.integers(0, len(drawn) - 1))
    laid = [
        groups
        for groups in groupings(frozenset(range(len(drawn))), 2, 2)
        if all(drawn[a][1] != drawn[b][1] for a, b in groups) and any(pinned in group for group in groups)
    ]
    assume(laid)
    most = max(min(sum(capacities[index] for index in group) for group in groups) for groups in laid)
    cells = cells_of(capacities)
    donors = {each.key: donor for each, (_, donor) in zip(cells, drawn, strict=True)}
    found = match(cells, 2, 2, target_mah=most, holds=Holds({f"C{pinned:04}": 1}, donors))
    assert found.weakest_mah >= most
    assert f"C{pinned:04}" in found.groups[0].keys


# --- Resistance ------------------------------------------------------------------------------------------------------


@settings(max_examples=40)
@given(st.lists(st.integers(20, 90), min_size=4, max_size=7), st.sampled_from([(2, 2), (2, 1), (1, 3)]))
def test_of_equal_capacities_the_evenest_resistances_stand_together(mohm: list[int], shape: tuple[int, int]) -> None:
    series, parallel = shape
    cells = [MatchCell(f"C{index}", 2300, float(value)) for index, value in enumerate(mohm)]

    def ratio(group: tuple[int, ...]) -> float:
        return max(mohm[index] for index in group) / min(mohm[index] for index in group)

    best = min(max(map(ratio, laid)) for laid in groupings(frozenset(range(len(mohm))), series, parallel))
    found = match(cells, series, parallel)
    assert found.worst_resistance_ratio == pytest.approx(best)


def test_where_one_group_is_uneven_the_others_come_to_its_resistance() -> None:
    """40 and 60 mOhm are pinned together: 24 mOhm. Of the others 48 and 49 come to as much, 70 and 72 do not."""
    cells = [MatchCell(f"C{index}", 2300, float(mohm)) for index, mohm in enumerate([40, 60, 70, 72, 48, 49])]
    found = match(cells, 2, 2, holds=Holds({"C0": 1, "C1": 1}))
    assert set(found.groups[1].keys) == {"C4", "C5"}


def test_what_is_given_up_frees_only_what_it_says() -> None:
    """The even cell is 2 % weaker: nothing changes before 2 % may be given."""
    cells = [MatchCell("a", 2000, 40.0), MatchCell("b", 2000, 80.0), MatchCell("c", 1960, 40.0)]
    assert [(each.give_pct, each.match.left_over) for each in alternatives(cells, 1, 2)] == [
        (0.0, ("c",)),
        (1.0, ("b",)),
    ]


# --- Rules and windows -----------------------------------------------------------------------------------------------


def test_the_presets_hold_the_numbers_of_the_house() -> None:
    own = tolerances_of(replace(RULES, values={"near_capacity_pct/usual": 12.0}))
    assert {(key, each.key, each.capacity_pct, each.resistance_ratio, each.voltage_v) for key, each in own.items()} == {
        ("strict", "strict", 3, 1.2, 0.01),
        ("usual", "usual", 12, 1.5, 0.02),
        ("relaxed", "relaxed", 30, 3, 0.05),
    }


@settings(max_examples=50)
@given(st.lists(st.tuples(st.integers(90, 110), st.integers(20, 40)), min_size=2, max_size=8), st.integers(1, 4))
def test_the_cells_of_a_tolerance_are_the_strongest_enough_of_all_its_windows(
    drawn: list[tuple[int, int]], wanted: int
) -> None:
    """Every set of cells within 3 % and 1.2 times; the best has enough, then the strongest."""
    cells = [cell(index, 20.0 * mah, resistance_mohm=float(mohm)) for index, (mah, mohm) in enumerate(drawn)]

    def score(low_mah: int, low_mohm: int) -> tuple[int, float]:
        inside = sorted(
            (
                20.0 * mah
                for mah, mohm in drawn
                if low_mah <= mah <= low_mah / 0.97 and low_mohm <= mohm <= 1.2 * low_mohm
            ),
            reverse=True,
        )[:wanted]
        return len(inside), sum(inside)

    best = max(score(mah, mohm) for mah, _ in drawn for _, mohm in drawn)
    kept = sorted(
        (each.capacity_mah for each in sift(cells, replace(ANY, tolerance="strict"), wanted, 1).eligible), reverse=True
    )
    assert (len(kept[:wanted]), sum(kept[:wanted])) == pytest.approx(best)


def test_a_window_keeps_what_is_pinned_before_anything_else() -> None:
    cells = [cell(0, 2500), cell(1, 2500), cell(2, 1000)]
    kept = sift(cells, replace(ANY, tolerance="usual", pins={"C002": 1}), 1, 1).eligible
    assert [each.key for each in kept] == ["C002"]


@pytest.mark.parametrize(
    ("groups", "asked", "said"),
    [
        ([[cell(0, 2000), cell(1, 2000, is_bare=True)]], ANY, "Group 1 mixes bare and protected cells"),
        ([[cell(0, 2000), cell(1, 2000, size_code="21700")]], replace(ANY, one_kind="size"), "mixes different sizes"),
        ([[cell(0, 2000)], [cell(1, 2000), cell(2, 2000)]], replace(ANY, donors="together"), "Group 2 mixes"),
        (
            [[cell(0, 2000, donor="D1"), cell(1, 2000, donor="D1")]],
            replace(ANY, donors="apart"),
            "several cells of one donor",
        ),
    ],
)
def test_a_group_that_was_laid_by_hand_says_what_it_breaks(
    groups: list[list[object]], asked: object, said: str
) -> None:
    left_out, broken = broken_in_groups(groups, asked)  # type: ignore[arg-type]
    assert left_out == ()
    assert [said in say(each) for each in broken] == [True]


@settings(max_examples=60)
@given(st.lists(st.sampled_from("abcde"), min_size=1, max_size=9), st.sampled_from([(2, 2), (3, 2), (2, 3), (3, 1)]))
def test_so_many_cells_are_missing_as_groups_of_different_donors_want(
    donors: list[str], shape: tuple[int, int]
) -> None:
    series, parallel = shape
    cells = [cell(index, 2000, donor=donor) for index, donor in enumerate(donors)]
    can = any(
        all(len({donors[index] for index in group}) == parallel for group in laid)
        for laid in groupings(frozenset(range(len(donors))), series, parallel)
    )
    assert (missing_cells(cells, replace(ANY, donors="apart"), series, parallel) == 0) == can


def test_of_each_donor_the_strongest_can_stand_in_so_many_groups() -> None:
    cells = [
        cell(index, mah, donor=donor) for index, (mah, donor) in enumerate([(10, "a"), (30, "a"), (20, "a"), (5, "b")])
    ]
    assert [each.capacity_mah for each in strongest_of_each_donor(cells, 2)] == [30, 20, 5]


# --- Bounds and steps ------------------------------------------------------------------------------------------------


@settings(max_examples=60)
@given(st.lists(st.integers(0, 12), min_size=2, max_size=8), st.integers(1, 4), st.integers(-1, 40))
def test_the_largest_sum_of_so_many_that_does_not_pass(steps: list[int], parallel: int, most: int) -> None:
    sums = [sum(taken) for taken in combinations(steps, parallel) if sum(taken) <= most]
    assert largest_sum_up_to(np.array(steps), parallel, most) == (max(sums) if sums else None)


def test_steps_are_what_all_differences_are_multiples_of() -> None:
    steps, scale = in_steps(np.array([2000.5, 2010.5, 2025.5]))
    assert steps.tolist() == [0, 2, 5]
    assert scale.group_mah(7, 3) == pytest.approx(3 * 2000.5 + 35)
    assert scale.steps_for(3 * 2000.5 + 34.9, 3) == 7
    assert scale.in_steps(np.array([10.0])).tolist() == [2.0]


# --- Plans beside one another ----------------------------------------------------------------------------------------


def plan(capacities: list[float], mohm: list[float] | None = None) -> Plan:
    cells = [
        cell(index, mah, resistance_mohm=40.0 if mohm is None else mohm[index]) for index, mah in enumerate(capacities)
    ]
    return make_plan(cells, Job(2, 2, ANY))


@pytest.mark.parametrize(
    ("better", "worse"),
    [
        (plan([2000, 2000, 2001, 2000]), plan([2000, 2000, 2000, 1999])),
        (plan([2000, 2000, 2000, 2000]), plan([2000, 2000, 2000, 2900])),
        (plan([2000] * 4), plan([2000] * 4, [40, 80, 80, 120])),
    ],
)
def test_the_better_plan_is_stronger_else_nearer_else_evener(better: Plan, worse: Plan) -> None:
    assert (is_better_plan(better, worse), is_better_plan(worse, better)) == (True, False)
    assert not is_better_plan(better, better)


def test_groups_with_pins_stand_at_their_number_and_the_others_around_them_from_the_strongest() -> None:
    models = {"a": (2000, 1900), "b": (2600, 2500), "c": (2300, 2200)}
    cells = [
        cell(10 * place + index, mah, model=model)
        for place, (model, both) in enumerate(models.items())
        for index, mah in enumerate(both)
    ]
    made = make_plan(cells, Job(3, 2, replace(ANY, one_kind="model", pins={"C000": 2})))
    assert [set(group) for group in groups_of(made)] == [{"C010", "C011"}, {"C000", "C001"}, {"C020", "C021"}]


def test_all_alike_a_job_keeps_its_own_target_and_an_impossible_one_changes_nothing() -> None:
    cells = [cell(index, mah) for index, mah in enumerate([3000, 2900, 2800, 2700, 1500, 1450])]
    with_target = Job(1, 2, ANY, target_mah=2900)
    kept, other = plan_alike([cells, cells], [with_target, Job(1, 2, ANY)])
    assert isinstance(kept, Plan)
    assert isinstance(other, Plan)
    assert (kept.job.target_mah, kept.choices[0].match.weakest_mah >= 2900) == (2900, True)
    too_many = [Job(1, 2, ANY), Job(5, 2, ANY)]
    assert str(plan_alike([cells, cells], too_many)[1]) == str(plan_in_order([cells, cells], too_many)[1])


# --- Repairs ---------------------------------------------------------------------------------------------------------


def test_of_repairs_that_are_as_strong_the_nearer_groups_then_the_smaller_cells_are_taken() -> None:
    groups = [[cell(0, 2000), cell(1, 2000)], [cell(2, 2500), cell(3, 2400)]]
    (found, *_) = repairs(groups, {"C003"}, [cell(4, 2600), cell(5, 1510), cell(6, 1500)], ANY)
    assert [(each.group, each.out, each.comes) for each in found.exchanges] == [(2, "C003", "C006")]
    assert (found.weakest_mah, found.spread_mah) == (4000, 0)


def test_of_equal_spares_the_surer_one_comes() -> None:
    spares = [cell(4, 2000, capacity_u_mah=80.0), cell(5, 2000, capacity_u_mah=10.0)]
    assert repairs([[cell(0, 2000), cell(1, 2000)]], {"C001"}, spares, ANY)[0].exchanges[0].comes == "C005"


def test_pinned_cells_are_not_exchanged_for_stronger_ones() -> None:
    groups = [[cell(0, 1000), cell(1, 1100)]]
    found = repairs(groups, (), [cell(2, 3000), cell(3, 2900)], replace(ANY, pins={"C000": 1}))
    assert [[each.out for each in repair.exchanges] for repair in found] == [[], ["C001"]]


def test_a_spare_of_the_donor_that_stands_there_does_not_come_where_donors_are_apart() -> None:
    groups = [[cell(0, 2000, donor="D1"), cell(1, 2000, donor="D2")]]
    spares = [cell(2, 2000, donor="D1"), cell(3, 1500, donor="D3")]
    assert repairs(groups, {"C001"}, spares, replace(ANY, donors="apart"))[0].exchanges[0].comes == "C003"
