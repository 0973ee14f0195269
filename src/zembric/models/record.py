"""What happened, and what was already answered."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import CheckConstraint, ForeignKey, Index, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.models.base import Base, IntPk
from zembric.models.people import Person


class Happening(Base):
    """Append-only record: who did what, when, with which thing, and why."""

    __tablename__ = "happening"
    #: Who came in or was refused is found without walking through all that was ever done.
    __table_args__ = (Index("ix_happening_sign_ins", "id", postgresql_where=text("what LIKE 'sign-in%'")),)
    id: Mapped[IntPk]
    at: Mapped[datetime]
    #: NULL: done from the command line of the server.
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    what: Mapped[str]
    #: The things it concerns; NULL where it concerns none of the kind.
    cell_id: Mapped[int | None] = mapped_column(ForeignKey("cell.id"), index=True)
    donor_id: Mapped[int | None] = mapped_column(ForeignKey("donor.id"))
    pack_id: Mapped[int | None] = mapped_column(ForeignKey("pack.id"), index=True)
    details: Mapped[dict[str, Any]]
    #: NULL where no ground was asked for.
    why: Mapped[str | None]
    person: Mapped[Person | None] = relationship(lazy="joined")


class AnsweredRequest(Base):
    """A write that was done, by the key its sender gave it; the same key again gets the same answer."""

    __tablename__ = "answered_request"
    __table_args__ = (CheckConstraint("char_length(key) BETWEEN 8 AND 100", name="key_length"),)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    #: Hash of method, path and body: the same key with another request is an error of the sender.
    request_hash: Mapped[str]
    status: Mapped[int]
    answer: Mapped[dict[str, Any]]
    at: Mapped[datetime] = mapped_column(index=True)
