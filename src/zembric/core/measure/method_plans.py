"""What a measurement asks of the bench before it begins: what to set, what it must stand, how long it takes, what is seen."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from zembric.core.electric.charging import plan_charge
from zembric.core.electric.resistors import nearest_e12_ohm, usual_rating_w
from zembric.core.errors import NotFoundError
from zembric.core.house import limits
from zembric.core.identify.families import has_ocv_table
from zembric.core.measure.formulas import two_current_u_mohm, two_voltage_u_mohm
from zembric.core.measure.uncertainty import rectangle_u
from zembric.core.said import Amount, Said, named, plain, said

if TYPE_CHECKING:
    from collections.abc import Callable

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.story import CapacityMethod

_USB_V = 5.0


@dataclass(frozen=True, slots=True)
class BelievedCell:
    """What a cell is taken to be before it was measured. `charge_ma` is the current it would be charged at."""

    capacity_mah: float
    mohm: float
    full_v: float
    nominal_v: float
    charge_ma: float
    family: Family
    rules: HouseRules


@dataclass(frozen=True, slots=True)
class Meter:
    """What reads: its last digit [V], and its own half width [%] where it has one."""

    resolution_v: float
    half_width_pct: float | None = None


@dataclass(frozen=True, slots=True)
class MethodPlan:
    """The figure to set or to wait for with its unit, sentences on it, and whether the meter can see what is wanted."""

    figure: float
    unit: str
    said: Said
    sees: bool
    sees_said: Said
    #: What it puts into the fields of its form, by their keys, so that advice and field agree.
    fills: Mapping[str, float] = field(default_factory=dict)


def plan_method(name: str, cell: BelievedCell, meter: Meter) -> MethodPlan:
    """The plan for one of the ways to measure.

    Source: IEC 61960-3 for 0.2 C and 1 C; the rest is arithmetic on what the cell is believed to be.

    Raises:
        NotFoundError: no such way.
    """
    plan = _PLANS.get(name)
    if plan is None:
        raise NotFoundError(said("there-is-no-way-to-measure", name=name[:40]))
    return plan(cell, meter)


def _resistor(cell: BelievedCell, _meter: Meter, method: CapacityMethod) -> MethodPlan:
    r_ohm = nearest_e12_ohm(cell.nominal_v / (limits.REFERENCE_C.value * cell.capacity_mah / 1000))
    current_ma = 1000 * cell.nominal_v / r_ohm
    heat_w = cell.full_v**2 / r_ohm
    hot = heat_w > cell.rules.value(limits.RESISTOR_HOT_W)
    text = said(
        "plan-resistor",
        resistor=plain(r_ohm, "Ω"),
        current=Amount(current_ma, "mA"),
        rate=Amount(current_ma / cell.capacity_mah, "C", 2),
        heat=Amount(heat_w, "W", 1),
        rated=plain(usual_rating_w(heat_w), "W"),
        gets=named("plan-gets", "hot" if hot else "warm"),
        time=Amount(cell.capacity_mah / current_ma, "h", 1),
    )
    return MethodPlan(r_ohm, "Ω", text, *_sees_capacity(cell, method), {"r_ohm": r_ohm})


def _tester(cell: BelievedCell, meter: Meter) -> MethodPlan:
    current_ma = limits.REFERENCE_C.value * cell.capacity_mah
    text = said(
        "plan-tester",
        current=plain(_round(current_ma), "mA"),
        rate=plain(limits.REFERENCE_C.value, "C"),
        time=Amount(cell.capacity_mah / current_ma, "h"),
        heat=Amount(cell.full_v * current_ma / 1000, "W", 1),
        time_at_one=Amount(cell.capacity_mah / 1000, "h", 1),
        heat_at_one=Amount(cell.full_v, "W", 1),
    )
    sees = _sees_capacity(cell, "tester", meter.half_width_pct)
    return MethodPlan(_round(current_ma), "mA", text, *sees, {"current_ma": _round(current_ma)})


def _charged(cell: BelievedCell, method: CapacityMethod, end_share: float, about: Said) -> MethodPlan:
    """A charge from empty, by the family's table; a family without one gets the current and no time."""
    current_ma = _round(cell.charge_ma)
    end_ma = current_ma * end_share
    sees = _sees_capacity(cell, method)
    if not has_ocv_table(cell.family):
        text = said("plan-charge-untimed", current=plain(current_ma, "mA"), end=Amount(end_ma, "mA"), about=about)
        return MethodPlan(current_ma, "mA", text, *sees, {"current_ma": current_ma})
    plan = plan_charge(cell.capacity_mah, current_ma, cell.full_v, end_ma, 0.0, cell.mohm, cell.family)
    text = said(
        "plan-charge",
        current=plain(current_ma, "mA"),
        end=Amount(end_ma, "mA"),
        constant=Amount(plan.cc_minutes / 60, "h", 1),
        falling=Amount(plan.cv_minutes / 60, "h", 1),
        about=about,
    )
    return MethodPlan(round(plan.minutes / 60, 1), "h", text, *sees, {"current_ma": current_ma})


