"""Where cells of a kind are used, and recalls: which packs, who has them, what to tell, until each is settled."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta, timezone
from typing import TYPE_CHECKING

from sqlalchemy import or_, select
from sqlalchemy.orm import selectinload

from zembric.core.codes import RecallAbout
from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.identify.numbering import read_number
from zembric.core.said import said
from zembric.models import (
    CellModel,
    CellRow,
    Donor,
    Entry,
    Pack,
    PackCell,
    PackGroup,
    PackPart,
    PackStep,
    Part,
    Person,
    Recall,
    RecalledPack,
)
from zembric.operations.actors import require_coordinator
from zembric.operations.cells.lookup import FIRST_YEAR, LAST_YEAR
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy import ColumnElement
    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_LIVE = ("planned", "built", "given-out", "back")
_TEXT_MOST = 500


@dataclass(frozen=True, slots=True)
class Asked:
    """By what is looked: a donor's or a cell's number, a model, a print, a part, a person, or a day (its first and last).

    Days begin and end by a clock that is so many minutes ahead of UTC: that of whoever asks.
    """

    about: RecallAbout
    text: str = ""
    since: date | None = None
    until: date | None = None
    utc_offset_min: int = 0


@dataclass(frozen=True, slots=True)
class Used:
    """A pack with those of its cells that fall under it; none: the whole pack does."""

    pack: Pack
    cells: tuple[str, ...]


def where_used(session: Session, asked: Asked) -> tuple[Used, ...]:
    """All packs that are not apart, those that are out first.

    Raises:
        BadInputError: nothing to look for.
    """
    query = select(Pack, CellRow.number).join(PackGroup, PackGroup.pack_id == Pack.id)
    query = query.join(PackCell, PackCell.group_id == PackGroup.id).join(CellRow, CellRow.id == PackCell.cell_id)
    query = query.where(Pack.state.in_(_LIVE), PackCell.released_at.is_(None), _condition(asked))
    found: dict[int, tuple[Pack, list[str]]] = {}
    for pack, number in session.execute(query.order_by(Pack.id, CellRow.id)).all():
        found.setdefault(pack.id, (pack, []))[1].append(number)
    used = [Used(pack, tuple(cells)) for pack, cells in found.values()]
    return tuple(sorted(used, key=lambda each: each.pack.state != "given-out"))


def _condition(asked: Asked) -> ColumnElement[bool]:
    text = " ".join(asked.text.split())
    if asked.about in ("made-on", "opened-on"):
        since, until = _days(asked)
        if asked.about == "made-on":
            return Pack.made_at.between(since, until)
        return CellRow.donor_id.in_(select(Donor.id).where(Donor.opened_at.between(since, until)))
    # What stands for anything in a search stands for itself here, or for nothing.
    text = text.translate({ord("%"): None, ord("_"): None, ord("\\"): None})
    if len(text) < 2:
        raise BadInputError(said("recall-wants-text"), field="text")
    like = f"%{text}%"
    if asked.about == "donor":
        return CellRow.donor_id.in_(select(Donor.id).where(Donor.number == read_number("donor", text)))
    if asked.about == "model":
        models = select(CellModel.id).where(CellModel.name.ilike(like))
        return or_(CellRow.model_id.in_(models), CellRow.size_code == text)
    if asked.about == "batch":
        return CellRow.donor_id.in_(select(Donor.id).where(Donor.description.ilike(like)))
    if asked.about == "part":
        parts = select(PackPart.pack_id).outerjoin(Part, Part.id == PackPart.part_id)
        return Pack.id.in_(parts.where(or_(PackPart.name.ilike(like), Part.description.ilike(like))))
    people = select(Person.id).where(Person.name.ilike(like))
    measured = select(Entry.cell_id).where(Entry.person_id.in_(people))
    built = select(PackStep.pack_id).where(PackStep.by_id.in_(people))
    return or_(CellRow.id.in_(measured), Pack.id.in_(built), Pack.made_by_id.in_(people))


def _days(asked: Asked) -> tuple[datetime, datetime]:
    days = [each for each in (asked.since, asked.until) if each is not None]
    if asked.since is None or not all(FIRST_YEAR <= each.year <= LAST_YEAR for each in days):
        raise BadInputError(said("recall-wants-day"), field="since")

    here = timezone(timedelta(minutes=asked.utc_offset_min))
    first = datetime.combine(asked.since, time(), here)
    last = datetime.combine(asked.until or asked.since, time(), here) + timedelta(days=1)
    if last <= first:
        raise BadInputError(said("recall-wants-day"), field="until")
    return first, last


def call_back(session: Session, actor: Actor, asked: Asked, why: str, tell: str, now: datetime) -> Recall:
    """A coordinator calls all those packs back; they stand on the first page until each is settled.

    Raises:
        NotAllowedError: not a coordinator.
        ConflictError: no pack falls under it.
        BadInputError: no reason, or nothing to tell.
    """
    require_coordinator(actor, said("doing-calling-back"))
    texts = {"why": " ".join(why.split()), "tell": " ".join(tell.split())}
    for field, text in texts.items():
        if not 3 <= len(text) <= _TEXT_MOST:
            raise BadInputError(said("say-why-in-few-words-characters", why=_TEXT_MOST), field=field)
    used = where_used(session, asked)
    if not used:
        raise ConflictError(said("recall-of-none"))
    recall = Recall(
        about=asked.about, why=texts["why"], tell=texts["tell"], at=now, by_id=actor.person_id,
        asked={
            "text": asked.text, "since": asked.since.isoformat() if asked.since else None,
            "until": asked.until.isoformat() if asked.until else None, "utc_offset_min": asked.utc_offset_min,
        },
    )  # fmt: skip
    recall.packs = [
        RecalledPack(pack_id=each.pack.id, cells=list(each.cells), settled_at=None, settled_how=None) for each in used
    ]
    session.add(recall)
    session.flush()
    for each in used:
        note(session, actor, "pack-recalled", now, pack_id=each.pack.id, pack=each.pack.number, why=recall.why)
    session.flush()
    return recall


def settle(session: Session, actor: Actor, recalled_id: int, how: str, now: datetime) -> RecalledPack:
    """What became of one of its packs.

    Raises:
        NotFoundError: there is none.
        BadInputError: nobody said what.
    """
    found = session.get(RecalledPack, recalled_id, with_for_update=True)
    if found is None:
        raise NotFoundError(said("no-such-recall"))
    how = " ".join(how.split())
    if not 3 <= len(how) <= _TEXT_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=_TEXT_MOST), field="how")
    found.settled_at, found.settled_by_id, found.settled_how = now, actor.person_id, how
    note(session, actor, "recall-settled", now, pack_id=found.pack_id, pack=found.pack.number, why=how)
    session.flush()
    return found


def recalls(session: Session) -> Sequence[Recall]:
    """All of them, newest first."""
    query = select(Recall).options(selectinload(Recall.packs).joinedload(RecalledPack.pack))
    return session.scalars(query.order_by(Recall.id.desc()).limit(100)).all()


def open_recalls(session: Session) -> Sequence[RecalledPack]:
    """Packs that are called back and not settled, those that are out first."""
    query = select(RecalledPack).where(RecalledPack.settled_at.is_(None))
    query = query.options(selectinload(RecalledPack.pack), selectinload(RecalledPack.recall))
    found = session.scalars(query.order_by(RecalledPack.id)).all()
    return sorted(found, key=lambda each: each.pack.state != "given-out")


def recalls_of(session: Session, pack: Pack) -> Sequence[RecalledPack]:
    """What a pack is called back for, and not settled."""
    query = select(RecalledPack).where(RecalledPack.pack_id == pack.id, RecalledPack.settled_at.is_(None))
    return session.scalars(query.options(selectinload(RecalledPack.recall)).order_by(RecalledPack.id)).all()


def get_recalled(session: Session, recalled_id: int) -> RecalledPack:
    """Raises:
    NotFoundError: there is none.
    """
    found = session.get(RecalledPack, recalled_id)
    if found is None:
        raise NotFoundError(said("no-such-recall"))
    return found
