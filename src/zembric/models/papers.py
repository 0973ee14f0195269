"""Paper and lists: which labels were printed, what was counted, which lists were taken in."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.models.base import Base, IntPk
from zembric.models.people import Person


class LabelPrint(Base):
    """Labels that were printed, on what, and why again if they had been before. Append-only."""

    __tablename__ = "label_print"
    __table_args__ = (CheckConstraint("first >= 1", name="first_place"),)
    id: Mapped[IntPk]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    layout: Mapped[str]
    #: First place used on a sheet that was begun.
    first: Mapped[int]
    #: Numbers of the things, in the order of the labels.
    numbers: Mapped[list[str]] = mapped_column(ARRAY(Text))
    #: Those of them that had a label before.
    again: Mapped[list[str]] = mapped_column(ARRAY(Text))
    #: Why they are printed again; NULL where all are new.
    why: Mapped[str | None]
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)


class StockTake(Base):
    """What was found in a place against what should be in it. Append-only."""

    __tablename__ = "stock_take"
    id: Mapped[IntPk]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    place_id: Mapped[int] = mapped_column(ForeignKey("place.id"), index=True)
    seen: Mapped[list[str]] = mapped_column(ARRAY(Text))
    missing: Mapped[list[str]] = mapped_column(ARRAY(Text))
    misplaced: Mapped[list[str]] = mapped_column(ARRAY(Text))
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)


class ListImport(Base):
    """A list of cells that was taken in; its hash keeps it from being taken in twice. Append-only."""

    __tablename__ = "list_import"
    id: Mapped[IntPk]
    sha256: Mapped[str] = mapped_column(unique=True)
    file_name: Mapped[str]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    cells: Mapped[int]
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
