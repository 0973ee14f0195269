"""A device gets another cell, and ours in the place of others, worked out by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError, DangerError
from zembric.core.house.limits import Family
from zembric.core.identify.sizes import read_size
from zembric.core.match.stand_ins import PoorDevice, Recell, ShelfCell, find_stand_ins, in_the_place_of
from zembric.wording import say

ROUND = PoorDevice(Family.LAYERED_OXIDE, None, read_size("18650"), 1000, draws_ma=100)
FLAT = replace(ROUND, room=read_size("603048"))
CELL = ShelfCell("C1", Family.LAYERED_OXIDE, None, read_size("18650"), 2000, 2.0, False)


def found(device: PoorDevice, *shelf: ShelfCell) -> Recell:
    return find_stand_ins(device, shelf, RULES)


def why_not(device: PoorDevice, cell: ShelfCell) -> str | None:
    told = found(device, cell)
    return None if told.stand_ins else say(told.left_out[0][0])


def test_the_longest_run_comes_first_with_how_many_times_as_long_and_hours() -> None:
    told = found(ROUND, CELL, replace(CELL, number="C2", capacity_mah=2500))
    assert [(each.cell.number, each.times_as_long, each.hours) for each in told.stand_ins] == [
        ("C2", 2.5, 25), ("C1", 2.0, 20),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("device", "cell", "why"),
    [
        (ROUND, replace(CELL, family=Family.IRON_PHOSPHATE), "another chemistry"),
        (ROUND, replace(CELL, full_v=4.15), "another full voltage"),
        (ROUND, replace(CELL, size=read_size("21700")), "does not fit"),
        (ROUND, replace(CELL, size=read_size("14500")), None),
        (replace(ROUND, seat="holder"), replace(CELL, size=read_size("14500")), "does not fit"),
        (FLAT, CELL, "does not fit"),
        (FLAT, replace(CELL, size=read_size("503048")), None),
        (FLAT, replace(CELL, size=read_size("653048")), "does not fit"),
        (replace(ROUND, peak_ma=2000), CELL, None),
        (replace(ROUND, peak_ma=2100), CELL, "gives less than it takes"),
        (replace(ROUND, counts_on_protection=True), CELL, "no protection of its own, on which the device counts"),
        (replace(ROUND, counts_on_protection=True), replace(CELL, has_protection=True), None),
    ],
)
def test_a_cell_fits_or_it_is_said_why_not(device: PoorDevice, cell: ShelfCell, why: str | None) -> None:
    assert why_not(device, cell) == why


@pytest.mark.parametrize(
    ("ohm", "charge_c", "words"),
    [
        # 1200 V / 1200 Ohm is 1 A: 0.5 C of 2000 mAh; K / 1 A is 1200 Ohm.
        (1200, 0.5, None),
        (1000, 0.6, "change its resistor to 1200"),
        (10_000, 0.06, "at 0.06"),
    ],
)
def test_which_resistor_the_charger_wants_then(ohm: float, charge_c: float, words: str | None) -> None:
    (told,) = found(replace(ROUND, charger_k_v=1200, charger_ohm=ohm), CELL).stand_ins
    assert (told.charge_c, told.resistor_ohm) == pytest.approx((charge_c, 1200))
    assert [words in say(remark).replace("\u00a0", " ") for remark in told.remarks if words] == (
        [True] if words else []
    )


def test_what_must_not_be_done_stands_with_it() -> None:
    def never(device: PoorDevice) -> str:
        return " ".join(say(each) for each in found(device).never)

    assert "Never press it in" in never(FLAT)
    assert "Never press it in" not in never(ROUND)
    assert "temperature sensor" in never(replace(ROUND, has_sensor=True))
    assert "Nobody knows its charge current" in never(ROUND)


def test_nothing_goes_into_the_place_of_a_primary_cell_and_nothing_is_held_against_nothing() -> None:
    with pytest.raises(DangerError):
        found(replace(ROUND, family=Family.PRIMARY))
    for figure in ("held_mah", "charger_ohm"):
        with pytest.raises(BadInputError) as refused:
            found(replace(ROUND, charger_k_v=1200, **{figure: 0}))  # type: ignore[arg-type]
        assert refused.value.field == figure


@pytest.mark.parametrize(
    ("what", "count", "window", "best", "words"),
    [
        # Three alkaline cells: 2.7 to 4.8 V hold one of ours whole.
        ("alkaline", 3, (2.7, 4.8), (Family.LAYERED_OXIDE, 1, 1.0), "never mix both"),
        # Six nickel cells: 6.0 to 8.7 V; two of ours are empty at 6.0 and full at 8.4 V.
        ("nimh", 6, (6.0, 8.7), (Family.LAYERED_OXIDE, 2, 1.0), "1.45"),
        # Six lead cells: 10.5 to 12.9 V; three of ours stand above 3.5 V each for all but 0.15 of their charge.
        ("lead-acid", 6, (10.5, 12.9), (Family.LAYERED_OXIDE, 3, 0.85), "boost overcharges"),
    ],
)
def test_windows_of_what_is_replaced_beside_ours(
    what: str, count: int, window: tuple[float, float], best: tuple[Family, int, float], words: str
) -> None:
    told = in_the_place_of(what, count, RULES)  # type: ignore[arg-type]
    assert (told.empty_v, told.full_v) == pytest.approx(window)
    first = told.beside[0]
    assert (first.family, first.series) == best[:2]
    assert first.used_share == pytest.approx(best[2], abs=0.03)
    assert words in say(told.never[0]).replace("\u00a0", " ")
