"""Cells made even: rails of cells in parallel, joined to one common point each through its own resistance."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.run.circuits import StarCircuit
from zembric.core.run.follow import follow
from zembric.core.run.laid import at_start, lay_out
from zembric.core.run.model import RefusedRunError, RunCell, Wrong, wrong_in_curves, wrong_in_groups
from zembric.core.run.steps import Care

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from numpy.typing import NDArray

    from zembric.core.run.circuits import Circuit, Layout
    from zembric.core.run.curves import Curve
    from zembric.core.run.steps import Cells, Here

    Floats = NDArray[np.float64]

_HALVINGS = 200
_WRONG = 2e-5
#: For a picture.
_PICTURE = 2e-4


@dataclass(frozen=True, slots=True)
class Rail:
    """Cells in direct parallel, joined to the common point through a resistance [mOhm]; 0: directly."""

    cells: Sequence[RunCell]
    external_mohm: float = 0.0


@dataclass(frozen=True, slots=True)
class Equalised:
    """How long until the open-circuit voltages lie within the limit [s], and the heat of all until then [Wh].

    `final_v` and the states of charge by cell, rail by rail, are those after endless time; `first_a` flows at first,
    discharging positive.
    """

    seconds: float
    final_v: float
    heat_wh: float
    first_a: tuple[tuple[float, ...], ...]
    final_soc: tuple[tuple[float, ...], ...]


def equalise(curves: Mapping[str, Curve], rails: Sequence[Rail], limit_mv: float) -> Equalised:
    """Joins rails and waits.

    Raises:
        RefusedRunError: something of it cannot be; says all of it.
    """
    groups = [rail.cells for rail in rails]
    wrong = [*wrong_in_curves(curves), *wrong_in_groups(groups, curves)]
    wrong += [
        Wrong("resistance_not_positive", number)
        for number, rail in enumerate(rails, start=1)
        if not rail.external_mohm >= 0
    ]
    if not limit_mv > 0:
        wrong.append(Wrong("bad_value"))
    if wrong:
        raise RefusedRunError(wrong)
    cells, layout, soc = lay_out(curves, [groups])
    circuit = StarCircuit(layout, np.array([rail.external_mohm for rail in rails]) / 1000)
    limit_v = limit_mv / 1000

    def room(_circuit: Circuit, here: Here) -> Floats:
        return np.array([np.ptp(here.ocv_v) - limit_v])

    start = at_start(soc, 1)
    first = circuit.flow(cells.curves.voltages(soc)[0], start.time_s)
    care = Care(_WRONG, min(_WRONG, limit_v / 2000))
    ended = follow(cells, circuit, start, room, care)
    final_v = _common_v(cells, soc)
    # No load: what the cells have lost is heat.
    heat_ws = float((cells.charge_as * (cells.curves.area(soc) - cells.curves.area(ended.state.soc))).sum())
    return Equalised(
        float(ended.state.time_s[0]),
        final_v,
        heat_ws / 3600,
        _by_rail(first.cell_a, layout),
        _by_rail(cells.curves.charges(final_v), layout),
    )


@dataclass(frozen=True, slots=True)
class EqualisedOverTime:
    """At moments [s] the open-circuit voltage of each cell [V], rail by rail."""

    moments_s: tuple[float, ...]
    cell_v: tuple[tuple[float, ...], ...]


def equalise_over_time(
    curves: Mapping[str, Curve], rails: Sequence[Rail], limit_mv: float, most: int = 80
) -> EqualisedOverTime:
    """How the voltages come together until they lie within the limit, for a picture.

    Raises:
        RefusedRunError: something of it cannot be.
    """
    cells, layout, soc = lay_out(curves, [[rail.cells for rail in rails]])
    circuit = StarCircuit(layout, np.array([rail.external_mohm for rail in rails]) / 1000)

    def room(_circuit: Circuit, here: Here) -> Floats:
        return np.array([np.ptp(here.ocv_v) - limit_mv / 1000])

    ended = follow(cells, circuit, at_start(soc, 1), room, Care(_PICTURE, _PICTURE))
    moments_s = ended.over_time.moments_s
    taken = np.unique(np.linspace(0, len(moments_s) - 1, most).round().astype(np.intp))
    volts = np.array([cells.curves.voltages(each)[0] for each in ended.soc[taken]])
    return EqualisedOverTime(tuple(moments_s[taken].tolist()), tuple(tuple(row) for row in volts.T.tolist()))


def _by_rail(values: Floats, layout: Layout) -> tuple[tuple[float, ...], ...]:
    return tuple(tuple(part.tolist()) for part in np.split(values, layout.group_starts[1:]))


def _common_v(cells: Cells, soc: Floats) -> float:
    """The voltage [V] at which all cells together hold the charge they have; the curves rise, so there is one."""
    ocv_v, _ = cells.curves.voltages(soc)
    low, high = float(ocv_v.min()), float(ocv_v.max())
    held = float((cells.charge_as * soc).sum())
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if middle in {low, high}:
            break
        if float((cells.charge_as * cells.curves.charges(middle)).sum()) < held:
            low = middle
        else:
            high = middle
    return (low + high) / 2
