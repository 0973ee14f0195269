"""Push to locked devices: only where it was set up, and never into the house's own network."""

from __future__ import annotations

import socket
from datetime import UTC, datetime
from typing import Any

import pytest
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from zembric.core.errors import BadInputError, ConflictError
from zembric.models import PushSubscription
from zembric.operations.actors import Actor
from zembric.operations.testers import pushing

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
