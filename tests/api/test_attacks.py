"""Every field of every write, given what nobody should send: an answer that helps, never a server error."""

from __future__ import annotations

import io
import json
import struct
import threading
import zlib
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from typing import Any

import pytest
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from tests.api.conftest import Person
from tests.api.test_api import DONOR
from zembric.models import InspectionEntry
from zembric.operations.actors import Actor
from zembric.operations.signing_in import sign_ins

NASTY: tuple[Any, ...] = (
    None, "", "a\x00b", "\ud800", "x" * 5000, "NaN", -1, 10**30, 1e308, True, [], ["\x00"], {"a": 1},
)  # fmt: skip
READING = {"quantity": "voltage", "value": "3.7", "method": "meter"}
MATCH: dict[str, Any] = {
    "series": 1, "parallel": 1, "family": "layered-oxide", "size_code": "18650", "least_grade": "C", "target_mah": 500,
    "tolerance": "usual", "joined_as_they_lie": True, "donors": "apart", "with_estimated": True, "load_a": 1, "banned": ["1010"],
    "pins": {"1007": 1},
}  # fmt: skip
MEASUREMENT = {
    "method": "two-voltage", "said": {"charger_on": "no"}, "instrument": "M101", "confirmed": True,
    "values": {"u_rest_v": "3.92", "u_load_v": "3.8", "r_load_ohm": "4.7", "after_s": "10", "resolution_v": "0.01"},
}  # fmt: skip
INSTRUMENT = {
    "name": "Yellow meter",
    "kind": "voltmeter",
    "resolution_v": "0.001",
    "half_width_pct": "",
    "lead_mohm": "",
    "note": "",
}
WRITES: dict[str, dict[str, Any]] = {
    "/api/session": {"name": "Volunteer", "password": "wrong"},
    "/api/invitations/abc": {"name": "Nova", "password": "a long enough one"},
    "/api/donors": {
        "kind": "laptop", "description": "", "cells": 1, "size_code": "18650", "family": "layered-oxide", "full_v": None,
        "claimed_capacity_mah": 2600, "rated_capacity_mah": 2600, "model_id": 1, "tray_size_id": 1, "parallel": 1,
    },
    "PUT /api/donors/{donor}/clues": {
        "seen_version": 1, "description": "x", "symptom": "dead", "ran_min": 5, "runs_now_min": 1, "claimed_v": 14.4,
        "claimed_wh": 40, "claimed_mah": 2800, "charger_kind": "linear", "charger_k_v": 1000, "charger_r1_ohm": 2000,
        "charger_r2_ohm": 2000, "protection": "yes", "protection_cut_off_v": 2.5, "protection_release_v": 3,
        "temperature_sensor": "no", "converter": "none", "connector": "plug", "charged_in": "out",
    },
    "/api/donors/{donor}/taped": {"x": 1},
    "/api/donors/{donor}/groups": {"parallel": 1, "voltages": ["3.7"]},
    "/api/donors/{donor}/parts": {"kind": "holder", "description": ""},
    "/api/parts/1/gone": {"why": "used in a lamp"},
    "/api/cells/{}/first-looks": {
        "findings": [], "value": "3.7", "confirmed": True, "turned": None, "typed_at": "2026-03-02T18:00:00Z",
    },
    "/api/cells/{}/recovery-starts": {"current_ma": "100", "cell_degc": "20"},
    "/api/cells/{}/recovery-checks": {"value": "2.8", "cell_degc": "20", "feels_warm": False},
    "/api/cells/{}/moves": {"place": "X101", "slot": 1},
    "/api/cells/{}/uses": {"device": "reading lamp"},
    "PUT /api/cells/{}/facts": {
        "seen_version": 1, "siblings_too": True, "size_code": "18650", "family": "layered-oxide", "full_v": 4.2,
        "rated_capacity_mah": 2600, "claimed_capacity_mah": 2600, "advertised_capacity_mah": 2600, "chemistry_code": "nmc",
        "model_id": None, "width_mm": 18, "length_mm": 65, "thickness_mm": None, "mass_g": 45, "build": "wrapped-can",
        "plus_end": "button", "protection": "none", "terminals": "clean",
    },
    "/api/places": {"name": "Blue box", "kind": "shelf-box", "rows": None, "columns": None, "capacity": 5},
    "PUT /api/places/X101": {"seen_version": 1, "name": "Sand box", "capacity": 5},
    "/api/places/X101/counts": {"seen": ["1007"]},
    "/api/places/X101/stock-takes": {"seen": ["1007"]},
    "/api/catalogue/tray-sizes": {"tray_size": {"name": "Odd", "rows": 2, "columns": 3, "is_active": True}},
    "/api/catalogue/models": {"code": "x", "model": {"name": "NW 1"}},
    "PUT /api/catalogue/formats/18650": {"seen_version": 1, "format": {"name": "x"}},
    "PUT /api/rules": {"seen_version": 1, "voltage_school": "usual", "grade_school": "health", "why": "as before"},
    "/api/prints": {"layout": "a4-65", "numbers": ["X101"], "first": 1, "why": "worn off"},
    "/api/lists/previews": {"file_name": "a.csv", "content": "bGFiZWwKMQo=", "columns": ["label"]},
    "/api/lists": {"file_name": "a.csv", "content": "bGFiZWwKMQo=", "columns": ["label"]},
    "/api/sums/wire": {"values": {"awg": "20", "length_m": "1", "current_a": "1"}},
    "/api/measurements": MEASUREMENT,
    "/api/cells/{}/measurements": MEASUREMENT,
    "/api/instruments": INSTRUMENT,
    "PUT /api/instruments/M101": {**INSTRUMENT, "version": 1, "is_active": True},
    "/api/instruments/M101/corrections": {"against": "M112", "quantity": "capacity", "ground": "compared"},
    "/api/logs/1/answers": {
        "columns": ["time", "voltage"], "time_unit": "s", "voltage_unit": "V", "current_unit": "A", "discharge": "negative",
        "resistor_ohm": 4.7, "every_s": 1, "remember": True,
    },
    "/api/logs/1/readings": {"cell": "1007", "test": 0, "confirmed": True},
    "/api/logs/1/stop": {"x": 1},
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
    "/api/matches/several": {"requests": [MATCH], "way": "alike"},
    "/api/match-searches": {"request": MATCH, "seconds": 5},
    "/api/designs": {
        "least_v": "3", "most_v": "4.2", "replaced": "nimh", "count": 3, "load_kind": "current", "load": "500", "hours": "3",
        "room_mm": ["", "", ""], "charger_v": "", "device": "meter",
    },
    "/api/wishes": {"purpose": "lamp", "request": MATCH},
    "/api/packs": {"purpose": "lamp", "request": MATCH, "groups": [["1007"]], "wish_id": 1},
    "/api/packs/P101/picks": {"cell": "1007", "back": False},
    "/api/packs/P101/repairs": {"exchanges": {"1007": "1010"}, "seen_version": 1},
    "/api/packs/P101/moves": {"state": "built", "seen_version": 1, "why": None},
    "/api/hand-overs": {"place_id": 1, "taped": True},
}  # fmt: skip


