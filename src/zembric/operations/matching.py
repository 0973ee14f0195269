"""Which cells may take part in a match, and why others may not."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from time import monotonic
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.families import full_voltage_v
from zembric.core.limits import NOMINAL_V, Family
from zembric.core.matching import Alternative, Match, MatchCell, TooFewCellsError, alternatives, dealt_like_cards
from zembric.models import CellRow
from zembric.operations.cells import CellFilter, ListedCell, candidates
from zembric.operations.judging import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.rules import HouseRules

#: Capacities by these methods may stand in one group; every other only beside its own kind.
COMPARABLE_METHODS = frozenset({"tester", "trace"})
#: A person waits for it; a search that is not proved best by then gives the best so far.
_SEARCH_S = 1.5
_AT_LEAST = {"A": ("A",), "B": ("A", "B"), "C": ("A", "B", "C")}


@dataclass(frozen=True, slots=True)
class MatchRequest:
    """Groups in series, cells in parallel, and which cells may take part."""

    series: int
    parallel: int
    family: Family
    size_code: str
    least_grade: str = "B"


@dataclass(frozen=True, slots=True)
class LeftOut:
    """Cells of the right size and family that may not take part, by reason."""

    reason: str
    count: int


@dataclass(frozen=True, slots=True)
class Proposal:
    request: MatchRequest
    #: From the strongest weakest group on to ever evener resistance; each better in one and worse in the other.
    choices: tuple[Alternative, ...]
    by_hand: Match
    cells: dict[str, ListedCell]
    candidates: int
    left_out: tuple[LeftOut, ...]
    full_v: float
    nominal_v: float

    @property
    def best(self) -> Match:
        """The grouping with the strongest weakest group."""
        return self.choices[0].match

    def energy_wh(self, match: Match) -> float:
        """What the pack gives until its weakest group is empty."""
        return match.weakest_mah / 1000 * self.nominal_v


def propose(session: Session, request: MatchRequest, now: datetime) -> Proposal:
    """Matches the cells on the shelf that keep every rule.

    Raises:
        BadInputError: a shape that cannot be.
        TooFewCellsError: too few cells may take part.
    """
    here = candidates(session, CellFilter(size_code=request.size_code, family=request.family), now)
    rules = rules_in_force(session)
    eligible, left_out = _sift(here, request, rules)
    needed = request.series * request.parallel
    if len(eligible) < needed:
        raise TooFewCellsError(needed, len(eligible), ", ".join(f"{left.count} {left.reason}" for left in left_out))
    pool = [
        MatchCell(listed.cell.number, judged.capacity_mah, judged.resistance_mohm)
        for listed in eligible
        if (judged := listed.cell.judgement) and judged.capacity_mah
    ]
    began = monotonic()
    found = alternatives(pool, request.series, request.parallel, time_used=lambda: (monotonic() - began) / _SEARCH_S)
    return Proposal(
        request=request,
        choices=tuple(found),
        by_hand=dealt_like_cards(pool, request.series, request.parallel),
        cells={listed.cell.number: listed for listed in eligible},
        candidates=len(eligible),
        left_out=left_out,
        full_v=request.series * (full_voltage_v(request.family, None) or 0),
        nominal_v=request.series * NOMINAL_V[request.family].value,
    )


def why_not(listed: ListedCell, request: MatchRequest, rules: HouseRules) -> str | None:
    """The first rule that keeps a cell out of a match; None: it may take part."""
    cell, judged = listed.cell, listed.cell.judgement
    if listed.pack_number:
        return "in a pack"
    if judged is None or judged.grade == "not-yet":
        return "not graded yet"
    if judged.grade == "out":
        return "out"
    if judged.grade not in _AT_LEAST[request.least_grade]:
        return "grade too low"
    if cell.place is None or cell.place.kind != "shelf-box" or listed.step not in ("keep", "recheck"):
        return "not on the shelf"
    if any(reason["code"] == "watch" for reason in judged.reasons):
        return "on watch"
    if cell.full_v is not None and cell.full_v != full_voltage_v(request.family, None):
        return "another full voltage"
    if judged.capacity_method not in COMPARABLE_METHODS:
        return "capacity only estimated"
    if rules.switches["vape-cells"] == "single-use" and cell.donor.kind_row.judged_as == "vape":
        return "from a vape: only one by one, say the house rules"
    return None


def _sift(
    here: Sequence[ListedCell], request: MatchRequest, rules: HouseRules
) -> tuple[list[ListedCell], tuple[LeftOut, ...]]:
    reasons = [why_not(listed, request, rules) for listed in here]
    eligible = [listed for listed, reason in zip(here, reasons, strict=True) if reason is None]
    counted = Counter(reason for reason in reasons if reason)
    return eligible, tuple(LeftOut(reason, count) for reason, count in counted.most_common())


def lock_cells(session: Session, numbers: Sequence[str]) -> None:
    """Locks cells in one order everywhere, so that two people who keep packs at once cannot block each other for ever."""
    session.execute(select(CellRow.id).where(CellRow.number.in_(numbers)).order_by(CellRow.id).with_for_update())
