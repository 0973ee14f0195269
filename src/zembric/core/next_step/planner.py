"""Exactly one next step for a cell, the first that applies, with its reason."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import timedelta
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.electric.charging import plan_charge
from zembric.core.grade.assessment import recovery_due
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.claims import most_mah
from zembric.core.identify.families import as_charged, full_voltage_v, has_ocv_table, state_of_charge
from zembric.core.identify.sizes import read_size
from zembric.core.measure.figures import resistance_by, resistance_times_capacity
from zembric.core.measure.first_voltage import nothing_reached
from zembric.core.next_step.ageing import recheck_due, shelving
from zembric.core.next_step.recovery import RecoveryPlan, plan_recovery
from zembric.core.next_step.steps import NextStep, StepCode
from zembric.core.said import Amount, Said, all_of, named, said, volts
from zembric.core.story import (
    CameBack,
    Inspection,
    SecondLook,
    UnrestedVoltage,
    empties,
    fills,
    latest,
)

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from zembric.core.grade.assessment import Assessment
    from zembric.core.story import Event, Story

#: The figure that a grade hangs on.
Doubtful = Literal["capacity", "resistance", "resistance-under-load"]
#: Currents below this are said in mA.
_SMALL_MA = 100
#: What to say of a step that has taken the place of a wait that is over.
AFTER_WAITING: Mapping[str, Said] = MappingProxyType(
    {
        "measure-capacity": said("step-after-rest-measure-capacity"),
        "measure-voltage": said("step-after-rest-measure-voltage"),
        "recheck": said("step-recheck"),
    }
)


def next_step(assessed: Assessment, now: datetime) -> NextStep:
    """The first step of the table that applies, with how long it takes, what it needs and when it is overdue."""
    for rule in STEP_RULES:
        step = rule.choose(assessed, now)
        if step:
            minutes = rule.minutes(assessed) if callable(rule.minutes) else rule.minutes
            return replace(step, minutes=minutes, needs=rule.needs, cautions=rule.cautions)
    raise AssertionError("the last rule of the table always applies")


def believed_capacity_mah(assessed: Assessment) -> float:
    """What a cell is taken to hold [mAh]: the least of measured, rated, and what its size can; unknown: by its size.

    A claim is never believed.
    """
    facts, rules = assessed.story.facts, assessed.rules
    known = [value for value in (assessed.capacity and assessed.capacity.value_mah, facts.rated_capacity_mah) if value]
    if not known:
        is_large = assessed.size is None or assessed.size.volume_cm3 >= read_size("18650").volume_cm3 - 1e-9
        unknown_ma = limits.CHARGE_UNKNOWN_LARGE_MA if is_large else limits.CHARGE_UNKNOWN_SMALL_MA
        known = [rules.value(unknown_ma) / limits.CHARGE_RATE_C.value]
    fits_mah = most_mah(assessed.size, facts.family, rules, facts.mass_g) if assessed.size else None
    return min([*known, fits_mah] if fits_mah else known)


@dataclass(frozen=True, slots=True)
class ChargeSetting:
    """What to set a charger to: current [mA] and full voltage [V], and a smaller current to start with where it is low."""

    current_ma: float
    full_v: float | None
    start_ma: float | None
    start_until_v: float | None
    cold_ma: float


def charge_setting(assessed: Assessment) -> ChargeSetting:
    """Half of what it is believed to hold, at most what its sheet allows; a tenth until a low cell has passed pre-charge."""
    facts = assessed.story.facts
    believed_mah, sheet_ma = believed_capacity_mah(assessed), facts.most_charge_ma or math.inf
    current_ma = min(believed_mah * limits.CHARGE_RATE_C.value, sheet_ma)
    family = as_charged(facts.family)
    pre_charge_v = limits.PRE_CHARGE_BELOW_V[family].value if family and family in limits.PRE_CHARGE_BELOW_V else None
    last_v = assessed.voltages[-1].value_v if assessed.voltages else None
    is_low = pre_charge_v is not None and last_v is not None and last_v < pre_charge_v - 1e-9
    start_ma = min(believed_mah * limits.RECOVERY_C.value, current_ma)
    return ChargeSetting(
        current_ma,
        full_voltage_v(facts.family, facts.full_v),
        start_ma if is_low else None,
        pre_charge_v if is_low else None,
        min(believed_mah * limits.COLD_CHARGE_C.value, current_ma),
    )


def charge_current_ma(assessed: Assessment) -> float:
    """Current to charge at [mA], once a low cell has passed the pre-charge limit."""
    return charge_setting(assessed).current_ma


def recovery_plan(assessed: Assessment) -> RecoveryPlan | None:
    """The recovery that is due; None where none is."""
    due = recovery_due(assessed.story, assessed.rules)
    if due is None:
        return None
    reading, band = due
    return plan_recovery(reading.value_v, band, assessed.story.facts.family, believed_capacity_mah(assessed))


def last_use(story: Story) -> Event | None:
    """The last event that put charge in or took it out."""
    return next((event for event in reversed(story.events) if fills(event) or empties(event)), None)


def _is_doubtful(assessed: Assessment) -> bool:
    """Whether the grade hangs on a borderline figure that was measured fewer than three times."""
    return (
        not assessed.outs
        and not assessed.overrule
        and assessed.sure == "borderline"
        and doubtful_figure(assessed) is not None
    )


def doubtful_figure(assessed: Assessment) -> Doubtful | None:
    """The borderline figure that was measured fewer than three times; of a cell out by r Q that is its resistance."""
    runs_to_settle = assessed.rules.value(limits.RUNS_TO_SETTLE)
    by_capacity, by_resistance, by_power = assessed.by_capacity, assessed.by_resistance, assessed.by_power
    out_by_resistance = by_resistance is not None and by_resistance.grade == "out"
    capacity_in_doubt = by_capacity is not None and by_capacity.sure == "borderline" and not out_by_resistance
    if capacity_in_doubt and assessed.capacity and assessed.capacity.runs < runs_to_settle:
        return "capacity"
    if by_resistance and by_resistance.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "resistance"
    if by_power and by_power.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "resistance-under-load"
    return None


def _readings_of_resistance(assessed: Assessment) -> int:
    if assessed.resistance is None:
        return 0
    found = resistance_by(assessed.story, assessed.resistance.method, assessed.rules)
    return found.readings if found else 0


def _charge_at(assessed: Assessment) -> Amount | Said:
    """At which current, with the slow start of a low cell before it."""
    setting = charge_setting(assessed)
    at = _amperes(setting.current_ma)
    if setting.start_ma is None or setting.start_until_v is None:
        return at
    return said("charge-begun-low", start=_amperes(setting.start_ma), until=volts(setting.start_until_v), then=at)


def _amperes(current_ma: float) -> Amount:
    if current_ma < _SMALL_MA:
        return Amount(current_ma, "mA")
    return Amount(current_ma / 1000, "A", 2 if current_ma < 1000 else 1)


def _family(assessed: Assessment) -> Family:
    return assessed.story.facts.family or Family.LAYERED_OXIDE


# --- The rules, in their order ---------------------------------------------------------------------------------------


def _fire_safe_box(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.hazards:
        return None
    return NextStep("fire-safe-box", said("step-fire-safe-box"))


def _out_box(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.outs or (assessed.grade == "out" and not _is_doubtful(assessed))):
        return None
    return NextStep("out-box", said("step-out-box"))


def _decide_aside(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.decisions_due:
        return None
    return NextStep("decide", said("step-decide-aside", ground=assessed.decisions_due[0].said))


def _came_back(assessed: Assessment, _now: datetime) -> NextStep | None:
    """Whatever came back, or out of a pack, is looked at and measured before anything else."""
    back = latest(assessed.story.of(CameBack))
    if back is None:
        return None
    how = named("came-back", back.source)
    last_look = latest(assessed.story.of(Inspection))
    if last_look is None or last_look.at <= back.at:
        return NextStep("inspect", said("step-inspect-back", how=how))
    readings = [reading for reading in assessed.voltages if reading.at > back.at]
    if not readings:
        return NextStep("measure-voltage", said("step-measure-voltage-back", how=how))
    return None


def _look_once_more(assessed: Assessment, _now: datetime) -> NextStep | None:
    last_look, sibling = latest(assessed.story.of(Inspection)), latest(assessed.story.of(SecondLook))
    if not (last_look and sibling and last_look.at <= sibling.at):
        return None
    found = all_of("finding", sorted(sibling.findings)) or (said("finding-dangerous"),)
    match sibling.near:
        case "pack":
            look = said("step-look-again-pack", cell=sibling.sibling, findings=found)
        case "place":
            look = said("step-look-again-place", cell=sibling.sibling, findings=found)
        case _:
            look = said("step-look-again-donor", cell=sibling.sibling, findings=found)
    return NextStep("inspect", look)


def _inspect(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.story.of(Inspection):
        return None
    return NextStep("inspect", said("step-inspect"))


def _repair(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.to_mend:
        return None
    return NextStep("repair", said("step-repair", mend=all_of("mend", sorted(assessed.to_mend))))


def _let_settle(assessed: Assessment, now: datetime) -> NextStep | None:
    moving = latest(assessed.story.of(UnrestedVoltage))
    if assessed.voltages or moving is None:
        return None
    settled_at = moving.at + timedelta(minutes=assessed.rules.value(limits.CLIMBING_WAIT_MIN))
    if now >= settled_at:
        return None
    state = named("voltage-state", moving.state)
    return NextStep(
        "rest", said("step-let-settle", voltage=volts(moving.value_v), state=state), settled_at, "measure-voltage"
    )


def _measure_voltage(assessed: Assessment, _now: datetime) -> NextStep | None:
    near_zero = nothing_reached(assessed.story)
    if assessed.voltages and near_zero is None:
        return None
    if near_zero is None:
        text = said("step-measure-voltage")
    elif assessed.story.facts.build == "bare":
        text = said("step-measure-voltage-bare")
    else:
        text = said("step-measure-voltage-wake")
    return NextStep("measure-voltage", text)


def _recover(assessed: Assessment, _now: datetime) -> NextStep | None:
    plan = recovery_plan(assessed)
    if plan is None:
        return None
    return NextStep(
        "recover",
        said(
            "step-recover-watched" if plan.watched else "step-recover-beside",
            found=volts(plan.found_v),
            current=Amount(plan.current_ma, "mA"),
            part=round(1 / plan.rate_c),
            past=volts(plan.past_v),
            minutes=Amount(limits.RECOVERY_MINUTES.value, "min"),
            warmer=Amount(limits.RECOVERY_WARMING_K.value, "K"),
        ),
    )


def _rest_after_recovery(assessed: Assessment, now: datetime) -> NextStep | None:
    recovered = assessed.recovery.pending
    if recovered is None or assessed.recovery.charged_since:
        return None
    settled_at = recovered.at + timedelta(hours=limits.RECOVERY_SETTLES_H.value)
    if now >= settled_at:
        return None
    return NextStep("rest", said("step-rest-after-recovery"), settled_at, "measure-voltage")


def _measure_after_recovery(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.recovery.pending is None or assessed.recovery.charged_since:
        return None
    return NextStep("measure-voltage", said("step-measure-after-recovery"))


def _decide_family(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.story.facts.family is not None:
        return None
    return NextStep("decide", said("step-decide-family"))


def _charge_to_the_end(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.capacity is not None or assessed.history.full_since is not None:
        return None
    full_v, short, at = charge_setting(assessed).full_v, assessed.history.short, _charge_at(assessed)
    if short and full_v:
        text = said("step-charge-again-full", ended=volts(short.end_v), current=at, full=volts(full_v))
    elif short:
        text = said("step-charge-again", ended=volts(short.end_v), current=at)
    elif full_v:
        text = said("step-charge-full", current=at, full=volts(full_v))
    else:
        text = said("step-charge", current=at)
    return NextStep("charge", text)


def _rest_after_charge(assessed: Assessment, now: datetime) -> NextStep | None:
    charge = assessed.history.full_since
    if assessed.capacity is not None or charge is None:
        return None
    rested_at = charge.at + timedelta(minutes=limits.REST_BEFORE_DISCHARGE_MIN.value)
    if now >= rested_at:
        return None
    return NextStep("rest", said("step-rest-after-charge"), rested_at, "measure-capacity")


def _measure_capacity(assessed: Assessment, _now: datetime) -> NextStep | None:
    charge = assessed.history.full_since
    if assessed.capacity is not None or charge is None:
        return None
    cut_off_v = assessed.rules.of(limits.CUT_OFF_V, _family(assessed))
    overdue_at = charge.at + timedelta(days=assessed.rules.value(limits.FULL_STANDS_DAYS))
    return NextStep("measure-capacity", said("step-measure-capacity", cut_off=volts(cut_off_v)), overdue_at=overdue_at)


def _measure_resistance(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.resistance is not None or assessed.story.skipped("resistance"):
        return None
    return NextStep("measure-resistance", said("step-measure-resistance"))


def _measure_resistance_better(assessed: Assessment, _now: datetime) -> NextStep | None:
    resistance, capacity = assessed.resistance, assessed.capacity
    if resistance is None or resistance.method != "tester" or capacity is None:
        return None
    product, _ = resistance_times_capacity(resistance, capacity)
    if product <= assessed.rules.value(limits.RESISTANCE_OUT_OHM_AH["tester"]):
        return None
    return NextStep(
        "measure-resistance", said("step-measure-resistance-better", testers=Amount(resistance.value_mohm, "mΩ"))
    )


def _measure_under_load(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.grade == "not-yet" and "dc-resistance" in assessed.missing):
        return None
    return NextStep("measure-resistance", said("step-measure-under-load"))


def _decide_rated(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.grade == "not-yet" and "rated-value" in assessed.missing):
        return None
    return NextStep("decide", said("step-decide-rated"))


def _repeat(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not _is_doubtful(assessed):
        return None
    doubtful = doubtful_figure(assessed) or "capacity"
    wants_charge = doubtful == "capacity" and assessed.history.full_since is None
    text = said("step-repeat-charged") if wants_charge else said("step-repeat", figure=named("doubtful", doubtful))
    return NextStep("repeat-measurement", text)


def _charge_to_store(assessed: Assessment, _now: datetime) -> NextStep | None:
    use = last_use(assessed.story)
    if use is None or not empties(use):
        return None
    store_v = assessed.rules.of(limits.STORE_AT_V, _family(assessed))
    return NextStep(
        "charge", said("step-charge-to-store", current=_charge_at(assessed), store=volts(store_v)),
        overdue_at=use.at + timedelta(days=assessed.rules.value(limits.EMPTY_STANDS_DAYS)),
    )  # fmt: skip


def _shelve(assessed: Assessment, _now: datetime) -> NextStep | None:
    if shelving(assessed.story) is not None:
        return None
    return NextStep("shelve", said("step-shelve"))


def _recheck(assessed: Assessment, now: datetime) -> NextStep | None:
    due = recheck_due(assessed)
    if now < due:
        return None
    overdue_at = due + timedelta(days=assessed.rules.value(limits.RECHECK_OVERDUE_DAYS))
    return NextStep("recheck", AFTER_WAITING["recheck"], due, overdue_at=overdue_at)


def _keep(assessed: Assessment, _now: datetime) -> NextStep | None:
    return NextStep("keep", said("step-keep"), recheck_due(assessed), "recheck")


# --- How long ---------------------------------------------------------------------------------------------------------


def _charge_minutes(assessed: Assessment) -> float | None:
    """Minutes to full from the last resting voltage; None where no table tells."""
    facts, family = assessed.story.facts, _family(assessed)
    if not has_ocv_table(family):
        return None
    use = last_use(assessed.story)
    reading = assessed.voltages[-1] if assessed.voltages else None
    is_since = reading is not None and (use is None or reading.at >= use.at)
    table_v = reading.value_v if reading and is_since else 0.0
    soc = state_of_charge(family, table_v) if table_v else 0.0
    believed_mah, current_ma = believed_capacity_mah(assessed), charge_current_ma(assessed)
    mohm = (
        assessed.resistance.value_mohm
        if assessed.resistance
        else 1e6 * assessed.rules.value(limits.RESISTANCE_GOOD_OHM_AH) / believed_mah
    )
    full_v = full_voltage_v(family, facts.full_v) or limits.FULL_V[family].value
    end_ma = believed_mah * assessed.rules.value(limits.CHARGE_END_C)
    return plan_charge(believed_mah, current_ma, full_v, min(end_ma, current_ma), soc, mohm, family).minutes


def run_current_ma(assessed: Assessment) -> float:
    """What a tester is set to [mA]: as usual, and for a small cell half of what it holds, to two figures."""
    usual_ma = assessed.rules.value(limits.TESTER_USUAL_MA)
    return float(f"{min(usual_ma, limits.CHARGE_RATE_C.value * believed_capacity_mah(assessed)):.2g}")


def run_cut_off_v(assessed: Assessment) -> float:
    """Down to where a run goes on the bench [V]."""
    family = _family(assessed)
    return assessed.rules.of(limits.CUT_OFF_V, Family.LAYERED_OXIDE if family is Family.PRIMARY else family)


def _run_minutes(assessed: Assessment) -> float:
    """Minutes of a discharge at what testers are usually set to."""
    return 60 * believed_capacity_mah(assessed) / run_current_ma(assessed)


@dataclass(frozen=True, slots=True)
class StepRule:
    """One line of the planner: when it applies, by its key in the catalogue and as code; what it needs, takes, and is ended by."""

    code: StepCode
    key: str
    choose: Callable[[Assessment, datetime], NextStep | None]
    #: Kinds of event that lead on from here, as the open format names them.
    ends_by: tuple[str, ...]
    #: Usual minutes, or how they are worked out for a cell; None: it only takes its time.
    minutes: float | Callable[[Assessment], float | None] | None = None
    needs: Said | None = None
    cautions: tuple[Said, ...] = ()

    @property
    def when(self) -> Said:
        return named("when", self.key)


_CHARGING = (said("caution-on-metal"), said("caution-awake"))
#: The planner: of these rules the first that applies is the next step. Source: house rule, docs/judging.md.
STEP_RULES: tuple[StepRule, ...] = (
    StepRule("fire-safe-box", "hazard", _fire_safe_box, (), 1, said("needs-fire-safe-box"), (said("caution-hands-off"),)),
    StepRule("out-box", "out", _out_box, (), 1, said("needs-tape")),
    StepRule("decide", "decide-aside", _decide_aside, ("decision",), 5, said("needs-coordinator")),
    StepRule("inspect", "came-back", _came_back, ("inspection", "resting-voltage"), 1, said("needs-eyes-gloves-voltmeter")),
    StepRule("inspect", "look-again", _look_once_more, ("inspection",), 1, said("needs-eyes-gloves")),
    StepRule("inspect", "never-inspected", _inspect, ("inspection",), 1, said("needs-eyes-gloves")),
    StepRule("repair", "not-mended", _repair, ("repair",), 5, said("needs-mending")),
    StepRule("rest", "still-moved", _let_settle, ("resting-voltage",)),
    StepRule("measure-voltage", "no-voltage", _measure_voltage, ("resting-voltage",), 1, said("needs-voltmeter")),
    StepRule("recover", "recovery-due", _recover, ("recovery",), limits.RECOVERY_MINUTES.value, said("needs-low-charger"), _CHARGING),
    StepRule("rest", "just-recovered", _rest_after_recovery, ("time",)),
    StepRule("measure-voltage", "recovery-unproved", _measure_after_recovery, ("resting-voltage",), 1, said("needs-voltmeter")),
    StepRule("decide", "family-unknown", _decide_family, ("family-set",), 5, said("needs-coordinator")),
    StepRule("charge", "not-charged", _charge_to_the_end, ("charge", "capacity"), _charge_minutes, said("needs-charger"), _CHARGING),
    StepRule("rest", "just-charged", _rest_after_charge, ("time",)),
    StepRule("measure-capacity", "no-capacity", _measure_capacity, ("capacity",), _run_minutes, said("needs-tester")),
    StepRule("measure-resistance", "no-resistance", _measure_resistance, ("resistance", "skip"), 2, said("needs-resistance-meter")),
    StepRule("measure-resistance", "tester-only", _measure_resistance_better, ("resistance",), 2, said("needs-resistance-meter")),
    StepRule("measure-resistance", "no-dc-resistance", _measure_under_load, ("resistance",), 2, said("needs-resistor")),
    StepRule("decide", "no-rated-value", _decide_rated, ("rated-set",), 5, said("needs-coordinator")),
    StepRule("repeat-measurement", "borderline", _repeat, ("capacity", "resistance"), _run_minutes, said("needs-better-method")),
    StepRule("charge", "empty", _charge_to_store, ("charge",), _charge_minutes, said("needs-charger"), _CHARGING),
    StepRule("shelve", "not-shelved", _shelve, ("shelved",), 1, said("needs-shelf-box")),
    StepRule("recheck", "recheck-due", _recheck, ("resting-voltage",), 2, said("needs-voltmeter")),
    StepRule("keep", "shelved", _keep, ("time",)),
)  # fmt: skip
