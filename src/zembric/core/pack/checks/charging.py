"""The charger of a pack: what it ends at, how fast, from which supply, how warm, and what hangs on it meanwhile."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.electric.charging import plan_charge
from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.identify.families import has_ocv_table
from zembric.core.pack.checks.model import Check, CheckState, amount, bench_sum, of_limit
from zembric.core.said import named, said

if TYPE_CHECKING:
    from collections.abc import Iterator

    from zembric.core.pack.checks.model import Checked
    from zembric.core.pack.parts import Charger


def check_charging(checked: Checked) -> Iterator[Check]:
    """All about the charger; that there is none said is a stop that can be waived."""
    charger = checked.plan.charger
    if charger is None:
        yield Check("charger", "stop", said("worked-charger-none"), mend=said("mend-charger"), may_be_waived=True)
        return
    yield _full(checked, charger)
    yield _current(checked, charger)
    yield from _hours(checked, charger)
    yield from _supply(checked, charger)
    if charger.charger_kind in ("linear-module", "singly"):
        yield _heat(checked, charger)
    yield from _while_used(checked, charger)
    yield Check(
        "lamp", "holds" if charger.lamp == "known" else "look", named("worked-lamp", charger.lamp),
        mend=None if charger.lamp == "known" else said("mend-lamp"),
    )  # fmt: skip
    yield from _cold(checked, charger)


def groups_at_once(checked: Checked, charger: Charger) -> int:
    """How many groups in series hang on the charger: all, or one where each is charged singly."""
    return 1 if charger.charger_kind in ("singly", "linear-module") else checked.series


def end_ma(charger: Charger) -> float:
    """Where the charge ends [mA]; modules end at a tenth."""
    return charger.end_ma or charger.current_ma * limits.MODULE_END_SHARE.value


def _full(checked: Checked, charger: Charger) -> Check:
    """Never another's full voltage: above it burns, below it is a part charge."""
    series = groups_at_once(checked, charger)
    wanted_v = series * checked.cell_full_v
    within_v = series * limits.CHARGED_WITHIN_V.value
    wrong = charger.charger_kind == "linear-module" and checked.series > 1
    above = charger.full_v > wanted_v + within_v + 1e-9
    below = charger.full_v < wanted_v - within_v - 1e-9
    state: CheckState = "stop" if wrong or above else "look" if below else "holds"
    variant = "series" if wrong else "above" if above else "below" if below else "right"
    return Check(
        "charger-full", state,
        said(
            f"worked-charger-full-{variant}", ends=amount(charger.full_v, "V", 2), series=series,
            cell=amount(checked.cell_full_v, "V", 2), wanted=amount(wanted_v, "V", 2), within=amount(within_v, "V", 2),
            groups=checked.series,
        ),
        amount(charger.full_v, "V", 2), amount(wanted_v, "V", 2), Kind.STANDARD,
        None if state == "holds" else named("mend-charger-full", variant),
    )  # fmt: skip


def _weakest_mah(checked: Checked) -> float:
    return checked.weakest_mah


def _current(checked: Checked, charger: Charger) -> Check:
    weakest_mah = _weakest_mah(checked)
    rate_c = charger.current_ma / weakest_mah
    usual_c, most_c = limits.CHARGE_RATE_C.value, limits.CHARGE_RATE_MOST_C.value
    state: CheckState = "holds" if rate_c <= usual_c + 1e-9 else "stop"
    is_never = rate_c > most_c + 1e-9
    limit = limits.CHARGE_RATE_MOST_C if is_never else limits.CHARGE_RATE_C
    return Check(
        "charger-current", state,
        said("worked-charger-current", current=amount(charger.current_ma, "mA", 0), weakest=amount(weakest_mah, "mAh", 0), rate=amount(rate_c, "C", 2)),
        amount(rate_c, "C", 2), **of_limit(limit),
        mend=None if state == "holds" else said("mend-charger-current", most=amount(usual_c * weakest_mah, "mA", 0)),
        may_be_waived=not is_never,
    )  # fmt: skip


def _hours(checked: Checked, charger: Charger) -> Iterator[Check]:
    """From empty: constant current, then constant voltage, the largest group as it takes longest."""
    full_v = charger.full_v / groups_at_once(checked, charger)
    if not has_ocv_table(checked.family):
        return
    largest = max(checked.groups, key=lambda group: sum(cell.capacity_mah for cell in group))
    capacity_mah = sum(cell.capacity_mah for cell in largest)
    siemens = sum(1 / cell.resistance_mohm for cell in largest if cell.resistance_mohm)
    if not siemens:
        return
    try:
        plan = plan_charge(capacity_mah, charger.current_ma, full_v, end_ma(charger), 0.0, 1 / siemens, checked.family)
    except BadInputError:
        return  # another's full voltage: that is told in a line of its own
    hours = plan.minutes / 60
    yield Check(
        "charge-hours", "holds",
        said("worked-charge-hours", hours=amount(hours, "h", 1), cc=amount(plan.cc_minutes / 60, "h", 1), cv=amount(plan.cv_minutes / 60, "h", 1), current=amount(charger.current_ma, "mA", 0)),
        amount(hours, "h", 1),
        bench_sum=bench_sum(
            "charge-time", capacity_mah=capacity_mah, current_ma=charger.current_ma, full_v=full_v, end_ma=end_ma(charger),
            start_soc=0, mohm=1 / siemens, family=checked.family.value,
        ),
    )  # fmt: skip


