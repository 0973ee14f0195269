"""Who may sign in, and what guards it."""

from __future__ import annotations

from datetime import datetime
from typing import get_args

from sqlalchemy import CheckConstraint, ForeignKey, Index, LargeBinary, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import Role
from zembric.models.base import Base, IntPk, one_of

ROLES = get_args(Role)


class Person(Base):
    """Somebody at the bench. Never deleted: what they said keeps their name."""

    __tablename__ = "person"
    __table_args__ = (
        CheckConstraint(one_of("role", ROLES), name="role"),
        CheckConstraint("char_length(name) BETWEEN 1 AND 40", name="name_length"),
        Index("uq_person_name_lower", text("lower(name)"), unique=True),
    )
    id: Mapped[IntPk]
    name: Mapped[str]
    role: Mapped[str]
    #: NULL until the one-time link was used.
    password_hash: Mapped[str | None]
    created_at: Mapped[datetime]
    #: NULL while the person may sign in.
    closed_at: Mapped[datetime | None]
    #: What they are told in; NULL: whatever their browser asks for.
    language: Mapped[str | None]


class Invitation(Base):
    """A one-time link with which a person sets a password. Only its hash is kept."""

    __tablename__ = "invitation"
    id: Mapped[IntPk]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    token_hash: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    expires_at: Mapped[datetime]
    #: NULL until it was used.
    used_at: Mapped[datetime | None]
    person: Mapped[Person] = relationship()


class House(Base):
    """What holds for the whole house and is no rule: one row."""

    __tablename__ = "house"
    __table_args__ = (CheckConstraint("id = 1", name="only_one"),)
    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    #: What stands on labels, lists and sheets; NULL: the usual language.
    print_language: Mapped[str | None]


class ServerSecret(Base):
    """The key that signs session cookies; in the database, so that several servers agree on it."""

    __tablename__ = "server_secret"
    __table_args__ = (CheckConstraint("id = 1", name="only_one"),)
    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    secret: Mapped[bytes] = mapped_column(LargeBinary)
