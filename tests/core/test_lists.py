"""Lists that were kept elsewhere: their columns, their lines, and everything that is wrong with them."""

from __future__ import annotations

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError
from zembric.core.lists import TEMPLATE_HEADER, guess_columns, read_list
from zembric.wording import say

KINDS = frozenset({"laptop", "unknown"})


@pytest.mark.parametrize(
    ("header", "column", "unit"),
    [
        ("Cell", "label", None), ("No.", "label", None), ("#", "label", None), ("ID", "label", None),
        ("Device", "donor", None), ("came out of", "donor", None), ("Kind", "donor_kind", None),
        ("Size", "size", None), ("Format", "size", None), ("Chemistry", "family", None), ("Chem.", "family", None),
        ("Capacity (mAh)", "capacity_mah", "mah"), ("Capacity [Ah]", "capacity_mah", "ah"), ("mAh", "capacity_mah", "mah"),
        ("Rated mAh", "rated_mah", "mah"), ("Nominal capacity", "rated_mah", None), ("Printed mAh", "claimed_mah", "mah"),
        ("Voltage in mV", "voltage_v", "mv"), ("OCV", "voltage_v", None), ("U0 (V)", "voltage_v", "v"),
        ("IR mOhm", "resistance_mohm", "mohm"), ("Resistance (Ω)", "resistance_mohm", "ω"), ("ESR", "resistance_mohm", None),
        ("Weight (g)", "mass_g", "g"), ("Condition", "findings", None), ("Remarks", "note", None),
        ("Bought where", None, None), ("", None, None),
    ],
)  # fmt: skip
def test_a_column_is_recognised_with_its_unit(header: str, column: str | None, unit: str | None) -> None:
    guess = guess_columns([header])[0]
    assert (guess.column, guess.unit) == (column, unit)


def test_the_templates_own_columns_are_all_recognised_and_each_once() -> None:
    columns = [guess.column for guess in guess_columns(TEMPLATE_HEADER)]
    assert None not in columns
    assert len(set(columns)) == len(TEMPLATE_HEADER)


def _read(header: str, *lines: str) -> tuple[list[object], list[tuple[int, str, str]]]:
    rows = [line.split(";") for line in (header, *lines)]
    found = read_list(rows, guess_columns(rows[0]), KINDS, RULES)
    return list(found.cells), [(problem.line, problem.header, say(problem.said)) for problem in found.problems]


def test_units_are_brought_to_ours_and_amounts_taken_as_they_are_said() -> None:
    rows = [
        ["Cell", "Capacity [Ah]", "Voltage in mV", "Resistance (Ω)", "Chem."],
        ["7", "about 2,3", "3710", "0.045", "INR"],
    ]
    cell = read_list(rows, guess_columns(rows[0]), KINDS, RULES).cells[0]
    capacity, volts, ohms = cell.capacity_mah, cell.voltage_v, cell.resistance_mohm
    assert capacity
    assert volts
    assert ohms
    assert (capacity.value, capacity.half_width, volts.value, ohms.value) == pytest.approx((2300, 115, 3.71, 45))
    assert cell.family == "layered-oxide"


def test_every_problem_is_named_by_line_and_column_and_not_only_the_first() -> None:
    _, problems = _read(
        "Cell;Size;Voltage;Capacity (mAh);Kind;Findings",
        "1;18650;3.7;2300;laptop;",
        "1;18650;3.7;2300;laptop;",
        "3;18-50;37;lots;laptop;",
        ";;;;;",
        "5;18650;-3.7;2300;spaceship;sparkles",
    )
    assert sorted((line, header) for line, header, _ in problems) == [
        (3, "Cell"), (4, "Capacity (mAh)"), (4, "Size"), (4, "Voltage"), (6, "Findings"), (6, "Kind"), (6, "Voltage"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("header", "lines", "says"),
    [
        ("Cell;Size", (), "no line below"),
        ("What;Ever", ("1;2",), "No column is recognised"),
    ],
)
def test_a_list_of_nothing_is_refused(header: str, lines: tuple[str, ...], says: str) -> None:
    with pytest.raises(BadInputError, match=says):
        _read(header, *lines)
