"""From the cells on the shelf to a plan: the must-rules first, then the matcher on what keeps them, then what is to be known of it.

Where a group is to be of one kind (model, size, donor) each kind gets as many groups as its cells can make strong: the S
best of all bounds, kind by kind. That split is the best there is where every kind reaches its bound.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.house.limits import WITHIN_SHARE
from zembric.core.match.conditions import (
    Candidate,
    Conditions,
    LeftOut,
    Relaxation,
    Sifted,
    kind_of,
    milder_conditions,
    missing_cells,
    sift,
    strongest_of_each_donor,
    what_would_help,
)
from zembric.core.match.holds import Holds
from zembric.core.match.match import (
    GIVES_PCT,
    Alternative,
    alternatives,
    dealt_like_cards,
    is_evener,
    match,
    weakest_group_bound_mah,
)
from zembric.core.match.model import (
    SAME_MAH,
    Group,
    Match,
    MatchCell,
    OutOfReachError,
    TooFewCellsError,
    as_group,
)
from zembric.core.match.robust import shortfall_probability, sure_weakest_mah, with_uncertainty
from zembric.core.said import Amount, Said, named, said

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

#: By this share of the time the kinds are matched each by itself; then they are brought near to one another.
_PARTS_UNTIL = 0.7


@dataclass(frozen=True, slots=True)
class Job:
    """One pack to be made; with a target [mAh a group] as little as possible is taken from the shelf."""

    series: int
    parallel: int
    conditions: Conditions = field(default_factory=Conditions)
    target_mah: float | None = None


@dataclass(frozen=True, slots=True)
class Trust:
    """What the errors of the capacities leave of the weakest group.

    It holds `sure_mah` with 90 % certainty; with `shortfall` (0 to 1) it holds less than `short_of_mah`.
    """

    sure_mah: float
    short_of_mah: float
    shortfall: float


@dataclass(frozen=True, slots=True)
class Plan:
    """Groupings to choose from, how far each can be trusted, what sorting by hand would bring, and who may not take part."""

    job: Job
    choices: tuple[Alternative, ...]
    trust: tuple[Trust, ...]
    by_hand: Match
    eligible: tuple[Candidate, ...]
    left_out: tuple[LeftOut, ...]


@dataclass(frozen=True, slots=True)
class _Part:
    """Cells of one kind and the numbers of the groups they make, which are pins where cells are pinned."""

    cells: tuple[Candidate, ...]
    groups: int
    pinned: tuple[int, ...]


#: So many cells that are left out are named one by one.
_NAMED_MOST = 8


def make_plan(
    candidates: Sequence[Candidate],
    job: Job,
    *,
    seed: int = 0,
    time_used: Callable[[], float] = lambda: 0.0,
) -> Plan:
    """The best groupings of cells that keep every rule.

    Raises:
        BadInputError: a shape, a target or a pin that cannot be.
        TooFewCellsError: too few cells keep the rules; says which rule stands in the way and what lifting it would bring.
        OutOfReachError: the target is out of reach.
        ConflictError: pins that contradict the rules.
    """
    conditions = job.conditions
    candidates = sorted(candidates, key=lambda candidate: candidate.key)
    sifted = sift(candidates, conditions, job.series, job.parallel)
    if job.series * job.parallel <= 0:
        raise BadInputError(said("pack-has-one-group-and-one"), field="series")
    if missing := missing_cells(sifted.eligible, conditions, job.series, job.parallel):
        raise _too_few(candidates, job, sifted.left_out, len(sifted.eligible), missing)
    _refuse_pins(sifted, conditions)
    parts, bound_mah = _parts(sifted.eligible, job)
    try:
        choices = _matched(parts, bound_mah, job, seed, time_used)
    except OutOfReachError as error:
        error.ways = _ways_to_reach(candidates, job)
        raise
    pool = [match_cell(candidate) for candidate in sifted.eligible]
    trust = tuple(_trust(choice.match, pool, job.target_mah) for choice in choices)
    by_hand = _dealt(parts, job)
    return Plan(job, tuple(choices), trust, by_hand, sifted.eligible, sifted.left_out)


def plan_of_groups(
    candidates: Sequence[Candidate], job: Job, groups: Sequence[Sequence[str]], bound_mah: float
) -> Plan:
    """Groups that were found before as a plan, with today's figures.

    Raises:
        ConflictError: a cell of them may no longer take part.
    """
    sifted = sift(candidates, job.conditions, job.series, job.parallel)
    by_key = {candidate.key: candidate for candidate in sifted.eligible}
    gone = [key for group in groups for key in group if key not in by_key]
    if gone:
        raise ConflictError(said("cells-are-gone-match-again", gone=tuple(gone)), code="cells-gone")
    laid = tuple(as_group([match_cell(by_key[key]) for key in group]) for group in groups)
    used = {key for group in groups for key in group}
    found = Match(
        laid, max(bound_mah, min(group.capacity_mah for group in laid)), tuple(key for key in by_key if key not in used)
    )
    pool = [match_cell(candidate) for candidate in sifted.eligible]
    parts, _ = _parts(sifted.eligible, job)
    return Plan(
        job, (Alternative(0.0, found),), (_trust(found, pool, job.target_mah),), _dealt(parts, job), sifted.eligible,
        sifted.left_out,
    )  # fmt: skip


def is_better_plan(one: Plan, other: Plan) -> bool:
    """Whether a plan for the same job is stronger in its weakest group, or as strong and more even."""
    mine, theirs = one.choices[0].match, other.choices[0].match
    if abs(mine.weakest_mah - theirs.weakest_mah) > SAME_MAH:
        return mine.weakest_mah > theirs.weakest_mah
    if abs(mine.spread_mah - theirs.spread_mah) > SAME_MAH:
        return mine.spread_mah < theirs.spread_mah
    return is_evener(mine, theirs)


def _trust(found: Match, pool: Sequence[MatchCell], target_mah: float | None) -> Trust:
    groups = with_uncertainty(found, pool)
    short_of_mah = target_mah or WITHIN_SHARE.value * found.weakest_mah
    return Trust(sure_weakest_mah(groups), short_of_mah, shortfall_probability(groups, short_of_mah))


def _too_few(
    candidates: Sequence[Candidate], job: Job, left_out: Sequence[LeftOut], have: int, missing: int
) -> TooFewCellsError:
    needed = job.series * job.parallel
    ways = what_would_help(candidates, job.conditions, job.series, job.parallel)
    out = tuple(_left_out(left) for left in left_out)
    kinds = None if have < needed else said("cells-missing-kinds", have=have, series=job.series)
    error = TooFewCellsError(needed, have, out, missing=missing, kinds=kinds)
    error.ways = tuple(_way(way) for way in ways)
    return error


def _left_out(left: LeftOut) -> Said:
    if left.count <= _NAMED_MOST:
        return said("left-out-one", count=left.count, why=left.reason, cells=tuple(left.keys))
    return said("left-out-many", count=left.count, why=left.reason)


def _refuse_pins(sifted: Sifted, conditions: Conditions) -> None:
    reasons = {key: left.reason for left in sifted.left_out for key in left.keys}
    eligible = {candidate.key for candidate in sifted.eligible}
    out = [
        said("pinned-out", cell=key, why=reasons.get(key, named("objection", "not-here")))
        for key in sorted(conditions.pins)
        if key not in eligible
    ]
    if out:
        raise ConflictError(said("pinned-but-may-not-take-part", out=tuple(out)), field="pins")


def _ways_to_reach(candidates: Sequence[Candidate], job: Job) -> tuple[tuple[str, Said], ...]:
    """What each milder rule could bring where a target is out of reach."""
    assert job.target_mah is not None
    found = []
    enough: set[str] = set()
    for code, way, milder, parallel in milder_conditions(job.conditions, job.parallel):
        rule = code.split(":")[0]
        if rule in enough:
            continue
        eligible = sift(candidates, milder, job.series, parallel).eligible
        if missing_cells(eligible, milder, job.series, parallel) == 0:
            asked = replace(job, conditions=replace(milder, pins={}), parallel=parallel)
            bound_mah = min(_bound_mah(part.cells, part.groups, asked) for part in _parts(eligible, asked)[0])
            if bound_mah >= job.target_mah:
                enough.add(rule)
                found.append((code, said("way-reaches", way=way, capacity=Amount(bound_mah, "mAh"))))
    return tuple(found)


def _way(way: Relaxation) -> tuple[str, Said]:
    if way.missing == 0:
        return way.code, said("way-possible", way=way.said)
    return way.code, said("way-still-missing", way=way.said, count=way.missing)


def match_cell(candidate: Candidate) -> MatchCell:
    return MatchCell(candidate.key, candidate.capacity_mah, candidate.resistance_mohm or None, candidate.capacity_u_mah)


# --- One kind a group ------------------------------------------------------------------------------------------------


def _parts(eligible: Sequence[Candidate], job: Job) -> tuple[list[_Part], float | None]:
    """How many groups each kind makes; and the bound over all ways to split the groups, None where there is one only.

    Raises:
        ConflictError: pins that leave no way to make groups of one kind.
    """
    by_kind: dict[str, list[Candidate]] = defaultdict(list)
    for candidate in eligible:
        by_kind[kind_of(candidate, job.conditions)].append(candidate)
    pinned: dict[int, str] = {}
    for kind, cells in by_kind.items():
        for cell in cells:
            group = job.conditions.pins.get(cell.key)
            if group is not None and pinned.setdefault(group, kind) != kind:
                raise ConflictError(said("cells-of-different-kinds-are-pinned", group=group), field="pins")
    counts = Counter(pinned.values())
    bounds = {kind: _bound_mah(cells, counts[kind] + 1, job) for kind, cells in by_kind.items()}
    for _ in range(job.series - counts.total()):
        best = _next_kind(by_kind, counts, bounds, job)
        counts[best] += 1
        bounds[best] = _bound_mah(by_kind[best], counts[best] + 1, job)
    parts = [
        _Part(tuple(by_kind[kind]), count, tuple(sorted(group for group, held in pinned.items() if held == kind)))
        for kind, count in counts.items()
    ]
    bound_mah = min(_bound_mah(part.cells, part.groups, job) for part in parts)
    if bound_mah < 0:
        raise ConflictError(said("too-few-cells-of-kinds"))
    if job.target_mah is not None:  # the bound is of all groupings, not of those that are enough
        return parts, _parts(eligible, replace(job, target_mah=None))[1]
    is_only_way = sum(1 for cells in by_kind.values() if len(cells) >= job.parallel) == 1
    return parts, None if is_only_way and job.conditions.donors != "apart" else bound_mah


def _next_kind(
    by_kind: Mapping[str, Sequence[Candidate]], counts: Mapping[str, int], bounds: Mapping[str, float], job: Job
) -> str:
    """The kind that makes one more group: the strongest, or with a target the one that takes least for it, then the weakest."""
    target_mah = job.target_mah
    enough = [] if target_mah is None else [kind for kind, bound in bounds.items() if bound >= target_mah]
    if target_mah is None or not enough:
        return max(bounds, key=lambda kind: bounds[kind])

    def takes_mah(kind: str, groups: int) -> float:
        rising = sorted(cell.capacity_mah for cell in by_kind[kind])
        return max(groups * target_mah, sum(rising[: groups * job.parallel]))

    return min(
        enough,
        key=lambda kind: (
            takes_mah(kind, counts.get(kind, 0) + 1) - takes_mah(kind, counts.get(kind, 0)), bounds[kind],
        ),
    )  # fmt: skip


def _bound_mah(cells: Sequence[Candidate], groups: int, job: Job) -> float:
    """Bound on the weakest of so many groups; below zero where there are too few cells."""
    if job.conditions.donors == "apart":
        cells = strongest_of_each_donor(cells, groups)
    if len(cells) < groups * job.parallel:
        return -1.0
    return weakest_group_bound_mah(np.array([cell.capacity_mah for cell in cells]), groups, job.parallel)


def _matched(
    parts: Sequence[_Part], bound_mah: float | None, job: Job, seed: int, time_used: Callable[[], float]
) -> list[Alternative]:
    found: list[list[Alternative]] = []
    for place, part in enumerate(parts):
        # Each part has its share of the time.
        def used(place: int = place) -> float:
            return min(1.0, max(0.0, time_used() / (_PARTS_UNTIL if len(parts) > 1 else 1) * len(parts) - place))

        found.append(_matched_part(part, job, seed, used))
    if len(parts) > 1 and job.target_mah is None:
        found = _brought_down(parts, found, job, seed, time_used)
    combined: list[Alternative] = []
    for give_pct in GIVES_PCT:
        one = _put_together(
            [[choice for choice in choices if choice.give_pct <= give_pct][-1].match for choices in found],
            job,
            bound_mah,
        )
        if not combined or is_evener(one, combined[-1].match):
            combined.append(Alternative(give_pct, one))
    return combined


def _dealt(parts: Sequence[_Part], job: Job) -> Match:
    dealt = [dealt_like_cards([match_cell(cell) for cell in part.cells], part.groups, job.parallel) for part in parts]
    return _put_together(dealt, job)


def _put_together(matches: Sequence[Match], job: Job, bound_mah: float | None = None) -> Match:
    """The groups of all kinds as one grouping; the bound is that of the weakest kind, unless said."""
    groups = [group for each in matches for group in each.groups]
    ordered = (
        _in_order(groups, job.conditions.pins, job.series)
        if job.conditions.pins
        else sorted(groups, key=lambda group: (-group.capacity_mah, group.keys))
    )
    bound_mah = min(each.bound_mah for each in matches) if bound_mah is None else bound_mah
    left_over = sorted(key for each in matches for key in each.left_over)
    return Match(tuple(ordered), max(bound_mah, min(group.capacity_mah for group in groups)), tuple(left_over))


def _matched_part(part: _Part, job: Job, seed: int, time_used: Callable[[], float]) -> list[Alternative]:
    local = {group: number for number, group in enumerate(part.pinned, start=1)}
    conditions = job.conditions
    keys = {cell.key for cell in part.cells}
    holds = Holds(
        {key: local[group] for key, group in conditions.pins.items() if key in keys},
        {cell.key: cell.donor for cell in part.cells} if conditions.donors == "apart" else None,
    )
    pool = [match_cell(cell) for cell in part.cells]
    if job.target_mah is None:
        return alternatives(pool, part.groups, job.parallel, seed=seed, time_used=time_used, holds=holds)
    found = match(
        pool, part.groups, job.parallel, target_mah=job.target_mah, seed=seed, time_used=time_used, holds=holds
    )
    return [Alternative(0.0, found)]


def _brought_down(
    parts: Sequence[_Part],
    found: list[list[Alternative]],
    job: Job,
    seed: int,
    time_used: Callable[[], float],
) -> list[list[Alternative]]:
    """Kinds whose groups are stronger than the weakest of all take weaker cells, which evens the pack and spares the strong."""
    weakest = min(choices[0].match.weakest_mah for choices in found)
    brought = []
    for part, choices in zip(parts, found, strict=True):
        better = choices
        if choices[0].match.weakest_mah > weakest + SAME_MAH and weakest > 0:
            try:
                better = _matched_part(part, replace(job, target_mah=weakest), seed, time_used)
            except OutOfReachError:
                better = choices
        brought.append([*better[:1], *choices[1:]])
    return brought


def _in_order(groups: Sequence[Group], pins: Mapping[str, int], series: int) -> list[Group]:
    """Groups with pinned cells at their number, the others around them from the strongest to the weakest."""
    number_of = {group.keys: next((pins[key] for key in group.keys if key in pins), None) for group in groups}
    at = {number: group for group in groups if (number := number_of[group.keys]) is not None}
    rest = iter(
        sorted(
            (group for group in groups if number_of[group.keys] is None),
            key=lambda group: (-group.capacity_mah, group.keys),
        )
    )
    return [at[number] if number in at else next(rest) for number in range(1, series + 1)]
