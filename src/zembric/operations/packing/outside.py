"""Packs outside: given out, told of, forgotten on request, back with what is wrong, mended; and the page that anybody may read."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from typing import TYPE_CHECKING, get_args

from sqlalchemy import delete, or_, select
from sqlalchemy.orm import selectinload

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.house.limits import CELL_MOST_V
from zembric.core.measure.entry_checks import read_number
from zembric.core.pack.outside import SEEN_ON_PACK, ReturnedPack, look_at_return
from zembric.core.pack.states import ReturnDecision
from zembric.core.said import named, said, to_json
from zembric.core.said import volts as as_volts
from zembric.models import AnsweredRequest, Happening, Pack, PackGroup, PackPage, PackReport, Person
from zembric.operations.actors import require_them
from zembric.operations.bench.entries import first_look
from zembric.operations.bench.keeping import keep_step
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells.packed import members_of
from zembric.operations.packing.checks import take_up_pack
from zembric.operations.packing.packs import get_pack, lock_cells, stopped_of
from zembric.operations.places import place_of_kind
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.pack.outside import ReturnFinding
    from zembric.models import CellRow
    from zembric.operations.actors import Actor

_WORDS_MOST = 500
_HAS_PAGE = ("built", "given-out", "back")
#: As long as nobody guesses in the time that there are packs.
_TOKEN_BYTES = 24


@dataclass(frozen=True, slots=True)
class TypedReport:
    """What somebody tells of a pack that is out: in words, how long it ran, after how many weeks."""

    words: str
    hours: str = ""
    weeks: str = ""


@dataclass(frozen=True, slots=True)
class TypedReturn:
    """What came back: the visitor's words, what was seen on it, and the voltage of each group, if it was measured."""

    words: str
    seen: tuple[str, ...] = ()
    group_volts: tuple[str, ...] = ()


def report_use(session: Session, actor: Actor, typed: str, told: TypedReport, now: datetime) -> Pack:
    """Somebody tells how a pack does.

    Raises:
        ConflictError: it was never given out.
        BadInputError: nothing was told, or a figure is none.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.state not in ("given-out", "back"):
        raise ConflictError(said("report-of-given-out", pack=pack.number, state=named("pack-state", pack.state)))
    words = " ".join(told.words.split())
    figures = {}
    for key, value, quantity in (("hours", told.hours, "hours"), ("weeks", told.weeks, "hours")):
        if value.strip():
            figures[key] = read_number(value, quantity, key)  # type: ignore[arg-type]
            if figures[key] < 0:
                raise BadInputError(said("number-above-zero-is-needed-here"), field=key)
    if len(words) > _WORDS_MOST or (not words and "hours" not in figures):
        raise BadInputError(said("report-wants-words", most=_WORDS_MOST), field="words")
    runs = take_up_pack(session, pack, now).runs
    if runs is not None and runs.paper.lasts_s:
        # What its card said then: parts and rules may be others later.
        figures["worked_out_h"] = runs.paper.lasts_s / 3600
    session.add(PackReport(pack_id=pack.id, kind="use", words=words, figures=figures, at=now, by_id=actor.person_id))
    note(session, actor, "pack-reported", now, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack


def take_back(
    session: Session, actor: Actor, typed: str, told: TypedReturn, now: datetime
) -> tuple[Pack, tuple[ReturnFinding, ...]]:
    """What is wrong with a pack that came back, and what that says. What is dangerous stops it at once.

    Raises:
        ConflictError: it did not come back.
        BadInputError: a voltage is missing or none, or nothing was told at all.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.state != "back":
        raise ConflictError(said("return-of-back", pack=pack.number, state=named("pack-state", pack.state)))
    words = " ".join(told.words.split())
    seen = [each for each in told.seen if each in SEEN_ON_PACK]
    volts = [read_number(text, "voltage", "group_volts") for text in told.group_volts if text.strip()]
    slip = next((value for value in volts if not 0 <= value <= CELL_MOST_V.value), None)
    if slip is not None:
        # A point in the wrong place must not stop a pack.
        text = said("voltage-is-a-slip", value=as_volts(slip), most=as_volts(CELL_MOST_V.value))
        raise BadInputError(text, field="group_volts")
    if volts and len(volts) != pack.series:
        raise BadInputError(said("return-wants-all-groups", series=pack.series), field="group_volts")
    if len(words) > _WORDS_MOST or not (words or seen or volts):
        raise BadInputError(said("report-wants-words", most=_WORDS_MOST), field="words")
    session.add(
        PackReport(
            pack_id=pack.id, kind="back", words=words, figures={"seen": seen, "group_volts": volts}, at=now, by_id=actor.person_id
        )
    )  # fmt: skip
    note(session, actor, "pack-looked-at", now, pack_id=pack.id, pack=pack.number)
    found = look_at_return(_returned(pack, seen, volts))
    if any(each.is_danger for each in found) and stopped_of(pack) is None:
        why = next(each.said for each in found if each.is_danger)
        pack.stopped_at, pack.stopped_by_id, pack.stopped_why = now, actor.person_id, to_json(why)
        note(session, actor, "pack-stopped", now, pack_id=pack.id, pack=pack.number)
    session.flush()
    if volts and not seen and stopped_of(pack) is None:
        _look_at_cells(session, actor, pack, volts, now)
    return pack, found


