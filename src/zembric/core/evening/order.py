"""Plans as an order of steps: each begins in the first gap in which its cell, a channel and a hand are free, whatever lies behind it.

The best plan is reached by such an order: that of its starts. Laying an order out is quick enough to do it some hundred thousand times
a second, compiled. A step that waits for its cell's rest holds up no other, so an order that is changed a little is mostly as good. A
cell may end after the last evening for a while: it counts the less the later it is, which tells the search which way is better long
before all fits.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zembric.core.evening.model import Row
from zembric.core.evening.shapes import Order, Room, Table

if TYPE_CHECKING:
    from typing import Any

    from zembric.core.evening.model import Problem
    from zembric.core.evening.native import Turns
    from zembric.core.evening.shapes import Records

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
    place_of = {channel: place for place, channel in enumerate(_in_order(kinds))}
    taken = [(place_of[channel], start, end) for channel, start, end in problem.taken]
    return Table(
        _records(("cell", "operation", "rest", "kind", "minutes"), steps), _records(("first", "count", "least", "behind"), operations), _records(("first", "count", "least"), cells),
        _records(("first", "count"), [(int(first), len(channels)) for first, channels in zip(before, kinds, strict=False)]),
        _records(("begin", "end"), [(evening.start, evening.end) for evening in problem.evenings]),
        np.array([cell.ready for cell in problem.cells], np.int64), np.array(taken, np.int64).reshape(-1, 3), hands, hand_over, absent,
    )  # fmt: skip


def kinds_of(problem: Problem) -> list[list[int]]:
    """Channels by what they can do in which time."""
    options = [dict(operation.options) for cell in problem.cells for operation in cell.operations]
    kinds: dict[tuple[int | None, ...], list[int]] = {}
    for channel in range(len(problem.channels)):
        kinds.setdefault(tuple(each.get(channel) for each in options), []).append(channel)
    return [*kinds.values()]


def _in_order(kinds: list[list[int]]) -> list[int]:
    return [channel for channels in kinds for channel in channels]


def _records(names: tuple[str, ...], rows: list[tuple[int, ...]]) -> Records:
    return np.array(rows, [(name, np.int64) for name in names]).view(np.recarray)


def empty_order(table: Table) -> Order:
    places = _records(("step", "start", "evening", "channel"), [(0, 0, 0, 0)] * len(table.operations))
    return Order(places, np.zeros(1, np.int64), np.zeros(len(table.cells), np.bool_))


def room_for(table: Table) -> Room:
    channels, most = sum(table.kinds["count"]), len(table.operations) + len(table.taken)
    cells, spans = len(table.cells), (channels, most)
    return Room(
        *(np.zeros(size, np.int64) for size in (cells, cells, channels, spans, spans, len(table.operations))),
    )


def rows_of(problem: Problem, table: Table, order: Order, room: Room, turns: Turns) -> tuple[Row, ...]:
    """The plan of an order that was laid out: whole cells that end in time."""
    there: Any = order.places[: order.length[0]]
    takes = np.maximum(table.steps.minutes[there.step], table.hand_over)
    is_late = there.start + takes > problem.evenings[-1].end
    late = set(table.steps.cell[there.step[is_late]])
    kept = there[[table.steps.cell[place.step] not in late for place in there]]
    if late:
        # What they leave is free for others.
        order.places[: len(kept)], order.length[0] = kept, len(kept)
        turns.lay_out(table, order, room)
    channels, rows = _in_order(kinds_of(problem)), []
    for place in order.places[: len(kept)]:
        step, start = table.steps[place.step], int(place.start)
        operation = int(step.operation - table.cells[step.cell].first)
        rows.append(Row(int(step.cell), operation, channels[place.channel], start, start + int(step.minutes)))
    return tuple(sorted(rows, key=lambda row: (row.start, row.channel)))
