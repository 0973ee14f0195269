"""Where cells lie."""

from __future__ import annotations

from sqlalchemy import CheckConstraint
from sqlalchemy.orm import Mapped, mapped_column

from zembric.models.base import Base, IntPk, one_of

PLACE_KINDS = ("tray", "shelf-box", "out-box", "fire-safe-box")


class Place(Base):
    __tablename__ = "place"
    __table_args__ = (
        CheckConstraint(one_of("kind", PLACE_KINDS), name="kind"),
        CheckConstraint("(kind = 'tray') = (rows IS NOT NULL AND columns IS NOT NULL)", name="only_trays_have_slots"),
        CheckConstraint("rows BETWEEN 1 AND 20 AND columns BETWEEN 1 AND 20", name="tray_size"),
    )
    id: Mapped[IntPk]
    name: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    #: Numbered places of a tray, counted row by row from 1; NULL for boxes.
    rows: Mapped[int | None]
    columns: Mapped[int | None]
