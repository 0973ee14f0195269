"""The house rules: a school is chosen with its reason, and every cell is judged by it at once."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, capacity, charge, numbers_of, open_donor, voltage
from zembric.core.errors import BadInputError, ChangedMeanwhileError, NotAllowedError
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules, SpecialRule
from zembric.core.said import from_json
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.cells.stories import cell_story
from zembric.operations.house import rules
from zembric.wording import say


def test_another_school_judges_every_cell_anew_and_the_old_judgements_stay(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    low, fine = numbers_of(open_donor(session, volunteer, 2))
    for number, value in ((low, "2.7"), (fine, "3.7")):
        entries.inspect(session, volunteer, number, [], at())
        voltage(session, volunteer, number, value, at(minutes=1))
    changed = rules.set_rules(session, coordinator, 1, HouseRules(0, "strict", "health"), "no time to supervise", at(1))
    assert changed == 1
    story = cell_story(session, low, at(1))
    assert (story.listed.step, story.judgements[-1].rule_set_version, story.judgements[-2].next_step) == (
        "out-box", 2, "recover",
    )  # fmt: skip
    assert cell_story(session, fine, at(1)).listed.step == "charge"
    assert rules.all_versions(session)[0].why == "no time to supervise"


def test_rules_need_a_coordinator_a_reason_a_school_and_the_newest_version(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    with pytest.raises(NotAllowedError):
        rules.set_rules(session, volunteer, 1, HouseRules(0, "strict", "health"), "because", at())
    for school, grades, why in (("lax", "health", "because"), ("strict", "luck", "because"), ("strict", "health", " ")):
        with pytest.raises(BadInputError):
            rules.set_rules(session, coordinator, 1, HouseRules(0, school, grades), why, at())  # type: ignore[arg-type]
    rules.set_rules(session, coordinator, 1, HouseRules(0, "strict", "health"), "because", at())
    with pytest.raises(ChangedMeanwhileError):
        rules.set_rules(session, coordinator, 1, HouseRules(0, "thrifty", "health"), "because", at())


def graded(session: Session, who: Actor, mah: str) -> str:
    """A cell rated at 2600 mAh with a whole set of measurements."""
    (number,) = numbers_of(open_donor(session, who))
    entries.inspect(session, who, number, [], at())
    voltage(session, who, number, "3.7", at(minutes=1))
    charge(session, who, number, "4.2", at(hours=2))
    capacity(session, who, number, mah, at(1))
    entries.skip(session, who, number, "resistance", "no meter tonight", at(1))
    return number


def test_a_preview_tells_what_other_values_would_change_and_keeps_nothing(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    """75 % and 55 % of the rated capacity: B and C by the usual steps of 65 and 50 %."""
    better, worse = graded(session, volunteer, "1950"), graded(session, volunteer, "1430")
    stricter = HouseRules(0, "usual", "health", {"health_pct/B": 76, "health_pct/C": 60})
    found = rules.preview_rules(session, stricter, at(1))
    assert (found.cells, found.changed) == (2, 2)
    assert {(change.number, change.before, change.after) for change in found.first} == {
        (better, "B", "C"), (worse, "C", "out"),
    }  # fmt: skip
    assert cell_story(session, better, at(1)).judgements[-1].grade == "B"
    assert rules.set_rules(session, coordinator, 1, stricter, "only the good ones", at(1)) == found.changed
    judged = cell_story(session, better, at(1)).judgements[-1]
    assert judged.grade == "C"
    assert say(from_json(judged.reasons[0]["limit"]["source"])) == "house rules, version 2"


def test_a_special_rule_holds_for_its_family_only_and_comes_back_from_the_database(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    number = graded(session, volunteer, "1950")
    for family, grade in ((Family.IRON_PHOSPHATE, "B"), (Family.LAYERED_OXIDE, "C")):
        seen = rules.all_versions(session)[0].version
        special = (SpecialRule({"health_pct/B": 76}, family=family),)
        rules.set_rules(session, coordinator, seen, HouseRules(0, "usual", "health", {}, special), "because", at(2))
        assert cell_story(session, number, at(2)).judgements[-1].grade == grade
