"""Routes: a corner where newcomers judge made-up cells; nothing of it is kept."""

from __future__ import annotations

from datetime import UTC, datetime
from random import Random
from typing import TYPE_CHECKING

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.requests import read
from zembric.api.words import told
from zembric.core.judge.practice import PracticeCell, hold_against, practice_cell
from zembric.operations.cells.judged import reason_json
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("practice")
_START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)


@bp.get("/practice/<int:seed>", responses={"200": schemas.PracticeOut})
def get_practice(path: schemas.PracticePath) -> Response:
    """A made-up cell; the same seed gives the same."""
    return read(
        lambda _s, _actor, _now: schemas.PracticeOut(
            seed=path.seed, told=[told(each) for each in _cell(path.seed).told]
        )
    )


@bp.post("/practice/<int:seed>", responses={"200": schemas.PracticeAnswerOut})
def post_practice(path: schemas.PracticePath, body: schemas.PracticeIn) -> Response:
    """A newcomer's grade against the judge's, by the house's rules."""

    def answer(session: Session, _actor: Actor, _now: datetime) -> schemas.PracticeAnswerOut:
        found = hold_against(_cell(path.seed), rules_in_force(session), body.grade)
        said = found.judgement
        return schemas.PracticeAnswerOut.model_validate(
            {
                "is_right": found.is_right, "text": found.said, "grade": said.grade, "sure": said.sure,
                "reasons": [reason_json(reason) for reason in said.reasons], "step": said.next_step.code,
                "step_text": said.next_step.said,
            }
        )  # fmt: skip

    return read(answer)


def _cell(seed: int) -> PracticeCell:
    return practice_cell(Random(seed), _START)
