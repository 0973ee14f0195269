"""Exactly one next step for a cell, the first that applies, with its reason."""

from __future__ import annotations

from datetime import timedelta
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core import limits
from zembric.core.assessment import recovery_due
from zembric.core.families import full_voltage_v
from zembric.core.figures import resistance_by, resistance_times_capacity
from zembric.core.judgement import NextStep
from zembric.core.limits import Family
from zembric.core.recovery import RecoveryPlan, plan_recovery
from zembric.core.sizes import read_size
from zembric.core.story import (
    COUNTED_WHILE_CHARGING,
    CapacityRun,
    Charge,
    Inspection,
    Recovery,
    RestingVoltage,
    SecondLook,
    Shelved,
    UnrestedVoltage,
    empties,
    fills,
    latest,
)
from zembric.core.voltage_states import STATE_WORDS
from zembric.core.words import amount, listed, volts

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from zembric.core.assessment import Assessment
    from zembric.core.story import Event, Story

#: What to say of a step that has taken the place of a wait that is over.
AFTER_WAITING: Mapping[str, str] = MappingProxyType(
    {
        "measure-capacity": "It has rested. Measure its capacity.",
        "measure-voltage": "It had time to settle. Measure its voltage with nothing connected.",
        "recheck": "Look at it and measure its resting voltage again.",
    }
)


def next_step(assessed: Assessment, now: datetime) -> NextStep:
    """The first step that applies, in the order of the house: safety, looking, measuring, judging, keeping."""
    for choose in (_safety, _looking, _first_voltage, _capacity, _resistance, _doubt, _storing):
        step = choose(assessed, now)
        if step:
            return step
    return _keeping(assessed, now)


def believed_capacity_mah(assessed: Assessment) -> float:
    """What a cell is taken to hold [mAh]: measured, else rated, else by size. A claim is never believed."""
    if assessed.capacity:
        return assessed.capacity.value_mah
    is_large = assessed.size is None or assessed.size.volume_cm3 >= read_size("18650").volume_cm3 - 1e-9
    by_size_ma = (limits.CHARGE_UNKNOWN_LARGE_MA if is_large else limits.CHARGE_UNKNOWN_SMALL_MA).value
    return assessed.story.facts.rated_capacity_mah or by_size_ma / limits.CHARGE_RATE_C.value


def charge_current_ma(assessed: Assessment) -> float:
    """Current to charge at [mA]: half of what it is believed to hold, at most what its sheet allows."""
    wanted_ma = believed_capacity_mah(assessed) * limits.CHARGE_RATE_C.value
    return min(wanted_ma, assessed.story.facts.most_charge_ma or wanted_ma)


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


