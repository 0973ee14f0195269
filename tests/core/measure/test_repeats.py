"""Repeated runs: which count, when they disagree, and the estimate at reference conditions."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from tests.support.stories import RULES
from zembric.core.house.limits import Family
from zembric.core.measure.repeats import repeats_of
from zembric.core.said import said
from zembric.core.story import CapacityRun, CellFacts, ResistanceReading, Story
from zembric.wording import say

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)


def story(*values_mah: float, mohm: float | None = 100, current_ma: float = 1000, complete: bool = True) -> Story:
    runs = [
        CapacityRun(START + timedelta(days=day), value, "tester", complete, current_ma, 3.0, started_full=True)
        for day, value in enumerate(values_mah)
    ]
    resistance = [ResistanceReading(START, mohm, "dc-10s")] if mohm else []
    return Story(CellFacts("18650", Family.LAYERED_OXIDE, None, 2600, None), "laptop", (*runs, *resistance))


def test_the_first_after_a_sleep_and_the_older_ones_stay_and_do_not_count() -> None:
    found = repeats_of(story(2000, 2280, 2290, 2300, 2310), RULES)
    assert [run.left_out and run.left_out.code for run in found.runs] == [
        "left-out-first", "left-out-old", None, None, None,
    ]  # fmt: skip
    assert found.disagreement is None


def test_an_unfinished_run_is_told_as_that() -> None:
    assert [run.left_out for run in repeats_of(story(900, complete=False), RULES).runs] == [
        said("left-out-part", why=said("part-stopped"))
    ]


def test_runs_further_apart_than_their_method_allows_are_told() -> None:
    """2300 and 2100 lie 9.1 % apart, a tester is right within 3 %."""
    apart = repeats_of(story(2000, 2300, 2100), RULES).disagreement
    assert apart is not None
    assert "9.1\u00a0% apart" in say(apart)


def test_the_estimate_at_reference_follows_from_table_and_resistance() -> None:
    """At 1 A and 100 mOhm the run to 3.00 V ends at 3.10 V inside: 0.05 x 0.10/0.35 = 1.429 % are left. At 0.2 C (0.46 A)
    it ends at 3.046 V: 0.657 %. So 2300 x (1 - 0.00657) / (1 - 0.01429)."""
    found = repeats_of(story(2300), RULES)
    assert found.reference_mah == pytest.approx(2300 * (1 - 0.05 * 0.046 / 0.35) / (1 - 0.05 * 0.1 / 0.35), rel=1e-6)
    assert found.reference_said is not None
    assert repeats_of(story(2300, mohm=None), RULES).reference_mah is None


def test_a_run_that_the_resistance_ended_early_is_not_brought_to_reference() -> None:
    """At 1 A and 1.3 Ohm the cell itself still stood at 4.3 V: nothing of the rest was seen."""
    assert repeats_of(story(300, mohm=1300), RULES).reference_mah is None
