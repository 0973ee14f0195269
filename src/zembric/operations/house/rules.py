"""The house rules: which hold, since when, and why; what another set of them would change."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from sqlalchemy import func, select

from zembric.core.errors import BadInputError, ChangedMeanwhileError
from zembric.core.grade.assessment import assess
from zembric.core.house.rules import HouseRules, check_rules
from zembric.core.judge.judge import judge
from zembric.core.said import Said, said
from zembric.models import RuleSet
from zembric.operations.actors import require_coordinator
from zembric.operations.cells.all_judged import cells_here, rejudge_all
from zembric.operations.cells.judged import moment_of
from zembric.operations.known.rules import forget_rules
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_RULES_LOCK = 0x72756C65  # "rule"
_SHOWN_CHANGES = 60


@dataclass(frozen=True, slots=True)
class RuleChange:
    """One cell that other rules would judge differently: its grade now and then, and the weightiest reason then."""

    number: str
    before: str
    after: str
    reason: Said


@dataclass(frozen=True, slots=True)
class RulesPreview:
    """What other rules would change: of how many cells, how many from which grade to which, and the first of them."""

    cells: int
    moves: tuple[tuple[str, str, int], ...]
    first: tuple[RuleChange, ...]

    @property
    def changed(self) -> int:
        return sum(count for _before, _after, count in self.moves)


def all_versions(session: Session) -> Sequence[RuleSet]:
    """All versions, the one in force first."""
    return session.scalars(select(RuleSet).order_by(RuleSet.version.desc())).all()


def preview_rules(session: Session, rules: HouseRules, now: datetime) -> RulesPreview:
    """Which cells would get another grade, without keeping anything.

    Raises:
        BadInputError: rules that cannot be.
    """
    wanted = check_rules(rules)
    cells, moves, first = 0, Counter[tuple[str, str]](), list[RuleChange]()
    for batch in cells_here(session):
        for cell in batch:
            # The grade in force was kept when the cell was last judged.
            before, after = cell.grade or "not-yet", assess(cell.story, wanted).grade
            cells += 1
            if before == after:
                continue
            moves[before, after] += 1
            if len(first) < _SHOWN_CHANGES:
                reason = judge(cell.story, wanted, moment_of(cell.story, now)).reasons[0].said
                first.append(RuleChange(cell.number, before, after, reason))
    return RulesPreview(cells, tuple((a, b, count) for (a, b), count in moves.most_common()), tuple(first))


def set_rules(session: Session, actor: Actor, seen_version: int, rules: HouseRules, why: str, now: datetime) -> int:
    """A new version of the rules; every cell is judged under it at once. How many are judged differently.

    Raises:
        ChangedMeanwhileError: somebody set them after they were seen.
        BadInputError: rules that cannot be, or no reason.
    """
    require_coordinator(actor, said("doing-setting-house-rules"))
    session.execute(select(func.pg_advisory_xact_lock(_RULES_LOCK)))
    last = all_versions(session)[0]
    if last.version != seen_version:
        raise ChangedMeanwhileError(said("this-rules"))
    checked = check_rules(replace(rules, version=last.version + 1))
    if not 3 <= len(why.strip()) <= 300:
        raise BadInputError(said("say-why-in-few-words"), field="why")
    row = RuleSet(
        version=checked.version, voltage_school=checked.voltage_school, grade_school=checked.grade_school,
        values=dict(checked.values), special=[_special(rule) for rule in checked.special], switches=dict(checked.switches),
        at=now, person_id=actor.person_id, why=why.strip(),
    )  # fmt: skip
    session.add(row)
    forget_rules(session)
    note(
        session, actor, "rules-set", now, why=row.why, version=row.version, voltage_school=row.voltage_school,
        grade_school=row.grade_school,
    )  # fmt: skip
    return rejudge_all(session, now)


def _special(rule: Any) -> dict[str, Any]:
    return {"family": rule.family, "size_code": rule.size_code, "values": dict(rule.values)}
