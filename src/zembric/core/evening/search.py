"""Plans by changing an order of steps a little, again and again, as long as there is time.

Only whole cells are planned: one that cannot be finished brings nothing, and is better not begun. First promises are looked for, with
nothing on the table but cells that were promised; then weight, where a lost cell is borne for a while; then the best plan is made to
end early. An order that is worse is kept now and then, the less often the more time is over, so the search does not stay where it is.
Several can search side by side: promises are looked for together, and whoever finds another one's order better goes on from that; then
each goes its own way, as they find more in different places.
"""

from __future__ import annotations

import math
from threading import Lock
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from zembric.core.evening.order import empty_order, room_for, rows_of, table_of
from zembric.core.evening.shapes import Cost, Order, Worth

if TYPE_CHECKING:
    from collections.abc import Callable

    from zembric.core.evening.model import Problem, Row
    from zembric.core.evening.native import Turns
    from zembric.core.evening.shapes import Whole

#: Until when promises are looked for at most, and weight; so many turns between two looks at the clock, so many looks between two at the others.
_FOR_PROMISES, _FOR_WEIGHT, _AT_ONCE, _LOOKS = 0.1, 0.5, 500, 40
#: So many numbers by chance are drawn for them; whoever needs more begins with the first one again.
_DRAWN = 4096
#: How much worse an order may be at first and at last, in hundredths of a promise.
_PROMISES_WARMTH = (30.0, 2.0)
#: What a promise counts while promises are looked for, in hundredths of one.
_PROMISE = 10_000.0
#: What a late cell counts of its weight or promise, and what of that promise each minute costs.
_LATE, _A_MINUTE_OF_PROMISE = 0.99, 0.01
#: How much worse an order may be while weight is looked for, in hundredths of one, and what of a late cell's weight each minute costs,
#: both at first and at last, for every other of those who search in company: by trial one finds what the other does not. Where there
#: are several evenings, colder and bearing late cells longer is better; in a single one it is worse.
_IN_ONE_EVENING = (((12.0, 3.0), (0.06, 0.03)), ((12.0, 3.0), (0.04, 0.015)))
_IN_SEVERAL = (((12.0, 3.0), (0.06, 0.03)), ((6.0, 1.5), (0.015, 0.0075)))


#: So long every other of them looks for the most weight in the first evening, where there are several, before the others are filled
#: around that; and how much worse an order may be then. Of more cells than that all of the time is needed for the weight.
_FOR_TONIGHT, _AROUND_TONIGHT, _MOST_FOR_TONIGHT = 0.15, (3.0, 1.5), 80
#: What of a night is taken off the clock while weight is looked for in several evenings.
_OF_A_NIGHT = 0.8
#: While an early end is looked for in several: what each minute after the first evening costs of the night that a cell saves by ending
#: in it, at first and at last.
_TONIGHT_A_MINUTE = (1 / 60, 1 / 10)
#: Until when that is so: then it is a night again, and every promise counts, not only those that were kept before.
_SLOPE_UNTIL = 0.85


class _Early(NamedTuple):
    """How an early end is looked for. All minutes are those that all cells wait together."""

    #: How many minutes worse an order may be, at first and at last.
    warmth: tuple[float, float]
    #: What a late cell costs, and each minute of it at first and at last.
    late: float
    a_minute: tuple[float, float]


#: The way from one full table to another leads through some that are a few minutes too full. With several evenings more is at stake: in
#: which of them a cell ends.
_EARLY_IN_ONE, _EARLY_IN_SEVERAL = _Early((20.0, 2.0), 2.0, (3.0, 20.0)), _Early((100.0, 3.0), 10.0, (10.0, 60.0))
#: While weight is looked for a promise that can be kept is not given up, but may be late for a while: other plans that keep it are not
#: reached otherwise. What that costs, and each minute of it, in hundredths of a weight.
_LATE_PROMISE, _LATE_PROMISE_A_MINUTE = 10.0, 12.0
#: What a minute later costs while something else is looked for, as it leaves room for others.
_EARLY = 0.01


