"""People, one-time links, and signing in."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import TYPE_CHECKING

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from sqlalchemy import and_, delete, func, select
from sqlalchemy.dialects.postgresql import insert

from zembric.core.errors import (
    BadInputError,
    ConflictError,
    NotFoundError,
    NotSignedInError,
    TooManyTriesError,
)
from zembric.core.said import said
from zembric.models import ROLES, House, Invitation, Person, ServerSecret, SignInTry
from zembric.operations.actors import Actor, require_coordinator
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

LINK_HOURS = 72
PASSWORD_LEAST = 10
PASSWORD_MOST = 200
TRIES_PER_ACCOUNT_AND_ADDRESS = 5
TRIES_PER_ACCOUNT = 100
TRIES_PER_ADDRESS = 60
TRIES_MINUTES = 15

_TRIES_LOCK = 0x74727973  # "trys"
# OWASP's second choice for argon2id: 19 MiB, two passes, one lane.
_hasher = PasswordHasher(time_cost=2, memory_cost=19456, parallelism=1)
# Verified when the name is unknown, so that the time an answer takes does not tell which names exist.
_NOBODY_HASH = _hasher.hash(secrets.token_urlsafe(16))


def add_person(session: Session, name: str, role: str, now: datetime) -> str:
    """Lets somebody in; returns the token of their one-time link.

    Raises:
        BadInputError: no usable name, or no such role.
        ConflictError: the name is taken.
    """
    name = _checked_name(name)
    if role not in ROLES:
        raise BadInputError(said("not-a-role", role=role, roles=tuple(ROLES)), field="role")
    if _find(session, name):
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
    """Ends somebody's sign-in; what they said stays."""
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


def accept_invitation(session: Session, token: str, name: str, password: str, now: datetime) -> Actor:
    """Sets name and password by a one-time link and signs the person in."""
    invitation = _open_invitation(session, token, now)
    person, name = invitation.person, _checked_name(name)
    if not PASSWORD_LEAST <= len(password) <= PASSWORD_MOST:
        raise BadInputError(said("password-needs-at-least-characters", password_least=PASSWORD_LEAST), field="password")
    namesake = _find(session, name)
    if namesake and namesake.id != person.id:
        raise BadInputError(said("there-is-already-somebody-called", name=name), field="name")
    person.name, person.password_hash = name, _hasher.hash(password)
    invitation.used_at = now
    return _actor(person)


def sign_in(session: Session, name: str, password: str, address: str, now: datetime) -> Actor | None:
    """The person behind name and password, None if they do not fit; a failed try is counted.

    Returns None instead of raising, because the count must be committed.

    Raises:
        TooManyTriesError: within a quarter of an hour five tries on the account from one address failed, a hundred from
            anywhere, or sixty from the address. So nobody else's tries keep a person out where they are, and one who forgot
            their password does not close a whole cafe that stands behind one address.
    """
    account = hashlib.sha256(name.strip().lower().encode()).hexdigest()
    since = now - timedelta(minutes=TRIES_MINUTES)
    # One after the other: many that are sent at once are all counted before the next is looked at.
    session.execute(select(func.pg_advisory_xact_lock(_TRIES_LOCK, func.hashtext(account))))
    from_here, of_account = SignInTry.address == address, SignInTry.account == account
    for condition, most in (
        (and_(from_here, of_account), TRIES_PER_ACCOUNT_AND_ADDRESS),
        (of_account, TRIES_PER_ACCOUNT),
        (from_here, TRIES_PER_ADDRESS),
    ):
        tries = session.scalar(select(func.count()).where(condition, SignInTry.at > since)) or 0
        if tries >= most:
            raise TooManyTriesError(said("too-many-tries", tries_minutes=TRIES_MINUTES))
    person = _find(session, name.strip())
    known = person is not None and person.closed_at is None and person.password_hash is not None
    try:
        _hasher.verify(person.password_hash if person and person.password_hash else _NOBODY_HASH, password)
        fits = known
    except VerificationError:
        fits = False
    if person is None or not fits:
        session.add(SignInTry(at=now, account=account, address=address))
        return None
    session.execute(delete(SignInTry).where(SignInTry.account == account))
    return _actor(person)


def actor_by_id(session: Session, person_id: int) -> Actor:
    """The signed-in person, asked at each request, so that a closed account ends at once."""
    person = session.get(Person, person_id)
    if person is None or person.closed_at is not None:
        raise NotSignedInError(said("please-sign-in-again"))
    return _actor(person)


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
    person = _find(session, name)
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


def _find(session: Session, name: str) -> Person | None:
    return session.scalar(select(Person).where(func.lower(Person.name) == name.strip().lower()))


def _checked_name(name: str) -> str:
    name = " ".join(name.split())
    if not 1 <= len(name) <= 40:
        raise BadInputError(said("name-has-1-to-40-characters"), field="name")
    return name


def _actor(person: Person) -> Actor:
    return Actor(person.id, person.name, "coordinator" if person.role == "coordinator" else "volunteer")
