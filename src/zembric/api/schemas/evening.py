"""The evening at the testers, as it goes over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AwareDatetime, Field, StringConstraints

from zembric.api.schemas.base import Id, In, Number, Out, Told
from zembric.core.tester.programs import ProgramCode

PersonName = Annotated[str, StringConstraints(min_length=1, max_length=40)]


class PersonHereIn(In):
    name: PersonName
    until: AwareDatetime


class LaterEveningIn(In):
    starts_at: AwareDatetime
    ends_at: AwareDatetime


class EveningIn(In):
    """Who is here until when, what was promised to a visitor for tonight, and which slots stand on the table; none: all."""

    ends_at: AwareDatetime
    people: list[PersonHereIn] = Field(min_length=1, max_length=12)
    promised: list[Number] = Field(default_factory=list, max_length=60)
    slots: list[Number] = Field(default_factory=list, max_length=60)
    later: list[LaterEveningIn] = Field(default_factory=list, max_length=5)


class EveningChangeIn(EveningIn):
    version: Id


class PersonHereOut(Out):
    name: str
    until: datetime


class LaterEveningOut(Out):
    starts_at: datetime
    ends_at: datetime


class PlannedRowOut(Out):
    cell: str
    slot: str
    slot_name: str
    program: ProgramCode
    starts_at: datetime
    ends_at: datetime
    state: Literal["ahead", "due", "late", "running", "done", "missed"]


class TakenOut(Out):
    """A slot in which something ran when the plan was made."""

    cell: str
    slot: str
    slot_name: str
    starts_at: datetime
    ends_at: datetime


class StillRunsOut(Out):
    """What runs on the table now; `ends_at` as far as that is known."""

    cell: str
    slot: str
    slot_name: str
    program: ProgramCode
    ends_at: datetime | None


class ChangeOut(Out):
    at: datetime
    said: list[Told]


class EveningOut(Out):
    """An evening with its plan; `tonight` of `waiting` cells are finished, `not_begun` should not be begun.

    `done` cells were brought to the end of a program since it began. After `ends_at` nothing is `next`, until people stay longer.
    """

    version: int
    starts_at: datetime
    ends_at: datetime
    planned_at: datetime | None
    people: list[PersonHereOut]
    promised: list[str]
    slots: list[str]
    later: list[LaterEveningOut]
    rows: list[PlannedRowOut]
    taken: list[TakenOut]
    next: list[PlannedRowOut]
    running: list[StillRunsOut]
    done: int
    tonight: list[str]
    finished: list[str]
    not_begun: list[str]
    waiting: int
    promises_missed: int
    bound: int
    changes: list[ChangeOut]
    times_runs: int
    times_factor: float


class EveningOrNoneOut(Out):
    evening: EveningOut | None


class EveningWhatIfIn(In):
    what: Literal["tester", "charger", "hands", "hour"]


class EveningWhatIfOut(Out):
    """How many cells would be finished, in all evenings, and how many are now."""

    finished: int
    now: int