class Company:
    """Where those who search for the same plan see how far the others are."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._told: dict[int, tuple[Worth, Order]] = {}

    def tell(self, who: int, worth: Worth, held: Order) -> list[Order]:
        """What one of them holds; the orders of the others who are as far."""
        # What a minute and a late cell count tells whether another one still looks for the same: promises, weight, an early end.
        with self._lock:
            of_others = [
                _copied(order)
                for other, (counted, order) in self._told.items()
                if other != who and counted.minute == worth.minute and counted.late == worth.late
            ]
            mine = _copied(held) if who not in self._told else self._told[who][1]
            _copy(held, mine)
            self._told[who] = worth, mine
            return of_others


def _copied(order: Order) -> Order:
    return Order(order.places.copy(), order.length.copy(), order.has.copy())


def _copy(source: Order, target: Order) -> None:
    for of_source, of_target in zip(source, target, strict=True):
        of_target[:] = of_source


def plan_evenings(
    problem: Problem, is_over: Callable[[], float], seed: int, turns: Turns, company: Company | None = None
) -> tuple[Row, ...]:
    """The best plan that is found.

    Args:
        is_over: Asked now and then for the share of the time that is spent; from 1 on the search ends.
        seed: With another one the search may find another plan.
        turns: What is compiled of the search.
        company: Shared by those who search at once, each with a seed of its own.
    """
    if not problem.cells:
        return ()
    search = _Search(problem, seed, turns, company or Company())
    search.run(is_over)
    return search.rows()


class _Search:
    def __init__(self, problem: Problem, seed: int, turns: Turns, company: Company) -> None:
        self._problem, self._seed, self._turns, self._company = problem, seed, turns, company
        patience, self._early = (
            (_IN_SEVERAL, _EARLY_IN_SEVERAL) if len(problem.evenings) > 1 else (_IN_ONE_EVENING, _EARLY_IN_ONE)
        )
        self._patience = patience[seed % 2]
        self._table = table_of(problem)
        self._random, self._chance = np.random.default_rng(seed), np.zeros(1 + _DRAWN)
        self._held, self._tried, self._best = (empty_order(self._table) for _ in range(3))
        self._room = room_for(self._table)
        self._scratch = np.zeros(2 * len(problem.cells) + len(self._table.operations), np.int64)
        self._cost = Cost(np.zeros(1), np.zeros(1))
        self._weight = np.array([cell.weight for cell in problem.cells], float)
        self._promised = np.array([cell.is_first for cell in problem.cells])
        #: Promises that are known to be kept together.
        self._kept = np.zeros_like(self._promised)
        self._truth = self._in_truth()

    def run(self, is_over: Callable[[], float]) -> None:
        begun = 0.0
        if self._promised.any():
            promises = self._in_promises()
            self._walk(
                lambda: self._has_kept_all() or is_over() / _FOR_PROMISES,
                lambda _share: promises,
                *_PROMISES_WARMTH,
                is_together=True,
            )
            self._hold(self._best, promises)
            ends = self._room.ends
            self._kept = self._promised & self._held.has & (ends <= self._table.evenings[0].end)
            begun = min(is_over(), _FOR_WEIGHT)
        warmth, _ = self._patience
        if len(self._problem.evenings) > 1 and self._seed % 2 and len(self._problem.cells) <= _MOST_FOR_TONIGHT:
            begun = self._look_for_tonight(is_over, warmth)
            warmth = _AROUND_TONIGHT
        self._walk(
            lambda: (is_over() - begun) / max(_FOR_WEIGHT - begun, 1e-6), self._in_weight, *warmth, is_together=False
        )
        self._walk(
            lambda: (is_over() - _FOR_WEIGHT) / (1 - _FOR_WEIGHT),
            self._in_minutes,
            *self._early.warmth,
            is_together=False,
        )

    def _look_for_tonight(self, is_over: Callable[[], float], warmth: tuple[float, float]) -> float:
        """As if there were no other evening; the share of the time that was spent then."""
        begun = is_over()
        self._walk(lambda: (is_over() - begun) / _FOR_TONIGHT, self._in_tonight, *warmth, is_together=False)
        return is_over()

    def rows(self) -> tuple[Row, ...]:
        return rows_of(self._problem, self._table, self._best, self._room, self._turns)

    def _walk(
        self,
        is_over: Callable[[], float],
        worth_at: Callable[[float], Worth],
        first: float,
        last: float,
        *,
        is_together: bool,
    ) -> None:
        """From the best order on; put onto the table is what the worth counts."""
        _copy(self._best, self._held)
        looks, warmth = 0, np.zeros(1)
        while (share := is_over()) < 1:
            if looks % _LOOKS == 0:
                worth = worth_at(share)
                may = worth.weight + worth.promise > 0
                self._hold(self._held, worth)
                for order in self._company.tell(self._seed, worth, self._held) if is_together else ():
                    self._hold_if_better(order, worth)
                take_turns = self._turns.take_turns(
                    _AT_ONCE, warmth, self._table, may, worth, self._truth, self._held, self._best,
                    self._cost, self._tried, self._room, self._scratch, self._chance,
                )  # fmt: skip
            looks += 1
            warmth[0], self._chance[0] = first * (last / first) ** share, 0
            self._random.random(out=self._chance[1:])
            take_turns()

    def _hold(self, order: Order, worth: Worth) -> None:
        if order is not self._held:
            _copy(order, self._held)
        self._turns.hold(self._table, worth, self._held, self._cost, self._room)

    def _hold_if_better(self, order: Order, worth: Worth) -> None:
        before, cost = _copied(self._held), self._cost.held[0]
        self._hold(order, worth)
        if self._cost.held[0] >= cost:
            self._hold(before, worth)

    def _has_kept_all(self) -> bool:
        return bool(-self._cost.best[0] >= self._a_promise * self._promised.sum())

    # --- What an order is worth ----------------------------------------------------------------------------------------

    def _in_promises(self) -> Worth:
        nothing = np.zeros_like(self._weight)
        return Worth(
            _EARLY, self._nights(), 0.0, 0.0, _LATE, _A_MINUTE_OF_PROMISE, nothing, _PROMISE * self._promised, math.inf,
        )  # fmt: skip

    def _in_weight(self, share: float) -> Worth:
        """In hundredths of a weight, with so much of the time for it spent."""
        promise = 100.0 * (1 + self._weight.sum())
        _, (first, last) = self._patience
        return Worth(
            _EARLY, (_OF_A_NIGHT * self._nights()).astype(np.int64), _LATE, first * (last / first) ** share,
            1 - _LATE_PROMISE / promise, _LATE_PROMISE_A_MINUTE / promise, 100.0 * self._weight, promise * self._kept, math.inf,
        )  # fmt: skip

    def _in_tonight(self, share: float) -> Worth:
        """In hundredths of a weight, of cells that end in the first evening."""
        worth = self._in_weight(share)
        return worth._replace(
            offsets=self._nights(), weight=np.zeros_like(self._weight), promise=worth.weight + worth.promise,
            promise_late=_LATE, promise_a_minute=worth.a_minute,
        )  # fmt: skip

    def _in_minutes(self, share: float) -> Worth:
        """In truth, but cells may be late for a while, though with them there is never more weight than in the best plan so far."""
        first, last = self._early.a_minute
        a_minute, late = first * (last / first) ** share, self._early.late
        worth = self._truth._replace(
            late=1 - late / self._a_weight, a_minute=a_minute / self._a_weight,
            most=self._a_weight * self._weight[self._best.has].sum(),
        )  # fmt: skip
        if len(self._table.evenings) == 1 or share > _SLOPE_UNTIL:
            return worth
        # Whoever ends after the first evening loses a night: all at once, and nothing would tell which cell is nearest to it.
        night, (first, last) = self._nights()[1], _TONIGHT_A_MINUTE
        offsets = np.full(len(self._table.evenings), night)
        offsets[0] = 0
        return worth._replace(
            offsets=offsets, promise=self._a_promise * self._kept + float(night), promise_late=_LATE,
            promise_a_minute=first * (last / first) ** share,
        )  # fmt: skip

    def _in_truth(self) -> Worth:
        """In minutes: one promise outweighs all weight, one weight a whole plan of waiting."""
        self._a_weight = a_weight = float(self._table.evenings[-1].end * len(self._weight) + 1)
        self._a_promise = a_weight * (1 + self._weight.sum())
        clock = np.zeros(len(self._table.evenings), np.int64)
        return Worth(
            1.0, clock, 0.0, 0.0, 0.0, 0.0, a_weight * self._weight, self._a_promise * self._promised, math.inf
        )

    def _nights(self) -> Whole:
        """What is taken off the clock so that evenings lie end to end."""
        evenings = self._table.evenings
        nights: Whole = evenings.begin - np.concatenate([[0], np.cumsum(evenings.end - evenings.begin)[:-1]])
        return nights
