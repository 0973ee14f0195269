"""What the search works on: tables, orders and the room they are laid out in, as arrays that compiled code reads and writes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

if TYPE_CHECKING:
    Whole = np.ndarray[tuple[int], np.dtype[np.int64]]
    Grid = np.ndarray[tuple[int, int], np.dtype[np.int64]]
    Flags = np.ndarray[tuple[int], np.dtype[np.bool_]]
    Floats = np.ndarray[tuple[int], np.dtype[np.float64]]
    #: Rows with named whole numbers.
    Records = np.recarray[tuple[int], Any]
    Record = Any


class Table(NamedTuple):
    """What stays: cells with their operations, operations with their steps, kinds with their channels, evenings, hands.

    A step is an operation on one kind of channel; channels that can do the same in the same time are one kind. What belongs together
    lies together: it is told by its `first` and its `count`.
    """

    #: cell, operation, rest, kind, minutes.
    steps: Records
    #: first step, count; least: the minutes from what is ahead of it to its cell's end; behind: from its own end on.
    operations: Records
    #: first operation, count; least: the minutes it takes.
    cells: Records
    #: first channel, count.
    kinds: Records
    #: begin, end.
    evenings: Records
    #: Of each cell the minute from which on it can begin.
    ready: Whole
    #: What runs already: channel, start, end.
    taken: Grid
    hands: int
    hand_over: int
    #: Of each absence of somebody from when until when.
    absent: Grid


class Order(NamedTuple):
    """Steps in their order, how many there are, and which cells are among them."""

    #: step, start, evening, channel.
    places: Records
    length: Whole
    has: Flags


class Room(NamedTuple):
    """Where an order is laid out."""

    #: Of each cell when, and in which evening, what was laid out of it ends.
    ends: Whole
    ended_in: Whole
    #: How often each channel is taken, and from when to when, in the order of time.
    busy: Whole
    from_: Grid
    to: Grid
    #: When somebody begins something, in the order of time.
    hands: Whole


class Worth(NamedTuple):
    """What an order costs: each cell's end by the minute, less its weight and its promise as far as they count then."""

    minute: float
    #: What is taken off the clock in each evening before its minutes count.
    offsets: Whole
    #: What a cell's weight, and its promise, still count of one where it ends too late, and how much less with each minute; a promise's
    #: minutes are those of the clock that something is taken off.
    late: float
    a_minute: float
    promise_late: float
    promise_a_minute: float
    #: Of each cell.
    weight: Floats
    promise: Floats
    #: What late cells count above so much weight of all together is taken off again.
    most: float


class Cost(NamedTuple):
    """Of the order that is held and, in what truly counts, of the best one; arrays of one."""

    held: Floats
    best: Floats
