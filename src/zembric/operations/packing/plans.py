"""Plans: kept from a match with their cells reserved, told when they went stale, mended, and picked cell by cell."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
from sqlalchemy import select

from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
)
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.numbering import make_number, read_number
from zembric.core.match import (
    Candidate,
    Repair,
    broken_in_groups,
    repairs,
    sift,
    weakest_group_bound_mah,
)
from zembric.core.said import Amount, Said, named, one_after_another, said
from zembric.core.words import amount
from zembric.models import PACK_NUMBERS, Pack, PackCell, PackGroup, Wish
from zembric.operations.actors import require_coordinator
from zembric.operations.cells.stories import get_cell
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.proposals import MatchRequest, job_of, pool_for, request_from_json
from zembric.operations.packing.packs import (
    get_pack,
    is_changed,
    lock_cells,
    looks_stale,
    packs_in_state,
)
from zembric.operations.packing.parts import PartToKeep, write_parts
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.match import Conditions
    from zembric.operations.actors import Actor
    from zembric.operations.cells.listed import ListedCell


@dataclass(frozen=True, slots=True)
class PackToKeep:
    """A match that somebody wants to build: what for, under which rules, and the groups with their cells' numbers."""

    purpose: str
    request: MatchRequest
    groups: tuple[tuple[str, ...], ...]
    #: The wish it meets; None: none.
    wish_id: int | None = None
    #: What is known of what it feeds and was promised, from the need it came of.
    parts: tuple[PartToKeep, ...] = ()


@dataclass(frozen=True, slots=True)
class StaleCell:
    """A cell of a plan that is no longer what it was planned as; `reason` None: only its capacity is another."""

    number: str
    group: int
    reason: Said | None
    was_mah: float
    is_mah: float


@dataclass(frozen=True, slots=True)
class PlanState:
    """What became of a plan since it was made, and ways to mend it, the one with the fewest exchanges first."""

    stale: tuple[StaleCell, ...]
    weakest_mah: float
    repairs: tuple[Repair, ...]
    #: Where the cells lie that could come.
    places: Mapping[str, str]


def keep_pack(session: Session, actor: Actor, wanted: PackToKeep, now: datetime) -> Pack:
    """Keeps a match as a planned pack; its cells are reserved from now on.

    Raises:
        BadInputError: no purpose, or groups that are not series x parallel different cells.
        ConflictError: cells that went to another pack or changed meanwhile, with what would replace them; or groups
            that break a rule.
        DangerError: above what volunteers may build.
        NotAllowedError: above what may be built without a coordinator.
    """
    purpose = read_purpose(wanted.purpose)
    numbers = [number for group in wanted.groups for number in group]
    request = wanted.request
    shape_fits = len(wanted.groups) == request.series and all(len(group) == request.parallel for group in wanted.groups)
    if not shape_fits or len(set(numbers)) != len(numbers):
        raise BadInputError(
            said("s-p-needs-groups-of-different", series=request.series, parallel=request.parallel),
            field="groups",
        )
    lock_cells(session, numbers)
    rules = rules_in_force(session)
    pool = pool_for(session, request, rules, now)
    by_number = {candidate.key: candidate for candidate in pool.candidates}
    _refuse_gone(wanted, pool.candidates, rules)
    marked = [number for number in numbers if by_number[number].is_marked]
    if marked:
        require_coordinator(actor, said("doing-carry-mark-for-life", marked=tuple(marked)))
    refuse_too_large(actor, request, sum(by_number[number].capacity_mah for number in numbers))
    pack = Pack(
        number=make_number("pack", session.scalar(PACK_NUMBERS)),
        purpose=purpose,
        state="planned",
        series=request.series,
        parallel=request.parallel,
        request=request.as_json(),
        bound_mah=_bound_mah(pool.candidates, request, rules),
        made_at=now,
        made_by_id=actor.person_id,
    )
    for group_number, group in enumerate(wanted.groups, start=1):
        cells = [
            PackCell(
                position=position, cell=pool.listed[number].cell, capacity_mah=by_number[number].capacity_mah, released_at=None,
                mark_allowed_by_id=actor.person_id if number in marked else None,
                mark_allowed_why="" if number in marked else None,
            )
            for position, number in enumerate(group, start=1)
        ]  # fmt: skip
        pack.groups.append(PackGroup(number=group_number, cells=cells))
    session.add(pack)
    session.flush()
    if wanted.parts:
        write_parts(session, pack, wanted.parts)
    note(session, actor, "pack-kept", now, pack_id=pack.id, groups=[list(group) for group in wanted.groups])
    for number in numbers:
        note(session, actor, "reserved", now, cell_id=pool.listed[number].cell.id, pack_id=pack.id, pack=pack.number)
    if wanted.wish_id is not None:
        wish = session.get(Wish, wanted.wish_id, with_for_update={"of": Wish})
        if wish is not None and wish.closed_at is None:
            wish.closed_at, wish.pack_id = now, pack.id
    return pack


