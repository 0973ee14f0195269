"""A cell on the shelf: when it is looked at again, and what it should rest at."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.grounds import Reason
from zembric.core.house import limits
from zembric.core.identify.families import as_charged
from zembric.core.said import said, volts
from zembric.core.story import RestingVoltage, Shelved, uses

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.grade.assessment import Assessment
    from zembric.core.story import Story


def shelving(story: Story) -> Shelved | None:
    """The shelving that still holds: nothing was charged, discharged, recovered or used since."""
    for event in reversed(story.events):
        if isinstance(event, Shelved):
            return event
        if uses(event):
            return None
    return None


def recheck_due(assessed: Assessment) -> datetime:
    """14 days after shelving, then 180 days after each resting voltage taken when due; on watch 14 days after the last.

    The house may set the days by family and size, and for gentle cells otherwise than for the better ones.
    """
    story, rules = assessed.story, assessed.rules
    shelved = shelving(story)
    if shelved is None:
        raise ValueError("a cell that is not on the shelf has no re-check")
    if assessed.on_watch:
        last_at = max([shelved.at, *(reading.at for reading in story.of(RestingVoltage)[-1:])])
        return last_at + timedelta(days=rules.value(limits.WATCH_AGAIN_DAYS))
    due = shelved.at + timedelta(days=rules.value(limits.FIRST_RECHECK_DAYS))
    later_days = rules.value(limits.RECHECK_GENTLE_DAYS if assessed.grade == "C" else limits.RECHECK_DAYS)
    for reading in story.of(RestingVoltage):
        if reading.at > shelved.at and reading.at >= due:
            due = reading.at + timedelta(days=later_days)
    return due


def stored_too_full(assessed: Assessment) -> Reason | None:
    """A cell on the shelf that rests far above the voltage it should be stored at; None: it does not."""
    family = as_charged(assessed.story.facts.family)
    if family is None or family not in limits.STORE_AT_V or not assessed.standing or shelving(assessed.story) is None:
        return None
    store_v, rests_v = assessed.rules.of(limits.STORE_AT_V, family), assessed.standing.value_v
    above_v = rests_v - store_v
    if above_v <= assessed.rules.value(limits.STORED_ABOVE_V) + 1e-9:
        return None
    text = said("ground-stored-full", rests=volts(rests_v), store=volts(store_v))
    return Reason("stored-full", text, above_v, assessed.rules.limit(limits.STORED_ABOVE_V))
