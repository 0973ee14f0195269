"""A pack step by step: built, then proved."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import In, Number, Out, Told, ToldOrNone, Typed, Why
from zembric.api.schemas.packs import RefusalOut
from zembric.core.pack.layout import End
from zembric.core.pack.steps.model import FindingState, JointKind
from zembric.models import StepStage, StepState


class StepsPath(In):
    number: Number
    stage: StepStage


class StepIn(In):
    """What was measured, by the keys that the step asks for; empty: it was done."""

    step: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    figures: dict[str, Typed] = Field(default_factory=dict, max_length=100)


class StepKeyIn(In):
    step: Annotated[str, StringConstraints(min_length=1, max_length=40)]


class StepWaiveIn(In):
    step: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    why: Why


class SwapIn(In):
    """A cell of a plan by its number, and the one that comes for it."""

    out: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    comes: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    seen_version: int


class RunLogIn(In):
    """A tester's log as text."""

    content: Annotated[str, StringConstraints(max_length=4_000_000)]


class RunInLogOut(Out):
    hours: float
    energy_wh: float
    end_v: float


class AskedOut(Out):
    key: str
    unit: str
    name: Told
    expected: float | None
    least: float | None
    most: float | None
    is_optional: bool


class StepCellOut(Out):
    number: str
    end: End
    joint: JointKind


class ActOut(Out):
    """What somebody did at a step; `finding`: what is to be said of it, or why it was let pass."""

    state: StepState
    at: datetime
    by: str
    figures: dict[str, float]
    finding: ToldOrNone


class StepOut(Out):
    key: str
    title: Told
    todo: list[Told]
    cautions: list[Told]
    cells: list[StepCellOut]
    asked: list[AskedOut]
    needs_second: bool
    may_be_waived: bool
    is_passed: bool
    waits_for_second: bool
    act: ActOut | None


class HandworkOut(Out):
    """All steps of a stage; `next_key` null: all are passed."""

    stage: Literal["build", "prove"]
    next_key: str | None
    steps: list[StepOut]
    refused: list[RefusalOut]


class FindingOut(Out):
    state: FindingState
    said: Told
    then: ToldOrNone


class StepDoneOut(Out):
    """What the figures say, and how far the pack is now."""

    finding: FindingOut
    work: HandworkOut


class TroubleWayOut(Out):
    answer: Told
    to: str | None
    do: ToldOrNone


class ForkOut(Out):
    key: str
    ask: Told
    ways: list[TroubleWayOut]


class TroubleOut(Out):
    """The questions where nothing comes out of a pack; the first is where it begins."""

    forks: list[ForkOut]