def read_purpose(typed: str) -> str:
    """Raises:
    BadInputError: nothing, or too long.
    """
    purpose = " ".join(typed.split())
    if not 1 <= len(purpose) <= 120:
        raise BadInputError(said("say-what-the-pack-is-for"), field="purpose")
    return purpose


# --- Stale, and mended -----------------------------------------------------------------------------------------------


def plan_state(session: Session, pack: Pack, now: datetime) -> PlanState | None:
    """What changed about the cells of a plan since it was made; None for a pack that is no plan any more."""
    if pack.state != "planned":
        return None
    laid = _laid(session, pack, now)
    gone = {cell.number for cell in laid.stale if cell.reason is not None}
    found = repairs(laid.groups, gone, laid.spare, laid.conditions) if laid.stale else ()
    weakest_mah = min(sum(cell.capacity_mah for cell in group) for group in laid.groups)
    places = {
        change.comes: place.name
        for repair in found
        for change in repair.exchanges
        if (place := laid.listed[change.comes].cell.place)
    }
    return PlanState(laid.stale, weakest_mah, found, places)


def stale_plans(session: Session, now: datetime) -> list[Pack]:
    """All plans that have to be looked at, the oldest first."""
    rules = rules_in_force(session)
    return [pack for pack in packs_in_state(session, "planned") if looks_stale(pack, now, rules)]


def repair_plan(
    session: Session,
    actor: Actor,
    typed: str,
    exchanges: Mapping[str, str],
    seen_version: int,
    now: datetime,
) -> Pack:
    """Exchanges cells of a plan, out to in, and takes today's capacities for all that stay.

    Raises:
        ChangedMeanwhileError: somebody changed the plan after it was seen.
        ConflictError: it is no plan any more, or what comes may not.
    """
    pack = _locked_plan(session, typed)
    if pack.version != seen_version:
        raise ChangedMeanwhileError(said("this-pack", pack=pack.number))
    members = {member.cell.number: member for group in pack.groups for member in group.cells}
    strangers = [number for number in exchanges if number not in members]
    if strangers:
        raise BadInputError(said("is-not-in-pack", strangers=tuple(strangers), pack=pack.number), field="exchanges")
    lock_cells(session, [*members, *exchanges.values()])
    laid = _laid(session, pack, now)
    by_number = {cell.key: cell for cell in (*laid.spare, *(cell for group in laid.groups for cell in group))}
    missing = [number for number in exchanges.values() if number not in by_number]
    if missing:
        raise ConflictError(said("can-no-longer-take-part", missing=tuple(missing)), code="cells-gone")
    after = [[by_number[exchanges.get(cell.key, cell.key)] for cell in group] for group in laid.groups]
    left_out, broken = broken_in_groups(after, laid.conditions)
    if left_out or broken:
        kept_out = [said("cells-that-cannot", cells=tuple(out.keys), why=out.reason) for out in left_out]
        raise ConflictError(one_after_another([*kept_out, *broken]))
    for out, comes in exchanges.items():
        member = members[out]
        note(session, actor, "let-go", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number)
        member.cell = laid.listed[comes].cell
        member.picked_at, member.picked_by_id = None, None
        note(session, actor, "reserved", now, cell_id=member.cell.id, pack_id=pack.id, pack=pack.number)
    for group in pack.groups:
        for member in group.cells:
            member.capacity_mah = by_number[member.cell.number].capacity_mah
    pack.version += 1
    note(session, actor, "pack-mended", now, pack_id=pack.id, exchanges=dict(exchanges))
    session.flush()
    return pack


