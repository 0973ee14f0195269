"""One step in time of many circuits at once: Rodas3, linearly implicit, L-stable, third order with an error of second.

Each circuit has its own step. The linear systems are a diagonal and a few sums (see circuits), so a step takes time and
memory in proportion to the cells, however fast a cell of 0.02 mOhm settles. Charge, energy and heat are taken along as
further unknowns, which keeps their balance. Source: Sandu et al., Benchmarking stiff ODE solvers II, 1997.
"""

from __future__ import annotations

from dataclasses import dataclass
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
    """How a stage builds on those before: from the state, from their rates, and when it is."""

    on_state: tuple[float, ...]
    on_rates: tuple[float, ...]
    later: float
    drift: float


_STAGES = (
    _Stage((), (), 0.0, 0.5),
    _Stage((), (4.0,), 0.0, 1.5),
    _Stage((2.0, 0.0), (1.0, -1.0), 1.0, 0.0),
    _Stage((2.0, 0.0, 1.0), (1.0, -1.0, -8 / 3), 1.0, 0.0),
)
_WEIGHTS = (2.0, 0.0, 1.0, 1.0)
#: Currents below this share of what the cell would carry of the load count as this share.
_SHARE_COUNTS = 0.2
#: By what share energy and heat of a step may be wrong; heat below a share of the energy counts as that.
_ENERGY_WRONG, _HEAT_WRONG, _HEAT_COUNTS = 2e-4, 4e-3, 1e-4


@dataclass(frozen=True, slots=True)
class Care:
    """By how much a step may be wrong: in charge (0 to 1), open-circuit voltage [V] and, as a share, a cell's current.

    `peaks`: how much a peak between two steps may be missed, as a share of the largest before.
    """

    soc: float
    volts: float
    current: float = np.inf
    peaks: float = np.inf


#: What each cell carries is known too; else only what all of them together do.
EACH_CELL, ALL_TOGETHER = Care(2e-5, 2e-5, 2e-3, 3e-3), Care(2e-5, 2e-5)


@dataclass(slots=True)
class State:
    """Where all circuits stand: time [s], charge of each cell (0 to 1), and since the start charge [As] of the load,
    energy [Ws] out of the circuit, heat [Ws] of its cells, and the square of the current over time [A^2 s] (rows of `sums`)."""

    time_s: Floats
    soc: Floats
    sums: Floats  # (4, circuits)


@dataclass(slots=True)
class Cells:
    """What does not change of the cells: charge [As] and curve."""

    charge_as: Floats
    curves: CellCurves


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


def look(cells: Cells, circuit: Circuit, state: State) -> Here:
    """What follows from a state."""
    lines = cells.curves.lines(state.soc)
    ocv_v, slope = cells.curves.on_lines(lines, state.soc)
    return Here(state, lines, ocv_v, slope, circuit.flow(ocv_v, state.time_s))


