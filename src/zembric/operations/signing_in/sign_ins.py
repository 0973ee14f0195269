"""Sign-ins: they live on the server, and end when time is up, on signing out, with a new password or role, or when somebody says so."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import TYPE_CHECKING, NamedTuple

from sqlalchemy import ColumnElement, and_, select, update

from zembric.core.errors import ConflictError, NotFoundError, NotSignedInError
from zembric.core.said import said
from zembric.models import Happening, Person, SignIn
from zembric.operations import people
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

#: Longer than any evening, shorter than until the next one.
SIGN_IN_LASTS = timedelta(hours=12)
_SHOWN = 200


class Device(NamedTuple):
    """Where somebody signs in from."""

    address: str
    #: What its browser calls itself.
    agent: str

    @property
    def name(self) -> str:
        """Browser and system; what calls itself nothing known is called nothing."""
        from ua_parser import parse  # it reads a thousand patterns as it is loaded

        found = parse(self.agent[:400])
        parts = (found.user_agent and found.user_agent.family, found.os and found.os.family)
        return ", ".join(part for part in parts if part)[:80]


def begin(
    session: Session, actor: Actor, device: Device, how: str, now: datetime, *, challenge: bytes | None = None
) -> str:
    """Signs somebody in on a device; what the device has to hold from now on.

    Raises:
        ConflictError: the challenge let somebody in before.
    """
    answered = _hash_of(challenge) if challenge else None
    if answered and session.scalar(select(SignIn.id).where(SignIn.challenge_hash == answered)):
        raise ConflictError(said("this-was-asked-too-long-ago"))
    token = secrets.token_urlsafe(32)
    session.add(
        SignIn(
            person_id=actor.person_id, token_hash=_hash(token), device=device.name, begun_at=now, ended_at=None,
            ends_at=now + SIGN_IN_LASTS, challenge_hash=answered,
        )
    )  # fmt: skip
    note(session, actor, "sign-in", now, how=how, address=device.address, device=device.name)
    return token


def actor_of(session: Session, token: str, now: datetime) -> Actor:
    """Who is signed in; asked at each request, so that what ended is over at once.

    Raises:
        NotSignedInError: nobody is, or no longer.
    """
    found = session.scalar(
        select(Person).join(SignIn).where(SignIn.token_hash == _hash(token), _is_open(now), Person.closed_at.is_(None))
    )
    if found is None:
        raise NotSignedInError(said("please-sign-in-again"))
    return people.actor_of(found)


def open_sign_ins(session: Session, actor: Actor, now: datetime) -> Sequence[SignIn]:
    """Somebody's own, the latest first."""
    mine = select(SignIn).where(SignIn.person_id == actor.person_id, _is_open(now)).order_by(SignIn.id.desc())
    return session.scalars(mine).all()


def is_of(sign_in: SignIn, token: str) -> bool:
    return secrets.compare_digest(sign_in.token_hash, _hash(token))


def end_this(session: Session, token: str, now: datetime) -> None:
    """Signs out; of one that ended already nothing is said."""
    found = session.scalar(select(SignIn).where(SignIn.token_hash == _hash(token), _is_open(now)))
    if found is not None:
        found.ended_at = now
        note(session, people.actor_of(found.person), "sign-in-ended", now, device=found.device)


def end_one(session: Session, actor: Actor, sign_in_id: int, now: datetime) -> None:
    """Ends one of one's own, on whatever device.

    Raises:
        NotFoundError: there is none of that kind, or it is somebody else's.
    """
    found = session.scalar(select(SignIn).where(SignIn.id == sign_in_id, SignIn.person_id == actor.person_id))
    if found is None:
        raise NotFoundError(said("there-is-no-such-sign-in"))
    if found.ended_at is None:
        found.ended_at = now
        note(session, actor, "sign-in-ended", now, device=found.device)


def end_all(session: Session, person_id: int, now: datetime) -> None:
    """Ends whatever somebody is signed in with."""
    session.execute(update(SignIn).where(SignIn.person_id == person_id, _is_open(now)).values(ended_at=now))


def change_role(session: Session, name: str, role: str, now: datetime) -> None:
    """What somebody may do from their next sign-in on; those that are open end.

    Raises:
        NotFoundError: there is nobody of that name.
    """
    person = people.get_person(session, name)
    if person.role != role:
        person.role = role
        end_all(session, person.id, now)
        note(session, None, "role-changed", now, person=person.id, role=role)


def record_of_sign_ins(session: Session, actor: Actor) -> Sequence[Happening]:
    """The latest sign-ins, refusals and ends, the newest first: a coordinator sees everybody's, others their own."""
    wanted = select(Happening).where(Happening.what.like("sign-in%")).order_by(Happening.id.desc()).limit(_SHOWN)
    if actor.role != "coordinator":
        is_mine = Happening.details["person"].as_integer() == actor.person_id
        wanted = wanted.where((Happening.person_id == actor.person_id) | is_mine)
    return session.scalars(wanted).all()


def _is_open(now: datetime) -> ColumnElement[bool]:
    return and_(SignIn.ended_at.is_(None), SignIn.ends_at > now)


def _hash(token: str) -> bytes:
    return _hash_of(token.encode())


def _hash_of(secret: bytes) -> bytes:
    return hashlib.sha256(secret).digest()
