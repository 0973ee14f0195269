"""Laying an order out, to be compiled (`native.py`): when and where each of its steps begins, and what that costs."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from numba import njit

from zembric.core.evening.shapes import APART, CHANNELS

if TYPE_CHECKING:
    from zembric.core.evening.shapes import First, Flags, Order, Record, Room, Table, Whole, Worth

# No array is made here, so none needs to be counted: half of the time went into counting who refers to which. Nothing here divides by
# what may be 0, so nothing is asked for what Python would raise then.
compiled = njit(_nrt=False, error_model="numpy")
#: For what is called at each step: a call takes as long as a tenth of a turn.
_written_in = njit(_nrt=False, error_model="numpy", inline="always")


@compiled
def _counts(worth: Worth, cell: int, end: int, tonight: int, end_of_all: int) -> float:
    """Of a cell's weight and promise, where it ends then; below 0."""
    over, late_tonight = end - end_of_all, end - tonight
    weight = 1.0 if over <= 0 else max(0.0, worth.late - over * worth.a_minute)
    promise = 1.0 if late_tonight <= 0 else max(0.0, worth.promise_late - late_tonight * worth.promise_a_minute)
    return -worth.weight[cell] * weight - worth.promise[cell] * promise


@compiled
def cost_of(worth: Worth, table: Table, has: Flags, room: Room) -> float:
    state, ended_in = room.state, room.first.ended_in
    tonight, end_of_all = table.evenings[0].end, table.evenings[-1].end
    cost = 0.0
    for cell in range(len(has)):
        if has[cell]:
            end = state[cell]
            cost += worth.minute * (end - worth.offsets[state[ended_in + cell]])
            cost += _counts(worth, cell, end, tonight, end_of_all)
    return cost


@compiled
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


@compiled
def lay_out(table: Table, order: Order, at: int, room: Room, worth: Worth, most: float) -> float:
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


@compiled
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


@compiled
def _copy_all(source: Whole, target: Whole) -> None:
    for each in range(len(source)):
        target[each] = source[each]


@compiled
def keep_laid_out(at: int, order: Order, room: Room) -> None:
    """The order that was laid out from place `at` on is the one that others begin as from here on."""
    for place in range((at + APART - 1) // APART, (order.length[0] + APART - 1) // APART):
        room.side[place] = 1 - room.side[place]