@dataclass(frozen=True, slots=True)
class _Laid:
    groups: list[list[Candidate]]
    stale: tuple[StaleCell, ...]
    spare: tuple[Candidate, ...]
    listed: Mapping[str, ListedCell]
    conditions: Conditions


def _laid(session: Session, pack: Pack, now: datetime) -> _Laid:
    """A plan as it lies today: its groups, what is stale, and what could come."""
    request, rules = request_of(pack), rules_in_force(session)
    pool = pool_for(session, request, rules, now, own_pack=pack.number)
    conditions = job_of(request, rules).conditions
    here = {candidate.key: candidate for candidate in pool.candidates}
    planned = [list(group.cells) for group in pack.groups]
    own = {member.cell.number for group in planned for member in group}
    groups = [[here.get(member.cell.number) or _vanished(member) for member in group] for group in planned]
    left_out, _ = broken_in_groups(groups, replace(conditions, pins={}))
    reasons = {key: left.reason for left in left_out for key in left.keys}
    stale = tuple(
        StaleCell(cell.key, number, reasons.get(cell.key), member.capacity_mah, cell.capacity_mah)
        for number, (members, group) in enumerate(zip(planned, groups, strict=True), start=1)
        for member, cell in zip(members, group, strict=True)
        if cell.key in reasons or is_changed(cell.capacity_mah, member.capacity_mah, rules)
    )
    free = [candidate for candidate in pool.candidates if candidate.key not in own]
    stay = [cell for group in groups for cell in group if cell.key not in reasons]
    eligible = sift([*free, *stay], replace(conditions, pins={}), request.series, request.parallel).eligible
    spare = tuple(candidate for candidate in eligible if candidate.key not in own)
    return _Laid(groups, stale, spare, pool.listed, conditions)


def _vanished(member: PackCell) -> Candidate:
    """A cell that left the family or size it was planned as, or the house."""
    return Candidate(
        member.cell.number,
        member.capacity_mah,
        0.0,
        None,
        "not-yet",
        "",
        "",
        "",
        objection=named("objection", "not-here"),
    )


def request_of(pack: Pack) -> MatchRequest:
    """What was asked of a plan's cells; of old plans what they show."""
    if pack.request is not None:
        return request_from_json(pack.request)
    first = pack.groups[0].cells[0].cell
    return MatchRequest(pack.series, pack.parallel, Family(first.family or ""), first.size_code, "C")


# --- Picked ----------------------------------------------------------------------------------------------------------


def pick_list(pack: Pack) -> list[tuple[int, PackCell]]:
    """The cells of a plan in walking order, place by place and slot by slot, each with its group's number."""
    members = [(group.number, member) for group in pack.groups for member in group.cells if member.released_at is None]
    return sorted(
        members,
        key=lambda each: (
            each[1].cell.place.name if each[1].cell.place else "", each[1].cell.slot or 0, each[1].cell.id,
        ),
    )  # fmt: skip


