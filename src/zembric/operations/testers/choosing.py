"""What could run on the cell in a slot, and what is offered first: what tonight's plan says, or what the cell needs next."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import ZembricError
from zembric.core.grade.assessment import assess
from zembric.core.tester.programs import PROGRAMS, Program, make_program
from zembric.core.tester.waiting import usual_programs
from zembric.operations.cells.judged import story_of
from zembric.operations.known.rules import rules_in_force
from zembric.operations.testers.evening import open_evening, rows_of, tonight
from zembric.operations.testers.slots import switches

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.said import Said
    from zembric.core.tester.programs import ProgramCode
    from zembric.models import CellRow, EveningRow, Slot
    from zembric.operations.testers.evening import PlannedRow


@dataclass(frozen=True, slots=True)
class Choice:
    """A program that a slot could run on its cell: made, or why not."""

    code: ProgramCode
    program: Program | None
    why_not: Said | None
    is_usual: bool


@dataclass(frozen=True, slots=True)
class Choices:
    """All programs, the usual one marked; `planned` is what the evening has ahead for this cell, here or in another slot."""

    programs: tuple[Choice, ...] = ()
    planned: PlannedRow | None = None
    evening_ends_at: datetime | None = None


def choices(session: Session, slot: Slot, now: datetime) -> Choices:
    """What could run on the cell in a slot.

    The usual program is the one the evening's plan gives this cell in this slot, else the first of those its next step
    asks for that this slot can run.
    """
    if slot.cell is None:
        return Choices()
    assessed = assess(story_of(session, slot.cell), rules_in_force(session))
    made: dict[ProgramCode, Program | Said] = {}
    for code in PROGRAMS:
        try:
            made[code] = make_program(
                code,
                assessed,
                now,
                slot_charge_a=slot.max_charge_ma / 1000,
                slot_discharge_a=slot.max_discharge_ma / 1000,
                switches=switches(slot),
            )
        except ZembricError as refused:
            made[code] = refused.said
    evening = open_evening(session)
    planned = _planned(session, evening, slot.cell, now) if evening else None
    wanted = usual_programs(assessed, now)
    if planned is not None and planned.slot == slot.number:
        wanted = (planned.program, *wanted)
    usual = next((code for code in wanted if isinstance(made[code], Program)), next(iter(wanted), None))
    return Choices(
        tuple(
            Choice(code, each, None, code == usual)
            if isinstance(each, Program)
            else Choice(code, None, each, code == usual)
            for code, each in made.items()
        ),
        planned,
        evening.ends_at if evening else None,
    )


def _planned(session: Session, evening: EveningRow, cell: CellRow, now: datetime) -> PlannedRow | None:
    return next((row for row in tonight(evening, rows_of(session, evening, now)) if row.cell == cell.number), None)
