"""Which cells may take part in a match, and why others may not; proposals for one pack or for several."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from statistics import median
from time import monotonic
from typing import TYPE_CHECKING, Any, Literal

from zembric.core.errors import BadInputError
from zembric.core.house.limits import LIKE_CURRENT_RATIO, LIKE_CUT_OFF_V, NOMINAL_V, Family
from zembric.core.identify.families import full_voltage_v
from zembric.core.identify.numbering import read_number
from zembric.core.match import (
    TOLERANCE_KEYS,
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
    tolerances_of,
)
from zembric.core.measure.figures import METHODS_BEST_FIRST
from zembric.core.pack.rules import objection
from zembric.core.said import Said, named, said
from zembric.operations.cells.listed import ListedCell
from zembric.operations.cells.packed import packed_cell
from zembric.operations.cells.shelf import CellFilter, Wanted, candidates, cells_of_pack, count_cells, nearest
from zembric.operations.known.catalogue import resolve_size
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.errors import ConflictError
    from zembric.core.grounds import Grade
    from zembric.core.house.rules import HouseRules
    from zembric.core.match.conditions import Donors, OneKind
    from zembric.core.match.several import Way
    from zembric.core.match.tolerances import ToleranceKey
    from zembric.core.pack.rules import PackedCell
    from zembric.models import CellRow, JudgementRow

#: Capacities by these methods may stand in one group; every other only beside its own kind.
COMPARABLE_METHODS = frozenset({"tester", "trace"})
#: A person waits for it; a search that is not proved best by then gives the best so far.
SEARCH_S = 1.5


#: Of more cells than this only so many are looked at, or four times as many as are needed.
_MOST_LOOKED_AT, _LOOKED_AT = 4000, 2000


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
    #: The full voltage [V] that is marked on the cells, where it is not their family's; None: the family's.
    full_v_marked: float | None = None
    #: Cells with a mark for life that a coordinator said yes to for this pack.
    marked_allowed: tuple[str, ...] = ()
    #: The cells that somebody has in hand, and no others; none: all that lie here.
    only: tuple[str, ...] = ()

    @property
    def full_v(self) -> float:
        return self.series * (full_voltage_v(self.family, self.full_v_marked) or 0)

    @property
    def nominal_v(self) -> float:
        return self.series * NOMINAL_V[self.family].value

    def as_json(self) -> dict[str, Any]:
        """As it is kept with a plan, a search or a wish."""
        return asdict(self)


def request_from_json(kept: Mapping[str, Any]) -> MatchRequest:
    """What `as_json` kept."""
    return MatchRequest(
        **{
            **kept, "family": Family(kept["family"]), "banned": tuple(kept["banned"]),
            "marked_allowed": tuple(kept.get("marked_allowed", ())), "only": tuple(kept.get("only", ())),
        }
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Pool:
    """The cells of the wanted family and size as the must-rules see them, and as lists show them."""

    candidates: tuple[Candidate, ...]
    listed: Mapping[str, ListedCell]
    #: How many more lie free on the shelf that were not looked at, because there are so many.
    beyond: int = 0


@dataclass(frozen=True, slots=True)
class Proposal:
    """A plan, the cells of its pool, and how many cells each tolerance would let take part."""

    request: MatchRequest
    plan: Plan
    #: Those that may take part, by number.
    cells: Mapping[str, ListedCell]
    may_take_part: Mapping[ToleranceKey, int]
    #: How many more there are that were not looked at.
    beyond: int = 0

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
        for key in TOLERANCE_KEYS
    }
    return Proposal(request, plan, {cell.key: pool.listed[cell.key] for cell in plan.eligible}, may, pool.beyond)


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
        marked_allowed=frozenset(request.marked_allowed),
        tolerances=tolerances_of(rules),
    )
    return Job(request.series, request.parallel, conditions, request.target_mah)


def checked_request(session: Session, request: MatchRequest, rules: HouseRules) -> MatchRequest:
    """The request with its size as the catalogue calls it; before it is kept, so that no later look at it fails.

    Raises:
        BadInputError: there is no such size, or any is asked for where the house keeps to one.
    """
    if request.size_code is None and rules.switches["pack-sizes"] == "one" and not request.only:
        raise BadInputError(said("house-rules-want-one-size"), field="size_code")
    return replace(request, size_code=resolve_size(session, request.size_code).code)


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
    request = checked_request(session, request, rules)
    grades = tuple(grade for grade in ("A", "B", "C") if grade <= request.least_grade) if only_free else ()
    beyond = 0
    if request.only and own_pack is None:
        here = _named(session, request.only, now)
    else:
        wanted = CellFilter(
            on_shelf=only_free, free=only_free, grades=grades, size_code=request.size_code, family=request.family,
            or_unnamed=not only_free,
        )  # fmt: skip
        here, beyond = _of_many(session, request, rules, wanted, own_pack, now)
        here = [listed for listed in here if _has_mark(listed, request)]
    free = [
        listed.cell.judgement
        for listed in here
        if listed.cell.judgement and _objection(listed.cell, packed_cell(listed.cell, now), request, rules) is None
    ]
    scales = _Scales.of(free, rules)
    found = [_candidate(listed, request, rules, own_pack, scales, now) for listed in here]
    return Pool(tuple(found), {listed.cell.number: listed for listed in here}, beyond)


def _of_many(
    session: Session, request: MatchRequest, rules: HouseRules, wanted: CellFilter, own_pack: str | None, now: datetime
) -> tuple[list[ListedCell], int]:
    """All cells of the wanted kind; of very many those that lie free and come nearest to what is asked, and how many stay out."""
    if count_cells(session, wanted, now) <= _MOST_LOOKED_AT:
        return candidates(session, wanted, now), 0
    grades = tuple(grade for grade in ("A", "B", "C") if grade <= request.least_grade)
    free = replace(wanted, on_shelf=True, free=True, grades=grades, or_unnamed=False)
    many = max(_LOOKED_AT, 4 * request.series * request.parallel)
    per_cell_mah = request.target_mah / request.parallel if request.target_mah else None
    named = (*request.pins, *request.marked_allowed, *(cells_of_pack(session, own_pack) if own_pack else ()))
    kind: Literal["model", "donor", "any"] = "model" if _one_kind(rules) == "model" else "any"
    sought = Wanted(request.parallel, per_cell_mah, "donor" if request.donors == "together" else kind)
    here = {each.cell.id: each for each in nearest(session, free, sought, many, now)}
    if named:
        here |= {each.cell.id: each for each in candidates(session, CellFilter(numbers=named), now)}
    return sorted(here.values(), key=lambda each: each.cell.id), max(count_cells(session, free, now) - many, 0)


def _named(session: Session, typed: Sequence[str], now: datetime) -> list[ListedCell]:
    """The cells that somebody named.

    Raises:
        BadInputError: a number that cannot be, or that nobody has.
    """
    numbers = tuple(dict.fromkeys(read_number("cell", each) for each in typed))
    found = candidates(session, CellFilter(numbers=numbers), now)
    unknown = sorted(set(numbers) - {each.cell.number for each in found})
    if unknown:
        raise BadInputError(said("there-are-no-such-cells", cells=tuple(unknown)), field="only")
    return found


def _objection(cell: CellRow, packed: PackedCell, request: MatchRequest, rules: HouseRules) -> Said | None:
    """What keeps a cell out, whatever is asked; where only its size or chemistry is not said, that it is not."""
    asked = replace(packed, family=packed.family or request.family)
    against = objection(asked, request.family, request.full_v_marked, rules)
    if against is not None:
        return against
    if packed.family is None:
        return named("objection", "no-chemistry")
    if request.size_code is not None and cell.size_code is None:
        return named("objection", "no-size")
    return named("objection", "other-size") if request.size_code not in (None, cell.size_code) else None


def _has_mark(listed: ListedCell, request: MatchRequest) -> bool:
    """Cells for another full voltage than the one asked for are another family, as far as a pack is concerned."""
    return full_voltage_v(request.family, listed.cell.full_v) == full_voltage_v(request.family, request.full_v_marked)


def _one_kind(rules: HouseRules) -> OneKind:
    if rules.switches["pack-models"] == "same":
        return "model"
    return "size" if rules.switches["pack-sizes"] == "one" else "any"


@dataclass(frozen=True, slots=True)
class _Scales:
    """What figures are compared by in one pool: one method of resistance, and whether capacities are brought together."""

    resistance_method: str | None
    at_reference: bool
    #: The middle current [mA] over capacity and cut-off [V] of the runs; None: nobody wrote them down.
    rate_c: float | None
    cut_off_v: float | None

    @classmethod
    def of(cls, judged: Sequence[JudgementRow], rules: HouseRules) -> _Scales:
        """The method that most cells have, the better one of equals; the reference where runs are not alike."""
        counted = Counter(method for each in judged for method in each.resistances_mohm)
        best = max(METHODS_BEST_FIRST, key=lambda m: (counted[m], -METHODS_BEST_FIRST.index(m)), default=None)
        runs = [(each.comparable, each.capacity_mah) for each in judged if each.comparable and each.capacity_mah]
        rates = [run["current_ma"] / mah for run, mah in runs if run["current_ma"]]
        cut_offs = [run["cut_off_v"] for run, _ in runs if run["cut_off_v"]]
        alike = (not rates or max(rates) / min(rates) <= rules.value(LIKE_CURRENT_RATIO)) and (
            not cut_offs or max(cut_offs) - min(cut_offs) <= rules.value(LIKE_CUT_OFF_V) + 1e-9
        )
        return cls(
            best if counted else None,
            not alike,
            median(rates) if rates else None,
            median(cut_offs) if cut_offs else None,
        )

    def capacity(self, judged: JudgementRow, rules: HouseRules) -> tuple[float, float, bool]:
        """Capacity [mAh], its standard uncertainty, and whether it stands for itself: measured otherwise than the others."""
        value, u, run = judged.capacity_mah or 0.0, judged.capacity_u_mah or 0.0, judged.comparable
        is_other = judged.capacity_method not in COMPARABLE_METHODS
        if not self.at_reference or run is None or not value:
            return value, u, is_other
        if run["reference_mah"] is not None:
            return run["reference_mah"], run["reference_u_mah"] or u, is_other
        return value, u, is_other or not self._is_like(run, value, rules)

    def _is_like(self, run: Mapping[str, Any], capacity_mah: float, rules: HouseRules) -> bool:
        rate_c = run["current_ma"] / capacity_mah if run["current_ma"] else None
        if rate_c and self.rate_c:
            apart = max(rate_c, self.rate_c) / min(rate_c, self.rate_c)
            if apart > rules.value(LIKE_CURRENT_RATIO):
                return False
        if run["cut_off_v"] and self.cut_off_v:
            return bool(abs(run["cut_off_v"] - self.cut_off_v) <= rules.value(LIKE_CUT_OFF_V) + 1e-9)
        return True


def _candidate(
    listed: ListedCell, request: MatchRequest, rules: HouseRules, own_pack: str | None, scales: _Scales, now: datetime
) -> Candidate:
    cell, judged = listed.cell, listed.cell.judgement
    is_own = own_pack is not None and listed.pack_number == own_pack
    packed = packed_cell(cell, now, in_pack=None if is_own else listed.pack_number)
    capacity_mah, capacity_u_mah, is_estimated = scales.capacity(judged, rules) if judged else (0.0, 0.0, False)
    return Candidate(
        key=cell.number,
        capacity_mah=capacity_mah,
        capacity_u_mah=capacity_u_mah,
        resistance_mohm=judged.resistances_mohm.get(scales.resistance_method or "") if judged else None,
        grade=packed.grade,
        size_code=cell.size_code or "",
        model=f"model {cell.model_id}" if cell.model_id else f"donor {cell.donor.number}",
        donor=cell.donor.number,
        resting_v=packed.resting_v,
        continuous_a=judged.carries_a if judged else None,
        is_estimated=is_estimated,
        objection=_objection(cell, packed, request, rules),
        is_bare=cell.protection in ("none", "donor-board"),
        is_marked=packed.is_marked,
    )
