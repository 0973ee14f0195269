"""What a judgement rests on: grades, and grounds in words with value against limit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from zembric.core.house.limits import Limit
    from zembric.core.said import Said

Grade = Literal["A", "B", "C", "out", "not-yet"]
WORST_GRADE_LAST: tuple[Grade, ...] = ("A", "B", "C", "out")


@dataclass(frozen=True, slots=True)
class Reason:
    """One ground of a judgement and, where it is a comparison, its value against the limit."""

    code: str
    said: Said
    value: float | None = None
    limit: Limit | None = None

    @property
    def margin(self) -> float | None:
        """How far the value lies above its limit, in the limit's unit."""
        return None if self.value is None or self.limit is None else self.value - self.limit.value
