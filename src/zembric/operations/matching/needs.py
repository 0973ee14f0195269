"""What a builder needs against what lies on the shelf."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.grade.assessment import read_size_or_none
from zembric.core.house.limits import NO_SHEET_C, Family
from zembric.core.match.needs import (
    Converter,
    Need,
    Proposals,
    Replaced,
    ShelfKind,
    behind_converter,
    propose_designs,
    voltages_of_replaced,
)
from zembric.core.measure.entry_checks import read_number
from zembric.core.said import said
from zembric.operations.cells.shelf import kinds_on_shelf
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.measure.entry_checks import Quantity
    from zembric.core.run import LoadKind

#: A current is typed in mA, as everywhere at the bench.
QUANTITY_OF_LOAD: Mapping[LoadKind, Quantity] = {"current": "current", "power": "power", "resistor": "resistor"}


@dataclass(frozen=True, slots=True)
class TypedNeed:
    """A need as it was typed. Either the device's voltages or what is replaced and how many of it."""

    least_v: str
    most_v: str
    replaced: Replaced | None
    count: int | None
    load_kind: LoadKind
    load: str
    hours: str
    room_mm: tuple[str, str, str]
    charger_v: str
    device: str | None = None
    #: What stands between pack and device, and the volts behind it; the device's voltages are those of its input then.
    converter: Converter | None = None
    out_v: str = ""


def designs_for(session: Session, typed: TypedNeed, now: datetime) -> Proposals:
    """One to three packs that would do from what lies free on the shelf, and why not others.

    Raises:
        BadInputError: a value that cannot be read, or a need that cannot be.
        DangerError: a device above what volunteers build for.
    """
    rules = rules_in_force(session)
    return propose_designs(_read(typed, rules), _kinds(session, now, rules), rules)


def _read(typed: TypedNeed, rules: HouseRules) -> Need:
    input_known = bool(typed.least_v.strip() or typed.most_v.strip())
    if typed.converter is not None and not input_known:
        least_v = most_v = 0.0  # what its kind usually takes
    elif typed.replaced is not None:
        least_v, most_v = voltages_of_replaced(typed.replaced, typed.count or 0)
    else:
        least_v, most_v = (
            read_number(typed.least_v, "voltage", "least_v"),
            read_number(typed.most_v, "voltage", "most_v"),
        )
    room = [text for text in typed.room_mm if text.strip()]
    if room and len(room) < 3:
        raise BadInputError(said("room-in-case-has-three-measures"), field="room")
    load = read_number(typed.load, QUANTITY_OF_LOAD[typed.load_kind], "load")
    sides = [read_number(text, "length", "room") for text in room]
    need = Need(
        least_v, most_v, typed.load_kind, load / 1000 if typed.load_kind == "current" else load,
        read_number(typed.hours, "hours", "hours"), (sides[0], sides[1], sides[2]) if sides else None,
        read_number(typed.charger_v, "voltage", "charger_v") if typed.charger_v.strip() else None, typed.device,
    )  # fmt: skip
    if typed.converter is None:
        return need
    out_v = read_number(typed.out_v, "voltage", "out_v")
    return behind_converter(need, typed.converter, out_v, rules, input_known=input_known)


def _kinds(session: Session, now: datetime, rules: HouseRules) -> list[ShelfKind]:
    found = []
    for kind in kinds_on_shelf(session, now, ("A", "B")):
        size = read_size_or_none(kind.size_code)
        if size is not None:
            usual_a = rules.value(NO_SHEET_C) * kind.capacity_mah / 1000
            # What none of them has shown is asked of none of them.
            carries_a = min(kind.continuous_a or usual_a, usual_a)
            found.append(ShelfKind(Family(kind.family), size, kind.capacity_mah, carries_a, kind.count))
    return found
