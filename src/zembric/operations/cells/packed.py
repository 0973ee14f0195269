"""A cell as the rules of packs see it, from its row and its last judgement."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING, cast

from zembric.core.house.limits import Family
from zembric.core.pack.rules import PackedCell

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.grounds import Grade
    from zembric.models import CellRow, JudgementRow, Pack, PackCell


def packed_cell(cell: CellRow, now: datetime, *, in_pack: str | None = None, mark_allowed: bool = False) -> PackedCell:
    """`in_pack`: another pack that holds it; `mark_allowed`: a coordinator said yes to its mark for this one."""
    judged = cell.judgement
    return PackedCell(
        number=cell.number,
        grade=cast("Grade", judged.grade) if judged else "not-yet",
        step=step_of(judged, now),
        family=Family(cell.family) if cell.family else None,
        full_v=cell.full_v,
        resting_v=judged.resting_voltage_v if judged else None,
        is_on_shelf=cell.place is not None and cell.place.kind == "shelf-box",
        is_on_watch=judged is not None and any(reason["code"] == "watch" for reason in judged.reasons),
        is_from_vape=cell.donor.kind_row.judged_as == "vape",
        is_marked=judged is not None and judged.is_marked,
        mark_allowed=mark_allowed,
        recovery_proved=judged is None or judged.recovery_proved,
        in_pack=in_pack,
        resting_days=(now - judged.resting_voltage_at) / timedelta(days=1)
        if judged and judged.resting_voltage_at
        else 0.0,
        has_capacity=judged is not None and bool(judged.capacity_mah),
    )


def packed_member(member: PackCell, now: datetime) -> PackedCell:
    """A cell in its own pack."""
    return packed_cell(member.cell, now, mark_allowed=member.mark_allowed_by_id is not None)


def members_of(pack: Pack) -> list[PackCell]:
    """The cells that still belong to a pack, group by group."""
    return [member for group in pack.groups for member in group.cells if member.released_at is None]


def step_of(judged: JudgementRow | None, now: datetime) -> str:
    """What the judge says to do now, once a wait is over."""
    if judged is None:
        return "inspect"
    has_waited = judged.next_not_before is not None and judged.next_not_before <= now
    return judged.next_then if has_waited and judged.next_then else judged.next_step