def pick_cell(session: Session, actor: Actor, typed_pack: str, typed_cell: str, now: datetime) -> Pack:
    """Confirms that a cell of a plan was taken from its place.

    Raises:
        BadInputError: no cell's number.
        ConflictError: another cell than the plan's (`wrong-cell`), one picked before (`picked-before`), or no plan.
    """
    number = read_number("cell", typed_cell)
    pack = _locked_plan(session, typed_pack)
    members = {member.cell.number: (group.number, member) for group in pack.groups for member in group.cells}
    if number not in members:
        place = get_cell(session, number).place
        where = f" into {place.name}" if place else ""
        raise ConflictError(
            said("does-not-belong-to-this-pack", number=number, where=where),
            code="wrong-cell",
            field="cell",
        )  # fmt: skip
    group_number, member = members[number]
    if member.picked_at is not None:
        raise ConflictError(
            said("was-picked-before", number=number, group_number=group_number), code="picked-before", field="cell"
        )
    stale = {cell.number: cell.reason for cell in _laid(session, pack, now).stale}
    if reason := stale.get(number):
        raise ConflictError(said("picked-cell-no-longer-takes-part", number=number, reason=reason), code="wrong-cell")
    # Not a new version: what is fetched changes nothing that somebody plans meanwhile, and building asks for it itself.
    member.picked_at, member.picked_by_id = now, actor.person_id
    note(session, actor, "picked", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack


def put_back(session: Session, actor: Actor, typed_pack: str, typed_cell: str, now: datetime) -> Pack:
    """Takes a pick back."""
    number = read_number("cell", typed_cell)
    pack = _locked_plan(session, typed_pack)
    for group in pack.groups:
        for member in group.cells:
            if member.cell.number == number and member.picked_at is not None:
                member.picked_at, member.picked_by_id = None, None
                note(session, actor, "put-back", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack


def _locked_plan(session: Session, typed: str) -> Pack:
    pack = get_pack(session, typed)
    session.execute(select(Pack.id).where(Pack.id == pack.id).with_for_update(key_share=True))
    session.refresh(pack)
    if pack.state != "planned":
        raise ConflictError(said("pack-is-no-plan-any-more", pack=pack.number, state=pack.state))
    return pack


# --- What a plan must not be -----------------------------------------------------------------------------------------


def _refuse_gone(wanted: PackToKeep, candidates: Sequence[Candidate], rules: HouseRules) -> None:
    request, conditions = wanted.request, job_of(wanted.request, rules).conditions
    here = {candidate.key: candidate for candidate in candidates}
    numbers = [number for group in wanted.groups for number in group]
    # What was laid by hand may be outside a window that the matcher would choose, and inside one of its own.
    absent = [number for number in numbers if number not in here]
    groups = [[here[number] for number in group if number in here] for group in wanted.groups]
    left_out, broken = broken_in_groups([group for group in groups if group], conditions)
    reasons = dict.fromkeys(absent, named("objection", "not-here"))
    reasons |= {key: left.reason for left in left_out for key in left.keys}
    if not reasons and broken:
        raise ConflictError(one_after_another(broken), code="breaks-a-rule", field="groups")
    if not reasons:
        return
    error = ConflictError(
        said(
            "these-cells-can-no-longer-take",
            value=tuple(said("pinned-out", cell=number, why=reason) for number, reason in reasons.items()),
        ),
        code="cells-gone",
    )
    if not absent:
        whole = [[here[number] for number in group] for group in wanted.groups]
        spare = [
            candidate
            for candidate in sift(candidates, conditions, request.series, request.parallel).eligible
            if candidate.key not in numbers
        ]
        error.ways = tuple(
            (
                f"instead:{change.out}:{change.comes}",
                said(
                    "way-instead",
                    comes=change.comes,
                    capacity=Amount(here[change.comes].capacity_mah, "mAh"),
                    out=change.out,
                ),
            )
            for repair in repairs(whole, set(reasons), spare, conditions)[:1]
            for change in repair.exchanges
        )
    raise error


def refuse_too_large(actor: Actor, request: MatchRequest, total_mah: float) -> None:
    """Raises:
    DangerError: above what volunteers may build.
    NotAllowedError: above what may be built without a coordinator.
    """
    full_v = request.series * limits.FULL_V[request.family].value
    energy_wh = total_mah / 1000 * limits.NOMINAL_V[request.family].value
    size = f"{amount(full_v, 'V', 1)} full and {amount(energy_wh, 'Wh')}"
    if full_v > limits.PACK_FULL_MOST_V.value or energy_wh > limits.PACK_ENERGY_MOST_WH.value:
        raise DangerError(
            said(
                "is-more-than-volunteers-may-build",
                size=size,
                pack_full_most=Amount(limits.PACK_FULL_MOST_V.value, "V"),
                pack_energy_most=Amount(limits.PACK_ENERGY_MOST_WH.value, "Wh"),
            )
        )
    if full_v > limits.PACK_FULL_V.value or energy_wh > limits.PACK_ENERGY_WH.value:
        require_coordinator(
            actor,
            said(
                "doing-pack-of-above-or",
                size=size,
                pack_full=Amount(limits.PACK_FULL_V.value, "V"),
                pack_energy=Amount(limits.PACK_ENERGY_WH.value, "Wh"),
            ),
        )


def _bound_mah(candidates: Sequence[Candidate], request: MatchRequest, rules: HouseRules) -> float:
    """The bound over all cells that may take part, not only the chosen ones."""
    conditions = job_of(request, rules).conditions
    eligible = sift(candidates, conditions, request.series, request.parallel).eligible
    capacities = np.array([candidate.capacity_mah for candidate in eligible], dtype=np.float64)
    return weakest_group_bound_mah(capacities, request.series, request.parallel)
