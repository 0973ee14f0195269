"""Cells as they are stated into the arrays that are followed."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zembric.core.run.circuits import Layout
from zembric.core.run.curves import CellCurves
from zembric.core.run.steps import Cells, State

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from numpy.typing import NDArray

    from zembric.core.run.curves import Curve
    from zembric.core.run.model import RunCell

    Floats = NDArray[np.float64]


def lay_out(curves: Mapping[str, Curve], packs: Sequence[Sequence[Sequence[RunCell]]]) -> tuple[Cells, Layout, Floats]:
    """The cells of circuits of groups, who is joined to whom, and their states of charge."""
    flat = [cell for groups in packs for group in groups for cell in group]
    names = list(curves)
    place = {name: index for index, name in enumerate(names)}
    which = np.array([place[cell.chemistry] for cell in flat], dtype=np.intp)
    layout = Layout(
        1000 / np.array([cell.resistance_mohm for cell in flat], dtype=np.float64),
        np.array([len(group) for groups in packs for group in groups], dtype=np.intp),
        np.array([len(groups) for groups in packs], dtype=np.intp),
    )
    charge_as = np.array([cell.capacity_mah for cell in flat], dtype=np.float64) * 3.6
    cells = Cells(charge_as, CellCurves([curves[name] for name in names], which))
    return cells, layout, np.array([cell.soc for cell in flat], dtype=np.float64)


def at_start(soc: Floats, circuits: int) -> State:
    """So many circuits at time 0."""
    return State(np.zeros(circuits), soc, np.zeros((2, circuits)))
