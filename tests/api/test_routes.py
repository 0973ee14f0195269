"""Every route there is: closed to strangers, to writes without the token, and what each gives out is as it is described."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

import pytest
from jsonschema import Draft202012Validator
from jsonschema_specifications import REGISTRY
from openapi_spec_validator import OpenAPIV31SpecValidator
from openapi_spec_validator.schemas import schema_v31
from referencing import Resource

from tests.api.conftest import Person
from zembric.demo.picture import draw_pack
from zembric.operations.cells.photos import MOST_UPLOAD_BYTES
from zembric.paths import API_DESCRIPTION


class _Validator(OpenAPIV31SpecValidator):
    """With all parts of the standard's schema looked up beforehand: else it is searched anew at each reference."""

    schema_validator = Draft202012Validator(
        {"$ref": schema_v31["$id"]},
        registry=REGISTRY.with_resource(schema_v31["$id"], Resource.from_contents(dict(schema_v31))).crawl(),
    )


_DOOR = (
    "/api/session",
    "/api/session/passkey",
    "/api/session/passkey-question",
    "/api/invitations/{token}",
    "/api/pages/{token}",
)
FILLED = {
    "number": "1007", "part_id": "1", "photo_id": "1", "print_id": "1", "layout": "a4-65", "part": "models", "key": "1", "name": "cells",
    "correction_id": "1", "log_id": "1", "test": "0", "seed": "1", "search_id": "1", "wish_id": "1",
    "stage": "build", "recalled": "1", "tester_id": "1", "id": "1", "alarm_id": "1", "run_id": "1",
}  # fmt: skip
DONOR = {"kind": "laptop", "description": "school laptop", "cells": 4, "size_code": "18650", "family": "layered-oxide"}


def _routes() -> list[tuple[str, str]]:
    described = json.loads(API_DESCRIPTION.read_text(encoding="utf-8"))["paths"]
    return [
        (method, path.format(**FILLED))
        for path, methods in described.items()
        if path not in _DOOR
        for method in methods
    ]


@pytest.fixture
def opened(volunteer_page: Person) -> dict[str, Any]:
    answer: dict[str, Any] = volunteer_page.post("/api/donors", DONOR).json
    return answer


def test_a_stranger_is_asked_in_before_anything_of_what_they_sent_is_read(anybody: Callable[[], Person]) -> None:
    client = anybody().client
    answers = {
        (method, path): client.open(path, method=method.upper(), data=b"\xff{" * 100, content_type="application/json")
        for method, path in _routes()
    }
    assert len(answers) > 190
    assert [
        route
        for route, answer in answers.items()
        if (answer.status_code, answer.get_json()["code"], answer.headers["Connection"])
        != (401, "not-signed-in", "close")
    ] == []


def test_the_description_is_valid_and_given_to_those_who_are_signed_in(
    anybody: Callable[[], Person], volunteer_page: Person
) -> None:
    assert anybody().get("/api/openapi.json").status_code == 401
    description = volunteer_page.get("/api/openapi.json").json
    assert description["openapi"].startswith("3.1")
    _Validator(description).validate()


def test_no_write_goes_without_the_token(coordinator_page: Person) -> None:
    writes = [(method, path) for method, path in _routes() if method != "get"]
    answers = {
        (method, path): coordinator_page.client.open(path, method=method.upper(), json={}) for method, path in writes
    }
    assert [route for route, answer in answers.items() if answer.get_json()["code"] != "stale-page"] == []


def test_a_photo_goes_up_as_it_is_and_comes_down_small_for_those_who_are_signed_in(
    volunteer_page: Person, anybody: Callable[[], Person], opened: dict[str, Any]
) -> None:
    for address in (f"/api/donors/{opened['number']}/photos", f"/api/cells/{opened['cells'][0]['number']}/photos"):
        sent = volunteer_page.client.post(
            address, data=draw_pack(4), content_type="image/png", headers={"X-CSRFToken": volunteer_page.token}
        )
        assert (sent.status_code, sent.get_json()["width_px"]) == (201, 1200)
        kept = volunteer_page.get(f"/api/photos/{sent.get_json()['id']}.jpg")
        assert (kept.mimetype, kept.data[:3]) == ("image/jpeg", b"\xff\xd8\xff")
        assert kept.headers["Cache-Control"] == "no-store"
        assert anybody().get(f"/api/photos/{sent.get_json()['id']}.jpg").status_code == 401
    assert len(volunteer_page.get(f"/api/donors/{opened['number']}").json["photos"]) == 1


def test_a_photo_that_is_too_large_is_refused_before_it_is_read(volunteer_page: Person, opened: dict[str, Any]) -> None:
    answer = volunteer_page.client.post(
        f"/api/donors/{opened['number']}/photos",
        data=b"\xff" * (MOST_UPLOAD_BYTES + 10),
        content_type="image/jpeg",
        headers={"X-CSRFToken": volunteer_page.token},
    )
    assert (answer.status_code, answer.get_json()["code"]) == (413, "http-413")


