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
_SHARE_COUNTS = 0.2
#: By what share energy and heat of a step may be wrong; heat below a share of the energy counts as that.
_ENERGY_WRONG, _HEAT_WRONG, _HEAT_COUNTS = 2e-4, 4e-3, 1e-4


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
    Care(6e-5, 6e-5, 2e-3, 3e-3),
    Care(1.6e-4, 1.6e-4, 1e-2, 3e-2),
    Care(1.6e-4, 1.6e-4, load=3e-3),
    Care(4e-5, 4e-5),
    Care(2e-4, 2e-4),
    Care(1e-3, 1e-3),
)


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


def look(cells: Cells, circuit: Circuit, state: State) -> Here:
    """What follows from a state."""
    lines = cells.curves.lines(state.soc)
    ocv_v, slope = cells.curves.on_lines(lines, state.soc)
    return Here(state, lines, ocv_v, slope, circuit.flow(ocv_v, state.time_s))


def take_step(cells: Cells, circuit: Circuit, here: Here, step_s: Floats, care: Care) -> Step:
    """Tries a step of each circuit."""
    layout, state, slope = circuit.layout, here.state, here.slope
    siemens, of_cell, of_group = layout.siemens, layout.circuit_of_cell, layout.group_of_cell
    step_of_cell = step_s[of_cell]
    gamma_of_cell = _GAMMA * step_of_cell
    push_of_v = -gamma_of_cell * siemens * cells.per_ampere
    damped = 1 / (1 + push_of_v * slope)
    stiffness = layout.by_group(siemens * damped)
    pushed = slope * siemens * damped
    drift = _drift(cells, circuit, here, state.time_s)

    soc_rates: list[Floats] = []
    sum_rates: list[Floats] = []
    # Without care for each cell nobody asks for the sums.
    has_sums = care.current < np.inf
    cell_a, soc, sums = here.flow.cell_a, state.soc, state.sums
    change = cell_a * cells.per_ampere
    growth = _growth(circuit, here.flow) if has_sums else sums
    end_s = state.time_s + step_s
    for stage in _STAGES:
        if stage.goes:
            by, of = stage.goes
            soc = soc + by * soc_rates[of]
            flow = circuit.flow(cells.curves.voltages(soc)[0], end_s)
            change = flow.cell_a * cells.per_ampere
            if has_sums:
                sums = sums + by * sum_rates[of]
                growth = _growth(circuit, flow)
        wanted = change
        if stage.on_rates:
            wanted = wanted + _weighed(stage.on_rates, soc_rates) / step_of_cell
        if drift is not None and stage.drift:
            wanted = wanted + stage.drift * step_of_cell * drift[0]
        right = gamma_of_cell * wanted
        group_v, load_a = circuit.answer(here.flow, layout.by_group(pushed * right), stiffness)
        v_of_cell = group_v[of_group]
        rate = (right + push_of_v * v_of_cell) * damped
        soc_rates.append(rate)
        if has_sums:
            cell_a = (slope * rate - v_of_cell) * siemens
            wanted_sums = growth + _growth_of(circuit, here.flow, group_v, load_a, cell_a)
            if stage.on_rates:
                wanted_sums += _weighed(stage.on_rates, sum_rates) / step_s
            if drift is not None and stage.drift:
                wanted_sums += stage.drift * step_s * drift[1]
            sum_rates.append(_GAMMA * step_s * wanted_sums)
    there = look(cells, circuit, State(end_s, soc + soc_rates[-1], sums + sum_rates[-1] if has_sums else sums))
    # What the embedded method of second order would say otherwise is the last stage; its current is `cell_a`.
    wrong = np.maximum(np.abs(soc_rates[-1]) / care.soc, np.abs(slope * soc_rates[-1]) / care.volts)
    if has_sums:
        wrong = np.maximum(wrong, np.abs(cell_a) / (care.current * _counts_a(circuit, here, there)))
    error = np.maximum.reduceat(wrong, layout.cell_starts)
    if has_sums:
        error = np.maximum(error, _sums_wrong(there.state.sums - state.sums, sum_rates[-1]))
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
    growth = np.empty((4, len(flow.load_a)))
    growth[0] = flow.load_a
    growth[1] = flow.load_a * flow.load_v
    growth[2] = np.add.reduceat(flow.cell_a * flow.cell_a * layout.ohm, layout.cell_starts)
    growth[3] = flow.load_a * flow.load_a
    return growth


def _growth_of(circuit: Circuit, flow: Flow, group_v: Floats, load_a: Floats, cell_a: Floats) -> Floats:
    """How that changes where groups, load and cells change by so much."""
    layout = circuit.layout
    load_v = layout.by_circuit(group_v) - circuit.wiring_ohm * load_a
    growth = np.empty((4, len(flow.load_a)))
    growth[0] = load_a
    growth[1] = flow.load_a * load_v + flow.load_v * load_a
    growth[2] = np.add.reduceat(2 * flow.cell_a * cell_a * layout.ohm, layout.cell_starts)
    growth[3] = 2 * flow.load_a * load_a
    return growth


def _drift(cells: Cells, circuit: Circuit, here: Here, time_s: Floats) -> tuple[Floats, Floats] | None:
    """How the rates change by themselves where the load current does: those of the charges, and of the sums."""
    drift_a = circuit.drift_a(time_s)
    if drift_a is None:
        return None
    layout = circuit.layout
    group_v = -drift_a / layout.group_siemens
    cell_a = -group_v[layout.group_of_cell] * layout.siemens
    return cell_a * cells.per_ampere, _growth_of(circuit, here.flow, group_v, drift_a, cell_a)


def currents_change(cells: Cells, circuit: Circuit, here: Here) -> tuple[Floats, Floats]:
    """How the current of each cell and each load changes [A/s]."""
    layout = circuit.layout
    ocv_v = here.slope * here.flow.cell_a * cells.per_ampere
    group_v, load_a = circuit.answer(here.flow, layout.by_group(ocv_v * layout.siemens), layout.group_siemens)
    drift_a = circuit.drift_a(here.state.time_s)
    if drift_a is not None:
        group_v = group_v - drift_a / layout.group_siemens
    return (ocv_v - group_v[layout.group_of_cell]) * layout.siemens, load_a
