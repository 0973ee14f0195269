"""Packs: built, given out, taken back, taken apart; their cells follow. And what goes to the recycler. Plans: see plans.py."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from sqlalchemy import or_, select
from sqlalchemy.orm import selectinload

from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotFoundError,
)
from zembric.core.house.limits import CHANGED_PCT
from zembric.core.identify.numbering import read_number as read_number_of
from zembric.core.pack.rules import Refusal, refusals_by_checks, refusals_to_build, refusals_to_give_out
from zembric.core.pack.states import NEXT_STATES
from zembric.core.said import OneOf, Said, all_of, as_said, from_json, named, one_after_another, said, to_json
from zembric.models import CellRow, Happening, Pack, PackCell, PackGroup, PackReport, Person, Place
from zembric.operations.actors import require_coordinator, require_them
from zembric.operations.bench.keeping import WHY_MOST, keep_step
from zembric.operations.cells.packed import members_of, packed_member, step_of
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing.acts import wrong_steps
from zembric.operations.packing.checks import open_stops, take_up_pack, waive
from zembric.operations.packing.parts import take_up_parts, write_parts
from zembric.operations.packing.recalls import recalls_of
from zembric.operations.places import place_of_kind
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session
    from sqlalchemy.sql.base import ExecutableOption

    from zembric.core.house.rules import HouseRules
    from zembric.operations.actors import Actor
    from zembric.operations.packing.parts import PartToKeep

_HANDS_BACK_CELLS = frozenset({"taken-apart", "dropped"})
_HOLDER_MOST = 200


@dataclass(frozen=True, slots=True)
class PackMove:
    """Where a pack goes next, as it was seen, with what belongs to it: why it is taken apart, who gets it, what it does there."""

    state: str
    seen_version: int
    why: str | None = None
    given_to: str | None = None
    job: str | None = None


class PackRefusedError(ConflictError):
    """A pack goes no further than its cells; each refusal says what to do."""

    code = "pack-not-ready"

    def __init__(self, number: str, refusals: Sequence[Refusal]) -> None:
        told = [said("one-after-another", first=refusal.said, then=refusal.to_do) for refusal in refusals]
        super().__init__(one_after_another(told))
        self.number = number
        self.ways = tuple((f"refused:{refusal.code}", text) for refusal, text in zip(refusals, told, strict=True))


#: What ends or gives away what others worked on.
_OF_ITS_PLANNER = frozenset({"dropped", "given-out", "taken-apart"})


def move_pack(session: Session, actor: Actor, typed: str, move: PackMove, now: datetime) -> Pack:
    """Takes a pack to its next state; the cells follow it out of their boxes and back.

    Raises:
        ChangedMeanwhileError: somebody moved it after it was seen.
        NotAllowedError: dropping it, giving it out and taking it apart are for whoever planned it, or a coordinator.
        ConflictError: that state does not follow.
        PackRefusedError: its cells do not allow it; says what to do.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.version != move.seen_version:
        raise ChangedMeanwhileError(said("this-pack", pack=pack.number))
    if move.state in _OF_ITS_PLANNER:
        require_them(actor, session.get_one(Person, pack.made_by_id), said("doing-moving-pack"))
    allowed = NEXT_STATES[pack.state]
    if move.state not in allowed:
        raise ConflictError(_not_after(pack, allowed))
    members = members_of(pack)
    lock_cells(session, [member.cell.number for member in members])
    for member in members:
        session.refresh(member.cell, ["judgement", "place"])
    refusals = refusals_to_move(session, pack, move.state, now)
    if move.state in ("built", "given-out"):
        refusals += refusals_by_checks([line.name for line in open_stops(session, pack, now)])
    if refusals:
        raise PackRefusedError(pack.number, refusals)
    if move.state == "given-out":
        pack.given_to, pack.job = _read_words(move.given_to, "given_to"), _read_words(move.job, "job")
    pack.proving_since = now if move.state in ("built", "back") else pack.proving_since
    if move.state in ("back", "taken-apart"):
        pack.commissioning, pack.commissioned_at, pack.commissioned_by_id = None, None, None
    did = _what_it_did(session, pack, now) if move.state == "taken-apart" else {}
    for member in members:
        _follow(session, actor, pack, member, move.state, now, did.get(member.cell.number, {}))
    if move.state in ("built", "taken-apart"):
        take_up_parts(session, pack, now if move.state == "built" else None)
    pack.state = move.state
    note(session, actor, f"pack-{move.state}", now, pack_id=pack.id, why=move.why)
    session.flush()
    return pack


