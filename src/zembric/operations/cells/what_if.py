"""What a cell would be judged otherwise: other schools, one more reading. Nothing is kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, cast

from sqlalchemy import func, select

from zembric.core.errors import BadInputError
from zembric.core.grade.assessment import assess
from zembric.core.house.limits import VOLTAGE_RESOLUTION_V
from zembric.core.judge.judge import judge
from zembric.core.measure.typed_amounts import read_amount
from zembric.core.said import said
from zembric.core.story import CapacityRun, ResistanceReading, RestingVoltage
from zembric.models import CellRow, JudgementRow, Place
from zembric.operations.cells.judged import moment_of, story_of
from zembric.operations.cells.stories import get_cell
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import GradeSchool, HouseRules, VoltageSchool
    from zembric.core.judge.judgement import Judgement
    from zembric.core.story import Event


@dataclass(frozen=True, slots=True)
class TypedWhatIf:
    """What is supposed; None and empty: as it is."""

    voltage_school: VoltageSchool | None = None
    grade_school: GradeSchool | None = None
    quantity: str | None = None
    value: str = ""
    method: str | None = None


@dataclass(frozen=True, slots=True)
class Supposed:
    """The judgement that would follow, and how many of its kind on the shelf hold less (None: no capacity)."""

    judgement: Judgement
    may_be_overruled: bool
    weaker: int | None
    of_its_kind: int | None


def what_if(session: Session, number: str, typed: TypedWhatIf, now: datetime) -> Supposed:
    """Raises: BadInputError: a value that cannot be read, or without its method."""
    cell = get_cell(session, number)
    rules = rules_in_force(session)
    rules = replace(
        rules,
        voltage_school=typed.voltage_school or rules.voltage_school,
        grade_school=typed.grade_school or rules.grade_school,
    )
    story = story_of(session, cell)
    now = moment_of(story, now)
    if typed.quantity and typed.value.strip():
        story = replace(story, events=(*story.events, _reading(typed, now, rules)))
    judgement = judge(story, rules, now)
    weaker, of_its_kind = _among_its_kind(session, cell, judgement.capacity.value_mah if judgement.capacity else None)
    return Supposed(judgement, assess(story, rules).may_be_overruled, weaker, of_its_kind)


def _reading(typed: TypedWhatIf, now: datetime, rules: HouseRules) -> Event:
    amount = read_amount(typed.value, cast("Any", typed.quantity), "value", rules)
    if amount.value <= 0:
        raise BadInputError(said("reading-is-above-zero"), field="value")
    if typed.quantity == "voltage":
        return RestingVoltage(now, amount.value, max(rules.value(VOLTAGE_RESOLUTION_V), 2 * amount.half_width))
    if typed.quantity == "capacity":
        return CapacityRun(
            now,
            amount.value,
            cast("Any", typed.method or "tester"),
            True,
            None,
            None,
            amount.half_width,
            started_full=True,
        )
    return ResistanceReading(
        now, amount.value, cast("Any", typed.method or "ac-1khz"), half_width_mohm=amount.half_width
    )


def _among_its_kind(session: Session, cell: CellRow, capacity_mah: float | None) -> tuple[int | None, int | None]:
    if capacity_mah is None or cell.size_code is None:
        return None, None
    others = (
        select(func.count().filter(JudgementRow.capacity_mah < capacity_mah), func.count())
        .select_from(CellRow)
        .join(JudgementRow, CellRow.judgement_id == JudgementRow.id)
        .join(Place, CellRow.place_id == Place.id)
        .where(
            CellRow.id != cell.id, CellRow.size_code == cell.size_code, CellRow.family == cell.family,
            Place.kind == "shelf-box", JudgementRow.capacity_mah.is_not(None),
        )
    )  # fmt: skip
    weaker, total = session.execute(others).one()
    return weaker, total
