"""Where people meet a danger: what is refused, what is kept as it happened, and what everybody is told of."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.api.conftest import Person
from tests.support.benchwork import keep, shelf_of
from zembric.operations.actors import Actor

DONOR: dict[str, Any] = {
    "kind": "laptop", "description": "", "cells": 2, "size_code": "18650", "family": "layered-oxide", "rated_capacity_mah": 2600,
}  # fmt: skip
MODEL = {
    "name": "NW 29", "size_code": "18650", "family": "layered-oxide", "full_v": None, "rated_capacity_mah": 26000, "cut_off_v": 2.5,
    "most_charge_ma": None, "most_discharge_ma": None, "source": "sheet from the binder", "sheet_date": None,
}  # fmt: skip


@pytest.fixture
def number(volunteer_page: Person) -> str:
    return str(volunteer_page.post("/api/donors", DONOR).json["cells"][0]["number"])


def test_a_rated_value_its_size_cannot_hold_is_refused_wherever_it_enters(
    volunteer_page: Person, coordinator_page: Person, number: str
) -> None:
    facts = {"seen_version": 1, "rated_capacity_mah": 26000}
    refused = [
        volunteer_page.post("/api/donors", DONOR | {"rated_capacity_mah": 26000}),
        volunteer_page.post(f"/api/cells/{number}/facts", facts, method="PUT"),
        coordinator_page.post("/api/catalogue/models", {"model": MODEL}),
    ]
    assert [(answer.status_code, answer.json["code"]) for answer in refused] == [(422, "rated-impossible")] * 3


def test_a_full_voltage_of_another_family_is_refused_wherever_it_enters(
    volunteer_page: Person, coordinator_page: Person
) -> None:
    wrong = {"family": "iron-phosphate", "full_v": 4.2, "rated_capacity_mah": 1500}
    refused = [
        volunteer_page.post("/api/donors", DONOR | wrong),
        coordinator_page.post("/api/catalogue/models", {"model": MODEL | wrong}),
    ]
    assert [(answer.status_code, answer.json["code"]) for answer in refused] == [(422, "full-voltage")] * 2


def test_a_charge_that_went_too_far_is_asked_about_and_then_kept_as_what_happened(
    volunteer_page: Person, number: str
) -> None:
    volunteer_page.post(f"/api/cells/{number}/first-looks", {"findings": [], "value": "3.71"})
    asked = volunteer_page.post(f"/api/cells/{number}/charges", {"end_v": "4.45"})
    assert (asked.status_code, asked.json["code"]) == (422, "went-too-far")
    kept = volunteer_page.post(f"/api/cells/{number}/charges", {"end_v": "4.45", "happened": True}).json["cell"]
    assert (kept["grade"], kept["place"]["kind"]) == ("out", "fire-safe-box")
    later = volunteer_page.post(
        f"/api/cells/{number}/readings", {"quantity": "voltage", "value": "4.1", "method": "meter"}
    )
    assert later.json["code"] == "danger"


@pytest.mark.parametrize("heat", [{"cell_degc": "65"}, {"warmth": "too-hot"}])
def test_a_cell_that_is_hot_on_its_own_is_a_hazard_and_not_a_slip(
    volunteer_page: Person, number: str, heat: dict[str, str]
) -> None:
    found = volunteer_page.post(f"/api/cells/{number}/first-looks", {"findings": [], "value": "3.71", **heat})
    assert (found.status_code, found.json["cell"]["place"]["kind"]) == (200, "fire-safe-box")


def test_a_hazard_in_a_pack_names_it_on_the_first_page(
    session: Session, volunteer: Actor, volunteer_page: Person
) -> None:
    numbers = shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = keep(session, volunteer)
    pack.state, pack.given_to = "given-out", "Quill, at the mill door"
    session.commit()
    volunteer_page.post(f"/api/cells/{numbers[0]}/inspections", {"findings": ["swollen"]})
    recall = volunteer_page.get("/api/home").json["stopped_packs"]
    assert [(each["number"], each["given_to"]) for each in recall] == [(pack.number, "Quill, at the mill door")]


def test_a_pack_that_is_not_ready_says_everything_that_stands_in_its_way(
    session: Session, volunteer: Actor, volunteer_page: Person
) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = keep(session, volunteer)
    session.commit()
    answer = volunteer_page.post(f"/api/packs/{pack.number}/moves", {"state": "built", "seen_version": pack.version})
    assert (answer.status_code, answer.json["code"]) == (409, "pack-not-ready")
    assert "refused:not-picked" in [way["code"] for way in answer.json["ways"]]
