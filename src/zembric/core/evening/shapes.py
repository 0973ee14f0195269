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

#: The state before each so many-th place is kept, so that not all before a change is laid out again.
APART = 32
#: More channels there are not: the minute from which on one is free and its number are one whole number, of which the least is looked for.
CHANNELS = 1 << 20


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
    #: What an order is laid out on; see `Room`.
    empty: Whole
    first: First
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


class First(NamedTuple):
    """Where in a state it begins: in which evening each cell ends, from when each channel is free in each evening, the latest start
    of each evening, the place of the oldest one among those that still keep a hand busy, and their starts. Ends of cells come first."""

    ended_in: int
    free: int
    latest: int
    oldest: int
    hands: int


class Room(NamedTuple):
    """Where an order is laid out: its state now, and as it was before each so many-th place.

    Of each there are two sides: one that is kept, and one on which the next order is tried.
    """

    state: Whole
    first: First
    #: By place, side, and what of the state.
    kept: np.ndarray[tuple[int, int, int], np.dtype[np.int64]]
    #: By place and side, what the places before it cost more than the least.
    counted: np.ndarray[tuple[int, int], np.dtype[np.float64]]
    #: Which one is kept.
    side: Whole


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
