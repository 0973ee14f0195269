"""A step at a pack: what is done, what is measured, and between which bounds it has to lie."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from zembric.core.pack.layout.model import End
    from zembric.core.said import Said

FindingState = Literal["right", "look", "wrong"]
JointKind = Literal["weld", "solder", "holder"]
#: How a step's figures are held against what they should be.
JudgedAs = Literal[
    "nothing", "group", "links", "taps", "groups", "pack", "board", "full", "load", "run", "energy", "storage"
]


@dataclass(frozen=True, slots=True)
class Asked:
    """A figure to measure; `expected` None: nobody can say, any that lies between the bounds is taken."""

    key: str
    unit: str
    name: Said
    expected: float | None = None
    least: float | None = None
    most: float | None = None
    is_optional: bool = False
    #: Where it may stand at all, if it was charged or discharged since; None: nobody can say.
    may_be: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class StepCell:
    """A cell with the end that is up, and how it is joined."""

    number: str
    end: End
    joint: JointKind


@dataclass(frozen=True, slots=True)
class HandStep:
    """One step; `needs_second`: somebody else looks at it before it counts. What protects people is never waived."""

    key: str
    title: Said
    todo: tuple[Said, ...] = ()
    cautions: tuple[Said, ...] = ()
    cells: tuple[StepCell, ...] = ()
    asked: tuple[Asked, ...] = ()
    judged_as: JudgedAs = "nothing"
    needs_second: bool = False
    may_be_waived: bool = False


@dataclass(frozen=True, slots=True)
class Finding:
    """What figures say: how they stand, why, and what to do or to measure next."""

    state: FindingState
    said: Said
    then: Said | None = None
