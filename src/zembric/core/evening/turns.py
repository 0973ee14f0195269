"""Turns of the search, to be compiled (`native.py`): an order is changed a little, laid out, and kept or not."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from zembric.core.evening.laying import compiled, cost_of, lay_out, move, sort

if TYPE_CHECKING:
    from zembric.core.evening.shapes import (
        Cost,
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
#: How often another step goes to the channels that it leaves then.
_TRADES = 0.5
#: By how many places all steps of a cell are moved together at most, and how often that is what becomes of a cell that goes elsewhere.
_FARTHEST_TOGETHER, _TOGETHER = 6, 0.6
#: Of the other turns, how often one cell takes the place of another, and how often it is one from outside.
_EXCHANGES, _FROM_OUTSIDE = 0.5, 0.7
#: Of the rest: only off, only onto the table, off and on, and above the last one cell to other times or another one in its stead.
_OFF_UNTIL, _ON_FROM, _ELSEWHERE_FROM = 0.55, 0.15, 0.6
#: How often two cells are taken or put at once; how much of the time that is to spare is waited between two steps at most.
_TWO, _WAITS = 0.33, 0.5
#: Steps before this place stay where they are: the whole order, where a turn comes to nothing.
_NOTHING = -1


@compiled
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
        room, tried, scratch: Where a turn is tried out.
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
        after = lay_out(table, tried, at, room, worth, most)
        if after > most:
            _copy(at, held, tried)
            continue
        _copy(min(at, sort(tried, at)), tried, held)
        cost.held[0] = after
        if after < before:
            true = cost_of(truth, table, tried.has, room)
            if true < cost.best[0]:
                cost.best[0] = true
                _copy(0, tried, best)


@compiled
def hold(table: Table, worth: Worth, held: Order, cost: Cost, room: Room) -> None:
    """Lays the order out from its first place on, as the one that others begin as, and says what it costs."""
    cost.held[0] = lay_out(table, held, 0, room, worth, math.inf)
    sort(held, 0)


@compiled
def _drawn(chance: Floats) -> float:
    place = int(chance[0]) + 1
    if place >= len(chance):
        place = 1
    chance[0] = place
    return chance[place]


@compiled
def _copy(at: int, source: Order, target: Order) -> None:
    """Where both are the same before place `at`."""
    for place in range(at, source.length[0]):
        move(source.places, place, target.places, place)
    target.length[0] = source.length[0]
    for cell in range(len(source.has)):
        target.has[cell] = source.has[cell]


@compiled
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


@compiled
def _below(chance: Floats, count: int) -> int:
    return int(_drawn(chance) * count)


@compiled
def _move_one(table: Table, tried: Order, chance: Floats) -> int:
    """One step some places earlier or later, or on another kind of channel."""
    at = _below(chance, tried.length[0])
    step: int = tried.places[at].step
    operation = table.operations[table.steps[step].operation]
    to = _slide(table, tried, at, 1 if _drawn(chance) < 0.5 else -1, 1 + _below(chance, _FARTHEST))
    if operation.count > 1 and _drawn(chance) < _OTHER_KIND:
        other = tried.places[to].step = operation.first + _below(chance, operation.count)
        trades = _drawn(chance) < _TRADES
        return min(at, to, _nearest_instead(table, tried, to, other, step, chance) if trades else to)
    return min(at, to) if to != at else _NOTHING


@compiled
def _nearest_instead(table: Table, tried: Order, at: int, kind_of: int, instead: int, chance: Floats) -> int:
    """The nearest step on the kind of channel that a step came to goes to the one that it left; where it lies."""
    steps, places, way = table.steps, tried.places, 1 if _drawn(chance) < 0.5 else -1
    place = at + way
    while 0 <= place < tried.length[0] and steps[kind_of].kind != steps[instead].kind:
        step = steps[places[place].step]
        if step.kind == steps[kind_of].kind:
            operation = table.operations[step.operation]
            for each in range(operation.first, operation.first + operation.count):
                if steps[each].kind == steps[instead].kind:
                    places[place].step = each
                    return place
        place += way
    return at


@compiled
def _move_all(table: Table, tried: Order, cell: int, chance: Floats) -> int:
    """All steps of a cell some places earlier or later."""
    steps, places, length = table.steps, tried.places, tried.length[0]
    way, far, at = 1 if _drawn(chance) < 0.5 else -1, 1 + _below(chance, _FARTHEST_TOGETHER), length
    for each in range(length):
        # Whoever is ahead makes room for the others of the cell.
        place = length - 1 - each if way > 0 else each
        if steps[places[place].step].cell == cell:
            to = _slide(table, tried, place, way, far)
            at = at if to == place else min(at, place, to)
    return at if at < length else _NOTHING


@compiled
def _slide(table: Table, tried: Order, at: int, way: int, far: int) -> int:
    """One step at most so many places on, never past the cell's others; where it lies then."""
    steps, places, length, to = table.steps, tried.places, tried.length[0], at
    step: int = places[at].step
    cell = steps[step].cell
    while far and 0 <= to + way < length and steps[places[to + way].step].cell != cell:
        move(places, to + way, places, to)
        to, far = to + way, far - 1
    places[to].step = step
    return to


@compiled
def _on_kind(steps: Records, operation: Record, kind: int, chance: Floats) -> int:
    """An operation on that kind of channel, where it can be; else on any."""
    for step in range(operation.first, operation.first + operation.count):
        if steps[step].kind == kind:
            return step
    return operation.first + _below(chance, operation.count)


@compiled
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


@compiled
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
            move(before, place, places, to)
            to += 1
    tried.length[0] = to
    tried.has[first], tried.has[second] = False, True
    return min(at, scratch[0])


@compiled
def _off_and_on(table: Table, tried: Order, here: Whole, out: Whole, chance: Floats) -> int:
    """Up to two cells off, up to two onto the table, or one to other times."""
    way = _drawn(chance)
    at = tried.length[0]
    if way >= _ELSEWHERE_FROM and len(here):
        cell = here[_below(chance, len(here))]
        if _drawn(chance) < _TOGETHER:
            return _move_all(table, tried, cell, chance)
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


@compiled
def _take_off(table: Table, tried: Order, cell: int, at: int) -> int:
    """What lies behind a cell's steps moves up; from where on the order differs now, if it differed from `at` on before."""
    steps, places, to = table.steps, tried.places, 0
    while steps[places[to].step].cell != cell:
        to += 1
    at = min(at, to)
    for place in range(to + 1, tried.length[0]):
        if steps[places[place].step].cell != cell:
            move(places, place, places, to)
            to += 1
    tried.length[0] = to
    tried.has[cell] = False
    return at


@compiled
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
            move(places, behind - 1, places, behind)
        places[place].step, places[place].start = step, int(minute)
        length += 1
        if operation == first:
            at = min(at, place)
        waits = _drawn(chance) * spare * _WAITS
        minute, spare, place = minute + steps[step].minutes + waits, spare - waits, place + 1
    tried.length[0] = length
    tried.has[cell] = True
    return at
