"""Numbers that stand on tape and in codes."""

from __future__ import annotations

from itertools import pairwise

import pytest

from zembric.core.errors import BadInputError
from zembric.core.identify.numbering import code_text, make_number, read_any, read_number


@pytest.mark.parametrize("thing", ["cell", "donor", "pack", "tray", "box"])
def test_a_number_comes_back_from_tape_and_from_its_code(thing: str) -> None:
    for sequence in (10, 104, 999, 123_456):
        number = make_number(thing, sequence)  # type: ignore[arg-type]
        assert read_any(number).thing == thing
        assert read_any(code_text(number)).number == number
        assert read_any(f" {number.lower()[:2]}-{number[2:]} ").number == number


def test_every_wrong_digit_and_every_swap_of_neighbours_is_found() -> None:
    number = make_number("cell", 4711)
    slips = {
        number[:at] + digit + number[at + 1 :] for at in range(len(number)) for digit in "0123456789" if digit != number[at]
    } | {
        number[:at] + number[at + 1] + number[at] + number[at + 2 :]
        for at, (one, next_one) in enumerate(pairwise(number))
        if one != next_one
    }  # fmt: skip
    for slip in slips:
        with pytest.raises(BadInputError, match="last digit does not fit"):
            read_any(slip)


@pytest.mark.parametrize("typed", ["", "x", "C", "1", "A1042", "١٢٣٤", "1042x", "C" * 50, "10420000000000000000"])
def test_what_is_no_number_is_told_how_numbers_look(typed: str) -> None:
    with pytest.raises(BadInputError, match="A cell looks like"):
        read_any(typed)


def test_a_tray_is_no_cell() -> None:
    with pytest.raises(BadInputError, match="not the number of a cell"):
        read_number("cell", make_number("tray", 12))
