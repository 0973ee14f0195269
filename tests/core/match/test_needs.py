"""From a need to packs that would do, worked out by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError, DangerError
from zembric.core.house.limits import Family
from zembric.core.identify.sizes import read_size
from zembric.core.match.needs import (
    Design,
    Need,
    ShelfKind,
    behind_converter,
    fits,
    propose_designs,
    voltages_of_replaced,
)
from zembric.wording import say

#: 2000 mAh each, 2 A at most.
CYLINDERS = ShelfKind(Family.LAYERED_OXIDE, read_size("18650"), 2000, 2.0, 40)
FLAT = ShelfKind(Family.LAYERED_OXIDE, read_size("603048"), 900, 0.9, 3)
PHOSPHATE = ShelfKind(Family.IRON_PHOSPHATE, read_size("26650"), 2500, 2.5, 12)
#: Runs from 5 to 9 V and takes 0.6 A.
DEVICE = Need(5, 9, "current", 0.6, 5)


def only(need: Need, kind: ShelfKind = CYLINDERS) -> Design:
    (design,) = propose_designs(need, [kind], RULES).designs
    return design


def told(need: Need) -> str:
    return " ".join(say(remark) for remark in only(need).remarks).replace("\u00a0", " ")


def why_not(need: Need, kind: ShelfKind = CYLINDERS) -> str:
    found = propose_designs(need, [kind], RULES)
    assert not found.designs
    return say(found.not_proposed[0].why)


@pytest.mark.parametrize("device", ["medical", "vehicle", "e-bike", "flying", "mains"])
def test_nothing_is_built_for_what_is_turned_away(device: str) -> None:
    with pytest.raises(DangerError, match="nothing is built for it here") as refused:
        propose_designs(replace(DEVICE, device=device), [CYLINDERS], RULES)
    assert refused.value.field == "device"


def test_volts_come_from_the_series_and_hours_from_the_parallel() -> None:
    """2 x 4.20 V is the most below 9 V; 3 Ah of 0.6 A for 5 h want two of 2 Ah, which then last 6.7 h."""
    design = only(DEVICE)
    assert (design.series, design.parallel, design.full_v, design.empty_v) == (2, 2, 8.4, 6.0)
    assert (design.cell_a, round(design.hours, 2), design.used_pct) == (0.3, 6.67, 100)
    assert design.energy_wh == pytest.approx(4 * 2 * 3.6)
    assert design.enough_mah == pytest.approx(3000)


@pytest.mark.parametrize(
    ("need", "parallel"),
    [
        (replace(DEVICE, load_kind="power", load=4.4), 2),  # about 7.5 V in the mean: 0.59 A
        (replace(DEVICE, load_kind="resistor", load=12.5), 2),  # 7.5 V / 12.5 Ohm
        (replace(DEVICE, load=5.0, hours=0.1), 3),  # each carries 2 A
        (replace(DEVICE, least_v=7.4), 3),  # stops at 3.70 V a cell, half full: 3 Ah of 1 Ah each
    ],
)
def test_the_parallel_cells_follow_from_the_load(need: Need, parallel: int) -> None:
    assert only(need).parallel == parallel


@pytest.mark.parametrize(
    ("need", "kind", "why"),
    [
        (replace(DEVICE, least_v=7.5, most_v=8.3), CYLINDERS, "more than half still inside"),
        (replace(DEVICE, least_v=2, most_v=4), CYLINDERS, "One is full at 4.20\u00a0V"),
        (replace(DEVICE, hours=200), CYLINDERS, "2S"),
        (DEVICE, FLAT, "the shelf has 3"),
        (Need(40, 58, "power", 400, 2), replace(CYLINDERS, count=500), "more than volunteers may build"),
    ],
)
def test_a_kind_that_will_not_do_says_why(need: Need, kind: ShelfKind, why: str) -> None:
    assert why.lower() in why_not(need, kind).lower()


def test_of_several_kinds_those_that_fit_and_take_few_cells_come_first() -> None:
    small = replace(DEVICE, load=0.2, hours=3, room_mm=(70.0, 40.0, 20.0))
    found = propose_designs(small, [PHOSPHATE, FLAT, CYLINDERS], RULES)
    assert [design.kind for design in found.designs] == [FLAT, CYLINDERS, PHOSPHATE]
    assert [design.fits for design in found.designs] == [True, True, False]


def test_two_cylinders_side_by_side_want_their_wraps_too() -> None:
    size = read_size("18650")
    assert fits(size, 2, (66, 38, 19), RULES)
    assert not fits(size, 2, (66, 37, 19), RULES)
    assert fits(size, 2, (19, 66, 38), RULES)
    assert not fits(size, 3, (66, 38, 19), RULES)


def test_what_stands_beside_a_design_warns_of_the_wrong_charger_and_of_what_a_coordinator_decides() -> None:
    remarks = told(replace(DEVICE, charger_v=12.6))
    assert "12.60 V; 2 in series want 8.40 V" in remarks
    assert "coordinator" not in remarks
    assert "charger" not in told(replace(DEVICE, charger_v=8.4))
    assert "coordinator" in told(Need(20, 34, "power", 5, 4))


def test_what_is_replaced_tells_the_voltages() -> None:
    assert voltages_of_replaced("alkaline", 4) == pytest.approx((3.6, 6.4))
    assert voltages_of_replaced("lead-acid", 6) == pytest.approx((10.5, 12.9))
    with pytest.raises(BadInputError, match="1 to 40"):
        voltages_of_replaced("nimh", 0)


@pytest.mark.parametrize(
    ("need", "error"),
    [
        (replace(DEVICE, load=0), BadInputError),
        (replace(DEVICE, hours=float("inf")), BadInputError),
        (replace(DEVICE, most_v=4), BadInputError),
        (Need(65, 90, "power", 5, 1), DangerError),
    ],
)
def test_needs_that_cannot_be_or_must_not_be_are_refused(need: Need, error: type[Exception]) -> None:
    with pytest.raises(error):
        propose_designs(need, [CYLINDERS], RULES)


def test_behind_a_step_up_the_cells_give_its_output_over_its_efficiency() -> None:
    """5 V x 1 A = 5 W out of 0.88: 5.68 W in, 1.89 A at 3.00 V, where it stops; 2 A each is enough for one, 4 h for more."""
    need = behind_converter(Need(0, 0, "current", 1.0, 4), "step-up", 5.0, RULES)
    design = only(need)
    assert (need.load_kind, round(need.load, 2), need.least_v, need.most_v) == ("power", 5.68, 3.0, 5.0)
    assert (design.series, design.parallel) == (1, 4)
    assert design.cell_a == pytest.approx(5 / 0.88 / 3.0 / 4)
    assert say(design.remarks[0]).replace("\u00a0", " ").startswith("5 V x 1 A at the output / 0.88 = 5.68 W")


def test_behind_a_step_down_the_fewest_cells_that_do_are_taken() -> None:
    """10 W for 2 h at 0.9 are 22.2 Wh: three cells of 2 Ah and 3.74 V in the mean; two in series would want four."""
    design = only(behind_converter(Need(0, 0, "power", 10.0, 2), "step-down", 5.0, RULES))
    assert (design.series, design.parallel) == (3, 1)


@pytest.mark.parametrize(
    ("converter", "least_v", "most_v", "field"), [("step-up", 6.0, 9.0, "least_v"), ("step-down", 3.0, 4.5, "most_v")]
)
def test_a_converter_the_wrong_way_round_is_asked_about(
    converter: str, least_v: float, most_v: float, field: str
) -> None:
    with pytest.raises(BadInputError, match="Is it a step-") as refused:
        behind_converter(Need(least_v, most_v, "power", 5, 1), converter, 5.0, RULES, input_known=True)  # type: ignore[arg-type]
    assert refused.value.field == field


def test_one_group_wants_a_low_cut_off_too() -> None:
    assert "low cut-off" in told(Need(3.0, 4.3, "current", 0.3, 2))
