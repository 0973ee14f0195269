"""What was typed as a reading becomes an entry: read, checked against what is known, with its uncertainty."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, Literal, cast, get_args

from zembric.core.errors import BadInputError, OddInputError
from zembric.core.grade.assessment import size_of
from zembric.core.house import limits
from zembric.core.measure.entry_checks import (
    KnownOfCell,
    check_capacity,
    check_resistance,
    check_voltage,
    read_degrees,
    read_number,
)
from zembric.core.measure.typed_amounts import read_amount
from zembric.core.measure.uncertainty import capacity_u_mah, resistance_u_mohm, resolution_u
from zembric.core.said import plain, said, to_json
from zembric.core.story import (
    CapacityMethod,
    ResistanceMethod,
    ResistanceReading,
    RestingVoltage,
    uses,
)
from zembric.core.words import unit_of
from zembric.models import ReadingEntry
from zembric.operations.cells.judged import events_among, facts_of
from zembric.operations.known.entries import entries_of
from zembric.operations.known.instruments import adjust, get_instrument
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import VoltageState, Warmth
    from zembric.models import CellRow
    from zembric.operations.actors import Actor

#: Conditions that belong to the way a figure was measured in, not to its value.
_OF_THE_WAY = ("way", "resolution_v", "load_ohm", "through", "subtract_mohm", "repeats", "cell_degc", "bench_degc")
UNIT_OF = {"voltage": "V", "capacity": "mAh", "resistance": "mOhm"}


@dataclass(frozen=True, slots=True)
class TypedReading:
    """A reading as it was typed. `confirmed`: an odd value was looked at once more and stands."""

    quantity: Literal["voltage", "capacity", "resistance"]
    value: str
    method: str
    confirmed: bool = False
    current_ma: str | None = None
    cut_off_v: str | None = None
    complete: bool = True
    #: None: as a cheap meter's.
    resolution_v: float | None = None
    load_ohm: float | None = None
    #: None: nobody was asked yet, as the cell was not looked up; the likely one is taken.
    state: VoltageState | None = "resting"
    #: What explains a voltage that reads below zero.
    turned: Literal["leads-swapped", "can-is-plus"] | None = None
    #: Number of what it was measured with; None: nobody said.
    instrument: str | None = None
    cell_degc: str | None = None
    bench_degc: str | None = None
    #: How it felt, where no thermometer was at hand.
    warmth: Warmth | None = None
    #: Whether somebody said that it was full before its run; None: nobody said.
    started_full: bool | None = None


def reading_entry(
    session: Session,
    actor: Actor,
    cell: CellRow,
    reading: TypedReading,
    at: datetime,
    *,
    in_place_of: ReadingEntry | None = None,
) -> ReadingEntry:
    """The entry that a typed reading becomes, checked against what is known of the cell; not stored yet.

    `in_place_of`: a mistake that it corrects; it is held against the story without it.

    Raises:
        BadInputError: the value or its conditions cannot be, with the likely value offered.
        OddInputError: the value should be looked at once more and was not confirmed.
    """
    rules = rules_in_force(session)
    amount = read_amount(reading.value, reading.quantity, "value", rules)
    if reading.resolution_v is None:
        reading = replace(reading, resolution_v=rules.value(limits.VOLTAGE_RESOLUTION_V))
    value = -amount.value if reading.turned and amount.value < 0 else amount.value
    instrument = get_instrument(session, reading.instrument) if reading.instrument else None
    if instrument and instrument.resolution_v and reading.quantity == "voltage":
        reading = replace(reading, resolution_v=instrument.resolution_v)
    conditions = _conditions(reading) | _temperatures(reading)
    adjusted = adjust(instrument, reading.quantity, value)
    if adjusted.said is not None:
        worked = said("worked-then", worked=said("worked-typed", value=plain(value)), then=adjusted.said)
        conditions |= {"raw_value": adjusted.raw_value, "worked": to_json(worked)}
    value = adjusted.value
    if amount.half_width:
        conditions |= {"half_width": amount.half_width, "as_typed": reading.value.strip()}
    try:
        _check_value(session, cell, reading, value, in_place_of)
    except OddInputError:
        if not reading.confirmed:
            raise
    if reading.quantity == "voltage":
        conditions["resolution_v"] = max(reading.resolution_v or 0.0, 2 * amount.half_width)
    standard_u = _standard_u(reading, value, amount.half_width, at, rules)
    return ReadingEntry(
        cell_id=cell.id,
        person_id=actor.person_id,
        at=at,
        recorded_at=at,
        quantity=reading.quantity,
        value=value,
        unit=UNIT_OF[reading.quantity],
        method=reading.method,
        conditions=conditions,
        standard_u=standard_u,
        instrument_id=instrument.id if instrument else None,
        correction_id=adjusted.correction_id,
    )


def corrected_entry(
    session: Session, actor: Actor, cell: CellRow, reading: TypedReading, old: ReadingEntry
) -> ReadingEntry:
    """The entry that takes the place of an older one: what belongs to the way it was measured in stays with it.

    Raises: as `reading_entry`.
    """
    entry = reading_entry(session, actor, cell, reading, old.at, in_place_of=old)
    if entry.method != old.method:
        return entry
    entry.conditions = {key: old.conditions[key] for key in _OF_THE_WAY if key in old.conditions} | entry.conditions
    if entry.quantity != "voltage" and "as_typed" not in entry.conditions:
        entry.standard_u = old.standard_u * entry.value / old.value
    return entry


def _check_value(
    session: Session, cell: CellRow, reading: TypedReading, value: float, in_place_of: ReadingEntry | None
) -> None:
    known, rules = known_of(session, cell, in_place_of), rules_in_force(session)
    if reading.quantity == "voltage":
        check_voltage(value, known if reading.state == "resting" else KnownOfCell(), rules)
    elif reading.quantity == "capacity":
        check_capacity(value, known, rules)
    else:
        check_resistance(value, known, rules)


def known_of(session: Session, cell: CellRow, without: ReadingEntry | None = None) -> KnownOfCell:
    """What an entry for a cell is held against; `without`: a mistake that is being corrected."""
    events = events_among([entry for entry in entries_of(session, cell.id) if entry is not without])
    facts = facts_of(cell, cell.model)
    resting_v: float | None = None
    for event in events:
        if isinstance(event, RestingVoltage):
            resting_v = event.value_v
        elif uses(event):
            resting_v = None
    return KnownOfCell(
        resting_v=resting_v,
        capacity_mah=cell.judgement.capacity_mah if cell.judgement else None,
        rated_capacity_mah=cell.rated_capacity_mah,
        size=size_of(facts),
        family=facts.family,
    )


def _conditions(reading: TypedReading) -> dict[str, Any]:
    """The method and what belongs to it, checked."""
    if reading.quantity == "voltage":
        if reading.method != "meter":
            raise BadInputError(said("resting-voltage-is-measured-with-meter"), field="method")
        if reading.resolution_v is None or not 0 < reading.resolution_v <= 0.1:
            raise BadInputError(said("meters-last-digit-lies-between-0"), field="resolution_v")
        turned = {"turned": reading.turned} if reading.turned else {}
        return {"state": reading.state, "resolution_v": reading.resolution_v, **turned}
    if reading.quantity == "capacity":
        if reading.method not in get_args(CapacityMethod):
            raise BadInputError(said("is-not-way-to-measure-capacity", method=reading.method), field="method")
        return {
            "complete": reading.complete,
            **({"started_full": reading.started_full} if reading.started_full is not None else {}),
            "current_ma": _optional(reading.current_ma, "current", "current_ma", 1, 100_000),
            "cut_off_v": _optional(reading.cut_off_v, "voltage", "cut_off_v", 0.5, 4.0),
        }
    if reading.method not in get_args(ResistanceMethod):
        raise BadInputError(said("is-not-way-to-measure-resistance", method=reading.method), field="method")
    return {}


def _temperatures(reading: TypedReading) -> dict[str, Any]:
    return heat_details(reading.cell_degc, reading.bench_degc, reading.warmth)


def heat_details(cell_degc: str | None, bench_degc: str | None, warmth: Warmth | None) -> dict[str, Any]:
    """How warm a cell and its room were, as an entry keeps it; what nobody said is left out.

    Raises:
        BadInputError: no temperature.
    """
    typed = {"cell_degc": cell_degc, "bench_degc": bench_degc}
    read = {key: read_degrees(text, key) for key, text in typed.items()}
    said: dict[str, Any] = {key: degrees for key, degrees in read.items() if degrees is not None}
    return said | ({"warmth": warmth} if warmth else {})


def _optional(
    text: str | None, quantity: Literal["current", "voltage"], field: str, least: float, most: float
) -> float | None:
    if text is None or not text.strip():
        return None
    value = read_number(text, quantity, field)
    if not least <= value <= most:
        unit = unit_of(field)
        raise BadInputError(
            said(
                "cannot-be-between-least-and-most", value=plain(value), unit=unit, least=plain(least), most=plain(most)
            ),
            field=field,
        )
    return value


def _standard_u(reading: TypedReading, value: float, half_width: float, at: datetime, rules: HouseRules) -> float:
    if reading.quantity == "voltage":
        return resolution_u(max(reading.resolution_v or 0.0, 2 * half_width))
    if reading.quantity == "capacity":
        return capacity_u_mah(value, cast("CapacityMethod", reading.method), rules, half_width)
    method = cast("ResistanceMethod", reading.method)
    return resistance_u_mohm(ResistanceReading(at, value, method, half_width_mohm=half_width), rules)
