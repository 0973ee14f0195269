"""Which labels to print, and the record of those that were: a second label is never printed in silence."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import func, select

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.identify.numbering import read_any
from zembric.core.labels import get_layout, label_places
from zembric.core.said import Said, named, said
from zembric.models import CellRow, Donor, LabelPrint, Pack, Place
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor


@dataclass(frozen=True, slots=True)
class LabelText:
    """What stands on one label: the number, and up to two short lines."""

    number: str
    title: Said | str
    detail: Said | str
    #: A cell that carries a mark for life.
    is_marked: bool = False


def record_print(
    session: Session, actor: Actor, layout: str, numbers: Sequence[str], first: int, why: str | None, now: datetime
) -> LabelPrint:
    """Labels for things, in this order, as they go to the printer.

    Raises:
        BadInputError: an unknown paper or number, or a label is printed again without saying why.
    """
    wanted = [read_any(text).number for text in numbers]
    tuple(label_places(get_layout(layout), len(wanted), first))
    label_texts(session, wanted)
    again = labelled_before(session, wanted)
    ground = (why or "").strip()
    if again and not 3 <= len(ground) <= 300:
        shown = ", ".join(again[:5]) + (" and more" if len(again) > 5 else "")
        raise BadInputError(
            said("had-label-before", shown=shown),
            field="why",
        )
    row = LabelPrint(
        at=now, person_id=actor.person_id, layout=layout, first=first, numbers=wanted, again=again, why=ground or None
    )
    session.add(row)
    session.flush()
    for cell_id in session.scalars(select(CellRow.id).where(CellRow.number.in_(wanted))):
        number = session.get_one(CellRow, cell_id).number
        what = "label-printed-again" if number in again else "label-printed"
        note(session, actor, what, now, cell_id=cell_id, why=ground or None, layout=layout)
    return row


def get_print(session: Session, print_id: int) -> LabelPrint:
    row = session.get(LabelPrint, print_id)
    if row is None:
        raise NotFoundError(said("there-is-no-such-print"))
    return row


def recent_prints(session: Session, most: int = 20) -> Sequence[LabelPrint]:
    return session.scalars(select(LabelPrint).order_by(LabelPrint.id.desc()).limit(most)).all()


def labelled_before(session: Session, numbers: Sequence[str]) -> list[str]:
    """Those of the things that had a label before, in their order."""
    printed = select(func.unnest(LabelPrint.numbers).label("number")).subquery()
    had = set(session.scalars(select(printed.c.number).where(printed.c.number.in_(numbers)).distinct()))
    return [number for number in numbers if number in had]


def unlabelled_cells(session: Session, most: int = 200) -> Sequence[str]:
    """Cells that are here and never had a label, the newest first."""
    printed = select(func.unnest(LabelPrint.numbers).label("number")).subquery()
    query = (
        select(CellRow.number)
        .where(CellRow.handed_over_at.is_(None), CellRow.number.not_in(select(printed.c.number)))
        .order_by(CellRow.id.desc())
    )
    return session.scalars(query.limit(most)).all()


def label_texts(session: Session, numbers: Sequence[str]) -> list[LabelText]:
    """What stands on the labels of things, in their order.

    Raises:
        NotFoundError: nothing has one of the numbers.
    """
    texts: dict[str, LabelText] = {}
    for cell in session.scalars(select(CellRow).where(CellRow.number.in_(numbers))):
        texts[cell.number] = LabelText(cell.number, _cell_title(cell), _cell_detail(cell), is_marked=_is_marked(cell))
    for donor in session.scalars(select(Donor).where(Donor.number.in_(numbers))):
        texts[donor.number] = LabelText(donor.number, donor.kind_row.name, donor.description)
    for pack in session.scalars(select(Pack).where(Pack.number.in_(numbers))):
        texts[pack.number] = LabelText(pack.number, f"{pack.series}S{pack.parallel}P", pack.purpose)
    for place in session.scalars(select(Place).where(Place.number.in_(numbers))):
        texts[place.number] = LabelText(place.number, place.name, named("place-kind", place.kind))
    missing = [number for number in numbers if number not in texts]
    if missing:
        raise NotFoundError(said("no-label-for-that-number", missing=missing[0]))
    return [texts[number] for number in numbers]


def _is_marked(cell: CellRow) -> bool:
    return cell.judgement is not None and cell.judgement.is_marked


def _cell_title(cell: CellRow) -> Said | str:
    size = cell.size_code or said("label-size-unknown")
    return said("label-marked", size=size) if _is_marked(cell) else size


def _cell_detail(cell: CellRow) -> Said:
    if cell.family == "primary":
        return said("label-primary")
    if cell.family is None:
        return said("label-chemistry-unknown")
    judged = cell.judgement
    overruled = judged is not None and any(reason["code"] == "overruled" for reason in judged.reasons)
    donor = cell.donor.number
    return said("label-from-by-hand", donor=donor) if overruled else said("label-from", donor=donor)
