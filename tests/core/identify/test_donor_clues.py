"""What print, board and failure of a donor tell."""

from __future__ import annotations

from typing import Any

import pytest

from zembric.core.errors import BadInputError
from zembric.core.identify.donor_clues import (
    SYMPTOMS,
    charge_in_place_advice,
    compare_groups,
    expect_from_symptom,
    program_current_ma,
    read_pack_print,
)
from zembric.wording import say


@pytest.mark.parametrize(
    ("volts_v", "cells", "wh", "mah", "expected"),
    [
        (11.1, 6, 48.84, None, {("layered-oxide", 3, 2, 2200)}),
        (14.4, 4, 37.4, None, {("layered-oxide", 4, 1, 2597)}),
        (10.8, 9, None, 7800, {("layered-oxide", 3, 3, 2600)}),
        (7.7, 2, 30, None, {("high-voltage-cobalt", 2, 1, 3896)}),
        (12.8, 8, None, 12_000, {("iron-phosphate", 4, 2, 6000)}),
        (3.7, 1, None, 2000, {("layered-oxide", 1, 1, 2000)}),
    ],
)
def test_a_packs_print_gives_its_build_and_what_a_cell_claims(
    volts_v: float, cells: int, wh: float | None, mah: float | None, expected: set[tuple[str, int, int, int]]
) -> None:
    found = read_pack_print(volts_v, cells, wh, mah).readings
    assert {(r.family.value, r.series, r.parallel, round(r.cell_mah or 0)) for r in found} >= expected


def test_a_print_that_contradicts_itself_is_told_and_one_that_cannot_be_is_refused() -> None:
    remark = read_pack_print(11.1, 6, wh=48.84, mah=6600).remark
    assert remark is not None
    assert "one of them is wrong" in say(remark)
    assert read_pack_print(11.1, 6, wh=48.84, mah=4400).remark is None
    with pytest.raises(BadInputError, match="NiMH") as refused:
        read_pack_print(6.0, 5)
    assert refused.value.field == "claimed_v"


@pytest.mark.parametrize(
    ("k_v", "r1_ohm", "r2_ohm", "ma"),
    [(1000, 2000, None, 500), (1000, 1200, None, 833.3), (1200, 1200, None, 1000), (1000, 2000, 2000, 1000)],
)
def test_a_linear_chargers_resistor_sets_its_current(
    k_v: float, r1_ohm: float, r2_ohm: float | None, ma: float
) -> None:
    assert program_current_ma(k_v, r1_ohm, r2_ohm) == pytest.approx(ma, abs=0.1)


@pytest.mark.parametrize(("k_v", "r1_ohm", "r2_ohm"), [(0, 2000, None), (1000, 0, None), (1000, 2000, -1)])
def test_a_resistor_of_nothing_is_refused(k_v: float, r1_ohm: float, r2_ohm: float | None) -> None:
    with pytest.raises(BadInputError):
        program_current_ma(k_v, r1_ohm, r2_ohm)


@pytest.mark.parametrize(
    ("board_ma", "believed_mah", "most_mah", "says"),
    [
        (None, 500, 600, "not known: watch the first charge"),
        (500, None, None, "stay with it"),
        (500, None, 600, "stay with it"),
        (500, None, 400, "do not charge it in place"),
        (500, 400, 600, "do not charge it in place"),
        (400, 400, 600, "fits"),
        (200, 400, 600, "0.5"),
    ],
)
def test_a_board_that_charges_too_fast_for_its_cell_is_not_used(
    board_ma: float | None, believed_mah: float | None, most_mah: float | None, says: str
) -> None:
    advice = charge_in_place_advice(board_ma, believed_mah, most_mah)
    assert says in say(advice.said)
    assert advice.is_refused == ("do not" in says)


@pytest.mark.parametrize(
    ("voltages_v", "odd", "says"),
    [
        ([3.71, 3.72, 3.70], {}, "nothing stands out"),
        ([3.71, 3.10, 3.70], {2: -0.60}, "Group 2 stands below"),
        ([2.31, 2.62, 3.71, 3.64], {1: -1.33, 2: -1.02}, "Groups 1 and 2 stand below"),
        ([3.60, 3.61, 3.95], {3: 0.34}, "Group 3 stands above"),
        ([2.90, 3.70], {1: -0.80}, "Group 1 stands below"),
        ([3.70], {}, "nothing stands out"),
    ],
)
def test_the_weak_group_of_a_joined_pack_stands_out(voltages_v: list[float], odd: dict[int, float], says: str) -> None:
    groups, found = compare_groups(voltages_v, 0.1)
    assert {g.number: round(g.gap_v, 2) for g in groups if g.gap_v is not None} == odd
    assert says in say(found)


@pytest.mark.parametrize("symptom", SYMPTOMS)
def test_every_symptom_says_what_to_expect(symptom: Any) -> None:
    assert len(say(expect_from_symptom(symptom, None, None))) > 20


def test_run_times_give_the_share_that_is_left() -> None:
    assert say(expect_from_symptom("runs-short", 180, 20)).startswith("20\u00a0min of 3.0\u00a0h are 11\u00a0%")
    for wrong in ((20, 180), (0, 0), (10, -1)):
        with pytest.raises(BadInputError):
            expect_from_symptom("runs-short", *wrong)
