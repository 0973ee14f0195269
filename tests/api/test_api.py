"""What the server answers: entries, errors, and what guards it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import brotli  # type: ignore[import-untyped]
import pytest
from flask import Flask
from sqlalchemy import Engine, func, select, text

from tests.api.conftest import Person
from zembric.api.app import create_app
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.health import RUNNER_LOCK
from zembric.operations.people import server_secret
from zembric.paths import FRONTEND_DIST, newest_migration_file

_AN_OLD_JOB = "INSERT INTO procrastinate_jobs (queue_name, task_name, scheduled_at) VALUES ('logs', 'x', now() - interval '1 hour')"
DONOR = {"kind": "laptop", "description": "", "cells": 2, "size_code": "18650", "family": "layered-oxide"}


@pytest.fixture
def number(volunteer_page: Person) -> str:
    answer = volunteer_page.post("/api/donors", DONOR)
    assert answer.status_code == 201
    return str(answer.json["cells"][0]["number"])


def reading(value: str, **more: Any) -> dict[str, Any]:
    return {"quantity": "voltage", "value": value, "method": "meter", **more}


def test_an_entry_is_answered_with_the_judgement(volunteer_page: Person, number: str) -> None:
    volunteer_page.post(f"/api/cells/{number}/inspections", {"findings": []})
    answer = volunteer_page.post(f"/api/cells/{number}/readings", reading("3,71"))
    assert answer.status_code == 200
    cell = answer.json["cell"]
    assert (cell["resting_voltage_v"], cell["step"], cell["grade"]) == (3.71, "charge", "not-yet")
    assert "0.50" in cell["step_text"]


def test_the_same_write_with_the_same_key_is_done_once(volunteer_page: Person, number: str) -> None:
    answers = [
        volunteer_page.post(f"/api/cells/{number}/readings", reading("3.71"), Idempotency_Key="again-and-again").json
        for _ in range(2)
    ]
    assert answers[0] == answers[1]
    story = volunteer_page.get(f"/api/cells/{number}").json
    assert len(story["entries"]) == 1


@pytest.mark.parametrize(
    ("value", "status", "code", "suggestion"),
    [("371", 422, "bad-input", "3.71"), ("", 422, "bad-input", None), ("x" * 61, 422, "bad-input", None)],
)
def test_a_refused_value_says_which_field_and_what_was_meant(
    volunteer_page: Person, number: str, value: str, status: int, code: str, suggestion: str | None
) -> None:
    answer = volunteer_page.post(f"/api/cells/{number}/readings", reading(value))
    assert (answer.status_code, answer.json["code"], answer.json["field"]) == (status, code, "value")
    assert answer.json["suggestion"] == suggestion
    assert volunteer_page.get(f"/api/cells/{number}").json["entries"] == []


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("/api/cells/{}/readings", {"quantity": "colour", "value": "3", "method": "meter"}, 422),
        ("/api/cells/{}/readings", {"quantity": "voltage"}, 422),
        ("/api/cells/{}/readings", reading("3.7", more=1), 422),
        ("/api/cells/{}/readings", [], 422),
        ("/api/cells/{}/inspections", {"findings": ["haunted"]}, 422),
        ("/api/cells/1234567/readings", reading("3.7"), 422),
        ("/api/cells/' OR 1=1/readings", reading("3.7"), 422),
        ("/api/donors", {**DONOR, "cells": 10**9}, 422),
        ("/api/donors", {**DONOR, "rated_capacity_mah": "1e999"}, 422),
        ("/api/matches", {"series": 2, "parallel": 0, "family": "layered-oxide", "size_code": "18650"}, 422),
        ("/api/matches", {"series": 2, "parallel": 2, "family": "layered-oxide", "size_code": "18650"}, 409),
        ("/api/packs/P998/moves", {"state": "built", "seen_version": 1}, 422),
        ("/api/nowhere", {}, 405),
    ],
)
def test_bad_input_gets_a_clear_answer_never_a_server_error(
    volunteer_page: Person, number: str, path: str, body: Any, status: int
) -> None:
    answer = volunteer_page.post(path.format(number), body)
    assert answer.status_code == status
    assert answer.json["text"].endswith((".", "!", "?"))


def test_a_whole_story_goes_over_the_wire(volunteer_page: Person, number: str) -> None:
    kept = volunteer_page.post(f"/api/cells/{number}/readings", reading("3.17")).json
    correction = {"entry_id": kept["entry_id"], "why": "digits swapped", "reading": reading("3.71", confirmed=True)}
    volunteer_page.post(f"/api/cells/{number}/corrections", correction)
    entries = volunteer_page.get(f"/api/cells/{number}").json["entries"]
    assert [(entry["value"], entry["state"]) for entry in entries] == [(3.17, "corrected"), (3.71, "counts")]


def test_nothing_but_signing_in_is_open(anybody: Callable[[], Person]) -> None:
    person = anybody()
    for path in ("/api/home", "/api/cells", "/api/cells/1007", "/api/donors", "/api/packs", "/api/places"):
        assert person.get(path).status_code == 401
    for path, body in (
        ("/api/donors", DONOR),
        ("/api/matches", {}),
        ("/api/hand-overs", {"place_id": 1, "taped": True}),
    ):
        assert person.post(path, body).status_code in (401, 422)


def test_every_write_needs_the_token(app: Flask, volunteer_page: Person, number: str) -> None:
    for token in ("", "wrong"):
        volunteer_page.token = token
        answer = volunteer_page.post(f"/api/cells/{number}/readings", reading("3.7"))
        assert (answer.status_code, answer.json["code"]) == (400, "stale-page")


def test_roles_are_checked_behind_the_routes(volunteer_page: Person, coordinator_page: Person, number: str) -> None:
    volunteer_page.post(f"/api/cells/{number}/readings", reading("4.31"))
    decision = {"about": "over-voltage", "outcome": "out", "why": "swells a little"}
    refused = volunteer_page.post(f"/api/cells/{number}/decisions", decision)
    assert (refused.status_code, refused.json["code"]) == (403, "not-allowed")
    assert coordinator_page.post(f"/api/cells/{number}/decisions", decision).status_code == 200


def test_wrong_passwords_are_counted_and_told_kindly(anybody: Callable[[], Person]) -> None:
    person = anybody()
    answers = [person.sign_in("Volunteer", "wrong").status_code for _ in range(6)]
    assert answers == [401] * 5 + [429]


def test_signing_out_ends_the_session(volunteer_page: Person) -> None:
    assert volunteer_page.get("/api/session").json["person"] == {"name": "Volunteer", "role": "volunteer"}
    volunteer_page.post("/api/session", None, method="DELETE")
    assert volunteer_page.get("/api/home").status_code == 401


def test_a_session_begun_on_one_server_goes_on_on_another(engine: Engine, tmp_path: Path) -> None:
    servers = []
    for _ in range(2):
        with unit_of_work(engine) as session:
            secret = server_secret(session)
        newest = newest_migration_file()
        servers.append(
            create_app(engine, secret=secret, newest_migration=newest, frontend_dist=FRONTEND_DIST, photos=tmp_path)
        )
    person = Person(servers[0].test_client())
    person.sign_in("Volunteer")
    cookie = person.client.get_cookie("zembric")
    assert cookie
    elsewhere = servers[1].test_client()
    elsewhere.set_cookie("zembric", cookie.value)
    assert elsewhere.get("/api/home").status_code == 200


def test_the_session_cookie_is_closed_to_scripts_and_secure_under_https(app: Flask) -> None:
    plain = app.test_client().get("/api/session").headers["Set-Cookie"]
    assert "HttpOnly" in plain
    assert "SameSite=Lax" in plain
    assert "Secure" not in plain
    assert "Secure" in app.test_client().get("/api/session", base_url="https://bench.example").headers["Set-Cookie"]


def test_a_page_carries_a_strict_policy_with_a_fresh_nonce(app: Flask) -> None:
    pages = [app.test_client().get(path) for path in ("/", "/cells/1007")]
    policies = [page.headers["Content-Security-Policy"] for page in pages]
    assert all(
        "unsafe-inline" not in policy and "'unsafe-eval'" not in policy and "default-src 'none'" in policy
        for policy in policies
    )
    nonces = [policy.split("'nonce-")[1].split("'")[0] for policy in policies]
    assert nonces[0] != nonces[1]
    assert nonces[0] in pages[0].text
    assert "__CSP_NONCE__" not in pages[0].text


def test_a_body_that_is_too_large_is_refused(volunteer_page: Person) -> None:
    assert volunteer_page.post("/api/donors", {"description": "x" * 300_000}).status_code == 413


def test_files_outside_the_front_end_are_not_served(app: Flask) -> None:
    assert app.test_client().get("/assets/../index.html").status_code == 404
    assert app.test_client().get("/assets/%2e%2e/%2e%2e/package.json").status_code == 404


def test_built_files_come_packed_as_they_were_built_to_whoever_unpacks_that(app: Flask) -> None:
    script = max((FRONTEND_DIST / "assets").glob("index-*.js"), key=lambda path: path.stat().st_size)
    packed, whole = (
        app.test_client().get(f"/assets/{script.name}", headers={"Accept-Encoding": accepted})
        for accepted in ("gzip, br", "identity")
    )
    assert packed.data == script.with_name(f"{script.name}.br").read_bytes()
    assert packed.content_encoding == "br"
    assert brotli.decompress(packed.data) == whole.data == script.read_bytes()


def test_health_names_what_is_down(app: Flask, engine: Engine, monkeypatch: pytest.MonkeyPatch) -> None:
    def down() -> list[str]:
        answer = app.test_client().get("/healthz")
        told: list[str] = answer.get_json()["down"]
        assert answer.status_code == (503 if told else 200)
        return told

    assert down() == ["worker", "runner"]
    with engine.connect() as runner, engine.begin() as worker:
        runner.execute(select(func.pg_advisory_xact_lock(RUNNER_LOCK)))
        worker.execute(text("INSERT INTO procrastinate_workers DEFAULT VALUES"))
        worker.commit()
        assert down() == []
    with engine.begin() as connection:
        connection.execute(text("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '1 minute'"))
        connection.execute(text(_AN_OLD_JOB))
        connection.execute(text("UPDATE alembic_version SET version_num = '0000'"))
    monkeypatch.setattr("zembric.operations.health.LEAST_FREE_BYTES", 1 << 60)
    assert down() == ["disk", "migrations", "worker", "runner", "queue"]


def test_health_without_a_database_is_told_too(tmp_path: Path) -> None:
    nowhere = make_engine("postgresql://nobody@127.0.0.1:1/none")
    app = create_app(
        nowhere, secret=b"x", newest_migration=newest_migration_file(), frontend_dist=FRONTEND_DIST, photos=tmp_path
    )
    client = app.test_client()
    answer = client.get("/healthz")
    assert (answer.status_code, answer.get_json()["database"]) == (503, "silent")
    assert "database" in answer.get_json()["down"]
    asked = client.get("/api/session")
    assert asked.status_code == 200  # nobody is signed in, so the database is not asked
    token = asked.get_json()["csrf_token"]
    refused = client.post("/api/session", json={"name": "Ines", "password": "x"}, headers={"X-CSRFToken": token})
    assert (refused.status_code, refused.get_json()["code"]) == (503, "unavailable")


def test_a_log_line_names_the_route_and_nobody(volunteer_page: Person, number: str, capsys: Any) -> None:
    capsys.readouterr()
    volunteer_page.post(f"/api/cells/{number}/readings", reading("3.71"))
    line = capsys.readouterr().out
    assert "/api/cells/<string:number>/readings" in line
    assert number not in line
    assert "Volunteer" not in line
