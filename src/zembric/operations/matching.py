"""Which cells may take part in a match, and why others may not; proposals for one pack or for several."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from time import monotonic
from typing import TYPE_CHECKING, Any, cast

from sqlalchemy import select

from zembric.core.errors import BadInputError
from zembric.core.families import full_voltage_v
from zembric.core.limits import NO_SHEET_C, NOMINAL_V, Family
from zembric.core.matching import (
    TOLERANCES,
    Candidate,
    Conditions,
    Job,
    Match,
    Plan,
    make_plan,
    plan_alike,
    plan_in_order,
    plan_of_groups,
    sift,
)
from zembric.models import CellRow, JudgementRow
from zembric.operations.cells import CellFilter, ListedCell, candidates
from zembric.operations.judging import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.errors import ConflictError
    from zembric.core.judgement import Grade
    from zembric.core.matching.conditions import Donors, OneKind
    from zembric.core.matching.several import Way
    from zembric.core.matching.tolerances import ToleranceKey
    from zembric.core.rules import HouseRules

#: Capacities by these methods may stand in one group; every other only beside its own kind.
COMPARABLE_METHODS = frozenset({"tester", "trace"})
#: A person waits for it; a search that is not proved best by then gives the best so far.
SEARCH_S = 1.5


@dataclass(frozen=True, slots=True)
class MatchRequest:
    """Groups in series, cells in parallel, and what is asked of the cells. `size_code` None: any size."""

    series: int
    parallel: int
    family: Family
    size_code: str | None
    least_grade: Grade = "B"
    target_mah: float | None = None
    tolerance: ToleranceKey | None = None
    joined_as_they_lie: bool = False
    donors: Donors = "any"
    with_estimated: bool = False
    load_a: float | None = None
    banned: tuple[str, ...] = ()
    pins: Mapping[str, int] = field(default_factory=dict)

    @property
    def full_v(self) -> float:
        return self.series * (full_voltage_v(self.family, None) or 0)

    @property
    def nominal_v(self) -> float:
        return self.series * NOMINAL_V[self.family].value

    def as_json(self) -> dict[str, Any]:
        """As it is kept with a plan, a search or a wish."""
        return asdict(self)


def request_from_json(kept: Mapping[str, Any]) -> MatchRequest:
    """What `as_json` kept."""
    return MatchRequest(**{**kept, "family": Family(kept["family"]), "banned": tuple(kept["banned"])})


@dataclass(frozen=True, slots=True)
class Pool:
    """The cells of the wanted family and size as the must-rules see them, and as lists show them."""

    candidates: tuple[Candidate, ...]
    listed: Mapping[str, ListedCell]


@dataclass(frozen=True, slots=True)
class Proposal:
    """A plan, the cells of its pool, and how many cells each tolerance would let take part."""

    request: MatchRequest
    plan: Plan
    #: Those that may take part, by number.
    cells: Mapping[str, ListedCell]
    may_take_part: Mapping[ToleranceKey, int]

    @property
    def best(self) -> Match:
        """The grouping with the strongest weakest group."""
        return self.plan.choices[0].match


def propose(session: Session, request: MatchRequest, now: datetime) -> Proposal:
    """Matches the cells on the shelf that keep every rule.

    Raises:
        BadInputError: a shape that cannot be.
        TooFewCellsError: too few cells may take part; says what would help.
        OutOfReachError: the target is out of reach.
    """
    rules = rules_in_force(session)
    pool = pool_for(session, request, rules, now)
    began = monotonic()
    plan = make_plan(pool.candidates, job_of(request, rules), time_used=lambda: (monotonic() - began) / SEARCH_S)
    return _proposal(request, plan, pool)


def propose_several(
    session: Session, requests: Sequence[MatchRequest], way: Way, now: datetime
) -> list[Proposal | ConflictError]:
    """Several packs from one shelf, in their order or all alike; for each its proposal or why there is none."""
    rules = rules_in_force(session)
    pools = [pool_for(session, request, rules, now) for request in requests]
    jobs = [job_of(request, rules) for request in requests]
    began, seconds = monotonic(), SEARCH_S * len(requests)
    planned = (plan_in_order if way == "in-order" else plan_alike)(
        [pool.candidates for pool in pools], jobs, time_used=lambda: (monotonic() - began) / seconds
    )
    return [
        _proposal(request, plan, pool) if isinstance(plan, Plan) else plan
        for request, plan, pool in zip(requests, planned, pools, strict=True)
    ]


def proposal_of_groups(
    session: Session, request: MatchRequest, groups: Sequence[Sequence[str]], bound_mah: float, now: datetime
) -> Proposal:
    """Groups that a search found, as a proposal with today's figures.

    Raises:
        ConflictError: a cell of them may no longer take part.
    """
    rules = rules_in_force(session)
    pool = pool_for(session, request, rules, now)
    return _proposal(request, plan_of_groups(pool.candidates, job_of(request, rules), groups, bound_mah), pool)


def _proposal(request: MatchRequest, plan: Plan, pool: Pool) -> Proposal:
    asked = replace(plan.job.conditions, pins={})
    may = {
        key: len(sift(pool.candidates, replace(asked, tolerance=key), request.series, request.parallel).eligible)
        for key in TOLERANCES
    }
    return Proposal(request, plan, {cell.key: pool.listed[cell.key] for cell in plan.eligible}, may)


def job_of(request: MatchRequest, rules: HouseRules) -> Job:
    """What the core is asked, the house's rules for packs included."""
    conditions = Conditions(
        least_grade=request.least_grade,
        one_kind=_one_kind(rules),
        donors=request.donors,
        tolerance=request.tolerance,
        joined_as_they_lie=request.joined_as_they_lie,
        with_estimated=request.with_estimated,
        load_a=request.load_a,
        banned=frozenset(request.banned),
        pins=request.pins,
    )
    return Job(request.series, request.parallel, conditions, request.target_mah)


