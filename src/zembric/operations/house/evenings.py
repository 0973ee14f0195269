"""What a stretch of time brought: opened, tested, shelved, out, and what it is worth; which donors are worth opening."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import and_, case, func, select
from sqlalchemy.orm import aliased

from zembric.core.house.limits import NOMINAL_V, Family
from zembric.models import CellRow, Donor, DonorKindRow, Entry, JudgementRow, ReadingEntry, Standing, StepEntry

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy import ColumnElement, Subquery
    from sqlalchemy.orm import Session


@dataclass(frozen=True, slots=True)
class KindBrought:
    """One kind of donor: what was opened of it and what came of its cells; `mean_mah` of those that were measured."""

    kind: str
    donors: int
    cells: int
    shelved: int
    out: int
    mean_mah: float | None


@dataclass(frozen=True, slots=True)
class Brought:
    """What came since a time. Energy [Wh] at the family's nominal voltage, of cells that were shelved."""

    donors: int
    cells: int
    tested: int
    shelved: int
    out: int
    rescued_mah: float
    rescued_wh: float
    overdue: int
    by_kind: tuple[KindBrought, ...]


def brought_since(session: Session, since: datetime, now: datetime) -> Brought:
    """Sums of everything from `since` on; by kind of donor over the donors that were opened since then."""
    donors, cells = session.execute(
        select(func.count(Donor.id.distinct()), func.count(CellRow.id))
        .select_from(Donor).join(CellRow, CellRow.donor_id == Donor.id).where(Donor.opened_at >= since)
    ).one()  # fmt: skip
    tested, shelved = _tested(since), _shelved(since)
    nominal_v = case(
        *((CellRow.family == family.value, limit.value) for family, limit in NOMINAL_V.items()),
        else_=NOMINAL_V[Family.LAYERED_OXIDE].value,
    )
    mah, mwh, count = session.execute(
        select(func.sum(JudgementRow.capacity_mah), func.sum(JudgementRow.capacity_mah * nominal_v), func.count())
        .select_from(CellRow)
        .join(shelved, shelved.c.cell_id == CellRow.id)
        .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
    ).one()  # fmt: skip
    overdue = select(func.count()).select_from(Standing).where(Standing.overdue_at < now)
    return Brought(
        donors=donors, cells=cells,
        tested=session.scalar(select(func.count()).select_from(tested)) or 0,
        shelved=count,
        out=session.scalar(select(func.count()).select_from(_out(since))) or 0,
        rescued_mah=mah or 0.0, rescued_wh=(mwh or 0.0) / 1000,
        overdue=session.scalar(overdue) or 0,
        by_kind=_by_kind(session, since),
    )  # fmt: skip


def _counts() -> ColumnElement[bool]:
    """An entry that was neither corrected nor taken back."""
    superseder = aliased(Entry)
    return ~select(superseder.id).where(superseder.supersedes_id == Entry.id).exists()


def _tested(since: datetime) -> Subquery:
    return (
        select(ReadingEntry.cell_id)
        .where(
            ReadingEntry.quantity == "capacity", ReadingEntry.at >= since, ReadingEntry.conditions["complete"].as_boolean(), _counts()
        )
        .distinct().subquery()
    )  # fmt: skip


def _shelved(since: datetime) -> Subquery:
    return (
        select(StepEntry.cell_id)
        .where(StepEntry.step == "shelved", StepEntry.at >= since, _counts())
        .distinct()
        .subquery()
    )


def _out(since: datetime) -> Subquery:
    """Cells that were judged out for the first time since then, and still are."""
    now, first, before = JudgementRow, aliased(JudgementRow), aliased(JudgementRow)
    was_out = select(before.id).where(before.cell_id == CellRow.id, before.grade == "out", before.at < since)
    return (
        select(CellRow.id)
        .join(first, and_(first.cell_id == CellRow.id, first.grade == "out", first.at >= since))
        .join(now, and_(now.id == CellRow.judgement_id, now.grade == "out"))
        .where(~was_out.exists())
        .distinct()
        .subquery()
    )


def _by_kind(session: Session, since: datetime) -> tuple[KindBrought, ...]:
    shelved = select(StepEntry.id).where(StepEntry.cell_id == CellRow.id, StepEntry.step == "shelved", _counts())
    count_shelved = func.count().filter(shelved.exists())
    rows = session.execute(
        select(
            DonorKindRow.name, func.count(Donor.id.distinct()), func.count(), count_shelved,
            func.count().filter(JudgementRow.grade == "out"),
            func.avg(JudgementRow.capacity_mah),
        )
        .select_from(Donor)
        .join(DonorKindRow, DonorKindRow.code == Donor.kind)
        .join(CellRow, CellRow.donor_id == Donor.id)
        .outerjoin(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(Donor.opened_at >= since)
        .group_by(DonorKindRow.name, DonorKindRow.position)
        .order_by(count_shelved.desc(), DonorKindRow.position)
    )  # fmt: skip
    return tuple(KindBrought(*row) for row in rows)
