"""What is run: cells, groups, a load and where it ends; and what cannot be."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.errors import BadInputError
from zembric.core.said import named, said

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Sequence

    from zembric.core.run.curves import Curve
    from zembric.core.said import Said

LoadKind = Literal["current", "power", "resistor"]
LOAD_KINDS: tuple[LoadKind, ...] = get_args(LoadKind)
WrongCode = Literal[
    "resistance_not_positive", "capacity_not_positive", "soc_out_of_range", "empty_group", "table_not_increasing",
    "unknown_chemistry", "load_not_positive", "cutoff_not_positive", "cutoff_not_below_start", "bad_value",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class RunCell:
    """A cell of the model: its resistance [mOhm] does not change, `soc` is its state of charge at first (0 to 1)."""

    key: str
    chemistry: str
    capacity_mah: float
    resistance_mohm: float
    soc: float


@dataclass(frozen=True, slots=True)
class Efficiency:
    """Of a converter by the voltage at its input [V]: straight from one to the other, beyond them as at the nearer."""

    low_v: float
    at_low: float
    high_v: float
    at_high: float

    @property
    def per_volt(self) -> float:
        return (self.at_high - self.at_low) / (self.high_v - self.low_v)


@dataclass(frozen=True, slots=True)
class Load:
    """A constant current [A], a constant power [W] or a resistor [Ohm] across the pack.

    `efficiency`: the power is what a converter gives; it takes that over its efficiency from the pack.
    """

    kind: LoadKind
    value: float
    efficiency: Efficiency | None = None


@dataclass(frozen=True, slots=True, eq=False)
class RunPack:
    """Groups in series under a load, until a group or the whole falls to its cut-off [V].

    Each is itself alone, so that what was worked out for one can be kept by it.
    """

    curves: Mapping[str, Curve]
    groups: Sequence[Sequence[RunCell]]
    load: Load
    cutoff_group_v: float
    cutoff_pack_v: float = 0.0
    #: In series with the pack.
    wiring_mohm: float = 0.0


@dataclass(frozen=True, slots=True)
class Wrong:
    """One thing that cannot be: its code, and the group (or rail) and cell it is about, counted from 1."""

    code: WrongCode
    group: int | None = None
    cell: int | None = None


def said_of(wrong: Wrong) -> Said:
    """What is wrong, where, and what would be right."""
    return said("run-cannot-be", what=named("run-wrong", wrong.code), group=wrong.group or 0, cell=wrong.cell or 0)


class RefusedRunError(BadInputError):
    """What was to be run cannot be; `wrong` says what and where, all of it."""

    code = "run-refused"

    def __init__(self, wrong: Sequence[Wrong]):
        super().__init__(said_of(wrong[0]))
        self.wrong = tuple(wrong)


def wrong_in_curves(curves: Mapping[str, Curve]) -> Iterator[Wrong]:
    """Tables that do not rise from charge 0 to 1."""
    for curve in curves.values():
        pairs = (curve.soc, curve.ocv_v)
        is_rising = all(all(a < b for a, b in pairwise(values)) for values in pairs)
        is_whole = len(curve.soc) == len(curve.ocv_v) >= 2 and (curve.soc[0], curve.soc[-1]) == (0, 1)
        if not (is_whole and is_rising and all(math.isfinite(value) for values in pairs for value in values)):
            yield Wrong("table_not_increasing")


def wrong_in_cell(cell: RunCell, curves: Mapping[str, Curve]) -> Iterator[WrongCode]:
    """What cannot be of one cell."""
    if cell.chemistry not in curves:
        yield "unknown_chemistry"
    if not cell.capacity_mah > 0:
        yield "capacity_not_positive"
    if not cell.resistance_mohm > 0:
        yield "resistance_not_positive"
    if not 0 <= cell.soc <= 1:
        yield "soc_out_of_range"


def wrong_in_groups(groups: Sequence[Sequence[RunCell]], curves: Mapping[str, Curve]) -> Iterator[Wrong]:
    """Groups without a cell, and cells that cannot be."""
    if not groups:
        yield Wrong("empty_group")
    for number, group in enumerate(groups, start=1):
        if not group:
            yield Wrong("empty_group", number)
        for place, cell in enumerate(group, start=1):
            yield from (Wrong(code, number, place) for code in wrong_in_cell(cell, curves))


def wrong_in_pack(pack: RunPack) -> Iterator[Wrong]:
    """All that cannot be in a pack, but for what only its voltages tell."""
    yield from wrong_in_curves(pack.curves)
    yield from wrong_in_groups(pack.groups, pack.curves)
    yield from wrong_around_cells(pack)
    around = (pack.load.value, pack.cutoff_group_v, pack.cutoff_pack_v, pack.wiring_mohm)
    if not all(math.isfinite(value) for value in around):
        yield Wrong("bad_value")


def wrong_around_cells(pack: RunPack) -> Iterator[Wrong]:
    """What cannot be of wiring, load and cut-offs, where they are numbers."""
    if pack.wiring_mohm < 0:
        yield Wrong("resistance_not_positive")
    if pack.load.value <= 0:
        yield Wrong("load_not_positive")
    if pack.cutoff_group_v <= 0 or pack.cutoff_pack_v < 0:
        yield Wrong("cutoff_not_positive")
