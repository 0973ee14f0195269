"""The table with everything that is planned so far: where an operation fits, put in and taken out quickly."""

from __future__ import annotations

from bisect import bisect_left, insort
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.evening.model import Operation, Problem

    #: Channel, start, end.
    Placed = tuple[int, int, int]


class Table:
    """Busy stretches of each channel in each evening, and starts of each minute."""

    def __init__(self, problem: Problem) -> None:
        self._evenings = [(evening.start, evening.end) for evening in problem.evenings]
        self._busy: list[list[list[tuple[int, int]]]] = [[[] for _ in self._evenings] for _ in problem.channels]
        self._volunteers = problem.volunteers
        self._hand_over = problem.hand_over if problem.volunteers is not None else 0
        # Of each evening how many are busy with handing over in each of its minutes.
        self._hands = [[0] * (end - start + 1) for start, end in self._evenings]

    def earliest(self, channel: int, minutes: int, ready: int, before: int) -> int | None:
        """The first minute from `ready` on at which it fits and that ends before `before`."""
        hand_over = self._hand_over
        needs = max(minutes, hand_over)
        for number, (start, end) in enumerate(self._evenings):
            if end < ready + needs:
                continue
            at = max(start, ready)
            if at + minutes >= before:
                return None
            last = end - needs
            busy = self._busy[channel][number]
            index = bisect_left(busy, (at + 1,))
            if index and busy[index - 1][1] > at:
                at = busy[index - 1][1]
            while at <= last:
                if index < len(busy) and at + minutes > busy[index][0]:
                    at = busy[index][1]
                    index += 1
                    continue
                if hand_over:
                    free = self._next_free(number, at - start) + start
                    if free != at:
                        at = free
                        while index < len(busy) and busy[index][0] < at:
                            at = max(at, busy[index][1])
                            index += 1
                        continue
                return at if at + minutes < before else None
        return None

    def _next_free(self, number: int, minute: int) -> int:
        """The first minute from which on somebody has time for a whole hand-over."""
        hands, most, needs = self._hands[number], self._volunteers or 0, self._hand_over
        run, at = 0, minute
        while at < len(hands):
            if hands[at] < most:
                run += 1
                if run == needs:
                    return at - needs + 1
            else:
                run = 0
            at += 1
        return len(hands) + needs

    def put(self, placed: Placed) -> None:
        channel, start, end = placed
        number = self._evening_of(start)
        insort(self._busy[channel][number], (start, end))
        self._count(number, start, 1)

    def take(self, placed: Placed) -> None:
        channel, start, end = placed
        number = self._evening_of(start)
        self._busy[channel][number].remove((start, end))
        self._count(number, start, -1)

    def _count(self, number: int, start: int, more: int) -> None:
        if self._hand_over:
            hands, minute = self._hands[number], start - self._evenings[number][0]
            for at in range(minute, minute + self._hand_over):
                hands[at] += more

    def _evening_of(self, minute: int) -> int:
        return next(number for number, (start, end) in enumerate(self._evenings) if start <= minute < end)

    def place(self, operation: Operation, ready: int, costs: Sequence[float], before: int) -> Placed | None:
        """Where it ends earliest, `costs` of a channel added; None: nowhere before `before`."""
        best: Placed | None = None
        least = float("inf")
        for channel, minutes in operation.options:
            if ready + minutes + costs[channel] >= least:
                continue
            start = self.earliest(channel, minutes, ready, before)
            if start is not None and start + minutes + costs[channel] < least:
                best, least = (channel, start, start + minutes), start + minutes + costs[channel]
        return best
