"""Evenings at the testers: our plan beside first come first served, shortest first and a general solver.

    PYTHONPATH=src python bench/evening.py [SECONDS]

The general solver is CP-SAT with all steps as optional intervals; it needs requirements-bench.txt and stays away without. It gets
thirty times our seconds. Columns: promises not kept, weight finished, sum of finishing times.
"""

from __future__ import annotations

import importlib
import importlib.util
import sys
from random import Random
from time import monotonic

from zembric.core.evening import Cell, Channel, Evening, Operation, Problem, Row, Vector, vector_of
from zembric.core.evening.order import empty_order, room_for, rows_of, table_of
from zembric.evening_search import compiled_turns, search_until

FORMATS = frozenset({"round"})
#: Name, cells, testers, chargers, evenings, volunteers, seed.
CASES = (
    ("6 cells, 2 slots", 6, 1, 1, 1, 1, 1), ("10 cells, 4 slots", 10, 2, 2, 1, 1, 2), ("16 cells, 6 slots", 16, 4, 2, 1, 2, 3),
    ("24 cells, 8 slots", 24, 4, 4, 1, 1, 4), ("24 cells, 2 evenings", 24, 3, 2, 2, 1, 5), ("42 cells, 8 slots", 42, 6, 2, 1, 2, 6),
    ("60 cells, 3 evenings", 60, 6, 4, 3, 2, 7), ("150 cells, 3 evenings", 150, 12, 8, 3, 3, 8),
)  # fmt: skip


