"""Plans by taking some cells off the table and laying them anew, as long as there is time.

Only whole cells are planned: one that cannot be finished brings nothing, and is better not begun. So what is looked for is which
cells, and in which order each finds its earliest places. Some are taken off (at random, of one stretch of time, of one channel) and
laid again with those that are left out, cell by cell or step by step in turn; a worse plan is kept now and then, so that the search
does not stay where it is. Of one evening most of the time goes to the order of steps (`order.py`).
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from zembric.core.evening.model import Row
from zembric.core.evening.order import OrderSearch
from zembric.core.evening.table import Table

if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Sequence

    from zembric.core.evening.model import Cell, Chance, Problem
    from zembric.core.evening.table import Placed

    Plan = dict[int, list[Placed]]

#: Minutes that a channel wanted by others may cost, one of them a turn.
_COSTS = (0.0, 0.0, 4.0, 12.0, 30.0)
#: How much worse a plan may be at first and at last: while weight is looked for in hundredths of one, then in minutes.
_HOT, _COOL, _WARM, _COLD = 10.0, 1.0, 12.0, 0.3
#: For so much of the time weight is looked for, and so many turns are taken between two looks at the clock.
_FOR_WEIGHT, _AT_ONCE = 0.65, 8
#: Of one evening: until when places are looked for, and until when the order of steps is changed.
_BY_PLACES, _BY_ORDER = 0.1, 0.75
_PROMISE = 400.0
#: The larger, the fewer cells are taken off at once.
_FEW = 0.45
#: What a minute later costs while weight is looked for.
_EARLY = 0.1
_MOST_TAKEN, _MOST_LEFT_OUT = 14, 14


def plan_evenings(problem: Problem, is_over: Callable[[], float], chance: Chance) -> tuple[Row, ...]:
    """The best plan that is found.

    Args:
        is_over: Asked now and then for the share of the time that is spent; from 1 on the search ends.
        chance: Where the search tries this and that; with another seed it may find another plan.
    """
    search = _Search(problem, chance)
    search.lay([*range(len(problem.cells))])
    search.remember(search.plan)
    search.run(is_over)
    return search.best_rows()


def most_weight(problem: Problem) -> int:
    """No plan finishes more: by the time of all channels and of all hands, each cell at its shortest."""
    room = sum(evening.end - evening.start for evening in problem.evenings)
    bounds = [sum(cell.weight for cell in problem.cells)]
    shortest = [sum(min(takes for _, takes in op.options) for op in cell.operations) for cell in problem.cells]
    bounds.append(_knapsack(problem, shortest, room * len(problem.channels)))
    if problem.volunteers is not None and problem.hand_over:
        hands = [problem.hand_over * len(cell.operations) for cell in problem.cells]
        bounds.append(_knapsack(problem, hands, room * problem.volunteers))
    return min(bounds)


def _knapsack(problem: Problem, takes: Sequence[int], room: int) -> int:
    """The most weight that fits, the last cell in part, rounded down."""
    order = sorted(range(len(takes)), key=lambda at: takes[at] / problem.cells[at].weight)
    weight = 0.0
    for at in order:
        if takes[at] >= room:
            return math.floor(weight + problem.cells[at].weight * room / takes[at] + 1e-9) if takes[at] else 0
        weight, room = weight + problem.cells[at].weight, room - takes[at]
    return math.floor(weight + 1e-9)


class _Search:
    def __init__(self, problem: Problem, chance: Chance) -> None:
        self._problem, self._chance = problem, chance
        self._table = Table(problem)
        self.plan: Plan = {}
        self._horizon = self._table.length
        self._tonight = problem.evenings[0].end + 1
        self._clock = [self._table.clock(minute) for minute in range(self._horizon)]
        self._ready = [self._table.from_clock(cell.ready) for cell in problem.cells]
        self._tails = [self._tails_of(cell) for cell in problem.cells]
        self._wanted = self._how_wanted()
        self._free = [0.0] * len(problem.channels)
        self._costs = self._free
        self._work = [sum(min(takes for _, takes in op.options) for op in cell.operations) for cell in problem.cells]
        # One promise outweighs all weight, one weight a whole plan of waiting.
        self._weight_minutes = float(2 * self._clock[-1] * len(problem.cells) + 2)
        self._promise = self._weight_minutes * (1 + sum(cell.weight for cell in problem.cells))
        self._best_cost = math.inf
        self._best: Plan = {}

    def _tails_of(self, cell: Cell) -> list[int]:
        """After each operation what at least is still to come; rests count where no night can swallow them."""
        is_one = len(self._problem.evenings) == 1
        tails, after = [], 0
        for operation in reversed(cell.operations):
            tails.append(after)
            after += min(minutes for _, minutes in operation.options) + (operation.rest_before if is_one else 0)
        return tails[::-1]

    def _how_wanted(self) -> list[float]:
        """Of each channel how much of the work has little choice but it, from 0 to 1."""
        load = [0.0] * len(self._problem.channels)
        for cell in self._problem.cells:
            for operation in cell.operations:
                for channel, takes in operation.options:
                    load[channel] += takes / len(operation.options)
        most = max(load, default=0.0) or 1.0
        return [each / most for each in load]

    # --- Laying ------------------------------------------------------------------------------------------------------

    def lay(self, cells: Sequence[int]) -> list[int]:
        """Lays cells one after another, each wholly or not at all; those that were laid."""
        return [cell for cell in cells if self._lay_one(cell)]

    def _lay_one(self, cell: int) -> bool:
        # What was promised for tonight is better late than never.
        if self._problem.cells[cell].is_first and self._lay_before(cell, self._tonight):
            return True
        return self._lay_before(cell, self._horizon)

    def _lay_before(self, cell: int, before: int) -> bool:
        table, ready = self._table, self._ready[cell]
        placed: list[Placed] = []
        for operation, tail in zip(self._problem.cells[cell].operations, self._tails[cell], strict=True):
            if placed:
                ready = table.ready(ready, operation.rest_before)
            found = table.place(operation, ready, self._costs, before - tail)
            if found is None:
                for each in placed:
                    table.take(each)
                return False
            table.put(found)
            placed.append(found)
            ready = found[2]
        self.plan[cell] = placed
        return True

    def _lay_in_turn(self, cells: Sequence[int]) -> list[int]:
        """Lays step by step, whoever is ready first; a cell that cannot go on goes off again."""
        chance, table = self._chance, self._table
        under_way: Plan = {cell: [] for cell in cells}
        ahead = {cell: chance.uniform(0, 20) for cell in cells}
        done = []
        while ahead:
            cell = min(ahead, key=ahead.__getitem__)
            placed, operations = under_way[cell], self._problem.cells[cell].operations
            operation = operations[len(placed)]
            before = self._tonight if self._problem.cells[cell].is_first else self._horizon
            ready = table.ready(placed[-1][2], operation.rest_before) if placed else self._ready[cell]
            found = table.place(operation, ready, self._costs, before - self._tails[cell][len(placed)])
            if found is None:
                for each in placed:
                    table.take(each)
                del ahead[cell]
                continue
            table.put(found)
            placed.append(found)
            if len(placed) == len(operations):
                self.plan[cell] = placed
                done.append(cell)
                del ahead[cell]
            else:
                ahead[cell] = found[2] + operations[len(placed)].rest_before + chance.uniform(-15, 15)
        return done

    def _take_off(self, cell: int) -> list[Placed]:
        placed = self.plan.pop(cell)
        for each in placed:
            self._table.take(each)
        return placed

    def _put_back(self, cell: int, placed: list[Placed]) -> None:
        for each in placed:
            self._table.put(each)
        self.plan[cell] = placed

    # --- Searching ---------------------------------------------------------------------------------------------------

    def run(self, is_over: Callable[[], float]) -> None:
        """First more weight is looked for, where a lost cell is borne for a while; then the best plan is made to end early."""
        if not self._problem.cells:
            return
        is_one = len(self._problem.evenings) == 1
        by_places, until = (_BY_PLACES, _BY_ORDER) if is_one else (_FOR_WEIGHT, _FOR_WEIGHT)
        self._walk(lambda: is_over() / by_places, self._cost_of_weight, _HOT, _COOL)
        if is_one:
            self._by_order(lambda: (is_over() - by_places) / (until - by_places))
        self._go_to(self._best)
        self._walk(lambda: (is_over() - until) / (1 - until), self._cost_of_time, _WARM, _COLD)

    def _by_order(self, is_over: Callable[[], float]) -> None:
        plan: Plan = {}
        for row in OrderSearch(self._problem, self._chance).improved(self.best_rows(), is_over):
            placed = (
                row.channel,
                self._table.from_clock(row.start),
                self._table.from_clock(row.start) + row.end - row.start,
            )
            plan.setdefault(row.cell, []).append(placed)
        self.remember(plan)

    def _walk(
        self,
        is_over: Callable[[], float],
        cost_of: Callable[[int, list[Placed] | None], float],
        first: float,
        last: float,
    ) -> None:
        chance, plan = self._chance, self.plan
        while (share := is_over()) < 1:
            warmth = first * (last / first) ** share
            for _ in range(_AT_ONCE):
                taken = {cell: self._take_off(cell) for cell in self._chosen()}
                left_out = self._left_out(taken)
                before = sum(cost_of(cell, placed) for cell, placed in taken.items())
                before += sum(cost_of(cell, None) for cell in left_out)
                self._costs = self._free if chance.random() < 0.5 else [w * chance.choice(_COSTS) for w in self._wanted]
                laid = self._lay_again([*taken], left_out)
                after = sum(cost_of(cell, plan.get(cell)) for cell in (*taken, *left_out))
                if after <= before or chance.random() < math.exp((before - after) / warmth):
                    if after < before:
                        self.remember(plan)
                    continue
                for cell in laid:
                    self._take_off(cell)
                for cell, placed in taken.items():
                    self._put_back(cell, placed)

    def _go_to(self, plan: Plan) -> None:
        for cell in [*self.plan]:
            self._take_off(cell)
        for cell, placed in plan.items():
            self._put_back(cell, placed)

    def _left_out(self, taken: Collection[int]) -> list[int]:
        out = [cell for cell in range(len(self._problem.cells)) if cell not in self.plan and cell not in taken]
        return self._chance.sample(out, _MOST_LEFT_OUT) if len(out) > _MOST_LEFT_OUT else out

    def _lay_again(self, taken: list[int], left_out: list[int]) -> list[int]:
        """Those that were taken off and those that are left out, in one of several orders."""
        chance, cells = self._chance, self._problem.cells
        order = taken + left_out
        way = chance.random()
        if way < 0.4:
            chance.shuffle(order)
        elif way < 0.7:
            order.sort(key=lambda cell: self._work[cell] / cells[cell].weight * chance.uniform(0.7, 1.3))
        else:
            order.sort(key=lambda cell: -self._work[cell] * chance.uniform(0.7, 1.3))
        order.sort(key=lambda cell: not cells[cell].is_first)
        if chance.random() < 0.5:
            return self.lay(order)
        laid = self._lay_in_turn(taken)
        return laid + self.lay([cell for cell in order if cell not in self.plan])

    def _chosen(self) -> list[int]:
        """Which cells are taken off: any, those of a stretch of time, or those of a channel."""
        chance, here = self._chance, list(self.plan)
        if not here:
            return []
        most = min(len(here), _MOST_TAKEN, 2 + len(here) // 3)
        count = min(most, 1 + int(chance.expovariate(_FEW)))
        way = chance.random()
        if way < 0.4:
            return chance.sample(here, count)
        if way < 0.75:
            about = chance.choice(self.plan[chance.choice(here)])
            middle = (about[1] + about[2]) / 2
            near = {cell: min(abs((start + end) / 2 - middle) for _, start, end in self.plan[cell]) for cell in here}
            return sorted(here, key=lambda cell: near[cell] + chance.uniform(0, 10))[:count]
        channel = chance.choice(self.plan[chance.choice(here)])[0]
        mine = [cell for cell in here if any(each[0] == channel for each in self.plan[cell])]
        return chance.sample(mine, min(count, len(mine)))

    def _cost_of_weight(self, cell: int, placed: list[Placed] | None) -> float:
        """In hundredths of a weight: promises, weight, and a little for ending early, which leaves room for others."""
        held = self._problem.cells[cell]
        if placed is None:
            return _PROMISE if held.is_first else 0.0
        end = placed[-1][2]
        late = _PROMISE if held.is_first and end >= self._tonight else 0.0
        return late + _EARLY * end - 100.0 * held.weight

    def _cost_of_time(self, cell: int, placed: list[Placed] | None) -> float:
        """In minutes: promises, then weight, then finishing times."""
        held = self._problem.cells[cell]
        if placed is None:
            return self._promise if held.is_first else 0.0
        end = placed[-1][2]
        late = self._promise if held.is_first and end >= self._tonight else 0.0
        return late + self._clock[end] - held.weight * self._weight_minutes

    def remember(self, plan: Plan) -> None:
        cost = sum(self._cost_of_time(cell, plan.get(cell)) for cell in range(len(self._problem.cells)))
        if cost < self._best_cost:
            self._best_cost, self._best = cost, dict(plan)

    def best_rows(self) -> tuple[Row, ...]:
        rows = [
            Row(cell, at, channel, self._clock[start], self._clock[end])
            for cell, placed in self._best.items()
            for at, (channel, start, end) in enumerate(placed)
        ]
        return tuple(sorted(rows, key=lambda row: (row.start, row.channel)))
