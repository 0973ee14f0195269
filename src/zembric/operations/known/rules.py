"""The house rules in force."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from sqlalchemy import select

from zembric.core.house.limits import Family
from zembric.core.house.rules import SWITCHES, HouseRules, SpecialRule
from zembric.models import RuleSet
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from sqlalchemy import Select
    from sqlalchemy.orm import Session

    from zembric.core.house.rules import GradeSchool, VoltageSchool

_RULES = "zembric-rules"


def rules_in_force(session: Session) -> HouseRules:
    """The newest version, read once a transaction: an entry asks for it at every turn."""
    known: tuple[object, HouseRules] | None = session.info.get(_RULES)
    if known is not None and known[0] is session.get_transaction():
        return known[1]
    rules = rules_of(session.scalars(_newest_rules()).one())
    session.info[_RULES] = session.get_transaction(), rules
    return rules


def forget_rules(session: Session) -> None:
    """Others hold from here on, in this transaction too."""
    session.info.pop(_RULES, None)


def rules_of(row: RuleSet) -> HouseRules:
    """A version of the rules as the judge reads it."""
    special = tuple(
        SpecialRule(rule["values"], Family(rule["family"]) if rule.get("family") else None, rule.get("size_code"))
        for rule in row.special
    )
    return HouseRules(
        row.version, cast("VoltageSchool", row.voltage_school), cast("GradeSchool", row.grade_school), row.values, special,
        {key: row.switches.get(key, switch.usual) for key, switch in SWITCHES.items()},
    )  # fmt: skip


@built_once
def _newest_rules() -> Select[RuleSet]:
    return select(RuleSet).order_by(RuleSet.version.desc()).limit(1)
