"""What lies on a bench, and which sums people ask of it: nobody looks for a sum by its name."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Thing:
    """One thing on the bench: its code, what people call it, and its sums, those asked most often first."""

    code: str
    name: str
    sums: tuple[str, ...]


THINGS = (
    Thing("cell", "A cell and a meter", ("two-voltage", "two-current", "run-time", "below")),
    Thing("resistor", "A load resistor", ("load-resistor", "two-voltage", "run-time")),
    Thing("module", "A charging module", ("program-resistor", "charge-time", "end-current-trap", "small-cell")),
    Thing("usb-meter", "A USB meter", ("usb-linear", "usb-switching", "usb-step-up")),
    Thing("shelf", "A cell that rests", ("self-discharge", "slope-wait")),
    Thing("two-cells", "Two cells to join", ("join",)),
    Thing("wire", "Wire and strip", ("wire", "strip")),
    Thing("testers", "Two testers", ("compare-testers", "below")),
)
