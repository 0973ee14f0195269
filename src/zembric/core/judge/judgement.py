"""What a judgement is made of. The rules that make one are in judge.py and in the planner of the next step."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.grade.uses import GoodFor
    from zembric.core.grounds import Grade, Reason
    from zembric.core.measure.figures import Capacity, ContinuousCurrent, Resistance
    from zembric.core.measure.repeats import ComparableCapacity
    from zembric.core.measure.uncertainty import Sureness
    from zembric.core.next_step.planner import ChargeSetting
    from zembric.core.next_step.steps import NextStep
    from zembric.core.said import Said
    from zembric.core.story import ResistanceMethod


@dataclass(frozen=True, slots=True)
class Judgement:
    """Grade, grounds (weightiest first), how sure (None while it is not graded) and the next step.

    `watched_reading_at` stands beside the step: when the next voltage of a cell that is watched at rest tells something.
    """

    grade: Grade
    sure: Sureness | None
    reasons: tuple[Reason, ...]
    next_step: NextStep
    capacity: Capacity | None
    resistance: Resistance | None
    #: The one that still holds, and when it was taken; None: there is none since the last charge, load or use.
    resting_voltage_v: float | None
    continuous_current: ContinuousCurrent | None
    watched_reading_at: datetime | None = None
    resting_voltage_at: datetime | None = None
    #: Recovered from below what is usually charged: it carries a mark for life.
    is_marked: bool = False
    #: False: a recovery still wants the reading at rest that proves it.
    recovery_proved: bool = True
    #: The resistance [mOhm] by each method that was used.
    resistances_mohm: tuple[tuple[ResistanceMethod, float], ...] = ()
    comparable: ComparableCapacity | None = None
    #: What it may be asked for in a pack; None: nothing is known of that.
    carries: ContinuousCurrent | None = None
    #: What to set the charger to, where the next step is a charge.
    charge: ChargeSetting | None = None
    #: What a graded cell suits; what would settle a doubt. None: nothing to say.
    good_for: GoodFor | None = None
    settled_by: Said | None = None
