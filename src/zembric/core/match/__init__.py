"""Cells into S groups of P: the weakest group as strong as possible, then as even as possible, and a bound that proves it.

In a series pack the weakest group ends the run, so it comes first; then the spread of the groups, then resistance.
What a builder and the house ask of the cells (conditions), pins and donors (holds), several packs and repairs stand on it.
"""

from zembric.core.match.conditions import (
    Candidate,
    Conditions,
    LeftOut,
    broken_in_groups,
    kind_of,
    missing_cells,
    sift,
)
from zembric.core.match.exchange import Exchange, Repair, repairs
from zembric.core.match.holds import Holds
from zembric.core.match.match import (
    GIVES_PCT,
    Alternative,
    alternatives,
    dealt_like_cards,
    match,
    weakest_group_bound_mah,
)
from zembric.core.match.model import Group, Match, MatchCell, OutOfReachError, TooFewCellsError
from zembric.core.match.on_run import Duty, LoadTooLargeError, RunMatch, match_on_run
from zembric.core.match.plan import Job, Plan, Trust, is_better_plan, make_plan, plan_of_groups
from zembric.core.match.several import plan_alike, plan_in_order
from zembric.core.match.tolerances import TOLERANCE_KEYS, USUAL_TOLERANCES, Tolerance, tolerances_of

__all__ = [
    "GIVES_PCT",
    "TOLERANCE_KEYS",
    "USUAL_TOLERANCES",
    "Alternative",
    "Candidate",
    "Conditions",
    "Duty",
    "Exchange",
    "Group",
    "Holds",
    "Job",
    "LeftOut",
    "LoadTooLargeError",
    "Match",
    "MatchCell",
    "OutOfReachError",
    "Plan",
    "Repair",
    "RunMatch",
    "Tolerance",
    "TooFewCellsError",
    "Trust",
    "alternatives",
    "broken_in_groups",
    "dealt_like_cards",
    "is_better_plan",
    "kind_of",
    "make_plan",
    "match",
    "match_on_run",
    "missing_cells",
    "plan_alike",
    "plan_in_order",
    "plan_of_groups",
    "repairs",
    "sift",
    "tolerances_of",
    "weakest_group_bound_mah",
]
