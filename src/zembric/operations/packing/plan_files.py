"""A pack's plan as it goes into files and onto paper."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.said import from_json
from zembric.files.plans import PlanFile, PlannedCell, PlannedPart, Waived
from zembric.operations.packing.checks import check_pack
from zembric.operations.packing.packs import get_pack
from zembric.operations.packing.plans import pick_list, request_of

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack, PackCell


def plan_file(session: Session, typed: str, now: datetime) -> PlanFile:
    """Raises:
    NotFoundError: there is no such pack.
    """
    pack = get_pack(session, typed)
    request = request_of(pack)
    return PlanFile(
        number=pack.number,
        purpose=pack.purpose,
        state=pack.state,
        family=request.family.value,
        series=pack.series,
        parallel=pack.parallel,
        full_v=request.full_v,
        bound_mah=pack.bound_mah,
        groups=tuple(tuple(_planned(member) for member in group.cells) for group in pack.groups),
        parts=tuple(PlannedPart(part.kind, part.name, part.figures) for part in pack.parts),
        waivers=_waivers(session, pack, now),
        walk=tuple(member.cell.number for _, member in pick_list(pack)),
    )


def _waivers(session: Session, pack: Pack, now: datetime) -> tuple[Waived, ...]:
    if not pack.waivers:
        return ()
    holding = check_pack(session, pack, now).waived.values()
    return tuple(
        Waived(each.check, from_json(each.finding), each.why, each.by.name, each.at, each in holding)
        for each in pack.waivers
    )


def _planned(member: PackCell) -> PlannedCell:
    cell, judged = member.cell, member.cell.judgement
    return PlannedCell(
        cell_id=cell.number,
        capacity_mah=member.capacity_mah,
        capacity_u_mah=judged.capacity_u_mah if judged else None,
        ir_mohm=judged.resistance_mohm if judged else None,
        size=cell.size_code,
        place=cell.place.name if cell.place else None,
        slot=cell.slot,
        is_picked=member.picked_at is not None,
    )