def _supply(checked: Checked, charger: Charger) -> Iterator[Check]:
    """The voltage of the supply, and its current with some to spare."""
    series = groups_at_once(checked, charger)
    if charger.charger_kind == "linear-module":
        least, most = limits.MODULE_SUPPLY_LEAST_V, limits.MODULE_SUPPLY_MOST_V
        is_in = least.value - 1e-9 <= charger.supply_v <= most.value + 1e-9
        is_above = charger.supply_v > most.value
        yield Check(
            "supply-volts", "holds" if is_in else "stop" if is_above else "look",
            said("worked-supply-volts", supply=amount(charger.supply_v, "V", 1), least=amount(least.value, "V", 1), most=amount(most.value, "V", 1)),
            amount(charger.supply_v, "V", 1), **of_limit(most if is_above else least, digits=1),
            mend=None if is_in else said("mend-supply-volts"),
        )  # fmt: skip
    elif charger.charger_kind != "singly":
        is_below = charger.supply_v < charger.full_v
        yield Check(
            "supply-volts", "look" if is_below else "holds",
            said("worked-supply-below" if is_below else "worked-supply-above", supply=amount(charger.supply_v, "V", 1), full=amount(charger.full_v, "V", 1)),
            amount(charger.supply_v, "V", 1), amount(charger.full_v, "V", 1), mend=said("mend-supply-below") if is_below else None,
        )  # fmt: skip
    if charger.supply_ma is None:
        return
    share = checked.rules.value(limits.SUPPLY_SHARE)
    times = checked.series if charger.charger_kind == "singly" else 1
    if charger.charger_kind == "linear-module":
        in_ma, eta = charger.current_ma, 1.0
    else:
        eta = checked.rules.value(limits.STEP_DOWN_EFFICIENCY)
        in_ma = series * checked.cell_full_v * charger.current_ma / (eta * charger.supply_v) * times
    most_ma = share * charger.supply_ma
    is_above = in_ma > most_ma * (1 + 1e-9)
    yield Check(
        "supply-current", "stop" if is_above else "holds",
        said("worked-supply-current", taken=amount(in_ma, "mA", 0), supply=amount(charger.supply_ma, "mA", 0), share=amount(share, "", 2), most=amount(most_ma, "mA", 0)),
        amount(in_ma, "mA", 0), **of_limit(limits.SUPPLY_SHARE, most_ma, "mA", 0),
        mend=said("mend-supply-current") if is_above else None, may_be_waived=True,
    )  # fmt: skip


def _heat(checked: Checked, charger: Charger) -> Check:
    """A linear module burns the difference; most at first, with an empty cell."""
    empty_v = limits.PRE_CHARGE_BELOW_V[checked.family].value
    heat_w = (charger.supply_v - empty_v) * charger.current_ma / 1000
    most_w = checked.rules.value(limits.MODULE_THROTTLES_W)
    is_above = heat_w > most_w + 1e-9
    return Check(
        "module-heat", "look" if is_above else "holds",
        said("worked-module-heat", supply=amount(charger.supply_v, "V", 1), cell=amount(empty_v, "V", 1), current=amount(charger.current_ma, "mA", 0), heat=amount(heat_w, "W", 1)),
        amount(heat_w, "W", 1), **of_limit(limits.MODULE_THROTTLES_W, most_w, digits=1),
        mend=said("mend-module-heat") if is_above else None,
    )  # fmt: skip


def _while_used(checked: Checked, charger: Charger) -> Iterator[Check]:
    """A load that stays on and takes more than the end current keeps the charge from ever ending."""
    if charger.while_used == "no":
        return
    ends_ma = end_ma(charger)
    if charger.while_used == "unknown":
        yield Check(
            "charging-while-used",
            "look",
            said("worked-while-used-unknown", ends=amount(ends_ma, "mA", 0)),
            mend=said("mend-while-used-unknown"),
        )
        return
    if checked.runs is None:
        yield Check(
            "charging-while-used",
            "look",
            said("worked-while-used-no-run", ends=amount(ends_ma, "mA", 0)),
            mend=said("mend-run-time"),
        )
        return
    load_ma = 1000 * checked.runs.paper.over_time.load_a[0]
    floats = load_ma >= ends_ma
    yield Check(
        "charging-while-used", "stop" if floats else "holds",
        said("worked-while-used", load=amount(load_ma, "mA", 0), ends=amount(ends_ma, "mA", 0)),
        amount(load_ma, "mA", 0), amount(ends_ma, "mA", 0), Kind.STANDARD, said("mend-while-used") if floats else None,
    )  # fmt: skip


def _cold(checked: Checked, charger: Charger) -> Iterator[Check]:
    room = charger.room_degc
    if room is None or room >= limits.COLD_BELOW_DEGC.value:
        return
    rate_c = charger.current_ma / _weakest_mah(checked)
    is_freezing = room < limits.NEVER_CHARGE_BELOW_DEGC.value
    is_fast = rate_c > limits.COLD_CHARGE_C.value + 1e-9
    limit = limits.NEVER_CHARGE_BELOW_DEGC if is_freezing else limits.COLD_CHARGE_C
    most_ma = limits.COLD_CHARGE_C.value * _weakest_mah(checked)
    worked = said("worked-cold", room=amount(room, "°C", 0), rate=amount(rate_c, "C", 2), most=amount(most_ma, "mA", 0))
    if is_freezing:
        worked = said("worked-cold-freezing", room=amount(room, "°C", 0))
    mend = said("mend-cold-freezing") if is_freezing else said("mend-cold", most=amount(most_ma, "mA", 0))
    yield Check(
        "charging-cold", "stop" if is_freezing or is_fast else "holds", worked,
        amount(room, "°C", 0) if is_freezing else amount(rate_c, "C", 2), **of_limit(limit, digits=1),
        mend=mend if is_freezing or is_fast else None,
    )  # fmt: skip