def problem_of(cells: int, testers: int, chargers: int, evenings: int, volunteers: int, seed: int) -> Problem:
    chance = Random(seed)
    channels = [Channel(f"T{n}", "tester", 1000, 1000, FORMATS) for n in range(testers)]
    channels += [Channel(f"L{n}", "charger", 500, 0, FORMATS) for n in range(chargers)]
    both, only = range(testers + chargers), range(testers)

    def charge(step: int, rest: int, minutes: int) -> Operation:
        slow = round(minutes * 1.6)
        return Operation(step, rest, tuple((at, minutes if at < testers else slow) for at in both), "full")

    def discharge(step: int, rest: int, minutes: int) -> Operation:
        return Operation(step, rest, tuple((at, minutes) for at in only), "empty")

    made = []
    for at in range(cells):
        steps: tuple[Operation, ...]
        kind, size = chance.random(), chance.randint(12, 60)
        if kind < 0.5:
            steps = (
                charge(0, 0, size),
                discharge(2, chance.choice((10, 20, 30)), size),
                charge(4, chance.choice((5, 10)), size // 2 + 4),
            )
        elif kind < 0.8:
            steps = (discharge(0, 0, size), charge(2, 10, size))
        else:
            steps = (charge(0, 0, size),)
        made.append(Cell(f"C{at}", chance.choice((1, 1, 1, 2, 3)), chance.random() < 0.08, steps))
    days = tuple(Evening(1440 * day, 1440 * day + chance.choice((120, 150, 180))) for day in range(evenings))
    return Problem(days, tuple(channels), tuple(made), 2, volunteers)


def in_order(problem: Problem, order: list[int]) -> Vector:
    """What a channel and a hand are free for first is begun first, where it ends soonest; of several the first of the order. Nobody
    looks ahead: what does not end in time was begun in vain, and counts as not begun."""
    turns, table = compiled_turns(), table_of(problem)
    laid, room = empty_order(table), room_for(table)
    waits = {
        cell: iter(range(table.cells[cell].first, table.cells[cell].first + table.cells[cell].count)) for cell in order
    }
    following = {cell: next(waits[cell]) for cell in order}
    while following:
        place, choices = int(laid.length[0]), []
        laid.length[0] += 1
        for rank, (cell, operation) in enumerate(following.items()):
            first = table.operations[operation].first
            for step in range(first, first + table.operations[operation].count):
                laid.places[place].step = step
                turns.lay_out(table, laid, room)
                start = int(laid.places[place].start)
                choices.append((start, rank, start + int(table.steps[step].minutes), step, cell))
        start, _, _, step, cell = min(choices)
        laid.places[place].step = step
        turns.lay_out(table, laid, room)
        if start >= problem.evenings[-1].end:
            laid.length[0] -= 1
            break
        after = next(waits[cell], None)
        if after is None:
            del following[cell]
        else:
            following[cell] = after
    return vector_of(problem, rows_of(problem, table, laid, room, turns))


def by_solver(problem: Problem, seconds: float) -> tuple[Vector, bool]:
    """By CP-SAT, with whether it is proved."""
    sat = importlib.import_module("ortools.sat.python.cp_model")
    model, horizon = sat.CpModel(), problem.evenings[-1].end
    rows: list[tuple[int, int, int, object, object, int]] = []
    on: dict[int, list[object]] = {at: [] for at in range(len(problem.channels))}
    hands, done, ends, late = [], [], [], []
    for number, cell in enumerate(problem.cells):
        is_done, before = model.NewBoolVar(""), None
        for place, operation in enumerate(cell.operations):
            start, end, chosen = model.NewIntVar(0, horizon, ""), model.NewIntVar(0, horizon, ""), []
            for channel, takes in operation.options:
                is_here = model.NewBoolVar("")
                starts = sat.Domain.FromIntervals(
                    [
                        [e.start, e.end - max(takes, problem.hand_over)]
                        for e in problem.evenings
                        if e.end - e.start >= max(takes, problem.hand_over)
                    ]
                )
                model.AddLinearExpressionInDomain(start, starts).OnlyEnforceIf(is_here)
                model.Add(end == start + takes).OnlyEnforceIf(is_here)
                on[channel].append(model.NewOptionalIntervalVar(start, takes, start + takes, is_here, ""))
                chosen.append(is_here)
                rows.append((number, place, channel, start, is_here, takes))
            model.Add(sum(chosen) == is_done)
            hands.append(model.NewOptionalIntervalVar(start, problem.hand_over, start + problem.hand_over, is_done, ""))
            if before is not None:
                model.Add(start >= before + operation.rest_before).OnlyEnforceIf(is_done)
            before = end
        finish = model.NewIntVar(0, horizon, "")
        model.Add(finish == before).OnlyEnforceIf(is_done)
        model.Add(finish == 0).OnlyEnforceIf(is_done.Not())
        done.append(is_done)
        ends.append(finish)
        if cell.is_first:
            is_late = model.NewBoolVar("")
            model.Add(finish <= problem.evenings[0].end).OnlyEnforceIf(is_late.Not())
            model.AddImplication(is_late.Not(), is_done)
            late.append(is_late)
    for intervals in on.values():
        model.AddNoOverlap(intervals)
    if problem.volunteers is not None:
        model.AddCumulative(hands, [1] * len(hands), problem.volunteers)
    weight = horizon * len(problem.cells) + 1
    total = sum(cell.weight for cell in problem.cells) + 1
    model.Minimize(
        weight * total * sum(late)
        - weight * sum(c.weight * d for c, d in zip(problem.cells, done, strict=True))
        + sum(ends)
    )
    solver = sat.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    status = solver.Solve(model)
    if status not in (sat.OPTIMAL, sat.FEASIBLE):
        return vector_of(problem, []), False
    plan = [Row(c, o, ch, solver.Value(s), solver.Value(s) + t) for c, o, ch, s, here, t in rows if solver.Value(here)]
    return vector_of(problem, plan), status == sat.OPTIMAL


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 2.0
    has_solver = importlib.util.find_spec("ortools") is not None
    print(f"{'evening':24}{'as they come':>20}{'shortest first':>20}{'ours':>20}{'solver':>24}")
    for name, *shape in CASES:
        problem = problem_of(*shape)
        order = list(range(len(problem.cells)))
        work = [sum(min(t for _, t in op.options) for op in cell.operations) for cell in problem.cells]
        ours = vector_of(problem, search_until(problem, monotonic() + seconds, 0))
        told = [in_order(problem, order), in_order(problem, sorted(order, key=lambda at: work[at])), ours]
        line = f"{name:24}" + "".join(f"{v.first_not_tonight:6}{-v.less_weight:6}{v.sum_finish:8}" for v in told)
        if has_solver:
            vector, is_proved = by_solver(problem, 30 * seconds)
            line += f"{vector.first_not_tonight:6}{-vector.less_weight:6}{vector.sum_finish:8} {'proved' if is_proved else ''}"
        print(line, flush=True)


if __name__ == "__main__":
    main()
