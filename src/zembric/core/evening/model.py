"""An evening as it is planned: people's times, channels, cells with their steps; and what makes one plan better than another.

Times are whole minutes on one clock that starts with the first evening.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal, NamedTuple

from zembric.core.errors import BadInputError

if TYPE_CHECKING:
    from collections.abc import Iterable

    from zembric.core.said import Said

RefusalCode = Literal["bad_minutes", "cell_twice", "no_channel_fits", "step_too_long", "bad_input"]
Leaves = Literal["full", "empty", "storage"]


class EveningRefusedError(BadInputError):
    """The input cannot be meant so; `cell` is the one at fault, None when it is none."""

    def __init__(self, code: RefusalCode, text: Said, cell: str | None = None) -> None:
        super().__init__(text, code=code)
        self.cell = cell


@dataclass(frozen=True, slots=True)
class Evening:
    """People are there from `start` to `end`."""

    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Channel:
    key: str
    kind: str
    max_charge_ma: float
    max_discharge_ma: float
    formats: frozenset[str]


@dataclass(frozen=True, slots=True)
class Operation:
    """A charge or discharge: its place in the cell's list of steps, the rest before it, and how long it takes on each channel
    that can do it."""

    step: int
    rest_before: int
    options: tuple[tuple[int, int], ...]
    leaves: Leaves


@dataclass(frozen=True, slots=True)
class Cell:
    key: str
    weight: int
    is_first: bool
    operations: tuple[Operation, ...]
    #: Not before this minute: it is on a channel now, or rests.
    ready: int = 0


@dataclass(frozen=True, slots=True)
class Problem:
    """`volunteers` None: starting takes nobody's time."""

    evenings: tuple[Evening, ...]
    channels: tuple[Channel, ...]
    cells: tuple[Cell, ...]
    hand_over: int
    volunteers: int | None
    #: Channels that are taken from the beginning by what runs already: channel, start, end.
    taken: tuple[tuple[int, int, int], ...] = ()
    #: While one of the volunteers is not there: from, to.
    absent: tuple[tuple[int, int], ...] = ()


@dataclass(frozen=True, slots=True)
class Row:
    """An operation of a cell (both by place) on a channel."""

    cell: int
    operation: int
    channel: int
    start: int
    end: int


class Vector(NamedTuple):
    """What counts, in this order, all the less the better: promises not kept tonight, weight that is not finished (below 0:
    the finished one), cells left empty, left full, sum of finishing times."""

    first_not_tonight: int
    less_weight: int
    left_empty: int
    left_full: int
    sum_finish: int


def vector_of(problem: Problem, rows: Iterable[Row]) -> Vector:
    """How good a plan is."""
    done: dict[int, list[Row]] = {}
    for row in rows:
        done.setdefault(row.cell, []).append(row)
    tonight = problem.evenings[0].end
    missed = weight = empty = full = finish = 0
    for at, cell in enumerate(problem.cells):
        mine = sorted(done.get(at, ()), key=lambda row: row.operation)
        end = mine[-1].end if mine and len(mine) == len(cell.operations) else None
        missed += cell.is_first and (end is None or end > tonight)
        if end is not None:
            weight += cell.weight
            finish += end
        elif mine:
            leaves = cell.operations[mine[-1].operation].leaves
            empty += leaves == "empty"
            full += leaves == "full"
    return Vector(missed, -weight, empty, full, finish)
