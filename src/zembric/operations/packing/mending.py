"""A pack that came back is mended with the fewest cells: which of the shelf does best in the place of one, by the run."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.identify.numbering import read_number
from zembric.core.match import sift
from zembric.core.pack.rules import refusals_to_join
from zembric.core.said import said
from zembric.operations.cells.packed import members_of, packed_cell, packed_member
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.proposals import job_of, pool_for
from zembric.operations.packing.checks import WhatIf, check_pack, take_up_pack
from zembric.operations.packing.outside import exchange_in_back
from zembric.operations.packing.packs import PackRefusedError, get_pack, lock_cells
from zembric.operations.packing.plans import request_of

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.match import Candidate
    from zembric.models import CellRow, Pack
    from zembric.operations.actors import Actor

#: So many of the shelf are tried in a run, and so many are told.
_TRIED, _TOLD = 8, 4


@dataclass(frozen=True, slots=True)
class MendWay:
    """A cell that could come, with how long the pack then runs on paper [h] (None: nobody said what it feeds)."""

    number: str
    capacity_mah: float
    resistance_mohm: float | None
    resting_v: float | None
    place: str | None
    hours: float | None


@dataclass(frozen=True, slots=True)
class MendWays:
    """Ways in the place of one cell, the best first, beside how long it runs on paper as it is [h]."""

    out: str
    hours_now: float | None
    ways: tuple[MendWay, ...]


def mend_ways(session: Session, pack: Pack, typed_out: str, now: datetime) -> MendWays:
    """Raises:
    BadInputError: the pack has no such cell.
    """
    out = read_number("cell", typed_out)
    member = next((each for each in members_of(pack) if each.cell.number == out), None)
    if member is None:
        raise BadInputError(said("cell-not-in-this-pack", cell=out), field="out")
    free, listed = _free(session, pack, now)
    near = sorted(free, key=lambda cell: (abs(cell.capacity_mah - member.capacity_mah), cell.key))[:_TRIED]
    ways = [_way(session, pack, out, candidate, listed[candidate.key], now) for candidate in near]
    ways.sort(key=lambda way: (-(way.hours or 0.0), way.capacity_mah))
    runs = take_up_pack(session, pack, now).runs
    return MendWays(out, runs.paper.lasts_s / 3600 if runs else None, tuple(ways[:_TOLD]))


def mend_back(session: Session, actor: Actor, typed: str, typed_out: str, typed_comes: str, now: datetime) -> Pack:
    """Exchanges a cell of a pack that came back for one that lies free on the shelf.

    Raises:
        ConflictError: the other is not free, may not take part, or stands too far from the group to be joined.
        BadInputError: a number that is none.
    """
    pack = get_pack(session, typed)
    out, comes = read_number("cell", typed_out), read_number("cell", typed_comes)
    lock_cells(session, [out, comes])
    free, listed = _free(session, pack, now)
    candidate = next((each for each in free if each.key == comes), None)
    if candidate is None:
        raise ConflictError(said("can-no-longer-take-part", missing=(comes,)), code="cells-gone", field="comes")
    _refuse_apart(session, pack, out, listed[comes], now)
    return exchange_in_back(session, actor, pack.number, out, listed[comes], candidate.capacity_mah, now)


def _refuse_apart(session: Session, pack: Pack, out: str, comes: CellRow, now: datetime) -> None:
    """Beside the cells of its group the new one is joined at once: as far apart as any that are joined, no further."""
    group = next((each for each in pack.groups if any(member.cell.number == out for member in each.cells)), None)
    stay = [packed_member(member, now) for member in group.cells if member.cell.number != out] if group else []
    if not stay:
        return
    refusals = refusals_to_join([*stay, packed_cell(comes, now)], rules_in_force(session))
    if refusals:
        raise PackRefusedError(pack.number, refusals)


def _free(session: Session, pack: Pack, now: datetime) -> tuple[list[Candidate], dict[str, CellRow]]:
    request, rules = replace(request_of(pack), only=()), rules_in_force(session)
    pool = pool_for(session, request, rules, now)
    conditions = replace(job_of(request, rules).conditions, pins={}, tolerance=None)
    inside = {member.cell.number for member in members_of(pack)}
    kept = sift(pool.candidates, conditions, 1, 1).eligible
    return [each for each in kept if each.key not in inside], {key: listed.cell for key, listed in pool.listed.items()}


def _way(session: Session, pack: Pack, out: str, comes: Candidate, cell: CellRow, now: datetime) -> MendWay:
    found = check_pack(session, pack, now, WhatIf(exchanges={out: comes.key}, quick=True)).checked.runs
    judged = cell.judgement
    return MendWay(
        comes.key, comes.capacity_mah, judged.resistance_mohm if judged else None,
        judged.resting_voltage_v if judged else None, cell.place.name if cell.place else None,
        found.paper.lasts_s / 3600 if found else None,
    )  # fmt: skip
