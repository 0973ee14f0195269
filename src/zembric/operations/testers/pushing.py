"""Alarms to phones that are locked: who asked for them, and the house's key, where push was set up."""

from __future__ import annotations

import base64
import ipaddress
import os
import socket
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    PublicFormat,
    load_pem_private_key,
)
from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.said import said
from zembric.models import PushKey, PushSubscription

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

#: Who answers for what this house pushes, such as `mailto:somebody@example.org`; empty: push is not set up.
CONTACT = "ZEMBRIC_PUSH_CONTACT"
_MOST_EACH = 8


def contact() -> str:
    return os.environ.get(CONTACT, "").strip()


def public_key(session: Session) -> str | None:
    """The key that a browser is told, made once; None: push is not set up here."""
    if not contact():
        return None
    found = session.get(PushKey, 1)
    if found is None:
        made = ec.generate_private_key(ec.SECP256R1())
        pem = made.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption()).decode()
        session.execute(insert(PushKey).values(id=1, private_pem=pem).on_conflict_do_nothing())
        found = session.get_one(PushKey, 1)
    raw = (
        load_pem_private_key(found.private_pem.encode(), None)
        .public_key()
        .public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    )
    return base64.urlsafe_b64encode(raw).rstrip(b"=").decode()


def subscribe(session: Session, actor: Actor, endpoint: str, p256dh: str, auth: str, now: datetime) -> None:
    """A device of somebody wants to be told, until it is not there any more.

    Raises:
        ConflictError: push is not set up here.
        BadInputError: an address that is none of a push service.
    """
    if not contact():
        raise ConflictError(said("push-not-set-up"))
    check_address(endpoint)
    values = {"person_id": actor.person_id, "endpoint": endpoint, "p256dh": p256dh, "auth": auth, "at": now}
    session.execute(
        insert(PushSubscription).values(values).on_conflict_do_update(index_elements=["endpoint"], set_=values)
    )
    mine = session.scalars(
        select(PushSubscription.id).where(PushSubscription.person_id == actor.person_id).order_by(PushSubscription.id.desc()).offset(_MOST_EACH)
    ).all()  # fmt: skip
    session.execute(delete(PushSubscription).where(PushSubscription.id.in_(mine)))


def unsubscribe(session: Session, actor: Actor, endpoint: str) -> None:
    session.execute(
        delete(PushSubscription).where(
            PushSubscription.endpoint == endpoint, PushSubscription.person_id == actor.person_id
        )
    )


def check_address(endpoint: str) -> None:
    """Nothing is sent into the house's own network because somebody calls it a push service."""
    parts = urlsplit(endpoint)
    host = parts.hostname or ""
    if parts.scheme != "https" or not host or parts.username is not None:
        raise BadInputError(said("push-address"), field="endpoint")
    try:
        addresses = {info[4][0] for info in socket.getaddrinfo(host, 443, proto=socket.IPPROTO_TCP)}
    except OSError:
        raise BadInputError(said("push-address"), field="endpoint") from None
    if not all(ipaddress.ip_address(address).is_global for address in addresses):
        raise BadInputError(said("push-address"), field="endpoint")
