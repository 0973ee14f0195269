"""Cells into S groups of P: the weakest group as strong as possible, then as even as possible, and a bound that proves it.

In a series pack the weakest group ends the run, so it comes first; then the spread of the groups, then resistance.
"""

from zembric.core.matching.match import (
    GIVES_PCT,
    Alternative,
    alternatives,
    dealt_like_cards,
    match,
    weakest_group_bound_mah,
)
from zembric.core.matching.model import Group, Match, MatchCell, OutOfReachError, TooFewCellsError

__all__ = [
    "GIVES_PCT",
    "Alternative",
    "Group",
    "Match",
    "MatchCell",
    "OutOfReachError",
    "TooFewCellsError",
    "alternatives",
    "dealt_like_cards",
    "match",
    "weakest_group_bound_mah",
]
