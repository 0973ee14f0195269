"""Matching for the longest run instead of the strongest weakest group.

At 2 or 3 C a cell with a poor contact gives only part of what it holds before its group falls to the cut-off; groups that
are even in capacity then run two thirds of what the same cells can. What each cell gives at this load is worked out beside
cells of the mean (`given_mah`), groups are made even in that, and then cells are exchanged by the run times of the groups
themselves. Never below what capacity alone brings.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import combinations, islice
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.errors import BadInputError
from zembric.core.match.listed import can_be_listed, latest_first_end, list_groups
from zembric.core.match.match import alternatives, weakest_group_bound_mah
from zembric.core.match.model import Match, MatchCell, as_group, check_pool
from zembric.core.run import Curve, Load, OverTime, RunCell, RunPack, group_times, load_over_time, run_times
from zembric.core.said import Amount, said

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping, Sequence

    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Rows = list[list[int]]

#: By these shares of the time capacity alone, then what cells give, has been matched; the rest exchanges.
_CAPACITY_UNTIL, _GIVEN_UNTIL = 0.2, 0.4
#: Until here the best of all groups is looked for where they can be listed; what that leaves open is exchanged.
_PROVED_UNTIL = 0.8
#: Exchanges that are tried for the group that ends first, the most promising first; more where none of them helps.
_TRIED, _TRIED_HARD = 12, 60
_TURNS = 400
#: So often the search begins again from where so many chance exchanges lead.
_KICKS, _KICKED = 10, 2
#: So many groupings are all tried, so many at once.
_ALL_TRIED, _AT_ONCE = 3000, 300
#: A run that is longer by less than this share is not longer.
_LONGER = 1e-6
_MOMENTS = 120
_SETTLES = 8


class LoadTooLargeError(BadInputError):
    """A power that no pack of these cells carries at the first moment; `most_w` is the most that could be."""

    code = "load-too-large"

    def __init__(self, power_w: float, most_w: float):
        super().__init__(said("load-is-too-large", power=Amount(power_w, "W"), most=Amount(most_w, "W")), field="load")
        self.most_w = most_w


@dataclass(frozen=True, slots=True)
class Duty:
    """What a pack of full cells of one chemistry is to carry, down to a cut-off of a group [V]."""

    curve: Curve
    load: Load
    cutoff_v: float


@dataclass(frozen=True, slots=True)
class RunMatch:
    """Groups for the longest run [s], beside those that capacity alone makes and what a pack of equal mean cells would do."""

    match: Match
    seconds: float
    by_capacity: Match
    by_capacity_seconds: float
    ideal_seconds: float
    #: Proved: no grouping of these cells runs longer [s]; None: nothing is proved.
    bound_seconds: float | None = None


def match_on_run(
    cells: Sequence[MatchCell],
    series: int,
    parallel: int,
    duty: Duty,
    *,
    seed: int = 0,
    time_used: Callable[[], float] = lambda: 0.0,
) -> RunMatch:
    """Deals series x parallel of the cells so that the pack runs as long as it can.

    Raises:
        BadInputError: a shape, a cell or a load that cannot be, or a cell without a resistance.
        LoadTooLargeError: a power that no pack of these cells carries.
        TooFewCellsError: fewer cells than the shape needs.
    """
    check_pool(cells, series, parallel)
    cells = sorted(cells, key=lambda cell: (-cell.capacity_mah, cell.capacity_u_mah, cell.key))
    _check(cells, series, parallel, duty)
    (strongest, *_) = alternatives(
        cells, series, parallel, (0.0,), seed=seed, time_used=lambda: time_used() / _CAPACITY_UNTIL
    )
    search = _Search(cells, series, parallel, duty)
    by_capacity = search.rows_of(strongest.match)
    by_capacity_s = search.pack_seconds(by_capacity)
    best, best_s = by_capacity, by_capacity_s
    search.look_at(by_capacity)
    given = search.given(by_capacity)
    if given.any():
        instead = [replace(cell, capacity_mah=float(mah)) for cell, mah in zip(cells, given, strict=True)]
        (even, *_) = alternatives(
            instead, series, parallel, (0.0,), seed=seed,
            time_used=lambda: (time_used() - _CAPACITY_UNTIL) / (_GIVEN_UNTIL - _CAPACITY_UNTIL),
        )  # fmt: skip
        rows = search.rows_of(even.match)
        seconds = search.pack_seconds(rows)
        if seconds > best_s:
            best, best_s = rows, seconds
    bound_s = None
    if _ways(len(cells), series, parallel) <= _ALL_TRIED:
        best, best_s, is_whole = search.best_of_all((best, best_s), time_used)
        bound_s = best_s if is_whole else None
    else:
        if duty.load.kind == "current" and can_be_listed(len(cells), parallel):
            best, best_s, bound_s = search.proved((best, best_s), lambda: time_used() / _PROVED_UNTIL)
        if bound_s is None or best_s < bound_s * (1 - _LONGER):
            best, best_s = search.improved((best, best_s), given, np.random.default_rng(seed), time_used)
    capacities = np.array([cell.capacity_mah for cell in cells])
    bound_mah = weakest_group_bound_mah(capacities, series, parallel)
    return RunMatch(
        search.answer(best, bound_mah), best_s, strongest.match, by_capacity_s, max(search.ideal_seconds(best), best_s),
        bound_s,
    )  # fmt: skip


def _check(cells: Sequence[MatchCell], series: int, parallel: int, duty: Duty) -> None:
    if not (np.isfinite(duty.load.value) and duty.load.value > 0):
        raise BadInputError(said("load-above-zero"), code="bad-load", field="load")
    full_v = duty.curve.ocv_v[-1]
    if not 0 < duty.cutoff_v < full_v:
        raise BadInputError(said("cut-off-below-full", full=Amount(full_v, "V", 2)), field="cutoff_v")
    for cell in cells:
        if cell.resistance_mohm is None:
            raise BadInputError(said("run-needs-resistance", key=cell.key), code="no-resistance", field="ir_mohm")
    if duty.load.kind == "power":
        # Each cell gives at most U^2 / 4 r, whatever it is joined to.
        each_w = sorted((full_v**2 / 4 * 1000 / (cell.resistance_mohm or 1) for cell in cells), reverse=True)
        most_w = sum(each_w[: series * parallel])
        if duty.load.value > most_w:
            raise LoadTooLargeError(duty.load.value, most_w)


def _ways(cells: int, series: int, parallel: int) -> int:
    """In how many ways so many of the cells can be dealt into groups."""
    used = series * parallel
    ways: int = (
        math.comb(cells, used) * math.factorial(used) // math.factorial(parallel) ** series // math.factorial(series)
    )
    return ways


def _groupings(cells: tuple[int, ...], series: int, parallel: int) -> Iterator[Rows]:
    """Each of them."""
    if not series:
        yield []
        return
    for group in combinations(cells, parallel):
        rest = tuple(cell for cell in cells if cell > group[0] and cell not in group)
        for others in _groupings(rest, series - 1, parallel):
            yield [list(group), *others]


class _Search:
    """Rows of cells as groups, and how long they run."""

    def __init__(self, cells: Sequence[MatchCell], series: int, parallel: int, duty: Duty) -> None:
        self._cells, self._series, self._parallel, self._duty = cells, series, parallel, duty
        self._curves: Mapping[str, Curve] = {"all": duty.curve}
        self._run_cells = [RunCell(c.key, "all", max(c.capacity_mah, 1e-3), c.resistance_mohm or 1, 1.0) for c in cells]
        self._place = {cell.key: index for index, cell in enumerate(cells)}
        self._over_time = OverTime(np.array([0.0, 1.0]), np.zeros(2), np.zeros(2))
        self._seconds = 0.0

    def rows_of(self, match: Match) -> Rows:
        return [[self._place[key] for key in group.keys] for group in match.groups]

    def answer(self, rows: Rows, bound_mah: float) -> Match:
        groups = sorted(
            (as_group([self._cells[index] for index in row]) for row in rows),
            key=lambda group: (-group.capacity_mah, group.keys),
        )
        used = {index for row in rows for index in row}
        left = sorted(
            (cell for index, cell in enumerate(self._cells) if index not in used),
            key=lambda cell: (-cell.capacity_mah, cell.capacity_u_mah, cell.key),
        )
        weakest = min(group.capacity_mah for group in groups)
        return Match(tuple(groups), max(bound_mah, weakest), tuple(cell.key for cell in left))

    def pack_seconds(self, rows: Rows) -> float:
        """How long the pack of these groups runs [s]."""
        return float(run_times(self._curves, [self._groups(rows)], self._duty.load, self._duty.cutoff_v)[0])

    def ideal_seconds(self, rows: Rows) -> float:
        """How long [s] as many equal cells would run that hold and conduct as much as these in the mean."""
        used = [self._run_cells[index] for row in rows for index in row]
        mean = RunCell(
            "mean", "all", sum(cell.capacity_mah for cell in used) / len(used),
            len(used) / sum(1 / cell.resistance_mohm for cell in used), 1.0,
        )  # fmt: skip
        pack = [[mean] * self._parallel] * self._series
        return float(run_times(self._curves, [pack], self._duty.load, self._duty.cutoff_v)[0])

    def look_at(self, rows: Rows) -> None:
        """Takes the load over time from the pack of these groups."""
        pack = RunPack(self._curves, self._groups(rows), self._duty.load, self._duty.cutoff_v)
        self._seconds, self._over_time = load_over_time(pack)

    def times(self, rows: Rows) -> Floats:
        """How long each group lasts [s] under the load that was looked at."""
        return group_times(self._curves, self._groups(rows), self._over_time, self._duty.cutoff_v)

    def _groups(self, rows: Rows) -> list[list[RunCell]]:
        return [[self._run_cells[index] for index in row] for row in rows]

    def given(self, rows: Rows) -> Floats:
        """What each cell gives [mAh] in the time that was looked at, beside groups of the mean of these.

        Cells of the mean set the voltage over time, from full to the cut-off; each cell follows it behind its resistance.
        """
        used = [self._run_cells[index] for row in rows for index in row]
        mean_as = 3.6 * sum(cell.capacity_mah for cell in used) / len(used)
        mean_ohm = len(used) / sum(1000 / cell.resistance_mohm for cell in used)
        soc_points, ocv_points = np.array(self._duty.curve.soc), np.array(self._duty.curve.ocv_v)
        charge_as = 3.6 * np.array([cell.capacity_mah for cell in self._run_cells])
        ohm = np.array([cell.resistance_mohm for cell in self._run_cells]) / 1000
        soc, mean_soc = np.ones(len(ohm)), 1.0
        step_s = 2 * max(self._seconds, 1.0) / _MOMENTS
        slopes = np.append(np.diff(ocv_points) / np.diff(soc_points), 0)
        slopes[-1] = slopes[-2]
        for moment in range(_MOMENTS):
            share_a = float(self._over_time.at(np.array([(moment + 0.5) * step_s]))[0][0]) / self._parallel
            mean_soc -= share_a * step_s / mean_as
            group_v = float(np.interp(mean_soc, soc_points, ocv_points)) - mean_ohm * share_a
            if group_v <= self._duty.cutoff_v or mean_soc <= 0:
                break
            # Backward in time, so that cells of little resistance stay with the voltage; lines are found in a few rounds.
            after = soc
            for _ in range(_SETTLES):
                line = np.clip(np.searchsorted(soc_points, after, side="right") - 1, 0, len(slopes) - 2)
                start = ocv_points[line] - slopes[line] * soc_points[line]
                pull = step_s / (ohm * charge_as)
                after = (soc - pull * (start - group_v)) / (1 + pull * slopes[line])
            soc = after
        given: Floats = np.maximum(charge_as * (1 - soc) / 3.6, 0)
        return given

    def proved(self, best: tuple[Rows, float], time_used: Callable[[], float]) -> tuple[Rows, float, float | None]:
        """The grouping that ends latest, of all groups there are at this current, and what none exceeds [s]."""
        groups = list_groups(len(self._cells), self._parallel)
        seconds = []
        for first in range(0, len(groups), _AT_ONCE):
            if time_used() >= 1:
                return *best, None
            packs = [[[self._run_cells[index] for index in group]] for group in groups[first : first + _AT_ONCE]]
            seconds.append(run_times(self._curves, packs, self._duty.load, self._duty.cutoff_v))
        times = np.concatenate(seconds)
        found = latest_first_end(groups, times, len(self._cells), self._series, best[1], lambda: time_used() >= 1)
        if found.rows is not None:
            best = found.rows, self.pack_seconds(found.rows)
        return *best, max(found.bound_s, best[1])

    def best_of_all(self, best: tuple[Rows, float], time_used: Callable[[], float]) -> tuple[Rows, float, bool]:
        """The grouping that runs longest, of all there are; False: the time ran out first."""
        every = _groupings(tuple(range(len(self._cells))), self._series, self._parallel)
        while (some := list(islice(every, _AT_ONCE))) and time_used() < 1:
            seconds = run_times(
                self._curves, [self._groups(rows) for rows in some], self._duty.load, self._duty.cutoff_v
            )
            longest = int(seconds.argmax())
            if seconds[longest] > best[1] * (1 + _LONGER):
                best = some[longest], float(seconds[longest])
        return *best, not some

    def improved(
        self, best: tuple[Rows, float], given: Floats, rng: np.random.Generator, time_used: Callable[[], float]
    ) -> tuple[Rows, float]:
        """Exchanges from there, then again from where some chance exchanges lead."""
        for kick in range(1 + _KICKS):
            if time_used() >= 1:
                break
            self.look_at(best[0])
            rows = self.exchanged(best[0] if kick == 0 else self._kicked(best[0], rng), given, time_used)
            seconds = self.pack_seconds(rows)
            if seconds > best[1] * (1 + _LONGER):
                best = rows, seconds
        return best

    def _kicked(self, rows: Rows, rng: np.random.Generator) -> Rows:
        """A few cells of the groups that end first exchanged with others by chance."""
        kicked = [list(row) for row in rows]
        order = np.argsort(self.times(kicked), kind="stable")
        for group in order[:_KICKED].tolist():
            other = int(rng.choice([each for each in range(len(rows)) if each != group] or [group]))
            at, there = rng.integers(self._parallel, size=2)
            kicked[group][at], kicked[other][there] = kicked[other][there], kicked[group][at]
        return kicked

    def exchanged(self, rows: Rows, given: Floats, time_used: Callable[[], float]) -> Rows:
        """Cells of the group that ends first exchanged for others, as long as that makes the first end later."""
        here, times = [list(row) for row in rows], self.times(rows)
        for _ in range(_TURNS):
            found = None
            for tried in (_TRIED, _TRIED_HARD):
                if time_used() >= 1:
                    return here
                found = self._best_exchange(here, times, given, tried)
                if found is not None:
                    break
            if found is None:
                break
            here, times = found
        return here

    def _best_exchange(self, rows: Rows, times: Floats, given: Floats, tried: int) -> tuple[Rows, Floats] | None:
        """The exchange after which the earlier of the two groups ends latest, of those that promise most."""
        first = int(times.argmin())
        sums = np.array([given[row].sum() for row in rows])
        per_mah = times / np.maximum(sums, 1e-9)
        used = np.zeros(len(given), dtype=bool)
        used[[index for row in rows for index in row]] = True
        places = [(group, at) for group, row in enumerate(rows) if group != first for at in range(len(row))]
        others = np.array([rows[group][at] for group, at in places] + np.flatnonzero(~used).tolist(), dtype=np.intp)
        group_of = np.array([group for group, _ in places] + [-1] * (len(others) - len(places)), dtype=np.intp)
        mine = np.array(rows[first], dtype=np.intp)
        gains = given[others][None, :] - given[mine][:, None]
        promise = per_mah[first] * (sums[first] + gains)
        theirs = np.where(group_of >= 0, per_mah[group_of] * (sums[group_of] - gains), np.inf)
        least = np.minimum(promise, theirs)
        order = np.argsort(-least, axis=None, kind="stable")[:tried]
        chosen = [divmod(int(flat), len(others)) for flat in order]
        changed: Rows = []
        for at, other in chosen:
            changed.append([*rows[first][:at], int(others[other]), *rows[first][at + 1 :]])
            group = int(group_of[other])
            changed.append(
                changed[-1] if group < 0 else [int(mine[at]) if cell == others[other] else cell for cell in rows[group]]
            )
        ends = self.times(changed).reshape(-1, 2)
        best = int(ends.min(axis=1).argmax())
        if ends[best].min() <= times[first] * (1 + _LONGER):
            return None
        _, other = chosen[best]
        after, after_times = [list(row) for row in rows], times.copy()
        after[first], after_times[first] = changed[2 * best], ends[best, 0]
        group = int(group_of[other])
        if group >= 0:
            after[group], after_times[group] = changed[2 * best + 1], ends[best, 1]
        return after, after_times