def refusals_to_move(session: Session, pack: Pack, state: str, now: datetime) -> tuple[Refusal, ...]:
    """Why a pack may not go on to a state, as its cells are now; nothing: it may."""
    members = members_of(pack)
    cells = [packed_member(member, now) for member in members]
    called_back = [recalled.recall.why for recalled in recalls_of(session, pack)]
    if state == "built":
        unpicked = [member.cell.number for member in members if member.picked_at is None]
        rules = rules_in_force(session)
        return refusals_to_build(
            cells, is_stale=looks_stale(pack, now, rules), unpicked=unpicked, rules=rules,
            wrong_steps=len(wrong_steps(session, pack)), called_back=called_back,
        )  # fmt: skip
    if state == "given-out":
        return refusals_to_give_out(
            cells, stopped=stopped_of(pack), is_commissioned=pack.commissioned_at is not None, called_back=called_back
        )
    return ()


def looks_stale(pack: Pack, now: datetime, rules: HouseRules) -> bool:
    """Whether a plan has to be looked at, by its own cells alone: for lists, where nobody asks for ways to mend it."""
    if pack.state != "planned":
        return False
    least_grade = (pack.request or {}).get("least_grade", "C")
    for member in members_of(pack):
        cell, judged = packed_member(member, now), member.cell.judgement
        if judged is None or cell.grade not in ("A", "B", "C") or cell.grade > least_grade or not cell.is_on_shelf:
            return True
        if cell.step not in ("keep", "recheck") or is_changed(judged.capacity_mah or 0, member.capacity_mah, rules):
            return True
    return False


def is_changed(is_mah: float, was_mah: float, rules: HouseRules) -> bool:
    """Whether a capacity is told as another one than a plan was made with."""
    return abs(is_mah / was_mah - 1) * 100 > rules.value(CHANGED_PCT)


def _what_it_did(session: Session, pack: Pack, now: datetime) -> dict[str, dict[str, float]]:
    """What a pack did to each of its cells: group, days in it, most current by the run on paper, last voltage of its group."""
    since = session.scalar(
        select(Happening.at).where(Happening.pack_id == pack.id, Happening.what == "pack-built", Happening.cell_id.is_(None))
        .order_by(Happening.id.desc()).limit(1)
    )  # fmt: skip
    runs = take_up_pack(session, pack, now).runs
    peaks = {cell.key: cell.peak_discharge_a for group in runs.paper.run.groups for cell in group.cells} if runs else {}
    report = session.scalar(
        select(PackReport).where(PackReport.pack_id == pack.id, PackReport.kind == "back").order_by(PackReport.id.desc()).limit(1)
    )  # fmt: skip
    volts = report.figures.get("group_volts", []) if report else []
    did: dict[str, dict[str, float]] = {}
    for group in pack.groups:
        for member in group.cells:
            told = {"group": float(group.number), "days": float((now - (since or pack.made_at)).days)}
            if member.cell.number in peaks:
                told["peak_a"] = round(peaks[member.cell.number], 2)
            if volts:
                told["group_v"] = volts[group.number - 1]
            did[member.cell.number] = told
    return did