@pytest.mark.parametrize("path", WRITES)
def test_no_field_of_a_write_breaks_the_server(coordinator_page: Person, path: str) -> None:
    opened = coordinator_page.post("/api/donors", {**WRITES["/api/donors"], "model_id": None}).json
    cell, good = opened["cells"][0], WRITES[path]
    method, _, address = path.rpartition(" ")
    address = address.format(cell["number"], donor=opened["number"])
    broken = [
        (field, nasty)
        for field in good
        for nasty in NASTY
        if coordinator_page.post(address, {**good, field: nasty}, method=method or "POST").status_code >= 500
    ]
    assert broken == []


@pytest.mark.parametrize("nasty", ["%00", "%F0%9F%94%8B", "..%2f..", "a" * 500, "%ED%A0%80", "1007'--", "-1"])
def test_no_address_breaks_the_server(coordinator_page: Person, nasty: str) -> None:
    paths = (
        f"/api/cells/{nasty}",
        f"/api/donors/{nasty}",
        f"/api/packs/{nasty}",
        f"/api/packs/{nasty}/plan.json",
        f"/api/packs/{nasty}/plan.csv",
        f"/api/packs/{nasty}/pick-list.pdf",
        f"/api/match-searches/{nasty}",
        f"/api/match-searches/{nasty}/proposal",
        f"/api/cells/{nasty}/bench",
        f"/api/places/{nasty}",
        f"/api/trays/{nasty}",
        f"/api/trays/{nasty}/sheet.pdf",
        f"/api/photos/{nasty}.jpg",
        f"/api/prints/{nasty}/labels.pdf",
        f"/api/test-prints/{nasty}.pdf",
        f"/api/exports/{nasty}.csv",
        f"/api/find?text={nasty}",
        f"/api/size?code={nasty}",
        f"/api/logs/{nasty}",
        f"/api/logs/1/tests/{nasty}/curve",
        f"/api/cells/{nasty}/rest",
        f"/api/agreement?a={nasty}&b=M101",
        f"/api/invitations/{nasty}",
        f"/{nasty}",
    )
    queries = (
        f"/api/cells?{field}={nasty}"
        for field in ("step", "grade", "size_code", "place_id", "donor", "sort", "offset", "after", "before")
    )
    assert [path for path in (*paths, *queries) if coordinator_page.get(path).status_code >= 500] == []


def test_what_a_person_may_write_in_their_own_words_comes_back_as_it_was(coordinator_page: Person) -> None:
    words = "=SUM(A1) <script>alert(1)</script> Ægir's “old” 🔋"
    donor = coordinator_page.post("/api/donors", {**WRITES["/api/donors"], "description": words, "model_id": None}).json
    assert coordinator_page.get(f"/api/donors/{donor['number']}").json["description"] == words


