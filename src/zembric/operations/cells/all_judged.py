"""Every cell that is here judged at once: tens of thousands, so by plain rows and a few statements."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import TYPE_CHECKING, cast

from sqlalchemy import select, text

from zembric.core.judge.judge import JUDGE_VERSION, judge
from zembric.core.story import Story
from zembric.models import CellModel, CellRow, Donor, DonorKindRow, JudgementRow
from zembric.operations.cells.judged import events_of, facts_of, judgement_values, moment_of
from zembric.operations.cells.siblings import found_of_siblings, voltages_as_found
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from collections.abc import Iterator
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.story import DonorKind

_AT_ONCE = 1000
_COLUMNS = [column.key for column in JudgementRow.__mapper__.column_attrs if column.key != "id"]
# One statement for a thousand judgements: each is kept, and its cell pointed to it.
_KEEP = text(
    f"""
    WITH made AS (
        INSERT INTO judgement ({", ".join(_COLUMNS)})
        SELECT {", ".join(_COLUMNS)} FROM jsonb_populate_recordset(NULL::judgement, CAST(:rows AS jsonb))
        RETURNING id, cell_id
    )
    UPDATE cell SET judgement_id = made.id FROM made WHERE cell.id = made.cell_id
    """
)


@dataclass(frozen=True, slots=True)
class HeldCell:
    """A cell that is here: its number, its story, and what was last said of it (None: nothing yet)."""

    id: int
    number: str
    story: Story
    grade: str | None
    next_step: str | None


def cells_here(session: Session, *, for_update: bool = False) -> Iterator[list[HeldCell]]:
    """All cells that did not go to the recycler, a thousand at a time."""
    ids = session.scalars(select(CellRow.id).where(CellRow.handed_over_at.is_(None)).order_by(CellRow.id)).all()
    for start in range(0, len(ids), _AT_ONCE):
        batch = ids[start : start + _AT_ONCE]
        query = (
            select(
                *CellRow.__table__.columns, CellModel.most_charge_ma, CellModel.most_discharge_ma, CellModel.id.label("sheet_id"),
                DonorKindRow.judged_as, Donor.opened_at, JudgementRow.grade, JudgementRow.next_step,
            )
            .select_from(CellRow)
            .join(Donor, Donor.id == CellRow.donor_id)
            .join(DonorKindRow, DonorKindRow.code == Donor.kind)
            .outerjoin(CellModel, CellModel.id == CellRow.model_id)
            .outerjoin(JudgementRow, JudgementRow.id == CellRow.judgement_id)
            .where(CellRow.id.in_(batch))
            .order_by(CellRow.id)
        )  # fmt: skip
        rows = session.execute(query.with_for_update(of=CellRow) if for_update else query).all()
        events = events_of(session, batch)
        found = voltages_as_found(session, {row.donor_id for row in rows})
        yield [
            HeldCell(
                row.id, row.number,
                Story(
                    facts_of(row, row if row.sheet_id else None), cast("DonorKind", row.judged_as), events[row.id],
                    found_of_siblings(found[row.donor_id], row.id), row.opened_at,
                ),
                row.grade, row.next_step,
            )
            for row in rows
        ]  # fmt: skip


def rejudge_outdated(session: Session, now: datetime) -> int:
    """Judges every cell anew where one that is here was last judged by an older judge; how many are judged differently.

    What was said before stays; the new judgement is added to it.
    """
    outdated = (
        select(CellRow.id)
        .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(CellRow.handed_over_at.is_(None), JudgementRow.judged_by < JUDGE_VERSION)
        .limit(1)
    )
    return rejudge_all(session, now) if session.scalar(outdated) is not None else 0


def rejudge_all(session: Session, now: datetime) -> int:
    """Judges every cell that is here under the rules in force; how many are judged differently now."""
    session.flush()
    rules, changed = rules_in_force(session), 0
    for batch in cells_here(session, for_update=True):
        rows = []
        for cell in batch:
            at = moment_of(cell.story, now)
            judgement = judge(cell.story, rules, at)
            changed += (judgement.grade, judgement.next_step.code) != (cell.grade, cell.next_step)
            rows.append(judgement_values(cell.id, judgement, rules, at))
        session.execute(_KEEP, {"rows": json.dumps(rows, default=str)})
    # What this session already holds was said under the rules before.
    session.expire_all()
    return changed
