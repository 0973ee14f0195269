"""Plans as an order of steps: each begins as soon as its cell, a channel and a hand are free, in the first evening it fits into and
never before the one ahead of it there.

Every plan without idle waiting is one such order, so changing the order reaches all of them; and laying an order out is quick enough
to do it some hundred thousand times a second, compiled. A cell may end after the last evening for a while: it counts the less the
later it is, which tells the search which way is better long before all fits.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zembric.core.evening.model import Row
from zembric.core.evening.shapes import APART, CHANNELS, First, Order, Room, Table

if TYPE_CHECKING:
    from typing import Any

    from zembric.core.evening.model import Problem
    from zembric.core.evening.native import Turns
    from zembric.core.evening.shapes import Grid, Records, Whole

#: As many hands as nobody waits for.
_ENOUGH = 1 << 40


def table_of(problem: Problem) -> Table:
    kinds = kinds_of(problem)
    kind_of = {channel: kind for kind, channels in enumerate(kinds) for channel in channels}
    steps: list[tuple[int, ...]] = []
    operations: list[tuple[int, ...]] = []
    cells: list[tuple[int, ...]] = []
    for cell in problem.cells:
        rests = [operation.rest_before if place else 0 for place, operation in enumerate(cell.operations)]
        quickest = [min(minutes for _, minutes in operation.options) for operation in cell.operations]
        least = sum(rests) + sum(quickest)
        cells.append((len(operations), len(cell.operations), least))
        for operation, rest, quick in zip(cell.operations, rests, quickest, strict=True):
            ways = sorted({(kind_of[channel], minutes) for channel, minutes in operation.options})
            steps += [(len(cells) - 1, len(operations), rest, kind, minutes) for kind, minutes in ways]
            behind = least - rest - quick
            operations.append((len(steps) - len(ways), len(ways), least, behind))
            least = behind
    before = np.cumsum([0, *map(len, kinds)])
    hand_over = problem.hand_over if problem.volunteers is not None else 0
    hands = min(problem.volunteers or _ENOUGH, _ENOUGH) if hand_over else _ENOUGH
    absent = np.array(problem.absent if hand_over else (), np.int64).reshape(-1, 2)
    first, empty = _empty(problem, kinds, min(hands, len(operations)) if hand_over else 1)
    return Table(
        _records(("cell", "operation", "rest", "kind", "minutes"), steps), _records(("first", "count", "least", "behind"), operations), _records(("first", "count", "least"), cells),
        _records(("first", "count"), [(int(first), len(channels)) for first, channels in zip(before, kinds, strict=False)]),
        _records(("begin", "end"), [(evening.start, evening.end) for evening in problem.evenings]),
        empty, first, hands, hand_over, absent,
    )  # fmt: skip


def kinds_of(problem: Problem) -> list[list[int]]:
    """Channels by what they can do in which time."""
    options = [dict(operation.options) for cell in problem.cells for operation in cell.operations]
    kinds: dict[tuple[int | None, ...], list[int]] = {}
    for channel in range(len(problem.channels)):
        kinds.setdefault(tuple(each.get(channel) for each in options), []).append(channel)
    return [*kinds.values()]


def _empty(problem: Problem, kinds: list[list[int]], hands: int) -> tuple[First, Whole]:
    """What an order is laid out on, with so many starts to remember in each evening."""
    free, evenings = _free_from(problem, [channel for channels in kinds for channel in channels]), len(problem.evenings)
    parts = (
        np.array([cell.ready for cell in problem.cells]), np.zeros(len(problem.cells)),
        free * CHANNELS + np.arange(free.shape[1]), np.zeros(evenings), np.zeros(evenings), np.full(evenings * hands, -_ENOUGH),
    )  # fmt: skip
    first = np.cumsum([part.size for part in parts[:-1]])
    return First(*map(int, first)), np.concatenate([part.ravel() for part in parts]).astype(np.int64)


def _free_from(problem: Problem, channels: list[int]) -> Grid:
    """Of each evening the minute from which on each of these channels is free: what runs already is through by then."""
    free = np.zeros((len(problem.evenings), len(channels)), np.int64)
    for evening, hours in enumerate(problem.evenings):
        for channel, start, end in problem.taken:
            if start < hours.end:
                place = channels.index(channel)
                free[evening, place] = max(free[evening, place], end)
    return free


def _records(names: tuple[str, ...], rows: list[tuple[int, ...]]) -> Records:
    return np.array(rows, [(name, np.int64) for name in names]).view(np.recarray)


def empty_order(table: Table) -> Order:
    places = _records(("step", "start", "evening", "channel"), [(0, 0, 0, 0)] * len(table.operations))
    return Order(places, np.zeros(1, np.int64), np.zeros(len(table.cells), np.bool_))


def room_for(table: Table) -> Room:
    kept = np.empty((len(table.operations) // APART + 1, 2, len(table.empty)), np.int64)
    kept[:] = table.empty
    return Room(table.empty.copy(), table.first, kept, np.zeros((len(kept), 2)), np.zeros(len(kept), np.int64))


def rows_of(problem: Problem, table: Table, order: Order, room: Room, turns: Turns) -> tuple[Row, ...]:
    """The plan of an order: whole cells that end in time, on the channels of its kind that are free."""
    turns.lay_out(table, order, room)
    end, kinds = problem.evenings[-1].end, kinds_of(problem)
    there: Any = order.places[: order.length[0]]
    kept = there[room.state[table.steps.cell[there.step]] <= end]
    order.places[: len(kept)], order.length[0] = kept, len(kept)
    turns.lay_out(table, order, room)
    free = _free_from(problem, [*range(len(problem.channels))])
    rows = []
    for place in order.places[: len(kept)]:
        step, start, evening = table.steps[place.step], int(place.start), int(place.evening)
        able = [channel for channel in kinds[step.kind] if free[evening, channel] <= start]
        channel = max(able, key=lambda channel: free[evening, channel])
        free[evening, channel] = until = start + int(step.minutes)
        rows.append(Row(int(step.cell), int(step.operation - table.cells[step.cell].first), channel, start, until))
    return tuple(sorted(rows, key=lambda row: (row.start, row.channel)))