def blank_png(side_px: int) -> bytes:
    """A few kilobytes that are a picture of so many pixels a side."""
    row = b"\x00" * (1 + side_px // 8)

    def chunk(kind: bytes, content: bytes) -> bytes:
        return struct.pack(">I", len(content)) + kind + content + struct.pack(">I", zlib.crc32(kind + content))

    head = struct.pack(">IIBBBBB", side_px, side_px, 1, 0, 0, 0, 0)
    packed = zlib.compressobj(9)
    content = b"".join(packed.compress(row) for _ in range(side_px)) + packed.flush()
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", content) + chunk(b"IEND", b"")


@pytest.mark.parametrize("side_px", [5600, 14000, 30000])
def test_a_small_file_with_too_many_pixels_is_refused_before_it_is_unpacked(
    volunteer_page: Person, side_px: int
) -> None:
    donor = volunteer_page.post("/api/donors", WRITES["/api/donors"] | {"model_id": None, "tray_size_id": None}).json[
        "number"
    ]
    sent = volunteer_page.client.post(
        f"/api/donors/{donor}/photos", data=blank_png(side_px), headers={"X-CSRFToken": volunteer_page.token}
    )
    assert (sent.status_code, sent.get_json()["field"]) == (422, "photo")


def test_what_is_nested_without_end_or_no_base64_is_the_senders_error(volunteer_page: Person) -> None:
    headers = {"X-CSRFToken": volunteer_page.token, "Content-Type": "application/json"}
    deep = volunteer_page.client.post("/api/donors", data="[" * 100_000, headers=headers)
    assert deep.status_code in {400, 422}
    listed = volunteer_page.post("/api/lists", {"file_name": "cells.csv", "content": "größe", "columns": None})
    assert (listed.status_code, listed.json["field"]) == (422, "content")


@pytest.mark.parametrize("key", ["charge", "²", "9" * 30])
def test_what_is_no_key_of_the_catalogue_is_not_there(coordinator_page: Person, key: str) -> None:
    size = {"name": "Tin", "rows": 2, "columns": 3, "is_active": True}
    answer = coordinator_page.post(f"/api/catalogue/tray-sizes/{key}", {"seen_version": 1, "tray_size": size}, "PUT")
    assert answer.status_code == 404


def test_answers_stay_off_shared_tablets_and_ask_for_no_more_than_the_camera(volunteer_page: Person) -> None:
    answer = volunteer_page.get("/api/home")
    assert answer.headers["Cache-Control"] == "no-store"
    assert "microphone=()" in answer.headers["Permissions-Policy"]
    assert "Strict-Transport-Security" not in answer.headers
    secure = volunteer_page.client.get("/api/session", base_url="https://localhost")
    assert secure.headers["Strict-Transport-Security"].startswith("max-age=")


def test_one_person_keeps_the_house_busy_with_three_costly_things_at_most(
    anybody: Callable[[], Person], volunteer_page: Person, coordinator_page: Person, monkeypatch: pytest.MonkeyPatch
) -> None:
    donor = volunteer_page.post("/api/donors", DONOR).json["number"]
    go_on, begun = threading.Event(), threading.Semaphore(0)

    def shrink(_upload: bytes) -> tuple[bytes, int, int]:
        begun.release()
        go_on.wait()
        return b"small", 1, 1

    monkeypatch.setattr("zembric.operations.cells.photos.shrink", shrink)

    def send(page: Person) -> int:
        headers = {"X-CSRFToken": page.token}
        return page.client.post(f"/api/donors/{donor}/photos", data=b"a picture", headers=headers).status_code

    mine = [anybody() for _ in range(4)]
    for page in mine:
        page.sign_in("Volunteer")
    with ThreadPoolExecutor() as pool:
        under_way = [pool.submit(send, page) for page in mine[:3]]
        for _ in under_way:
            begun.acquire()
        fourth, others = send(mine[3]), pool.submit(send, coordinator_page)
        go_on.set()
        assert (fourth, others.result(), [each.result() for each in under_way]) == (429, 201, [201, 201, 201])


def test_who_sends_so_slowly_that_their_sign_in_ended_meanwhile_changes_nothing(
    volunteer_page: Person, session: Session, volunteer: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = volunteer_page.post("/api/donors", DONOR).json["cells"][0]["number"]
    monkeypatch.setattr("zembric.api.requests._HOLDS_FOR_S", 0.0)
    body = json.dumps({"findings": []}).encode()

    class Slow(io.BytesIO):
        def readinto(self, buffer: Any) -> int:
            sign_ins.end_all(session, volunteer.person_id, datetime.now(UTC))
            session.commit()
            return super().readinto(buffer)

    answer = volunteer_page.client.post(
        f"/api/cells/{number}/inspections", input_stream=Slow(body), content_length=len(body),
        content_type="application/json", headers={"X-CSRFToken": volunteer_page.token},
    )  # fmt: skip
    assert (answer.status_code, session.scalar(select(func.count()).select_from(InspectionEntry))) == (401, 0)
