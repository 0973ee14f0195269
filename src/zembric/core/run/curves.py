"""Open-circuit voltage over charge: straight lines between the points of a table, the first and last going on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Indices = NDArray[np.intp]

#: Curves lie so far apart on one axis of charge that no state of charge reaches the next.
_APART = 1000.0


@dataclass(frozen=True, slots=True)
class Curve:
    """States of charge from 0 to 1 and the open-circuit voltages [V] at them, both rising."""

    soc: tuple[float, ...]
    ocv_v: tuple[float, ...]


class CellCurves:
    """The curves of many cells, each looked up at its own state of charge; `which` names the curve of each cell."""

    def __init__(self, curves: Sequence[Curve], which: Indices) -> None:
        self._curves = [(np.array(curve.soc, dtype=np.float64), np.array(curve.ocv_v)) for curve in curves]
        self.which = which
        slopes = [np.diff(volts) / np.diff(soc) for soc, volts in self._curves]
        starts = [volts[:-1] - slope * soc[:-1] for (soc, volts), slope in zip(self._curves, slopes, strict=True)]
        # All curves on one axis, so that one search finds the line of every cell.
        self._knots = np.concatenate([soc[1:-1] + _APART * place for place, (soc, _) in enumerate(self._curves)])
        self._first_line = np.cumsum([0, *(len(slope) for slope in slopes[:-1])])
        self._slope, self._start = np.concatenate(slopes), np.concatenate(starts)
        # The area under a line up to a charge s is `under` + start s + slope s^2 / 2, with no step between lines.
        self._under = np.concatenate(
            [
                np.concatenate(([0.0], np.cumsum(soc[1:-1] * (-np.diff(start) - np.diff(slope) * soc[1:-1] / 2))))
                for (soc, _), slope, start in zip(self._curves, slopes, starts, strict=True)
            ]
        )
        self._offset = _APART * which

    def of(self, which: Indices) -> CellCurves:
        """The same curves for other cells."""
        other = object.__new__(CellCurves)
        other.__dict__.update(self.__dict__)
        other.which, other._offset = which, _APART * which
        return other

    def lines(self, soc: Floats) -> Indices:
        """On which line of all curves each cell stands."""
        lines: Indices = np.searchsorted(self._knots, soc + self._offset, side="right") + self.which
        return lines

    def voltages(self, soc: Floats) -> tuple[Floats, Floats]:
        """Open-circuit voltage [V] and its slope over charge [V] of each cell."""
        return self.on_lines(self.lines(soc), soc)

    def on_lines(self, lines: Indices, soc: Floats) -> tuple[Floats, Floats]:
        """As `voltages`, where the lines are known."""
        slope = self._slope[lines]
        return self._start[lines] + slope * soc, slope

    def knots_between(self, lines: Indices, others: Indices) -> Floats:
        """The state of charge at the corner that is first met from one line towards another; the lines differ."""
        place = np.minimum(np.maximum(np.where(others < lines, lines - 1, lines) - self.which, 0), len(self._knots) - 1)
        knots: Floats = self._knots[place] - self._offset
        return knots

    def area(self, soc: Floats) -> Floats:
        """The integral [V] of the voltage from charge 0 to this one, of each cell."""
        lines = self.lines(soc)
        area: Floats = self._under[lines] + soc * (self._start[lines] + self._slope[lines] * soc / 2)
        return area

    def charges(self, volts: Floats | float) -> Floats:
        """The state of charge at which each cell has an open-circuit voltage [V]."""
        wanted = np.broadcast_to(np.asarray(volts, dtype=np.float64), self.which.shape)
        lines = np.zeros(self.which.shape, dtype=np.intp)
        for place, (_, ocv_v) in enumerate(self._curves):
            mine = self.which == place
            lines[mine] = self._first_line[place] + np.searchsorted(ocv_v[1:-1], wanted[mine], side="right")
        soc: Floats = (wanted - self._start[lines]) / self._slope[lines]
        return soc
