"""Long searches for a match, and wishes: packs that the shelf could not meet when they were asked for."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import SearchState
from zembric.models.base import Base, IntPk, one_of
from zembric.models.packs import Pack
from zembric.models.people import Person

SEARCH_STATES = get_args(SearchState)


class MatchSearch(Base):
    """A search that takes longer than somebody waits for an answer; the worker writes what it has so far."""

    __tablename__ = "match_search"
    __table_args__ = (
        CheckConstraint(one_of("state", SEARCH_STATES), name="state"),
        CheckConstraint("share BETWEEN 0 AND 1", name="share"),
        CheckConstraint("seconds BETWEEN 1 AND 600", name="seconds"),
    )
    id: Mapped[IntPk]
    request: Mapped[dict[str, Any]]
    seconds: Mapped[int]
    state: Mapped[str]
    #: How much of the time is gone, 0 to 1.
    share: Mapped[float]
    is_stop_asked: Mapped[bool]
    #: The best so far; NULL: nothing yet.
    weakest_mah: Mapped[float | None]
    bound_mah: Mapped[float | None]
    groups: Mapped[list[list[str]] | None] = mapped_column(JSONB)
    #: Why nothing was found, in words for people.
    trouble: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    asked_at: Mapped[datetime]
    asked_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    ended_at: Mapped[datetime | None]


class Wish(Base):
    """What somebody wants to build as soon as the shelf has the cells."""

    __tablename__ = "wish"
    __table_args__ = (
        CheckConstraint("char_length(purpose) BETWEEN 1 AND 120", name="purpose_length"),
        CheckConstraint("pack_id IS NULL OR closed_at IS NOT NULL", name="met_is_closed"),
    )
    id: Mapped[IntPk]
    purpose: Mapped[str]
    request: Mapped[dict[str, Any]]
    made_at: Mapped[datetime]
    made_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: When it was met or given up; NULL: still open.
    closed_at: Mapped[datetime | None]
    #: The pack that met it; NULL: none did.
    pack_id: Mapped[int | None] = mapped_column(ForeignKey("pack.id"))
    made_by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
    pack: Mapped[Pack | None] = relationship()
