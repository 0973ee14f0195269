"""Plays evenings at the bench through the operations, measuring simulated cells with simulated meters."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from random import Random
from typing import TYPE_CHECKING

from zembric.core.measure.simulation import SimulatedCell
from zembric.operations import donors
from zembric.operations.bench import entries, keeping, whereabouts
from zembric.operations.bench.readings import TypedReading
from zembric.operations.donors import DonorToOpen

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.models import CellRow, Donor
    from zembric.operations.actors import Actor

_MINUTE = timedelta(minutes=1)


@dataclass
class Evening:
    """One evening of one volunteer. Each thing done moves the evening's clock on."""

    session: Session
    who: Actor
    now: datetime
    chance: Random
    cells: dict[str, SimulatedCell]  # by number, as they truly are; shared by all evenings

    def open(self, wanted: DonorToOpen, cells: list[SimulatedCell], *, tape: bool = True) -> Donor:
        donor = donors.open_donor(self.session, self.who, wanted, self._tick(5))
        if tape:
            donors.say_taped(self.session, self.who, donor.number, self._tick())
        for row, cell in zip(donor.cells, cells, strict=True):
            self.cells[row.number] = cell
        return donor

    def clues(self, donor: Donor, **told: str | float) -> None:
        donors.set_clues(self.session, self.who, donor.number, donor.version, told, self._tick(2))

    def look_and_measure(self, number: str) -> CellRow:
        reading = TypedReading("voltage", f"{self.cells[number].resting_v(self.chance):.2f}", "meter", confirmed=True)
        return entries.first_look(self.session, self.who, number, (), reading, self._tick())

    def look(self, number: str, *findings: str) -> CellRow:
        return entries.inspect(self.session, self.who, number, findings, self._tick())

    def mend(self, number: str, *done: str) -> None:
        entries.repair(self.session, self.who, number, done, self._tick(3))

    def voltage(self, number: str, days_since_charge: float = 0.0) -> CellRow:
        value = self.cells[number].resting_v(self.chance, days_since_charge)
        return self._measure(number, TypedReading("voltage", f"{value:.2f}", "meter", confirmed=True))

    def charge(self, number: str) -> None:
        self.cells[number] = self.cells[number].charged()
        end_v = f"{self.cells[number].end_of_charge_v():.2f}"
        entries.charge(self.session, self.who, number, entries.TypedCharge(end_v, complete=True), self._tick(1))

    def charge_to_storage(self, number: str, end_v: str) -> None:
        self.cells[number] = self.cells[number].at(0.58)
        entries.charge(self.session, self.who, number, entries.TypedCharge(end_v, complete=False), self._tick(1))

    def capacity(self, number: str, *, bias_pct: float = 0.0, complete: bool = True) -> None:
        cell = self.cells[number]
        value = cell.measured_capacity_mah(self.chance, bias_pct)
        self.cells[number] = cell.at(0.05)
        current = "1000" if cell.capacity_mah > 1400 else "200"
        reading = TypedReading("capacity", f"{value:.0f}", "tester", True, current, "3.0", complete)
        self._measure(number, reading)

    def resistance(self, number: str, method: str) -> None:
        cell = self.cells[number]
        value = {
            "ac-1khz": cell.ac_resistance_mohm,
            "dc-10s": cell.load_resistance_mohm,
            "tester": cell.tester_resistance_mohm,
        }[method](self.chance)
        self._measure(number, TypedReading("resistance", f"{value:.0f}", method, confirmed=True))

    def recover(self, number: str, *, passed: bool) -> None:
        entries.recover(self.session, self.who, number, "passed" if passed else "failed", self._tick(20))
        if passed:
            self.cells[number] = self.cells[number].at(0.08)

    def shelve(self, number: str, place_id: int | None = None) -> None:
        whereabouts.shelve(self.session, self.who, number, place_id, self._tick())

    def put_out(self, number: str) -> None:
        whereabouts.put_out(self.session, self.who, number, self._tick())

    def pause(self, **span: float) -> None:
        self.now += timedelta(**span)

    def whole_way(self, numbers: list[str], method: str = "ac-1khz", place_id: int | None = None) -> None:
        """Inspected, measured, charged, run down, judged, filled for storage and shelved, over two evenings."""
        for number in numbers:
            self.look(number)
        for number in numbers:
            self.voltage(number)
        going_on = [number for number in numbers if self._step(number) == "charge"]
        for number in going_on:
            self.charge(number)
        self.pause(hours=20)
        for number in going_on:
            self.capacity(number)
        for number in going_on:
            self.resistance(number, method)
        self.pause(hours=2)
        for number in going_on:
            if self._step(number) == "charge":
                self.charge_to_storage(number, "3.85")
        self.pause(hours=2)
        for number in going_on:
            if self._step(number) == "shelve":
                self.voltage(number)
                self.shelve(number, place_id)

    def _step(self, number: str) -> str:
        judged = keeping.cell_at_bench(self.session, number).judgement
        return judged.next_step if judged else ""

    def _measure(self, number: str, reading: TypedReading) -> CellRow:
        return entries.measure(self.session, self.who, number, reading, self._tick())

    def _tick(self, minutes: float = 0.5) -> datetime:
        self.now += minutes * _MINUTE
        return self.now
