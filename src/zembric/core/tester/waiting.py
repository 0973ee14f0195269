"""What a cell that waits still needs at the testers: the programs that take it to the shelf, and the rests between them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.next_step.planner import doubtful_figure, next_step

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
        case "repeat-measurement" if doubtful_figure(assessed) != "capacity":
            return Needed((("pulse", 0),))
        case "repeat-measurement" if (charge := assessed.history.full_since) is not None:
            rested_at = charge.at + timedelta(minutes=rest)
            return Needed((("capacity", 0),), rested_at if rested_at > now else None)
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


def usual_programs(assessed: Assessment, now: datetime) -> tuple[ProgramCode, ...]:
    """The programs that take a cell on from its next step, the best first; none: no tester does that."""
    needed = needed_by(assessed, now)
    if needed is None:
        return ("storage",) if next_step(assessed, now).code in ("shelve", "keep") else ()
    first = needed.programs[0][0]
    return ("cycle", "charge") if first == "charge" else (first,)


def needed_after(program: ProgramCode) -> Needed | None:
    """What a cell needs once a program that runs on it now is through."""
    rest = round(limits.REST_BEFORE_DISCHARGE_MIN.value)
    return Needed((("capacity", rest),)) if program == "charge" else None
