"""A simple cell that can be measured: for the demo and the tests. All randomness is handed in."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import exp
from typing import TYPE_CHECKING

from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v, open_circuit_v

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


#: Fall of the open-circuit voltage below empty [V per whole capacity].
_BREAKDOWN_V = 60.0


@dataclass(frozen=True, slots=True)
class SimulatedRow:
    """What a logger writes at one moment; discharge current is negative."""

    time_s: float
    voltage_v: float
    current_a: float


@dataclass(slots=True)
class SimulatedBench:
    """A cell on a tester that logs: open-circuit voltage by table, resistance at once and one that comes with time.

    The cell's DC resistance is that after a long load: 0.7 of it at once, the rest with a time constant of 20 s.
    """

    cell: SimulatedCell
    every_s: float = 1.0
    full_v: float = 4.2
    rows: list[SimulatedRow] = field(default_factory=list)
    time_s: float = 0.0
    _slow_v: float = 0.0

    def rest(self, seconds: float) -> None:
        end_s = self.time_s + seconds
        while self.time_s < end_s - 1e-9:
            self._go_on(0.0)

    def discharge(self, current_a: float, cut_off_v: float, most_s: float = 1e9) -> None:
        """At a constant current until the terminal voltage reaches the cut-off, or for a time."""
        end_s = self.time_s + most_s
        while self.time_s < end_s - 1e-9:
            if self._go_on(-current_a) <= cut_off_v:
                return

    def discharge_through(self, resistor_ohm: float, cut_off_v: float) -> None:
        while True:
            open_v = self._open_v - self._slow_v
            if self._go_on(-open_v / (resistor_ohm + self._quick_ohm)) <= cut_off_v:
                return

    def charge(self, current_a: float, end_a: float) -> None:
        """Constant current, then constant voltage until the current has faded to its end."""
        while True:
            open_v = self._open_v - self._slow_v
            wanted_a = min(current_a, (self.full_v - open_v) / self._quick_ohm)
            if wanted_a <= end_a or self.cell.state_of_charge >= 1:
                return
            self._go_on(wanted_a)

    @property
    def _quick_ohm(self) -> float:
        return 0.7 * self.cell.dc_resistance_mohm / 1000

    @property
    def _open_v(self) -> float:
        """Below empty the voltage breaks down fast: the tables end where nothing of use is left."""
        charge = self.cell.state_of_charge
        return open_circuit_v(self.cell.family, charge) + min(charge, 0.0) * _BREAKDOWN_V

    def _go_on(self, current_a: float) -> float:
        """One row further; the voltage that the row shows."""
        shown_v = self._open_v - self._slow_v + current_a * self._quick_ohm
        self.rows.append(SimulatedRow(self.time_s, shown_v, current_a))
        self.time_s += self.every_s
        slow_end_v = -current_a * 0.3 * self.cell.dc_resistance_mohm / 1000
        self._slow_v += (slow_end_v - self._slow_v) * (1 - exp(-self.every_s / 20))
        moved = current_a * self.every_s / 3.6 / self.cell.capacity_mah
        self.cell = self.cell.at(min(self.cell.state_of_charge + moved, 1.0))
        return shown_v
