"""The application on a test's own database, and people who are signed in to it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import Engine

from tests.support.applications import application
from tests.support.people import PASSWORD


@pytest.fixture
def app(engine: Engine, tmp_path: Path) -> Iterator[Flask]:
    with application(engine, tmp_path / "photos") as app:
        yield app


class Person:
    """Somebody's browser: keeps the cookie, sends the token with every write."""

    def __init__(self, client: FlaskClient):
        self.client = client
        self.token: str = self.get("/api/session").json["csrf_token"]

    def sign_in(self, name: str, password: str = PASSWORD) -> Any:
        answer = self.post("/api/session", {"name": name, "password": password})
        self.token = answer.json.get("csrf_token", self.token)
        return answer

    def get(self, path: str) -> Any:
        return self.client.get(path)

    def post(self, path: str, body: Any, method: str = "POST", **headers: str) -> Any:
        sent = {"X-CSRFToken": self.token, **{name.replace("_", "-"): value for name, value in headers.items()}}
        return self.client.open(path, method=method, json=body, headers=sent)


@pytest.fixture
def anybody(app: Flask) -> Callable[[], Person]:
    return lambda: Person(app.test_client())


@pytest.fixture
def volunteer_page(anybody: Callable[[], Person]) -> Person:
    person = anybody()
    person.sign_in("Volunteer")
    return person


@pytest.fixture
def coordinator_page(anybody: Callable[[], Person]) -> Person:
    person = anybody()
    person.sign_in("Coordinator")
    return person
