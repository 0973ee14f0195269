"""What is looked for this time, and when the state of a voltage has to be asked."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

import pytest

from tests.support.stories import RULES, START, a_story, at, charged, looked, ran, recovered, resting
from zembric.core.judge.looking import look_prompts
from zembric.core.measure.voltage_states import state_question
from zembric.core.story import Event, Finding, SecondLook, UnrestedVoltage
from zembric.wording import say

SECOND = SecondLook(at(days=1), "1042", frozenset({Finding.LEAKING}))


@pytest.mark.parametrize(
    ("events", "now", "asked"),
    [
        ((), at(), []),
        ((looked(),), at(days=1), []),
        ((looked(),), at(days=8), ["swollen, damp or rusty since"]),
        ((looked(), charged(at(days=8))), at(days=8, hours=2), ["warmer than its neighbours"]),
        ((looked(), SECOND), at(days=2), ["sibling 1042 was found leaking"]),
        ((looked(), SECOND, looked(when=at(days=1, hours=1))), at(days=2), []),
        (
            (looked(), SECOND, charged(at(days=1, hours=2))),
            at(days=1, hours=3),
            ["sibling 1042", "warmer than its neighbours"],
        ),
    ],
)
def test_later_looks_ask_what_may_have_happened_since(
    events: tuple[Event, ...], now: datetime, asked: list[str]
) -> None:
    prompts = look_prompts(a_story(*events), now)
    assert len(prompts) == len(asked)
    for prompt, words in zip(prompts, asked, strict=True):
        assert words in say(prompt.said)
        assert prompt.findings


@pytest.mark.parametrize(
    ("events", "now", "asked"),
    [
        ((looked(), SECOND), at(days=2), (Finding.LEAKING,)),
        ((looked(), charged(at(days=1))), at(days=1, hours=23), (Finding.HOT,)),
        ((looked(), ran(2300, at(days=1))), at(days=1, hours=2), (Finding.HOT,)),
        ((looked(), recovered("passed", at(days=1))), at(days=1, hours=2), (Finding.HOT,)),
        ((looked(),), at(days=7), (Finding.SWOLLEN, Finding.LEAKING, Finding.RUSTED_THROUGH)),
    ],
)
def test_each_question_is_answered_by_its_own_findings(
    events: tuple[Event, ...], now: datetime, asked: tuple[Finding, ...]
) -> None:
    assert [prompt.findings for prompt in look_prompts(a_story(*events), now)] == [asked]


@pytest.mark.parametrize(
    ("events", "now"),
    [((looked(), charged(at(days=1))), at(days=2)), ((looked(),), at(days=6, hours=23)), ((SECOND, looked(when=at(days=2))), at(days=3))],
)  # fmt: skip
def test_after_its_time_nothing_is_asked(events: tuple[Event, ...], now: datetime) -> None:
    assert look_prompts(a_story(*events), now) == ()


def test_a_sibling_whose_danger_nobody_named_is_told_as_dangerous() -> None:
    (prompt,) = look_prompts(a_story(SecondLook(at(), "1042", frozenset())), at(days=1))
    assert "dangerous" in say(prompt.said)


def test_residue_on_a_vape_smells_sweet_too() -> None:
    assert [prompt.findings for prompt in look_prompts(a_story(donor="vape"), START)] == [(Finding.LEAKING,)]


@pytest.mark.parametrize(
    ("event", "since", "likely"),
    [
        (None, timedelta(hours=1), None),
        (resting(3.7), timedelta(minutes=1), None),
        (charged(START), timedelta(minutes=10), "off-charger"),
        (charged(START), timedelta(minutes=30), "resting"),
        (charged(START), timedelta(hours=24), None),
        (ran(2300, START), timedelta(minutes=10), "climbing"),
        (ran(2300, START), timedelta(hours=2), "resting"),
        (recovered("passed", START), timedelta(minutes=5), "off-charger"),
        (UnrestedVoltage(START, 3.2, "climbing"), timedelta(minutes=20), "climbing"),
        (UnrestedVoltage(START, 3.2, "climbing"), timedelta(minutes=30), None),
    ],
)
def test_the_state_of_a_voltage_is_asked_only_where_it_can_be_another(
    event: Any, since: timedelta, likely: str | None
) -> None:
    question = state_question(a_story(*([event] if event else [])), START + since, RULES)
    assert (question.likely if question else None) == likely
