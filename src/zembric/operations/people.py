"""People, one-time links, and the languages they are told in."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert

from zembric.core.errors import (
    BadInputError,
    ConflictError,
    NotFoundError,
)
from zembric.core.said import said
from zembric.models import ROLES, House, Invitation, Person, ServerSecret
from zembric.operations.actors import Actor, require_coordinator
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

LINK_HOURS = 72


def add_person(session: Session, name: str, role: str, now: datetime) -> str:
    """Lets somebody in; returns the token of their one-time link.

    Raises:
        BadInputError: no usable name, or no such role.
        ConflictError: the name is taken.
    """
    name = _checked_name(name)
    if role not in ROLES:
        raise BadInputError(said("not-a-role", role=role, roles=tuple(ROLES)), field="role")
    if find_person(session, name):
        raise ConflictError(said("there-is-already-somebody-called", name=name))
    person = Person(name=name, role=role, password_hash=None, created_at=now, closed_at=None, language=None)
    session.add(person)
    session.flush()
    note(session, None, "person-added", now, person=person.id, role=role)
    return _invite(session, person, now)


def invite_again(session: Session, name: str, now: datetime) -> str:
    """A new one-time link for somebody who forgot the password; older links stop working."""
    person = get_person(session, name)
    for invitation in session.scalars(select(Invitation).where(Invitation.person_id == person.id)):
        invitation.used_at = invitation.used_at or now
    return _invite(session, person, now)


def close_person(session: Session, name: str, now: datetime) -> None:
    """Nobody comes in by that name any more, and whoever is in is out; what they said stays."""
    person = get_person(session, name)
    person.closed_at = person.closed_at or now
    note(session, None, "person-closed", now, person=person.id)


def first_invitation(session: Session, now: datetime) -> str | None:
    """A one-time link for the first coordinator; None once anybody has a password."""
    if session.scalar(select(Person.id).where(Person.password_hash.is_not(None)).limit(1)):
        return None
    waiting = session.scalar(select(Person).where(Person.role == "coordinator").limit(1))
    return (
        invite_again(session, waiting.name, now) if waiting else add_person(session, "coordinator", "coordinator", now)
    )


def invited_name(session: Session, token: str, now: datetime) -> str:
    """The name a one-time link is for."""
    return _open_invitation(session, token, now).person.name


def use_invitation(session: Session, token: str, name: str, now: datetime) -> Person:
    """Whoever a one-time link is for, by the name they choose; the link is used up."""
    invitation = _open_invitation(session, token, now)
    person, name = invitation.person, _checked_name(name)
    namesake = find_person(session, name)
    if namesake and namesake.id != person.id:
        raise BadInputError(said("there-is-already-somebody-called", name=name), field="name")
    person.name, invitation.used_at = name, now
    return person


def actor_by_id(session: Session, person_id: int) -> Actor:
    """Somebody as who acts, also where they may not sign in any more: what they began goes on in their name."""
    return actor_of(session.get_one(Person, person_id))


def set_language(session: Session, actor: Actor, language: str | None) -> None:
    """What somebody is told in from now on; None: whatever their browser asks for."""
    session.get_one(Person, actor.person_id).language = language


def language_of(session: Session, person_id: int) -> str | None:
    return session.scalar(select(Person.language).where(Person.id == person_id))


def set_print_language(session: Session, actor: Actor, language: str | None, now: datetime) -> None:
    """What labels, lists and sheets are printed in; None: the usual language."""
    require_coordinator(actor, said("doing-choosing-language-of-prints"))
    session.get_one(House, 1).print_language = language
    note(session, actor, "print-language-set", now, language=language)


def print_language(session: Session) -> str | None:
    return session.scalars(select(House.print_language)).one()


def get_person(session: Session, name: str) -> Person:
    person = find_person(session, name)
    if person is None:
        raise NotFoundError(said("there-is-nobody-called", name=name))
    return person


def all_people(session: Session) -> Sequence[Person]:
    return session.scalars(select(Person).order_by(Person.name)).all()


def server_secret(session: Session) -> bytes:
    """The key for session cookies, made by whichever server asks first; the others wait for it."""
    session.execute(insert(ServerSecret).values(id=1, secret=secrets.token_bytes(32)).on_conflict_do_nothing())
    return session.scalars(select(ServerSecret.secret)).one()


def _invite(session: Session, person: Person, now: datetime) -> str:
    token = secrets.token_urlsafe(24)
    expires_at = now + timedelta(hours=LINK_HOURS)
    session.add(Invitation(person_id=person.id, token_hash=_token_hash(token), expires_at=expires_at, used_at=None))
    return token


def _open_invitation(session: Session, token: str, now: datetime) -> Invitation:
    row = session.scalar(select(Invitation).where(Invitation.token_hash == _token_hash(token)).with_for_update())
    if row is None or row.used_at is not None or row.expires_at < now or row.person.closed_at is not None:
        raise NotFoundError(said("this-link-is-used-up"))
    return row


def _token_hash(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def find_person(session: Session, name: str) -> Person | None:
    """Nobody: None."""
    return session.scalar(select(Person).where(func.lower(Person.name) == name.strip().lower()))


def _checked_name(name: str) -> str:
    name = " ".join(name.split())
    if not 1 <= len(name) <= 40:
        raise BadInputError(said("name-has-1-to-40-characters"), field="name")
    return name


def actor_of(person: Person) -> Actor:
    return Actor(person.id, person.name, "coordinator" if person.role == "coordinator" else "volunteer")
