"""What a person typed: read it, refuse what cannot be, ask about what is odd, offer what was probably meant."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError, OddInputError
from zembric.core.house import limits
from zembric.core.identify.claims import most_mah
from zembric.core.said import Amount, plain, said, volts

if TYPE_CHECKING:
    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Size

Quantity = Literal[
    "voltage",
    "capacity",
    "resistance",
    "current",
    "mass",
    "length",
    "temperature",
    "minutes",
    "power",
    "resistor",
    "hours",
    "amperes",
    "energy",
]
_UNIT: dict[Quantity, str] = {
    "voltage": "V", "capacity": "mAh", "resistance": "mOhm", "current": "mA", "mass": "g", "length": "mm",
    "temperature": "°C", "minutes": "min", "power": "W", "resistor": "Ω", "hours": "h",
    "amperes": "A", "energy": "Wh",
}  # fmt: skip
_EXAMPLE: dict[Quantity, str] = {
    "voltage": "3.71", "capacity": "2310", "resistance": "48", "current": "500", "mass": "44.5", "length": "65.2",
    "temperature": "21.5", "minutes": "20", "power": "3", "resistor": "8.2", "hours": "4",
    "amperes": "1.2", "energy": "37",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class KnownOfCell:
    """What an entry is held against; None where nothing is known."""

    resting_v: float | None = None  # the last one, if nothing was charged, discharged or recovered since
    capacity_mah: float | None = None
    rated_capacity_mah: float | None = None
    size: Size | None = None
    family: Family | None = None


def read_number(text: str, quantity: Quantity, field: str) -> float:
    """A number as people type it: decimal comma or point, spaces between thousands, the unit may follow.

    Raises:
        BadInputError: it is not one number, not finite, or it is ambiguous (1.234,5).
    """
    unit, example = _UNIT[quantity], _EXAMPLE[quantity]
    compact = re.sub(r"[\s\u00a0\u202f]", "", text)
    compact = re.sub(rf"({unit}|m[ΩΩ])$", "", compact, flags=re.IGNORECASE).replace("\u2212", "-")
    if not compact:
        raise BadInputError(said("type-number-e-g", example=example), field=field)
    if not re.fullmatch(r"[+-]?(\d{1,9}([.,]\d{0,6})?|[.,]\d{1,6})", compact):
        raise BadInputError(said("is-not-one-number-type-it", strip=text.strip()[:40], example=example), field=field)
    value = float(compact.replace(",", "."))
    if not math.isfinite(value):
        raise BadInputError(said("is-not-number", strip=text.strip()[:40], example=example), field=field)
    return value


def read_degrees(text: str | None, field: str) -> float | None:
    """The temperature [°C] of a cell or a room, as typed; None where nothing was.

    Raises:
        BadInputError: not a number, or no temperature that anybody works in.
    """
    if text is None or not text.strip():
        return None
    degrees = read_number(text, "temperature", field)
    least, most = limits.BENCH_LEAST_DEGC.value, limits.BENCH_MOST_DEGC.value
    if not least <= degrees <= most:
        raise BadInputError(
            said("c-cannot-be-read-at-bench", degrees=plain(degrees), least=plain(least), most=plain(most)), field=field
        )
    return degrees


def read_minutes(text: str | None, field: str) -> float | None:
    """How long something took [min], as typed; None where nothing was.

    Raises:
        BadInputError: not a number, or not above zero.
    """
    if text is None or not text.strip():
        return None
    minutes = read_number(text, "minutes", field)
    if minutes <= 0:
        raise BadInputError(said("is-no-time-charge-takes", minutes=Amount(minutes, "min")), field=field)
    return minutes


def check_voltage(value_v: float, known: KnownOfCell, rules: HouseRules) -> None:
    """Refuses a resting voltage that no cell has, asks about one that changed without a cause.

    Raises:
        BadInputError: negative or above what a lithium cell can rest at; offers the value with its point in place.
        OddInputError: far from the last one although nothing was charged or discharged.
    """
    most = limits.CELL_MOST_V.value
    if value_v < 0:
        raise BadInputError(
            said("leads-are-swapped-or-can", value=volts(value_v)),
            code="negative-voltage",
            field="value",
        )
    if value_v > most:
        meant = _with_point_in_place(value_v, 1.0, 4.5, digits=2)
        wrong = said("voltage-cannot-be", value=plain(value_v, "V"), most=plain(most, "V"))
        if meant:
            wrong = said("voltage-cannot-be-was-it", value=plain(value_v, "V"), most=plain(most, "V"), meant=meant)
        raise BadInputError(wrong, field="value", suggestion=meant)
    before = known.resting_v
    if before is not None and abs(value_v - before) > rules.value(limits.ODD_CHANGE_V):
        raise OddInputError(
            said("after-and-nothing-was-charged", value=volts(value_v), before=volts(before)),
            field="value",
        )


def check_capacity(value_mah: float, known: KnownOfCell, rules: HouseRules) -> None:
    """Refuses a capacity that cannot fit into the cell, asks about one far from what is known.

    Raises:
        BadInputError: not positive, or above what the size can hold; offers mAh for a value in Ah.
        OddInputError: above its rated value, or far from its last measured one.
    """
    if value_mah <= 0:
        raise BadInputError(said("capacity-is-above-zero-e-g"), field="value")
    if value_mah < 10 and not float(value_mah).is_integer():
        in_mah = f"{value_mah * 1000:.0f}"
        raise BadInputError(
            said("mah-is-next-to-nothing", value=plain(value_mah), meant=in_mah), field="value", suggestion=in_mah
        )
    fits_mah = most_mah(known.size, known.family, rules) if known.size else None
    at_most_mah = fits_mah or limits.CELL_MOST_MAH.value
    if value_mah > at_most_mah:
        meant = _with_point_in_place(value_mah, at_most_mah / 20, at_most_mah, digits=0)
        value, most = Amount(value_mah, "mAh"), Amount(at_most_mah, "mAh")
        wrong = said("capacity-cannot-be", value=value, most=most)
        if meant:
            wrong = said("capacity-cannot-be-was-it", value=value, most=most, meant=meant)
        raise BadInputError(wrong, field="value", suggestion=meant)
    if (
        known.rated_capacity_mah
        and value_mah > (1 + rules.value(limits.ODD_OVER_RATED_PCT) / 100) * known.rated_capacity_mah
    ):
        raise OddInputError(
            said(
                "is-more-than-it-was-rated",
                value=Amount(value_mah, "mAh"),
                rated_capacity=Amount(known.rated_capacity_mah, "mAh"),
            ),
            field="value",
        )
    change_pct = 100 * abs(value_mah / known.capacity_mah - 1) if known.capacity_mah else 0.0
    if known.capacity_mah and change_pct > rules.value(limits.ODD_CHANGE_PCT):
        raise OddInputError(
            said("after-is-it-right-cell", value=Amount(value_mah, "mAh"), capacity=Amount(known.capacity_mah, "mAh")),
            field="value",
        )


def check_resistance(value_mohm: float, known: KnownOfCell, rules: HouseRules) -> None:
    """Refuses a resistance that no meter shows, asks about a very high one.

    Raises:
        BadInputError: not positive, beyond any cell, or so low that the leads touched (`leads-shorted`); offers mΩ for a
            value in Ohm.
        OddInputError: so high that a bad contact is likelier.
    """
    if value_mohm <= 0:
        raise BadInputError(said("resistance-is-above-zero-e-g"), field="value")
    if value_mohm < 1:
        meant = f"{value_mohm * 1000:.0f}"
        raise BadInputError(
            said("m-is-less-than-any-cell", value=plain(value_mohm), meant=meant), field="value", suggestion=meant
        )
    refuse_shorted(value_mohm, known.size, known.family, rules)
    if value_mohm > limits.CELL_MOST_MOHM.value:
        raise BadInputError(
            said("is-no-cells-resistance", value=Amount(value_mohm, "mΩ")),
            field="value",
        )
    if value_mohm > rules.value(limits.ODD_MOHM):
        raise OddInputError(said("is-very-high", value=Amount(value_mohm, "mΩ")), field="value")


def refuse_shorted(value_mohm: float, size: Size | None, family: Family | None, rules: HouseRules) -> None:
    """Refuses a resistance that nothing of this size can have.

    Raises:
        BadInputError: the leads touched each other, not the cell (`leads-shorted`).
    """
    fits_mah = most_mah(size, family, rules) if size else None
    if fits_mah is None:
        return
    least_mohm = 1e6 * limits.SHORTED_OHM_AH.value / fits_mah
    if value_mohm < least_mohm - 1e-9:
        raise BadInputError(
            said("is-less-than-any-cell", value=Amount(value_mohm, "mΩ", 1), least=Amount(least_mohm, "mΩ", 1)),
            code="leads-shorted",
            field="value",
        )


def _with_point_in_place(value: float, least: float, most: float, digits: int) -> str | None:
    """The one value between two bounds that has the same digits: 371 as a voltage is 3.71."""
    for shift in (10, 100, 1000):
        if least <= value / shift <= most:
            return f"{value / shift:.{digits}f}"
    return None
