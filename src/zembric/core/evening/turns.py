"""Turns of the search, to be compiled (`native.py`): an order is changed a little, laid out, and kept or not."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from numba import njit

from zembric.core.evening.shapes import APART, CHANNELS

if TYPE_CHECKING:
    from zembric.core.evening.shapes import (
        Cost,
        First,
        Flags,
        Floats,
        Order,
        Record,
        Records,
        Room,
        Table,
        Whole,
        Worth,
    )

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


# No array is made here, so none needs to be counted: half of the time went into counting who refers to which. Nothing here divides by
# what may be 0, so nothing is asked for what Python would raise then.
_compiled = njit(_nrt=False, error_model="numpy")
#: For what is called at each step: a call takes as long as a tenth of a turn.
_written_in = njit(_nrt=False, error_model="numpy", inline="always")


@_compiled
def _counts(worth: Worth, cell: int, end: int, tonight: int, end_of_all: int) -> float:
    """Of a cell's weight and promise, where it ends then; below 0."""
    over, late_tonight = end - end_of_all, end - tonight
    weight = 1.0 if over <= 0 else max(0.0, worth.late - over * worth.a_minute)
    promise = 1.0 if late_tonight <= 0 else max(0.0, worth.promise_late - late_tonight * worth.promise_a_minute)
    return -worth.weight[cell] * weight - worth.promise[cell] * promise


@_compiled
def _cost_of(worth: Worth, table: Table, has: Flags, room: Room) -> float:
    state, ended_in = room.state, room.first.ended_in
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost = 0.0
    for cell in range(len(has)):
        if has[cell]:
            end = state[cell]
            cost += worth.minute * (end - worth.offsets[state[ended_in + cell]])
            cost += _counts(worth, cell, end, tonight, end_of_all)
    return cost


@_compiled
def _least_cost_of(worth: Worth, table: Table, has: Flags) -> float:
    """As if each cell went from step to step without waiting, and the minutes between them cost nothing."""
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost = 0.0
    for cell in range(len(has)):
        if has[cell]:
            ready = table.empty[cell]
            cost += worth.minute * (ready - worth.offsets[0])
            cost += _counts(worth, cell, ready + table.cells[cell].least, tonight, end_of_all)
    return cost


@_compiled
def take_turns(
    turns: int, warmth: Floats, table: Table, may: Flags, worth: Worth, truth: Worth, held: Order, best: Order, cost: Cost,
    tried: Order, room: Room, scratch: Whole, chance: Floats,
) -> None:  # fmt: skip
    """Changes the order that is held so many times, and remembers the best.

    Args:
        warmth: How much worse an order may be and still be kept now and then; an array of one.
        may: Cells that may be put onto the table.
        worth: By what an order is kept.
        truth: By what it is the best.
        room: Where the order that is held was laid out, and kept, last.
        tried, scratch: Where a turn is tried out.
        chance: Numbers from 0 to below 1, one after another: by them a turn tries this or that. The first one is no such number, but
            the place of the one that was taken last.
    """
    _copy(0, held, tried)
    for _ in range(turns):
        at = _turn(table, may, held, tried, scratch, chance)
        if at == _NOTHING:
            continue
        # How much worse it may be is drawn first: most orders are far worse, and known to be so after a few steps.
        before = cost.held[0]
        most = before - warmth[0] * math.log(1 - _drawn(chance))
        after = _lay_out(table, tried, at, room, worth, most)
        if after > most:
            _copy(at, held, tried)
            continue
        _copy(at, tried, held)
        _keep_laid_out(at, held, room)
        cost.held[0] = after
        if after < before:
            true = _cost_of(truth, table, tried.has, room)
            if true < cost.best[0]:
                cost.best[0] = true
                _copy(0, tried, best)


@_compiled
def hold(table: Table, worth: Worth, held: Order, cost: Cost, room: Room) -> None:
    """Lays the order out from its first place on, as the one that others begin as, and says what it costs."""
    cost.held[0] = _lay_out(table, held, 0, room, worth, math.inf)
    _keep_laid_out(0, held, room)


@_compiled
def _drawn(chance: Floats) -> float:
    place = int(chance[0]) + 1
    if place >= len(chance):
        place = 1
    chance[0] = place
    return chance[place]


@_compiled
def _copy(at: int, source: Order, target: Order) -> None:
    """Where both are the same before place `at`."""
    for place in range(at, source.length[0]):
        _move(source.places, place, target.places, place)
    target.length[0] = source.length[0]
    for cell in range(len(source.has)):
        target.has[cell] = source.has[cell]


