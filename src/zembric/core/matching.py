"""Cells into S groups of P: the weakest group as strong as possible, then as even as possible, and a bound that proves it.

In a series pack the weakest group ends the run, so it comes first; then the spread of the groups, then resistance.
The search deals the cells out and exchanges pairs until no exchange helps, from several starts; it uses no clock, and
the same cells and seed give the same answer.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError, ConflictError

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Indices = NDArray[np.intp]

MOST_GROUPS = 40
MOST_PARALLEL = 40
_STARTS = 8
_PATIENCE = 20_000


class TooFewCellsError(ConflictError):
    code = "too-few-cells"

    def __init__(self, needed: int, have: int, left_out: str = ""):
        missing = needed - have
        super().__init__(
            f"{needed} {'cell is' if needed == 1 else 'cells are'} needed and {have} may take part; "
            f"{missing} {'is' if missing == 1 else 'are'} missing." + (f" Left out: {left_out}." if left_out else "")
        )
        self.needed = needed
        self.have = have


@dataclass(frozen=True, slots=True)
class MatchCell:
    """One candidate. `resistance_mohm` is None where it was not measured."""

    key: str
    capacity_mah: float
    resistance_mohm: float | None = None


@dataclass(frozen=True, slots=True)
class Group:
    """Cells that stand in parallel; `resistance_mohm` of all together, None where a cell has none."""

    keys: tuple[str, ...]
    capacity_mah: float
    resistance_mohm: float | None


@dataclass(frozen=True, slots=True)
class Match:
    """A grouping, and the proven bound that no grouping of these cells has a weakest group above."""

    groups: tuple[Group, ...]
    bound_mah: float
    left_over: tuple[str, ...]

    @property
    def weakest_mah(self) -> float:
        return min(group.capacity_mah for group in self.groups)

    @property
    def strongest_mah(self) -> float:
        return max(group.capacity_mah for group in self.groups)

    @property
    def spread_mah(self) -> float:
        return self.strongest_mah - self.weakest_mah

    @property
    def proved_best(self) -> bool:
        return self.weakest_mah >= self.bound_mah - 1e-6

    @property
    def at_most_better_pct(self) -> float:
        """How much stronger the weakest group could be at most [%]."""
        return max(0.0, 100 * (self.bound_mah / self.weakest_mah - 1))


def match(cells: Sequence[MatchCell], series: int, parallel: int, seed: int = 0) -> Match:
    """Chooses series x parallel of the cells and deals them into groups.

    Raises:
        BadInputError: a shape outside 1 to 40, or a capacity that is not above zero.
        TooFewCellsError: fewer cells than the shape needs.
    """
    _check(cells, series, parallel)
    ordered = sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.key))
    capacities: Floats = np.array([cell.capacity_mah for cell in ordered], dtype=np.float64)
    bound = weakest_group_bound_mah(capacities, series, parallel)
    rng = np.random.default_rng(seed)
    best: Indices | None = None
    best_score = (-math.inf, -math.inf)
    for start in range(_STARTS):
        chosen = _exchange_with_unused(
            capacities, _improve(capacities, _deal(capacities, series, parallel, start, rng))
        )
        sums = capacities[chosen].sum(axis=1)
        score = (float(sums.min()), float(sums.min() - sums.max()))
        if score > best_score:
            best, best_score = chosen, score
        if best_score[0] >= bound - 1e-9 and best_score[1] >= -1e-9:
            break
    assert best is not None
    used = {int(index) for index in best.ravel()}
    groups = [_group([ordered[int(index)] for index in row]) for row in best]
    return Match(
        groups=tuple(sorted(groups, key=lambda group: (-group.capacity_mah, group.keys))),
        bound_mah=bound,
        left_over=tuple(cell.key for index, cell in enumerate(ordered) if index not in used),
    )


def weakest_group_bound_mah(capacities_mah: Floats, series: int, parallel: int) -> float:
    """Least of the counting bounds on the weakest group [mAh]; capacities in falling order.

    For every K and j: of the K largest cells, the j groups that hold fewest of them hold at most floor(j K / S).
    So their j P places hold at most that many of the largest, and otherwise cells after the K-th; their mean is
    not below the weakest group. Where all capacities are multiples of one step, so is the bound.
    Source: counting (pigeonhole) argument.
    """
    wanted = series * parallel
    prefix = np.concatenate(([0.0], np.cumsum(capacities_mah)))
    largest_k = np.arange(0, wanted + 1)
    bound = math.inf
    for groups in range(1, series + 1):
        places = groups * parallel
        of_largest = np.minimum(groups * largest_k // series, places)
        after = places - of_largest
        reachable = largest_k + after <= len(capacities_mah)
        from_k = largest_k[reachable]
        sums = prefix[of_largest[reachable]] + prefix[from_k + after[reachable]] - prefix[from_k]
        bound = min(bound, float(sums.min()) / groups)
    step = _common_step(capacities_mah)
    return math.floor(bound / step + 1e-9) * step if step else bound


def _check(cells: Sequence[MatchCell], series: int, parallel: int) -> None:
    if not (1 <= series <= MOST_GROUPS and 1 <= parallel <= MOST_PARALLEL):
        raise BadInputError(
            f"{series}S{parallel}P cannot be matched: 1 to {MOST_GROUPS} groups of 1 to {MOST_PARALLEL} cells can.",
            field="series",
        )
    bad = next((cell for cell in cells if not (math.isfinite(cell.capacity_mah) and cell.capacity_mah > 0)), None)
    if bad:
        raise BadInputError(f"Cell {bad.key} has no capacity above zero.")
    if len(cells) < series * parallel:
        raise TooFewCellsError(series * parallel, len(cells))


def _common_step(capacities_mah: Floats) -> float | None:
    """Greatest common divisor of whole-numbered capacities, None where one is not whole."""
    whole = np.rint(capacities_mah)
    if not np.allclose(whole, capacities_mah, atol=1e-9):
        return None
    return float(np.gcd.reduce(whole.astype(np.int64)))


def _deal(capacities: Floats, series: int, parallel: int, start: int, rng: np.random.Generator) -> Indices:
    """The strongest cells, each to the group that holds least and has room; later starts shuffle near equals."""
    wanted = series * parallel
    order = np.arange(wanted)
    if start:
        blur = capacities[:wanted] * (1 + 0.02 * start * rng.standard_normal(wanted))
        order = np.argsort(-blur, kind="stable")
    rows: list[list[int]] = [[] for _ in range(series)]
    sums = np.zeros(series)
    for index in order:
        open_rows = [row for row in range(series) if len(rows[row]) < parallel]
        least = min(open_rows, key=lambda row: (sums[row], row))
        rows[least].append(int(index))
        sums[least] += capacities[index]
    return np.array(rows, dtype=np.intp)


def _improve(capacities: Floats, rows: Indices) -> Indices:
    """Exchanges pairs between the weakest and the strongest groups until none makes the two more even."""
    rows = rows.copy()
    for _ in range(_PATIENCE):
        sums = capacities[rows].sum(axis=1)
        if not _exchange_once(capacities, rows, sums):
            break
    return rows


def _exchange_once(capacities: Floats, rows: Indices, sums: Floats) -> bool:
    """One exchange: the weakest group with any other, or the strongest with any other, whichever evens most."""
    for anchor in (int(sums.argmin()), int(sums.argmax())):
        gaps = sums - sums[anchor]
        # gain[g, i, j]: what the anchor gains when its i-th cell is exchanged for the j-th of group g.
        gain = capacities[rows][:, None, :] - capacities[rows[anchor]][None, :, None]
        new_gap = np.abs(gaps[:, None, None] - 2 * gain)
        evening = np.abs(gaps)[:, None, None] - new_gap
        evening[anchor] = -np.inf
        group, i, j = np.unravel_index(int(evening.argmax()), evening.shape)
        if evening[group, i, j] > 1e-9:
            rows[anchor, i], rows[group, j] = rows[group, j], rows[anchor, i]
            return True
    return False


def _exchange_with_unused(capacities: Floats, rows: Indices) -> Indices:
    """Exchanges cells with unused ones where that lifts the weakest group or narrows the spread without lowering it.

    Stronger groups only need to reach the weakest, so a left-over cell that fits more closely takes the place.
    """
    rows = rows.copy()
    for _ in range(_PATIENCE):
        used = np.zeros(len(capacities), dtype=bool)
        used[rows.ravel()] = True
        unused = np.flatnonzero(~used)
        if not len(unused):
            break
        sums = capacities[rows].sum(axis=1)
        weakest, strongest = float(sums.min()), int(sums.argmax())
        room = float(sums[strongest]) - weakest
        drop = capacities[rows[strongest]][:, None] - capacities[unused][None, :]
        allowed = np.where((drop > 1e-9) & (drop <= room + 1e-9), drop, -np.inf)
        i, j = np.unravel_index(int(allowed.argmax()), allowed.shape)
        if allowed[i, j] == -np.inf:
            break
        rows[strongest, i] = unused[j]
    return rows


def _group(cells: Sequence[MatchCell]) -> Group:
    resistances = [cell.resistance_mohm for cell in cells]
    known = [value for value in resistances if value]
    together = 1 / math.fsum(1 / value for value in known) if len(known) == len(cells) else None
    ordered = sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.key))
    return Group(tuple(cell.key for cell in ordered), math.fsum(cell.capacity_mah for cell in cells), together)
