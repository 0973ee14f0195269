"""What lies on a bench, and which sums people ask of it: nobody looks for a sum by its name."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.said import named

if TYPE_CHECKING:
    from zembric.core.said import Said


@dataclass(frozen=True, slots=True)
class Thing:
    """One thing on the bench and its sums, those asked most often first."""

    code: str
    sums: tuple[str, ...]

    @property
    def name(self) -> Said:
        return named("on-the-bench", self.code)


THINGS = (
    Thing("cell", ("two-voltage", "two-current", "run-time", "below")),
    Thing("resistor", ("load-resistor", "two-voltage", "run-time")),
    Thing("module", ("program-resistor", "charge-time", "end-current-trap", "small-cell")),
    Thing("usb-meter", ("usb-linear", "usb-switching", "usb-step-up")),
    Thing("shelf", ("self-discharge", "slope-wait")),
    Thing("two-cells", ("join",)),
    Thing("wire", ("wire", "strip")),
    Thing("testers", ("compare-testers", "below")),
)
