"""What is typed at the bench: read, refused, asked about, mended; and numbers and sizes."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support.stories import RULES
from zembric.core.errors import BadInputError, OddInputError
from zembric.core.identify.numbering import make_number
from zembric.core.identify.numbering import read_number as read_thing_number
from zembric.core.identify.sizes import read_size
from zembric.core.measure.entry_checks import (
    KnownOfCell,
    check_capacity,
    check_resistance,
    check_voltage,
    read_number,
)


@pytest.mark.parametrize(
    ("text", "value"),
    [("3.71", 3.71), ("3,71", 3.71), (" 3.71 V ", 3.71), (".5", 0.5), ("4", 4.0), ("2 310", 2310.0), ("−0,2", -0.2)],
)
def test_numbers_are_read_as_people_type_them(text: str, value: float) -> None:
    assert read_number(text, "voltage", "value") == value


@pytest.mark.parametrize(
    "text", ["", "  ", "3.7.1", "1,234.5", "three", "nan", "inf", "1e5", "3.71 mAh", "--3", "9" * 40]
)
def test_what_is_not_one_number_is_refused_with_an_example(text: str) -> None:
    with pytest.raises(BadInputError, match=r"3\.71") as refused:
        read_number(text, "voltage", "value")
    assert refused.value.field == "value"


@pytest.mark.parametrize(
    ("check", "suggestion"),
    [
        (lambda: check_voltage(371, KnownOfCell(), RULES), "3.71"),
        (lambda: check_voltage(37.1, KnownOfCell(), RULES), "3.71"),
        (lambda: check_voltage(3710, KnownOfCell(), RULES), "3.71"),
        (lambda: check_voltage(5.2, KnownOfCell(), RULES), None),
        (lambda: check_voltage(-3.7, KnownOfCell(), RULES), None),
        (lambda: check_capacity(2.31, KnownOfCell(), RULES), "2310"),
        (lambda: check_capacity(23100, KnownOfCell(size=read_size("18650")), RULES), "2310"),
        (lambda: check_capacity(0, KnownOfCell(), RULES), None),
        (lambda: check_resistance(0.048, KnownOfCell(), RULES), "48"),
        (lambda: check_resistance(48000, KnownOfCell(), RULES), None),
    ],
)
def test_an_impossible_value_is_refused_and_a_likely_slip_offered_mended(check: Any, suggestion: str | None) -> None:
    with pytest.raises(BadInputError) as refused:
        check()
    assert refused.value.suggestion == suggestion


@pytest.mark.parametrize(
    "check",
    [
        lambda: check_voltage(3.71, KnownOfCell(resting_v=4.10), RULES),
        lambda: check_capacity(2700, KnownOfCell(rated_capacity_mah=2400), RULES),
        lambda: check_capacity(1500, KnownOfCell(capacity_mah=2000), RULES),
        lambda: check_resistance(800, KnownOfCell(), RULES),
    ],
)
def test_an_odd_value_is_asked_about(check: Any) -> None:
    with pytest.raises(OddInputError):
        check()


def test_a_plausible_value_passes_without_a_question() -> None:
    known = KnownOfCell(resting_v=3.75, capacity_mah=2250, rated_capacity_mah=2600, size=read_size("18650"))
    check_voltage(3.71, known, RULES)
    check_capacity(2310, known, RULES)
    check_resistance(48, KnownOfCell(), RULES)


@given(st.integers(10, 99_999), st.integers(0, 4), st.integers(1, 9))
def test_a_wrong_digit_in_a_number_is_always_found(sequence: int, place: int, shift: int) -> None:
    number = make_number("cell", sequence)
    place %= len(number)
    wrong = number[:place] + str((int(number[place]) + shift) % 10) + number[place + 1 :]
    with pytest.raises(BadInputError, match="cannot be right"):
        read_thing_number("cell", wrong)


@given(st.integers(10, 99_999), st.integers(0, 4))
def test_two_swapped_digits_are_always_found(sequence: int, place: int) -> None:
    number = make_number("cell", sequence)
    place %= len(number) - 1
    if number[place] == number[place + 1]:
        return
    with pytest.raises(BadInputError, match="cannot be right"):
        read_thing_number("cell", number[:place] + number[place + 1] + number[place] + number[place + 2 :])


def test_a_number_is_found_however_it_is_written() -> None:
    number = make_number("donor", 12)
    assert read_thing_number("donor", f" d {number[1:3]}-{number[3:]} ") == number
