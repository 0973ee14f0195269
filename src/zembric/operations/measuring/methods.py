"""Measurements by a method: worked out, adjusted to their instrument, and kept as readings with all that belongs to them."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any

from zembric.core.errors import BadInputError, OddInputError
from zembric.core.grade.assessment import assess
from zembric.core.house.limits import (
    FULL_V,
    NOMINAL_V,
    RESISTANCE_GOOD_OHM_AH,
    VOLTAGE_RESOLUTION_V,
    Family,
)
from zembric.core.identify.families import full_voltage_v
from zembric.core.measure.entry_checks import check_capacity, check_resistance, read_degrees
from zembric.core.measure.method_plans import BelievedCell, Meter, MethodPlan, plan_method
from zembric.core.measure.methods import METHODS, Worked, measure_by
from zembric.core.next_step.planner import believed_capacity_mah, charge_current_ma, run_cut_off_v
from zembric.core.said import Amount, Said, said, to_json
from zembric.models import ReadingEntry
from zembric.operations.bench.entries import keep_reading
from zembric.operations.bench.keeping import cell_at_bench, cell_in_hand, refuse_work_on_hazard
from zembric.operations.bench.readings import UNIT_OF, known_of
from zembric.operations.cells.judged import story_of
from zembric.operations.known.instruments import Adjusted, adjust, get_instrument
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.grade.assessment import Assessment
    from zembric.models import CellRow, Instrument
    from zembric.operations.actors import Actor
    from zembric.operations.bench.keeping import TypedAt


@dataclass(frozen=True, slots=True)
class TypedMeasurement:
    """A measurement as it was typed: which way, its values and the answers to its traps, and with what."""

    method: str
    values: dict[str, str]
    said: dict[str, str]
    instrument: str | None = None
    confirmed: bool = False


@dataclass(frozen=True, slots=True)
class Measured:
    """A worked-out figure and what its instrument made of it."""

    worked: Worked
    adjusted: Adjusted
    instrument: Instrument | None = field(default=None)


def work_out_measurement(session: Session, typed: TypedMeasurement) -> Measured:
    """What a measurement comes to; nothing is kept.

    Raises: as `measure_by` of the core.
    """
    instrument = get_instrument(session, typed.instrument) if typed.instrument else None
    values = dict(typed.values)
    method = METHODS.get(typed.method)
    takes_resolution = method is not None and any(entry.key == "resolution_v" for entry in method.inputs)
    if instrument and instrument.resolution_v and takes_resolution and not values.get("resolution_v", "").strip():
        values["resolution_v"] = f"{instrument.resolution_v:g}"
    worked = measure_by(
        typed.method, values, typed.said, rules_in_force(session), instrument.half_width_pct if instrument else None
    )
    return Measured(worked, adjust(instrument, METHODS[typed.method].quantity, worked.value), instrument)


def keep_measurement(
    session: Session,
    actor: Actor,
    number: str,
    typed: TypedMeasurement,
    now: datetime,
    *,
    typed_at: TypedAt = None,
) -> CellRow:
    """Keeps a measurement as a reading of the cell.

    Raises:
        BadInputError: a value or an answer cannot be.
        OddInputError: the figure should be looked at once more and was not confirmed.
        DangerError: a hazard, or an answer that spoils the figure.
    """
    cell = cell_at_bench(session, number)
    refuse_work_on_hazard(session, cell)
    measured = work_out_measurement(session, typed)
    quantity = METHODS[typed.method].quantity
    try:
        known, rules = known_of(session, cell), rules_in_force(session)
        if quantity == "capacity":
            # A part of a run may be far below what the cell holds.
            check_capacity(
                measured.adjusted.value,
                known if measured.worked.complete else replace(known, capacity_mah=None),
                rules,
            )
        else:
            check_resistance(measured.adjusted.value, known, rules)
    except OddInputError:
        if not typed.confirmed:
            raise
    entry = ReadingEntry(
        quantity=quantity, value=measured.adjusted.value, unit=UNIT_OF[quantity], method=measured.worked.reading_method,
        standard_u=measured.worked.standard_u, conditions=_conditions(typed, measured),
        instrument_id=measured.instrument.id if measured.instrument else None, correction_id=measured.adjusted.correction_id,
    )  # fmt: skip
    return keep_reading(session, actor, cell, entry, now, typed_at=typed_at)


def _conditions(typed: TypedMeasurement, measured: Measured) -> dict[str, Any]:
    worked = measured.worked
    how = worked.worked
    if measured.adjusted.said:
        value = Amount(measured.adjusted.value, "", 1)
        how = said("worked-corrected", worked=how, then=measured.adjusted.said, value=value)
    kept: dict[str, Any] = {key: value for key, value in worked.conditions.items() if value is not None}
    temperatures = {key: read_degrees(typed.values.get(key), key) for key in ("cell_degc", "bench_degc")}
    kept |= {key: degrees for key, degrees in temperatures.items() if degrees is not None}
    kept |= {"way": typed.method, "worked": to_json(how), "notes": [to_json(each) for each in worked.cautions]}
    if measured.adjusted.raw_value is not None:
        kept["raw_value"] = measured.adjusted.raw_value
    if METHODS[typed.method].quantity == "capacity":
        kept |= {
            "complete": worked.complete,
            **_started_full(kept),
            "current_ma": kept.get("current_ma"),
            "cut_off_v": kept.get("cut_off_v"),
        }
    return kept


def _started_full(kept: dict[str, Any]) -> dict[str, bool]:
    """Whether somebody said that it was full before, as the judge asks for it."""
    answer = kept.pop("started_full", None)
    return {} if answer is None else {"started_full": answer == "yes"}


def plan_of_method(session: Session, number: str, method: str, instrument: str | None) -> MethodPlan:
    """What to set for a cell, what it must stand, how long it takes, and whether this meter sees what is wanted.

    Raises:
        BadInputError: a primary cell.
        NotFoundError: no such way, cell or instrument.
    """
    cell = cell_in_hand(session, number)
    used = get_instrument(session, instrument) if instrument else None
    family = Family(cell.family) if cell.family else Family.LAYERED_OXIDE
    if family is Family.PRIMARY:
        raise BadInputError(said("primary-cell-is-not-measured"))
    assessed = assess(story_of(session, cell), rules_in_force(session))
    believed_mah = believed_capacity_mah(assessed)
    good_mohm = 1e6 * assessed.rules.value(RESISTANCE_GOOD_OHM_AH) / believed_mah
    believed = BelievedCell(
        capacity_mah=believed_mah,
        mohm=assessed.resistance.value_mohm if assessed.resistance else good_mohm,
        full_v=full_voltage_v(family, cell.full_v) or FULL_V[family].value,
        nominal_v=NOMINAL_V[family].value,
        charge_ma=charge_current_ma(assessed),
        family=family,
        rules=assessed.rules,
    )
    meter = Meter(
        (used.resolution_v if used else None) or assessed.rules.value(VOLTAGE_RESOLUTION_V),
        used.half_width_pct if used else None,
    )
    plan = plan_method(method, believed, meter)
    assumed = _assumed(cell, believed_mah, assessed)
    return replace(
        plan,
        said=said("plan-assumed", plan=plan.said, assumed=assumed) if assumed else plan.said,
        fills={**plan.fills, "cut_off_v": run_cut_off_v(assessed)},
    )


def _assumed(cell: CellRow, believed_mah: float, assessed: Assessment) -> Said | None:
    """What a plan takes a cell to be where nothing says so."""
    capacity = Amount(believed_mah, "mAh")
    takes_capacity = assessed.capacity is None and not cell.rated_capacity_mah
    if cell.family is None:
        return said("assumed-family-of-capacity", capacity=capacity) if takes_capacity else said("assumed-family")
    return said("assumed-capacity", capacity=capacity) if takes_capacity else None
