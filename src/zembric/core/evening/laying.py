"""Laying an order out, to be compiled (`native.py`): when and where each of its steps begins, and what that costs."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from numba import njit

if TYPE_CHECKING:
    from zembric.core.evening.shapes import Flags, Order, Record, Records, Room, Table, Whole, Worth

# No array is made here, so none needs to be counted: half of the time went into counting who refers to which. Nothing here divides by
# what may be 0, so nothing is asked for what Python would raise then.
compiled = njit(_nrt=False, error_model="numpy")
#: For what is called at each step: a call takes as long as a tenth of a turn.
_written_in = njit(_nrt=False, error_model="numpy", inline="always")


@compiled
def _counts(worth: Worth, cell: int, end: int, evening: int, tonight: int, end_of_all: int) -> float:
    """Of a cell's weight and promise, where it ends then, at the soonest in that evening; below 0."""
    over, late_tonight = end - end_of_all, end - worth.offsets[evening] - tonight
    weight = 1.0 if over <= 0 else max(0.0, worth.late - over * worth.a_minute)
    promise = 1.0 if late_tonight <= 0 else max(0.0, worth.promise_late - late_tonight * worth.promise_a_minute)
    return -worth.weight[cell] * weight - worth.promise[cell] * promise


@compiled
def cost_of(worth: Worth, table: Table, has: Flags, room: Room) -> float:
    """Of the order that was laid out last."""
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost, weight, late = 0.0, 0.0, 0.0
    for cell in range(len(has)):
        if has[cell]:
            end = room.ends[cell]
            cost += worth.minute * (end - worth.offsets[room.ended_in[cell]])
            cost += _counts(worth, cell, end, room.ended_in[cell], tonight, end_of_all)
            weight += worth.weight[cell]
            late += worth.weight[cell] if end > end_of_all else 0.0
    return cost + _too_much(worth, weight, late)


@_written_in
def _too_much(worth: Worth, weight: float, late: float) -> float:
    """What late cells count above the most that all count together."""
    return max(0.0, min(late, weight - worth.most))


@compiled
def _least_cost_of(worth: Worth, table: Table, has: Flags) -> tuple[float, float, float]:
    """As if each cell went from step to step without waiting, and the minutes between them cost nothing; the weight of all, and of those
    that are late even then."""
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost, weight, late = 0.0, 0.0, 0.0
    for cell in range(len(has)):
        if has[cell]:
            ready = table.ready[cell]
            cost += worth.minute * (ready - worth.offsets[0])
            cost += _counts(worth, cell, ready + table.cells[cell].least, 0, tonight, end_of_all)
            weight += worth.weight[cell]
            late += worth.weight[cell] if ready + table.cells[cell].least > end_of_all else 0.0
    return cost, weight, late


@compiled
def lay_out(table: Table, order: Order, at: int, room: Room, worth: Worth, most: float) -> float:
    """Writes the start, the evening and the channel of each step from place `at` on, in the first gap that it fits into.

    What lies before stays where it is, by its start.

    Returns:
        What it costs; infinity as soon as it is known to cost more than the most.
    """
    steps, evenings, hand_over = table.steps, table.evenings, table.hand_over
    places, ends, ended_in = order.places, room.ends, room.ended_in
    last = len(evenings) - 1
    tonight, end_of_all = evenings[0].end, evenings[last].end
    (least, weight, late), counted = _least_cost_of(worth, table, order.has), 0.0
    _clear(table, room)
    for place in range(order.length[0]):
        here = places[place]
        step = steps[here.step]
        cell, minutes = step.cell, step.minutes
        if place >= at:
            here.start, here.evening, here.channel = _soonest(table, room, step, place)
        start, evening = here.start, here.evening
        _begin(room, here.channel, start, start + minutes, place)
        end, before = start + minutes, ends[cell]
        if evening == last and start + hand_over > end_of_all:
            end = start + max(minutes, hand_over)  # nobody is there to the end of it, however short the step is
        counted += worth.minute * (end - worth.offsets[evening] - (before - worth.offsets[ended_in[cell]]))
        operation = table.operations[step.operation]
        believed, known_now = before + operation.least, end + operation.behind
        if known_now > tonight and (known_now > believed or evening > ended_in[cell]):
            counted += _counts(worth, cell, known_now, evening, tonight, end_of_all)
            counted -= _counts(worth, cell, believed, ended_in[cell], tonight, end_of_all)
            late += worth.weight[cell] if known_now > end_of_all >= believed else 0.0
        if least + counted + _too_much(worth, weight, late) > most:
            return math.inf
        ends[cell], ended_in[cell] = end, evening
    return least + counted + _too_much(worth, weight, late)


