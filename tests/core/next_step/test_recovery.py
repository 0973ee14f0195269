"""A supervised recovery: what may be set, when to look, and when it is over."""

from __future__ import annotations

from datetime import timedelta

import pytest

from tests.support.stories import START
from zembric.core.house.limits import Family
from zembric.core.measure.first_voltage import band_of
from zembric.core.next_step.recovery import RecoveryCheck, RecoveryPlan, plan_recovery, watch_recovery
from zembric.core.story import UNSAID_HEAT, Heat
from zembric.wording import say


def _plan(found_v: float, family: Family = Family.LAYERED_OXIDE) -> RecoveryPlan:
    return plan_recovery(found_v, band_of(found_v, family, None, "thrifty"), family, 2600)


def _check(minutes: float, value_v: float, warmer_k: float | None = None, heat: Heat = UNSAID_HEAT) -> RecoveryCheck:
    return RecoveryCheck(START + timedelta(minutes=minutes), value_v, warmer_k, heat)


@pytest.mark.parametrize(
    ("found_v", "family", "current_ma", "every_min", "past_v"),
    [
        (2.7, Family.LAYERED_OXIDE, 260, 15, 3.0),
        (2.3, Family.LAYERED_OXIDE, 130, 5, 3.0),
        (1.6, Family.LAYERED_OXIDE, 130, 5, 3.0),
        (2.0, Family.IRON_PHOSPHATE, 260, 15, 2.5),
        (1.2, Family.TITANATE, 260, 15, 1.8),
    ],
)
def test_the_deeper_it_was_found_the_less_current_and_the_more_looks(
    found_v: float, family: Family, current_ma: float, every_min: float, past_v: float
) -> None:
    plan = _plan(found_v, family)
    assert plan.current_ma == pytest.approx(current_ma)
    assert (plan.check_every, plan.past_v) == (timedelta(minutes=every_min), past_v)


@pytest.mark.parametrize(
    ("checks", "status", "says"),
    [
        ([_check(20, 2.8), _check(40, 3.0)], "passed", "3.00\u00a0V after 40\u00a0min"),
        ([_check(20, 2.8), _check(60, 2.99)], "failed", "it had to pass 3.00\u00a0V within 60\u00a0min"),
        ([_check(20, 3.1, warmer_k=10.5)], "failed", "It warmed by"),
        ([_check(20, 3.1, heat=Heat(warmth="warm"))], "failed", "It got warm"),
        ([_check(20, 2.8, warmer_k=10)], "running", "Next look in"),
        ([], "running", "Next look in"),
    ],
)
def test_voltage_passes_it_time_and_warmth_fail_it_and_warmth_goes_first(
    checks: list[RecoveryCheck], status: str, says: str
) -> None:
    now = max([check.at for check in checks], default=START)
    state = watch_recovery(_plan(2.7), START, checks, now)
    assert state.status == status
    assert says in say(state.said)


@pytest.mark.parametrize(
    ("checks", "now_min", "next_min", "says"),
    [
        ([], 0, 15, "Runs at"),
        ([], 15, 15, "Measure its voltage now"),
        ([_check(14, 2.8)], 20, 29, "Runs at"),
        ([_check(50, 2.8)], 55, 60, "Runs at"),
        ([_check(50, 2.8)], 61, 60, "that decides"),
    ],
)
def test_the_next_look_counts_from_the_last_one_and_not_past_the_hour(
    checks: list[RecoveryCheck], now_min: float, next_min: float, says: str
) -> None:
    state = watch_recovery(_plan(2.7), START, checks, START + timedelta(minutes=now_min))
    assert state.next_check_at == START + timedelta(minutes=next_min)
    assert says in say(state.said)
