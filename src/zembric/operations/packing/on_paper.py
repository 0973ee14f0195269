"""A pack that is kept, run on paper with what is known of its cells now."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.house.limits import Family
from zembric.core.measure.entry_checks import read_number
from zembric.core.pack.on_paper import PaperCell, PaperLoad, PaperRun, StartsFrom, run_on_paper
from zembric.core.run import Load
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.needs import QUANTITY_OF_LOAD
from zembric.operations.packing.packs import get_pack

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.core.run import LoadKind
    from zembric.models import PackCell


@dataclass(frozen=True, slots=True)
class TypedRun:
    """A load as it was typed (mA, W or Ohm by its kind), and where the run starts from."""

    load_kind: LoadKind
    load: str
    starts_from: StartsFrom


def paper_run(session: Session, typed_pack: str, typed: TypedRun) -> PaperRun:
    """The run of a pack under a load; nothing is kept.

    Raises:
        BadInputError: a load that cannot be read, or a pack that cannot be run.
        ConflictError: what is known of its cells does not suffice.
    """
    pack = get_pack(session, typed_pack)
    value = read_number(typed.load, QUANTITY_OF_LOAD[typed.load_kind], "load")
    load = Load(typed.load_kind, value / 1000 if typed.load_kind == "current" else value)
    groups = [[_paper_cell(member) for member in group.cells] for group in pack.groups]
    family = Family(pack.groups[0].cells[0].cell.family or "")
    return run_on_paper(groups, family, PaperLoad(load), typed.starts_from, rules_in_force(session))


def _paper_cell(member: PackCell) -> PaperCell:
    judged = member.cell.judgement
    return PaperCell(
        number=member.cell.number,
        capacity_mah=member.capacity_mah,
        capacity_u_mah=(judged.capacity_u_mah if judged else None) or 0.0,
        resistance_mohm=judged.resistance_mohm if judged else None,
        resistance_u_mohm=judged.resistance_u_mohm if judged else None,
        resistance_method=judged.resistance_method if judged else None,
        resting_v=judged.resting_voltage_v if judged else None,
        carries_a=judged.carries_a if judged else None,
    )