def _safety(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.hazards:
        return NextStep(
            "fire-safe-box", "Into the fire-safe box now. Do not charge it, do not cut it, do not carry it in a pocket."
        )
    if assessed.outs or (assessed.grade == "out" and not _is_doubtful(assessed)):
        return NextStep("out-box", "Tape both ends and put it into the out-box. It goes to the recycler.")
    if assessed.decisions_due:
        return NextStep("decide", f"Put it aside; a coordinator decides. {assessed.decisions_due[0].text}")
    return None


def _looking(assessed: Assessment, _now: datetime) -> NextStep | None:
    last_look, brother = latest(assessed.story.of(Inspection)), latest(assessed.story.of(SecondLook))
    if last_look and brother and last_look.at <= brother.at:
        found = listed([finding.value.replace("-", " ") for finding in sorted(brother.findings)])
        return NextStep("inspect", f"Its brother {brother.brother} was found {found}. Look at this one once more.")
    if not last_look:
        return NextStep("inspect", "Look at it before anything touches it: swollen, leaking, dented, torn wrap?")
    if assessed.to_mend:
        mend = {
            "torn-wrap": "put a new wrap on",
            "tab-remains": "take the tab remains off",
            "corroded-ends": "clean the ends",
        }
        return NextStep(
            "repair", f"First {listed([mend[f.value] for f in sorted(assessed.to_mend)])}; then tick it off."
        )
    return None


def _first_voltage(assessed: Assessment, now: datetime) -> NextStep | None:
    story = assessed.story
    if not assessed.voltages:
        moving = latest(story.of(UnrestedVoltage))
        settled_at = moving and moving.at + timedelta(minutes=limits.CLIMBING_WAIT_MIN.value)
        if moving and settled_at and now < settled_at:
            return NextStep(
                "rest",
                f"{volts(moving.value_v)} was {STATE_WORDS[moving.state]}. Leave it alone, then measure again.",
                settled_at,
                "measure-voltage",
            )
        near_zero = bool(story.of(RestingVoltage))
        text = (
            "No voltage was reached. Measure at the cell's own ends, wake it from a charger, then measure again."
            if near_zero
            else "Measure its voltage with nothing connected."
        )
        return NextStep("measure-voltage", text)
    plan = recovery_plan(assessed)
    if plan:
        return NextStep(
            "recover",
            f"Found at {volts(plan.found_v)}. Bring it up at {amount(plan.current_ma, 'mA')} at most (C/{1 / plan.rate_c:.0f}), "
            f"{'watching it all the time' if plan.watched else 'beside it'}; it has failed when it is not past "
            f"{volts(plan.past_v)} after "
            f"{amount(limits.RECOVERY_MINUTES.value, 'min')} or warms by more than "
            f"{amount(limits.RECOVERY_WARMING_K.value, 'K')}.",
        )
    if story.facts.family is None:
        return NextStep(
            "decide", "Its chemistry is not known. A coordinator finds out what it is before it is charged."
        )
    return None


def _capacity(assessed: Assessment, now: datetime) -> NextStep | None:
    if assessed.capacity is not None:
        return None
    charge = _charged_to_the_end(assessed)
    if charge is None:
        return NextStep("charge", f"Charge at {_charge_words(assessed)}, to the end. Stay with it.")
    rested_at = charge.at + timedelta(minutes=limits.REST_BEFORE_DISCHARGE_MIN.value)
    if now < rested_at:
        return NextStep(
            "rest", "Let it rest half an hour, then its capacity can be measured.", rested_at, "measure-capacity"
        )
    cut_off_v = limits.CUT_OFF_V[_family(assessed)].value
    return NextStep("measure-capacity", f"Measure its capacity, down to {volts(cut_off_v)}.")


def _resistance(assessed: Assessment, _now: datetime) -> NextStep | None:
    if assessed.resistance is None and not assessed.story.skipped("resistance"):
        return NextStep(
            "measure-resistance",
            "Measure its resistance, and say by which method. No meter: two voltages and a resistor do.",
        )
    if assessed.resistance and assessed.resistance.method == "tester" and assessed.capacity:
        product, _ = resistance_times_capacity(assessed.resistance, assessed.capacity)
        if product > assessed.rules.value(limits.RESISTANCE_OUT_OHM_AH["tester"]):
            return NextStep(
                "measure-resistance",
                f"The tester's own {amount(assessed.resistance.value_mohm, 'mΩ')} is too high to go by, and its holder adds to it. "
                "Measure again with a better method.",
            )
    if assessed.grade == "not-yet" and "a DC resistance" in assessed.missing:
        return NextStep("measure-resistance", "Its power is judged by a resistance under load. Measure that one too.")
    if assessed.grade == "not-yet" and "a rated value" in assessed.missing:
        return NextStep("decide", "There is no rule for its size and family. A coordinator sets its rated value.")
    return None


def _doubt(assessed: Assessment, _now: datetime) -> NextStep | None:
    if not _is_doubtful(assessed):
        return None
    return NextStep(
        "repeat-measurement",
        f"It lies too near a limit to be sure. Measure {_doubtful_figure(assessed)} once more, with the better method.",
    )


def _storing(assessed: Assessment, _now: datetime) -> NextStep | None:
    use = last_use(assessed.story)
    if use is not None and empties(use):
        store_v = limits.STORE_AT_V[_family(assessed)].value
        return NextStep("charge", f"Charge at {_charge_words(assessed)}, to about {volts(store_v)} for the shelf.")
    if _shelved(assessed.story) is None:
        return NextStep("shelve", "Ready. Put it on the shelf.")
    return None


def _keeping(assessed: Assessment, now: datetime) -> NextStep:
    due = _recheck_due(assessed)
    if now >= due:
        return NextStep("recheck", AFTER_WAITING["recheck"], due)
    return NextStep("keep", "Nothing to do. It is looked at again when due.", due, "recheck")


def _recheck_due(assessed: Assessment) -> datetime:
    """14 days after shelving, then 180 days after each resting voltage taken when due; on watch 14 days after the last."""
    story = assessed.story
    shelved = _shelved(story)
    if shelved is None:
        raise ValueError("a cell that is not on the shelf has no re-check")
    voltages = [reading for reading in story.of(RestingVoltage) if reading.at > shelved.at]
    rules = assessed.rules
    due = shelved.at + timedelta(days=rules.value(limits.FIRST_RECHECK_DAYS))
    if assessed.slope.verdict == "watch":
        last = story.of(RestingVoltage)[-1]
        return last.at + timedelta(days=rules.value(limits.WATCH_AGAIN_DAYS))
    for reading in voltages:
        if reading.at >= due:
            due = reading.at + timedelta(days=rules.value(limits.RECHECK_DAYS))
    return due


def _shelved(story: Story) -> Shelved | None:
    """The shelving that still holds: nothing was charged, discharged or recovered since."""
    for event in reversed(story.events):
        if isinstance(event, Shelved):
            return event
        if fills(event) or empties(event) or isinstance(event, Recovery):
            return None
    return None


def _charged_to_the_end(assessed: Assessment) -> Event | None:
    """The charge to the end since the last discharge, if there was one."""
    full_v = (
        full_voltage_v(assessed.story.facts.family, assessed.story.facts.full_v) or limits.UNKNOWN_FAMILY_MOST_V.value
    )
    for event in reversed(assessed.story.events):
        if empties(event):
            return None
        if (
            isinstance(event, Charge)
            and event.complete
            and event.end_v >= full_v - limits.CHARGED_WITHIN_V.value - 1e-9
        ):
            return event
        if isinstance(event, CapacityRun) and event.method in COUNTED_WHILE_CHARGING and event.complete:
            return event
    return None


def _is_doubtful(assessed: Assessment) -> bool:
    """Whether the grade hangs on a borderline figure that was measured fewer than three times."""
    return not assessed.outs and assessed.sure == "borderline" and _doubtful_figure(assessed) is not None


def _doubtful_figure(assessed: Assessment) -> str | None:
    """The borderline figure that was measured fewer than three times; of a cell out by r Q that is its resistance."""
    runs_to_settle = assessed.rules.value(limits.RUNS_TO_SETTLE)
    by_capacity, by_resistance, by_power = assessed.by_capacity, assessed.by_resistance, assessed.by_power
    out_by_resistance = by_resistance is not None and by_resistance.grade == "out"
    capacity_in_doubt = by_capacity is not None and by_capacity.sure == "borderline" and not out_by_resistance
    if capacity_in_doubt and assessed.capacity and assessed.capacity.runs < runs_to_settle:
        return "its capacity"
    if by_resistance and by_resistance.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "its resistance"
    if by_power and by_power.sure == "borderline" and _readings_of_resistance(assessed) < runs_to_settle:
        return "its resistance under load"
    return None


def _readings_of_resistance(assessed: Assessment) -> int:
    if assessed.resistance is None:
        return 0
    found = resistance_by(assessed.story, assessed.resistance.method)
    return found.readings if found else 0


def _charge_words(assessed: Assessment) -> str:
    return amount(charge_current_ma(assessed) / 1000, "A", 2 if charge_current_ma(assessed) < 1000 else 1)


def _family(assessed: Assessment) -> Family:
    return assessed.story.facts.family or Family.LAYERED_OXIDE
