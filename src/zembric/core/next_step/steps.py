"""What a next step is. The rules that choose one are in planner.py."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.said import Said

StepCode = Literal[
    "inspect", "repair", "measure-voltage", "recover", "charge", "rest", "measure-capacity", "measure-resistance",
    "repeat-measurement", "shelve", "keep", "recheck", "decide", "fire-safe-box", "out-box",
]  # fmt: skip
#: What is shown as a step and no rule of the planner says: where the cell is, and what it is watched for.
Whereabouts = Literal["on-tester", "in-pack", "in-use", "hand-over", "handed-over", "watched", "read-at-rest"]
ShownStep = StepCode | Whereabouts


@dataclass(frozen=True, slots=True)
class NextStep:
    """What to do next. `not_before` is the time it makes sense from, or is due; None: now.

    `then` is the step that takes its place once that time has come. `overdue_at`: from then on it was left too long.
    `minutes` is about how long it takes, `needs` what it is done with; None where there is nothing to say.
    """

    code: StepCode
    said: Said
    not_before: datetime | None = None
    then: StepCode | None = None
    overdue_at: datetime | None = None
    minutes: float | None = None
    needs: Said | None = None
    cautions: tuple[Said, ...] = ()