@_compiled
def _lay_out(table: Table, order: Order, at: int, room: Room, worth: Worth, most: float) -> float:
    """Writes the start, the evening and the channel of each step from place `at` on; what lies before is as it was kept last.

    Returns:
        What it costs; infinity as soon as it is known to cost more than the most.
    """
    steps, evenings, hand_over = table.steps, table.evenings, table.hand_over
    places, state, kept, side = order.places, room.state, room.kept, room.side
    ended_in, free, latest, oldest, hands = room.first
    ring = (len(state) - hands) // len(evenings)
    width = (latest - free) // len(evenings)
    last = len(evenings) - 1
    tonight, end_of_all = evenings[0].end, evenings[last].end
    known = max(at - 1, 0) // APART
    least, counted = _least_cost_of(worth, table, order.has), room.counted[known, side[known]]
    _copy_all(kept[known, side[known]], state)
    for place in range(known * APART, order.length[0]):
        if place % APART == 0 and place >= at:
            _copy_all(state, kept[place // APART, 1 - side[place // APART]])
            room.counted[place // APART, 1 - side[place // APART]] = counted
        here = places[place]
        step = steps[here.step]
        cell, minutes = step.cell, step.minutes
        if place < at:
            evening, start, channel = here.evening, here.start, here.channel
        else:
            start, evening, channel = _soonest(state, table, room.first, step)
            here.start, here.evening, here.channel = start, evening, channel
        state[latest + evening] = start
        state[hands + evening * ring + state[oldest + evening]] = start
        state[oldest + evening] = state[oldest + evening] + 1 if state[oldest + evening] + 1 < ring else 0
        state[free + evening * width + channel] = (start + minutes) * CHANNELS + channel
        end, before = start + minutes, state[cell]
        if evening == last and start + hand_over > end_of_all:
            end = start + max(minutes, hand_over)  # nobody is there to the end of it, however short the step is
        counted += worth.minute * (end - worth.offsets[evening] - (before - worth.offsets[state[ended_in + cell]]))
        operation = table.operations[step.operation]
        believed, known_now = before + operation.least, end + operation.behind
        if known_now > believed and known_now > tonight:
            counted += _counts(worth, cell, known_now, tonight, end_of_all)
            counted -= _counts(worth, cell, believed, tonight, end_of_all)
        if least + counted > most:
            return math.inf
        state[cell], state[ended_in + cell] = end, evening
    return least + counted


@_written_in
def _soonest(state: Whole, table: Table, first_of: First, step: Record) -> tuple[int, int, int]:
    """When its cell, a channel and a hand are free, not before what began last: start, evening, channel."""
    evenings, kind, hand_over = table.evenings, table.kinds[step.kind], table.hand_over
    _, free, latest, oldest, hands = first_of
    width, ring = (latest - free) // len(evenings), (len(state) - hands) // len(evenings)
    last, ready, takes = len(evenings) - 1, state[step.cell] + step.rest, max(step.minutes, hand_over)
    for evening in range(last + 1):
        if evening < last and ready + takes > evenings[evening].end:
            continue
        start = max(ready, evenings[evening].begin, state[latest + evening])
        start = max(start, state[hands + evening * ring + state[oldest + evening]] + hand_over)
        first = free + evening * width + kind.first
        soonest = state[first]
        for other in range(first + 1, first + kind.count):
            if soonest < (start + 1) * CHANNELS:
                break
            soonest = min(soonest, state[other])
        start = max(start, soonest // CHANNELS)
        if len(table.absent):
            start = _with_a_hand(state, hands + evening * ring, ring, state[oldest + evening], start, table)
        # In the last evening it may end too late.
        if evening == last or start + takes <= evenings[evening].end:
            break
    return start, evening, soonest & (CHANNELS - 1)


@_compiled
def _copy_all(source: Whole, target: Whole) -> None:
    for each in range(len(source)):
        target[each] = source[each]


@_compiled
def _keep_laid_out(at: int, order: Order, room: Room) -> None:
    """The order that was laid out from place `at` on is the one that others begin as from here on."""
    for place in range((at + APART - 1) // APART, (order.length[0] + APART - 1) // APART):
        room.side[place] = 1 - room.side[place]


@_compiled
def _with_a_hand(state: Whole, first: int, ring: int, oldest: int, start: int, table: Table) -> int:
    """The minute from which on one of those who are still there can begin the next step."""
    absent, hands, hand_over = table.absent, table.hands, table.hand_over
    while True:
        here, back = hands, start
        for absence in range(len(absent)):
            if absent[absence, 0] < start + hand_over and start < absent[absence, 1]:
                back = absent[absence, 1] if here == hands else min(back, absent[absence, 1])
                here -= 1
        if here <= 0:
            start = back
        elif here <= ring:
            begun = state[first + (oldest - here if oldest >= here else oldest - here + ring)]
            if begun + hand_over <= start:
                return start
            start = begun + hand_over
        else:
            return start


@_compiled
def _turn(table: Table, may: Flags, held: Order, tried: Order, scratch: Whole, chance: Floats) -> int:
    """Changes an order; from which place on it is another one now."""
    has = held.has
    if held.length[0] and _drawn(chance) < _MOVES:
        return _move_one(table, tried, chance)
    here = 0
    for cell in range(len(has)):
        scratch[here] = cell
        here += has[cell]
    both = here
    for cell in range(len(has)):
        scratch[both] = cell
        both += may[cell] and not has[cell]
    if here > 1 and _drawn(chance) < _EXCHANGES:
        first = scratch[_below(chance, here)]
        if both > here and _drawn(chance) < _FROM_OUTSIDE:
            return _replace(
                table, held, tried, first, scratch[here + _below(chance, both - here)], scratch[both:], chance
            )
        return _exchange(table, tried, first, scratch[_below(chance, here)], chance)
    return _off_and_on(table, tried, scratch[:here], scratch[here:both], chance)


@_compiled
def _below(chance: Floats, count: int) -> int:
    return int(_drawn(chance) * count)


@_compiled
def _move_one(table: Table, tried: Order, chance: Floats) -> int:
    """One step some places earlier or later, never past the cell's others, or on another kind of channel."""
    steps, places, length = table.steps, tried.places, tried.length[0]
    at = to = _below(chance, length)
    step: int = places[at].step
    cell, operation = steps[step].cell, table.operations[steps[step].operation]
    far = 1 + _below(chance, _FARTHEST)
    way = 1 if _drawn(chance) < 0.5 else -1
    while far and 0 <= to + way < length and steps[places[to + way].step].cell != cell:
        _move(places, to + way, places, to)
        to, far = to + way, far - 1
    if operation.count > 1 and _drawn(chance) < _OTHER_KIND:
        step = operation.first + _below(chance, operation.count)
    elif to == at:
        return _NOTHING
    places[to].step = step
    return min(at, to)


@_compiled
def _move(source: Records, at: int, target: Records, to: int) -> None:
    from_, here = source[at], target[to]
    here.step, here.start, here.evening, here.channel = from_.step, from_.start, from_.evening, from_.channel


@_compiled
def _on_kind(steps: Records, operation: Record, kind: int, chance: Floats) -> int:
    """An operation on that kind of channel, where it can be; else on any."""
    for step in range(operation.first, operation.first + operation.count):
        if steps[step].kind == kind:
            return step
    return operation.first + _below(chance, operation.count)


@_compiled
def _exchange(table: Table, tried: Order, first: int, second: int, chance: Floats) -> int:
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


@_compiled
def _replace(table: Table, held: Order, tried: Order, first: int, second: int, scratch: Whole, chance: Floats) -> int:
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
            places[to].start = before[place].start
            put, to = put + 1, to + 1
        if step.cell != first:
            _move(before, place, places, to)
            to += 1
    tried.length[0] = to
    tried.has[first], tried.has[second] = False, True
    return min(at, scratch[0])


@_compiled
def _off_and_on(table: Table, tried: Order, here: Whole, out: Whole, chance: Floats) -> int:
    """Up to two cells off, up to two onto the table, or one to other times."""
    way = _drawn(chance)
    at = tried.length[0]
    if way >= _ELSEWHERE_FROM and len(here):
        cell = here[_below(chance, len(here))]
        at = _take_off(table, tried, cell, at)
        if _drawn(chance) < 0.5:
            at = _put_on(table, tried, cell, at, chance)
        elif len(out):
            at = _put_on(table, tried, out[_below(chance, len(out))], at, chance)
        return at
    if way < _OFF_UNTIL and len(here):
        for _ in range(1 + (_drawn(chance) < _TWO)):
            cell = here[_below(chance, len(here))]
            if tried.has[cell]:
                at = _take_off(table, tried, cell, at)
    if way > _ON_FROM and len(out):
        for _ in range(1 + (_drawn(chance) < _TWO)):
            cell = out[_below(chance, len(out))]
            if not tried.has[cell]:
                at = _put_on(table, tried, cell, at, chance)
    return at


@_compiled
def _take_off(table: Table, tried: Order, cell: int, at: int) -> int:
    """What lies behind a cell's steps moves up; from where on the order differs now, if it differed from `at` on before."""
    steps, places, to = table.steps, tried.places, 0
    while steps[places[to].step].cell != cell:
        to += 1
    at = min(at, to)
    for place in range(to + 1, tried.length[0]):
        if steps[places[place].step].cell != cell:
            _move(places, place, places, to)
            to += 1
    tried.length[0] = to
    tried.has[cell] = False
    return at


@_compiled
def _put_on(table: Table, tried: Order, cell: int, at: int, chance: Floats) -> int:
    """A cell's steps go in at some time of some evening, with some time between them."""
    steps, operations, evenings, places, length = (
        table.steps, table.operations, table.evenings, tried.places, tried.length[0],
    )  # fmt: skip
    first, count, least = table.cells[cell].first, table.cells[cell].count, table.cells[cell].least
    evening, last, place = _below(chance, len(evenings)), len(evenings) - 1, 0
    hours = float(evenings[evening].end - evenings[evening].begin)
    minute = evenings[evening].begin + _drawn(chance) * (max(hours - least, 0.0) or hours)
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
            _move(places, behind - 1, places, behind)
        places[place].step, places[place].start = step, int(minute)
        length += 1
        if operation == first:
            at = min(at, place)
        waits = _drawn(chance) * spare * _WAITS
        minute, spare, place = minute + steps[step].minutes + waits, spare - waits, place + 1
    tried.length[0] = length
    tried.has[cell] = True
    return at
