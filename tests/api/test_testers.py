"""The testers over the wire of the API: what a page asks and does, what a script gets wrong, and who may what."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.api.conftest import Person
from tests.support.testers import slot_numbers, vape_cells, wire_up
from zembric.core.said import said
from zembric.operations.actors import Actor
from zembric.operations.testers.alarms import raise_alarm

NOW = datetime.now(UTC)


@pytest.fixture
def table(session: Session, coordinator: Actor, volunteer: Actor) -> tuple[list[str], list[str]]:
    wire_up(session, coordinator, 5999, NOW)
    cells = vape_cells(session, volunteer, 2)
    session.commit()
    return slot_numbers(session), cells


def test_a_cell_is_put_in_begun_and_stopped(volunteer_page: Person, table: tuple[list[str], list[str]]) -> None:
    (place, *_), (cell, _) = table
    put = volunteer_page.post(f"/api/slots/{place}/cell", {"cell": cell}).json
    assert [choice["program"] for choice in put["choices"] if choice["is_usual"]] == ["cycle"]
    begun = volunteer_page.post(f"/api/slots/{place}/runs", {"program": "cycle"})
    assert (begun.status_code, begun.json["slot"]["run"]["state"]) == (201, "asked")
    run = begun.json["slot"]["run"]["id"]
    stopped = volunteer_page.post(f"/api/runs/{run}/stop", {}).json
    assert stopped["slot"]["run"]["state"] == "stopped"
    assert volunteer_page.post(f"/api/slots/{place}/cell", {}, method="DELETE").json["slot"]["cell"] is None


def test_the_table_tells_every_slot_and_whether_anything_charges(
    volunteer_page: Person, table: tuple[list[str], list[str]]
) -> None:
    (place, *_), (cell, _) = table
    before = volunteer_page.get("/api/table").json
    volunteer_page.post(f"/api/slots/{place}/cell", {"cell": cell})
    volunteer_page.post(f"/api/slots/{place}/runs", {"program": "charge"})
    after = volunteer_page.get("/api/table").json
    assert (before["charges"], after["charges"]) == (False, True)
    assert len(after["slots"]) == 8
    assert after["present_at"] is not None


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("/api/slots/{place}/cell", {"cell": "1235"}, 422), ("/api/slots/{place}/cell", {}, 422), ("/api/slots/K998/cell", {"cell": "1007"}, 422),
        ("/api/slots/{place}/runs", {"program": "explode"}, 422), ("/api/slots/{place}/runs", {"program": "cycle"}, 409),
        ("/api/runs/99/stop", {}, 404), ("/api/alarms/99/answer", {"done": ""}, 404), ("/api/slots", {"name": "x", "max_charge_ma": 500}, 422),
        ("/api/slots", {"name": "A charger", "max_charge_ma": 0}, 422), ("/api/evening", {"ends_at": "soon", "people": []}, 422),
        ("/api/evening/what-if", {"what": "hands"}, 409), ("/api/evening/what-if", {"what": "magic"}, 422),
        ("/api/push", {"endpoint": "https://127.0.0.1/x", "p256dh": "a" * 40, "auth": "b" * 20}, 409),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_in_words(
    volunteer_page: Person, table: tuple[list[str], list[str]], path: str, body: dict[str, Any], status: int
) -> None:
    answer = volunteer_page.post(path.format(place=table[0][0]), body)
    assert answer.status_code == status
    assert answer.json["text"]


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/testers", {"instrument": "M101", "link": "scpi", "address": "ASRL/dev/ttyUSB0::INSTR", "mapping": {"measure": "M?"}}),
        ("POST", "/api/testers/1/tries", {"line": "*IDN?"}),
        ("PUT", "/api/slots/{place}", {"name": "Slot", "max_charge_ma": 900, "max_discharge_ma": 900}),
    ],
)  # fmt: skip
def test_what_is_sent_to_instruments_is_for_coordinators(
    volunteer_page: Person, table: tuple[list[str], list[str]], method: str, path: str, body: dict[str, Any]
) -> None:
    assert volunteer_page.post(path.format(place=table[0][0]), body, method=method).status_code == 403


def test_an_alarm_is_answered_by_the_first_and_the_second_is_told_who(
    volunteer_page: Person, coordinator_page: Person, session: Session
) -> None:
    alarm = raise_alarm(session, "tester-silent", said("alarm-tester-silent"), NOW).id
    session.commit()
    assert [each["id"] for each in coordinator_page.get("/api/alarms").json["alarms"]] == [alarm]
    assert volunteer_page.post(f"/api/alarms/{alarm}/answer", {"done": "plugged it in"}).json["alarms"] == []
    second = coordinator_page.post(f"/api/alarms/{alarm}/answer", {"done": ""})
    assert (second.status_code, "Volunteer" in second.json["text"]) == (409, True)
    (past,) = coordinator_page.get("/api/alarms/past").json["alarms"]
    assert (past["done"], past["answered_by"]) == ("plugged it in", "Volunteer")


def test_an_evening_is_planned_changed_and_closed(volunteer_page: Person, table: tuple[list[str], list[str]]) -> None:
    ends = (NOW + timedelta(hours=8)).isoformat()
    body: dict[str, Any] = {"ends_at": ends, "people": [{"name": "Ines", "until": ends}], "promised": [table[1][1]]}
    planned = volunteer_page.post("/api/evening", body).json["evening"]
    assert (planned["tonight"], planned["promises_missed"]) == (sorted(table[1]), 0)
    assert {row["state"] for row in planned["rows"]} <= {"due", "ahead"}
    without = body | {"version": planned["version"], "promised": []}
    changed = volunteer_page.post("/api/evening", without, method="PUT")
    assert changed.json["evening"]["changes"]
    again = volunteer_page.post("/api/evening", body | {"version": planned["version"]}, method="PUT")
    assert again.status_code == 409
    assert volunteer_page.post("/api/evening", {}, method="DELETE").json == {"evening": None}
    assert volunteer_page.get("/api/evening").json == {"evening": None}


def test_a_tester_that_is_running_is_not_changed_under_it(
    volunteer_page: Person, coordinator_page: Person, table: tuple[list[str], list[str]]
) -> None:
    (place, *_), (cell, _) = table
    (tester,) = coordinator_page.get("/api/testers").json["testers"]
    volunteer_page.post(f"/api/slots/{place}/cell", {"cell": cell})
    volunteer_page.post(f"/api/slots/{place}/runs", {"program": "charge"})
    body = {
        "instrument": tester["instrument"], "link": "scpi", "address": tester["address"], "mapping": {"measure": "M?"},
        "version": tester["version"],
    }  # fmt: skip
    assert coordinator_page.post(f"/api/testers/{tester['id']}", body, method="PUT").status_code == 409