def _look_at_cells(session: Session, actor: Actor, pack: Pack, volts: Sequence[float], now: datetime) -> None:
    """Nothing is on it, so nothing is on its cells; joined in parallel, each has the voltage of its group."""
    for group, value in zip(pack.groups, volts, strict=True):
        reading = TypedReading("voltage", f"{value:.3f}", "meter", confirmed=True)
        for member in group.cells:
            first_look(session, actor, member.cell.number, [], reading, now)


def findings_of_return(pack: Pack, report: PackReport) -> tuple[ReturnFinding, ...]:
    """What was said of a return then, by what was seen and measured."""
    return look_at_return(_returned(pack, report.figures.get("seen", []), report.figures.get("group_volts", [])))


def decide_return(session: Session, actor: Actor, typed: str, decision: str, now: datetime) -> Pack:
    """What is done with it.

    Raises:
        ConflictError: nobody looked at it yet, or it is stopped and only goes apart.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    report = reports_of(session, pack, "back")
    if pack.state != "back" or not report:
        raise ConflictError(said("return-first", pack=pack.number))
    require_them(actor, session.get_one(Person, pack.made_by_id), said("doing-deciding-on-return"))
    if decision not in get_args(ReturnDecision):
        raise BadInputError(said("return-first", pack=pack.number), field="decision")
    if stopped_of(pack) is not None and decision != "retire":
        raise ConflictError(said("stopped-goes-apart", pack=pack.number))
    report[-1].decision = decision
    note(session, actor, "return-decided", now, pack_id=pack.id, pack=pack.number, decision=decision)
    session.flush()
    return pack


def reports_of(session: Session, pack: Pack, kind: str | None = None) -> Sequence[PackReport]:
    """What was told of it, the oldest first."""
    query = select(PackReport).where(PackReport.pack_id == pack.id)
    if kind is not None:
        query = query.where(PackReport.kind == kind)
    return session.scalars(query.order_by(PackReport.id)).all()


def exchange_in_back(
    session: Session, actor: Actor, typed: str, out: str, comes: CellRow, capacity_mah: float, now: datetime
) -> Pack:
    """A cell of a pack that came back is exchanged; the one that goes is looked at and measured like any that comes back.

    Raises:
        ConflictError: the pack is not back, or has no such cell, or the other is not free.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.state != "back" or stopped_of(pack) is not None:
        raise ConflictError(said("return-of-back", pack=pack.number, state=named("pack-state", pack.state)))
    member = next((each for each in members_of(pack) if each.cell.number == out), None)
    if member is None:
        raise BadInputError(said("cell-not-in-this-pack", cell=out), field="out")
    lock_cells(session, [out, comes.number])
    old = member.cell
    note(session, actor, "let-go", now, cell_id=old.id, pack_id=pack.id, pack=pack.number)
    member.cell, member.capacity_mah = comes, capacity_mah
    session.flush()
    keep_step(session, actor, old, "came-back", {"source": "pack"}, now)
    old.place, old.slot = place_of_kind(session, "holding-box"), None
    note(session, actor, "moved", now, cell_id=old.id, place=old.place.name)
    comes.place, comes.slot = None, None
    note(session, actor, "pack-built", now, cell_id=comes.id, pack_id=pack.id, pack=pack.number)
    note(session, actor, "pack-mended", now, pack_id=pack.id, exchanges={out: comes.number})
    pack.commissioning, pack.commissioned_at, pack.commissioned_by_id = None, None, None
    pack.proving_since, pack.version = now, pack.version + 1
    session.flush()
    return pack


