"""Push to locked devices: only where it was set up, and never into the house's own network."""

from __future__ import annotations

import base64
import socket
from datetime import UTC, datetime
from typing import Any

import pytest
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.said import Amount, said
from zembric.models import PushSubscription
from zembric.operations.actors import Actor
from zembric.operations.testers import pushing
from zembric.operations.testers.alarms import acknowledge, raise_alarm
from zembric.operations.testers.sending import push_alarm

NOW = datetime.now(UTC)
KEYS = ("B" * 87, "a" * 22)


@pytest.fixture
def set_up(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv(pushing.CONTACT, "mailto:table@example.org")


def resolves_to(monkeypatch: pytest.MonkeyPatch, address: str) -> None:
    def answer(*_args: Any, **_more: Any) -> list[Any]:
        return [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (address, 443))]

    monkeypatch.setattr(socket, "getaddrinfo", answer)


def test_without_a_contact_there_is_no_push(
    session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv(pushing.CONTACT, raising=False)
    assert pushing.public_key(session) is None
    with pytest.raises(ConflictError):
        pushing.subscribe(session, volunteer, "https://push.example.org/1", *KEYS, NOW)


@pytest.mark.usefixtures("set_up")
def test_the_key_of_the_house_stays_the_same(session: Session) -> None:
    first = pushing.public_key(session)
    assert first == pushing.public_key(session)
    assert first is not None
    assert len(first) == 87


@pytest.mark.usefixtures("set_up")
@pytest.mark.parametrize("address", ["127.0.0.1", "10.0.0.7", "192.168.1.4", "169.254.169.254"])
def test_an_address_inside_the_house_is_no_push_service(
    session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch, address: str
) -> None:
    resolves_to(monkeypatch, address)
    with pytest.raises(BadInputError):
        pushing.subscribe(session, volunteer, "https://push.example.org/1", *KEYS, NOW)


@pytest.mark.usefixtures("set_up")
@pytest.mark.parametrize(
    "endpoint", ["http://push.example.org/1", "https://a@push.example.org/1", "ftp://x", "https://"]
)
def test_only_https_is_sent_to(session: Session, volunteer: Actor, endpoint: str) -> None:
    with pytest.raises(BadInputError):
        pushing.subscribe(session, volunteer, endpoint, *KEYS, NOW)


@pytest.mark.usefixtures("set_up")
def test_a_device_is_told_once_and_somebody_has_a_handful_of_them(
    session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    resolves_to(monkeypatch, "93.184.215.14")
    for number in (1, 1, *range(2, 12)):
        pushing.subscribe(session, volunteer, f"https://push.example.org/{number}", *KEYS, NOW)
    assert session.scalar(select(func.count()).select_from(PushSubscription)) == 8
    pushing.unsubscribe(session, volunteer, "https://push.example.org/11")
    assert session.scalar(select(func.count()).select_from(PushSubscription)) == 7


class Answer:
    """What a push service answers."""

    reason, text = "told", ""

    def __init__(self, status_code: int) -> None:
        self.status_code, self.headers = status_code, dict[str, str]()


def a_device() -> tuple[str, str]:
    """Keys as a browser hands them out."""
    point = (
        ec.generate_private_key(ec.SECP256R1()).public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    )
    return tuple(base64.urlsafe_b64encode(raw).rstrip(b"=").decode() for raw in (point, b"0123456789abcdef"))  # type: ignore[return-value]


@pytest.mark.usefixtures("set_up")
def test_an_alarm_is_sent_signed_and_sealed_and_devices_that_are_gone_are_forgotten(
    session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    resolves_to(monkeypatch, "93.184.215.14")
    pushing.public_key(session)
    for name in ("here", "gone"):
        pushing.subscribe(session, volunteer, f"https://push.example.org/{name}", *a_device(), NOW)
    sent: dict[str, Any] = {}

    def post(endpoint: str, **more: Any) -> Answer:
        sent[endpoint] = more
        return Answer(410 if endpoint.endswith("gone") else 201)

    monkeypatch.setattr("requests.post", post)
    alarm = raise_alarm(session, "too-hot", said("alarm-too-hot", cell=Amount(52, "°C")), NOW)
    push_alarm(session, alarm.id, lambda _alarm: "Too hot: slot 3")
    session.flush()
    assert [each.endpoint for each in session.scalars(select(PushSubscription))] == ["https://push.example.org/here"]
    headers = sent["https://push.example.org/here"]["headers"]
    assert headers["Authorization"].startswith("vapid t=")
    assert b"Too hot" not in sent["https://push.example.org/here"]["data"]


@pytest.mark.usefixtures("set_up")
def test_an_alarm_that_was_answered_meanwhile_is_not_sent(
    session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    pushing.public_key(session)
    monkeypatch.setattr("requests.post", lambda *_args, **_more: pytest.fail("nothing is sent"))
    alarm = raise_alarm(session, "tester-silent", said("alarm-tester-silent"), NOW)
    acknowledge(session, volunteer, alarm.id, "", NOW)
    push_alarm(session, alarm.id, lambda _alarm: "Tester silent")
