"""Turns of the search, compiled: an order is changed a little, laid out, and kept or not.

All that is compiled lies in this file: what is kept compiled is made anew when its own file changes, not when another one does.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

from numba import njit

if TYPE_CHECKING:
    import numpy as np

    from zembric.core.evening.order import Flags, Grid, Order, Record, Records, Room, Table, Whole

    Floats = np.ndarray[tuple[int], np.dtype[np.float64]]

#: How often one step is moved, by at most so many places; how often it goes to channels of another kind then.
_MOVES, _FARTHEST, _OTHER_KIND = 0.5, 8, 0.3
#: Of the other turns, how often one cell takes the place of another, and how often it is one from outside.
_EXCHANGES, _FROM_OUTSIDE = 0.5, 0.7
#: Of the rest: only off, only onto the table, off and on, and above the last one cell to other times or another one in its stead.
_OFF_UNTIL, _ON_FROM, _ELSEWHERE_FROM = 0.7, 0.2, 0.85
#: How often two cells are taken or put at once; how much of the time that is to spare is waited between two steps at most.
_TWO, _WAITS = 0.33, 0.5
#: Steps before this place stay where they are: the whole order, where a turn comes to nothing.
_NOTHING = -1


class Worth(NamedTuple):
    """What an order costs: each cell's end by the minute, less its weight and its promise as far as they count then."""

    minute: float
    #: What is taken off the clock in each evening before its minutes count.
    offsets: Whole
    #: What a cell's weight, and its promise, still count of one where it ends too late, and how much less with each minute.
    late: float
    a_minute: float
    promise_late: float
    promise_a_minute: float
    #: Of each cell.
    weight: Floats
    promise: Floats


class Cost(NamedTuple):
    """Of the order that is held and, in what truly counts, of the best one; arrays of one."""

    held: Floats
    best: Floats


@njit(cache=True, nogil=True)
def cost_of(worth: Worth, table: Table, has: Flags, room: Room) -> float:
    minute, offsets, late, a_minute, promise_late, promise_a_minute, weight, promise = worth
    ends, last = room.ends, room.last
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost = 0.0
    for cell in range(len(has)):
        if has[cell]:
            end = ends[cell]
            over, late_tonight = end - end_of_all, end - tonight
            cost += minute * (end - offsets[last[cell]])
            cost -= weight[cell] * (1.0 if over <= 0 else max(0.0, late - over * a_minute))
            cost -= promise[cell] * (
                1.0 if late_tonight <= 0 else max(0.0, promise_late - late_tonight * promise_a_minute)
            )
    return cost


@njit(cache=True, nogil=True)
def take_turns(
    turns: int, warmth: float, table: Table, may: Flags, worth: Worth, truth: Worth, held: Order, best: Order, cost: Cost,
    tried: Order, room: Room, scratch: Whole, chance: np.random.Generator,
) -> None:  # fmt: skip
    """Changes the order that is held so many times, and remembers the best.

    Args:
        warmth: How much worse an order may be and still be kept now and then.
        may: Cells that may be put onto the table.
        worth: By what an order is kept.
        truth: By what it is the best.
        tried, room, scratch: Where it is tried out.
        chance: Where a turn tries this or that.
    """
    for _ in range(turns):
        copy(held, tried)
        at = _turn(table, may, held, tried, scratch, chance)
        if at == _NOTHING:
            continue
        lay_out(table, tried, at, room)
        after, before = cost_of(worth, table, tried.has, room), cost.held[0]
        if after > before and chance.random() >= math.exp((before - after) / warmth):
            continue
        copy(tried, held)
        cost.held[0] = after
        if after < before:
            true = cost_of(truth, table, tried.has, room)
            if true < cost.best[0]:
                cost.best[0] = true
                copy(tried, best)


@njit(cache=True, nogil=True)
def copy(source: Order, target: Order) -> None:
    length, from_, to = source.length[0], source.places, target.places
    target.length[0] = length
    for at in range(length):
        to[at].step, to[at].start, to[at].evening = from_[at].step, from_[at].start, from_[at].evening
    target.has[:] = source.has


