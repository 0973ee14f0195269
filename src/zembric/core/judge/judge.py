"""The judge: everything known of a cell in, grade with grounds and next step out. Pure and deterministic."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.grade.assessment import Assessment, assess
from zembric.core.grade.uses import good_for, settles
from zembric.core.grounds import WORST_GRADE_LAST, Reason
from zembric.core.judge.judgement import Judgement
from zembric.core.measure.figures import METHODS_BEST_FIRST, carries, resistance_by
from zembric.core.measure.odd_figures import odd_figures
from zembric.core.measure.repeats import comparable_of
from zembric.core.measure.self_discharge import watched_reading_at
from zembric.core.next_step.ageing import stored_too_full
from zembric.core.next_step.planner import charge_setting, next_step
from zembric.core.said import Said, all_of, named, said

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.house.rules import HouseRules
    from zembric.core.next_step.steps import NextStep
    from zembric.core.story import Story


#: Raised when the judge says something else of the same story: what was judged before is then judged anew at the start.
JUDGE_VERSION = 3


def judge(story: Story, rules: HouseRules, now: datetime) -> Judgement:
    """The judgement on one cell at a time.

    Raises:
        BadInputError: an event lies after `now`.
    Source: the house rules' schools; order of grounds and steps as docs/judging.md says.
    """
    if story.events and story.events[-1].at > now:
        raise BadInputError(said("entry-lies-in-future"))
    assessed = assess(story, rules)
    step = next_step(assessed, now)
    return Judgement(
        grade=assessed.grade,
        sure=assessed.sure,
        reasons=_reasons(assessed),
        next_step=step,
        capacity=assessed.capacity,
        resistance=assessed.resistance,
        resting_voltage_v=assessed.standing.value_v if assessed.standing else None,
        resting_voltage_at=assessed.standing.at if assessed.standing else None,
        is_marked=assessed.marked_by is not None,
        recovery_proved=assessed.recovery.pending is None,
        resistances_mohm=tuple(
            (method, found.value_mohm)
            for method in METHODS_BEST_FIRST
            if (found := resistance_by(story, method, assessed.rules))
        ),
        carries=carries(story, assessed.history.complete, assessed.capacity, assessed.size, assessed.rules),
        comparable=comparable_of(story, assessed.history.complete, assessed.rules),
        charge=charge_setting(assessed) if step.code == "charge" else None,
        continuous_current=assessed.current,
        watched_reading_at=_watched_reading_at(assessed, step),
        good_for=good_for(assessed),
        settled_by=settles(assessed),
    )


def _watched_reading_at(assessed: Assessment, step: NextStep) -> datetime | None:
    """When a cell that is watched at rest is read again, where the next step does not ask for that anyway."""
    if step.code in ("fire-safe-box", "out-box", "decide", "recheck"):
        return None
    at = watched_reading_at(assessed.story, assessed.voltages, assessed.rules)
    return None if at and step.code == "keep" and step.not_before and at >= step.not_before else at


def _reasons(assessed: Assessment) -> tuple[Reason, ...]:
    """Weightiest first: what puts it out, what has to be decided, what is missing, the figures, the notes."""
    reasons = _overruled(assessed) + list(assessed.outs)
    figures = _figures(assessed)
    reasons += [reason for reason in figures if reason.code in ("resistance-out", "capacity-low")]
    if assessed.story.facts.family is None:
        reasons.append(Reason("unknown-family", said("ground-unknown-family")))
    reasons += assessed.decisions_due
    reasons += assessed.hazards[1:]
    if assessed.grade == "not-yet" and assessed.missing:
        reasons.append(Reason("missing", said("ground-missing", what=all_of("missing", assessed.missing))))
    reasons += [reason for reason in figures if reason not in reasons]
    reasons += _skipped(assessed)
    stored = stored_too_full(assessed)
    return (
        *reasons,
        *assessed.notes,
        *odd_figures(assessed.story, assessed.history.complete, assessed.rules),
        *([stored] if stored else []),
    )


def _why(typed: str) -> Said | str:
    return typed or said("no-reason-said")


def _overruled(assessed: Assessment) -> list[Reason]:
    if assessed.overrule is None or assessed.overrule.grade is None or assessed.grade_by_rules is None:
        return []
    text = said(
        "ground-overruled",
        grade=named("grade", assessed.overrule.grade),
        why=_why(assessed.overrule.why),
        by_rules=named("grade", assessed.grade_by_rules),
    )
    return [Reason("overruled", text)]


def _skipped(assessed: Assessment) -> list[Reason]:
    """What somebody said cannot be measured here, as long as it is not; only a resistance can be done without."""
    reasons = []
    voltage, capacity, resistance = (assessed.story.skipped(what) for what in ("voltage", "capacity", "resistance"))
    if voltage and not assessed.voltages:
        reasons.append(Reason("no-voltage", said("ground-no-voltage", why=_why(voltage.why))))
    if resistance and assessed.resistance is None:
        reasons.append(Reason("no-resistance", said("ground-no-resistance", why=_why(resistance.why))))
    if capacity and assessed.capacity is None:
        reasons.append(Reason("no-capacity", said("ground-no-capacity", why=_why(capacity.why))))
    return reasons


def _figures(assessed: Assessment) -> list[Reason]:
    """The reasons by figures, the worst first; a low capacity is called so only where it is what puts the cell out."""
    graded = [figure for figure in (assessed.by_capacity, assessed.by_power, assessed.by_resistance) if figure]
    graded.sort(key=lambda figure: WORST_GRADE_LAST.index(figure.grade), reverse=True)
    by_resistance = assessed.by_resistance is not None and assessed.by_resistance.grade == "out"
    by_capacity = assessed.grade == "out" and not assessed.outs and not by_resistance
    return [
        replace(figure.reason, code="capacity")
        if figure.reason.code == "capacity-low" and not by_capacity
        else figure.reason
        for figure in graded
    ]
