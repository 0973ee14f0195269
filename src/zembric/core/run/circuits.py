"""Who is joined to whom: currents from voltages, and how they answer to a small change, in time that grows with the cells.

Cells of a group (or rail) share a voltage; what ties the groups together is a load in series or a common point.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Protocol

import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from zembric.core.run.model import Efficiency, Load

    Floats = NDArray[np.float64]
    Indices = NDArray[np.intp]
    Flags = NDArray[np.bool_]


@dataclass(slots=True)
class Flow:
    """What flows at one moment: of each cell [A], of each group [V], of each circuit the load [A] and its voltage [V].

    `room` tells how far each circuit is from what no current satisfies, below 0: it is not carried.
    """

    cell_a: Floats
    group_v: Floats
    load_a: Floats
    load_v: Floats
    room: Floats

    def of_circuits(self) -> tuple[Floats, Floats, Floats]:
        return self.load_a, self.load_v, self.room


class Circuit(Protocol):
    """Many circuits of one kind side by side; cells lie group by group, groups circuit by circuit."""

    layout: Layout

    def flow(self, ocv_v: Floats, time_s: Floats) -> Flow:
        """What flows where the cells have these open-circuit voltages [V], at a time of each circuit."""
        ...

    def answer(self, flow: Flow, push: Floats, stiffness: Floats) -> tuple[Floats, Floats]:
        """How voltages of groups and load currents change where the cells of each group push.

        With a group's voltage v and current I at the linear model `push - stiffness dv = dI` of each group.
        """
        ...

    def is_steady(self, flow: Flow, stiffness: Floats) -> Flags:
        """Whether a step as long as `stiffness` says can be taken: a power takes more the lower the voltage."""
        ...

    def drift_a(self, time_s: Floats) -> Floats | None:
        """How the load current changes by itself [A/s]; None: it follows from the voltages alone."""
        ...

    @property
    def wiring_ohm(self) -> Floats | float: ...

    def kept(self, circuits: Flags) -> Circuit:
        """Only some of the circuits."""
        ...


class Layout:
    """Which cells make which group, and which groups which circuit."""

    def __init__(self, siemens: Floats, cells_in_group: Indices, groups_in_circuit: Indices) -> None:
        self.siemens, self.ohm = siemens, 1 / siemens
        self.cells_in_group, self.groups_in_circuit = cells_in_group, groups_in_circuit
        self.group_starts = np.concatenate(([0], np.cumsum(cells_in_group)[:-1]))
        self.circuit_starts = np.concatenate(([0], np.cumsum(groups_in_circuit)[:-1]))
        self.group_of_cell = np.repeat(np.arange(len(cells_in_group)), cells_in_group)
        self.circuit_of_group = np.repeat(np.arange(len(groups_in_circuit)), groups_in_circuit)
        self.circuit_of_cell = self.circuit_of_group[self.group_of_cell]
        self.cell_starts = self.group_starts[self.circuit_starts]
        self.group_siemens = self.by_group(siemens)
        #: What a cell carries of its group's load by its resistance alone.
        self.share_of_cell = siemens / self.group_siemens[self.group_of_cell]

    @cached_property
    def ohm_through_others(self) -> Floats:
        """Of each cell its own resistance and that of the others of its group, through which it settles."""
        others = self.group_siemens[self.group_of_cell] - self.siemens
        ohm: Floats = self.ohm + 1 / np.maximum(others, 1e-12)
        return ohm

    def by_group(self, cells: Floats) -> Floats:
        sums: Floats = np.add.reduceat(cells, self.group_starts)
        return sums

    def by_circuit(self, groups: Floats) -> Floats:
        sums: Floats = np.add.reduceat(groups, self.circuit_starts)
        return sums

    def kept(self, circuits: Flags) -> Layout:
        groups = circuits[self.circuit_of_group]
        return Layout(
            self.siemens[circuits[self.circuit_of_cell]],
            self.cells_in_group[groups],
            self.groups_in_circuit[circuits],
        )


#: The voltage at a converter's input and what it takes there settle in so many rounds.
_SETTLES_IN = 3


class SeriesCircuit:
    """Groups in series with the wiring, under a load."""

    def __init__(
        self, layout: Layout, wiring_ohm: Floats, kind: str, value: Floats, efficiency: Efficiency | None = None
    ) -> None:
        self.layout, self._wiring_ohm, self._kind, self._value = layout, wiring_ohm, kind, value
        self._efficiency = efficiency
        self._ohm = layout.by_circuit(1 / layout.group_siemens) + wiring_ohm

    @classmethod
    def of(cls, layout: Layout, wiring_ohm: Floats, load: Load) -> SeriesCircuit:
        circuits = len(layout.groups_in_circuit)
        return cls(layout, wiring_ohm, load.kind, np.full(circuits, load.value), load.efficiency)

    def open(self, ocv_v: Floats) -> Flow:
        """What flows between the cells with the load off."""
        layout = self.layout
        group_v = layout.by_group(ocv_v * layout.share_of_cell)
        nothing = np.zeros(len(self._ohm))
        cell_a = (ocv_v - group_v[layout.group_of_cell]) * layout.siemens
        return Flow(cell_a, group_v, nothing, layout.by_circuit(group_v), nothing)

    def flow(self, ocv_v: Floats, time_s: Floats) -> Flow:  # noqa: ARG002
        layout = self.layout
        open_v = layout.by_group(ocv_v * layout.share_of_cell)
        pack_v = layout.by_circuit(open_v)
        room = np.ones(len(pack_v))
        if self._kind == "current":
            load_a = self._value
        elif self._kind == "resistor":
            load_a = pack_v / (self._value + self._ohm)
        else:
            load_a, room = self._at_power(pack_v, self._value)
            if self._efficiency:
                for _ in range(_SETTLES_IN):
                    taken_w = self._value / _efficiency_at(self._efficiency, pack_v - load_a * self._ohm)[0]
                    load_a, room = self._at_power(pack_v, taken_w)
        group_v = open_v - (load_a[layout.circuit_of_group] / layout.group_siemens)
        cell_a = (ocv_v - group_v[layout.group_of_cell]) * layout.siemens
        return Flow(cell_a, group_v, load_a, pack_v - load_a * self._ohm, room)

    def _at_power(self, pack_v: Floats, taken_w: Floats) -> tuple[Floats, Floats]:
        """Of I (U - I R) = P the root with the higher voltage, and how far it is from having none [V]."""
        room = pack_v - 4 * taken_w * self._ohm / pack_v
        return 2 * taken_w / (pack_v + np.sqrt(np.maximum(room * pack_v, 0))), room

    def _takes_more(self, flow: Flow) -> Floats:
        """By how much more a power takes for each volt that its voltage falls [A/V]."""
        more: Floats = flow.load_a / flow.load_v
        if self._efficiency:
            efficiency, per_volt = _efficiency_at(self._efficiency, flow.load_v)
            more = more + flow.load_a * per_volt / efficiency
        return more

    def answer(self, flow: Flow, push: Floats, stiffness: Floats) -> tuple[Floats, Floats]:
        layout = self.layout
        if self._kind == "current":
            return push / stiffness, np.zeros(len(self._ohm))
        rises = layout.by_circuit(push / stiffness)
        ohm = layout.by_circuit(1 / stiffness) + self._wiring_ohm
        if self._kind == "resistor":
            load_a = rises / (self._value + ohm)
        else:
            more = self._takes_more(flow)
            load_a = -more * rises / (1 - more * ohm)
        return (push - load_a[layout.circuit_of_group]) / stiffness, load_a

    def is_steady(self, flow: Flow, stiffness: Floats) -> Flags:
        if self._kind != "power":
            return np.ones(len(self._ohm), dtype=bool)
        ohm = self.layout.by_circuit(1 / stiffness) + self._wiring_ohm
        steady: Flags = self._takes_more(flow) * ohm < 1
        return steady

    def drift_a(self, time_s: Floats) -> None:  # noqa: ARG002
        return None

    @property
    def wiring_ohm(self) -> Floats:
        return self._wiring_ohm

    def kept(self, circuits: Flags) -> SeriesCircuit:
        return SeriesCircuit(
            self.layout.kept(circuits), self._wiring_ohm[circuits], self._kind, self._value[circuits], self._efficiency
        )


def _efficiency_at(known: Efficiency, volts: Floats) -> tuple[Floats, Floats]:
    """Efficiency at voltages, and how it rises [1/V]."""
    inside = np.minimum(np.maximum(volts, known.low_v), known.high_v)
    efficiency = known.at_low + known.per_volt * (inside - known.low_v)
    return efficiency, np.where(inside == volts, known.per_volt, 0.0)


@dataclass(frozen=True)
class OverTime:
    """A load current [A] and how it changes [A/s] at moments [s]; between them a cubic, after them as at the last."""

    moments_s: Floats
    load_a: Floats
    change_a: Floats

    @cached_property
    def _cubics(self) -> Floats:
        """The four coefficients of each piece, over the time since its start."""
        length_s, rise = np.diff(self.moments_s), np.diff(self.load_a)
        first, last = self.change_a[:-1], self.change_a[1:]
        mean = rise / length_s
        square, cube = (3 * mean - 2 * first - last) / length_s, (first + last - 2 * mean) / length_s**2
        return np.array([self.load_a[:-1], first, square, cube])

    def _piece(self, time_s: Floats) -> tuple[Floats, Floats]:
        line = self.moments_s[1:-1].searchsorted(time_s, side="right")
        return self._cubics[:, line], np.minimum(time_s, self.moments_s[-1]) - self.moments_s[line]

    def at(self, time_s: Floats) -> tuple[Floats, Floats]:
        """The current [A], and how it changes [A/s]."""
        (start, first, square, cube), since_s = self._piece(time_s)
        cube = cube * since_s
        change: Floats = first + since_s * (2 * square + 3 * cube)
        current_a: Floats = start + since_s * (first + since_s * (square + cube))
        return current_a, change

    def charge_as(self, until_s: float) -> float:
        """All that flowed until then [As]."""
        line = int(self.moments_s[1:-1].searchsorted(until_s, side="right"))
        since_s = np.append(np.diff(self.moments_s)[:line], until_s - self.moments_s[line])
        start, first, square, cube = self._cubics[:, : line + 1]
        pieces = since_s * (start + since_s * (first / 2 + since_s * (square / 3 + since_s * cube / 4)))
        return float(pieces.sum())


class GivenCurrent:
    """Groups each by itself under one current that is known over time."""

    def __init__(self, layout: Layout, over_time: OverTime) -> None:
        self.layout, self._over_time = layout, over_time
        self._asked_s: Floats | None = None
        self._known = np.zeros(0), np.zeros(0)

    def _at(self, time_s: Floats) -> tuple[Floats, Floats]:
        # All stages of a step ask for the same moments.
        if time_s is not self._asked_s:
            self._asked_s, self._known = time_s, self._over_time.at(time_s)
        return self._known

    def flow(self, ocv_v: Floats, time_s: Floats) -> Flow:
        layout = self.layout
        load_a = self._at(time_s)[0]
        group_v = layout.by_group(ocv_v * layout.share_of_cell) - load_a / layout.group_siemens
        cell_a = (ocv_v - group_v[layout.group_of_cell]) * layout.siemens
        return Flow(cell_a, group_v, load_a, group_v, np.ones_like(load_a))

    def answer(self, flow: Flow, push: Floats, stiffness: Floats) -> tuple[Floats, Floats]:
        return push / stiffness, np.zeros_like(flow.load_a)

    def is_steady(self, flow: Flow, stiffness: Floats) -> Flags:  # noqa: ARG002
        return np.ones(len(flow.load_a), dtype=bool)

    def drift_a(self, time_s: Floats) -> Floats:
        return self._at(time_s)[1]

    @property
    def wiring_ohm(self) -> float:
        return 0.0

    def kept(self, circuits: Flags) -> GivenCurrent:
        return GivenCurrent(self.layout.kept(circuits), self._over_time)


class StarCircuit:
    """Rails, each joined to one common point through a resistance of its own (may be 0); nothing else."""

    def __init__(self, layout: Layout, external_ohm: Floats) -> None:
        self.layout, self._external_ohm = layout, external_ohm
        self._out = 1 / (1 / layout.group_siemens + external_ohm)

    def flow(self, ocv_v: Floats, time_s: Floats) -> Flow:  # noqa: ARG002
        layout = self.layout
        open_v = layout.by_group(ocv_v * layout.share_of_cell)
        common_v = layout.by_circuit(open_v * self._out) / layout.by_circuit(self._out)
        rail_a = (open_v - common_v[layout.circuit_of_group]) * self._out
        group_v = common_v[layout.circuit_of_group] + rail_a * self._external_ohm
        cell_a = (ocv_v - group_v[layout.group_of_cell]) * layout.siemens
        nothing = np.zeros(len(common_v))
        return Flow(cell_a, group_v, nothing, common_v, nothing + 1)

    def answer(self, flow: Flow, push: Floats, stiffness: Floats) -> tuple[Floats, Floats]:  # noqa: ARG002
        layout = self.layout
        through = 1 + stiffness * self._external_ohm
        common_v = layout.by_circuit(push / through) / layout.by_circuit(stiffness / through)
        of_group = common_v[layout.circuit_of_group]
        rail_a = (push - stiffness * of_group) / through
        return of_group + self._external_ohm * rail_a, np.zeros(len(common_v))

    def is_steady(self, flow: Flow, stiffness: Floats) -> Flags:  # noqa: ARG002
        return np.ones(len(flow.load_a), dtype=bool)

    def drift_a(self, time_s: Floats) -> None:  # noqa: ARG002
        return None

    @property
    def wiring_ohm(self) -> float:
        return 0.0

    def kept(self, circuits: Flags) -> StarCircuit:
        return StarCircuit(self.layout.kept(circuits), self._external_ohm[circuits[self.layout.circuit_of_group]])