@njit(cache=True, nogil=True)
def lay_out(table: Table, order: Order, at: int, room: Room) -> None:
    """Writes the start and the evening of each step from place `at` on; what lies before stays as it is."""
    steps, evenings, kinds, absent, hands, hand_over = (
        table.steps, table.evenings, table.kinds, table.absent, table.hands, table.hand_over,
    )  # fmt: skip
    places, ends, ended_in, free, begun, starts = order.places, room.ends, room.last, room.free, room.begun, room.starts
    ends[:] = table.ready
    free[:] = table.free
    starts[:] = 0
    last, is_somebody_away = len(evenings) - 1, len(absent) > 0
    for place in range(order.length[0]):
        step = steps[places[place].step]
        kind, cell, minutes = kinds[step.kind], step.cell, step.minutes
        if place < at:
            evening, start = places[place].evening, places[place].start
            channel = _soonest_free(free, evening, kind)
        else:
            ready = ends[cell] + step.rest
            takes = max(minutes, hand_over)
            for evening in range(last + 1):
                if evening < last and ready + takes > evenings[evening].end:
                    continue
                channel = _soonest_free(free, evening, kind)
                start = max(ready, evenings[evening].begin, free[evening, channel])
                before = starts[evening]
                if before:
                    start = max(start, begun[evening, before - 1])
                if before >= hands:
                    start = max(start, begun[evening, before - hands] + hand_over)
                if is_somebody_away:
                    start = _with_a_hand(begun, evening, before, start, hands, hand_over, absent)
                # In the last evening it may end too late.
                if evening == last or start + takes <= evenings[evening].end:
                    break
            places[place].start, places[place].evening = start, evening
        begun[evening, starts[evening]] = start
        starts[evening] += 1
        free[evening, channel] = ends[cell] = start + minutes
        ended_in[cell] = evening
        if evening == last and start + hand_over > evenings[last].end:
            ends[cell] = start + max(minutes, hand_over)  # nobody is there to the end of it, however short the step is


@njit(cache=True, nogil=True)
def _soonest_free(free: Grid, evening: int, kind: Record) -> int:
    best: int = kind.first
    for channel in range(kind.first + 1, kind.first + kind.count):
        if free[evening, channel] < free[evening, best]:
            best = channel
    return best


@njit(cache=True, nogil=True)
def _with_a_hand(begun: Grid, evening: int, count: int, start: int, hands: int, hand_over: int, absent: Grid) -> int:
    """The minute from which on one of those who are still there can begin the next step."""
    while True:
        here, back = hands, start
        for absence in range(len(absent)):
            if absent[absence, 0] < start + hand_over and start < absent[absence, 1]:
                back = absent[absence, 1] if here == hands else min(back, absent[absence, 1])
                here -= 1
        if here <= 0:
            start = back
        elif count >= here and begun[evening, count - here] + hand_over > start:
            start = begun[evening, count - here] + hand_over
        else:
            return start


@njit(cache=True, nogil=True)
def _turn(table: Table, may: Flags, held: Order, tried: Order, scratch: Whole, chance: np.random.Generator) -> int:
    """Changes an order; from which place on it is another one now."""
    has = held.has
    if held.length[0] and chance.random() < _MOVES:
        return _move_one(table, tried, chance)
    here = 0
    for cell in range(len(has)):
        if has[cell]:
            scratch[here] = cell
            here += 1
    both = here
    for cell in range(len(has)):
        if may[cell] and not has[cell]:
            scratch[both] = cell
            both += 1
    if here > 1 and chance.random() < _EXCHANGES:
        first = scratch[_below(chance, here)]
        if both > here and chance.random() < _FROM_OUTSIDE:
            return _replace(
                table, held, tried, first, scratch[here + _below(chance, both - here)], scratch[both:], chance
            )
        return _exchange(table, tried, first, scratch[_below(chance, here)], chance)
    return _off_and_on(table, tried, scratch[:here], scratch[here:both], chance)


@njit(cache=True, nogil=True)
def _below(chance: np.random.Generator, count: int) -> int:
    return int(chance.random() * count)


@njit(cache=True, nogil=True)
def _move_one(table: Table, tried: Order, chance: np.random.Generator) -> int:
    """One step some places earlier or later, never past the cell's others, or on another kind of channel."""
    steps, places, length = table.steps, tried.places, tried.length[0]
    at = to = _below(chance, length)
    step: int = places[at].step
    cell, operation = steps[step].cell, table.operations[steps[step].operation]
    far = 1 + _below(chance, _FARTHEST)
    way = 1 if chance.random() < 0.5 else -1
    while far and 0 <= to + way < length and steps[places[to + way].step].cell != cell:
        _move(places, to + way, to)
        to, far = to + way, far - 1
    if operation.count > 1 and chance.random() < _OTHER_KIND:
        step = operation.first + _below(chance, operation.count)
    elif to == at:
        return _NOTHING
    places[to].step = step
    return min(at, to)


@njit(cache=True, nogil=True)
def _move(places: Records, at: int, to: int) -> None:
    places[to].step, places[to].start, places[to].evening = places[at].step, places[at].start, places[at].evening


@njit(cache=True, nogil=True)
def _on_kind(steps: Records, operation: Record, kind: int, chance: np.random.Generator) -> int:
    """An operation on that kind of channel, where it can be; else on any."""
    for step in range(operation.first, operation.first + operation.count):
        if steps[step].kind == kind:
            return step
    return operation.first + _below(chance, operation.count)


@njit(cache=True, nogil=True)
def _exchange(table: Table, tried: Order, first: int, second: int, chance: np.random.Generator) -> int:
    """Two cells take each other's places."""
    steps, operations, places = table.steps, table.operations, tried.places
    if first == second or table.cells[first].count != table.cells[second].count:
        return _NOTHING
    at = tried.length[0]
    of_first, of_second = table.cells[first].first, table.cells[second].first
    for place in range(tried.length[0]):
        step = steps[places[place].step]
        if step.cell == first:
            places[place].step = _on_kind(steps, operations[of_second], step.kind, chance)
            of_second += 1
        elif step.cell == second:
            places[place].step = _on_kind(steps, operations[of_first], step.kind, chance)
            of_first += 1
        else:
            continue
        at = min(at, place)
    return at


