"""The house rules: which schools a repair cafe follows where practice differs."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

VoltageSchool = Literal["strict", "usual", "thrifty"]
GradeSchool = Literal["health", "bins", "fitness"]

VOLTAGE_SCHOOLS = MappingProxyType(
    {
        "strict": "Only takes cells found between 3.0 V and full; everything lower is recycled.",
        "usual": "Recovers cells found between 2.0 and 3.0 V with a small current; below 2.0 V they are recycled.",
        "thrifty": "Also recovers from 1.5 V, under watch and with a mark for life.",
    }
)
GRADE_SCHOOLS = MappingProxyType(
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
