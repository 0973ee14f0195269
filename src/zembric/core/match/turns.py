"""How a search is ended: by the share of the time that is gone, and after a number of turns."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Callable

    IsOver = Callable[[], bool]
    TimeUsed = Callable[[], float]

#: By these shares of the time the weakest group, then the spread, is left as it is.
WEAKEST_UNTIL, SPREAD_UNTIL = 0.65, 0.85
RESISTANCE_TURNS = 400


def until(share: float, time_used: TimeUsed) -> IsOver:
    return lambda: time_used() >= share
