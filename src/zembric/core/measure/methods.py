"""Ways to a capacity or a resistance without a log: what each asks, its formula, its uncertainty and its traps."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError, DangerError, NotFoundError
from zembric.core.house import limits
from zembric.core.inputs import Ground, Input, Values, check_values, maybe, number, numbers
from zembric.core.measure.entry_checks import read_degrees
from zembric.core.measure.formulas import (
    two_current_mohm,
    two_current_u_mohm,
    two_voltage_mohm,
    two_voltage_u_mohm,
    usb_linear_mah,
)
from zembric.core.measure.uncertainty import rectangle_u
from zembric.core.said import Amount, Said, named, plain, said
from zembric.core.story import CapacityMethod, ResistanceMethod

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules

#: What a wrong answer does: the figure is refused, is that of a part only, or carries a note.
Effect = Literal["refuse", "part", "note"]
YesNo = Literal["yes", "no"]

DC_10S_FROM_S = 5.0


@dataclass(frozen=True, slots=True)
class Trap:
    """A question asked where its answer would spoil the figure; `right` is the answer that does not."""

    key: str
    right: YesNo
    effect: Effect

    @property
    def question(self) -> Said:
        return Said(f"trap-{self.key}")

    @property
    def spoilt(self) -> Said:
        """What another answer does to the figure."""
        return Said(f"spoilt-{self.key}")


@dataclass(frozen=True, slots=True)
class Worked:
    """A figure with its standard uncertainty, the formula with the numbers put in, and what limits it."""

    value: float
    standard_u: float
    worked: Said
    limited_by: Said
    reading_method: CapacityMethod | ResistanceMethod
    cautions: tuple[Said, ...] = ()
    complete: bool = True
    conditions: Mapping[str, float | str | None] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Method:
    """One way to measure. `half_width_pct` is that of the method where the instrument has none of its own."""

    name: str
    quantity: Literal["capacity", "resistance"]
    title: Said
    needs: Said
    inputs: tuple[Input, ...]
    traps: tuple[Trap, ...]
    grounds: tuple[Ground, ...]
    work_out: Callable[[Values, float | None, HouseRules], Worked] = field(repr=False)

    @property
    def formula(self) -> Said:
        return named("formula", f"way-{self.name}")


_AMBIENT = (
    Input("cell_degc", "°C", said("input-temperature-of-cell"), "any", optional=True),
    Input("bench_degc", "°C", said("input-temperature-of-room"), "any", optional=True),
)
_CUT_OFF = Input("cut_off_v", "V", said("input-it-ended-at"), optional=True, example="3.0")
_THROUGH = Input(
    "through", "", said("input-measured-through"), "choice", optional=True, choices=("nothing", "protection", "holder", "leads"), example="nothing"
)  # fmt: skip
_SUBTRACT = Input("subtract_mohm", "mΩ", said("input-take-off-for-it-if-you"), "zero-or-more", optional=True)
_RESOLUTION = Input("resolution_v", "V", said("input-last-digit-of-meter"), example="0.01")
_EFFICIENCY = Input("efficiency", "", said("input-efficiency-of-converter"), "share", example="0.88")

_FULL = Trap("started_full", "yes", "part")
_RAN_OUT = Trap("ran_out", "yes", "part")
_EMPTY = Trap("started_empty", "yes", "part")
_CHARGED = Trap("ended_full", "yes", "part")
_CHARGER = Trap("charger_on", "no", "refuse")
_ZEROED = Trap("zeroed", "yes", "note")
_LAMP = Trap("module_alone", "no", "refuse")


def _pct_u(value: float, method: CapacityMethod, own_pct: float | None, rules: HouseRules) -> float:
    pct = rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]) if own_pct is None else own_pct
    return rectangle_u(pct / 100 * value)


def _allowance(method: CapacityMethod, own_pct: float | None, rules: HouseRules) -> Said:
    if own_pct is not None:
        return said("limited-by-instrument", share=plain(own_pct, "%"))
    return said("limited-by-method", share=plain(rules.value(limits.CAPACITY_HALF_WIDTH_PCT[method]), "%"))


def _capacity(
    value: float,
    method: CapacityMethod,
    own_pct: float | None,
    rules: HouseRules,
    worked: Said,
    cautions: tuple[Said, ...] = (),
    **conditions: float | str | None,
) -> Worked:
    if value <= 0:
        raise BadInputError(said("these-values-leave-no-capacity"), field="value")
    return Worked(
        value,
        _pct_u(value, method, own_pct, rules),
        worked,
        _allowance(method, own_pct, rules),
        method,
        cautions,
        True,
        conditions,
    )


def _tester(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    value = number(values, "value_mah")
    return _capacity(
        value, "tester", own_pct, rules, said("worked-as-shown", value=plain(value, "mAh")), current_ma=number(values, "current_ma"), cut_off_v=maybe(values, "cut_off_v")
    )  # fmt: skip


def _resistor_clock(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    mean_v, ohm, minutes = number(values, "mean_v"), number(values, "r_ohm"), number(values, "minutes")
    value = 1000 * mean_v * minutes / 60 / ohm
    return _capacity(
        value, "resistor-clock", own_pct, rules, said("worked-resistor-clock", mean=plain(mean_v, "V"), time=Amount(minutes / 60, "h", 2), resistor=plain(ohm, "Ω"), value=Amount(value, "mAh")),
        (said("caution-not-watched"),),
        current_ma=1000 * mean_v / ohm, cut_off_v=maybe(values, "cut_off_v"),
    )  # fmt: skip


def _resistor_log(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    minutes, volts = numbers(values, "minutes"), numbers(values, "volts")
    ohm = number(values, "r_ohm") + (maybe(values, "leads_ohm") or 0.0)
    if len(minutes) != len(volts) or len(minutes) < 2:
        raise BadInputError(said("times-and-voltages", count=len(minutes), voltages=len(volts)), field="volts")
    if any(b <= a for a, b in itertools.pairwise(minutes)):
        raise BadInputError(said("times-must-go-up-from-one"), field="minutes")
    if min(volts) <= 0 or max(volts) > limits.CELL_MOST_V.value:
        raise BadInputError(said("voltage-lies-above-0", cell_most=plain(limits.CELL_MOST_V.value)), field="volts")
    pairs = list(zip(minutes, volts, strict=True))
    volt_minutes = math.fsum((b[0] - a[0]) * (a[1] + b[1]) / 2 for a, b in itertools.pairwise(pairs))
    value = 1000 * volt_minutes / 60 / ohm
    sparse = (said("caution-few-voltages"),) if len(volts) < 5 else ()
    return _capacity(
        value, "resistor-log", own_pct, rules, said("worked-resistor-log", integral=Amount(volt_minutes / 60, "V h", 3), resistor=plain(ohm, "Ω"), value=Amount(value, "mAh")), sparse,
        current_ma=1000 * volt_minutes / (minutes[-1] - minutes[0]) / ohm, cut_off_v=volts[-1],
    )  # fmt: skip


def _charge_counted(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    counted, factor = number(values, "counted_mah"), rules.value(limits.CHARGE_EFFICIENCY)
    value = counted * factor
    return _capacity(
        value, "charge-counted", own_pct, rules, said("worked-counted", counted=plain(counted, "mAh"), factor=plain(factor), value=Amount(value, "mAh")), current_ma=maybe(values, "current_ma"), cut_off_v=maybe(values, "cut_off_v")
    )  # fmt: skip


def _usb_linear(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    meter_mah, draw_ma, hours = number(values, "meter_mah"), number(values, "module_draw_ma"), number(values, "hours")
    value = usb_linear_mah(meter_mah, draw_ma, hours)
    return _capacity(
        value, "usb-linear", own_pct, rules, said("worked-usb-linear", meter=plain(meter_mah, "mAh"), draw=plain(draw_ma, "mA"), time=plain(hours, "h"), value=Amount(value, "mAh")),
        (said("caution-mah-count"),), current_ma=None, cut_off_v=None,
    )  # fmt: skip


def _usb_switching(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    mwh, efficiency, mean_v = number(values, "meter_mwh"), number(values, "efficiency"), number(values, "mean_v")
    value = mwh * efficiency / mean_v
    return _capacity(
        value,
        "usb-switching",
        own_pct,
        rules,
        said(
            "worked-usb-switching",
            meter=plain(mwh, "mWh"),
            efficiency=plain(efficiency),
            mean=plain(mean_v, "V"),
            value=Amount(value, "mAh"),
        ),
        current_ma=None,
        cut_off_v=None,
    )


def _usb_step_up(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    mwh, efficiency, mean_v = number(values, "meter_mwh"), number(values, "efficiency"), number(values, "mean_v")
    value = mwh / (efficiency * mean_v)
    return _capacity(
        value,
        "usb-step-up",
        own_pct,
        rules,
        said(
            "worked-usb-step-up",
            meter=plain(mwh, "mWh"),
            efficiency=plain(efficiency),
            mean=plain(mean_v, "V"),
            value=Amount(value, "mAh"),
        ),
        current_ma=None,
        cut_off_v=None,
    )


def _resistance(
    values: Values,
    raw_mohm: float,
    u_mohm: float,
    method: ResistanceMethod,
    worked: Said,
    limited_by: Said,
    cautions: tuple[Said, ...] = (),
    **conditions: float | str | None,
) -> Worked:
    """Takes off what was measured through, only where that was said, and shows it."""
    through, off = values.get("through"), maybe(values, "subtract_mohm") or 0.0
    if off >= raw_mohm:
        raise BadInputError(said("subtract-mohm", off=plain(off), raw=Amount(raw_mohm, "", 1)), field="subtract_mohm")
    if off:
        less = said(
            "worked-less",
            off=plain(off, "mΩ"),
            of=named("through", str(through or "leads")),
            left=Amount(raw_mohm - off, "mΩ", 1),
        )
        worked = said("worked-then", worked=worked, then=less)
    elif through not in (None, "nothing"):
        cautions = (*cautions, named("caution-through", str(through)))
    return Worked(
        raw_mohm - off,
        u_mohm,
        worked,
        limited_by,
        method,
        cautions,
        True,
        {"through": str(through) if through else None, "subtract_mohm": off or None, **conditions},
    )


def _dc_method(values: Values) -> ResistanceMethod:
    return "dc-10s" if number(values, "after_s") >= DC_10S_FROM_S else "dc-1s"


def _two_voltage(values: Values, _own_pct: float | None, rules: HouseRules) -> Worked:
    rest_v, load_v, ohm = number(values, "u_rest_v"), number(values, "u_load_v"), number(values, "r_load_ohm")
    resolution_v = number(values, "resolution_v")
    mohm = two_voltage_mohm(rest_v, load_v, ohm)
    u_mohm = two_voltage_u_mohm(rest_v, load_v, ohm, resolution_v, rules)
    by_resistor = rectangle_u(rules.value(limits.DC_HALF_WIDTH_PCT) / 100 * mohm)
    return _resistance(
        values, mohm, u_mohm, _dc_method(values), said("worked-two-voltage", resistor=plain(ohm, "Ω"), rest=plain(rest_v), load=plain(load_v), value=Amount(mohm, "mΩ", 1)),
        said("limited-by-digit", digit=plain(1000 * resolution_v, "mV")) if u_mohm > 1.5 * by_resistor else said("limited-by-resistor"),
        blind_meter(mohm, u_mohm, resolution_v, load_v / ohm, rules), resolution_v=resolution_v, load_ohm=ohm, current_ma=1000 * load_v / ohm,
    )  # fmt: skip


def blind_meter(
    mohm: float, u_mohm: float, resolution_v: float, current_a: float, rules: HouseRules
) -> tuple[Said, ...]:
    """What to do where the meter cannot see the resistance well; nothing where it can."""
    if u_mohm <= rules.value(limits.METER_SEES_SHARE) * mohm:
        return ()
    digit = Amount(1000 * resolution_v / current_a, "mΩ")
    return (said("caution-blind-meter", digit=digit, current=Amount(current_a, "A", 2), value=Amount(mohm, "mΩ")),)


def _two_current(values: Values, _own_pct: float | None, rules: HouseRules) -> Worked:
    u1_v, i1_a, u2_v, i2_a = (number(values, key) for key in ("u1_v", "i1_a", "u2_v", "i2_a"))
    resolution_v = number(values, "resolution_v")
    mohm, u_mohm = two_current_mohm(u1_v, i1_a, u2_v, i2_a), two_current_u_mohm(i1_a, i2_a, resolution_v)
    return _resistance(
        values, mohm, u_mohm, _dc_method(values), said("worked-two-current", high=plain(u1_v), low=plain(u2_v), large=plain(i2_a), small=plain(i1_a), value=Amount(mohm, "mΩ", 1)),
        said("limited-by-digit", digit=plain(1000 * resolution_v, "mV")), blind_meter(mohm, u_mohm, resolution_v, abs(i2_a - i1_a), rules),
        current_ma=1000 * i2_a,
    )  # fmt: skip


def _ac_meter(values: Values, own_pct: float | None, rules: HouseRules) -> Worked:
    mohm = number(values, "value_mohm")
    pct = rules.value(limits.AC_HALF_WIDTH_PCT) if own_pct is None else own_pct
    half = max(pct / 100 * mohm, rules.value(limits.AC_HALF_WIDTH_MOHM))
    return _resistance(
        values,
        mohm,
        rectangle_u(half),
        "ac-1khz",
        said("worked-as-shown", value=plain(mohm, "mΩ")),
        said("limited-by-meter", error=Amount(half, "mΩ", 1)),
    )


def _tester_resistance(values: Values, _own_pct: float | None, rules: HouseRules) -> Worked:
    shown = numbers(values, "values_mohm")
    if min(shown) <= 0:
        raise BadInputError(said("values-mohm"), field="values_mohm")
    least, again = min(shown), tuple[Said, ...]()
    if len(shown) < 3:
        again = (said("caution-put-in-again"),)
    return _resistance(
        values, least, rectangle_u(rules.value(limits.TESTER_HALF_WIDTH_MOHM)), "tester", said("worked-least", values=tuple(plain(each, "") for each in shown), least=plain(least, "mΩ")),
        said("limited-by-holder", error=plain(rules.value(limits.TESTER_HALF_WIDTH_MOHM), "mΩ")), again, repeats=float(len(shown)),
    )  # fmt: skip


_GROUND_IN = {
    name: Ground(said("rests-on-half-width", limit=plain(limit.value)), limit.kind, limit.source)
    for name, limit in limits.CAPACITY_HALF_WIDTH_PCT.items()
}
_METER_MWH = Input("meter_mwh", "mWh", said("input-counted-by-meter"), example="10500")
_OHM = Input("r_ohm", "Ω", said("input-resistor-leads-included"), example="6.8")
_AFTER = Input("after_s", "s", said("input-how-long-under-load-before-reading"), example="10")

_ALL: tuple[Method, ...] = (
    Method(
        "tester", "capacity", said("way-tester"), said("way-tester-needs"),
        (Input("value_mah", "mAh", said("input-as-shown"), example="2310"), Input("current_ma", "mA", said("input-discharge-current"), example="1000"), _CUT_OFF, *_AMBIENT),
        (_FULL, _RAN_OUT), (_GROUND_IN["tester"],), _tester,
    ),
    Method(
        "resistor-log", "capacity", said("way-resistor-log"), said("way-resistor-log-needs"),
        (
            Input("minutes", "min", said("input-times"), "list", example="0; 30; 60; 90; 120"), Input("volts", "V", said("input-voltages-under-load"), "list", example="4.05; 3.85; 3.72; 3.6; 3.0"),
            Input("r_ohm", "Ω", said("input-resistor"), example="6.8"), Input("leads_ohm", "Ω", said("input-leads-and-shunt"), "zero-or-more", optional=True), *_AMBIENT,
        ),
        (_FULL, _RAN_OUT), (_GROUND_IN["resistor-log"],), _resistor_log,
    ),
    Method(
        "resistor-clock", "capacity", said("way-resistor-clock"), said("way-resistor-clock-needs"),
        (Input("mean_v", "V", said("input-mean-voltage-under-load"), example="3.6"), _OHM, Input("minutes", "min", said("input-how-long-it-ran"), example="250"), _CUT_OFF, *_AMBIENT),
        (_FULL, _RAN_OUT), (_GROUND_IN["resistor-clock"],), _resistor_clock,
    ),
    Method(
        "charge-counted", "capacity", said("way-charge-counted"), said("way-charge-counted-needs"),
        (Input("counted_mah", "mAh", said("input-counted"), example="2380"), Input("current_ma", "mA", said("input-charge-current"), optional=True, example="500"), *_AMBIENT),
        (_EMPTY, _CHARGED), (_GROUND_IN["charge-counted"], Ground(said("rests-on-0-99-of-charge-comes-back"), limits.Kind.HOUSE, limits.HOUSE_DEFAULT)), _charge_counted,
    ),
    Method(
        "usb-linear", "capacity", said("way-usb-linear"), said("way-usb-linear-needs"),
        (Input("meter_mah", "mAh", said("input-counted-by-meter"), example="2450"), Input("module_draw_ma", "mA", said("input-modules-own-current"), "zero-or-more", example="4"), Input("hours", "h", said("input-how-long-it-took"), example="3.5"), *_AMBIENT),
        (_EMPTY, _CHARGED, _LAMP), (_GROUND_IN["usb-linear"],), _usb_linear,
    ),
    Method(
        "usb-switching", "capacity", said("way-usb-switching"), said("way-usb-switching-needs"),
        (_METER_MWH, _EFFICIENCY, Input("mean_v", "V", said("input-mean-voltage-of-cell"), example="3.8"), *_AMBIENT),
        (_EMPTY, _CHARGED, _LAMP), (_GROUND_IN["usb-switching"],), _usb_switching,
    ),
    Method(
        "usb-step-up", "capacity", said("way-usb-step-up"), said("way-usb-step-up-needs"),
        (_METER_MWH, _EFFICIENCY, Input("mean_v", "V", said("input-mean-voltage-of-cell"), example="3.7"), *_AMBIENT),
        (_FULL, _RAN_OUT), (_GROUND_IN["usb-step-up"],), _usb_step_up,
    ),
    Method(
        "ac-meter", "resistance", said("way-ac-meter"), said("way-ac-meter-needs"),
        (Input("value_mohm", "mΩ", said("input-as-shown"), example="48"), _THROUGH, _SUBTRACT, *_AMBIENT),
        (_CHARGER, _ZEROED), (Ground(said("rests-on-larger-of-3-and-2-m"), limits.Kind.HOUSE, limits.HOUSE_DEFAULT),), _ac_meter,
    ),
    Method(
        "two-voltage", "resistance", said("way-two-voltage"), said("way-two-voltage-needs"),
        (
            Input("u_rest_v", "V", said("input-at-rest"), example="3.92"), Input("u_load_v", "V", said("input-with-resistor-on"), example="3.80"),
            Input("r_load_ohm", "Ω", said("input-resistor"), example="4.7"), _AFTER, _RESOLUTION, _THROUGH, _SUBTRACT, *_AMBIENT,
        ),
        (_CHARGER,), (Ground(said("rests-on-5-for-resistor"), limits.Kind.HOUSE, limits.HOUSE_DEFAULT),), _two_voltage,
    ),
    Method(
        "two-current", "resistance", said("way-two-current"), said("way-two-current-needs"),
        (
            Input("u1_v", "V", said("input-at-small-current"), example="3.85"), Input("i1_a", "A", said("input-small-current"), "zero-or-more", example="0.5"),
            Input("u2_v", "V", said("input-at-large-current"), example="3.78"), Input("i2_a", "A", said("input-large-current"), example="2.0"),
            _AFTER, _RESOLUTION, _THROUGH, _SUBTRACT, *_AMBIENT,
        ),
        (_CHARGER,), (Ground(said("rests-on-0-2-c-for-10-s"), limits.Kind.STANDARD, limits.IEC_61960_3),), _two_current,
    ),
    Method(
        "tester-resistance", "resistance", said("way-tester-resistance"), said("way-tester-resistance-needs"),
        (Input("values_mohm", "mΩ", said("input-as-shown-put-in-anew-each"), "list", example="78; 71; 74"), _THROUGH, _SUBTRACT, *_AMBIENT),
        (_CHARGER,), (Ground(said("rests-on-20-m-in-spring-holder"), limits.Kind.HOUSE, limits.HOUSE_DEFAULT),), _tester_resistance,
    ),
)  # fmt: skip
METHODS: Mapping[str, Method] = MappingProxyType({method.name: method for method in _ALL})


def measure_by(
    name: str, typed: Mapping[str, str], answers: Mapping[str, str], rules: HouseRules, own_pct: float | None = None
) -> Worked:
    """Works out a figure by a method.

    Args:
        typed: Values as typed, by input key.
        answers: To the traps, "yes" or "no", by key; one that is missing is taken as not asked yet.
        own_pct: The instrument's own half width [%], where it has one.

    Raises:
        NotFoundError: no such method.
        BadInputError: a value is missing or cannot be, or a trap was not answered.
        DangerError: an answer says that the figure is not one of the cell.
    """
    method = METHODS.get(name)
    if method is None:
        raise NotFoundError(said("there-is-no-way-to-measure", name=name[:40]))
    unknown = set(answers) - {trap.key for trap in method.traps}
    if unknown:
        raise BadInputError(said("is-no-question-of-this-way", unknown=min(unknown)[:40]), field="said")
    worked = method.work_out(check_values(name, method.inputs, typed), own_pct, rules)
    complete, notes = True, list(worked.cautions)
    for trap in method.traps:
        answer = answers.get(trap.key)
        if answer not in ("yes", "no"):
            raise BadInputError(said("say-yes-or-no", question=trap.question), code="not-answered", field=trap.key)
        if answer == trap.right:
            continue
        if trap.effect == "refuse":
            raise DangerError(trap.spoilt, code="spoilt", field=trap.key)
        complete = complete and trap.effect != "part"
        notes.append(trap.spoilt)
    notes += _temperature_notes(typed, method, rules)
    return Worked(
        worked.value,
        worked.standard_u,
        worked.worked,
        worked.limited_by,
        worked.reading_method,
        tuple(notes),
        complete,
        {**worked.conditions, **_said_of_start(method, answers)},
    )


def _said_of_start(method: Method, answers: Mapping[str, str]) -> dict[str, str]:
    """Whether somebody said that it was full before: a run is believed then without an entry of the charge."""
    asked = any(trap.key == "started_full" for trap in method.traps)
    return {"started_full": answers["started_full"]} if asked else {}


def _temperature_notes(typed: Mapping[str, str], method: Method, rules: HouseRules) -> list[Said]:
    degc = read_degrees(typed.get("cell_degc"), "cell_degc")
    read_degrees(typed.get("bench_degc"), "bench_degc")
    if degc is None or rules.value(limits.COMPARABLE_FROM_DEGC) <= degc <= rules.value(limits.COMPARABLE_TO_DEGC):
        return []
    if method.quantity == "resistance":
        return [said("caution-cold-resistance", cell=plain(degc, "°C"))]
    return [said("caution-cold-capacity", cell=plain(degc, "°C"))]
