"""Amounts as people say them: about 2300, 30 to 35, 2300 ± 50."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.measure.entry_checks import Quantity, read_number
from zembric.core.said import plain, said

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules

_ABOUT = re.compile(r"^\s*(?:about|approx\.?|approximately|around|roughly|circa|ca\.?|c\.|some|~|≈)\s*", re.IGNORECASE)
_RANGE = re.compile(r"^(?P<low>.*?\d\S*?)\s*(?:\bto\b|\.\.+|–|—|(?<=\d)\s*-)\s*(?P<high>\d.*)$", re.IGNORECASE)
_PLUS_MINUS = re.compile(r"^(?P<middle>.+?)\s*(?:±|\+/?-)\s*(?P<half>.+)$")


@dataclass(frozen=True, slots=True)
class Amount:
    """A typed value and half the width of what it may be, in the same unit; 0: as exact as it was typed."""

    value: float
    half_width: float = 0.0


def read_amount(text: str, quantity: Quantity, field: str, rules: HouseRules) -> Amount:
    """Reads a value, an approximate value or a range.

    "about" widens it by a house share, a range gives its middle and half its width.

    Raises:
        BadInputError: it is none of these, or the range runs backwards.
    """
    about = _ABOUT.match(text)
    if about:
        value = read_number(text[about.end() :], quantity, field)
        return Amount(value, abs(value) * rules.value(limits.ABOUT_HALF_WIDTH_PCT) / 100)
    if matched := _PLUS_MINUS.match(text):
        value, half = read_number(matched["middle"], quantity, field), read_number(matched["half"], quantity, field)
        if half < 0:
            raise BadInputError(said("what-stands-behind-is-above-zero"), field=field)
        return Amount(value, half)
    if matched := _RANGE.match(text.strip()):
        low, high = read_number(matched["low"], quantity, field), read_number(matched["high"], quantity, field)
        if low >= high:
            raise BadInputError(
                said("range-goes-from-smaller-to-larger", high=plain(high), low=plain(low)), field=field
            )
        return Amount((low + high) / 2, (high - low) / 2)
    return Amount(read_number(text, quantity, field))
