"""The must-rules of a match: which cells may take part, which may share a group, and what would help where too few may."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass, field, replace
from itertools import product
from typing import TYPE_CHECKING, Literal

import numpy as np

from zembric.core.grounds import WORST_GRADE_LAST
from zembric.core.match.tolerances import USUAL_TOLERANCES
from zembric.core.said import Said, named, said

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from numpy.typing import NDArray

    from zembric.core.grounds import Grade
    from zembric.core.match.tolerances import Tolerance, ToleranceKey

    Floats = NDArray[np.float64]

#: What a group may be made of: anything of the family, one size, or one model (of unknown models: one donor).
OneKind = Literal["any", "size", "model"]
Donors = Literal["any", "together", "apart"]
#: So many combinations of windows are looked at, and so many cells in all of them; with many different values the
#: windows begin at some of them only.
_WINDOWS, _LOOKS = 20_000, 12_000_000


@dataclass(frozen=True, slots=True)
class Candidate:
    """A cell of the wanted family, with all that the must-rules look at; None where it is not known.

    `objection` is what no relaxing lifts: it is in a pack, out, not graded. Of equal `model` are cells that age alike.
    """

    key: str
    capacity_mah: float
    capacity_u_mah: float
    resistance_mohm: float | None
    grade: Grade
    size_code: str
    model: str
    donor: str
    resting_v: float | None = None
    continuous_a: float | None = None
    is_estimated: bool = False
    objection: Said | None = None
    #: Bare cells and those with a protection circuit of their own share no group: they end at other voltages.
    is_bare: bool = False
    #: Recovered from very low: only with a coordinator's yes, each time.
    is_marked: bool = False


@dataclass(frozen=True, slots=True)
class Conditions:
    """What a builder and the house ask of the cells of one pack."""

    least_grade: Grade = "B"
    one_kind: OneKind = "model"
    donors: Donors = "any"
    tolerance: ToleranceKey | None = None
    #: Cells are joined as they lie: their resting voltages have to be within the tolerance, or the house limit.
    joined_as_they_lie: bool = False
    with_estimated: bool = False
    #: Cells with a mark for life that a coordinator said yes to for this pack.
    marked_allowed: frozenset[str] = frozenset()
    #: The presets with the house's numbers.
    tolerances: Mapping[ToleranceKey, Tolerance] = field(default_factory=lambda: USUAL_TOLERANCES)
    #: What the load takes [A]; each cell of a group carries its share. None: not known.
    load_a: float | None = None
    banned: frozenset[str] = frozenset()
    pins: Mapping[str, int] = field(default_factory=dict)

    @property
    def voltage_v(self) -> float:
        return self.tolerances[self.tolerance or "relaxed"].voltage_v


@dataclass(frozen=True, slots=True)
class LeftOut:
    """Cells that one rule keeps out: its code, why, and which they are."""

    code: str
    reason: Said
    keys: tuple[str, ...]

    @property
    def count(self) -> int:
        return len(self.keys)


@dataclass(frozen=True, slots=True)
class Sifted:
    eligible: tuple[Candidate, ...]
    left_out: tuple[LeftOut, ...]


@dataclass(frozen=True, slots=True)
class Relaxation:
    """What lifting one rule would bring: its code, what it would be, and how many cells would then still be missing."""

    code: str
    said: Said
    missing: int


def sift(candidates: Sequence[Candidate], conditions: Conditions, series: int, parallel: int) -> Sifted:
    """The cells that keep every rule, and the others by the first rule that keeps them out, the commonest first."""
    out: dict[str, tuple[str, Said]] = {}
    kept: list[Candidate] = []
    for candidate in candidates:
        code = _first_broken(candidate, conditions, parallel)
        if code is None:
            kept.append(candidate)
        else:
            out[candidate.key] = (code, candidate.objection or named("kept-out", code))
    if kept and (conditions.tolerance or conditions.joined_as_they_lie):
        inside, broken = _within_windows(kept, conditions, series * parallel)
        out |= {kept[index].key: (code, named("kept-out", code)) for index, code in broken.items()}
        kept = [kept[index] for index in inside]
    counted = Counter(out.values())
    left_out = [
        LeftOut(code, reason, tuple(key for key, why in out.items() if why == (code, reason)))
        for (code, reason), _ in counted.most_common()
    ]
    return Sifted(tuple(kept), tuple(left_out))


def broken_in_groups(
    groups: Sequence[Sequence[Candidate]], conditions: Conditions
) -> tuple[tuple[LeftOut, ...], tuple[Said, ...]]:
    """What groups that somebody laid by hand break: cells that may not take part, and rules of a group."""
    chosen = [cell for group in groups for cell in group]
    parallel = max((len(group) for group in groups), default=1)
    left_out = sift(chosen, conditions, len(groups), parallel).left_out
    broken: list[Said] = []
    for number, group in enumerate(groups, start=1):
        if len({cell.is_bare for cell in group}) > 1:
            broken.append(said("group-mixes-bare", group=number))
        elif len({kind_of(cell, conditions) for cell in group}) > 1:
            broken.append(said("group-mixes", group=number, what=named("different", conditions.one_kind)))
        if conditions.donors == "apart" and len({cell.donor for cell in group}) < len(group):
            broken.append(said("group-of-one-donor", group=number))
    return left_out, tuple(broken)


def kind_of(candidate: Candidate, conditions: Conditions) -> str:
    """Cells of equal kind may share a group."""
    parts = ["bare"] if candidate.is_bare else []
    if conditions.one_kind != "any":
        parts.append(candidate.size_code)
    if conditions.one_kind == "model":
        parts.append(candidate.model)
    if conditions.donors == "together":
        parts.append(candidate.donor)
    return " / ".join(parts)


def missing_cells(eligible: Sequence[Candidate], conditions: Conditions, series: int, parallel: int) -> int:
    """How many more cells are needed for so many groups, each of one kind; 0: it is possible."""
    by_kind: dict[str, list[Candidate]] = defaultdict(list)
    for candidate in eligible:
        by_kind[kind_of(candidate, conditions)].append(candidate)
    is_apart = conditions.donors == "apart"
    groups = [_most_groups(cells, series, parallel, is_apart=is_apart) for cells in by_kind.values()]
    groups_missing = series - sum(groups)
    if groups_missing <= 0:
        return 0
    begun = sorted(
        (0 if is_apart else len(cells) - made * parallel for cells, made in zip(by_kind.values(), groups, strict=True)),
        reverse=True,
    )
    return sum(parallel - (begun[index] if index < len(begun) else 0) for index in range(groups_missing))


def strongest_of_each_donor(cells: Sequence[Candidate], most: int) -> list[Candidate]:
    """The cells that can stand in so many groups where no donor has two in one."""
    taken: Counter[str] = Counter()
    kept = []
    for cell in sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.key)):
        taken[cell.donor] += 1
        if taken[cell.donor] <= most:
            kept.append(cell)
    return kept


def _most_groups(cells: Sequence[Candidate], series: int, parallel: int, *, is_apart: bool) -> int:
    if not is_apart:
        return min(series, len(cells) // parallel)
    counts = Counter(cell.donor for cell in cells).values()
    possible = (
        groups for groups in range(series, 0, -1) if sum(min(count, groups) for count in counts) >= groups * parallel
    )
    return next(possible, 0)


def what_would_help(
    candidates: Sequence[Candidate], conditions: Conditions, series: int, parallel: int
) -> tuple[Relaxation, ...]:
    """Each rule that may be lifted, by what it brings: those that make it possible first, the mildest of them first.

    Where no single one does, all together are the last; what does not bring a single cell is left out.
    """
    missing = _missing(candidates, conditions, series, parallel)
    found = []
    enough: set[str] = set()
    for code, way, milder, wider in milder_conditions(conditions, parallel):
        rule = code.split(":")[0]
        still = missing if rule in enough else _missing(candidates, milder, series, wider)
        if still < missing:
            found.append(Relaxation(code, way, still))
        if still == 0:
            enough.add(rule)  # asking for still less of the same rule brings nothing more
    found.sort(key=lambda relaxation: relaxation.missing)
    if len(found) > 1 and found[0].missing:
        all_mild = Conditions(
            least_grade="C", one_kind="any" if conditions.one_kind == "any" else "size", with_estimated=True
        )
        still = _missing(candidates, all_mild, series, parallel)
        if still < found[0].missing:
            found.append(Relaxation("all", named("milder", "all"), still))
    return tuple(found)


def _missing(candidates: Sequence[Candidate], conditions: Conditions, series: int, parallel: int) -> int:
    eligible = sift(candidates, conditions, series, parallel).eligible
    return missing_cells(eligible, conditions, series, parallel)


def milder_conditions(conditions: Conditions, parallel: int) -> list[tuple[str, Said, Conditions, int]]:
    """Code, what it would be, conditions and cells in parallel of each way to ask for less, the mildest first."""
    ways: list[tuple[str, Said, Conditions, int]] = []
    if conditions.joined_as_they_lie:
        ways.append(("voltage", said("milder-voltage"), replace(conditions, joined_as_they_lie=False), parallel))
    if conditions.banned:
        ways.append(("banned", said("milder-banned"), replace(conditions, banned=frozenset()), parallel))
    if conditions.donors != "any":
        text = said("milder-donors-together" if conditions.donors == "together" else "milder-donors-apart")
        ways.append(("donors", text, replace(conditions, donors="any"), parallel))
    wider = _wider(conditions.tolerance)
    for key in wider:
        text = (
            said("milder-no-tolerance") if key is None else said("milder-tolerance", tolerance=named("tolerance", key))
        )
        ways.append((f"tolerance:{key or 'none'}", text, replace(conditions, tolerance=key), parallel))
    at = WORST_GRADE_LAST.index(conditions.least_grade)
    for grade in WORST_GRADE_LAST[at + 1 : 3]:
        text = said("milder-grade", grade=named("grade", grade))
        ways.append((f"grade:{grade}", text, replace(conditions, least_grade=grade), parallel))
    if not conditions.with_estimated:
        ways.append(("estimated", said("milder-estimated"), replace(conditions, with_estimated=True), parallel))
    if conditions.load_a is not None:
        text = said("milder-parallel", parallel=parallel + 1, instead=parallel)
        ways.append((f"parallel:{parallel + 1}", text, conditions, parallel + 1))
    if conditions.one_kind == "model":
        ways.append(("models", said("milder-models"), replace(conditions, one_kind="size"), parallel))
    return ways


def _wider(tolerance: ToleranceKey | None) -> list[ToleranceKey | None]:
    order: list[ToleranceKey | None] = ["strict", "usual", "relaxed", None]
    return order[order.index(tolerance) + 1 :] if tolerance else []


def _first_broken(candidate: Candidate, conditions: Conditions, parallel: int) -> str | None:
    if candidate.objection is not None:
        return "objection"
    rules: tuple[tuple[str, Callable[[], bool]], ...] = (
        ("banned", lambda: candidate.key in conditions.banned),
        ("marked", lambda: candidate.is_marked and candidate.key not in conditions.marked_allowed),
        ("grade", lambda: _ranks_below(candidate.grade, conditions.least_grade)),
        ("estimated", lambda: candidate.is_estimated and not conditions.with_estimated),
        ("current", lambda: _carries_too_much(candidate, conditions.load_a, parallel)),
        ("resistance-unknown", lambda: conditions.tolerance is not None and candidate.resistance_mohm is None),
        ("voltage", lambda: conditions.joined_as_they_lie and candidate.resting_v is None),
    )
    return next((code for code, is_broken in rules if is_broken()), None)


def _ranks_below(grade: Grade, least: Grade) -> bool:
    return grade not in WORST_GRADE_LAST or WORST_GRADE_LAST.index(grade) > WORST_GRADE_LAST.index(least)


def _carries_too_much(candidate: Candidate, load_a: float | None, parallel: int) -> bool:
    return load_a is not None and (candidate.continuous_a is None or candidate.continuous_a < load_a / parallel)


def _within_windows(cells: list[Candidate], conditions: Conditions, wanted: int) -> tuple[list[int], dict[int, str]]:
    """The cells inside the best window of capacity, resistance and voltage, and for the others the rule they break.

    The best has all pinned cells and enough in all, then the strongest of them, then as many as it can.
    """
    capacity = np.array([cell.capacity_mah for cell in cells])
    rules = 2 * (conditions.tolerance is not None) + conditions.joined_as_they_lie
    most = max(2, round(min(_WINDOWS, _LOOKS / len(cells)) ** (1 / rules)))
    axes: list[tuple[str, NDArray[np.bool_]]] = []
    if conditions.tolerance is not None:
        tolerance = conditions.tolerances[conditions.tolerance]
        axes.append(("capacity", _windows(capacity, 1 / (1 - tolerance.capacity_pct / 100), most, is_ratio=True)))
        mohm = np.array([cell.resistance_mohm or np.nan for cell in cells])
        axes.append(("resistance", _windows(mohm, tolerance.resistance_ratio, most, is_ratio=True)))
    if conditions.joined_as_they_lie:
        rest = np.array([np.nan if cell.resting_v is None else cell.resting_v for cell in cells])
        axes.append(("voltage", _windows(rest, conditions.voltage_v, most, is_ratio=False)))
    best = _best_windows(
        [masks for _, masks in axes], capacity, [cell.key in conditions.pins for cell in cells], wanted
    )
    broken: dict[int, str] = {}
    for (code, masks), at in zip(axes, best, strict=True):
        for index in np.flatnonzero(~masks[at]).tolist():
            broken.setdefault(index, code)
    return [index for index in range(len(cells)) if index not in broken], broken


def _best_windows(
    axes: Sequence[NDArray[np.bool_]], capacity: Floats, pinned: Sequence[bool], wanted: int
) -> tuple[int, ...]:
    """Which window of each axis to take: all pinned inside, then enough, then the strongest, then the most cells.

    Of equals the one whose windows, each by itself, keep out fewest.
    """
    falling = np.argsort(-capacity, kind="stable")
    strength, is_pinned = capacity[falling], np.array(pinned)[falling]
    first, others = axes[0][:, falling], axes[1:]
    chosen = list(product(*(range(len(masks)) for masks in others)))
    together = np.ones((len(chosen), len(capacity)), dtype=bool)
    alone = np.zeros(len(chosen))
    for axis, masks in enumerate(others):
        window = np.array([each[axis] for each in chosen], dtype=np.intp)
        together &= masks[window][:, falling]
        alone += masks.sum(axis=1)[window]
    best_score: tuple[float, ...] | None = None
    best: tuple[int, ...] = ()
    for place, mask in enumerate(first):
        inside = together & mask
        counts = inside.sum(axis=1)
        taken = np.minimum(counts, wanted)
        strongest = (inside & (np.cumsum(inside, axis=1) <= wanted)) @ strength / np.maximum(taken, 1)
        columns = (alone, counts, strongest, taken, inside @ is_pinned.astype(np.float64))
        at = int(np.lexsort(columns)[-1])
        score = tuple(float(column[at]) for column in reversed(columns))
        score = (*score[:-1], score[-1] + float(mask.sum()))
        if best_score is None or score > best_score:
            best_score, best = score, (place, *chosen[at])
    return best


def _windows(values: Floats, width: float, most: int, *, is_ratio: bool) -> NDArray[np.bool_]:
    """Which cells lie in each of some windows that begin at a cell's value; as many as are looked at."""
    begins = np.unique(values)
    if len(begins) > most:
        begins = begins[np.linspace(0, len(begins) - 1, most).round().astype(np.intp)]
    ends = begins * width if is_ratio else begins + width
    masks: NDArray[np.bool_] = (values[None, :] >= begins[:, None] - 1e-9) & (values[None, :] <= ends[:, None] + 1e-9)
    # A window that holds no more than another brings nothing of its own.
    return np.unique(masks, axis=0)
