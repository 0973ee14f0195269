"""How people come in: sign-ins that are open, passkeys, and tries that failed."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, LargeBinary
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.models.base import Base, IntPk
from zembric.models.people import Person


class SignIn(Base):
    """One person on one device, from signing in until it ends; only the hash of what the device holds is kept."""

    __tablename__ = "sign_in"
    id: Mapped[IntPk]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    token_hash: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    #: What a passkey answered to, so that an answer that was overheard opens nothing twice; NULL: by other means.
    challenge_hash: Mapped[bytes | None] = mapped_column(LargeBinary, unique=True)
    #: As its browser calls itself, for the eyes of its owner.
    device: Mapped[str]
    begun_at: Mapped[datetime]
    ends_at: Mapped[datetime]
    #: NULL: not before `ends_at`.
    ended_at: Mapped[datetime | None]
    person: Mapped[Person] = relationship(lazy="joined")


class Passkey(Base):
    """The public half of a key that lies in somebody's device."""

    __tablename__ = "passkey"
    id: Mapped[IntPk]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    credential_id: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    public_key: Mapped[bytes] = mapped_column(LargeBinary)
    #: The host it was made for; it opens no other.
    host: Mapped[str]
    #: How often it was used, as the device counts; a smaller count is a copy.
    sign_count: Mapped[int]
    device: Mapped[str]
    added_at: Mapped[datetime]
    used_at: Mapped[datetime | None]


class SignInTry(Base):
    """A failed sign-in, counted per account and per address across all server processes."""

    __tablename__ = "sign_in_try"
    __table_args__ = (
        Index("ix_sign_in_try_account_at", "account", "at"),
        Index("ix_sign_in_try_address_at", "address", "at"),
    )
    id: Mapped[IntPk]
    at: Mapped[datetime]
    account: Mapped[str]
    address: Mapped[str]
