"""A cell's story out of one house and into another, or back again."""

from __future__ import annotations

import json

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, shelf_of
from tests.support.judged_stories import CASES
from zembric.core.errors import BadInputError
from zembric.core.judge.judge import judge
from zembric.core.story import RestingVoltage, Story
from zembric.files.stories import read_story, write_story
from zembric.models import CellRow
from zembric.operations.actors import Actor
from zembric.operations.cells.judged import story_of
from zembric.operations.cells.stories import get_cell
from zembric.operations.known.rules import rules_in_force
from zembric.operations.papers.taking_in import take_in_story


def story_here(session: Session, cell: CellRow) -> Story:
    return story_of(session, cell)


def test_a_cell_taken_along_and_in_again_is_judged_the_same(session: Session, volunteer: Actor) -> None:
    (number,) = shelf_of(session, volunteer, [2080])
    first = get_cell(session, number)
    written = json.dumps(write_story(story_here(session, first), rules_in_force(session), at(3))).encode()
    second = take_in_story(session, volunteer, read_story(written).story, "the other house", at(3))
    assert second.number != number
    assert first.judgement
    assert second.judgement
    assert (second.judgement.grade, second.judgement.sure, second.judgement.next_step) == (
        first.judgement.grade, first.judgement.sure, first.judgement.next_step,
    )  # fmt: skip
    assert second.judgement.capacity_u_mah == pytest.approx(first.judgement.capacity_u_mah)


@pytest.mark.parametrize(
    "name",
    [name for name, case in CASES.items() if case[1].voltage_school == "usual" and case[1].grade_school == "health"],
)
def test_every_kind_of_event_goes_in_and_out_unchanged(session: Session, volunteer: Actor, name: str) -> None:
    """The rules in force here are the usual ones, so what a file is judged is what the cell is judged."""
    story, rules, now, *_ = CASES[name]
    cell = take_in_story(session, volunteer, story, "a file", now)
    assert cell.judgement
    said = judge(story, rules, now)
    assert (cell.judgement.grade, cell.judgement.sure, cell.judgement.next_step) == (
        said.grade,
        said.sure,
        said.next_step.code,
    )
    assert len(story_here(session, cell).events) == len(story.events)


def test_what_lies_in_the_future_or_cannot_be_kept_is_refused(session: Session, volunteer: Actor) -> None:
    story = CASES["nothing known"][0]
    for event, told in (
        (RestingVoltage(at(5), 3.7, 0.01), "future"),
        (RestingVoltage(at(1), -3.7, 0.01), "below zero"),
    ):
        with pytest.raises(BadInputError, match=told):
            take_in_story(session, volunteer, Story(story.facts, story.donor_kind, (event,)), "a file", at(2))
