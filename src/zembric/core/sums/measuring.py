"""Sums about what was measured: resistances, capacities, testers, limits."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.inputs import PHYSICS, Ground, Input, Values, number, numbers
from zembric.core.measure.formulas import (
    compare_pct,
    two_current_mohm,
    two_current_u_mohm,
    two_voltage_mohm,
    two_voltage_u_mohm,
    usb_linear_mah,
)
from zembric.core.measure.uncertainty import probability_below, sureness
from zembric.core.said import Amount, Said, plain, said
from zembric.core.sums.registry import Output, Result, Sum

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules

_RESOLUTION = Input("resolution_v", "V", said("input-last-digit-of-meter"), example="0.01")
_GUM = Ground(said("rests-on-resolution-12-allowances-as-half-widths"), Kind.STANDARD, limits.GUM)


def _two_voltage(values: Values, rules: HouseRules) -> Result:
    rest_v, load_v, load_ohm = number(values, "u_rest_v"), number(values, "u_load_v"), number(values, "r_load_ohm")
    mohm = two_voltage_mohm(rest_v, load_v, load_ohm)
    u_mohm = two_voltage_u_mohm(rest_v, load_v, load_ohm, number(values, "resolution_v"), rules)
    return Result(
        {"mohm": mohm, "uncertainty_mohm": u_mohm},
        said(
            "worked-sum-two-voltage",
            load_ohm=plain(load_ohm),
            rest=plain(rest_v),
            load=plain(load_v),
            mohm=Amount(mohm, "", 1),
        ),
        _blind(mohm, u_mohm, rules),
    )


def _blind(mohm: float, u_mohm: float, rules: HouseRules) -> tuple[Said, ...]:
    if u_mohm < rules.value(limits.METER_SEES_SHARE) * mohm:
        return ()
    return (said("sum-tells-this-meter-hardly-sees-it"),)


def _two_current(values: Values, rules: HouseRules) -> Result:
    u1_v, i1_a, u2_v, i2_a = (number(values, key) for key in ("u1_v", "i1_a", "u2_v", "i2_a"))
    mohm = two_current_mohm(u1_v, i1_a, u2_v, i2_a)
    u_mohm = two_current_u_mohm(i1_a, i2_a, number(values, "resolution_v"))
    return Result(
        {"mohm": mohm, "uncertainty_mohm": u_mohm},
        said(
            "worked-sum-two-current",
            u1=plain(u1_v),
            u2=plain(u2_v),
            i2=plain(i2_a),
            i1=plain(i1_a),
            mohm=Amount(mohm, "", 1),
        ),
        _blind(mohm, u_mohm, rules),
    )


def _usb_linear(values: Values, _rules: HouseRules) -> Result:
    meter_mah, draw_ma, hours = number(values, "meter_mah"), number(values, "module_draw_ma"), number(values, "hours")
    capacity_mah = usb_linear_mah(meter_mah, draw_ma, hours)
    return Result(
        {"capacity_mah": capacity_mah, "energy_mwh": capacity_mah * number(values, "mean_v")},
        said(
            "worked-sum-usb-linear",
            meter=plain(meter_mah),
            draw=plain(draw_ma),
            hours=plain(hours),
            capacity=Amount(capacity_mah, ""),
        ),
        (said("sum-tells-use-meters-mah-not-its-wh"),),
    )


def _usb_switching(values: Values, _rules: HouseRules) -> Result:
    meter_mwh, efficiency, mean_v = number(values, "meter_mwh"), number(values, "efficiency"), number(values, "mean_v")
    capacity_mah = meter_mwh * efficiency / mean_v
    return Result(
        {"capacity_mah": capacity_mah},
        said(
            "worked-sum-usb-switching",
            meter_mwh=plain(meter_mwh),
            efficiency=plain(efficiency),
            mean=plain(mean_v),
            capacity=Amount(capacity_mah, ""),
        ),
    )


def _usb_step_up(values: Values, _rules: HouseRules) -> Result:
    meter_mwh, efficiency, mean_v = number(values, "meter_mwh"), number(values, "efficiency"), number(values, "mean_v")
    capacity_mah = meter_mwh / (efficiency * mean_v)
    return Result(
        {"capacity_mah": capacity_mah},
        said(
            "worked-sum-usb-step-up",
            meter_mwh=plain(meter_mwh),
            efficiency=plain(efficiency),
            mean=plain(mean_v),
            capacity=Amount(capacity_mah, ""),
        ),
    )


def _compare_testers(values: Values, _rules: HouseRules) -> Result:
    a, b = numbers(values, "a"), numbers(values, "b")
    difference, error = compare_pct(a, b)
    significant = abs(difference) > 2 * error
    return Result(
        {"difference_pct": difference, "error_pct": error, "significant": significant},
        said(
            "worked-sum-compare-testers",
            difference=f"{difference:+.2f}",
            error=Amount(error, "%", 2),
            count=len(a),
        ),
    )


def _below(values: Values, rules: HouseRules) -> Result:
    value, limit, u = number(values, "value"), number(values, "limit"), number(values, "uncertainty")
    probability = probability_below(value, limit, u)
    return Result(
        {"probability": probability, "sure": sureness(value, limit, u, rules)},
        said(
            "worked-sum-below",
            limit=plain(limit),
            value=plain(value),
            u=plain(u),
            probability=Amount(probability, "", 3),
        )
        if u
        else said("worked-sum-below-2", value=plain(value), limit=plain(limit)),
    )


_MEAN_V = Input("mean_v", "V", said("input-mean-voltage-of-cell-while-charged"), example="3.8")
_CAPACITY_OUT = (Output("capacity_mah", "mAh", said("output-capacity-of-cell"), 0),)
_EFFICIENCY = Input("efficiency", "", said("input-efficiency-of-converter"), "share", example="0.88")
_RESISTANCE_OUT = (
    Output("mohm", "mΩ", said("output-resistance"), 1),
    Output("uncertainty_mohm", "mΩ", said("output-standard-uncertainty"), 1),
)

SUMS = (
    Sum(
        "two-voltage", said("sum-two-voltage"), said("sum-two-voltage-purpose"),
        (
            Input("u_rest_v", "V", said("input-at-rest"), example="3.92"), Input("u_load_v", "V", said("input-with-resistor-on"), example="3.80"),
            Input("r_load_ohm", "Ω", said("input-resistor"), example="4.7"), _RESOLUTION,
        ),
        _RESISTANCE_OUT, (PHYSICS, _GUM, Ground(said("rests-on-5-for-resistor"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _two_voltage,
    ),
    Sum(
        "two-current", said("sum-two-current"), said("sum-two-current-purpose"),
        (
            Input("u1_v", "V", said("input-at-small-current"), example="3.85"), Input("i1_a", "A", said("input-small-current"), "zero-or-more", example="0.5"),
            Input("u2_v", "V", said("input-at-large-current"), example="3.78"), Input("i2_a", "A", said("input-large-current"), example="2.0"), _RESOLUTION,
        ),
        _RESISTANCE_OUT, (PHYSICS, _GUM, Ground(said("rests-on-0-2-c-for-10-s"), Kind.STANDARD, limits.IEC_61960_3)), _two_current,
    ),
    Sum(
        "usb-linear", said("sum-usb-linear"), said("sum-usb-linear-purpose"),
        (
            Input("meter_mah", "mAh", said("input-counted-by-meter"), example="2450"), Input("module_draw_ma", "mA", said("input-modules-own-current"), "zero-or-more", example="4"),
            Input("hours", "h", said("input-how-long-it-took"), example="3.5"), _MEAN_V,
        ),
        (*_CAPACITY_OUT, Output("energy_mwh", "mWh", said("output-energy-into-cell"), 0)),
        (PHYSICS, Ground(said("rests-on-modules-draw-2-to-5-ma"), Kind.STANDARD, limits.DATA_SHEETS)), _usb_linear,
    ),
    Sum(
        "usb-switching", said("sum-usb-switching"), said("sum-usb-switching-purpose"),
        (Input("meter_mwh", "mWh", said("input-counted-by-meter"), example="10500"), _EFFICIENCY, _MEAN_V),
        _CAPACITY_OUT, (PHYSICS, Ground(said("rests-on-efficiency-0-85-to-0-92"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _usb_switching,
    ),
    Sum(
        "usb-step-up", said("sum-usb-step-up"), said("sum-usb-step-up-purpose"),
        (Input("meter_mwh", "mWh", said("input-counted-by-meter"), example="7200"), Input("efficiency", "", said("input-efficiency-of-converter"), "share", example="0.87"), Input("mean_v", "V", said("input-mean-voltage-of-cell"), example="3.7")),
        _CAPACITY_OUT, (PHYSICS, Ground(said("rests-on-efficiency-0-85-to-0-9"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _usb_step_up,
    ),
    Sum(
        "compare-testers", said("sum-compare-testers"), said("sum-compare-testers-purpose"),
        (
            Input("a", "", said("input-readings-of-first-tester-cell"), "list", example="2100,905,1480"),
            Input("b", "", said("input-readings-of-second-on-same-cells"), "list", example="2080,890,1455"),
        ),
        (
            Output("difference_pct", "%", said("output-second-against-first"), 2), Output("error_pct", "%", said("output-standard-error"), 2),
            Output("significant", "", said("output-more-than-chance")),
        ),
        (Ground(said("rests-on-at-least-3-cells"), Kind.HOUSE, limits.HOUSE_DEFAULT), Ground(said("rests-on-standard-error-of-mean"), Kind.STANDARD, limits.GUM)), _compare_testers,
    ),
    Sum(
        "below", said("sum-below"), said("sum-below-purpose"),
        (
            Input("value", "", said("input-measured"), "any", example="1490"), Input("limit", "", said("input-limit"), "any", example="1485"),
            Input("uncertainty", "", said("input-standard-uncertainty"), "zero-or-more", example="25"),
        ),
        (Output("probability", "", said("output-probability-to-lie-below"), 3), Output("sure", "", said("output-how-sure"))),
        (Ground(said("rests-on-normal-distribution"), Kind.STANDARD, limits.GUM), Ground(said("rests-on-sure-from-95-likely-from-75"), Kind.HOUSE, limits.HOUSE_DEFAULT)), _below,
    ),
)  # fmt: skip