def _follow(
    session: Session, actor: Actor, pack: Pack, member: PackCell, state: str, now: datetime, did: Mapping[str, Any]
) -> None:
    """One cell follows its pack: out of its box, to where it belongs once it is loose again."""
    cell = member.cell
    if state == "built":
        cell.place, cell.slot = None, None
    if state in _HANDS_BACK_CELLS:
        member.released_at = now
    note(session, actor, f"pack-{state}", now, cell_id=cell.id, pack_id=pack.id, pack=pack.number, **did)
    if state == "back":
        keep_step(session, actor, cell, "came-back", {"source": "pack"}, now)
    if state == "taken-apart":
        session.flush()
        source = "stopped" if pack.stopped_at else "pack"
        keep_step(session, actor, cell, "came-back", {"source": source}, now)
        kind = {"fire-safe-box": "fire-safe-box", "out-box": "out-box"}.get(step_of(cell.judgement, now), "holding-box")
        cell.place, cell.slot = place_of_kind(session, kind), None
        note(session, actor, "moved", now, cell_id=cell.id, place=cell.place.name)


def stop_pack(session: Session, actor: Actor, typed: str, why: str, now: datetime) -> Pack:
    """Somebody says that a built pack is dangerous: it swells, it is hot, it smells. Nobody needs to know which cell.

    Raises:
        ConflictError: it was not built, or it is stopped already.
        BadInputError: no reason.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.state not in ("built", "given-out", "back"):
        raise ConflictError(said("pack-was-not-built", pack=pack.number, state=pack.state))
    if pack.stopped_at is not None:
        raise ConflictError(said("pack-stopped-already", pack=pack.number, why=from_json(pack.stopped_why or {})))
    why = " ".join(why.split())
    if not 3 <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-what-is-wrong", why=WHY_MOST), field="why")
    pack.stopped_at, pack.stopped_by_id, pack.stopped_why = now, actor.person_id, to_json(as_said(why))
    note(session, actor, "pack-stopped", now, pack_id=pack.id, pack=pack.number, why=why)
    session.flush()
    return pack


def set_parts(
    session: Session, actor: Actor, typed: str, parts: Sequence[PartToKeep], seen_version: int, now: datetime
) -> Pack:
    """What a pack is built from and for; the whole list takes the place of the one before.

    Raises:
        ChangedMeanwhileError: somebody changed the pack after it was seen.
        ConflictError: it is out of the house or no more, or a donor's part is not to be had.
        BadInputError: a part cannot be.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.version != seen_version:
        raise ChangedMeanwhileError(said("this-pack", pack=pack.number))
    if pack.state not in ("planned", "built", "back"):
        raise ConflictError(said("parts-not-in-state", pack=pack.number, state=named("pack-state", pack.state)))
    write_parts(session, pack, parts)
    if pack.state != "planned":
        take_up_parts(session, pack, now)
    pack.version += 1
    note(session, actor, "pack-parts-changed", now, pack_id=pack.id, pack=pack.number, parts=len(parts))
    session.flush()
    return pack


def waive_check(session: Session, actor: Actor, typed: str, check: str, why: str, now: datetime) -> Pack:
    """As `waive`, for the pack of this number."""
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    waive(session, actor, pack, check, why, now)
    return pack


def stopped_of(pack: Pack) -> Said | None:
    """Why a pack is stopped; None: it is not."""
    return from_json(pack.stopped_why) if pack.stopped_why else None


def stopped_packs(session: Session) -> Sequence[Pack]:
    """The recall list: all packs that are stopped and not taken apart, those out of the house first."""
    query = select(Pack).where(Pack.stopped_at.is_not(None), Pack.state.in_(("built", "given-out", "back")))
    packs = session.scalars(query.options(*_with_cells()).order_by(Pack.stopped_at)).all()
    return sorted(packs, key=lambda pack: pack.state != "given-out")


def allow_mark(session: Session, actor: Actor, typed: str, typed_cell: str, why: str, now: datetime) -> Pack:
    """A coordinator's yes to a cell with a mark for life, for this plan only.

    Raises:
        NotAllowedError: not a coordinator.
        ConflictError: no plan, or no such cell in it.
    """
    require_coordinator(actor, said("doing-saying-yes-to-cell"))
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    number = read_number_of("cell", typed_cell)
    member = next((each for each in members_of(pack) if each.cell.number == number), None)
    if pack.state != "planned" or member is None:
        raise ConflictError(said("is-in-no-plan", number=number, pack=pack.number))
    why = " ".join(why.split())
    if not 3 <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=WHY_MOST), field="why")
    member.mark_allowed_by_id, member.mark_allowed_why = actor.person_id, why
    pack.version += 1
    note(session, actor, "mark-allowed", now, cell_id=member.cell_id, pack_id=pack.id, pack=pack.number, why=why)
    session.flush()
    return pack


