"""Plans as an order of steps: each begins as soon as its cell, a channel and a hand are free, never before the one ahead of it.

Every plan without idle waiting is one such order, so changing the order reaches all of them; and laying an order out takes a fraction
of what looking for places takes. A cell may end too late for a while: it counts the less the later it is, which tells the search which
way is better long before all fits.
"""

from __future__ import annotations

import math
from heapq import heapreplace
from typing import TYPE_CHECKING, NamedTuple

from zembric.core.evening.model import Row

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from zembric.core.evening.model import Chance, Problem

    #: An order, its starts as far as they are known, its cells, and from where on it is to be laid out.
    _Turned = tuple[list["Step"], list[int], list[int], int]

#: As many hands as nobody waits for.
_ENOUGH = 1 << 30
#: How much worse a plan may be at first and at last, in hundredths of a weight and in minutes; for so much of the time weight is looked
#: for; so many turns between two looks at the clock.
_WEIGHT_WARMTH, _MINUTES_WARMTH, _FOR_WEIGHT, _AT_ONCE = (20.0, 3.0), (12.0, 0.5), 0.85, 20
#: What a promise counts, in hundredths of a weight; what a late cell counts of its weight, and what of it each minute costs.
_PROMISE, _LATE, _A_MINUTE = 400.0, 0.9, 0.03
#: What a minute later costs in time.
_EARLY = 0.02
#: How often one step is moved, by at most so many places; how often it goes to channels of another kind then.
_MOVES, _FARTHEST, _OTHER_KIND = 0.5, 8, 0.3
#: Of the other turns, how often one cell takes the place of another, and how often it is one from outside.
_EXCHANGES, _FROM_OUTSIDE = 0.5, 0.7


class Step(NamedTuple):
    """A step on one kind of channel: channels that can do the same in the same time are one kind."""

    cell: int
    rest: int
    kind: int
    minutes: int
    operation: int


class _Way(NamedTuple):
    """What an order costs by the minute in which each cell ends, and how much worse it may be at first and at last."""

    costs: list[list[float]]
    hot: float
    cool: float


