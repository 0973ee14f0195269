"""Exactly one next step for a cell, the first that applies, with its reason."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import timedelta
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core.electric.charging import plan_charge
from zembric.core.grade.assessment import recovery_due
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged, full_voltage_v, has_ocv_table, state_of_charge
from zembric.core.identify.sizes import most_mah, read_size
from zembric.core.measure.figures import resistance_by, resistance_times_capacity
from zembric.core.measure.first_voltage import nothing_reached
from zembric.core.measure.voltage_states import STATE_WORDS
from zembric.core.next_step.ageing import recheck_due, shelving
from zembric.core.next_step.recovery import RecoveryPlan, plan_recovery
from zembric.core.next_step.steps import NextStep, StepCode
from zembric.core.story import (
    CameBack,
    Inspection,
    SecondLook,
    UnrestedVoltage,
    empties,
    fills,
    latest,
)
from zembric.core.words import amount, listed, volts

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from zembric.core.grade.assessment import Assessment
    from zembric.core.story import Event, Story

_ITS_CAPACITY = "its capacity"
#: Currents below this are said in mA.
_SMALL_MA = 100
#: What to say of a step that has taken the place of a wait that is over.
AFTER_WAITING: Mapping[str, str] = MappingProxyType(
    {
        "measure-capacity": "It has rested. Measure its capacity.",
        "measure-voltage": "It had time to settle. Measure its voltage with nothing connected.",
        "recheck": "Look at it and measure its resting voltage again.",
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
        and _doubtful_figure(assessed) is not None
    )


def _doubtful_figure(assessed: Assessment) -> str | None:
    """The borderline figure that was measured fewer than three times; of a cell out by r Q that is its resistance."""
    runs_to_settle = assessed.rules.value(limits.RUNS_TO_SETTLE)
    by_capacity, by_resistance, by_power = assessed.by_capacity, assessed.by_resistance, assessed.by_power
    out_by_resistance = by_resistance is not None and by_resistance.grade == "out"
    capacity_in_doubt = by_capacity is not None and by_capacity.sure == "borderline" and not out_by_resistance
    if capacity_in_doubt and assessed.capacity and assessed.capacity.runs < runs_to_settle:
        return _ITS_CAPACITY
    if by_resistance and by_resistance.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "its resistance"
    if by_power and by_power.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "its resistance under load"
    return None


def _readings_of_resistance(assessed: Assessment) -> int:
    if assessed.resistance is None:
        return 0
    found = resistance_by(assessed.story, assessed.resistance.method, assessed.rules)
    return found.readings if found else 0


def _charge_words(assessed: Assessment) -> str:
    """At which current, with the slow start of a low cell before it."""
    setting = charge_setting(assessed)
    at = _amperes(setting.current_ma)
    if setting.start_ma is None or setting.start_until_v is None:
        return at
    return f"{_amperes(setting.start_ma)} until it has passed {volts(setting.start_until_v)}, then at {at}"


def _amperes(current_ma: float) -> str:
    if current_ma < _SMALL_MA:
        return amount(current_ma, "mA")
    return amount(current_ma / 1000, "A", 2 if current_ma < 1000 else 1)


def _family(assessed: Assessment) -> Family:
    return assessed.story.facts.family or Family.LAYERED_OXIDE


# --- The rules, in their order ---------------------------------------------------------------------------------------


def _fire_safe_box(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.hazards:
        return None
    return NextStep(
        "fire-safe-box", "Into the fire-safe box now. Do not charge it, do not cut it, do not carry it in a pocket."
    )


def _out_box(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.outs or (assessed.grade == "out" and not _is_doubtful(assessed))):
        return None
    return NextStep("out-box", "Tape both ends and put it into the out-box. It goes to the recycler.")


def _decide_aside(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.decisions_due:
        return None
    return NextStep("decide", f"Put it aside; a coordinator decides. {assessed.decisions_due[0].text}")


def _came_back(assessed: Assessment, _now: datetime) -> NextStep | None:
    """Whatever came back, or out of a pack, is looked at and measured before anything else."""
    back = latest(assessed.story.of(CameBack))
    if back is None:
        return None
    how = _CAME_BACK_WORDS[back.source]
    last_look = latest(assessed.story.of(Inspection))
    if last_look is None or last_look.at <= back.at:
        return NextStep("inspect", f"{how} Look at it before anything else: swollen, warm, dented, torn wrap?")
    readings = [reading for reading in assessed.voltages if reading.at > back.at]
    if not readings:
        return NextStep("measure-voltage", f"{how} Measure its voltage with nothing connected, before anything else.")
    return None


_CAME_BACK_WORDS = MappingProxyType(
    {
        "pack": "It was in a pack.",
        "device": "It was in use in a device.",
        "fall": "It fell.",
        "stopped": "Its pack was stopped.",
    }
)
_NEAR_WORDS = MappingProxyType(
    {"donor": "Its sibling {}", "pack": "{}, of the same pack,", "place": "{}, which lay beside it,"}
)


def _look_once_more(assessed: Assessment, _now: datetime) -> NextStep | None:
    last_look, sibling = latest(assessed.story.of(Inspection)), latest(assessed.story.of(SecondLook))
    if not (last_look and sibling and last_look.at <= sibling.at):
        return None
    found = listed([finding.value.replace("-", " ") for finding in sorted(sibling.findings)])
    who = _NEAR_WORDS[sibling.near].format(sibling.sibling)
    return NextStep("inspect", f"{who} was found {found or 'dangerous'}. Look at this one once more.")


def _inspect(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.story.of(Inspection):
        return None
    return NextStep("inspect", "Look at it before anything touches it: swollen, leaking, dented, torn wrap?")


def _repair(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not assessed.to_mend:
        return None
    mend = {
        "torn-wrap": "put a new wrap on",
        "tab-remains": "take the tab remains off",
        "corroded-ends": "clean the ends",
    }
    return NextStep("repair", f"First {listed([mend[f.value] for f in sorted(assessed.to_mend)])}; then tick it off.")


def _let_settle(assessed: Assessment, now: datetime) -> NextStep | None:
    moving = latest(assessed.story.of(UnrestedVoltage))
    if assessed.voltages or moving is None:
        return None
    settled_at = moving.at + timedelta(minutes=assessed.rules.value(limits.CLIMBING_WAIT_MIN))
    if now >= settled_at:
        return None
    text = f"{volts(moving.value_v)} was {STATE_WORDS[moving.state]}. Leave it alone, then measure again."
    return NextStep("rest", text, settled_at, "measure-voltage")


def _measure_voltage(assessed: Assessment, _now: datetime) -> NextStep | None:
    near_zero = nothing_reached(assessed.story)
    if assessed.voltages and near_zero is None:
        return None
    if near_zero is None:
        text = "Measure its voltage with nothing connected."
    elif assessed.story.facts.build == "bare":
        text = "No voltage was reached, and a bare cell has nothing to wake. Clean its ends and measure once more; do not charge it."
    else:
        text = "No voltage was reached. Measure at the cell's own ends, wake it from a charger, then measure again."
    return NextStep("measure-voltage", text)


def _recover(assessed: Assessment, _now: datetime) -> NextStep | None:
    plan = recovery_plan(assessed)
    if plan is None:
        return None
    return NextStep(
        "recover",
        f"Found at {volts(plan.found_v)}. Bring it up at {amount(plan.current_ma, 'mA')} at most (C/{1 / plan.rate_c:.0f}), "
        f"{'watching it all the time' if plan.watched else 'beside it'}; it has failed when it is not past "
        f"{volts(plan.past_v)} after "
        f"{amount(limits.RECOVERY_MINUTES.value, 'min')} or warms by more than "
        f"{amount(limits.RECOVERY_WARMING_K.value, 'K')}.",
    )


def _rest_after_recovery(assessed: Assessment, now: datetime) -> NextStep | None:
    recovered = assessed.recovery.pending
    if recovered is None or assessed.recovery.charged_since:
        return None
    settled_at = recovered.at + timedelta(hours=limits.RECOVERY_SETTLES_H.value)
    if now >= settled_at:
        return None
    text = "Leave it alone for an hour. A recovery has passed only when the voltage stays."
    return NextStep("rest", text, settled_at, "measure-voltage")


def _measure_after_recovery(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.recovery.pending is None or assessed.recovery.charged_since:
        return None
    return NextStep(
        "measure-voltage", "It has rested after its recovery. Measure its voltage: that proves it, or ends it."
    )


def _decide_family(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.story.facts.family is not None:
        return None
    return NextStep("decide", "Its chemistry is not known. A coordinator finds out what it is before it is charged.")


def _charge_to_the_end(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.capacity is not None or assessed.history.full_since is not None:
        return None
    full_v = charge_setting(assessed).full_v
    if assessed.history.short:
        again = f"Its last charge ended at {volts(assessed.history.short.end_v)}, which is not full. Charge it once more with another charger,"
    else:
        again = "Charge"
    to = f"to {volts(full_v)} and its end" if full_v else "to the end"
    return NextStep("charge", f"{again} at {_charge_words(assessed)}, {to}. Stay with it.")


def _rest_after_charge(assessed: Assessment, now: datetime) -> NextStep | None:
    charge = assessed.history.full_since
    if assessed.capacity is not None or charge is None:
        return None
    rested_at = charge.at + timedelta(minutes=limits.REST_BEFORE_DISCHARGE_MIN.value)
    if now >= rested_at:
        return None
    return NextStep(
        "rest", "Let it rest half an hour, then its capacity can be measured.", rested_at, "measure-capacity"
    )


def _measure_capacity(assessed: Assessment, _now: datetime) -> NextStep | None:
    charge = assessed.history.full_since
    if assessed.capacity is not None or charge is None:
        return None
    cut_off_v = assessed.rules.of(limits.CUT_OFF_V, _family(assessed))
    overdue_at = charge.at + timedelta(days=assessed.rules.value(limits.FULL_STANDS_DAYS))
    return NextStep("measure-capacity", f"Measure its capacity, down to {volts(cut_off_v)}.", overdue_at=overdue_at)


def _measure_resistance(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.resistance is not None or assessed.story.skipped("resistance"):
        return None
    return NextStep(
        "measure-resistance",
        "Measure its resistance, and say by which method. No meter: two voltages and a resistor do.",
    )


def _measure_resistance_better(assessed: Assessment, _now: datetime) -> NextStep | None:
    resistance, capacity = assessed.resistance, assessed.capacity
    if resistance is None or resistance.method != "tester" or capacity is None:
        return None
    product, _ = resistance_times_capacity(resistance, capacity)
    if product <= assessed.rules.value(limits.RESISTANCE_OUT_OHM_AH["tester"]):
        return None
    return NextStep(
        "measure-resistance",
        f"The tester's own {amount(resistance.value_mohm, 'mΩ')} is too high to go by, and its holder adds to it. "
        "Measure again with a better method.",
    )


def _measure_under_load(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.grade == "not-yet" and "a DC resistance" in assessed.missing):
        return None
    return NextStep("measure-resistance", "Its power is judged by a resistance under load. Measure that one too.")


def _decide_rated(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not (assessed.grade == "not-yet" and "a rated value" in assessed.missing):
        return None
    return NextStep("decide", "There is no rule for its size and family. A coordinator sets its rated value.")


def _repeat(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not _is_doubtful(assessed):
        return None
    wants_charge = _doubtful_figure(assessed) == _ITS_CAPACITY and assessed.history.full_since is None
    again = "Charge it full and measure" if wants_charge else "Measure"
    return NextStep(
        "repeat-measurement",
        f"It lies too near a limit to be sure. {again} {_doubtful_figure(assessed)} once more, with the better method.",
    )


def _charge_to_store(assessed: Assessment, _now: datetime) -> NextStep | None:
    use = last_use(assessed.story)
    if use is None or not empties(use):
        return None
    store_v = assessed.rules.of(limits.STORE_AT_V, _family(assessed))
    return NextStep(
        "charge", f"Charge at {_charge_words(assessed)}, to about {volts(store_v)} for the shelf.",
        overdue_at=use.at + timedelta(days=assessed.rules.value(limits.EMPTY_STANDS_DAYS)),
    )  # fmt: skip


def _shelve(assessed: Assessment, _now: datetime) -> NextStep | None:
    if shelving(assessed.story) is not None:
        return None
    return NextStep("shelve", "Ready. Put it on the shelf.")


def _recheck(assessed: Assessment, now: datetime) -> NextStep | None:
    due = recheck_due(assessed)
    if now < due:
        return None
    overdue_at = due + timedelta(days=assessed.rules.value(limits.RECHECK_OVERDUE_DAYS))
    return NextStep("recheck", AFTER_WAITING["recheck"], due, overdue_at=overdue_at)


def _keep(assessed: Assessment, _now: datetime) -> NextStep | None:
    return NextStep("keep", "Nothing to do. It is looked at again when due.", recheck_due(assessed), "recheck")


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
    """One line of the planner: when it applies, in words and as code; what it needs, takes, and is ended by."""

    code: StepCode
    when: str
    choose: Callable[[Assessment, datetime], NextStep | None]
    #: Kinds of event that lead on from here, as the open format names them.
    ends_by: tuple[str, ...]
    #: Usual minutes, or how they are worked out for a cell; None: it only takes its time.
    minutes: float | Callable[[Assessment], float | None] | None = None
    needs: str | None = None
    cautions: tuple[str, ...] = ()


_CHARGING = ("On metal or ceramic, nothing that burns nearby.", "Somebody awake beside it, never overnight.")
#: The planner: of these rules the first that applies is the next step. Source: house rule, docs/judging.md.
STEP_RULES: tuple[StepRule, ...] = (
    StepRule("fire-safe-box", "a hazard was found, at any time", _fire_safe_box, (), 1, "gloves and the fire-safe box", ("Do not charge it, do not cut it.",)),
    StepRule("out-box", "primary, out, or decided out", _out_box, (), 1, "tape"),
    StepRule("decide", "something went too far, or it carries a mark from its recovery", _decide_aside, ("decision",), 5, "a coordinator"),
    StepRule("inspect", "it came back, out of a pack, or fell: look, then measure its voltage", _came_back, ("inspection", "resting-voltage"), 1, "eyes, gloves and a voltmeter"),
    StepRule("inspect", "a cell of its donor, its pack or beside it was a hazard", _look_once_more, ("inspection",), 1, "eyes and gloves"),
    StepRule("inspect", "nobody looked at it yet", _inspect, ("inspection",), 1, "eyes and gloves"),
    StepRule("repair", "wrap, tab or ends are not mended", _repair, ("repair",), 5, "wraps, cutters, a soft eraser"),
    StepRule("rest", "its voltage still moved", _let_settle, ("resting-voltage",)),
    StepRule("measure-voltage", "no resting voltage, or the last one reached nothing", _measure_voltage, ("resting-voltage",), 1, "a voltmeter"),
    StepRule("recover", "it was found in a recovery band and not recovered since", _recover, ("recovery",), limits.RECOVERY_MINUTES.value, "a charger that can be set low, a thermometer", _CHARGING),
    StepRule("rest", "recovered less than an hour ago", _rest_after_recovery, ("time",)),
    StepRule("measure-voltage", "recovered, and not measured at rest since", _measure_after_recovery, ("resting-voltage",), 1, "a voltmeter"),
    StepRule("decide", "its chemistry is not known", _decide_family, ("its family is set",), 5, "a coordinator"),
    StepRule("charge", "no complete capacity, and not charged to the end since the last discharge", _charge_to_the_end, ("charge", "capacity"), _charge_minutes, "a charger for its chemistry", _CHARGING),
    StepRule("rest", "charged less than half an hour ago", _rest_after_charge, ("time",)),
    StepRule("measure-capacity", "no complete capacity", _measure_capacity, ("capacity",), _run_minutes, "a tester, or a resistor and a clock"),
    StepRule("measure-resistance", "no resistance", _measure_resistance, ("resistance", "skip"), 2, "a 1 kHz meter, or a resistor and a voltmeter"),
    StepRule("measure-resistance", "only a tester's own resistance, and that too high", _measure_resistance_better, ("resistance",), 2, "a 1 kHz meter, or a resistor and a voltmeter"),
    StepRule("measure-resistance", "judged by fitness without a resistance under load", _measure_under_load, ("resistance",), 2, "a resistor and a voltmeter"),
    StepRule("decide", "no rule for its size and family", _decide_rated, ("its rated value is set",), 5, "a coordinator"),
    StepRule("repeat-measurement", "borderline, with fewer than three runs of the figure in doubt", _repeat, ("capacity", "resistance"), _run_minutes, "the better method"),
    StepRule("charge", "nothing charged in since the last discharge", _charge_to_store, ("charge",), _charge_minutes, "a charger for its chemistry", _CHARGING),
    StepRule("shelve", "not on the shelf", _shelve, ("shelved",), 1, "a shelf box"),
    StepRule("recheck", "on the shelf, and the next look is due", _recheck, ("resting-voltage",), 2, "a voltmeter"),
    StepRule("keep", "on the shelf", _keep, ("time",)),
)  # fmt: skip