def _read_words(typed: str | None, field: str) -> str | None:
    """Nobody has to say who has it or what it does there; None: nobody did."""
    words = " ".join((typed or "").split())
    if len(words) > _HOLDER_MOST:
        raise BadInputError(said("too-many-words", most=_HOLDER_MOST), field=field)
    return words or None


def get_pack(session: Session, typed: str) -> Pack:
    number = read_number_of("pack", typed)
    pack = session.scalar(select(Pack).where(Pack.number == number).options(*_with_cells()))
    if pack is None:
        raise NotFoundError(said("there-is-no-pack", number=number))
    return pack


def all_packs(session: Session) -> Sequence[Pack]:
    """All packs, newest first."""
    return session.scalars(select(Pack).options(*_with_cells()).order_by(Pack.id.desc()).limit(200)).all()


def packs_in_state(session: Session, state: str) -> Sequence[Pack]:
    """All packs in a state, the oldest first."""
    return session.scalars(select(Pack).where(Pack.state == state).options(*_with_cells()).order_by(Pack.id)).all()


def pack_happenings(session: Session, pack: Pack) -> Sequence[Happening]:
    """What happened to the pack as a whole, and each yes to a marked cell in it."""
    of_the_pack = or_(Happening.cell_id.is_(None), Happening.what == "mark-allowed")
    query = select(Happening).where(Happening.pack_id == pack.id, of_the_pack)
    return session.scalars(query.order_by(Happening.at, Happening.id)).all()


def lock_cells(session: Session, numbers: Sequence[str]) -> None:
    """Locks cells in one order everywhere, so that two people who keep packs at once cannot block each other for ever."""
    session.execute(
        select(CellRow.id).where(CellRow.number.in_(numbers)).order_by(CellRow.id).with_for_update(key_share=True)
    )


def hand_over(session: Session, actor: Actor, place_id: int, taped: bool, now: datetime) -> int:
    """Everything in the out-box or the fire-safe box goes to the recycler; returns how many cells.

    Raises:
        NotAllowedError: not a coordinator.
        DangerError: the terminals are not taped.
        ConflictError: the box is empty, or it is no such box.
    """
    require_coordinator(actor, said("doing-handing-cells-to-recycler"))
    if not taped:
        raise DangerError(said("tape-both-ends-of-every-cell"), field="taped")
    box = session.get(Place, place_id)
    if box is None or box.kind not in ("out-box", "fire-safe-box"):
        raise ConflictError(said("only-out-box-and-fire-safe"))
    cells = session.scalars(
        select(CellRow)
        .where(CellRow.place_id == box.id)
        .order_by(CellRow.id)
        .with_for_update(of=CellRow, key_share=True)
    ).all()
    if not cells:
        raise ConflictError(said("box-is-empty", box=box.name))
    for cell in cells:
        cell.place, cell.slot, cell.handed_over_at = None, None, now
        note(session, actor, "handed-over", now, cell_id=cell.id, box=box.name)
    return len(cells)


def _not_after(pack: Pack, allowed: Sequence[str]) -> Said:
    state = named("pack-state", pack.state)
    if not allowed:
        return said("pack-is-at-its-end", pack=pack.number, state=state)
    return said("pack-cannot-be-that", pack=pack.number, state=state, allowed=OneOf(all_of("pack-state", allowed)))


def _with_cells() -> tuple[ExecutableOption, ...]:
    members = selectinload(Pack.groups).selectinload(PackGroup.cells).joinedload(PackCell.cell, innerjoin=True)
    return (
        members.joinedload(CellRow.judgement), members.joinedload(CellRow.place), selectinload(Pack.parts),
        selectinload(Pack.waivers),
    )  # fmt: skip
