"""The cells of a pack as a run on paper and joining take them."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v
from zembric.core.pack.joining import Joining, plan_joining
from zembric.core.pack.on_paper import PaperCell
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import CellRow, Pack


def paper_groups(pack: Pack, now: datetime) -> list[list[PaperCell]]:
    """Group by group, with the capacities it was matched by."""
    return [[paper_cell(member.cell, member.capacity_mah, now) for member in group.cells] for group in pack.groups]


def paper_cell(cell: CellRow, capacity_mah: float, now: datetime) -> PaperCell:
    judged = cell.judgement
    read_at = judged.resting_voltage_at if judged else None
    return PaperCell(
        number=cell.number,
        capacity_mah=capacity_mah,
        capacity_u_mah=(judged.capacity_u_mah if judged else None) or 0.0,
        resistance_mohm=judged.resistance_mohm if judged else None,
        resistance_u_mohm=judged.resistance_u_mohm if judged else None,
        resistance_method=judged.resistance_method if judged else None,
        resting_v=judged.resting_voltage_v if judged else None,
        carries_a=judged.carries_a if judged else None,
        resting_days=(now - read_at) / timedelta(days=1) if read_at else 0.0,
    )


def kind_of(pack: Pack) -> tuple[Family, float]:
    """The family of a pack's cells, and their full voltage [V]."""
    first = pack.groups[0].cells[0].cell
    family = Family(first.family or "")
    return family, full_voltage_v(family, first.full_v) or 0.0


def joining_of(session: Session, pack: Pack, now: datetime) -> Joining:
    """What would flow when a pack's cells are joined as they rest now, and the ways to make them even before.

    Raises:
        ConflictError: a cell has no fresh resting voltage, or no resistance.
    """
    return plan_joining(paper_groups(pack, now), *kind_of(pack), rules_in_force(session))
