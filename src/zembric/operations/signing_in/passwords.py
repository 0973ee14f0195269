"""Passwords: set by a one-time link, changed by whoever knows the old one, and tries counted before they are looked at."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import TYPE_CHECKING

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from sqlalchemy import and_, delete, func, select

from zembric.core.errors import BadInputError, TooManyTriesError
from zembric.core.said import said
from zembric.models import Person, SignInTry
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.record import note
from zembric.operations.signing_in.sign_ins import end_all

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

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


def accept_invitation(session: Session, token: str, name: str, password: str, now: datetime) -> Actor:
    """Sets name and password by a one-time link; whoever was signed in with the old one is so no longer."""
    _check(password)
    person = people.use_invitation(session, token, name, now)
    return _set(session, person, password, now)


def change_password(session: Session, actor: Actor, old: str, new: str, address: str, now: datetime) -> bool:
    """Whether the old one fits; then the new one is set and all that is signed in elsewhere ends.

    Raises:
        BadInputError: the new one is too short or too long.
        TooManyTriesError: as `sign_in`.
    """
    _check(new, "new")
    if sign_in(session, actor.name, old, address, now) is None:
        return False
    _set(session, session.get_one(Person, actor.person_id), new, now)
    return True


def sign_in(session: Session, name: str, password: str, address: str, now: datetime) -> Actor | None:
    """The person behind name and password, None if they do not fit; a failed try is counted and stays in the record.

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
    person = people.find_person(session, name)
    known = person is not None and person.closed_at is None and person.password_hash is not None
    try:
        _hasher.verify(person.password_hash if person and person.password_hash else _NOBODY_HASH, password)
        fits = known
    except VerificationError:
        fits = False
    if person is None or not fits:
        session.add(SignInTry(at=now, account=account, address=address))
        # Never the name that was typed: now and then it is a password.
        note(session, None, "sign-in-refused", now, address=address, person=person.id if person else None)
        return None
    session.execute(delete(SignInTry).where(SignInTry.account == account))
    return people.actor_of(person)


def _check(password: str, field: str = "password") -> None:
    if not PASSWORD_LEAST <= len(password) <= PASSWORD_MOST:
        raise BadInputError(said("password-needs-at-least-characters", password_least=PASSWORD_LEAST), field=field)


def _set(session: Session, person: Person, password: str, now: datetime) -> Actor:
    person.password_hash = _hasher.hash(password)
    end_all(session, person.id, now)
    actor = people.actor_of(person)
    note(session, actor, "sign-in-password-set", now)
    return actor
