"""Evenings for tests: what of a plan breaks a rule, and all plans there are of a few cells."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise, permutations

from zembric.core.evening import Problem, Row, Vector, vector_of


def faults_of(problem: Problem, rows: Sequence[Row]) -> list[str]:
    """Nothing where it can be done."""
    return [*_of_rows(problem, rows), *_of_cells(problem, rows), *_of_hands(problem, rows)]


def _of_rows(problem: Problem, rows: Sequence[Row]) -> Iterator[str]:
    for row in rows:
        takes = dict(problem.cells[row.cell].operations[row.operation].options)
        if takes.get(row.channel) != row.end - row.start:
            yield f"{row} takes another time there"
        if not any(evening.start <= row.start and row.end <= evening.end for evening in problem.evenings):
            yield f"{row} lies in no evening"
        if any(
            other is not row and other.channel == row.channel and row.start <= other.start < row.end for other in rows
        ):
            yield f"{row} is not alone on its channel"


def _of_cells(problem: Problem, rows: Sequence[Row]) -> Iterator[str]:
    for at, cell in enumerate(problem.cells):
        mine = sorted((row for row in rows if row.cell == at), key=lambda row: row.operation)
        if [row.operation for row in mine] != list(range(len(mine))):
            yield f"{cell.key} leaves a step out"
        for before, after in pairwise(mine):
            if after.start < before.end + cell.operations[after.operation].rest_before:
                yield f"{after} begins too early"


def _of_hands(problem: Problem, rows: Sequence[Row]) -> Iterator[str]:
    if problem.volunteers is None:
        return
    starts = [row.start for row in rows]
    for start in starts:
        if sum(other <= start < other + problem.hand_over for other in starts) > problem.volunteers:
            yield f"too many starts at {start}"
        if not any(each.start <= start and start + problem.hand_over <= each.end for each in problem.evenings):
            yield f"nobody is there to hand over at {start}"


def best_of_all(problem: Problem) -> Vector:
    """The best of every way in which whole cells can be laid, each step as early as it goes: every order of all steps, every
    choice of channels. For two or three cells."""
    best = vector_of(problem, [])
    whole = [(at, number) for at, cell in enumerate(problem.cells) for number in range(len(cell.operations))]
    for count in range(1, len(problem.cells) + 1):
        for chosen in permutations(range(len(problem.cells)), count):
            mine = [each for each in whole if each[0] in chosen]
            for order in set(permutations(mine)):
                if all(b[1] > a[1] for i, a in enumerate(order) for b in order[i + 1 :] if a[0] == b[0]):
                    best = min([best, *(vector_of(problem, rows) for rows in _laid(problem, order, []))])
    return best


def _laid(problem: Problem, order: Sequence[tuple[int, int]], rows: list[Row]) -> Iterator[list[Row]]:
    if not order:
        yield rows
        return
    (cell, number), *rest = order
    operation = problem.cells[cell].operations[number]
    ready = max([row.end + operation.rest_before for row in rows if row.cell == cell], default=0)
    for channel, takes in operation.options:
        for start in range(ready, problem.evenings[-1].end):
            row = Row(cell, number, channel, start, start + takes)
            if not [*_of_rows(problem, [*rows, row]), *_of_hands(problem, [*rows, row])]:
                yield from _laid(problem, rest, [*rows, row])
                break