def _charge_counted(cell: BelievedCell, _meter: Meter) -> MethodPlan:
    return _charged(
        cell, "charge-counted", cell.rules.value(limits.CHARGE_END_C) / limits.CHARGE_RATE_C.value, said("plan-stay")
    )


def _usb_linear(cell: BelievedCell, _meter: Meter) -> MethodPlan:
    heat_w = (_USB_V - limits.PRE_CHARGE_BELOW_V[cell.family].value) * _round(cell.charge_ma) / 1000
    return _charged(
        cell,
        "usb-linear",
        limits.MODULE_END_SHARE.value,
        said("plan-usb-linear", heat=Amount(heat_w, "W", 1), expected=Amount(cell.capacity_mah, "mAh")),
    )


def _usb_switching(cell: BelievedCell, _meter: Meter) -> MethodPlan:
    expected_mwh = cell.capacity_mah * _charge_mean_v(cell) / cell.rules.value(limits.CONVERTER_EFFICIENCY)
    return _charged(
        cell,
        "usb-switching",
        limits.MODULE_END_SHARE.value,
        said("plan-usb-switching", expected=Amount(expected_mwh / 1000, "Wh", 1)),
    )


def _usb_step_up(cell: BelievedCell, _meter: Meter) -> MethodPlan:
    efficiency = cell.rules.value(limits.CONVERTER_EFFICIENCY)
    out_w = limits.REFERENCE_C.value * cell.capacity_mah / 1000 * cell.nominal_v * efficiency
    r_ohm = nearest_e12_ohm(_USB_V**2 / out_w)
    heat_w = _USB_V**2 / r_ohm
    energy_wh = cell.capacity_mah / 1000 * cell.nominal_v * efficiency
    text = said(
        "plan-usb-step-up",
        resistor=plain(r_ohm, "Ω"),
        heat=Amount(heat_w, "W", 1),
        rated=plain(usual_rating_w(heat_w), "W"),
        time=Amount(energy_wh / heat_w, "h", 1),
        expected=Amount(energy_wh, "Wh", 1),
    )
    return MethodPlan(r_ohm, "Ω", text, *_sees_capacity(cell, "usb-step-up"))


def _two_voltage(cell: BelievedCell, meter: Meter) -> MethodPlan:
    r_ohm = nearest_e12_ohm(cell.nominal_v / (cell.rules.value(limits.LOAD_STEP_C) * cell.capacity_mah / 1000))
    current_a = cell.nominal_v / r_ohm
    u_mohm = two_voltage_u_mohm(
        cell.nominal_v, cell.nominal_v * r_ohm / (r_ohm + cell.mohm / 1000), r_ohm, meter.resolution_v, cell.rules
    )
    text = said(
        "plan-two-voltage",
        resistor=plain(r_ohm, "Ω"),
        current=Amount(current_a, "A", 1),
        heat=Amount(cell.full_v**2 / r_ohm, "W", 1),
    )
    return MethodPlan(r_ohm, "Ω", text, *_sees_resistance(cell, meter, u_mohm), {"r_load_ohm": r_ohm})


