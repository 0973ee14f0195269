"""The training corner: made-up cells of every kind, and the judge's word on a newcomer's."""

from __future__ import annotations

from collections import Counter
from random import Random

from tests.support.stories import RULES, START
from zembric.core.judge.practice import hold_against, practice_cell
from zembric.wording import say


def test_made_up_cells_come_in_every_grade_and_the_same_seed_gives_the_same() -> None:
    grades = Counter(
        hold_against(practice_cell(Random(seed), START), RULES, "A").judgement.grade for seed in range(300)
    )
    assert set(grades) == {"A", "B", "C", "out", "not-yet"}
    assert min(grades.values()) >= 15
    assert practice_cell(Random(7), START) == practice_cell(Random(7), START)


def test_everything_the_judge_goes_by_is_told() -> None:
    """What is told has a sentence for the cell, one for a claim, and one for each event."""
    for seed in range(100):
        cell = practice_cell(Random(seed), START)
        assert len(cell.told) == 1 + (cell.story.facts.claimed_capacity_mah is not None) + len(cell.story.events)


def test_a_newcomers_grade_is_right_or_told_what_the_judge_says() -> None:
    for seed in range(60):
        cell = practice_cell(Random(seed), START)
        right = hold_against(cell, RULES, "A").judgement.grade
        assert hold_against(cell, RULES, right).is_right
        other = hold_against(cell, RULES, "out" if right != "out" else "A")
        assert not other.is_right
        assert say(other.said).startswith("The judge says")
