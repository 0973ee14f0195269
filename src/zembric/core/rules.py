"""The house rules: which schools a repair cafe follows where practice differs."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from collections.abc import Mapping

VoltageSchool = Literal["strict", "usual", "thrifty"]
# What speaks for each school, in its own words; a cafe chooses and says why.
WHY_VOLTAGE_SCHOOL: Mapping[VoltageSchool, str] = MappingProxyType(
    {
        "strict": "For: no recovery to supervise, no hidden copper. Against: many cells of unused devices go to waste.",
        "usual": "For: what data sheets allow with a small current is used. Against: an hour of supervision for each low cell.",
        "thrifty": "For: saves deeply emptied cells. Against: copper may have dissolved; such cells need a coordinator's yes for ever.",
    }
)
GradeSchool = Literal["health", "bins", "fitness"]

VOLTAGE_SCHOOLS: Mapping[VoltageSchool, str] = MappingProxyType(
    {
        "strict": "Only takes cells found between 3.0 V and full; everything lower is recycled.",
        "usual": "Recovers cells found between 2.0 and 3.0 V with a small current; below 2.0 V they are recycled.",
        "thrifty": "Also recovers from 1.5 V, under watch and with a mark for life.",
    }
)
GRADE_SCHOOLS: Mapping[GradeSchool, str] = MappingProxyType(
    {
        "health": "Measured capacity over rated capacity; by volume where no rated value is known.",
        "bins": "Measured capacity by volume of the cell, whatever it was rated at.",
        "fitness": "The worse of the capacity grade and the current the cell can keep up.",
    }
)


@dataclass(frozen=True, slots=True)
class HouseRules:
    """One version of the rules. `version` goes into every judgement made under it."""

    version: int
    voltage_school: VoltageSchool
    grade_school: GradeSchool
