"""What each cell has to carry at the worst moment, when one of them is lost, and when a motor starts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.pack.checks.model import Check, CheckState, amount
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.checks.model import Checked, PlanRuns
    from zembric.core.pack.on_paper import PaperCell


def check_cells(checked: Checked) -> Iterator[Check]:
    """All about the currents of single cells; nothing where the pack could not be run."""
    if checked.runs is None:
        return
    yield _cell_current(checked, checked.runs)
    if checked.parallel > 1:
        yield _one_lost(checked, checked.runs)
    yield from _motor_start(checked, checked.runs)


def may_give_a(cell: PaperCell, rules: HouseRules) -> float:
    """What a cell may give all the time [A]; of one that nobody asked, what the house takes without a sheet."""
    return cell.carries_a or rules.value(limits.NO_SHEET_C) * cell.capacity_mah / 1000


def _cell_current(checked: Checked, runs: PlanRuns) -> Check:
    """The cell that comes nearest to what it may give."""
    asked = {cell.number: cell for group in checked.groups for cell in group}
    peaks = [cell for group in runs.paper.run.groups for cell in group.cells]
    worst = max(peaks, key=lambda cell: runs.peak_a(cell) / may_give_a(asked[cell.key], checked.rules))
    most_a = may_give_a(asked[worst.key], checked.rules)
    is_above = runs.peak_a(worst) > most_a * (1 + 1e-9)
    return Check(
        "cell-current", "stop" if is_above else "holds",
        said("worked-cell-current", cell=worst.key, peak=amount(runs.peak_a(worst), "A", 2), most=amount(most_a, "A", 2)),
        amount(runs.peak_a(worst), "A", 2), amount(most_a, "A", 2), Kind.HOUSE,
        said("mend-more-parallel") if is_above else None,
    )  # fmt: skip


def _one_lost(checked: Checked, runs: PlanRuns) -> Check:
    """The group that would stand worst with one of its cells gone: the others share the current by their resistances."""
    worst_share, worst = 0.0, ("", "", 0.0, 0.0)
    for group in checked.groups:
        for lost in group:
            others = [cell for cell in group if cell is not lost]
            for cell, current_a in zip(others, _shares(others, runs.worst_a), strict=True):
                share = current_a / may_give_a(cell, checked.rules)
                if share > worst_share:
                    worst_share, worst = share, (lost.number, cell.number, current_a, may_give_a(cell, checked.rules))
    lost_key, key, current_a, most_a = worst
    is_above = worst_share > 1 + 1e-9
    return Check(
        "one-cell-lost", "look" if is_above else "holds",
        said("worked-one-cell-lost", lost=lost_key, cell=key, current=amount(current_a, "A", 2), most=amount(most_a, "A", 2)),
        amount(current_a, "A", 2), amount(most_a, "A", 2), Kind.HOUSE, said("mend-one-cell-lost") if is_above else None,
    )  # fmt: skip


def _shares(cells: Sequence[PaperCell], current_a: float) -> list[float]:
    siemens = [1 / (cell.resistance_mohm or 1) for cell in cells]
    return [current_a * mine / sum(siemens) for mine in siemens]


def _motor_start(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """For under a second a motor takes several times its current; the lowest pack has to bear the sag."""
    device = checked.plan.device
    if device is None or device.starts_times is None:
        return
    start_a = device.starts_times * runs.most_a
    ohm = runs.paper.pack.wiring_mohm / 1000 + sum(
        1 / sum(1000 / cell.resistance_mohm for cell in group) for group in runs.paper.pack.groups
    )
    sags_to_v = runs.least_v - (start_a - runs.most_a) * ohm
    board = checked.plan.board
    least_v = checked.series * (board.under_v if board else runs.paper.cutoff_v)
    trips = board is not None and start_a > board.most_a
    state: CheckState = "stop" if trips else "look" if sags_to_v < least_v else "holds"
    mend = None if state == "holds" else said("mend-motor-start-trips" if trips else "mend-motor-start")
    yield Check(
        "motor-start", state,
        said(
            "worked-motor-start", times=amount(device.starts_times, "", 1), current=amount(start_a, "A", 1),
            sags=amount(sags_to_v, "V", 2), least=amount(least_v, "V", 2), ohm=amount(1000 * ohm, "mΩ", 0),
        ),
        amount(sags_to_v, "V", 2), amount(least_v, "V", 2), Kind.HOUSE, mend, may_be_waived=True,
    )  # fmt: skip