def take_step(cells: Cells, circuit: Circuit, here: Here, step_s: Floats, care: Care) -> Step:
    """Tries a step of each circuit."""
    layout, state, slope = circuit.layout, here.state, here.slope
    siemens, of_cell, of_group = layout.siemens, layout.circuit_of_cell, layout.group_of_cell
    gamma_s = _GAMMA * step_s
    push_of_v = gamma_s[of_cell] * siemens / cells.charge_as
    damped = 1 / (1 + push_of_v * slope)
    stiffness = layout.by_group(siemens * damped)
    pushed = slope * siemens * damped
    step_of_cell = step_s[of_cell]
    drift = _drift(cells, circuit, here, state.time_s)

    soc_rates: list[Floats] = []
    sum_rates: list[Floats] = []
    cell_a = here.flow.cell_a
    change, growth = -cell_a / cells.charge_as, _growth(circuit, here.flow)
    for stage in _STAGES:
        if stage.on_state:
            soc = state.soc + sum(by * rate for by, rate in zip(stage.on_state, soc_rates, strict=True) if by)
            flow = circuit.flow(cells.curves.voltages(soc)[0], state.time_s + stage.later * step_s)
            change, growth = -flow.cell_a / cells.charge_as, _growth(circuit, flow)
        wanted, sums_wanted = change, growth
        for by, soc_rate, sum_rate in zip(stage.on_rates, soc_rates, sum_rates, strict=True):
            wanted = wanted + by * soc_rate / step_of_cell
            sums_wanted = sums_wanted + by * sum_rate / step_s
        if drift is not None and stage.drift:
            wanted = wanted + stage.drift * step_of_cell * drift[0]
            sums_wanted = sums_wanted + stage.drift * step_s * drift[1]
        right = gamma_s[of_cell] * wanted
        group_v, load_a = circuit.answer(here.flow, layout.by_group(pushed * right), stiffness)
        rate = (right + push_of_v * group_v[of_group]) * damped
        cell_a = (slope * rate - group_v[of_group]) * siemens
        sum_rates.append(gamma_s * (sums_wanted + _growth_of(circuit, here.flow, group_v, load_a, cell_a)))
        soc_rates.append(rate)
    after = State(
        state.time_s + step_s,
        state.soc + sum(by * rate for by, rate in zip(_WEIGHTS, soc_rates, strict=True) if by),
        state.sums + sum(by * rate for by, rate in zip(_WEIGHTS, sum_rates, strict=True) if by),
    )
    there = look(cells, circuit, after)
    # What the embedded method of second order would say otherwise is the last stage; its current is `cell_a`.
    wrong = np.maximum(np.abs(soc_rates[-1]) / care.soc, np.abs(slope * soc_rates[-1]) / care.volts)
    if care.current < np.inf:
        share_a = siemens / layout.group_siemens[of_group] * np.abs(here.flow.load_a)[of_cell]
        allowed_a = care.current * (np.abs(there.flow.cell_a) + _SHARE_COUNTS * share_a + 1e-9)
        wrong = np.maximum(wrong, np.abs(cell_a) / allowed_a)
    error = np.maximum.reduceat(wrong, layout.cell_starts)
    if care.current < np.inf:
        error = np.maximum(error, _sums_wrong(after.sums - state.sums, sum_rates[-1]))
    return Step(there, np.where(circuit.is_steady(here.flow, stiffness) & np.isfinite(error), error, np.inf))


def _sums_wrong(grown: Floats, wrong: Floats) -> Floats:
    """How wrong energy and heat of a step are, against what is allowed of each."""
    energy_ws = np.abs(grown[1]) + 1e-12
    heat_ws = np.abs(grown[2]) + _HEAT_COUNTS * energy_ws
    share: Floats = np.maximum(
        np.abs(wrong[1]) / (_ENERGY_WRONG * energy_ws), np.abs(wrong[2]) / (_HEAT_WRONG * heat_ws)
    )
    return share


def _growth(circuit: Circuit, flow: Flow) -> Floats:
    """By how much charge, energy, heat and the square of the current grow a second."""
    layout = circuit.layout
    cells_w = np.add.reduceat(flow.cell_a**2 / layout.siemens, layout.cell_starts)
    return np.stack([flow.load_a, flow.load_a * flow.load_v, cells_w, flow.load_a**2])


def _growth_of(circuit: Circuit, flow: Flow, group_v: Floats, load_a: Floats, cell_a: Floats) -> Floats:
    """How that changes where groups, load and cells change by so much."""
    layout = circuit.layout
    load_v = layout.by_circuit(group_v) - circuit.wiring_ohm * load_a
    cells_w = np.add.reduceat(2 * flow.cell_a * cell_a / layout.siemens, layout.cell_starts)
    return np.stack([load_a, flow.load_a * load_v + flow.load_v * load_a, cells_w, 2 * flow.load_a * load_a])


def _drift(cells: Cells, circuit: Circuit, here: Here, time_s: Floats) -> tuple[Floats, Floats] | None:
    """How the rates change by themselves where the load current does: those of the charges, and of the sums."""
    drift_a = circuit.drift_a(time_s)
    if drift_a is None:
        return None
    layout = circuit.layout
    group_v = -drift_a / layout.group_siemens
    cell_a = -group_v[layout.group_of_cell] * layout.siemens
    return -cell_a / cells.charge_as, _growth_of(circuit, here.flow, group_v, drift_a, cell_a)


def currents_change(cells: Cells, circuit: Circuit, here: Here) -> Floats:
    """How the current of each cell changes [A/s]."""
    layout = circuit.layout
    ocv_v = -here.slope * here.flow.cell_a / cells.charge_as
    group_v, _ = circuit.answer(here.flow, layout.by_group(ocv_v * layout.siemens), layout.group_siemens)
    drift_a = circuit.drift_a(here.state.time_s)
    if drift_a is not None:
        group_v = group_v - drift_a / layout.group_siemens
    change: Floats = (ocv_v - group_v[layout.group_of_cell]) * layout.siemens
    return change
