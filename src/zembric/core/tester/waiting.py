"""What a cell that waits still needs at the testers: the programs that take it to the shelf, and the rests between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.next_step.planner import next_step

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.grade.assessment import Assessment
    from zembric.core.tester.programs import ProgramCode


@dataclass(frozen=True, slots=True)
class Needed:
    """Programs in their order, each with the rest before it [min], and the time before which none of them makes sense."""

    programs: tuple[tuple[ProgramCode, int], ...]
    not_before: datetime | None = None


def needed_by(assessed: Assessment, now: datetime) -> Needed | None:
    """What is left to do with a cell at the testers; None: it needs hands, eyes or nothing."""
    step = next_step(assessed, now)
    rest = round(limits.REST_BEFORE_DISCHARGE_MIN.value)
    match step.code:
        case "charge" if assessed.capacity is not None:
            return Needed((("storage", 0),))
        case "charge" | "repeat-measurement":
            return Needed((("charge", 0), ("capacity", rest)))
        case "rest":
            return Needed((("capacity", 0),), step.not_before)
        case "measure-capacity":
            return Needed((("capacity", 0),))
        case "measure-resistance":
            return Needed((("pulse", 0),))
        case _:
            return None


def needed_after(program: ProgramCode) -> Needed | None:
    """What a cell needs once a program that runs on it now is through."""
    rest = round(limits.REST_BEFORE_DISCHARGE_MIN.value)
    return Needed((("capacity", rest),)) if program == "charge" else None
