"""What a log measured becomes readings of a cell."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from zembric.core.errors import BadInputError, ConflictError, OddInputError
from zembric.core.house import limits
from zembric.core.measure.entry_checks import check_capacity, check_resistance
from zembric.core.measure.uncertainty import rectangle_u
from zembric.core.said import Said, plain, said, to_json
from zembric.models import CellRow, LogRow, ReadingEntry
from zembric.operations.bench.entries import keep_charge, keep_reading
from zembric.operations.bench.keeping import cell_at_bench, refuse_work_on_hazard
from zembric.operations.bench.readings import UNIT_OF, known_of
from zembric.operations.known.instruments import Adjusted, adjust
from zembric.operations.known.rules import rules_in_force
from zembric.operations.measuring.log_traces import LogStore, test_of
from zembric.operations.measuring.logs import describe_test, get_log, readings_of

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import CapacityMethod
    from zembric.operations.actors import Actor


def keep_log(
    session: Session,
    store: LogStore,
    actor: Actor,
    log_id: int,
    cell_number: str,
    test: int,
    now: datetime,
    *,
    confirmed: bool = False,
    started_full: bool | None = None,
    only_resistance: bool = False,
    most_degc: float | None = None,
) -> CellRow:
    """What a test measured becomes readings of a cell: the charge before it, its capacity, its resistances.

    A discharge that did not reach a cut-off is kept as unfinished, and never graded; nor is one that did not begin full,
    by the charge in the same log, one that was entered, or because somebody says so (`started_full`; None: nobody was asked).
    `only_resistance`: its loads were pulses, and say nothing of capacity. `most_degc`: how warm the cell got while it was charged.

    Raises:
        ConflictError: it is not read yet, or was kept already.
        OddInputError: the figure should be looked at once more and was not confirmed.
        DangerError: the cell is a hazard.
    """
    cell = cell_at_bench(session, cell_number)
    log = get_log(session, log_id, lock=True)
    refuse_work_on_hazard(session, cell)
    if log.state not in ("read", "asks"):
        raise ConflictError(said("this-log-is-not-read-yet"))
    if any(reading.conditions.get("test") == test for reading in readings_of(session, log)):
        raise ConflictError(said("log-was-kept-already", cell=log.cell.number if log.cell else cell.number))
    measured = _measured(store, log, test)
    has_discharge = measured["discharge_capacity_mah"] is not None
    if not has_discharge and measured["last_charge"] is None and not (only_resistance and measured["resistances"]):
        raise ConflictError(said("there-is-neither-charge-nor-discharge"))
    log.cell_id = cell.id
    rules = rules_in_force(session)
    _keep_charge(session, actor, cell, measured, now, most_degc, before_discharge=True)
    if has_discharge and not only_resistance:
        try:
            if measured["discharge_complete"]:
                check_capacity(measured["discharge_capacity_mah"], known_of(session, cell), rules_in_force(session))
        except OddInputError:
            if not confirmed:
                raise
        keep_reading(session, actor, cell, _capacity_entry(log, test, measured, rules, started_full=started_full), now)
    for found in measured["resistances"] if has_discharge or only_resistance else ():
        try:
            check_resistance(found["mohm"], known_of(session, cell), rules_in_force(session))
        except (OddInputError, BadInputError):
            continue
        keep_reading(session, actor, cell, _resistance_entry(log, test, found, rules), now)
    _keep_charge(session, actor, cell, measured, now, most_degc, before_discharge=False)
    return cell


def _measured(store: LogStore, log: LogRow, test: int) -> Mapping[str, Any]:
    """What the test measured, as it was told when it was read; the rows themselves are not looked at again.

    Raises:
        NotFoundError: the log has no such test.
    """
    told: Mapping[str, Any] | None = log.tests[test] if log.tests and 0 <= test < len(log.tests) else None
    # A log that was read before the last charge was told is looked at once more.
    return told if told is not None and "last_charge" in told else describe_test(test_of(store, log, test))


def _keep_charge(
    session: Session,
    actor: Actor,
    cell: CellRow,
    measured: Mapping[str, Any],
    now: datetime,
    most_degc: float | None,
    *,
    before_discharge: bool,
) -> None:
    last = (measured.get("charge_before") if before_discharge else None) or measured["last_charge"]
    if last is None or last["before_discharge"] != before_discharge:
        return
    end_v, minutes = round(last["end_voltage_v"], 3), round(last["duration_s"] / 60, 1)
    keep_charge(session, actor, cell, end_v, last["complete"], minutes, now, most_degc)


def _capacity_entry(
    log: LogRow, test: int, measured: Mapping[str, Any], rules: HouseRules, *, started_full: bool | None
) -> ReadingEntry:
    value: float = measured["discharge_capacity_mah"] or 0.0
    # Through a resistor the current is worked out, and the resistor's tolerance goes straight into it.
    method: CapacityMethod = "resistor-log" if _resistor_ohm(log) else "trace"
    allowance_pct = math.hypot(
        rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]), measured["capacity_allowance_pct"] or 0.0
    )
    adjusted = adjust(log.instrument, "capacity", value)
    conditions: dict[str, Any] = {
        **({} if started_full is None else {"started_full": started_full}),
        "complete": measured["discharge_complete"], "current_ma": round(measured["mean_current_ma"], 1),
        "cut_off_v": measured["cut_off_v"], "test": test, "energy_mwh": measured["discharge_energy_mwh"],
        "worked": to_json(_with(adjusted, said("worked-trace", rows=measured["rows"]))),
    }  # fmt: skip
    if adjusted.raw_value is not None:
        conditions["raw_value"] = adjusted.raw_value
    # What the sampling leaves open, beyond the method's own allowance.
    conditions["half_width"] = (measured["capacity_allowance_pct"] or 0.0) / 100 * adjusted.value
    return ReadingEntry(
        quantity="capacity", value=adjusted.value, unit=UNIT_OF["capacity"], method=method, conditions=conditions,
        standard_u=rectangle_u(allowance_pct / 100 * adjusted.value), log_id=log.id, instrument_id=log.instrument_id,
        correction_id=adjusted.correction_id,
    )  # fmt: skip


def _with(adjusted: Adjusted, worked: Said) -> Said:
    return said("worked-then", worked=worked, then=adjusted.said) if adjusted.said else worked


def _resistor_ohm(log: LogRow) -> float | None:
    """The resistor that its current was worked out with [Ohm]; None: the log has a current of its own."""
    return log.read_as["resistor_ohm"] if log.read_as else None


def _resistance_entry(log: LogRow, test: int, found: Mapping[str, Any], rules: HouseRules) -> ReadingEntry:
    adjusted = adjust(log.instrument, "resistance", found["mohm"])
    of_resistor = (
        rules.value(limits.CAPACITY_HALF_WIDTH_PCT["resistor-log"]) / 100 * found["mohm"] if _resistor_ohm(log) else 0.0
    )
    standard_u = math.hypot(
        rectangle_u(found["allowance_mohm"]),
        found["spread_mohm"] / math.sqrt(max(found["edges"], 1)),
        rectangle_u(of_resistor),
    )
    edges, after_s = found["edges"], found["after_s"]
    conditions: dict[str, Any] = {
        "test": test, "worked": to_json(_with(adjusted, said("worked-edges", after=plain(after_s, "s"), edges=edges))),
    }  # fmt: skip
    if adjusted.raw_value is not None:
        conditions["raw_value"] = adjusted.raw_value
    conditions["half_width"] = math.hypot(max(found["spread_mohm"], found["allowance_mohm"]), of_resistor)
    return ReadingEntry(
        quantity="resistance", value=adjusted.value, unit=UNIT_OF["resistance"], method="dc-10s" if after_s >= 5 else "dc-1s",
        conditions=conditions, standard_u=standard_u, log_id=log.id, instrument_id=log.instrument_id, correction_id=adjusted.correction_id,
    )  # fmt: skip
