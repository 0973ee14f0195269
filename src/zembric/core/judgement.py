"""What a judgement is made of. The rules that make one are in judging.py and next_step.py."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from zembric.core.figures import Capacity, ContinuousCurrent, Resistance
    from zembric.core.limits import Limit
    from zembric.core.next_step import ChargeSetting
    from zembric.core.story import ResistanceMethod
    from zembric.core.uncertainty import Sureness
    from zembric.core.uses import GoodFor

Grade = Literal["A", "B", "C", "out", "not-yet"]
StepCode = Literal[
    "inspect", "repair", "measure-voltage", "recover", "charge", "rest", "measure-capacity", "measure-resistance",
    "repeat-measurement", "shelve", "keep", "recheck", "decide", "fire-safe-box", "out-box",
]  # fmt: skip
#: What people see; in files a grade is its letter.
GRADE_WORDS: Mapping[Grade, str] = MappingProxyType(
    {"A": "Strong", "B": "Fair", "C": "Gentle", "out": "Out", "not-yet": "Not yet"}
)
WORST_GRADE_LAST: tuple[Grade, ...] = ("A", "B", "C", "out")


@dataclass(frozen=True, slots=True)
class Reason:
    """One ground of a judgement, in words and, where it is a comparison, as value against limit."""

    code: str
    text: str
    value: float | None = None
    limit: Limit | None = None

    @property
    def margin(self) -> float | None:
        """How far the value lies above its limit, in the limit's unit."""
        return None if self.value is None or self.limit is None else self.value - self.limit.value


@dataclass(frozen=True, slots=True)
class NextStep:
    """What to do next. `not_before` is the time it makes sense from, or is due; None: now.

    `then` is the step that takes its place once that time has come. `overdue_at`: from then on it was left too long.
    `minutes` is about how long it takes, `needs` what it is done with; None where there is nothing to say.
    """

    code: StepCode
    text: str
    not_before: datetime | None = None
    then: StepCode | None = None
    overdue_at: datetime | None = None
    minutes: float | None = None
    needs: str | None = None
    cautions: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class ComparableCapacity:
    """Current [mA] and cut-off [V] of the run that decides, and what it comes to at the reference; None: not known.

    Only capacities by like currents and cut-offs stand beside one another, or all brought to the reference.
    """

    current_ma: float | None
    cut_off_v: float | None
    reference_mah: float | None
    reference_u_mah: float | None


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
    settled_by: str | None = None
