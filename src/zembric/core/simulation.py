"""A simple cell that can be measured: for the demo and the tests. All randomness is handed in."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from zembric.core.families import full_voltage_v, open_circuit_v
from zembric.core.limits import Family

if TYPE_CHECKING:
    from random import Random


@dataclass(frozen=True, slots=True)
class SimulatedCell:
    """A cell as it truly is. Loss is that of the resting voltage near full [mV a day]."""

    capacity_mah: float
    dc_resistance_mohm: float
    state_of_charge: float
    family: Family = Family.LAYERED_OXIDE
    loss_mv_per_day: float = 0.4
    deep_v: float | None = None  # voltage of a cell emptied below its table, until it is charged

    def charged(self) -> SimulatedCell:
        return replace(self, state_of_charge=1.0, deep_v=None)

    def at(self, state_of_charge: float) -> SimulatedCell:
        return replace(self, state_of_charge=state_of_charge, deep_v=None)

    def resting_v(self, meter: Random, days_since_charge: float = 0.0) -> float:
        """A hand meter's reading: last digit 10 mV, 2 mV of noise."""
        true_v = self.deep_v if self.deep_v is not None else open_circuit_v(self.family, self.state_of_charge)
        return max(0.0, round(true_v - self.loss_mv_per_day * days_since_charge / 1000 + meter.gauss(0, 0.002), 2))

    def measured_capacity_mah(self, tester: Random, bias_pct: float = 0.0) -> float:
        """One constant-current run: 0.8 % of scatter, and what this tester reads too much."""
        return round(self.capacity_mah * (1 + bias_pct / 100) * tester.gauss(1, 0.008))

    def ac_resistance_mohm(self, meter: Random) -> float:
        """1 kHz meter; the 1 kHz value lies below the one under load."""
        return round(0.7 * self.dc_resistance_mohm * meter.gauss(1, 0.01), 1)

    def load_resistance_mohm(self, meter: Random) -> float:
        return round(self.dc_resistance_mohm * meter.gauss(1, 0.02))

    def tester_resistance_mohm(self, tester: Random) -> float:
        """A tester's spring holder adds 10 to 40 mOhm, different at each insertion."""
        return round(0.7 * self.dc_resistance_mohm + tester.uniform(10, 40))

    def end_of_charge_v(self) -> float:
        return full_voltage_v(self.family, None) or 0.0
