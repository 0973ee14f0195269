"""What a worker that was killed left half done is taken up again."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor, voltage
from tests.support.worker import run_once, work_off_the_queue
from zembric.operations.actors import Actor
from zembric.operations.cells import stories
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.queue import TAKE_UP_LOST


def test_siblings_that_a_killed_worker_was_at_are_judged_by_the_next(
    engine: Engine, session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    odd, *others = numbers_of(open_donor(session, volunteer, 3))
    for number, value in zip((odd, *others), ("3.35", "3.70", "3.72"), strict=True):
        voltage(session, volunteer, number, value, at())
    session.execute(
        text("UPDATE procrastinate_jobs SET status = 'doing' WHERE id = (SELECT min(id) FROM procrastinate_jobs)")
    )
    session.commit()
    run_once(engine, LogStore(tmp_path), TAKE_UP_LOST)
    work_off_the_queue(engine, LogStore(tmp_path))
    session.expire_all()
    judged = stories.get_cell(session, odd).judgement
    assert judged is not None
    assert "siblings-differ" in [reason["code"] for reason in judged.reasons]
