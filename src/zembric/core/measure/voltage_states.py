"""In which state a voltage was taken, and when that has to be asked."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.said import Said, named, said, span
from zembric.core.story import Recovery, UnrestedVoltage, empties, fills, latest

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import Story, VoltageState


@dataclass(frozen=True, slots=True)
class StateQuestion:
    """That the state of the next voltage has to be asked: why, and what it most likely is."""

    said: Said
    likely: VoltageState


def state_question(story: Story, now: datetime, rules: HouseRules) -> StateQuestion | None:
    """Whether the state of a voltage taken now could be anything but resting; None: it need not be asked.

    It matters within the time that a voltage takes to settle after charge or load, and after one that still moved.
    """
    last = latest(event for event in story.events if fills(event) or empties(event) or isinstance(event, Recovery))
    moving = latest(story.of(UnrestedVoltage))
    if moving and now - moving.at < timedelta(minutes=rules.value(limits.CLIMBING_WAIT_MIN)):
        return StateQuestion(
            said("state-it-was", ago=span(now - moving.at), state=named("voltage-state", moving.state)), "climbing"
        )
    if last is None or now - last.at >= timedelta(hours=rules.value(limits.STATE_MATTERS_H)):
        return None
    since = now - last.at
    was_charged = fills(last) or isinstance(last, Recovery)
    settled = since >= timedelta(minutes=limits.REST_BEFORE_DISCHARGE_MIN.value)
    likely: VoltageState = "resting" if settled else "off-charger" if was_charged else "climbing"
    return StateQuestion(said("state-charged" if was_charged else "state-run-down", ago=span(since)), likely)
