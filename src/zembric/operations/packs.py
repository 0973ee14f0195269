"""Packs: kept from a match, built, given out, taken back, taken apart; their cells follow. And what goes to the recycler."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import selectinload

from zembric.core import limits
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError, DangerError, NotFoundError
from zembric.core.matching import weakest_group_bound_mah
from zembric.core.numbering import make_number, read_number
from zembric.core.words import amount, listed
from zembric.models import PACK_NUMBERS, CellRow, Happening, Pack, PackCell, PackGroup, Place
from zembric.operations.actors import require_coordinator
from zembric.operations.cells import CellFilter, candidates
from zembric.operations.judging import rules_in_force
from zembric.operations.matching import MatchRequest, lock_cells, why_not
from zembric.operations.places import place_of_kind
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session
    from sqlalchemy.sql.base import ExecutableOption

    from zembric.core.rules import HouseRules
    from zembric.operations.actors import Actor
    from zembric.operations.cells import ListedCell

#: What may follow what.
NEXT_STATES = MappingProxyType(
    {
        "planned": ("built", "dropped"),
        "built": ("given-out", "taken-apart"),
        "given-out": ("back",),
        "back": ("given-out", "taken-apart"),
        "taken-apart": (),
        "dropped": (),
    }
)
_HANDS_BACK_CELLS = frozenset({"taken-apart", "dropped"})


@dataclass(frozen=True, slots=True)
class PackToKeep:
    """A match that somebody wants to build: what for, under which rules, and the groups with their cells' numbers."""

    purpose: str
    request: MatchRequest
    groups: tuple[tuple[str, ...], ...]


def keep_pack(session: Session, actor: Actor, wanted: PackToKeep, now: datetime) -> Pack:
    """Keeps a match as a planned pack; its cells are reserved from now on.

    Raises:
        BadInputError: no purpose, or groups that are not series x parallel different cells.
        ConflictError: cells that went to another pack or changed meanwhile; names them.
        DangerError: above what volunteers may build.
        NotAllowedError: above what may be built without a coordinator.
    """
    purpose = " ".join(wanted.purpose.split())
    if not 1 <= len(purpose) <= 120:
        raise BadInputError("Say what the pack is for, in 120 characters at most.", field="purpose")
    numbers = [number for group in wanted.groups for number in group]
    series, parallel = wanted.request.series, wanted.request.parallel
    shape_fits = len(wanted.groups) == series and all(len(group) == parallel for group in wanted.groups)
    if not shape_fits or len(set(numbers)) != len(numbers):
        raise BadInputError(
            f"{series}S{parallel}P needs {series} groups of {parallel} different cells.", field="groups"
        )
    lock_cells(session, numbers)
    here = {found.cell.number: found for found in candidates(session, _same_kind(wanted.request), now)}
    rules = rules_in_force(session)
    _refuse_gone(numbers, here, wanted.request, rules)
    capacities = {number: _capacity_mah(here[number]) for number in numbers}
    _refuse_too_large(actor, wanted, capacities)
    pack = Pack(
        number=make_number("pack", session.scalar(PACK_NUMBERS)),
        purpose=purpose,
        state="planned",
        series=series,
        parallel=parallel,
        bound_mah=_bound_mah(here, wanted.request, rules),
        made_at=now,
        made_by_id=actor.person_id,
    )
    for group_number, group in enumerate(wanted.groups, start=1):
        cells = [
            PackCell(position=position, cell=here[number].cell, capacity_mah=capacities[number], released_at=None)
            for position, number in enumerate(group, start=1)
        ]
        pack.groups.append(PackGroup(number=group_number, cells=cells))
    session.add(pack)
    session.flush()
    note(session, actor, "pack-kept", now, pack_id=pack.id, groups=[list(group) for group in wanted.groups])
    for number in numbers:
        note(session, actor, "reserved", now, cell_id=here[number].cell.id, pack_id=pack.id, pack=pack.number)
    return pack


