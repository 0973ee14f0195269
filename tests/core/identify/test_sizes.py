"""What prints on cells mean, and which claims can be."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support.stories import RULES
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family
from zembric.core.identify.claims import check_claim
from zembric.core.identify.sizes import measured_outline, nearest_usual, primary_suspicion, read_print, read_size
from zembric.wording import say

OXIDE, LFP, LTO, PRIMARY = Family.LAYERED_OXIDE, Family.IRON_PHOSPHATE, Family.TITANATE, Family.PRIMARY

# print: readings (diameter, length) or (thickness, width, length) in mm, family, rechargeable
PRINTS: dict[str, tuple[list[tuple[float, ...]], Family | None, bool | None]] = {
    # cylinders
    "18650": ([(18, 65)], None, None), "21700": ([(21, 70)], None, None), "26650": ([(26, 65)], None, None),
    "10440": ([(10, 44)], None, None), "13400": ([(13, 40)], None, None), "14500": ([(14, 50)], None, None),
    "16340": ([(16, 34)], None, None), "32700": ([(32, 70)], None, None), "20700": ([(20, 70)], None, None),
    "2170": ([(21, 70)], None, None), "1865": ([(18, 65)], None, None), "4680": ([(46, 80)], None, None),
    # flat cells
    "603048": ([(6, 30, 48)], None, None), "402025": ([(4, 20, 25)], None, None), "383450": ([(3.8, 34, 50)], None, None),
    "502030": ([(5, 20, 30)], None, None), "103450": ([(10, 34, 50)], None, None), "103040": ([(10, 30, 40)], None, None),
    "143450": ([(14, 34, 50)], None, None), "153450": ([(1.5, 34, 50)], None, None), "753048": ([(7.5, 30, 48)], None, None),
    # hundred millimetres and more
    "9070120": ([(9, 70, 120)], None, None), "3590100": ([(3.5, 90, 100)], None, None), "3512095": ([(3.5, 120, 95)], None, None),
    "5010099": ([(5, 100, 99)], None, None), "30100200": ([(3, 100, 200)], None, None), "60140150": ([(6, 140, 150)], None, None),
    # designations
    "INR18650": ([(18, 65)], OXIDE, True), "ICR18650": ([(18, 65)], OXIDE, True), "IMR18350": ([(18, 35)], OXIDE, True),
    "IFR26650": ([(26, 65)], LFP, True), "ITR18650": ([(18, 65)], LTO, True), "IXR18650": ([(18, 65)], None, True),
    "INR18650-24X": ([(18, 65)], OXIDE, True), "inr 18650": ([(18, 65)], OXIDE, True), " Inr21700-x9 ": ([(21, 70)], OXIDE, True),
    "INR19/66": ([(19, 66)], OXIDE, True), "ICP5/34/50": ([(5, 34, 50)], OXIDE, True), "1ICP5/34/50": ([(5, 34, 50)], OXIDE, True),
    "IFP20/100/140": ([(20, 100, 140)], LFP, True), "ICP103450": ([(10, 34, 50)], OXIDE, True),
    "INP603048": ([(6, 30, 48)], OXIDE, True), "2INR18650": ([(18, 65)], OXIDE, True),
    # primary
    "CR2032": ([(20, 3.2)], PRIMARY, False), "BR1225": ([(12, 2.5)], PRIMARY, False), "CR2450": ([(24, 5)], PRIMARY, False),
    "ER14505": ([(14, 50.5)], PRIMARY, False), "CR17345": ([(17, 34.5)], PRIMARY, False), "er26500": ([(26, 50)], PRIMARY, False),
    # what follows the size, and spaces
    "18650B": ([(18, 65)], None, None), "18650 2600mAh": ([(18, 65)], None, None), "60 30 48": ([(6, 30, 48)], None, None),
    "603048-1S": ([(6, 30, 48)], None, None), "18650 3.7V": ([(18, 65)], None, None), "186503.7V": ([(18, 65)], None, None),
    "3.7V 500mAh 603048": ([(6, 30, 48)], None, None), "6030483.7V": ([(6, 30, 48)], None, None),
    # a model's own letters, cameras' cells, round sizes with a name, long cylinders
    "XYZ18650D": ([(18, 65)], None, None), "xy-21700-4": ([(21, 70)], None, None), "CR123A": ([(17, 34.5)], PRIMARY, False),
    "CR 2": ([(15.6, 27)], PRIMARY, False), "sub-C": ([(23, 43)], None, None), "AA": ([(14.5, 50.5)], None, None),
    "33140": ([(33, 140)], None, None), "38120": ([(38, 120)], None, None), "26350": ([(26, 35)], None, None),
}  # fmt: skip
#: Outlines by caliper, as they are typed, and the code they are kept by.
BY_CALIPER = {
    "13.2 x 35.1": "13.2 x 35.1", "13,2x35,1 mm": "13.2 x 35.1", "4.1 X 20 X 30.5": "4.1 x 20 x 30.5", "24 × 30": "24 x 30",
}  # fmt: skip
NONSENSE = (
    "", " ", "hello", "123", "1450", "0000", "00000", "000000", "990812", "90120070", "9999999", "LIR2032",
    "INP18650", "ICP19/66", "INR5/34/50", "5/34/50/60", "18650" * 5, "６０３０４８", "IN", "-18650",
)  # fmt: skip


@pytest.mark.parametrize("printed", PRINTS)
def test_a_print_is_read_as_it_is_meant(printed: str) -> None:
    readings, family, rechargeable = PRINTS[printed]
    found = read_print(printed)
    outlines = [
        (size.width_mm, size.length_mm)
        if size.thickness_mm is None
        else (size.thickness_mm, size.width_mm, size.length_mm)
        for size in found.readings
    ]
    assert outlines == [pytest.approx(outline) for outline in readings]
    assert (found.family, found.rechargeable) == (family, rechargeable)
    assert found.ambiguous == (len(found.code) in (7, 8) and "/" not in found.code)


@pytest.mark.parametrize("printed", NONSENSE)
def test_nonsense_is_refused_with_what_would_be_right(printed: str) -> None:
    with pytest.raises(BadInputError, match="18650: 18 mm by"):
        read_print(printed)


def test_all_possible_readings_are_listed_the_likeliest_first() -> None:
    found = read_print("5010099")
    assert [(size.width_mm, size.length_mm) for size in found.readings] == [(100, 99)]
    both = read_print("3010120")
    assert [(size.width_mm, size.length_mm) for size in both.readings] == [(10, 120), (101, 20)]


def test_an_ambiguous_print_asks_for_a_ruler() -> None:
    with pytest.raises(BadInputError, match=r"10 by 120 mm or 3 by 101 by 20 mm.*ruler"):
        read_size("3010120")


def test_a_count_in_front_is_dropped_with_a_remark() -> None:
    assert "count 2" in say(read_print("2INR18650").remarks[0])
    assert read_print("INR18650").remarks == ()


@pytest.mark.parametrize("printed", ["14500", "XY16340", "AA", "C", "CR123A", "ER14505", "CR2032"])
def test_what_may_be_a_primary_cell_says_never_charge(printed: str) -> None:
    assert "never charge" in " ".join(say(each) for each in read_print(printed).remarks).lower()


@given(st.text(max_size=30))
def test_whatever_is_typed_is_read_or_refused(printed: str) -> None:
    try:
        found = read_print(printed)
    except BadInputError:
        return
    assert found.readings
    assert all(size.volume_cm3 > 0 for size in found.readings)


@pytest.mark.parametrize(
    ("code", "family", "claim_mah", "verdict"),
    [
        ("18650", None, 3600, "believable"),
        ("18650", None, 3800, "doubtful"),
        ("18650", None, 5000, "impossible"),
        ("603048", None, 1559, "believable"),
        ("603048", None, 1561, "doubtful"),
        ("603048", None, 1801, "impossible"),
        ("18650", Family.IRON_PHOSPHATE, 1800, "believable"),
        ("18650", Family.IRON_PHOSPHATE, 2100, "impossible"),
    ],
)
def test_a_claim_is_believed_only_if_it_fits(code: str, family: Family | None, claim_mah: float, verdict: str) -> None:
    check = check_claim(read_size(code), family, claim_mah, RULES)
    assert check is not None
    assert check.verdict == verdict


def test_a_small_flat_cell_loses_room_gradually() -> None:
    # 402025 holds 2.0 cm3: 450 Wh/L; a 4 cm3 cell lies half way to 650 Wh/L.
    small, middle = check_claim(read_size("402025"), None, 1, RULES), check_claim(read_size("502040"), None, 1, RULES)
    assert small is not None
    assert middle is not None
    assert small.doubtful_above_mah == pytest.approx(450 * 2.0 / 3.6)
    assert middle.doubtful_above_mah == pytest.approx(550 * 4.0 / 3.6)


def test_a_claim_on_a_primary_cell_is_not_checked() -> None:
    assert check_claim(read_size("14505"), Family.PRIMARY, 2400, RULES) is None


@pytest.mark.parametrize(
    ("mass_g", "doubtful_mah", "impossible_mah"),
    [
        (45, 275 * 45 / 3.6, 300 * 45 / 3.6),  # a usual 18650: mass decides
        (30, 275 * 30 / 3.6, 300 * 30 / 3.6),  # filled with something light
        (80, 800 * 16.5405 / 3.6, 880 * 16.5405 / 3.6),  # heavier than can be: volume decides
    ],
)
def test_of_volume_and_mass_the_lower_limit_counts(mass_g: float, doubtful_mah: float, impossible_mah: float) -> None:
    check = check_claim(read_size("18650"), None, 2600, RULES, mass_g)
    assert check is not None
    assert check.doubtful_above_mah == pytest.approx(doubtful_mah, rel=1e-4)
    assert check.impossible_above_mah == pytest.approx(impossible_mah, rel=1e-4)


@pytest.mark.parametrize(
    ("width_mm", "length_mm", "thickness_mm", "field"),
    [
        (0.1, 65, None, "width_mm"),
        (18, 5000, None, "length_mm"),
        (30, 48, 0.1, "thickness_mm"),
        (30, 48, 40, "thickness_mm"),
        (30, 20, 25, "thickness_mm"),
    ],
)
def test_an_outline_that_no_cell_has_is_refused_at_its_field(
    width_mm: float, length_mm: float, thickness_mm: float | None, field: str
) -> None:
    with pytest.raises(BadInputError) as refused:
        measured_outline(width_mm, length_mm, thickness_mm)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("code", "is_suspect"), [("14505", True), ("14500", True), ("18650", False), ("603048", False)]
)
def test_sizes_in_which_primary_cells_are_common_are_pointed_out(code: str, is_suspect: bool) -> None:
    assert (primary_suspicion(code) is not None) == is_suspect


@pytest.mark.parametrize(
    ("family", "claim_mah", "verdict"),
    [
        (Family.LAYERED_OXIDE, 3500, "believable"),
        (Family.LAYERED_OXIDE, 9900, "impossible"),
        (Family.IRON_PHOSPHATE, 1800, "believable"),
        (Family.IRON_PHOSPHATE, 3500, "impossible"),
        (Family.TITANATE, 1000, "believable"),
        (Family.TITANATE, 3500, "impossible"),
    ],
)
def test_what_fits_into_an_18650_depends_on_its_family(family: Family, claim_mah: float, verdict: str) -> None:
    check = check_claim(read_size("18650"), family, claim_mah, RULES)
    assert check
    assert check.verdict == verdict


def test_the_arithmetic_of_a_claim_can_be_followed_by_hand() -> None:
    check = check_claim(read_size("18650"), Family.LAYERED_OXIDE, 9900, RULES)
    assert check
    for part in ("16.5", "cm", "13.2\u00a0Wh", "3676\u00a0mAh", "4043\u00a0mAh"):
        assert part in say(check.arithmetic)


@pytest.mark.parametrize("typed", BY_CALIPER)
def test_an_outline_by_caliper_is_a_size_of_its_own(typed: str) -> None:
    assert read_size(typed).code == BY_CALIPER[typed] == read_size(BY_CALIPER[typed]).code


def test_an_outline_laid_down_the_long_way_is_asked_about() -> None:
    assert [size.code for size in read_print("35.1 x 13.2").readings] == ["13.2 x 35.1", "35.1 x 13.2"]


def test_a_usual_size_is_offered_only_where_it_is_near() -> None:
    named = {
        code: nearest_usual(read_size(code), [], RULES)
        for code in ("13.2 x 35.1", "18.4 x 65.2", "15 x 41", "4 x 20 x 30")
    }
    assert {code: size and size.code for code, size in named.items()} == {
        "13.2 x 35.1": "13350", "18.4 x 65.2": "18650", "15 x 41": None, "4 x 20 x 30": None,
    }  # fmt: skip
