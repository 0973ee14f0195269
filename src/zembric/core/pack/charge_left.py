"""A pack's own table from voltage to what is left: under its load, and at rest.

A voltage lamp or a display shows volts and nothing else; what they mean differs from pack to pack.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from zembric.core.pack.on_paper import PaperRun

_LEFT_PCT = (100, 75, 50, 25, 10)


@dataclass(frozen=True, slots=True)
class ChargeLeft:
    """So much of the energy is left [%] where the pack stands at these voltages [V]."""

    left_pct: int
    loaded_v: float
    resting_v: float


def charge_left(paper: PaperRun) -> tuple[ChargeLeft, ...]:
    """The table of a run; empty where it ends at once.

    At rest the pack stands higher by what its load drops in cells and wiring.
    """
    over, pack = paper.over_time, paper.pack
    seconds, volts, amperes = (np.array(values) for values in (over.moments_s, over.pack_v, over.load_a))
    if len(seconds) < 2 or not paper.run.energy_wh:  # a start and an end
        return ()
    power = volts * amperes
    given = np.concatenate(([0.0], np.cumsum(np.diff(seconds) * (power[1:] + power[:-1]) / 2)))
    left = 100 * (1 - given / given[-1])
    ohm = pack.wiring_mohm / 1000 + sum(1 / sum(1000 / cell.resistance_mohm for cell in group) for group in pack.groups)
    rest = volts + amperes * ohm
    # Rising for the search: what is left falls with time.
    at = [(pct, np.interp(pct, left[::-1], volts[::-1]), np.interp(pct, left[::-1], rest[::-1])) for pct in _LEFT_PCT]
    return tuple(ChargeLeft(pct, float(loaded), float(resting)) for pct, loaded, resting in at)