def move_pack(
    session: Session, actor: Actor, typed: str, state: str, seen_version: int, now: datetime, why: str | None = None
) -> Pack:
    """Takes a pack to its next state; the cells follow it out of their boxes and back.

    Raises:
        ChangedMeanwhileError: somebody moved it after it was seen.
        ConflictError: that state does not follow.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.version != seen_version:
        raise ChangedMeanwhileError(f"Pack {pack.number}")
    allowed = NEXT_STATES[pack.state]
    if state not in allowed:
        raise ConflictError(
            f"Pack {pack.number} is {pack.state}; after that it can be {' or '.join(allowed) or 'nothing else'}."
        )
    members = [member for group in pack.groups for member in group.cells if member.released_at is None]
    box = place_of_kind(session, "shelf-box") if state == "taken-apart" else None
    for member in members:
        if state in ("built", "taken-apart"):
            member.cell.place, member.cell.slot = box, None
        if state in _HANDS_BACK_CELLS:
            member.released_at = now
        note(session, actor, f"pack-{state}", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number)
    pack.state = state
    note(session, actor, f"pack-{state}", now, pack_id=pack.id, why=why)
    session.flush()
    return pack


def get_pack(session: Session, typed: str) -> Pack:
    number = read_number("pack", typed)
    pack = session.scalar(select(Pack).where(Pack.number == number).options(*_with_cells()))
    if pack is None:
        raise NotFoundError(f"There is no pack {number}.")
    return pack


def all_packs(session: Session) -> Sequence[Pack]:
    """All packs, newest first."""
    return session.scalars(select(Pack).options(*_with_cells()).order_by(Pack.id.desc()).limit(200)).all()


def pack_happenings(session: Session, pack: Pack) -> Sequence[Happening]:
    query = select(Happening).where(Happening.pack_id == pack.id, Happening.cell_id.is_(None))
    return session.scalars(query.order_by(Happening.at, Happening.id)).all()


def hand_over(session: Session, actor: Actor, place_id: int, taped: bool, now: datetime) -> int:
    """Everything in the out-box or the fire-safe box goes to the recycler; returns how many cells.

    Raises:
        NotAllowedError: not a coordinator.
        DangerError: the terminals are not taped.
        ConflictError: the box is empty, or it is no such box.
    """
    require_coordinator(actor, "Handing cells to the recycler")
    if not taped:
        raise DangerError(
            "Tape both ends of every cell first; loose cells short one another on the way.", field="taped"
        )
    box = session.get(Place, place_id)
    if box is None or box.kind not in ("out-box", "fire-safe-box"):
        raise ConflictError("Only the out-box and the fire-safe box go to the recycler.")
    cells = session.scalars(
        select(CellRow).where(CellRow.place_id == box.id).order_by(CellRow.id).with_for_update(of=CellRow)
    ).all()
    if not cells:
        raise ConflictError(f"The {box.name.lower()} is empty.")
    for cell in cells:
        cell.place, cell.slot, cell.handed_over_at = None, None, now
        note(session, actor, "handed-over", now, cell_id=cell.id, box=box.name)
    return len(cells)


def _with_cells() -> tuple[ExecutableOption, ...]:
    members = selectinload(Pack.groups).selectinload(PackGroup.cells).joinedload(PackCell.cell, innerjoin=True)
    return (members.joinedload(CellRow.judgement), members.joinedload(CellRow.place))


def _same_kind(request: MatchRequest) -> CellFilter:
    return CellFilter(size_code=request.size_code, family=request.family)


def _refuse_gone(numbers: Sequence[str], here: dict[str, ListedCell], request: MatchRequest, rules: HouseRules) -> None:
    gone = [
        f"{number} ({reason})"
        for number in numbers
        if (reason := why_not(here[number], request, rules) if number in here else "not here any more")
    ]
    if gone:
        raise ConflictError(
            f"These cells can no longer take part: {listed(gone)}. Nothing was reserved; match again.",
            code="cells-gone",
        )


def _refuse_too_large(actor: Actor, wanted: PackToKeep, capacities: dict[str, float]) -> None:
    family, series = wanted.request.family, wanted.request.series
    full_v = series * limits.FULL_V[family].value
    energy_wh = sum(capacities.values()) / 1000 * limits.NOMINAL_V[family].value
    size = f"{amount(full_v, 'V', 1)} full and {amount(energy_wh, 'Wh')}"
    if full_v > limits.PACK_FULL_MOST_V.value or energy_wh > limits.PACK_ENERGY_MOST_WH.value:
        raise DangerError(
            f"{size} is more than volunteers may build: {amount(limits.PACK_FULL_MOST_V.value, 'V')} and "
            f"{amount(limits.PACK_ENERGY_MOST_WH.value, 'Wh')} at most. This is work for a licensed professional."
        )
    if full_v > limits.PACK_FULL_V.value or energy_wh > limits.PACK_ENERGY_WH.value:
        require_coordinator(
            actor,
            f"A pack of {size}, above {amount(limits.PACK_FULL_V.value, 'V')} or {amount(limits.PACK_ENERGY_WH.value, 'Wh')},",
        )


def _bound_mah(here: dict[str, ListedCell], request: MatchRequest, rules: HouseRules) -> float:
    """The bound over all cells that may take part, not only the chosen ones."""
    capacities = [_capacity_mah(found) for found in here.values() if why_not(found, request, rules) is None]
    return weakest_group_bound_mah(np.array(capacities, dtype=np.float64), request.series, request.parallel)


def _capacity_mah(found: ListedCell) -> float:
    judged = found.cell.judgement
    return judged.capacity_mah if judged and judged.capacity_mah else 0.0
