"""The house rules: a school is chosen with its reason, and every cell is judged by it at once."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor, voltage
from zembric.core.errors import BadInputError, ChangedMeanwhileError, NotAllowedError
from zembric.operations import entries, house_rules
from zembric.operations.actors import Actor
from zembric.operations.cells import cell_story


def test_another_school_judges_every_cell_anew_and_the_old_judgements_stay(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    low, fine = numbers_of(open_donor(session, volunteer, 2))
    for number, value in ((low, "2.7"), (fine, "3.7")):
        entries.inspect(session, volunteer, number, [], at())
        voltage(session, volunteer, number, value, at(minutes=1))
    changed = house_rules.set_rules(session, coordinator, 1, "strict", "health", "no time to supervise", at(1))
    assert changed == 1
    story = cell_story(session, low, at(1))
    assert (story.listed.step, story.judgements[-1].rule_set_version, story.judgements[-2].next_step) == (
        "out-box", 2, "recover",
    )  # fmt: skip
    assert cell_story(session, fine, at(1)).listed.step == "charge"
    assert house_rules.all_versions(session)[0].why == "no time to supervise"


def test_rules_need_a_coordinator_a_reason_a_school_and_the_newest_version(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    with pytest.raises(NotAllowedError):
        house_rules.set_rules(session, volunteer, 1, "strict", "health", "because", at())
    for school, grades, why in (("lax", "health", "because"), ("strict", "luck", "because"), ("strict", "health", " ")):
        with pytest.raises(BadInputError):
            house_rules.set_rules(session, coordinator, 1, school, grades, why, at())
    house_rules.set_rules(session, coordinator, 1, "strict", "health", "because", at())
    with pytest.raises(ChangedMeanwhileError):
        house_rules.set_rules(session, coordinator, 1, "thrifty", "health", "because", at())
