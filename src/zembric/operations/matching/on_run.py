"""The longest run that the cells of a match can give at its load, beside the run that capacity alone brings."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from statistics import fmean
from time import monotonic
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.identify.families import has_ocv_table, ocv_table
from zembric.core.match import Duty, MatchCell, RunMatch, kind_of, match_on_run, sift
from zembric.core.run import Curve, Load
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.proposals import SEARCH_S, MatchRequest, job_of, pool_for

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.match import Candidate, Conditions


@dataclass(frozen=True, slots=True)
class LongestRun:
    """What was found for full cells down to the house's cut-off, at so many times a cell's capacity an hour."""

    found: RunMatch
    rate_c: float


def longest_run(session: Session, request: MatchRequest, now: datetime) -> LongestRun | None:
    """None where nobody asks for it: no load, a small one, a target, cells held apart or pinned, or too little is known.

    Raises:
        BadInputError: a shape that cannot be, or a load that no pack of these cells carries.
    """
    rules = rules_in_force(session)
    if request.load_a is None or request.target_mah is not None or request.pins or request.donors != "any":
        return None
    if not has_ocv_table(request.family):
        return None
    cells = _of_one_kind(session, request, rules, now)
    if len(cells) < request.series * request.parallel:
        return None
    rate_c = request.load_a / request.parallel / (fmean(cell.capacity_mah for cell in cells) / 1000)
    if rate_c <= rules.value(limits.RUN_MATCH_ABOVE_C):
        return None
    duty = Duty(
        Curve(*ocv_table(request.family)), Load("current", request.load_a), rules.of(limits.CUT_OFF_V, request.family)
    )
    began = monotonic()
    found = match_on_run(
        cells, request.series, request.parallel, duty, time_used=lambda: (monotonic() - began) / SEARCH_S
    )
    return LongestRun(found, rate_c)


def _of_one_kind(session: Session, request: MatchRequest, rules: HouseRules, now: datetime) -> list[MatchCell]:
    """Of the cells that keep every rule those of the kind that holds most, each with its resistance."""
    conditions = job_of(request, rules).conditions
    eligible = sift(
        pool_for(session, request, rules, now).candidates, conditions, request.series, request.parallel
    ).eligible
    best = max(_by_kind(eligible, conditions), key=lambda kind: _holds_mah(kind, request), default=[])
    return [
        MatchCell(cell.key, cell.capacity_mah, cell.resistance_mohm, cell.capacity_u_mah)
        for cell in best
        if cell.resistance_mohm
    ]


def _by_kind(eligible: tuple[Candidate, ...], conditions: Conditions) -> list[list[Candidate]]:
    kinds: dict[str, list[Candidate]] = defaultdict(list)
    for cell in eligible:
        kinds[kind_of(cell, conditions)].append(cell)
    return list(kinds.values())


def _holds_mah(kind: list[Candidate], request: MatchRequest) -> float:
    strongest = sorted((cell.capacity_mah for cell in kind), reverse=True)
    return sum(strongest[: request.series * request.parallel])
