"""What is matched and what comes out: cells, groups, a grouping with its proof, and why there is none."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.said import Said, plain, said

if TYPE_CHECKING:
    from collections.abc import Sequence

MOST_GROUPS = 100
MOST_PARALLEL = 40
MOST_CELLS = 20_000
#: Weakest groups that differ by less are the same [mAh]: capacities are kept to a millionth.
SAME_MAH = 1e-6


class TooFewCellsError(ConflictError):
    """Fewer cells may take part than the shape needs: `needed` and `have` say how many."""

    code = "too-few-cells"

    def __init__(
        self,
        needed: int,
        have: int,
        left_out: tuple[Said, ...] = (),
        *,
        missing: int | None = None,
        kinds: Said | None = None,
    ):
        count = needed - have if missing is None else missing
        if kinds:
            what = said("too-few-of-a-kind", needed=kinds, count=count)
        else:
            what = said("too-few-cells", needed=said("cells-missing", needed=needed, have=have), count=count)
        super().__init__(said("too-few-and-left-out", ground=what, out=left_out) if left_out else what)
        self.needed = needed
        self.have = have


class OutOfReachError(ConflictError):
    """No grouping was found whose groups all reach the target; `reachable_mah` is the best weakest group that was."""

    code = "target-out-of-reach"

    def __init__(self, target_mah: float, reachable_mah: float, bound_mah: float):
        target, reachable = plain(target_mah, "mAh"), plain(reachable_mah, "mAh")
        if reachable_mah >= bound_mah - SAME_MAH:
            super().__init__(said("out-of-reach", target=target, reachable=reachable))
        else:
            bound = plain(bound_mah, "mAh")
            super().__init__(said("out-of-reach-bound", target=target, reachable=reachable, bound=bound))
        self.reachable_mah = reachable_mah
        self.bound_mah = bound_mah


@dataclass(frozen=True, slots=True)
class MatchCell:
    """One candidate. `resistance_mohm` is None where it was not measured, `capacity_u_mah` is the standard uncertainty."""

    key: str
    capacity_mah: float
    resistance_mohm: float | None = None
    capacity_u_mah: float = 0.0


@dataclass(frozen=True, slots=True)
class Group:
    """Cells that stand in parallel; `resistance_mohm` of all together, None where a cell has none."""

    keys: tuple[str, ...]
    capacity_mah: float
    resistance_mohm: float | None
    #: Largest over smallest resistance inside; None where a cell has none.
    resistance_ratio: float | None


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
    def total_mah(self) -> float:
        """Capacity taken from the shelf."""
        return math.fsum(group.capacity_mah for group in self.groups)

    @property
    def proved_best(self) -> bool:
        return self.weakest_mah >= self.bound_mah - SAME_MAH

    @property
    def at_most_better_pct(self) -> float:
        """How much stronger the weakest group could be at most [%]."""
        if self.proved_best or self.weakest_mah <= 0:
            return 0.0 if self.proved_best else math.inf
        return 100 * (self.bound_mah / self.weakest_mah - 1)

    @property
    def worst_resistance_ratio(self) -> float | None:
        """Largest over smallest resistance inside a group, of the worst; None where a cell has none."""
        ratios = [group.resistance_ratio for group in self.groups]
        known = [ratio for ratio in ratios if ratio is not None]
        return max(known) if len(known) == len(ratios) else None

    @property
    def group_resistance_spread_pct(self) -> float | None:
        """Largest less smallest group resistance over their mean [%]; None where a cell has none."""
        together = [group.resistance_mohm for group in self.groups]
        known = [value for value in together if value is not None]
        if len(known) < len(together):
            return None
        return 100 * (max(known) - min(known)) / (math.fsum(known) / len(known))


def as_group(cells: Sequence[MatchCell]) -> Group:
    """The cells as one group, the strongest first."""
    known = [cell.resistance_mohm for cell in cells if cell.resistance_mohm]
    is_known = len(known) == len(cells)
    ordered = sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.key))
    return Group(
        keys=tuple(cell.key for cell in ordered),
        capacity_mah=math.fsum(cell.capacity_mah for cell in cells),
        resistance_mohm=1 / math.fsum(1 / value for value in known) if is_known else None,
        resistance_ratio=max(known) / min(known) if is_known else None,
    )


def check_pool(cells: Sequence[MatchCell], series: int, parallel: int) -> None:
    """Raises:
    BadInputError: a shape that is not matched, too many cells, one twice, or a capacity that is none.
    TooFewCellsError: fewer cells than the shape needs.
    """
    if not (1 <= series <= MOST_GROUPS and 1 <= parallel <= MOST_PARALLEL):
        raise BadInputError(
            said(
                "s-p-cannot-be-matched",
                series=series,
                parallel=parallel,
                most_groups=MOST_GROUPS,
                most_parallel=MOST_PARALLEL,
            ),
            field="series" if not 1 <= series <= MOST_GROUPS else "parallel",
        )
    if len(cells) > MOST_CELLS:
        raise BadInputError(said("cells-are-too-many-at-once", count=len(cells), most_cells=MOST_CELLS))
    seen: set[str] = set()
    for cell in cells:
        if cell.key in seen:
            raise BadInputError(said("cell-is-there-twice", key=cell.key), field="cell_id")
        seen.add(cell.key)
        if not (math.isfinite(cell.capacity_mah) and cell.capacity_mah >= 0):
            raise BadInputError(said("cell-has-no-capacity", key=cell.key), field="capacity_mah")
        if cell.resistance_mohm is not None and not (math.isfinite(cell.resistance_mohm) and cell.resistance_mohm > 0):
            raise BadInputError(
                said("cell-has-resistance-of", key=cell.key, resistance=plain(cell.resistance_mohm)),
                field="ir_mohm",
            )
    if len(cells) < series * parallel:
        raise TooFewCellsError(series * parallel, len(cells))
