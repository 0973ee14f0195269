"""What a voltage tells of a donor's other cells is judged behind the answer, beside whoever has them at the bench."""

from __future__ import annotations

import pytest
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from tests.support.benchwork import at, open_donor, voltage
from zembric.core.house.rules import HouseRules
from zembric.core.judge.judge import judge
from zembric.core.judge.judgement import Judgement
from zembric.core.story import Story
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.cells import judged
from zembric.operations.database import unit_of_work


def test_an_entry_for_a_sibling_that_is_being_judged_is_not_held_up_and_counts(
    engine: Engine, session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    odd, *others = open_donor(session, volunteer, 3).cells
    for cell, value in zip((odd, *others), ("3.35", "3.70", "3.72"), strict=True):
        entries.inspect(session, volunteer, cell.number, [], at())
        voltage(session, volunteer, cell.number, value, at())
    session.commit()

    def judge_while_somebody_finds_a_torn_wrap(story: Story, rules: HouseRules, now: object) -> Judgement:
        monkeypatch.setattr("zembric.operations.cells.judged.judge", judge)
        with unit_of_work(engine) as bench:
            entries.inspect(bench, volunteer, odd.number, ["torn-wrap"], at(minutes=1))
        return judge(story, rules, now)  # type: ignore[arg-type]

    monkeypatch.setattr("zembric.operations.cells.judged.judge", judge_while_somebody_finds_a_torn_wrap)
    with unit_of_work(engine) as worker:
        judged.judge_sibling(worker, odd.id, at(minutes=2))
    session.rollback()
    session.refresh(odd)
    assert odd.judgement is not None
    assert odd.judgement.next_step == "repair"
    assert "siblings-differ" in [reason["code"] for reason in odd.judgement.reasons]
