"""The training corner: made-up cells of every kind, and the judge's word on a newcomer's."""

from __future__ import annotations

from collections import Counter
from datetime import timedelta
from random import Random

import pytest

from tests.support.stories import RULES, START
from zembric.core.grounds import Grade
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


@pytest.mark.parametrize(
    ("seed", "told", "hours", "grade"),
    [
        (0, ["rated at 2900 mAh.", "Its wrap says 9900 mAh.", "Looked at: nothing found.", "It rested at 3.58 V as found.", "Charged to 4.20 V."], 5, "not-yet"),
        (3, ["rated at 2200 mAh.", "Looked at: nothing found.", "It rested at 3.87 V as found.", "Charged to 4.20 V.", "A tester emptied it: 1636 mAh.", "Its resistance: 59 mΩ by the tester itself."], 25, "B"),
        (4, ["rated at 2200 mAh.", "Looked at: swollen.", "It rested at 3.65 V as found.", "Charged to 4.20 V.", "A tester emptied it: 1288 mAh.", "Its resistance: 103 mΩ by a 1 kHz meter."], 25, "out"),
        (6, ["rated at 2000 mAh.", "Its wrap says 9900 mAh.", "Looked at: nothing found.", "It rested at 3.45 V as found.", "Charged to 4.20 V.", "A tester emptied it: 1373 mAh.", "Its resistance: 78 mΩ 10 s under load."], 25, "B"),
        (7, ["rated at 2600 mAh.", "Its wrap says 9900 mAh.", "Looked at: leaking.", "It rested at 3.48 V as found.", "Charged to 4.20 V.", "A tester emptied it: 2465 mAh.", "Its resistance was not measured: no meter at this table."], 25, "out"),
        (44, ["rated at 2900 mAh.", "Looked at: torn wrap.", "It got a new wrap.", "It rested at 3.52 V as found.", "Charged to 4.20 V.", "A tester emptied it: 2059 mAh.", "Its resistance: 141 mΩ by the tester itself."], 25, "B"),
    ],
)  # fmt: skip
def test_a_story_is_told_as_somebody_at_the_table_would(seed: int, told: list[str], hours: int, grade: str) -> None:
    cell = practice_cell(Random(seed), START)
    assert [say(each).replace("\u00a0", " ").removeprefix("An 18650 out of a laptop, ") for each in cell.told] == told
    assert cell.now - START == timedelta(hours=hours)
    assert hold_against(cell, RULES, "A").judgement.grade == grade


@pytest.mark.parametrize("grade", ["A", "out"])
def test_the_answer_names_both_grades(grade: Grade) -> None:
    words = {"A": "Strong", "B": "Fair", "C": "Gentle", "out": "Out", "not-yet": "Not yet"}
    for seed in range(40):
        answer = hold_against(practice_cell(Random(seed), START), RULES, grade)
        text = say(answer.said)
        assert words[answer.judgement.grade] in text
        if not answer.is_right and answer.judgement.sure != "borderline":
            assert words[grade] in text
