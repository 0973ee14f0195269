"""What is not for a volunteers' table, to be opened or to be built for, and where it goes instead."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core.said import Said, named

if TYPE_CHECKING:
    from collections.abc import Mapping


@dataclass(frozen=True, slots=True)
class NotForThisTable:
    """A kind of device that is turned away, and where to go instead."""

    code: str

    @property
    def name(self) -> Said:
        return named("turned-away", self.code)

    @property
    def instead(self) -> Said:
        return Said(f"turned-away-{self.code}-instead")


NOT_FOR_THIS_TABLE: Mapping[str, NotForThisTable] = MappingProxyType(
    {code: NotForThisTable(code) for code in ("medical", "vehicle", "e-bike", "flying", "mains")}
)