@njit(cache=True, nogil=True)
def _replace(
    table: Table, held: Order, tried: Order, first: int, second: int, scratch: Whole, chance: np.random.Generator
) -> int:
    """A cell from outside takes the places of one that goes off the table, some of them or some more."""
    steps, operations, before, places, length = table.steps, table.operations, held.places, tried.places, held.length[0]
    wanted, found = table.cells[second].count, 0
    for place in range(length):
        if steps[before[place].step].cell == first:
            scratch[found] = place
            found += 1
    at = scratch[0]
    while found > wanted:
        gone, found = _below(chance, found), found - 1
        for behind in range(gone, found):
            scratch[behind] = scratch[behind + 1]
    while found < wanted:
        place, behind = _below(chance, length), found
        while behind and scratch[behind - 1] > place:
            scratch[behind] = scratch[behind - 1]
            behind -= 1
        scratch[behind] = place
        found += 1
    put = to = 0
    for place in range(length):
        step = steps[before[place].step]
        while put < wanted and scratch[put] == place:
            places[to].step = _on_kind(steps, operations[table.cells[second].first + put], step.kind, chance)
            places[to].start, places[to].evening = before[place].start, before[place].evening
            put, to = put + 1, to + 1
        if step.cell != first:
            places[to].step, places[to].start, places[to].evening = (
                before[place].step,
                before[place].start,
                before[place].evening,
            )
            to += 1
    tried.length[0] = to
    tried.has[first], tried.has[second] = False, True
    return min(at, scratch[0])


@njit(cache=True, nogil=True)
def _off_and_on(table: Table, tried: Order, here: Whole, out: Whole, chance: np.random.Generator) -> int:
    """Up to two cells off, up to two onto the table, or one to other times."""
    way = chance.random()
    at = tried.length[0]
    if way >= _ELSEWHERE_FROM and len(here):
        cell = here[_below(chance, len(here))]
        at = _take_off(table, tried, cell, at)
        if chance.random() < 0.5:
            at = _put_on(table, tried, cell, at, chance)
        elif len(out):
            at = _put_on(table, tried, out[_below(chance, len(out))], at, chance)
        return at
    if way < _OFF_UNTIL and len(here):
        for _ in range(1 + (chance.random() < _TWO)):
            cell = here[_below(chance, len(here))]
            if tried.has[cell]:
                at = _take_off(table, tried, cell, at)
    if way > _ON_FROM and len(out):
        for _ in range(1 + (chance.random() < _TWO)):
            cell = out[_below(chance, len(out))]
            if not tried.has[cell]:
                at = _put_on(table, tried, cell, at, chance)
    return at


@njit(cache=True, nogil=True)
def _take_off(table: Table, tried: Order, cell: int, at: int) -> int:
    """What lies behind a cell's steps moves up; from where on the order differs now, if it differed from `at` on before."""
    steps, places, to = table.steps, tried.places, 0
    while steps[places[to].step].cell != cell:
        to += 1
    at = min(at, to)
    for place in range(to + 1, tried.length[0]):
        if steps[places[place].step].cell != cell:
            _move(places, place, to)
            to += 1
    tried.length[0] = to
    tried.has[cell] = False
    return at


@njit(cache=True, nogil=True)
def _put_on(table: Table, tried: Order, cell: int, at: int, chance: np.random.Generator) -> int:
    """A cell's steps go in at some time of some evening, with some time between them."""
    steps, operations, evenings, places, length = (
        table.steps, table.operations, table.evenings, tried.places, tried.length[0],
    )  # fmt: skip
    first, count, least = table.cells[cell].first, table.cells[cell].count, table.cells[cell].least
    evening, last, place = _below(chance, len(evenings)), len(evenings) - 1, 0
    hours = float(evenings[evening].end - evenings[evening].begin)
    minute = evenings[evening].begin + chance.random() * (max(hours - least, 0.0) or hours)
    spare = max(evenings[evening].end - minute - least, 0.0)
    for operation in range(first, first + count):
        step = operations[operation].first + _below(chance, operations[operation].count)
        minute += steps[step].rest
        while evening < last and minute + steps[step].minutes > evenings[evening].end:
            evening += 1
            minute = max(minute, float(evenings[evening].begin))
        while place < length and places[place].start <= minute:
            place += 1
        for behind in range(length, place, -1):
            _move(places, behind - 1, behind)
        places[place].step, places[place].start, places[place].evening = step, int(minute), evening
        length += 1
        if operation == first:
            at = min(at, place)
        waits = chance.random() * spare * _WAITS
        minute, spare, place = minute + steps[step].minutes + waits, spare - waits, place + 1
    tried.length[0] = length
    tried.has[cell] = True
    return at
