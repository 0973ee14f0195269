"""Sound cells, measured as people measure: every way to do so that is usual, with relaxing voltages and a cheap meter."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from math import exp
from random import Random
from typing import Any

from tests.support.stories import START, a_story
from zembric.core.house.limits import Family
from zembric.core.identify.families import open_circuit_v
from zembric.core.story import (
    CapacityRun,
    Charge,
    Event,
    Heat,
    Inspection,
    ResistanceReading,
    RestingVoltage,
    Shelved,
    Story,
)

_FULL_V = {Family.LAYERED_OXIDE: 4.2, Family.IRON_PHOSPHATE: 3.6}
_CUT_OFF_V = {Family.LAYERED_OXIDE: 2.8, Family.IRON_PHOSPHATE: 2.5}
_STORE_SOC = {Family.LAYERED_OXIDE: 0.58, Family.IRON_PHOSPHATE: 0.5}


@dataclass
class SoundCell:
    """A good cell at the bench; each method does one thing to it and writes it down."""

    chance: Random
    family: Family
    size: str
    rated_mah: float
    soc: float
    now: datetime = START
    #: What still has to settle [V], positive above rest, and since when.
    unsettled_v: float = 0.0
    settling_since: datetime = START
    events: list[Event] = field(default_factory=list)

    def story(self, siblings_v: tuple[float, ...] = ()) -> Story:
        return a_story(
            *self.events, size=self.size, family=self.family, rated_mah=self.rated_mah, siblings_v=siblings_v
        )

    def wait(self, hours: float) -> None:
        self.now += timedelta(hours=hours)
        # A healthy cell loses 1 to 3 % a month.
        self.soc = max(self.soc - hours / 24 / 30 * self.chance.uniform(0.01, 0.03), 0.0)

    def look(self) -> None:
        self.events.append(Inspection(self.now, frozenset(), Heat(self.chance.uniform(15, 26), 20)))

    def read(self) -> float:
        """A meter with 10 mV digits and 2 mV of noise."""
        hours = (self.now - self.settling_since).total_seconds() / 3600
        true_v = open_circuit_v(self.family, self.soc) + self.unsettled_v * exp(-hours / 8)
        value_v = round(true_v + self.chance.gauss(0, 0.002), 2)
        self.events.append(RestingVoltage(self.now, value_v, 0.01))
        return value_v

    def charge_full(self) -> None:
        self.wait(3)
        # Meters and chargers differ: a charge that ended by itself shows 4.11 to 4.21 V.
        end_v = round(_FULL_V[self.family] - self.chance.choice((-0.01, 0, 0, 0.03, 0.06, 0.09)), 2)
        self.events.append(Charge(self.now, complete=True, end_v=end_v))
        self.soc = 0.99 if self.family is Family.LAYERED_OXIDE else 1.0
        self._unsettle(0.02)

    def charge_to_store(self) -> None:
        self.wait(1)
        self.soc = _STORE_SOC[self.family] + self.chance.uniform(-0.03, 0.03)
        current_v = self.chance.uniform(0.02, 0.10)
        end_v = round(open_circuit_v(self.family, self.soc) + current_v, 2)
        self.events.append(Charge(self.now, complete=False, end_v=end_v))
        self._unsettle(current_v)

    def run_down(self, *, complete: bool = True, method: Any = "tester") -> None:
        self.wait(2)
        is_full = self.soc > 0.97
        held = self.rated_mah * self.chance.uniform(0.84, 1.0)
        value_mah = round(held * (self.soc if complete else self.soc * 0.4) * self.chance.gauss(1, 0.005))
        cut_off_v = round(_CUT_OFF_V[self.family] + self.chance.choice((0, 0.1, 0.2)), 2)
        self.events.append(CapacityRun(self.now, value_mah, method, complete, 500, cut_off_v))
        self.soc = self.chance.uniform(0.005, 0.03) if complete else self.soc * 0.6
        self._unsettle(-0.15 if is_full else -0.1)

    def resist(self) -> None:
        good_mohm = 1e6 * 0.1 / self.rated_mah
        self.events.append(ResistanceReading(self.now, round(good_mohm * self.chance.uniform(0.5, 1.4)), "ac-1khz"))

    def shelve(self) -> None:
        self.events.append(Shelved(self.now))

    def _unsettle(self, by_v: float) -> None:
        self.unsettled_v, self.settling_since = by_v, self.now


def a_life(seed: int) -> SoundCell:
    """A sound cell through its first months, in an order and with slips that people make."""
    chance = Random(seed)
    family = chance.choice((Family.LAYERED_OXIDE, Family.LAYERED_OXIDE, Family.IRON_PHOSPHATE))
    size, rated_mah = chance.choice((("18650", 2600), ("18650", 1500), ("13400", 550)))
    rated_mah = rated_mah if family is Family.LAYERED_OXIDE else round(rated_mah * 0.42)
    cell = SoundCell(
        chance, family, size, rated_mah, chance.uniform(0.15, 0.95), unsettled_v=chance.uniform(-0.02, 0.02)
    )
    cell.look()
    for _ in range(chance.randint(1, 3)):
        cell.read()
        cell.wait(chance.choice((0.1, 2, 30, 200)))
    if chance.random() < 0.3:
        cell.run_down(complete=chance.random() < 0.5)  # by somebody who did not charge it first
        cell.wait(chance.choice((0.2, 20, 200)))
        cell.read()
    for _ in range(chance.randint(1, 3)):
        cell.charge_full()
        cell.wait(chance.choice((1, 4, 30, 24 * 16)))
        cell.read()
        if chance.random() < 0.2:
            cell.run_down(complete=False)
            cell.charge_full()
        cell.run_down()
        if chance.random() < 0.5:
            cell.wait(chance.choice((0.1, 3, 24 * 20)))
            cell.read()
    cell.resist()
    cell.charge_to_store()
    cell.shelve()
    for _ in range(chance.randint(0, 4)):
        cell.wait(24 * chance.choice((2, 14, 90, 180)))
        cell.read()
    return cell
