"""House values stand in one place and hold everywhere: no number of its own in the core, and none that goes round the rules."""

from __future__ import annotations

import ast
from collections.abc import Iterator, Mapping
from pathlib import Path

import pytest

from zembric.core.house import limits
from zembric.core.house.limits import ALL_LIMITS, Density, GradeSteps, Kind, Limit
from zembric.core.house.rules import EDITABLE

PACKAGE = Path(limits.__file__).parents[2]
#: Counting, units, rounding and halves: numbers that nobody could set otherwise.
ARITHMETIC = {
    0,
    0.5,
    1,
    2,
    3,
    4,
    5,
    6,
    7,
    8,
    9,
    10,
    12,
    20,
    24,
    30,
    40,
    60,
    100,
    1000,
    3600,
    1e-12,
    1e-9,
    1e-6,
    1e6,
}
#: Modules whose other numbers are no house values, and what they are.
NOT_OF_THE_HOUSE = {
    "families.py": "tables of open-circuit voltage, generic shapes",
    "sizes.py": "sizes of cells by their standard names, in millimetres",
    "labels.py": "paper sizes and label sheets",
    "conductors.py": "the definition of the wire gauge, and an exponent",
    "numbering.py": "the base of the check digit",
    "donor_clues.py": "nominal voltages as they are printed, and where minutes become hours",
    "lists.py": "how much of a list is taken, and a factor of units",
    "resistors.py": "the row of resistors that are sold, and their ratings",
    "search.py": "how far and how warm a search is taken",
    "shapes.py": "how far apart the states of a search are kept, and how two numbers share one",
    "turns.py": "how often a search takes which turn",
    "propose.py": "what weighs how much in a search, and how far it is taken",
    "readings.py": "how near to a whole group more or less a reading is taken for one, and what is next to nothing",
    "charge_left.py": "at which shares of the energy voltages are told",
    "charging.py": "points of a drawn curve",
    "joining.py": "points of a drawn curve",
    "self_discharge.py": "points of a drawn line",
    "entry_checks.py": "between which voltages a slip of the point is looked for",
    "methods.py": "which of two errors is named as the larger",
    "uncertainty.py": "the middle voltage of a cell, for the weight of an error",
    "formulas.py": "percent of the mean of two",
    "inputs.py": "beyond which nothing on a bench is measured",
    "simulation.py": "the made-up cell",
    "practice.py": "the made-up cell",
    "simulated.py": "the made-up tester",
    "programs.py": "how long a pulse and the rests round it are, and factors of units",
    "run.py": "how near to a limit a row is at it, and how long a stage is given to begin",
    "on_paper.py": "how many moments are told, how many packs are drawn within what the figures leave open, and between which shares they end",
}


def _modules() -> Iterator[Path]:
    for path in sorted((PACKAGE / "core").rglob("*.py")):
        # Reading a log, searching a grouping and following a run are full of numbers of their own craft.
        if path.name != "limits.py" and not {"traces", "match", "run"} & set(path.parts):
            yield path


@pytest.mark.parametrize("path", tuple(_modules()), ids=lambda path: path.name)
def test_a_number_of_the_house_stands_in_the_limits(path: Path) -> None:
    found = {
        node.value
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.value not in ARITHMETIC
    }
    assert not found or path.name in NOT_OF_THE_HOUSE


def _of(value: object) -> Iterator[Limit]:
    if isinstance(value, Limit):
        yield value
    elif isinstance(value, GradeSteps):
        yield from (value.a, value.b, value.c)
    elif isinstance(value, Density):
        yield from (value.doubtful, value.impossible)
    elif isinstance(value, Mapping):
        for each in value.values():
            yield from _of(each)


def _name(node: ast.expr) -> str | None:
    if isinstance(node, ast.Subscript):
        return _name(node.value)
    return node.attr if isinstance(node, ast.Attribute) else node.id if isinstance(node, ast.Name) else None


def test_no_code_goes_round_the_rules_to_a_value_that_a_house_may_set() -> None:
    settable = {
        name
        for name, value in vars(limits).items()
        if name.isupper() and name != "ALL_LIMITS" and any(limit.key in EDITABLE for limit in _of(value))
    }
    around = [
        f"{path.name}:{node.lineno} {_name(node.value)}"
        for path in sorted(PACKAGE.rglob("*.py"))
        if path.name != "limits.py"
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Attribute) and node.attr == "value" and _name(node.value) in settable
    ]
    assert around == []


def test_every_house_value_can_be_set_or_says_that_it_protects_people() -> None:
    for limit in ALL_LIMITS.values():
        assert (limit.key in EDITABLE) == (limit.kind is Kind.HOUSE and not limit.fixed)
        assert limit.source
        assert limit.group
        assert limit.bounds is None or limit.bounds[0] <= limit.value <= limit.bounds[1]
