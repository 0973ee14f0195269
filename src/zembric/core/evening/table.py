"""The table with everything that is planned so far: where an operation fits, put in and taken out quickly.

Minutes are bits of whole numbers: one number a channel says where it is free, and a few shifts tell where a step of some length may
begin. Evenings lie end to end in them with one minute between that belongs to nobody, so no step reaches over a night.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.evening.model import Operation, Problem

    #: Channel, start, end; minutes of the table.
    Placed = tuple[int, int, int]


class Table:
    """Free minutes of each channel, and those in which somebody can begin a step."""

    def __init__(self, problem: Problem) -> None:
        # Of each evening: its start on the clock, its start and end on the table.
        self._evenings: list[tuple[int, int, int]] = []
        at = people = 0
        for evening in problem.evenings:
            length = evening.end - evening.start
            self._evenings.append((evening.start, at, at + length))
            people |= ((1 << length) - 1) << at
            at += length + 1
        self.length = at
        self._is_one = len(self._evenings) == 1
        self._free = [people] * len(problem.channels)
        self._fits: list[dict[int, int]] = [{} for _ in problem.channels]
        self._volunteers = problem.volunteers or 0
        self._hand_over = problem.hand_over if problem.volunteers is not None else 0
        # How many hand over in each minute, and where one more can begin.
        self._handing = [0] * (at + self._hand_over)
        self._hands = people
        self._begin = _begins(people, self._hand_over) if self._hand_over else people

        self._take_what_is_taken(problem)

    def _take_what_is_taken(self, problem: Problem) -> None:
        """What runs already, and people who are not there for a while."""
        for channel, start, end in problem.taken:
            for began, first, last in self._evenings:
                least, most = max(start - began, 0), min(end - began, last - first)
                if least < most:
                    self._free[channel] &= ~((1 << (first + most)) - (1 << (first + least)))
        for start, end in problem.absent if self._hand_over else ():
            for began, first, last in self._evenings:
                for minute in range(first + max(start - began, 0), first + min(end - began, last - first)):
                    self._handing[minute] += 1
                    if self._handing[minute] >= self._volunteers:
                        self._hands &= ~(1 << minute)
        self._begin = _begins(self._hands, self._hand_over) if self._hand_over else self._hands

    def from_clock(self, clock: int) -> int:
        """The first minute of the table that is not before a minute of the clock."""
        for start, first, last in self._evenings:
            if clock < start + last - first:
                return first + max(clock - start, 0)
        return self.length

    def ready(self, end: int, rest: int) -> int:
        """The minute of the table from which on it goes on after a rest."""
        if self._is_one or not rest:
            return end + rest
        for start, first, last in self._evenings:
            if end <= last:
                clock = start + end - first + rest
                break
        return self.from_clock(clock)

    def clock(self, minute: int) -> int:
        """A minute of the table on the clock."""
        for start, first, last in self._evenings:
            if minute <= last:
                return start + minute - first
        raise ValueError(minute)

    def put(self, placed: Placed) -> None:
        channel, start, end = placed
        self._free[channel] ^= (1 << end) - (1 << start)
        self._fits[channel] = {}
        if self._hand_over:
            self._hand(start, 1)

    def take(self, placed: Placed) -> None:
        channel, start, end = placed
        self._free[channel] ^= (1 << end) - (1 << start)
        self._fits[channel] = {}
        if self._hand_over:
            self._hand(start, -1)

    def _hand(self, start: int, more: int) -> None:
        handing, most, change = self._handing, self._volunteers, 0
        for at in range(start, start + self._hand_over):
            before = handing[at]
            handing[at] = before + more
            if (before == most) != (before + more == most):
                change |= 1 << at
        if change:
            self._hands ^= change
            self._begin = _begins(self._hands, self._hand_over)

    def place(self, operation: Operation, ready: int, costs: Sequence[float], before: int) -> Placed | None:
        """Where it ends earliest, `costs` of a channel added; None: nowhere before `before`."""
        best: Placed | None = None
        least = float("inf")
        begin = self._begin >> ready
        for channel, minutes in operation.options:
            soonest = ready + minutes + costs[channel]
            if soonest >= least:
                continue
            kept = self._fits[channel]
            fits = kept.get(minutes)
            if fits is None:
                fits = kept[minutes] = _begins(self._free[channel], minutes)
            here = (fits >> ready) & begin
            if here:
                start = (here & -here).bit_length() - 1
                if soonest + start < least and ready + start + minutes < before:
                    best, least = (channel, ready + start, ready + start + minutes), soonest + start
        return best


def _begins(free: int, minutes: int) -> int:
    """Where a stretch of so many minutes begins that are all free."""
    have = 1
    while 2 * have <= minutes:
        free &= free >> have
        have *= 2
    if have < minutes:
        free &= free >> (minutes - have)
    return free