class OrderSearch:
    """Looks for more weight by changing the order of steps."""

    def __init__(self, problem: Problem, chance: Chance) -> None:
        self._problem, self._chance = problem, chance
        self._kinds = _kinds_of(problem)
        kind_of = {channel: kind for kind, channels in enumerate(self._kinds) for channel in channels}
        self._kind_of = kind_of
        self._hand_over = problem.hand_over if problem.volunteers is not None else 0
        self._hands = (problem.volunteers or _ENOUGH) if self._hand_over else _ENOUGH
        #: Of each cell, of each operation: the step on each kind of channel.
        self._steps = [
            [
                [
                    Step(number, operation.rest_before if place else 0, kind, minutes, place)
                    for kind, minutes in sorted({(kind_of[channel], minutes) for channel, minutes in operation.options})
                ]
                for place, operation in enumerate(cell.operations)
            ]
            for number, cell in enumerate(problem.cells)
        ]
        self._least = [sum(min(s.minutes for s in each) + each[0].rest for each in steps) for steps in self._steps]
        taken = dict.fromkeys(range(len(problem.channels)), 0)
        for channel, _, end in problem.taken:
            taken[channel] = max(taken[channel], end)
        self._taken_until = taken
        self._first_free = [sorted(taken[channel] for channel in channels) for channels in self._kinds]
        self._ready = [cell.ready for cell in problem.cells]
        self._absent = problem.absent if self._hands < _ENOUGH else ()
        self._begin, self._end = problem.evenings[0].start, problem.evenings[0].end
        self._latest = 2 * self._end
        numbers = range(len(problem.cells))
        self._in_weight = _Way([self._costs_in_weight(number) for number in numbers], *_WEIGHT_WARMTH)
        self._in_minutes = _Way([self._costs_in_minutes(number) for number in numbers], *_MINUTES_WARMTH)

    def _costs_in_weight(self, number: int) -> list[float]:
        """What it costs that a cell ends in a minute, beside that it is not begun: in hundredths of a weight."""
        cell = self._problem.cells[number]
        costs = []
        for minute in range(self._latest + 1):
            counts = 1.0 if minute <= self._end else max(0.0, _LATE - (minute - self._end) * _A_MINUTE)
            promise = _PROMISE if cell.is_first and minute <= self._end else 0.0
            costs.append(_EARLY * minute - 100.0 * cell.weight * counts - promise)
        return costs

    def _costs_in_minutes(self, number: int) -> list[float]:
        """The same in minutes, where a promise is worth more than all weight and one weight more than all minutes."""
        cell = self._problem.cells[number]
        a_weight = float(self._end * len(self._problem.cells) + 1)
        a_promise = a_weight * (1 + sum(each.weight for each in self._problem.cells))
        worth = cell.weight * a_weight + (a_promise if cell.is_first else 0.0)
        return [minute - worth if minute <= self._end else 0.0 for minute in range(self._latest + 1)]

    def lay_out(self, order: Sequence[Step], at: int, starts: list[int]) -> list[int]:
        """Writes the start of each step from place `at` on into `starts`; the minute in which each cell ends.

        What lies before `at` stays as it is.
        """
        free = [each[:] for each in self._first_free]
        ends = self._ready[:]
        hands, hand_over, start = self._hands, self._hand_over, self._begin
        for (cell, _, kind, minutes, _), start in zip(order[:at], starts, strict=False):
            ends[cell] = end = start + minutes
            heapreplace(free[kind], end)
        del starts[at:]
        begun = starts.append
        for place, (cell, rest, kind, minutes, _) in enumerate(order[at:], at):
            channels = free[kind]
            earliest = ends[cell] + rest
            if earliest > start:
                start = earliest
            if channels[0] > start:
                start = channels[0]
            if place >= hands and starts[place - hands] + hand_over > start:
                start = starts[place - hands] + hand_over
            if self._absent:
                start = self._with_a_hand(place, start, starts)
            begun(start)
            ends[cell] = end = start + minutes
            heapreplace(channels, end)
        return ends

    def _with_a_hand(self, place: int, start: int, starts: Sequence[int]) -> int:
        """The minute from which on one of those who are there can begin the next step."""
        hand_over = self._hand_over
        while True:
            away = [until for since, until in self._absent if since < start + hand_over and start < until]
            hands = self._hands - len(away)
            if hands <= 0:
                start = min(away)
            elif place >= hands and starts[place - hands] + hand_over > start:
                start = starts[place - hands] + hand_over
            else:
                return start

    # --- Searching ---------------------------------------------------------------------------------------------------

    def improved(self, plan: Sequence[Row], is_over: Callable[[], float]) -> tuple[Row, ...]:
        """A plan that finishes no less, with more weight where it is found.

        Args:
            plan: Whole cells only.
        """
        kind_of = self._kind_of
        order = [
            next(step for step in self._steps[row.cell][row.operation] if step.kind == kind_of[row.channel])
            for row in sorted(plan, key=lambda row: (row.start, row.operation))
        ]
        order = self._walk(order, lambda: is_over() / _FOR_WEIGHT, self._in_weight)
        order = self._walk(order, lambda: (is_over() - _FOR_WEIGHT) / (1 - _FOR_WEIGHT), self._in_minutes)
        return self._rows(order)

    def _walk(self, order: list[Step], is_over: Callable[[], float], way: _Way) -> list[Step]:
        chance, costs, latest = self._chance, way.costs, self._latest
        starts: list[int] = []
        ends = self.lay_out(order, 0, starts)
        here = sorted({step.cell for step in order})
        cost: float = sum(costs[cell][min(ends[cell], latest)] for cell in here)
        best, least = order, self._counts(here, ends)
        while (share := is_over()) < 1:
            warmth = way.hot * (way.cool / way.hot) ** share
            for _ in range(_AT_ONCE):
                turned = self._turned(order, starts, here)
                if turned is None:
                    continue
                new, new_starts, new_here, at = turned
                ends = self.lay_out(new, at, new_starts)
                after: float = 0.0
                for cell in new_here:
                    end = ends[cell]
                    after += costs[cell][end if end < latest else latest]
                if after <= cost or chance.random() < math.exp((cost - after) / warmth):
                    order, starts, here = new, new_starts, new_here
                    if after < cost and (counts := self._counts(here, ends)) < least:
                        best, least = order, counts
                    cost = after
        return best

    def _counts(self, here: Sequence[int], ends: Sequence[int]) -> tuple[int, int, int]:
        """Promises kept, weight and minutes of those that end in time, the less the better."""
        cells = self._problem.cells
        done = [cell for cell in here if ends[cell] <= self._end]
        kept = sum(cells[cell].is_first for cell in done)
        return -kept, -sum(cells[cell].weight for cell in done), sum(ends[cell] for cell in done)

    def _turned(self, order: list[Step], starts: list[int], here: list[int]) -> _Turned | None:
        chance = self._chance
        if order and chance.random() < _MOVES:
            return self._one_moved(order, starts, here)
        out = [cell for cell in range(len(self._steps)) if cell not in here]
        if len(here) > 1 and chance.random() < _EXCHANGES:
            return self._exchanged(order, starts, here, out)
        return self._in_and_out(order, starts, here, out)

    def _one_moved(self, order: list[Step], starts: list[int], here: list[int]) -> _Turned | None:
        """One step some places earlier or later, never past the cell's others, or on another kind of channel."""
        random = self._chance.random
        at = to = int(random() * len(order))
        step = order[at]
        far = 1 + int(random() * _FARTHEST)
        if random() < 0.5:
            while to > 0 and far and order[to - 1].cell != step.cell:
                to, far = to - 1, far - 1
        else:
            while to < len(order) - 1 and far and order[to + 1].cell != step.cell:
                to, far = to + 1, far - 1
        choices = self._steps[step.cell][step.operation]
        if len(choices) > 1 and random() < _OTHER_KIND:
            step = self._chance.choice(choices)
        elif to == at:
            return None
        new = order[:]
        del new[at]
        new.insert(to, step)
        return new, starts[:], here, min(at, to)

    def _exchanged(self, order: list[Step], starts: list[int], here: list[int], out: list[int]) -> _Turned | None:
        """One cell takes the places of another, that comes to its places or goes off the table."""
        chance = self._chance
        first = chance.choice(here)
        places = [place for place, step in enumerate(order) if step.cell == first]
        if out and chance.random() < _FROM_OUTSIDE:
            second = chance.choice(out)
            steps = self._steps[second]
            more = len(steps) - len(places)
            if more > 0:
                places_of_second = sorted(places + [int(chance.random() * len(order)) for _ in range(more)])
            else:
                places_of_second = sorted(chance.sample(places, len(steps)))
            new, new_starts, waiting = [], [], 0
            for place, (step, start) in enumerate(zip(order, starts, strict=True)):
                while waiting < len(steps) and places_of_second[waiting] == place:
                    new.append(self._on(steps[waiting], step.kind))
                    new_starts.append(start)
                    waiting += 1
                if step.cell != first:
                    new.append(step)
                    new_starts.append(start)
            return new, new_starts, [*(c for c in here if c != first), second], min(places[0], places_of_second[0])
        second = chance.choice(here)
        others = [place for place, step in enumerate(order) if step.cell == second]
        if first == second or len(places) != len(others):
            return None
        new = order[:]
        for one, other in zip(places, others, strict=True):
            new[one] = self._on(self._steps[second][order[other].operation], order[one].kind)
            new[other] = self._on(self._steps[first][order[one].operation], order[other].kind)
        return new, starts[:], here, min(places[0], others[0])

    def _on(self, choices: list[Step], kind: int) -> Step:
        return next((step for step in choices if step.kind == kind), None) or self._chance.choice(choices)

    def _in_and_out(self, order: list[Step], starts: list[int], here: list[int], out: list[int]) -> _Turned:
        """Up to two cells off, up to two onto the table, or one to other times."""
        chance, way = self._chance, self._chance.random()
        off = chance.sample(here, min(len(here), 1 + (chance.random() < 0.33))) if way < 0.7 else []
        on = chance.sample(out, min(len(out), 1 + (chance.random() < 0.33))) if way > 0.2 else []
        if way > 0.85 and here:
            off = [chance.choice(here)]
            on = [*on, *off] if chance.random() < 0.5 else off
        new, new_starts = [], []
        for step, start in zip(order, starts, strict=True):
            if step.cell not in off:
                new.append(step)
                new_starts.append(start)
        at = next((place for place, step in enumerate(order) if step.cell in off), len(new)) if off else len(new)
        for cell in on:
            at = min(at, self._put_in(cell, new, new_starts))
        return new, new_starts, [*(cell for cell in here if cell not in off), *on], at

    def _put_in(self, cell: int, order: list[Step], starts: list[int]) -> int:
        """A cell's steps at some time of the plan, with some time between them; the place of the first."""
        random = self._chance.random
        spare = float(max(self._end - self._least[cell], 0))
        minute = random() * spare
        spare -= minute
        place, first = 0, len(order)
        for choices in self._steps[cell]:
            step = choices[int(random() * len(choices))]
            minute += step.rest
            while place < len(order) and starts[place] <= minute:
                place += 1
            order.insert(place, step)
            starts.insert(place, int(minute))
            first = min(first, place)
            place += 1
            minute += step.minutes
            wait = random() * spare * 0.5
            minute, spare = minute + wait, spare - wait
        return first

    def _rows(self, order: list[Step]) -> tuple[Row, ...]:
        """The plan of an order: without cells that end too late, on the channels of its kind that are free."""
        starts: list[int] = []
        ends = self.lay_out(order, 0, starts)
        late = {step.cell for step, start in zip(order, starts, strict=True) if start + self._hand_over > self._end}
        order = [step for step in order if ends[step.cell] <= self._end and step.cell not in late]
        starts.clear()
        self.lay_out(order, 0, starts)
        free = dict(self._taken_until)
        rows = []
        for step, start in zip(order, starts, strict=True):
            channel = min(self._kinds[step.kind], key=lambda channel: (free[channel] > start, -free[channel]))
            free[channel] = start + step.minutes
            rows.append(Row(step.cell, step.operation, channel, start, start + step.minutes))
        return tuple(sorted(rows, key=lambda row: (row.start, row.channel)))


def _kinds_of(problem: Problem) -> list[list[int]]:
    """Channels by what they can do in which time."""
    options = [dict(operation.options) for cell in problem.cells for operation in cell.operations]
    kinds: dict[tuple[int | None, ...], list[int]] = {}
    for channel in range(len(problem.channels)):
        kinds.setdefault(tuple(each.get(channel) for each in options), []).append(channel)
    return [*kinds.values()]