def pool_for(
    session: Session,
    request: MatchRequest,
    rules: HouseRules,
    now: datetime,
    *,
    own_pack: str | None = None,
    only_free: bool = False,
) -> Pool:
    """All cells of the wanted family and size; those of `own_pack` count as free, as it is that pack which is mended.

    `only_free` leaves out what does not lie free on the shelf in a grade that may take part, where nobody asks why not.

    Raises:
        BadInputError: any size is asked for where the house keeps to one.
    """
    if request.size_code is None and rules.switches["pack-sizes"] == "one":
        raise BadInputError("The house rules want one size in a pack. Say which.", field="size_code")
    grades = tuple(grade for grade in ("A", "B", "C") if grade <= request.least_grade) if only_free else ()
    wanted = CellFilter(
        on_shelf=only_free, free=only_free, grades=grades, size_code=request.size_code, family=request.family
    )
    here = candidates(session, wanted, now)
    found = [_candidate(listed, request.family, rules, own_pack) for listed in here]
    return Pool(tuple(found), {listed.cell.number: listed for listed in here})


def _one_kind(rules: HouseRules) -> OneKind:
    if rules.switches["pack-models"] == "same":
        return "model"
    return "size" if rules.switches["pack-sizes"] == "one" else "any"


def _candidate(listed: ListedCell, family: Family, rules: HouseRules, own_pack: str | None) -> Candidate:
    cell, judged = listed.cell, listed.cell.judgement
    return Candidate(
        key=cell.number,
        capacity_mah=(judged.capacity_mah if judged else None) or 0.0,
        capacity_u_mah=(judged.capacity_u_mah if judged else None) or 0.0,
        resistance_mohm=judged.resistance_mohm if judged else None,
        grade=cast("Grade", judged.grade) if judged else "not-yet",
        size_code=cell.size_code or "",
        model=f"model {cell.model_id}" if cell.model_id else f"donor {cell.donor.number}",
        donor=cell.donor.number,
        resting_v=judged.resting_voltage_v if judged else None,
        continuous_a=_continuous_a(judged) if judged else None,
        is_estimated=judged is not None and judged.capacity_method not in COMPARABLE_METHODS,
        objection=_objection(listed, family, rules, own_pack),
    )


def _continuous_a(judged: JudgementRow) -> float | None:
    """What a cell carries all the time: what was judged, or by its capacity what a cell without a sheet may."""
    if judged.continuous_current_a is not None or judged.capacity_mah is None:
        return judged.continuous_current_a
    return NO_SHEET_C.value * judged.capacity_mah / 1000


def _objection(listed: ListedCell, family: Family, rules: HouseRules, own_pack: str | None) -> str | None:
    """What keeps a cell out of every match; None: nothing that asking for less would not lift."""
    cell, judged = listed.cell, listed.cell.judgement
    is_own = own_pack is not None and listed.pack_number == own_pack
    if listed.pack_number and not is_own:
        return "in a pack"
    if judged is not None and judged.grade == "out":
        return "out"
    if judged is None or judged.grade == "not-yet" or not judged.capacity_mah:
        return "not graded yet"
    step = judged.next_step if is_own else listed.step
    if cell.place is None or cell.place.kind != "shelf-box":
        return "not on the shelf"
    if step not in ("keep", "recheck"):
        return "to be charged first" if step == "charge" else "not ready for the shelf"
    if any(reason["code"] == "watch" for reason in judged.reasons):
        return "on watch"
    if cell.full_v is not None and cell.full_v != full_voltage_v(family, None):
        return "another full voltage"
    if rules.switches["vape-cells"] == "single-use" and cell.donor.kind_row.judged_as == "vape":
        return "from a vape: only one by one, say the house rules"
    return None


def lock_cells(session: Session, numbers: Sequence[str]) -> None:
    """Locks cells in one order everywhere, so that two people who keep packs at once cannot block each other for ever."""
    session.execute(select(CellRow.id).where(CellRow.number.in_(numbers)).order_by(CellRow.id).with_for_update())
