"""The house's own values: which hold for a cell, which cannot be, and what a change comes to in words."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support.stories import RULES, a_story
from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.house.rules import (
    EDITABLE,
    SWITCHES,
    HouseRules,
    SpecialRule,
    check_rules,
    differences,
    read_values,
)
from zembric.wording import say

A = limits.HEALTH_PCT.a


def test_size_goes_before_family_and_family_before_the_general() -> None:
    rules = replace(
        RULES,
        values={A.key: 81.0},
        special=(
            SpecialRule({A.key: 83.0}, size_code="18650"),
            SpecialRule({A.key: 82.0}, family=Family.LAYERED_OXIDE),
        ),
    )
    flat, iron = a_story(size="603048").facts, a_story(size="603048", family=Family.IRON_PHOSPHATE).facts
    assert [rules.for_cell(facts).value(A) for facts in (iron, flat, a_story().facts)] == [81, 82, 83]


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"voltage_school": "lax"}, "voltage_school"),
        ({"grade_school": "luck"}, "grade_school"),
        ({"values": {"health_pct/D": 10.0}}, "health_pct/D"),
        ({"values": {"over_full_v": 0.2}}, "over_full_v"),  # what protects people is no matter of taste
        ({"values": {A.key: float("nan")}}, A.key),
        ({"values": {A.key: -1.0}}, A.key),
        ({"values": {A.key: 60.0}}, A.key),  # below B
        ({"values": {"sure_from": 1.5}}, "sure_from"),
        ({"values": {"watch_mv_per_day": 6.0}}, "watch_mv_per_day"),
        ({"special": (SpecialRule({A.key: 82.0}),)}, "special"),
        ({"special": (SpecialRule({A.key: 60.0}, size_code="18650"),)}, A.key),
        ({"switches": {"glue": "yes"}}, "switches"),
        ({"switches": {"joining": "glue"}}, "joining"),
    ],
)
def test_rules_that_cannot_be_are_refused_by_name(changed: dict[str, object], field: str) -> None:
    with pytest.raises(BadInputError) as refused:
        check_rules(replace(RULES, **changed))  # type: ignore[arg-type]
    assert refused.value.field == field


@given(st.sampled_from(sorted(EDITABLE)))
def test_a_value_that_is_as_usual_is_no_change(key: str) -> None:
    assert check_rules(replace(RULES, values={key: EDITABLE[key].value})) == check_rules(RULES)


def test_a_change_is_told_in_words() -> None:
    after = check_rules(
        HouseRules(
            2, "strict", "health", {A.key: 85.0}, (SpecialRule({"no_sheet_c": 0.5}, size_code="18650"),),
            {"vape-cells": "single-use"},
        )
    )  # fmt: skip
    told = [say(change) for change in differences(check_rules(RULES), after)]
    assert told[0] == "first voltage: usual → strict"
    assert "measured over rated capacity, at least for Strong: 80 → 85\u00a0%" in told
    assert any(line.startswith("for 18650: ") for line in told)
    assert told[-1].endswith("Only one by one")
    assert differences(after, after) == ()


def test_values_are_typed_with_comma_or_point_and_empty_is_as_usual() -> None:
    assert read_values({A.key: "82,5", "sag_v": "0.25", "heat_18650_w": " "}) == {A.key: 82.5, "sag_v": 0.25}
    with pytest.raises(BadInputError) as refused:
        read_values({A.key: "much"})
    assert refused.value.field == A.key


def test_every_switch_has_its_usual_choice_among_its_choices() -> None:
    assert all(switch.usual in switch.choices and len(switch.choices) > 1 for switch in SWITCHES.values())
