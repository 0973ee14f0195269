"""House rules and what was judged under them. Both only grow."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import CheckConstraint, ForeignKey, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from zembric.core.grounds import Grade
from zembric.core.house.rules import GRADE_SCHOOLS, VOLTAGE_SCHOOLS
from zembric.models.base import Base, IntPk, one_of

GRADES = get_args(Grade)


class RuleSet(Base):
    """One version of the house rules; the highest is in force."""

    __tablename__ = "rule_set"
    __table_args__ = (
        CheckConstraint(one_of("voltage_school", VOLTAGE_SCHOOLS), name="voltage_school"),
        CheckConstraint(one_of("grade_school", GRADE_SCHOOLS), name="grade_school"),
    )
    version: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    voltage_school: Mapped[str]
    grade_school: Mapped[str]
    #: The house's own values by limit key; those of one family or size; switches by key. What is left out is as usual.
    values: Mapped[dict[str, float]] = mapped_column(server_default="{}")
    special: Mapped[list[dict[str, Any]]] = mapped_column(server_default="[]")
    switches: Mapped[dict[str, str]] = mapped_column(server_default="{}")
    at: Mapped[datetime]
    #: NULL: the rules that Zembric came with.
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    why: Mapped[str]


class JudgementRow(Base):
    """What was said of a cell at one time, with the figures it was said on."""

    __tablename__ = "judgement"
    __table_args__ = (
        CheckConstraint(one_of("grade", GRADES), name="grade"),
        CheckConstraint("(grade = 'not-yet') = (sure IS NULL)", name="graded_is_sure_or_not"),
        Index("ix_judgement_out", "at", postgresql_where=text("grade = 'out'")),
    )
    id: Mapped[IntPk]
    cell_id: Mapped[int] = mapped_column(ForeignKey("cell.id"), index=True)
    at: Mapped[datetime]
    rule_set_version: Mapped[int] = mapped_column(ForeignKey("rule_set.version"))
    grade: Mapped[str] = mapped_column(index=True)
    #: NULL while it is not graded.
    sure: Mapped[str | None]
    #: Weightiest first: code, said, value, limit (its key, value, unit, kind, source), margin.
    reasons: Mapped[list[dict[str, Any]]]
    next_step: Mapped[str] = mapped_column(index=True)
    #: What it says to do: a code with its parameters, as `core.said` keeps them.
    next_said: Mapped[dict[str, Any]]
    #: When the step makes sense or is due; NULL: now.
    next_not_before: Mapped[datetime | None]
    #: The step that takes its place at that time; NULL: none.
    next_then: Mapped[str | None]
    #: From then on it was left too long; how long it takes, and with what. NULL: nothing to say.
    next_overdue_at: Mapped[datetime | None]
    next_minutes: Mapped[float | None]
    next_needs: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    #: When the next voltage of a cell that is watched at rest tells something; NULL: nobody watches it.
    watched_reading_at: Mapped[datetime | None] = mapped_column(index=True)
    #: Figures that decided; NULL where there is none yet.
    resting_voltage_v: Mapped[float | None]
    capacity_mah: Mapped[float | None] = mapped_column(index=True)
    capacity_u_mah: Mapped[float | None]
    capacity_method: Mapped[str | None]
    resistance_mohm: Mapped[float | None] = mapped_column(index=True)
    resistance_u_mohm: Mapped[float | None]
    resistance_method: Mapped[str | None]
    #: By which version of the judge; what an older one said is judged anew at the start.
    judged_by: Mapped[int] = mapped_column(server_default="1")
    resting_voltage_at: Mapped[datetime | None]
    #: Carries a mark for life; its recovery was proved by a reading at rest.
    is_marked: Mapped[bool] = mapped_column(server_default="false")
    recovery_proved: Mapped[bool] = mapped_column(server_default="true")
    #: By each method that was used.
    resistances_mohm: Mapped[dict[str, float]] = mapped_column(server_default="{}")
    #: Under which conditions the capacity was measured, and what it comes to at the reference; NULL without one.
    comparable: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    #: What it may be asked for in a pack; NULL: nothing is known of that.
    carries_a: Mapped[float | None]
    continuous_current_a: Mapped[float | None]
    continuous_current_set_by: Mapped[str | None]