def test_exports_are_files_for_a_spreadsheet_and_the_archive_has_the_same_bytes(
    volunteer_page: Person, opened: dict[str, Any]
) -> None:
    archive = volunteer_page.get("/api/exports/zembric.zip")
    assert archive.headers["Content-Disposition"] == "attachment; filename=zembric.zip"
    assert volunteer_page.get("/api/exports/zembric.zip").data == archive.data
    with zipfile.ZipFile(io.BytesIO(archive.data)) as files:
        for name in ("donors.csv", "cells.csv"):
            alone = volunteer_page.get(f"/api/exports/{name}")
            assert (alone.mimetype, alone.data) == ("text/csv", files.read(name))
    cells = list(csv.DictReader(io.StringIO(volunteer_page.get("/api/exports/cells.csv").text)))
    assert [cell["number"] for cell in cells] == [cell["number"] for cell in opened["cells"]]


def test_paper_comes_as_pdf_that_the_browser_may_show_and_that_runs_nothing(
    volunteer_page: Person, opened: dict[str, Any]
) -> None:
    made = volunteer_page.post("/api/prints", {"layout": "a4-24", "numbers": [opened["number"]]}).json
    tray = opened["cells"][0]["place"]["number"]
    for path in (
        f"/api/prints/{made['id']}/labels.pdf?shift_x_mm=1.5",
        "/api/test-prints/roll-flag.pdf",
        f"/api/trays/{tray}/sheet.pdf",
    ):
        answer = volunteer_page.get(path)
        assert (answer.mimetype, answer.data[:5]) == ("application/pdf", b"%PDF-")
        assert answer.headers["Content-Disposition"].startswith("inline")
        assert "script-src" not in answer.headers["Content-Security-Policy"]


def test_a_size_is_read_with_its_claim_and_a_suspicion(volunteer_page: Person) -> None:
    claimed = volunteer_page.get("/api/size?code=18650&claim_mah=9900").json
    assert (claimed["claim"]["verdict"], claimed["ambiguous"]) == ("impossible", False)
    assert volunteer_page.get("/api/size?code=1055275").json["ambiguous"]
    assert volunteer_page.get("/api/size?code=CR2032").json["rechargeable"] is False
    refused = volunteer_page.get("/api/size?code=18-50")
    assert (refused.status_code, refused.json["field"]) == (422, "size_code")


def test_what_waited_is_dated_by_when_it_was_typed(volunteer_page: Person, opened: dict[str, Any]) -> None:
    number, typed_at = opened["cells"][0]["number"], datetime.now(UTC).isoformat()
    body = {"findings": [], "value": "3.7", "typed_at": typed_at}
    answer = volunteer_page.post(f"/api/cells/{number}/first-looks", body, Idempotency_Key="a-key-of-its-own")
    again = volunteer_page.post(f"/api/cells/{number}/first-looks", body, Idempotency_Key="a-key-of-its-own")
    assert (answer.status_code, again.json) == (200, answer.json)
    told = volunteer_page.get(f"/api/cells/{number}").json["entries"]
    assert len(told) == 2
    assert {datetime.fromisoformat(entry["at"]) for entry in told} == {datetime.fromisoformat(typed_at)}


def test_a_running_recovery_is_told_to_everybody(
    volunteer_page: Person, coordinator_page: Person, opened: dict[str, Any]
) -> None:
    number = opened["cells"][0]["number"]
    volunteer_page.post(f"/api/cells/{number}/first-looks", {"findings": [], "value": "2.7"})
    plan = volunteer_page.get(f"/api/cells/{number}/bench").json["plan"]
    assert (plan["watched"], plan["past_v"], plan["most_min"]) == (False, 3.0, 60)
    volunteer_page.post(f"/api/cells/{number}/recovery-starts", {"current_ma": str(plan["current_ma"])})
    (running,) = coordinator_page.get("/api/home").json["running"]
    assert (running["number"], running["started_by"]) == (number, "Volunteer")


def test_the_catalogue_takes_a_row_only_of_its_own_part(coordinator_page: Person) -> None:
    size = {"name": "Tin", "rows": 2, "columns": 3, "is_active": True}
    assert coordinator_page.post("/api/catalogue/tray-sizes", {"tray_size": size}).status_code == 201
    wrong_part = coordinator_page.post("/api/catalogue/models", {"tray_size": size})
    assert (wrong_part.status_code, wrong_part.json["field"]) == (422, "model")
    no_code = coordinator_page.post(
        "/api/catalogue/chemistries",
        {"chemistry": {"name": "Mud", "family": "layered-oxide", "full_v": None, "note": "", "is_active": True}},
    )
    assert (no_code.status_code, no_code.json["field"]) == (422, "code")