def _two_current(cell: BelievedCell, meter: Meter) -> MethodPlan:
    small_a, large_a = limits.REFERENCE_C.value * cell.capacity_mah / 1000, cell.capacity_mah / 1000
    small_a, large_a = float(f"{small_a:.2g}"), float(f"{large_a:.2g}")
    text = said("plan-two-current", small=plain(small_a, "A"), large=plain(large_a, "A"))
    u_mohm = two_current_u_mohm(small_a, large_a, meter.resolution_v)
    return MethodPlan(large_a, "A", text, *_sees_resistance(cell, meter, u_mohm), {"i1_a": small_a, "i2_a": large_a})


def _ac_meter(cell: BelievedCell, meter: Meter) -> MethodPlan:
    pct = cell.rules.value(limits.AC_HALF_WIDTH_PCT) if meter.half_width_pct is None else meter.half_width_pct
    u_mohm = rectangle_u(max(pct / 100 * cell.mohm, cell.rules.value(limits.AC_HALF_WIDTH_MOHM)))
    sees = u_mohm <= cell.rules.value(limits.METER_SEES_SHARE) * cell.mohm
    told = said("sees-meter", value=Amount(cell.mohm, "mΩ"), error=Amount(u_mohm, "mΩ", 1))
    return MethodPlan(
        _round(cell.mohm), "mΩ", said("plan-ac-meter"),
        sees, told if sees else said("sees-meter-hardly", told=told),
    )  # fmt: skip


def _tester_resistance(cell: BelievedCell, _meter: Meter) -> MethodPlan:
    u_mohm = rectangle_u(cell.rules.value(limits.TESTER_HALF_WIDTH_MOHM))
    sees = u_mohm <= cell.rules.value(limits.METER_SEES_SHARE) * cell.mohm
    told = said("sees-holder", value=Amount(cell.mohm, "mΩ"), error=Amount(u_mohm, "mΩ"))
    return MethodPlan(
        3, "times", said("plan-tester-resistance"),
        sees, told if sees else said("sees-holder-hardly", told=told),
    )  # fmt: skip


def _sees_capacity(cell: BelievedCell, method: CapacityMethod, own_pct: float | None = None) -> tuple[bool, Said]:
    pct = cell.rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]) if own_pct is None else own_pct
    error = Amount(rectangle_u(pct / 100 * cell.capacity_mah), "mAh")
    return True, said("sees-capacity", value=Amount(cell.capacity_mah, "mAh"), error=error)


def _sees_resistance(cell: BelievedCell, meter: Meter, u_mohm: float) -> tuple[bool, Said]:
    digit, value, error = plain(1000 * meter.resolution_v, "mV"), Amount(cell.mohm, "mΩ"), Amount(u_mohm, "mΩ")
    if u_mohm <= cell.rules.value(limits.METER_SEES_SHARE) * cell.mohm:
        return True, said("sees-resistance", digit=digit, value=value, error=error)
    finer_mv = 1000 * meter.resolution_v * cell.rules.value(limits.METER_SEES_SHARE) * cell.mohm / u_mohm
    finer = plain(10.0 ** math.floor(math.log10(finer_mv)), "mV")
    return False, said("sees-no-resistance", digit=digit, value=value, error=error, finer=finer)


def _charge_mean_v(cell: BelievedCell) -> float:
    """Mean voltage of a charge: above that of a discharge by what the resistance takes."""
    return cell.nominal_v + 2 * cell.charge_ma * cell.mohm / 1e6


def _round(value: float) -> float:
    """To two figures, as anybody would set it."""
    return float(f"{value:.2g}")


_PLANS: dict[str, Callable[[BelievedCell, Meter], MethodPlan]] = {
    "tester": _tester,
    "resistor-log": lambda cell, meter: _resistor(cell, meter, "resistor-log"),
    "resistor-clock": lambda cell, meter: _resistor(cell, meter, "resistor-clock"),
    "charge-counted": _charge_counted,
    "usb-linear": _usb_linear,
    "usb-switching": _usb_switching,
    "usb-step-up": _usb_step_up,
    "ac-meter": _ac_meter,
    "two-voltage": _two_voltage,
    "two-current": _two_current,
    "tester-resistance": _tester_resistance,
}