@compiled
def _clear(table: Table, room: Room) -> None:
    for cell in range(len(room.ends)):
        room.ends[cell], room.ended_in[cell] = table.ready[cell], 0
    for channel in range(len(room.busy)):
        room.busy[channel] = 0
    for each in range(len(table.taken)):
        _put(room, table.taken[each, 0], table.taken[each, 1], table.taken[each, 2])


@_written_in
def _begin(room: Room, channel: int, start: int, until: int, begun: int) -> None:
    """A step is on its channel, and somebody's hand was needed for it after so many others."""
    _put(room, channel, start, until)
    hands, place = room.hands, begun
    while place and hands[place - 1] > start:
        hands[place] = hands[place - 1]
        place -= 1
    hands[place] = start


@_written_in
def _put(room: Room, channel: int, start: int, until: int) -> None:
    from_, to, place = room.from_, room.to, room.busy[channel]
    room.busy[channel] += 1
    while place and from_[channel, place - 1] > start:
        from_[channel, place], to[channel, place] = from_[channel, place - 1], to[channel, place - 1]
        place -= 1
    from_[channel, place], to[channel, place] = start, until


@compiled
def _soonest(table: Table, room: Room, step: Record, begun: int) -> tuple[int, int, int]:
    """When its cell, a channel and a hand are free for it, with so many steps begun: start, evening, channel."""
    evenings, kind, hand_over, minutes = table.evenings, table.kinds[step.kind], table.hand_over, step.minutes
    evening, last, takes = 0, len(evenings) - 1, max(minutes, hand_over)
    start = room.ends[step.cell] + step.rest
    while True:
        # In the last evening it may end too late.
        while evening < last and max(start, evenings[evening].begin) + takes > evenings[evening].end:
            evening += 1
        start = max(start, evenings[evening].begin)
        soonest, latest, channel = 1 << 60, -1, kind.first
        for each in range(kind.first, kind.first + kind.count):
            free, before = _gap(room, each, start, minutes)
            # Of several the one that was idle for the shortest time: what is left of the others is longer.
            if free < soonest or (free == soonest and before > latest):
                soonest, latest, channel = free, before, each
        if soonest == start:
            soonest = _with_a_hand(table, room.hands, begun, start) if hand_over else start
            if soonest == start:
                return start, evening, channel
        start = soonest


@_written_in
def _gap(room: Room, channel: int, start: int, minutes: int) -> tuple[int, int]:
    """From when on the channel is free for so long, not before the start; until when it was taken before that."""
    from_, to, place, count = room.from_, room.to, room.busy[channel], room.busy[channel]
    while place and to[channel, place - 1] > start:
        place -= 1
    before = to[channel, place - 1] if place else 0
    while place < count and from_[channel, place] < start + minutes:
        start = before = to[channel, place]
        place += 1
    return start, before


@compiled
def _with_a_hand(table: Table, hands: Whole, begun: int, start: int) -> int:
    """The minute from which on one of those who are still there can begin the next step."""
    absent, hand_over = table.absent, table.hand_over
    while True:
        here, back = table.hands, start
        for absence in range(len(absent)):
            if absent[absence, 0] < start + hand_over and start < absent[absence, 1]:
                back = absent[absence, 1] if here == table.hands else min(back, absent[absence, 1])
                here -= 1
        if here <= 0:
            start = back
            continue
        place = begun
        while place and hands[place - 1] > start:
            place -= 1
        if place >= here and hands[place - here] + hand_over > start:
            start = hands[place - here] + hand_over
        elif _is_crowded(hands, begun, place, here, start, hand_over):
            start = hands[place]
        else:
            return start


@_written_in
def _is_crowded(hands: Whole, begun: int, place: int, here: int, start: int, hand_over: int) -> bool:
    """Whether those who begin something soon after would be one too many with whoever begins this."""
    for behind in range(1, min(here, begun - place) + 1):
        last, ahead = hands[place + behind - 1], here - behind
        if last >= start + hand_over:
            return False
        if ahead <= place and last - (hands[place - ahead] if ahead else start) < hand_over:
            return True
    return False


@compiled
def sort(order: Order, at: int) -> int:
    """What was laid out from place `at` on is put in the order of its starts; from which place on it differs now."""
    places = order.places
    lowest = at
    for place in range(max(at, 1), order.length[0]):
        here = places[place]
        step, start, evening, channel, to = here.step, here.start, here.evening, here.channel, place
        while to and places[to - 1].start > start:
            move(places, to - 1, places, to)
            to -= 1
        if to < place:
            there = places[to]
            there.step, there.start, there.evening, there.channel = step, start, evening, channel
            lowest = min(lowest, to)
    return lowest


@compiled
def move(source: Records, at: int, target: Records, to: int) -> None:
    from_, here = source[at], target[to]
    here.step, here.start, here.evening, here.channel = from_.step, from_.start, from_.evening, from_.channel
