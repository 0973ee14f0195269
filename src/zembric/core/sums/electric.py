"""Sums about loads, modules, wires and strips."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from zembric.core.electric.conductors import STRIP_OHM_M, copper_wire, strip_conductor
from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.identify.donor_clues import program_current_ma
from zembric.core.inputs import PHYSICS, Ground, Input, Values, maybe, number
from zembric.core.said import Amount, Said, named, plain, said
from zembric.core.sums.registry import Output, Result, Sum, beyond

if TYPE_CHECKING:
    from zembric.core.electric.conductors import Conductor
    from zembric.core.house.rules import HouseRules


def _load_resistor(values: Values, rules: HouseRules) -> Result:
    u_v, load_ohm, shunt_ohm = number(values, "u_v"), number(values, "r_load_ohm"), number(values, "r_shunt_ohm")
    current_a = u_v / (load_ohm + shunt_ohm)
    load_w, shunt_w = current_a**2 * load_ohm, current_a**2 * shunt_ohm
    return Result(
        {"current_a": current_a, "power_load_w": load_w, "power_shunt_w": shunt_w, "rating_w": 2 * load_w},
        said(
            "worked-sum-load-resistor",
            u=plain(u_v),
            load_ohm=plain(load_ohm),
            shunt_ohm=plain(shunt_ohm),
            current=Amount(current_a, "", 3),
            load=Amount(load_w, "", 2),
        ),
        (said("sum-tells-resistor-gets-hot"),) if load_w >= rules.value(limits.RESISTOR_HOT_W) else (),
    )


def _program_resistor(values: Values, rules: HouseRules) -> Result:
    k_v, r1_ohm, r2_ohm = number(values, "k_v"), number(values, "r1_ohm"), maybe(values, "r2_ohm")
    in_v, cell_v = number(values, "u_in_v"), number(values, "u_cell_v")
    if in_v <= cell_v:
        raise BadInputError(said("supply-too-low-for-module", supply=plain(in_v), cell=plain(cell_v)), field="u_in_v")
    current_a = program_current_ma(k_v, r1_ohm, r2_ohm) / 1000
    heat_w = (in_v - cell_v) * current_a
    throttles = rules.limit(limits.MODULE_THROTTLES_W)
    return Result(
        {
            "current_ma": 1000 * current_a,
            "end_current_ma": 1000 * limits.MODULE_END_SHARE.value * current_a,
            "chip_heat_w": heat_w,
        },
        said(
            "worked-sum-program-resistor",
            k=plain(k_v),
            resistor=plain(k_v / current_a),
            current=Amount(current_a, "", 3),
            supply=plain(in_v),
            cell=plain(cell_v),
            heat=Amount(heat_w, "", 2),
        ),
        warnings=beyond(
            "chip-heat",
            said("red-chip-heat", heat=Amount(heat_w, "", 1), throttles=plain(throttles.value)),
            heat_w,
            throttles,
        ),
    )


def _end_current_trap(values: Values, _rules: HouseRules) -> Result:
    current_ma = program_current_ma(number(values, "k_v"), number(values, "r1_ohm"), maybe(values, "r2_ohm"))
    end_ma, load_ma = limits.MODULE_END_SHARE.value * current_ma, number(values, "load_ma")
    never = load_ma >= end_ma
    return Result(
        {"current_ma": current_ma, "end_current_ma": end_ma, "never_ends": never},
        said("worked-sum-end-current-trap", end=Amount(end_ma, ""), load=plain(load_ma)),
        (said("sum-tells-load-alone-keeps-module-from-ending"),) if never else (),
    )


def _small_cell(values: Values, rules: HouseRules) -> Result:
    k_v, r1_ohm, r2_ohm = number(values, "k_v"), number(values, "r1_ohm"), maybe(values, "r2_ohm")
    capacity_mah = number(values, "capacity_mah")
    current_ma = program_current_ma(k_v, r1_ohm, r2_ohm)
    end_ma = limits.MODULE_END_SHARE.value * current_ma
    charge_c, end_c = current_ma / capacity_mah, end_ma / capacity_mah
    most_c, end_most_c = limits.CHARGE_RATE_MOST_C.value, limits.MODULE_END_SHARE.value
    suits = charge_c <= most_c + 1e-9
    wanted_ohm = 1000 * k_v / (rules.value(limits.CHARGE_RATE_C) * capacity_mah)
    text = said(
        "red-small-cell",
        current=Amount(current_ma, "mA"),
        rate=plain(float(f"{charge_c:.2g}"), "C"),
        capacity=plain(capacity_mah, "mAh"),
    )
    ends_early = said("sum-tells-ends-too-early", end=Amount(end_ma, "mA"), rate=plain(float(f"{end_c:.2g}"), "C"))
    cautions = (ends_early,) if end_c > end_most_c + 1e-9 else ()
    return Result(
        {
            "suits": suits, "current_ma": current_ma, "charge_c": charge_c, "end_current_ma": end_ma, "end_c": end_c,
            "wanted_ohm": wanted_ohm,
        },
        said("worked-sum-small-cell", current=Amount(current_ma, ""), capacity=plain(capacity_mah), charge_c=Amount(charge_c, "", 2), end=Amount(end_ma, ""), end_c=Amount(end_c, "", 2)),
        cautions,
        warnings=beyond("current", text, charge_c, limits.CHARGE_RATE_MOST_C, most_c, "C"),
    )  # fmt: skip


def _carried(conductor: Conductor, current_a: float, worked: Said, what: Literal["wire", "strip"]) -> Result:
    """Drop and heat of a conductor, red where it gets too warm to lie beside cells."""
    drop_v, heat_w = conductor.ohm * current_a, conductor.ohm * current_a**2
    text = said(
        "sum-tells-is-more-than-like-this-stands",
        current=plain(current_a),
        what=named("conductor", what),
        most=Amount(conductor.most_a, "", 1),
        instead=named("instead-of", what),
    )
    return Result(
        {"drop_v": drop_v, "heat_w": heat_w, "mohm": 1000 * conductor.ohm},
        said(
            "worked-sum-carried",
            worked=worked,
            ohm=Amount(1000 * conductor.ohm, "", 2),
            current=plain(current_a),
            drop=Amount(drop_v, "", 3),
        ),
        warnings=beyond("current", text, current_a, conductor.limit, conductor.most_a),
    )


def _wire(values: Values, rules: HouseRules) -> Result:
    awg, length_m = number(values, "awg"), number(values, "length_m")
    conductor = copper_wire(awg, length_m, rules)
    worked = said("worked-of-wire", length_m=plain(length_m), section_mm2=Amount(conductor.section_mm2, "", 3))
    return _carried(conductor, number(values, "current_a"), worked, "wire")


def _strip(values: Values, rules: HouseRules) -> Result:
    material, length_mm = str(values["material"]), number(values, "length_mm")
    thickness_mm, width_mm = number(values, "thickness_mm"), number(values, "width_mm")
    conductor = strip_conductor(material, thickness_mm, width_mm, length_mm, rules)
    worked = said(
        "worked-of-strip",
        ohm_m=f"{STRIP_OHM_M[material]:.3g}",
        length=plain(length_mm),
        thickness=plain(thickness_mm),
        width=plain(width_mm),
    )
    return _carried(conductor, number(values, "current_a"), worked, "strip")


_CONDUCTOR_OUT = (
    Output("drop_v", "V", said("output-lost-along-way"), 3),
    Output("heat_w", "W", said("output-heat"), 2),
    Output("mohm", "mΩ", said("output-resistance"), 2),
)
_AMPERES = Input("current_a", "A", said("input-current"), example="2")
_MODULE_IN = (
    Input("k_v", "V", said("input-constant-of-modules-chip"), example="1200"),
    Input("r1_ohm", "Ω", said("input-programming-resistor"), example="1200"),
    Input("r2_ohm", "Ω", said("input-second-resistor-beside-it"), optional=True),
)
_CHIPS = Ground(said("rests-on-k-is-1000-to-1200-v"), Kind.STANDARD, limits.DATA_SHEETS)

SUMS = (
    Sum(
        "load-resistor", said("sum-load-resistor"), said("sum-load-resistor-purpose"),
        (
            Input("u_v", "V", said("input-voltage-of-cell-full"), example="4.2"),
            Input("r_load_ohm", "Ω", said("input-load-resistor"), example="6.8"),
            Input("r_shunt_ohm", "Ω", said("input-shunt-or-leads-in-series"), "zero-or-more", example="1"),
        ),
        (
            Output("current_a", "A", said("output-current"), 3), Output("power_load_w", "W", said("output-heat-in-load"), 2),
            Output("power_shunt_w", "W", said("output-heat-in-shunt"), 2), Output("rating_w", "W", said("output-rating-to-buy-at-least"), 1),
        ),
        (PHYSICS, Ground(said("rests-on-twice-power-as-rating"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _load_resistor,
    ),
    Sum(
        "program-resistor", said("sum-program-resistor"), said("sum-program-resistor-purpose"),
        (*_MODULE_IN, Input("u_in_v", "V", said("input-supply"), example="5"), Input("u_cell_v", "V", said("input-voltage-of-cell"), example="3.0")),
        (
            Output("current_ma", "mA", said("output-charge-current"), 0), Output("end_current_ma", "mA", said("output-it-ends-below"), 0),
            Output("chip_heat_w", "W", said("output-heat-in-chip"), 2),
        ),
        (PHYSICS, _CHIPS), _program_resistor,
    ),
    Sum(
        "end-current-trap", said("sum-end-current-trap"), said("sum-end-current-trap-purpose"),
        (*_MODULE_IN, Input("load_ma", "mA", said("input-what-load-draws-while-it-charges"), "zero-or-more", example="120")),
        (
            Output("current_ma", "mA", said("output-charge-current"), 0), Output("end_current_ma", "mA", said("output-it-ends-below"), 0),
            Output("never_ends", "", said("output-never-ends")),
        ),
        (PHYSICS, _CHIPS), _end_current_trap,
    ),
    Sum(
        "small-cell", said("sum-small-cell"), said("sum-small-cell-purpose"),
        (*_MODULE_IN, Input("capacity_mah", "mAh", said("input-what-cell-holds"), example="550")),
        (
            Output("suits", "", said("output-it-suits")), Output("current_ma", "mA", said("output-charge-current"), 0), Output("charge_c", "C", said("output-charge-current-over-capacity"), 2),
            Output("end_current_ma", "mA", said("output-it-ends-below"), 0), Output("end_c", "C", said("output-end-current-over-capacity"), 2),
            Output("wanted_ohm", "Ω", said("output-programming-resistor-for-0-5-c"), 0),
        ),
        (PHYSICS, _CHIPS, Ground(said("rests-on-0-5-c-as-usual"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _small_cell,
    ),
    Sum(
        "wire", said("sum-wire"), said("sum-wire-purpose"),
        (Input("awg", "", said("input-gauge"), "any", example="20"), Input("length_m", "m", said("input-length-of-conductor"), example="0.5"), _AMPERES),
        _CONDUCTOR_OUT,
        (
            PHYSICS, Ground(said("rests-on-copper-1-72e-8-m"), Kind.STANDARD, limits.IEC_60028),
            Ground(said("rests-on-awg-20-carries-7-5"), Kind.HOUSE, limits.HOUSE_DEFAULT),
        ), _wire,
    ),
    Sum(
        "strip", said("sum-strip"), said("sum-strip-purpose"),
        (
            Input("material", "", said("input-material"), "choice", choices=tuple(STRIP_OHM_M), example="nickel"),
            Input("thickness_mm", "mm", said("input-thickness"), example="0.15"), Input("width_mm", "mm", said("input-width"), example="8"),
            Input("length_mm", "mm", said("input-length"), example="20"), _AMPERES,
        ),
        _CONDUCTOR_OUT,
        (
            PHYSICS, Ground(said("rests-on-nickel-6-99e-8-plated-steel"), Kind.STANDARD, limits.MATERIALS),
            Ground(said("rests-on-0-15-8-mm-of-nickel"), Kind.HOUSE, limits.HOUSE_DEFAULT),
        ), _strip,
    ),
)  # fmt: skip
