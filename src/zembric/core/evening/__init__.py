"""Evenings at the testers: which cells are begun, on which channel, when, so that as much as can be is finished."""

from zembric.core.evening.bound import most_weight
from zembric.core.evening.model import (
    Cell,
    Channel,
    Evening,
    EveningRefusedError,
    Operation,
    Problem,
    Row,
    Vector,
    vector_of,
)

__all__ = [
    "Cell",
    "Channel",
    "Evening",
    "EveningRefusedError",
    "Operation",
    "Problem",
    "Row",
    "Vector",
    "most_weight",
    "vector_of",
]
