"""Every field of every write, given what nobody should send: an answer that helps, never a server error."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Person

NASTY: tuple[Any, ...] = (
    None, "", " ", "\x00", "a\x00b", "\ud800", "x" * 5000, "'; DROP TABLE cell; --", "=1+1", "NaN", -1, 0, 10**30, 1e308, 1.5,
    True, [], {}, [None], ["\x00"], {"a": 1},
)  # fmt: skip
READING = {"quantity": "voltage", "value": "3.7", "method": "meter"}
MATCH = {"series": 1, "parallel": 1, "family": "layered-oxide", "size_code": "18650", "least_grade": "C"}
WRITES: dict[str, dict[str, Any]] = {
    "/api/session": {"name": "Volunteer", "password": "wrong"},
    "/api/invitations/abc": {"name": "Nova", "password": "a long enough one"},
    "/api/donors": {
        "kind": "laptop", "description": "", "cells": 1, "size_code": "18650", "family": "layered-oxide", "full_v": None,
        "claimed_capacity_mah": 2600, "rated_capacity_mah": 2600,
    },
    "/api/cells/{}/inspections": {"findings": []},
    "/api/cells/{}/readings": {**READING, "confirmed": True, "current_ma": "1000", "cut_off_v": "3.0", "complete": True},
    "/api/cells/{}/charges": {"end_v": "4.2", "complete": True},
    "/api/cells/{}/recoveries": {"outcome": "passed"},
    "/api/cells/{}/repairs": {"done": ["torn-wrap"]},
    "/api/cells/{}/skips": {"why": "no instrument"},
    "/api/cells/{}/decisions": {"about": "over-voltage", "outcome": "go-on", "why": "checked"},
    "/api/cells/{}/shelvings": {"place_id": 1},
    "/api/cells/{}/withdrawals": {"entry_id": 1},
    "/api/cells/{}/corrections": {"entry_id": 1, "why": "wrong cell", "reading": READING},
    "/api/matches": MATCH,
    "/api/packs": {"purpose": "lamp", "request": MATCH, "groups": [["1007"]]},
    "/api/packs/P101/moves": {"state": "built", "seen_version": 1, "why": None},
    "/api/hand-overs": {"place_id": 1, "taped": True},
}  # fmt: skip


@pytest.mark.parametrize("path", WRITES)
def test_no_field_of_a_write_breaks_the_server(coordinator_page: Person, path: str) -> None:
    opened = coordinator_page.post("/api/donors", WRITES["/api/donors"]).json
    address, good = path.format(opened["cells"][0]["number"]), WRITES[path]
    broken = [
        (field, nasty)
        for field in good
        for nasty in NASTY
        if coordinator_page.post(address, {**good, field: nasty}).status_code >= 500
    ]
    assert broken == []


@pytest.mark.parametrize("nasty", ["%00", "%F0%9F%94%8B", "..%2f..", "a" * 500, "%ED%A0%80", "1007'--", "-1"])
def test_no_address_breaks_the_server(coordinator_page: Person, nasty: str) -> None:
    paths = (
        f"/api/cells/{nasty}",
        f"/api/donors/{nasty}",
        f"/api/packs/{nasty}",
        f"/api/invitations/{nasty}",
        f"/{nasty}",
    )
    queries = (
        f"/api/cells?{field}={nasty}" for field in ("step", "grade", "size_code", "place_id", "donor", "sort", "offset")
    )
    assert [path for path in (*paths, *queries) if coordinator_page.get(path).status_code >= 500] == []


def test_what_a_person_may_write_in_their_own_words_comes_back_as_it_was(coordinator_page: Person) -> None:
    words = "=SUM(A1) <script>alert(1)</script> Ægir's “old” 🔋"
    donor = coordinator_page.post("/api/donors", {**WRITES["/api/donors"], "description": words}).json
    assert coordinator_page.get(f"/api/donors/{donor['number']}").json["description"] == words
