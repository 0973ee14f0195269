"""The planner: whatever comes of each step, a cell ends on the shelf or on its way out."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support.stories import (
    RULES,
    a_story,
    at,
    charged,
    decided,
    fully_tested,
    judged,
    looked,
    mended,
    ran,
    recovered,
    resists,
    resting,
    shelved,
    skipped,
)
from zembric.core.house.limits import STORE_AT_V, Family
from zembric.core.house.rules import HouseRules
from zembric.core.identify.families import full_voltage_v
from zembric.core.next_step.planner import STEP_RULES
from zembric.core.next_step.steps import NextStep
from zembric.core.story import REPAIRABLE, Event, Story
from zembric.wording import say

FAMILIES = [None, *(family for family in Family if family is not Family.PRIMARY)]
FINDINGS = [[], [], [], ["torn-wrap"], ["tab-remains", "corroded-ends"], ["dented"]]
#: Enough for a doubtful cell that is measured again and again; a cell that is still on its way then is stuck.
MOST_STEPS = 60


def follow(story: Story, step: NextStep, now: datetime, chance: Random, rules: HouseRules) -> Story:
    """The story after somebody did what the step asks for, with whatever may come of it."""
    facts = story.facts
    full_v = full_voltage_v(facts.family, facts.full_v) or 3.6
    asks_family = step.code == "decide" and facts.family is None and step.said.code == "step-decide-family"
    if asks_family or (step.code == "decide" and step.said.code == "step-decide-rated"):
        known = {
            "family": facts.family or chance.choice(FAMILIES[1:]),
            "rated_capacity_mah": facts.rated_capacity_mah or 2600.0,
        }
        return Story(replace(facts, **known), story.donor_kind, story.events)  # type: ignore[arg-type]
    dc_only = rules.grade_school == "fitness"
    method = "dc-10s" if dc_only else chance.choice(["ac-1khz", "dc-10s", "tester"])
    done: dict[str, list[Event]] = {
        "inspect": [looked(*chance.choice(FINDINGS), when=now)],
        "repair": [mended(*REPAIRABLE, when=now)],
        "measure-voltage": [resting(round(chance.uniform(0, full_v + 0.08), 2), now)],
        "recheck": [resting(round(chance.uniform(full_v - 0.9, full_v), 2), now)],
        "recover": [recovered(chance.choice(["passed", "passed", "failed"]), now)],
        "decide": [decided("over-voltage", chance.choice(["go-on", "out"]), now), decided("recovery-mark", "go-on", now)],
        "charge": [charged(now, STORE_AT_V[facts.family or Family.LAYERED_OXIDE].value if step.said.code == "step-charge-to-store" else full_v)],
        "measure-capacity": [ran(chance.uniform(300, 2700), now, complete=chance.random() > 0.2)],
        "measure-resistance": [
            skipped(now) if chance.random() < 0.1 and not dc_only else resists(chance.uniform(15, 300), now, method)
        ],
        "repeat-measurement": [
            *([charged(now, full_v)] if step.said.code == "step-repeat-charged" else []),
            resists(chance.uniform(15, 300), now, method) if "resistance" in say(step.said) else ran(chance.uniform(300, 2700), now),
        ],
        "shelve": [shelved(now)],
    }  # fmt: skip
    return Story(facts, story.donor_kind, (*story.events, *done[step.code]))


@given(
    st.randoms(use_true_random=False),
    st.sampled_from(FAMILIES),
    st.sampled_from([2600.0, None]),
    st.sampled_from(["strict", "usual", "thrifty"]),
    st.sampled_from(["health", "bins", "fitness"]),
)
def test_no_cell_gets_stuck(
    chance: Random, family: Family | None, rated_mah: float | None, voltage_school: str, grade_school: str
) -> None:
    rules = replace(RULES, voltage_school=voltage_school, grade_school=grade_school)  # type: ignore[arg-type]
    story, now, taken = a_story(family=family, rated_mah=rated_mah), at(), list[str]()
    for _ in range(MOST_STEPS):
        step = judged(story, now, rules).next_step
        taken.append(step.code)
        if step.code in ("keep", "out-box", "fire-safe-box"):
            return
        if step.code == "rest":
            assert step.not_before is not None
            now = step.not_before
            continue
        now += timedelta(minutes=step.minutes or 1)
        story = follow(story, step, now, chance, rules)
    pytest.fail(f"still on its way: {taken}")


def test_every_step_says_how_long_it_takes_and_what_it_needs_or_only_takes_its_time() -> None:
    assert {rule.code for rule in STEP_RULES if rule.minutes is None} == {"rest", "keep"}
    assert {rule.code for rule in STEP_RULES if rule.needs is None} == {"rest", "keep"}


def test_a_charge_takes_what_the_table_of_its_family_says() -> None:
    """3.60 V is 30 % of 2600 mAh: 1.82 Ah at 1.3 A take at least 84 min, and the end of it falls more slowly."""
    step = judged(a_story(looked(), resting(3.6)), at()).next_step
    assert step.code == "charge"
    assert step.minutes is not None
    assert 84 < step.minutes < 110


@pytest.mark.parametrize(
    ("story", "now", "overdue_at"),
    [
        (a_story(looked(), resting(3.7), charged(at(hours=3))), at(1), at(14, hours=3)),
        (a_story(*fully_tested()), at(1, hours=1), at(8)),
        (a_story(*fully_tested(), charged(at(2), 3.8), shelved(at(2))), at(17), at(46)),
        (a_story(looked()), at(), None),
    ],
)
def test_what_must_not_wait_for_ever_says_when_it_is_overdue(
    story: Story, now: datetime, overdue_at: datetime | None
) -> None:
    assert judged(story, now).next_step.overdue_at == overdue_at
