"""Amounts as people say them."""

from __future__ import annotations

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError
from zembric.core.measure.typed_amounts import Amount, read_amount


@pytest.mark.parametrize(
    ("typed", "value", "half_width"),
    [
        ("2300", 2300, 0),
        ("2300,5", 2300.5, 0),
        ("about 2300", 2300, 115),
        ("ca. 2300", 2300, 115),
        ("~2300", 2300, 115),
        ("around 2300 mAh", 2300, 115),
        ("2200 to 2400", 2300, 100),
        ("2200-2400", 2300, 100),
        ("2200 – 2400", 2300, 100),
        ("2200..2400", 2300, 100),
        ("2300 ± 50", 2300, 50),
        ("2300 +/- 50", 2300, 50),
    ],
)
def test_a_capacity_is_taken_as_it_is_said(typed: str, value: float, half_width: float) -> None:
    amount = read_amount(typed, "capacity", "value", RULES)
    assert (amount.value, amount.half_width) == pytest.approx((value, half_width))


@pytest.mark.parametrize(("typed", "value"), [("-3.7", -3.7), ("−3,7", -3.7), ("3.7 V", 3.7)])
def test_a_minus_before_a_voltage_is_a_sign_and_no_range(typed: str, value: float) -> None:
    assert read_amount(typed, "voltage", "value", RULES) == Amount(value)


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("2400 to 2200", "from the smaller to the larger"),
        ("2300 ± -5", "above zero"),
        ("lots", "lots"),
        ("about", "."),
        ("", "."),
        ("2200 to", "2200 to"),
    ],
)
def test_what_is_no_amount_is_refused_at_its_field(typed: str, says: str) -> None:
    with pytest.raises(BadInputError, match=says) as refused:
        read_amount(typed, "capacity", "value", RULES)
    assert refused.value.field == "value"
