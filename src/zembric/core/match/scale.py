"""Capacities as whole steps above the smallest: groups of equal size compare alike, and sums are exact."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Ints = NDArray[np.int64]
    Floats = NDArray[np.float64]

_PER_MAH = 1_000_000


@dataclass(frozen=True, slots=True)
class Scale:
    """How steps are read back: a group of `parallel` cells with so many steps holds parallel x least + steps x step."""

    least: int  # [1e-6 mAh], the smallest capacity
    step: int  # [1e-6 mAh], what all differences are multiples of

    def group_mah(self, steps: float, parallel: int) -> float:
        """The capacity [mAh] of a group of so many cells from the sum of their steps."""
        return (parallel * self.least + steps * self.step) / _PER_MAH

    def steps_for(self, group_mah: float, parallel: int) -> int:
        """The fewest steps with which a group of so many cells reaches a capacity."""
        wanted = round(group_mah * _PER_MAH) - parallel * self.least
        return -(-wanted // self.step)

    def in_steps(self, mah: Floats) -> Floats:
        """Differences or uncertainties [mAh] in steps."""
        return mah * (_PER_MAH / self.step)


def in_steps(capacities_mah: Floats) -> tuple[Ints, Scale]:
    """Capacities, kept to a millionth of a mAh, in steps above the smallest of them."""
    parts = np.rint(capacities_mah * _PER_MAH).astype(np.int64)
    least = int(parts.min())
    step = int(np.gcd.reduce(parts - least)) or 1
    return (parts - least) // step, Scale(least, step)
