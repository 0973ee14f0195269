"""Evenings at the testers: plans that can be done, the best of few cells, promises first, and what cannot be meant so."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.support.evenings import best_of_all, faults_of
from zembric.core.evening import EveningRefusedError, Problem, most_weight, vector_of
from zembric.core.evening.search import plan_evenings
from zembric.evening_search import compiled_turns
from zembric.files.evenings import plan_as_json, read_evenings

TESTER = {"id": "T1", "class": "tester", "max_charge_ma": 1000, "max_discharge_ma": 1000, "formats": ["round", "clips"]}
CHARGER = {"id": "L1", "class": "charger", "max_charge_ma": 500, "max_discharge_ma": 0, "formats": ["round"]}


def rounds(count: int) -> Callable[[], float]:
    """Over after so many looks."""
    looks = iter(range(count + 1))
    return lambda: next(looks, count) / count


def cell(key: str, *steps: tuple[str, Any], **more: Any) -> dict[str, Any]:
    held = [
        {"kind": kind, "minutes": minutes, **({} if kind == "rest" else {"leaves_cell": "storage"})}
        for kind, minutes in steps
    ]
    return {"id": key, "format": "round", "steps": held, **more}


def evenings(
    *cells: dict[str, Any], channels: Any = (TESTER, CHARGER), length: int = 120, **more: Any
) -> dict[str, Any]:
    return {
        "id": "one", "evenings": [{"start_minutes": 0, "length_minutes": length}], "channels": list(channels),
        "cells": list(cells), **more,
    }  # fmt: skip


def planned(held: dict[str, Any], looks: int = 60) -> tuple[Problem, Any]:
    problem = read_evenings(held)
    rows = plan_evenings(problem, rounds(looks), 0, compiled_turns())
    assert faults_of(problem, rows) == []
    return problem, vector_of(problem, rows)


WHOLE = (("charge", 20), ("rest", 10), ("discharge", 25), ("rest", 5), ("charge", 9))


def test_the_plan_of_the_page_that_tells_the_rules() -> None:
    """B is promised and weighs two; beside it there is room for A or C, and A ends sooner: 48 + 87."""
    a = cell("A", *WHOLE)
    a["steps"][0]["minutes"], a["steps"][4]["minutes"] = {"tester": 20, "charger": 35}, {"tester": 9, "charger": 15}
    a["steps"][2]["needs_ma"] = 800
    b = cell("B", ("charge", 18), ("rest", 10), ("discharge", 20), weight=2, first=True, format="clips")
    c = cell("C", ("charge", 50), ("rest", 10), ("discharge", 45))
    c["steps"][0]["minutes"] = {"tester": 50, "charger": 70}
    problem, vector = planned(evenings(a, b, c, volunteers=1))
    assert vector == (0, -3, 0, 0, 135)
    assert most_weight(problem) >= 3


STEPS = st.lists(st.integers(5, 40), min_size=1, max_size=2)
CELLS = st.lists(st.tuples(STEPS, st.integers(1, 3), st.booleans(), st.integers(0, 15)), min_size=1, max_size=3)


@settings(max_examples=8, deadline=None)
@given(CELLS, st.sampled_from([None, 1]), st.integers(30, 90))
@example([([28], 1, False, 0), ([31, 5], 1, True, 0), ([32], 1, True, 0)], None, 58)  # two trade their channels
@example([([5], 1, False, 0), ([5, 20], 1, False, 0), ([5, 35], 3, True, 0)], None, 35)  # what is promised does not fit
@example(
    [([23, 37], 2, True, 5), ([32, 27], 1, True, 0), ([17, 24], 3, False, 7)], 1, 84
)  # the other promise brings more
def test_of_few_cells_the_best_of_all_plans_is_found(
    cells: list[tuple[list[int], int, bool, int]], volunteers: int | None, length: int
) -> None:
    held = []
    for at, (minutes, weight, first, rest) in enumerate(cells):
        steps = [("charge", minutes[0])]
        if len(minutes) > 1:
            steps += [("rest", rest)] if rest else []
            steps += [("discharge", minutes[1])]
        held.append(cell(f"C{at}", *steps, weight=weight, first=first))
    whole = evenings(*held, length=length, **({"volunteers": volunteers} if volunteers else {}))
    if any(minutes > length for each in cells for minutes in each[0]):
        with pytest.raises(EveningRefusedError):
            read_evenings(whole)
        return
    problem, vector = planned(whole, 400)
    assert vector == best_of_all(problem)
    assert -vector.less_weight <= most_weight(problem)


def test_who_leaves_begins_nothing_and_what_runs_keeps_its_slot() -> None:
    cells = [cell(f"C{at}", ("charge", 8), ("discharge", 9)) for at in range(9)]
    problem = read_evenings(evenings(*cells, channels=(TESTER, TESTER | {"id": "T2"}), length=90, volunteers=1))
    ready = (replace(problem.cells[0], ready=70), *problem.cells[1:])
    problem = replace(problem, cells=ready, absent=((20, 60),), taken=((0, 0, 15),))
    rows = plan_evenings(problem, rounds(60), 0, compiled_turns())
    assert faults_of(problem, rows) == []
    assert len(rows) >= 6
    assert not [row for row in rows if 18 < row.start < 60 or (row.channel == 0 and row.start < 15)]
    assert not [row for row in rows if row.cell == 0 and row.start < 70]


def test_nothing_runs_over_night_and_nights_count_as_rest() -> None:
    held = evenings(cell("A", ("charge", 50), ("rest", 600), ("discharge", 50)), length=60)
    held["evenings"].append({"start_minutes": 1440, "length_minutes": 60})
    _, vector = planned(held)
    assert vector == (0, -1, 0, 0, 1490)


def test_evenings_years_apart_and_crowds_of_volunteers_are_planned_as_others_are() -> None:
    held = evenings(cell("A", ("charge", 50), ("rest", 600), ("discharge", 50)), length=60, volunteers=10**30)
    held["evenings"].append({"start_minutes": 90_000_000, "length_minutes": 60})
    _, vector = planned(held)
    assert vector == (0, -1, 0, 0, 90_000_050)


def test_a_cell_that_cannot_be_finished_is_not_begun() -> None:
    problem, vector = planned(evenings(cell("A", ("charge", 50), ("rest", 60), ("discharge", 50))))
    assert vector == (0, 0, 0, 0, 0)
    assert plan_as_json("one", problem, ()) == {"id": "one", "schedule": []}


@pytest.mark.parametrize(
    ("changed", "code", "at"),
    [
        ({"cells": [cell("A", *WHOLE), cell("A", *WHOLE)]}, "cell_twice", "A"),
        ({"cells": [cell("A", ("charge", 0))]}, "bad_minutes", "A"), ({"cells": [cell("A", ("charge", -1))]}, "bad_minutes", "A"),
        ({"cells": [cell("A", ("charge", 1.5))]}, "bad_minutes", "A"), ({"cells": [cell("A", ("charge", 10**30))]}, "bad_minutes", "A"),
        ({"cells": [cell("A", ("charge", 5), weight=10**30)]}, "bad_input", "A"), ({"evenings": [{"start_minutes": 0, "length_minutes": 0}]}, "bad_minutes", None),
        ({"cells": [cell("A", ("charge", {"tester": 5, "nobody": 0}))]}, "bad_minutes", "A"),
        ({"cells": [cell("A", ("charge", 5), format="square")]}, "no_channel_fits", "A"),
        ({"cells": [cell("A", ("charge", {"other": 5}))]}, "no_channel_fits", "A"),
        ({"cells": [cell("A", ("charge", 121))]}, "step_too_long", "A"),
        ({"cells": [cell("A", ("rest", 5), ("charge", 5))]}, "bad_input", "A"), ({"cells": [cell("A", ("charge", 5), ("rest", 1))]}, "bad_input", "A"),
        ({"cells": [cell("A", ("charge", 5), ("rest", 1), ("rest", 1), ("charge", 5))]}, "bad_input", "A"),
        ({"cells": [cell("A", ("charge", 5), weight=0)]}, "bad_input", "A"), ({"cells": [cell("A", ("charge", 5), first=1)]}, "bad_input", "A"),
        ({"cells": [cell("A", ("charge", "5"))]}, "bad_input", "A"), ({"cells": None}, "bad_input", None), ({"id": 5}, "bad_input", None),
        ({"volunteers": 0}, "bad_input", None), ({"evenings": [{"start_minutes": 5, "length_minutes": 9}]}, "bad_input", None),
        ({"channels": [{**TESTER, "max_charge_ma": float("nan")}]}, "bad_input", None),
    ],
)  # fmt: skip
def test_what_cannot_be_meant_so_is_refused_with_the_cell_at_fault(
    changed: dict[str, Any], code: str, at: str | None
) -> None:
    with pytest.raises(EveningRefusedError) as refused:
        read_evenings(evenings(cell("A", *WHOLE)) | changed)
    assert (refused.value.code, refused.value.cell) == (code, at)
