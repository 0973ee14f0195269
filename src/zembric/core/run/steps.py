"""One step in time of many circuits at once: Rodas3, linearly implicit, L-stable, third order with an error of second.

Each circuit has its own step. The linear systems are a diagonal and a few sums (see circuits), so a step takes time and
memory in proportion to the cells, however fast a cell of 0.02 mOhm settles. Charge, energy and heat are taken along as
further unknowns, which keeps their balance. Source: Sandu et al., Benchmarking stiff ODE solvers II, 1997.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from zembric.core.run.circuits import Circuit, Flow
    from zembric.core.run.curves import CellCurves

    Floats = NDArray[np.float64]
    Flags = NDArray[np.bool_]
    Indices = NDArray[np.intp]

_GAMMA = 0.5


@dataclass(frozen=True, slots=True)
class _Stage:
    """How a stage builds on those before: how far it goes on from where the last one stood, by which rate, and what the
    rates before it add; whether it stands at the end of the step, and what the drift counts."""

    goes: tuple[float, int] | None
    on_rates: tuple[float, ...]
    drift: float


#: From each state to the next: 2 r1, then r3, and at last r4.
_STAGES = (
    _Stage(None, (), 0.5),
    _Stage(None, (4.0,), 1.5),
    _Stage((2.0, 0), (1.0, -1.0), 0.0),
    _Stage((1.0, 2), (1.0, -1.0, -8 / 3), 0.0),
)
#: Currents below this share of what the cell would carry of the load count as this share.
_SHARE_COUNTS = 0.03
#: By what share the heat of a step may be wrong; heat below a share of the energy counts as that.
_HEAT_WRONG, _HEAT_COUNTS = 1e-3, 5e-2


@dataclass(frozen=True, slots=True)
class Care:
    """By how much a step may be wrong: in charge (0 to 1), open-circuit voltage [V] and, as a share, a cell's current.

    `peaks`: how much a peak between two steps may be missed, as a share of the largest before. `load`: by what share of
    the load a cubic through the moments may miss it, as it does over a corner of a curve.
    """

    soc: float
    volts: float
    current: float = np.inf
    peaks: float = np.inf
    load: float = np.inf


#: What each cell carries is known too, well or at a look; else only what all of them together do, only when it ends, or only about that.
EACH_CELL, AT_A_LOOK, ALL_TOGETHER, ENDS, ABOUT, ROUGHLY = (
    Care(4e-5, 4e-5, 1e-3, 1.5e-3),
    Care(1.6e-4, 1.6e-4, 1e-2, 3e-2),
    Care(3e-4, 3e-4, load=3e-3),
    Care(4e-5, 4e-5),
    Care(2e-4, 2e-4),
    Care(1e-3, 1e-3),
)


@dataclass(slots=True)
class State:
    """Where all circuits stand: time [s], charge of each cell (0 to 1), and since the start the heat [Ws] of the cells and
    the square of the load over time [A^2 s] (rows of `sums`). What was given follows from the charges."""

    time_s: Floats
    soc: Floats
    sums: Floats  # (2, circuits)


@dataclass(slots=True)
class Cells:
    """What does not change of the cells: charge [As] and curve."""

    charge_as: Floats
    curves: CellCurves
    #: Charge that a current takes a second, as a share, with its sign.
    per_ampere: Floats = field(init=False)

    def __post_init__(self) -> None:
        self.per_ampere = -1 / self.charge_as


@dataclass(slots=True)
class Here:
    """A state with all that follows from it: lines of the curves, voltages [V], their slope over charge, what flows."""

    state: State
    lines: Indices
    ocv_v: Floats
    slope: Floats
    flow: Flow


@dataclass(slots=True)
class Step:
    """A step that was tried: where it leads, and its error against what is allowed (1: just allowed; inf: cannot be)."""

    here: Here
    error: Floats


@dataclass(slots=True)
class Moving:
    """How currents of cells and loads change [A/s], how fast the sums grow, how that changes, and the loads [W]."""

    cell_a: Floats
    load_a: Floats
    growth: Floats  # (2, circuits)
    rise: Floats
    load_w: Floats

    def of(self, cells: Flags, circuits: Flags) -> Moving:
        """Only some of the circuits, with their cells."""
        return Moving(
            self.cell_a[cells],
            self.load_a[circuits],
            self.growth[:, circuits],
            self.rise[:, circuits],
            self.load_w[circuits],
        )

    def mixed(self, cells: Flags, circuits: Flags, others: Moving) -> Moving:
        """Some circuits as here, the rest as in `others`."""
        return Moving(
            np.where(cells, self.cell_a, others.cell_a),
            np.where(circuits, self.load_a, others.load_a),
            np.where(circuits, self.growth, others.growth),
            np.where(circuits, self.rise, others.rise),
            np.where(circuits, self.load_w, others.load_w),
        )


def look(cells: Cells, circuit: Circuit, state: State) -> Here:
    """What follows from a state."""
    lines = cells.curves.lines(state.soc)
    ocv_v, slope = cells.curves.on_lines(lines, state.soc)
    return Here(state, lines, ocv_v, slope, circuit.flow(ocv_v, state.time_s))


def take_step(cells: Cells, circuit: Circuit, here: Here, step_s: Floats, care: Care) -> Step:
    """Tries a step of each circuit; its sums are those of where it began."""
    layout, state, slope = circuit.layout, here.state, here.slope
    siemens, of_cell, of_group = layout.siemens, layout.circuit_of_cell, layout.group_of_cell
    step_of_cell = step_s[of_cell]
    gamma_of_cell = _GAMMA * step_of_cell
    push_of_v = -gamma_of_cell * siemens * cells.per_ampere
    damped = 1 / (1 + push_of_v * slope)
    let_through = siemens * damped
    stiffness = layout.by_group(let_through)
    pushed = slope * let_through
    drift = _drift(cells, circuit, state.time_s)

    rates: list[Floats] = []
    soc, v_of_cell = state.soc, here.ocv_v
    change = here.flow.cell_a * cells.per_ampere
    end_s = state.time_s + step_s
    for stage in _STAGES:
        if stage.goes:
            by, of = stage.goes
            soc = soc + by * rates[of]
            change = circuit.flow(cells.curves.voltages(soc)[0], end_s).cell_a * cells.per_ampere
        wanted = change
        if stage.on_rates:
            wanted = wanted + _weighed(stage.on_rates, rates) / step_of_cell
        if drift is not None and stage.drift:
            wanted = wanted + stage.drift * step_of_cell * drift
        right = gamma_of_cell * wanted
        v_of_cell = circuit.answer(here.flow, layout.by_group(pushed * right), stiffness)[0][of_group]
        rates.append((right + push_of_v * v_of_cell) * damped)
    there = look(cells, circuit, State(end_s, soc + rates[-1], state.sums))
    # What the embedded method of second order would say otherwise is the last stage.
    wrong_v = slope * rates[-1]
    wrong = np.maximum(np.abs(rates[-1]) / care.soc, np.abs(wrong_v) / care.volts)
    if care.current < np.inf:
        wrong_a = (wrong_v - v_of_cell) * siemens
        wrong = np.maximum(wrong, np.abs(wrong_a) / (care.current * _counts_a(circuit, here, there)))
    error = np.maximum.reduceat(wrong, layout.cell_starts)
    return Step(there, np.where(circuit.is_steady(here.flow, stiffness) & np.isfinite(error), error, np.inf))


def _counts_a(circuit: Circuit, here: Here, there: Here) -> Floats:
    """The current of each cell [A] that an error of it is held against, never much below its share of the load."""
    layout = circuit.layout
    load_a = np.abs(here.flow.load_a)[layout.circuit_of_cell]
    counts: Floats = np.abs(there.flow.cell_a) + _SHARE_COUNTS * layout.share_of_cell * load_a + 1e-9
    return counts


def _weighed(weights: tuple[float, ...], rates: list[Floats]) -> Floats:
    total = None
    for weight, rate in zip(weights, rates, strict=True):
        if weight:
            part = rate if weight == 1 else weight * rate
            total = part if total is None else total + part
    assert total is not None
    return total


def grown(was: Moving, now: Moving, step_s: Floats) -> tuple[Floats, Floats]:
    """By how much the sums grow in a step, and their error against what is allowed (1: just allowed).

    A cubic through both ends; what it adds to the straight line is what a corner of a curve within the step may make wrong.
    """
    bent = step_s * step_s / 12 * (was.rise - now.rise)
    sums = step_s / 2 * (was.growth + now.growth) + bent
    counts_ws = np.abs(sums[0]) + _HEAT_COUNTS * np.abs(was.load_w) * step_s + 1e-16
    return sums, np.abs(bent[0]) / (_HEAT_WRONG * counts_ws)


def _drift(cells: Cells, circuit: Circuit, time_s: Floats) -> Floats | None:
    """How the rates of the charges change by themselves where the load current does."""
    drift_a = circuit.drift_a(time_s)
    if drift_a is None:
        return None
    layout = circuit.layout
    return (drift_a / layout.group_siemens)[layout.group_of_cell] * layout.siemens * cells.per_ampere


def moving(cells: Cells, circuit: Circuit, here: Here) -> Moving:
    """How currents and sums change."""
    layout, flow = circuit.layout, here.flow
    cell_a, load_a = currents_change(cells, circuit, here)
    heats_v = flow.cell_a * layout.ohm
    starts = layout.cell_starts
    growth = np.array([np.add.reduceat(flow.cell_a * heats_v, starts), flow.load_a * flow.load_a])
    rise = 2 * np.array([np.add.reduceat(cell_a * heats_v, starts), flow.load_a * load_a])
    return Moving(cell_a, load_a, growth, rise, flow.load_a * flow.load_v)


def currents_change(cells: Cells, circuit: Circuit, here: Here) -> tuple[Floats, Floats]:
    """How the current of each cell and each load changes [A/s]."""
    layout = circuit.layout
    ocv_v = here.slope * here.flow.cell_a * cells.per_ampere
    group_v, load_a = circuit.answer(here.flow, layout.by_group(ocv_v * layout.siemens), layout.group_siemens)
    drift_a = circuit.drift_a(here.state.time_s)
    if drift_a is not None:
        group_v = group_v - drift_a / layout.group_siemens
    return (ocv_v - group_v[layout.group_of_cell]) * layout.siemens, load_a