def kept_about_holder(session: Session, pack: Pack) -> dict[str, object]:
    """All that is kept about whoever has a pack, as it goes to them when they ask."""
    out = session.scalars(
        select(Happening.at)
        .where(Happening.pack_id == pack.id, Happening.what == "pack-given-out", Happening.cell_id.is_(None))
        .order_by(Happening.id)
    ).all()
    return {
        "pack": pack.number, "given_to": pack.given_to, "job": pack.job, "given_out_at": [at.isoformat() for at in out],
        "reports": [
            {"at": each.at.isoformat(), "words": each.words, **each.figures} for each in reports_of(session, pack)
        ],
    }  # fmt: skip


def forget_holder(session: Session, actor: Actor, typed: str, now: datetime) -> Pack:
    """Who has a pack is forgotten, wherever it was kept; that it is out stays."""
    pack = get_pack(session, typed)
    require_them(actor, session.get_one(Person, pack.made_by_id), said("doing-forgetting-holder"))
    session.refresh(pack, with_for_update=True)
    pack.given_to = None
    pack.version += 1
    # Answers that are kept against doubled writes hold it too.
    held = [{"number": pack.number}, {"packs": [{"number": pack.number}]}, {"recalls": [{"number": pack.number}]}]
    session.execute(delete(AnsweredRequest).where(or_(*(AnsweredRequest.answer.contains(each) for each in held))))
    note(session, actor, "holder-forgotten", now, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack


# --- The page that anybody may read ----------------------------------------------------------------------------------


def open_page(session: Session, actor: Actor, typed: str, now: datetime) -> PackPage:
    """Makes the page of a pack, at an address that nobody guesses; there is one at a time.

    Raises:
        ConflictError: it is no pack yet or no more.
    """
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    if pack.state not in _HAS_PAGE:
        raise ConflictError(said("card-from-built", pack=pack.number, state=named("pack-state", pack.state)))
    page = page_of(session, pack)
    if page is None:
        page = PackPage(pack_id=pack.id, token=secrets.token_urlsafe(_TOKEN_BYTES), made_at=now)
        session.add(page)
        note(session, actor, "page-opened", now, pack_id=pack.id, pack=pack.number)
        session.flush()
    return page


def withdraw_page(session: Session, actor: Actor, typed: str, now: datetime) -> None:
    """From now on its address leads nowhere; a new page has another one."""
    pack = get_pack(session, typed)
    require_them(actor, session.get_one(Person, pack.made_by_id), said("doing-withdrawing-page"))
    page = page_of(session, pack)
    if page is not None:
        page.withdrawn_at = now
        note(session, actor, "page-withdrawn", now, pack_id=pack.id, pack=pack.number)
        session.flush()


def page_of(session: Session, pack: Pack) -> PackPage | None:
    query = select(PackPage).where(PackPage.pack_id == pack.id, PackPage.withdrawn_at.is_(None))
    return session.scalar(query.order_by(PackPage.id.desc()).limit(1))


def pack_of_page(session: Session, token: str) -> Pack:
    """Raises:
    NotFoundError: there is no such page, or it was withdrawn.
    """
    query = select(Pack).join(PackPage, PackPage.pack_id == Pack.id)
    query = query.where(PackPage.token == token, PackPage.withdrawn_at.is_(None))
    pack = session.scalar(query.options(selectinload(Pack.groups).selectinload(PackGroup.cells)))
    if pack is None:
        raise NotFoundError(said("no-such-page"))
    return pack


def _returned(pack: Pack, seen: Sequence[str], volts: Sequence[float]) -> ReturnedPack:
    first = pack.groups[0].cells[0].cell
    return ReturnedPack(tuple(seen), tuple(volts), first.family or "")
