"""Passkeys beside passwords, by WebAuthn (W3C Recommendation, level 2).

Its package takes longer to load than all routes together: it is loaded where somebody uses a passkey.
"""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any, NamedTuple

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.said import said
from zembric.models import Passkey, Person
from zembric.operations import people
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor
    from zembric.operations.signing_in.sign_ins import Device

_MOST = 10


class Place(NamedTuple):
    """Where the page stands that asks the device: its host, and its origin with scheme and port."""

    host: str
    origin: str


class Asked(NamedTuple):
    """What the browser is to ask the device, and the challenge that comes back signed."""

    options: dict[str, Any]
    challenge: bytes


def ask_for_new(session: Session, actor: Actor, place: Place) -> Asked:
    """Options for making a passkey that can be found without a name.

    Raises:
        ConflictError: there are many already.
    """
    import webauthn
    from webauthn.helpers import structs

    mine = passkeys_of(session, actor)
    if len(mine) >= _MOST:
        raise ConflictError(said("there-are-passkeys-already", most=_MOST))
    options = webauthn.generate_registration_options(
        rp_id=place.host,
        rp_name="Zembric",
        user_name=actor.name,
        user_id=f"zembric-{actor.person_id}".encode(),
        exclude_credentials=[structs.PublicKeyCredentialDescriptor(id=each.credential_id) for each in mine],
        authenticator_selection=structs.AuthenticatorSelectionCriteria(
            resident_key=structs.ResidentKeyRequirement.REQUIRED,
            user_verification=structs.UserVerificationRequirement.REQUIRED,
        ),
    )
    return Asked(json.loads(webauthn.options_to_json(options)), options.challenge)


def add_passkey(
    session: Session,
    actor: Actor,
    place: Place,
    challenge: bytes,
    answer: dict[str, Any],
    device: Device,
    now: datetime,
) -> None:
    """Keeps the public half of what the device made.

    Raises:
        BadInputError: it is no answer to what was asked.
    """
    import webauthn
    from webauthn.helpers.exceptions import WebAuthnException

    try:
        made = webauthn.verify_registration_response(
            credential=answer, expected_challenge=challenge, expected_rp_id=place.host, expected_origin=place.origin,
            require_user_verification=True,
        )  # fmt: skip
    except (WebAuthnException, ValueError, KeyError, TypeError) as error:
        raise BadInputError(said("this-is-no-answer-of-device"), field="answer") from error
    if session.scalar(select(Passkey.id).where(Passkey.credential_id == made.credential_id)):
        raise ConflictError(said("this-passkey-is-here-already"))
    session.add(
        Passkey(
            person_id=actor.person_id, credential_id=made.credential_id, public_key=made.credential_public_key,
            host=place.host, sign_count=made.sign_count, device=device.name, added_at=now, used_at=None,
        )
    )  # fmt: skip
    note(session, actor, "sign-in-passkey-added", now, device=device.name)


def ask_for_any(place: Place) -> Asked:
    """Options for signing in with whichever passkey the device holds for this host."""
    import webauthn
    from webauthn.helpers import structs

    options = webauthn.generate_authentication_options(
        rp_id=place.host, user_verification=structs.UserVerificationRequirement.REQUIRED
    )
    return Asked(json.loads(webauthn.options_to_json(options)), options.challenge)


def sign_in_by_passkey(
    session: Session, place: Place, challenge: bytes, answer: dict[str, Any], address: str, now: datetime
) -> Actor | None:
    """The person whose passkey answered; None where it is nobody's or does not fit, which stays in the record."""
    import webauthn
    from webauthn.helpers import parse_authentication_credential_json
    from webauthn.helpers.exceptions import WebAuthnException

    try:
        credential = parse_authentication_credential_json(json.dumps(answer))
        passkey = session.scalar(
            select(Passkey)
            .where(Passkey.credential_id == credential.raw_id, Passkey.host == place.host)
            .with_for_update()
        )
        person = session.get_one(Person, passkey.person_id) if passkey else None
        if passkey is None or person is None or person.closed_at is not None:
            _note_refusal(session, person, address, now)
            return None
        fits = webauthn.verify_authentication_response(
            credential=credential, expected_challenge=challenge, expected_rp_id=place.host, expected_origin=place.origin,
            credential_public_key=passkey.public_key, credential_current_sign_count=passkey.sign_count,
            require_user_verification=True,
        )  # fmt: skip
    except (WebAuthnException, ValueError, KeyError, TypeError):
        _note_refusal(session, None, address, now)
        return None
    passkey.sign_count, passkey.used_at = fits.new_sign_count, now
    return people.actor_of(person)


def passkeys_of(session: Session, actor: Actor) -> Sequence[Passkey]:
    return session.scalars(select(Passkey).where(Passkey.person_id == actor.person_id).order_by(Passkey.id)).all()


def remove_passkey(session: Session, actor: Actor, passkey_id: int, now: datetime) -> None:
    """Takes away one of one's own.

    Raises:
        NotFoundError: there is none of that kind, or it is somebody else's.
    """
    found = session.get(Passkey, passkey_id)
    if found is None or found.person_id != actor.person_id:
        raise NotFoundError(said("there-is-no-such-passkey"))
    session.delete(found)
    note(session, actor, "sign-in-passkey-removed", now, device=found.device)


def _note_refusal(session: Session, person: Person | None, address: str, now: datetime) -> None:
    note(session, None, "sign-in-refused", now, address=address, how="passkey", person=person.id if person else None)
