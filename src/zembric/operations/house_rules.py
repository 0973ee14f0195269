"""The house rules: which schools hold, since when, and why."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import func, select

from zembric.core.errors import BadInputError, ChangedMeanwhileError
from zembric.core.rules import GRADE_SCHOOLS, VOLTAGE_SCHOOLS
from zembric.models import RuleSet
from zembric.operations.actors import require_coordinator
from zembric.operations.judging import rejudge_all
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_RULES_LOCK = 0x72756C65  # "rule"


def all_versions(session: Session) -> Sequence[RuleSet]:
    """All versions, the one in force first."""
    return session.scalars(select(RuleSet).order_by(RuleSet.version.desc())).all()


def set_rules(
    session: Session, actor: Actor, seen_version: int, voltage_school: str, grade_school: str, why: str, now: datetime
) -> int:
    """A new version of the rules; every cell is judged under it at once. How many are judged differently.

    Raises:
        ChangedMeanwhileError: somebody set them after they were seen.
        BadInputError: an unknown school, or no reason.
    """
    require_coordinator(actor, "Setting the house rules")
    session.execute(select(func.pg_advisory_xact_lock(_RULES_LOCK)))
    last = all_versions(session)[0]
    if last.version != seen_version:
        raise ChangedMeanwhileError("The house rules")
    if voltage_school not in VOLTAGE_SCHOOLS:
        raise BadInputError(f'"{voltage_school}" is not one of {", ".join(VOLTAGE_SCHOOLS)}.', field="voltage_school")
    if grade_school not in GRADE_SCHOOLS:
        raise BadInputError(f'"{grade_school}" is not one of {", ".join(GRADE_SCHOOLS)}.', field="grade_school")
    if not 3 <= len(why.strip()) <= 300:
        raise BadInputError("Say why in a few words: whoever comes next will want to know.", field="why")
    session.add(
        RuleSet(
            version=last.version + 1,
            voltage_school=voltage_school,
            grade_school=grade_school,
            at=now,
            person_id=actor.person_id,
            why=why.strip(),
        )
    )
    note(session, actor, "rules-set", now, why=why.strip(), voltage_school=voltage_school, grade_school=grade_school)
    return rejudge_all(session, now)
