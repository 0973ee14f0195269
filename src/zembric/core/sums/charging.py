"""Sums about time: charging, joining, loss on the shelf, run time."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.electric.charging import check_full_v, plan_charge
from zembric.core.electric.joining import join_cells
from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family, Kind
from zembric.core.identify.families import ocv_table, state_of_charge, volts_per_charge
from zembric.core.inputs import (
    FAMILY,
    PHYSICS,
    Ground,
    Input,
    Values,
    family_of,
    maybe,
    number,
    numbers,
)
from zembric.core.measure.self_discharge import fit_slope, line_of
from zembric.core.measure.uncertainty import resolution_u
from zembric.core.said import Amount, Said, named, plain, said
from zembric.core.sums.registry import Line, Output, Picture, RedLine, Result, Sum, beyond

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules

_TABLE = Ground(said("rests-on-generic-table-of-voltage-over-charge"), Kind.HOUSE, limits.HOUSE_DEFAULT)
_DAYS_OF_MONTH = 30


def _charge_time(values: Values, _rules: HouseRules) -> Result:
    family, full_v = family_of(values), number(values, "full_v")
    check_full_v(family, full_v)
    ocv_table(family)
    start_soc, start_v = maybe(values, "start_soc"), maybe(values, "start_v")
    if (start_soc is None) == (start_v is None):
        raise BadInputError(said("say-where-charge-starts"), field="start_soc")
    soc = start_soc if start_soc is not None else state_of_charge(family, start_v or 0.0)
    if not 0 <= soc <= 1:
        raise BadInputError(said("charge-at-start-is", soc=plain(soc)), field="start_soc")
    current_ma, mohm = number(values, "current_ma"), number(values, "mohm")
    capacity_mah = number(values, "capacity_mah")
    plan = plan_charge(capacity_mah, current_ma, full_v, number(values, "end_ma"), soc, mohm, family)
    minutes = tuple(point[0] for point in plan.points)
    return Result(
        {"minutes": plan.minutes, "cc_minutes": plan.cc_minutes, "cv_minutes": plan.cv_minutes},
        said(
            "worked-sum-charge-time",
            cc_minutes=Amount(plan.cc_minutes, ""),
            current=plain(current_ma),
            cv_minutes=Amount(plan.cv_minutes, ""),
            full=plain(full_v),
        ),
        (said("sum-tells-stay-with-it"),),
        Picture(
            named("axis", "minutes"),
            "V",
            (Line(named("line", "voltage"), minutes, tuple(point[2] for point in plan.points)),),
        ),
        _charge_warnings(family, capacity_mah, current_ma, start_v),
    )


def _charge_warnings(
    family: Family, capacity_mah: float, current_ma: float, start_v: float | None
) -> tuple[RedLine, ...]:
    """What is too much for a cell: a current above 1 C, and a start where it must not be charged, or only slowly."""
    most = limits.CHARGE_RATE_MOST_C
    rate = plain(float(f"{current_ma / capacity_mah:.3g}"), "C")
    text = said("red-charge-rate", current=plain(current_ma, "mA"), rate=rate, most=plain(most.value, "C"))
    warnings = beyond("charge-rate", text, current_ma / capacity_mah, most)
    if start_v is None:
        return warnings
    never, slowly = limits.NEVER_CHARGE_BELOW_V[family], limits.PRE_CHARGE_BELOW_V[family]
    if start_v < never.value - 1e-9:
        text = said("sum-tells-cell-that-rests-at-v-must", start=plain(start_v), never=plain(never.value))
        return (*warnings, RedLine("too-low-to-charge", text, start_v, never.value, "V", never.kind, never.source))
    slow_ma = capacity_mah * limits.RECOVERY_C.value
    if start_v < slowly.value - 1e-9 and current_ma > slow_ma * (1 + 1e-9):
        text = said(
            "sum-tells-from-v-it-starts-at-ma", start=plain(start_v), slow=plain(slow_ma), slowly=plain(slowly.value)
        )
        return (
            *warnings,
            RedLine("starts-slowly", text, current_ma, slow_ma, "mA", Kind.HOUSE, limits.RECOVERY_C.source),
        )
    return warnings


def _join(values: Values, rules: HouseRules) -> Result:
    keys = ("ua_v", "ub_v", "ra_mohm", "rb_mohm", "r_ohm", "qa_mah", "qb_mah")
    ua_v, ub_v, ra_mohm, rb_mohm, r_ohm, qa_mah, qb_mah = (number(values, key) for key in keys)
    joined = join_cells(
        ua_v, ub_v, ra_mohm, rb_mohm, r_ohm, qa_mah, qb_mah, family_of(values), number(values, "within_v")
    )
    minutes = tuple(point[0] for point in joined.points)
    cautions: list[Said] = []
    if r_ohm == 0 and joined.peak_a > rules.value(limits.JOIN_GENTLE_A):
        cautions.append(said("sum-tells-at-first-touch", peak=Amount(joined.peak_a, "", 1)))
    if joined.minutes > rules.value(limits.JOIN_PATIENCE_MIN):
        cautions.append(said("sum-tells-charging-both-to-full-first"))
    return Result(
        {"peak_a": joined.peak_a, "resistor_w": joined.resistor_w, "minutes": joined.minutes, "common_v": joined.common_v},
        said("worked-sum-join", ua=plain(ua_v), ub=plain(ub_v), ra=plain(ra_mohm / 1000), rb=plain(rb_mohm / 1000), r_ohm=plain(r_ohm), peak=Amount(joined.peak_a, "", 3)),
        tuple(cautions),
        Picture(
            named("axis", "minutes"), "V",
            (Line(named("line", "higher-cell"), minutes, tuple(p[1] for p in joined.points)), Line(named("line", "lower-cell"), minutes, tuple(p[2] for p in joined.points))),
        ),
        _join_warnings(family_of(values), joined.peak_a, ub_v, qa_mah, qb_mah, rules),
    )  # fmt: skip


def _join_warnings(
    family: Family, peak_a: float, ub_v: float, qa_mah: float, qb_mah: float, rules: HouseRules
) -> tuple[RedLine, ...]:
    """What the first moment does to either cell: the lower one is charged by it, the higher one drawn from."""
    pre_charge = limits.PRE_CHARGE_BELOW_V[family]
    rate = limits.RECOVERY_C if ub_v < pre_charge.value - 1e-9 else limits.CHARGE_RATE_MOST_C
    takes_a, gives_a = rate.value * qb_mah / 1000, rules.value(limits.NO_SHEET_C) * qa_mah / 1000
    is_taker = takes_a <= gives_a
    most_a, limit = (takes_a, rate) if is_taker else (gives_a, rules.limit(limits.NO_SHEET_C))
    who = named("touch", "taker" if is_taker else "giver")
    text = said(
        "sum-tells-at-first-touch-is-more-than", peak=Amount(peak_a, "", 2), who=who, most=Amount(most_a, "", 2)
    )
    return beyond("joining-current", text, peak_a, limit, most_a, "A")


def _self_discharge(values: Values, rules: HouseRules) -> Result:
    days, volts, resolution_v = numbers(values, "days"), numbers(values, "volts"), number(values, "resolution_v")
    family = family_of(values)
    check_full_v(family, number(values, "full_v"))
    if len(days) != len(volts):
        raise BadInputError(said("there-are-voltages-and-days", count=len(volts), days=len(days)), field="volts")
    if min(days) < 0:
        raise BadInputError(said("day-cannot-lie-below-zero"), field="days")
    if min(volts) <= 0 or max(volts) > limits.CELL_MOST_V.value:
        raise BadInputError(said("voltage-lies-above-0", cell_most=plain(limits.CELL_MOST_V.value)), field="volts")
    from_day = rules.of(limits.RELAXATION_H, family) / 24
    kept = sorted(
        (d, v) for d, v in zip(days, volts, strict=True) if d >= from_day and not _still_settles(family, v, rules)
    )
    slope = fit_slope([d for d, _ in kept], [v for _, v in kept], [resolution_v] * len(kept), rules)
    points = [Line(named("line", "readings"), days, volts, as_points=True)]
    if slope.mv_per_day is None or slope.error_mv_per_day is None:
        left = len(days) - len(kept)
        return Result(
            {"mv_per_day": None, "error_mv_per_day": None, "pct_per_month": None, "verdict": "too early"},
            said("worked-sum-readings", count=len(kept), left=left),
            (said("sum-tells-measure-again-later"),),
            Picture(named("axis", "days-since-charge"), "V", tuple(points)),
        )
    mean_v = sum(v for _, v in kept) / len(kept)
    try:
        month_pct = 100 * _DAYS_OF_MONTH * slope.mv_per_day / 1000 / volts_per_charge(family, mean_v)
    except BadInputError:  # titanate has no table
        month_pct = None
    line = line_of([d for d, _ in kept], [v for _, v in kept], [resolution_u(resolution_v)] * len(kept), slope)
    points.append(Line(named("line", "fit"), line.days, line.volts, line.low_v, line.high_v))
    return Result(
        {
            "mv_per_day": slope.mv_per_day, "error_mv_per_day": slope.error_mv_per_day, "pct_per_month": month_pct,
            "verdict": slope.verdict.replace("-", " "),
        },
        said(
            "worked-sum-self-discharge",
            loss=Amount(slope.mv_per_day, "", 2),
            error=Amount(slope.error_mv_per_day, "mV", 2),
            count=len(kept),
            left=len(days) - len(kept),
        ),
        (said("sum-tells-it-rises-which-is-no-loss"),) if slope.rises else (),
        picture=Picture(named("axis", "days-since-charge"), "V", tuple(points)),
    )  # fmt: skip


def _still_settles(family: Family, value_v: float, rules: HouseRules) -> bool:
    return family is Family.IRON_PHOSPHATE and value_v > rules.value(limits.FLAT_SETTLES_ABOVE_V) + 1e-9


def _slope_wait(values: Values, _rules: HouseRules) -> Result:
    resolution_v, limit = number(values, "resolution_v"), number(values, "limit_mv_per_day")
    days = limits.WAIT_RESOLUTIONS.value * 1000 * resolution_v / limit
    digits = 1 if days < _WHOLE_DAYS_FROM else 0
    return Result(
        {"days": days},
        said(
            "worked-sum-slope-wait",
            times=plain(limits.WAIT_RESOLUTIONS.value),
            digit=plain(1000 * resolution_v, "mV"),
            limit=plain(limit, "mV"),
            days=Amount(days, "", digits),
        ),
    )


def _run_time(values: Values, _rules: HouseRules) -> Result:
    capacity_ah, mean_v = number(values, "capacity_mah") / 1000, number(values, "mean_v")
    load, value = str(values["load"]), number(values, "value")
    if load == "current":
        return Result(
            {"hours": capacity_ah / value},
            said(
                "worked-sum-run-time-2",
                capacity_ah=plain(capacity_ah),
                value=plain(value),
                hours=Amount(capacity_ah / value, "", 2),
            ),
        )
    if load == "resistor":
        hours = capacity_ah * value / mean_v
        return Result(
            {"hours": hours},
            said(
                "worked-sum-run-time-3",
                capacity_ah=plain(capacity_ah),
                value=plain(value),
                mean=plain(mean_v),
                hours=Amount(hours, "", 2),
            ),
        )
    efficiency = maybe(values, "efficiency")
    if efficiency is None:
        raise BadInputError(
            said("efficiency-is-missing"),
            code="missing-key",
            field="efficiency",
        )
    hours = capacity_ah * mean_v * efficiency / value
    return Result(
        {"hours": hours},
        said(
            "worked-sum-run-time",
            capacity_ah=plain(capacity_ah),
            mean=plain(mean_v),
            efficiency=plain(efficiency),
            value=plain(value),
            hours=Amount(hours, "", 2),
        ),
    )


#: From here on a tenth of a day says nothing more.
_WHOLE_DAYS_FROM = 10

SUMS = (
    Sum(
        "charge-time", said("sum-charge-time"), said("sum-charge-time-purpose"),
        (
            Input("capacity_mah", "mAh", said("input-capacity"), example="2400"), Input("current_ma", "mA", said("input-charge-current"), example="1000"),
            Input("full_v", "V", said("input-full-voltage"), example="4.2"), Input("end_ma", "mA", said("input-it-ends-below"), example="100"),
            Input("start_soc", "", said("input-charge-at-start-0-to-1"), "zero-or-more", optional=True, example="0.2"),
            Input("start_v", "V", said("input-or-resting-voltage-at-start"), optional=True),
            Input("mohm", "mΩ", said("input-resistance"), example="60"), FAMILY,
        ),
        (
            Output("minutes", "min", said("output-together"), 0), Output("cc_minutes", "min", said("output-at-constant-current"), 0),
            Output("cv_minutes", "min", said("output-at-constant-voltage"), 0),
        ),
        (PHYSICS, _TABLE), _charge_time,
    ),
    Sum(
        "join", said("sum-join"), said("sum-join-purpose"),
        (
            Input("ua_v", "V", said("input-voltage-of-higher-cell"), example="4.1"), Input("ub_v", "V", said("input-voltage-of-lower-cell"), example="3.8"),
            Input("ra_mohm", "mΩ", said("input-resistance-of-higher-cell"), example="50"), Input("rb_mohm", "mΩ", said("input-resistance-of-lower-cell"), example="50"),
            Input("r_ohm", "Ω", said("input-resistor-between-them"), "zero-or-more", example="10"),
            Input("qa_mah", "mAh", said("input-capacity-of-higher-cell"), example="2400"), Input("qb_mah", "mAh", said("input-capacity-of-lower-cell"), example="2400"),
            FAMILY, Input("within_v", "V", said("input-even-enough-within"), example="0.02"),
        ),
        (
            Output("minutes", "min", said("output-until-even-enough"), 0), Output("peak_a", "A", said("output-at-first-moment"), 3),
            Output("resistor_w", "W", said("output-heat-in-resistor"), 2), Output("common_v", "V", said("output-they-meet-at"), 3),
        ),
        (PHYSICS, _TABLE), _join,
    ),
    Sum(
        "self-discharge", said("sum-self-discharge"), said("sum-self-discharge-purpose"),
        (
            Input("days", "d", said("input-since-end-of-charge"), "list", example="0,7,14"), Input("volts", "V", said("input-resting-voltages"), "list", example="4.18,4.175,4.17"),
            Input("resolution_v", "V", said("input-last-digit-of-meter"), example="0.001"), Input("full_v", "V", said("input-charged-to"), example="4.2"), FAMILY,
            Input("capacity_mah", "mAh", said("input-capacity"), example="2400"),
        ),
        (
            Output("mv_per_day", "mV/d", said("output-loss"), 2), Output("error_mv_per_day", "mV/d", said("output-standard-error"), 2),
            Output("pct_per_month", "%", said("output-of-its-capacity-in-30-days"), 1), Output("verdict", "", said("output-verdict")),
        ),
        (Ground(said("rests-on-least-squares"), Kind.STANDARD, limits.GUM), Ground(said("rests-on-leaking-above-5-watch-above-2"), Kind.HOUSE, limits.HOUSE_DEFAULT), _TABLE),
        _self_discharge,
    ),
    Sum(
        "slope-wait", said("sum-slope-wait"), said("sum-slope-wait-purpose"),
        (Input("resolution_v", "V", said("input-last-digit-of-meter"), example="0.01"), Input("limit_mv_per_day", "mV/d", said("input-loss-to-be-told"), example="2")),
        (Output("days", "d", said("output-to-wait"), 1),), (Ground(said("rests-on-three-last-digits"), Kind.PHYSICS, limits.RESOLUTION_AGAINST_SLOPE),), _slope_wait,
    ),
    Sum(
        "run-time", said("sum-run-time"), said("sum-run-time-purpose"),
        (
            Input("capacity_mah", "mAh", said("input-capacity"), example="4800"), Input("mean_v", "V", said("input-mean-voltage"), example="3.6"),
            Input("load", "", said("input-load-draws-constant"), "choice", choices=("current", "power", "resistor"), example="power"),
            Input("value", "A, W or Ω", said("input-how-much"), example="5"),
            Input("efficiency", "", said("input-of-converter-for-power"), "share", optional=True, example="0.9"),
        ),
        (Output("hours", "h", said("output-run-time"), 2),), (PHYSICS,), _run_time,
    ),
)  # fmt: skip
