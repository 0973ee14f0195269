"""What a builder promises and plans, checked before the iron is hot: each check is a line with its arithmetic.

A line holds, wants a look, or stops the building until it is mended or a coordinator waives it with a reason; what
protects people is never waived. Sources are with the limits; where a law is applied, at its check.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house.limits import CUT_OFF_V, NOMINAL_V
from zembric.core.pack.checks.boards import check_boards
from zembric.core.pack.checks.cells import check_cells
from zembric.core.pack.checks.charging import check_charging
from zembric.core.pack.checks.conductors import check_conductors
from zembric.core.pack.checks.house import check_house
from zembric.core.pack.checks.model import Check, Checked, CheckState, PlanRuns
from zembric.core.pack.checks.promises import check_promises
from zembric.core.pack.checks.runs import PackVolts, efficiencies, run_plan

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.on_paper import PaperCell, StartsFrom
    from zembric.core.pack.parts import PackPlan

__all__ = ["Check", "CheckState", "Checked", "PlanRuns", "check_all", "efficiencies", "take_up"]
_GROUPS = (check_promises, check_cells, check_charging, check_boards, check_conductors, check_house)


def take_up(
    groups: Sequence[Sequence[PaperCell]],
    family: Family,
    cell_full_v: float,
    plan: PackPlan,
    rules: HouseRules,
    *,
    starts_from: StartsFrom = "full",
    with_band: bool = True,
) -> Checked:
    """A pack with its plan, run on paper if it can be."""
    volts = PackVolts(len(groups) * cell_full_v, len(groups) * rules.of(CUT_OFF_V, family))
    runs = run_plan(groups, family, plan, volts, rules, starts_from=starts_from, with_band=with_band)
    nominal_v = NOMINAL_V[family].value
    if isinstance(runs, PlanRuns):
        return Checked(groups, family, cell_full_v, nominal_v, plan, rules, runs)
    return Checked(groups, family, cell_full_v, nominal_v, plan, rules, None, runs)


def check_all(checked: Checked) -> tuple[Check, ...]:
    """Every line; those that stop the building first, then those that want a look."""
    lines = [line for group in _GROUPS for line in group(checked)]
    order = {"stop": 0, "look": 1, "holds": 2}
    return tuple(sorted(lines, key=lambda line: order[line.state]))
