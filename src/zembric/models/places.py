"""Where cells lie."""

from __future__ import annotations

from datetime import datetime
from typing import get_args

from sqlalchemy import CheckConstraint, ForeignKey, Sequence
from sqlalchemy.orm import Mapped, mapped_column

from zembric.core.codes import PlaceKind
from zembric.models.base import Base, IntPk, one_of, version_column

PLACE_NUMBERS = Sequence("place_number_seq", start=10, metadata=Base.metadata)
#: A holding box is for cells that are not judged yet and lie in no tray.
PLACE_KINDS = get_args(PlaceKind)


class Place(Base):
    __tablename__ = "place"
    __table_args__ = (
        CheckConstraint(one_of("kind", PLACE_KINDS), name="kind"),
        CheckConstraint("(kind = 'tray') = (rows IS NOT NULL AND columns IS NOT NULL)", name="only_trays_have_slots"),
        CheckConstraint("capacity > 0", name="capacity_positive"),
        CheckConstraint("rows BETWEEN 1 AND 20 AND columns BETWEEN 1 AND 20", name="tray_size"),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    #: Numbered places of a tray, counted row by row from 1; NULL for boxes.
    rows: Mapped[int | None]
    columns: Mapped[int | None]
    #: How many cells a box takes; NULL: nobody counted.
    capacity: Mapped[int | None]
    #: Where the pass through a tray stands: the next numbered place, since when, by whom; NULL: no pass was begun.
    cursor_slot: Mapped[int | None]
    cursor_at: Mapped[datetime | None]
    cursor_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    version: Mapped[int] = version_column()
