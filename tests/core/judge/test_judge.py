"""The judge: grades, grounds and next steps of whole stories, worked out from the house rules by hand."""

from __future__ import annotations

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support.judged_stories import CASES, LATER, LOSING
from tests.support.stories import (
    a_story,
    at,
    charged,
    fully_tested,
    judged,
    looked,
    resting,
    shelved,
)
from zembric.core.errors import BadInputError
from zembric.core.grounds import WORST_GRADE_LAST
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules, SpecialRule
from zembric.core.story import HAZARDS, Story
from zembric.wording import say


@pytest.mark.parametrize("name", CASES)
def test_a_story_gets_its_grade_reason_and_next_step(name: str) -> None:
    story, rules, now, grade, sure, reason, step = CASES[name]
    said = judged(story, now, rules)
    assert (said.grade, said.sure, said.reasons[0].code, said.next_step.code) == (grade, sure, reason, step)


def test_a_rest_names_the_time_it_is_over() -> None:
    said = judged(a_story(looked(), resting(3.7), charged(at(hours=3))), at(hours=3))
    assert said.next_step.not_before == at(hours=3, minutes=30)


@pytest.mark.parametrize(
    ("readings", "due"),
    [
        ([], at(days=16)),
        ([at(days=10)], at(days=16)),  # too early to count as the look that was due
        ([at(days=17)], at(days=197)),
        ([at(days=17), at(days=30)], at(days=197)),
        ([at(days=17), at(days=200)], at(days=380)),
    ],
)
def test_a_recheck_is_due_two_weeks_after_shelving_then_half_yearly(readings: list[datetime], due: datetime) -> None:
    story = a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2)), *[resting(3.8, when) for when in readings])
    assert judged(story, max([at(2), *readings])).next_step.not_before == due


def test_the_house_may_look_at_gentle_cells_of_one_family_sooner() -> None:
    rules = HouseRules(1, "usual", "health", special=(SpecialRule({"recheck_gentle_days": 90}, Family.LAYERED_OXIDE),))
    for mah, due in ((1400, at(107)), (2300, at(197))):
        story = a_story(*fully_tested(mah), charged(LATER, 3.8), shelved(at(2)), resting(3.8, at(17)))
        assert judged(story, at(17), rules).next_step.not_before == due


@pytest.mark.parametrize(("rests_v", "told"), [(4.0, []), (4.01, [0.21])])
def test_a_cell_that_is_kept_too_full_is_told(rests_v: float, told: list[float]) -> None:
    """0.2 V above the 3.8 V it should be stored at is still fine."""
    story = a_story(*fully_tested(), charged(LATER, 4.1), shelved(at(2)), resting(rests_v, at(17)))
    reasons = judged(story, at(17)).reasons
    assert [round(reason.value or 0, 2) for reason in reasons if reason.code == "stored-full"] == told


def test_a_cell_on_watch_is_measured_again_two_weeks_after_its_last_reading() -> None:
    said = judged(a_story(*fully_tested(), charged(at(days=1, hours=2)), shelved(at(2)), *LOSING), at(18))
    assert "watch" in [reason.code for reason in said.reasons]
    assert said.next_step.not_before == at(days=31)


def test_a_storage_charge_that_rests_below_4_10_v_is_not_on_watch() -> None:
    said = judged(a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2)), resting(3.79, at(20))), at(20))
    assert "watch" not in [reason.code for reason in said.reasons]


@pytest.mark.parametrize(("claim", "code"), [(3000, None), (3800, "claim-doubtful"), (9900, "claim-impossible")])
def test_a_claim_is_held_against_what_fits(claim: float, code: str | None) -> None:
    said = judged(a_story(claimed_mah=claim), at())
    assert [reason.code for reason in said.reasons if reason.code.startswith("claim")] == ([code] if code else [])


def test_a_low_capacity_is_called_so_only_where_it_puts_the_cell_out() -> None:
    codes = {
        name: {reason.code for reason in judged(story, LATER).reasons}
        for name, story in (
            ("out by it", a_story(*fully_tested(900))),
            ("out by a hazard", a_story(*fully_tested(900), looked("hot", when=LATER))),
            ("not graded", a_story(*fully_tested(900), family=None)),
        )
    }
    assert {name for name, found in codes.items() if "capacity-low" in found} == {"out by it"}


def test_a_reason_carries_value_limit_margin_and_kind() -> None:
    reason = judged(a_story(*fully_tested(2300)), LATER).reasons[0]
    assert reason.limit is not None
    assert (reason.limit.value, reason.limit.unit, reason.limit.kind) == (80, "%", "house")
    assert reason.margin == pytest.approx(100 * 2300 / 2600 - 80)


@pytest.mark.parametrize(
    ("story", "current"),
    [
        (a_story(looked(), resting(2.6)), "260\u00a0mA at most (C/10)"),
        (a_story(looked(), resting(2.2)), "130\u00a0mA at most (C/20)"),
        (a_story(looked(), resting(2.6), rated_mah=None), "100\u00a0mA at most (C/10)"),
        (a_story(looked(), resting(3.6)), "1.3\u00a0A"),
        (a_story(looked(), resting(3.6), rated_mah=None), "0.50\u00a0A"),
        (a_story(looked(), resting(3.6), rated_mah=None, claimed_mah=9900), "0.50\u00a0A"),
        (a_story(looked(), resting(3.6), rated_mah=None, size="13400"), "0.20\u00a0A"),
        (a_story(looked(), resting(3.6), rated_mah=60, size="402020"), "30\u00a0mA"),
    ],
)
def test_the_current_to_set_follows_what_the_cell_is_believed_to_hold(story: Story, current: str) -> None:
    assert current in say(judged(story, at()).next_step.said)


def test_an_entry_in_the_future_is_refused() -> None:
    with pytest.raises(BadInputError, match="future"):
        judged(a_story(looked(when=at(1))), at())


@given(st.floats(300, 3500), st.floats(1, 300), st.floats(5, 300))
def test_a_better_capacity_never_makes_a_grade_worse(capacity_mah: float, more_mah: float, mohm: float) -> None:
    # A larger capacity raises r Q, so resistance is left out of the comparison by a low one.
    low_mohm = min(mohm, 0.2 / (capacity_mah + more_mah) * 1e6)
    worse = judged(a_story(*fully_tested(capacity_mah, low_mohm)), LATER).grade
    better = judged(a_story(*fully_tested(capacity_mah + more_mah, low_mohm)), LATER).grade
    assert WORST_GRADE_LAST.index(better) <= WORST_GRADE_LAST.index(worse)


@given(st.sampled_from(sorted(HAZARDS)), st.sampled_from(sorted(CASES)))
def test_a_hazard_always_wins(hazard: str, name: str) -> None:
    story, rules, now, *_ = CASES[name]
    found = looked(hazard, when=now)
    said = judged(Story(story.facts, story.donor_kind, (*story.events, found)), now, rules)
    assert (said.grade, said.next_step.code, said.reasons[0].code) == ("out", "fire-safe-box", "hazard")


@given(st.sampled_from(sorted(CASES)), st.randoms())
def test_the_order_in_which_events_are_handed_over_does_not_matter(name: str, chance: object) -> None:
    story, rules, now, *_ = CASES[name]
    if len({event.at for event in story.events}) < len(story.events):
        return  # of equal times the given order is kept
    events = list(story.events)
    chance.shuffle(events)  # type: ignore[attr-defined]
    assert judged(Story(story.facts, story.donor_kind, tuple(events)), now, rules) == judged(story, now, rules)
