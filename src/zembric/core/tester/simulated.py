"""A slot with a cell in it, in numbers: what a tester would read, with everything that can go wrong at a bench.

Voltages by the family's table, a resistance at once and one that comes with time, warmth by what is lost inside, leads, a contact that
is another one at each insertion, noise and a last digit. All randomness is handed in.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import exp
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import open_circuit_v

if TYPE_CHECKING:
    from random import Random

Fault = Literal["contact", "hot", "swelling", "reversed", "dead", "none"]
Mode = Literal["off", "charge", "discharge"]

_QUICK_SHARE, _SLOW_S = 0.7, 20.0
#: Warmth of a cell of 46 g in still air: J/K and W/K.
_HEAT_J_K, _COOLING_W_K = 42.0, 0.11
_HOT_W = 3.0
#: Beyond empty and beyond full the voltage runs away [V per whole capacity].
_BREAKDOWN_V, _OVERFULL_V = 60.0, 3.0
_OPEN_V = 0.01


@dataclass(slots=True)
class CellInSlot:
    """A cell as it truly is. Its own limits count what is done to it: nothing of ours reads them."""

    capacity_mah: float
    mohm: float
    state_of_charge: float
    family: Family = Family.LAYERED_OXIDE
    full_v: float = 4.2
    degc: float = 20.0
    slow_v: float = 0.0


@dataclass(slots=True)
class SimulatedSlot:
    """One channel. `order` sets it, `advance` lets time go by, `read` is what its display would show."""

    chance: Random
    room_degc: float = 20.0
    resolution_v: float = 0.001
    noise_v: float = 0.0005
    lead_mohm: float = 12.0
    cell: CellInSlot | None = None
    fault: Fault = "none"
    mode: Mode = "off"
    current_a: float = 0.0
    limit_v: float = 0.0
    end_a: float = 0.0
    left_s: float = 0.0
    time_s: float = 0.0
    flows_a: float = 0.0
    shows_v: float = _OPEN_V
    contact_mohm: float = 15.0
    #: What was done to the cell that no tester may do, by what it was.
    violations: dict[str, int] = field(default_factory=dict)

    def put_in(self, cell: CellInSlot) -> None:
        self.mode, self.cell, self.fault = "off", cell, "none"
        self.contact_mohm = self.chance.uniform(5, 35)
        self._show(0.0)

    def take_out(self) -> None:
        self.mode, self.cell, self.flows_a, self.shows_v = "off", None, 0.0, _OPEN_V

    def order(
        self, mode: Mode, current_a: float = 0.0, limit_v: float = 0.0, end_a: float = 0.0, seconds: float = 0.0
    ) -> None:
        self.mode, self.current_a, self.limit_v, self.end_a = mode, current_a, limit_v, end_a
        self.left_s = seconds or float("inf")
        if mode == "charge" and self.cell is not None:
            self._check_charge(current_a, limit_v)
        if mode == "discharge" and self.cell is not None and current_a > 1.05 * self.cell.capacity_mah / 1000 * 3:
            self._violated("discharge-current")

    def advance(self, seconds: float) -> None:
        """Goes on by so much time, in steps small enough for what is happening."""
        left_s = seconds
        while left_s > 1e-9:
            step_s = min(left_s, 5.0, self.left_s if self.mode != "off" else left_s)
            self._go_on(max(step_s, 1e-6))
            left_s -= max(step_s, 1e-6)

    def _go_on(self, step_s: float) -> None:
        self.time_s += step_s
        cell = self.cell
        if cell is None:
            self.flows_a, self.shows_v = 0.0, self.limit_v if self.mode == "charge" else _OPEN_V
            return
        if self.fault == "contact":
            self.flows_a, self.shows_v = 0.0, self.limit_v if self.mode == "charge" else _OPEN_V
            self._warm(cell, 0.0, step_s)
            return
        current_a = self._flow(cell)
        self._show(current_a)
        slow_end_v = -current_a * (1 - _QUICK_SHARE) * cell.mohm / 1000
        cell.slow_v += (slow_end_v - cell.slow_v) * (1 - exp(-step_s / _SLOW_S))
        holds = cell.capacity_mah / (8 if self.fault == "swelling" else 1)
        cell.state_of_charge += current_a * step_s / 3.6 / holds
        self._warm(cell, current_a, step_s)
        self._check(cell, current_a)
        if self.mode != "off":
            self.left_s -= step_s
            ended = self.left_s <= 1e-9
            by_itself = current_a <= self.end_a if self.mode == "charge" else self.shows_v <= self.limit_v
            if ended or by_itself:
                self.mode = "off"

    def _flow(self, cell: CellInSlot) -> float:
        if self.mode == "off":
            return 0.0
        if self.mode == "discharge":
            return -self.current_a if self._terminal(cell, -self.current_a) > 0.5 else 0.0
        ohm = (_QUICK_SHARE * cell.mohm + self._outside_mohm) / 1000
        return max(min(self.current_a, (self.limit_v - self._inside_v(cell)) / ohm), 0.0)

    @property
    def _outside_mohm(self) -> float:
        return self.lead_mohm + self.contact_mohm

    def _inside_v(self, cell: CellInSlot) -> float:
        charge = cell.state_of_charge
        beyond_v = min(charge, 0.0) * _BREAKDOWN_V + max(charge - 1, 0.0) * _OVERFULL_V
        return open_circuit_v(cell.family, min(max(charge, 0.0), 1.0)) + beyond_v - cell.slow_v

    def _terminal(self, cell: CellInSlot, current_a: float) -> float:
        return self._inside_v(cell) + current_a * (_QUICK_SHARE * cell.mohm + self._outside_mohm) / 1000

    def _show(self, current_a: float) -> None:
        if self.cell is None:
            return
        true_v = self._terminal(self.cell, current_a) + self.chance.gauss(0, self.noise_v)
        if self.fault == "reversed":
            true_v = -true_v
        if self.fault == "dead":
            true_v = 0.02
        self.flows_a = current_a
        self.shows_v = round(true_v / self.resolution_v) * self.resolution_v

    def _warm(self, cell: CellInSlot, current_a: float, step_s: float) -> None:
        heat_w = current_a**2 * cell.mohm / 1000 + (_HOT_W if self.fault == "hot" else 0.0)
        end_degc = self.room_degc + heat_w / _COOLING_W_K
        cell.degc += (end_degc - cell.degc) * (1 - exp(-step_s * _COOLING_W_K / _HEAT_J_K))

    # --- What no tester may do ---------------------------------------------------------------------------------------

    def _violated(self, what: str) -> None:
        self.violations[what] = self.violations.get(what, 0) + 1

    def _check_charge(self, current_a: float, limit_v: float) -> None:
        cell = self.cell
        assert cell is not None
        if limit_v > cell.full_v + limits.OVER_FULL_V.value:
            self._violated("charge-voltage")
        if (
            self._inside_v(cell) < limits.NEVER_CHARGE_BELOW_V[Family.LAYERED_OXIDE].value
            and cell.family is Family.LAYERED_OXIDE
        ):
            self._violated("charged-too-low")
        if self.fault in ("reversed", "dead"):
            self._violated("charged-" + self.fault)
        if current_a > 1.5 * cell.capacity_mah / 1000 * limits.CHARGE_RATE_MOST_C.value:
            self._violated("charge-current")

    def _check(self, cell: CellInSlot, current_a: float) -> None:
        if current_a > 0 and cell.degc > limits.TOO_HOT_DEGC.value:
            self._violated("charged-hot")
        if current_a < 0 and self._inside_v(cell) < limits.NEVER_CHARGE_BELOW_V[Family.LAYERED_OXIDE].value - 0.3:
            self._violated("emptied-too-far")
