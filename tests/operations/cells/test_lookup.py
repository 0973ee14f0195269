"""What words lead to, and the list of all donors."""

from __future__ import annotations

from datetime import UTC, timedelta, timezone
from typing import Any

from sqlalchemy.orm import Session

from tests.support.benchwork import at, open_donor
from zembric.operations.actors import Actor
from zembric.operations.cells.lookup import find, search
from zembric.operations.donors import DonorFilter, listed_donors
from zembric.wording import say


def test_words_of_device_size_place_person_and_day_lead_to_donors_and_cells(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 2, description="Ferry ticket printer")
    open_donor(session, volunteer, size_code="13350", rated_capacity_mah=None, description="Harbour lamp")
    today = at()

    def found(typed: str) -> list[tuple[str, str]]:
        return [(each.thing, each.number) for each in search(session, typed, today).found]

    printer = [("donor", donor.number), *(("cell", cell.number) for cell in reversed(donor.cells))]
    assert found("ferry") == found("FERRY volunteer") == printer
    assert [thing for thing, _ in found("13350")] == ["cell"]
    assert found(f"ferry {today:%d.%m.}") == found("printer today") == printer
    assert found("ferry 13350") == found("ferry yesterday") == found("ferry 9999-12-31") == []
    assert ("tray", donor.cells[0].place.number if donor.cells[0].place else "") in found("tray")


def test_a_day_is_one_by_the_clock_of_whoever_asks(session: Session, volunteer: Actor) -> None:
    number = open_donor(session, volunteer, description="Ferry ticket printer").number
    evening, far_east = at(), at().astimezone(timezone(timedelta(hours=14)))
    assert far_east.date() > evening.date()
    for here, other in ((evening, far_east), (far_east, evening)):
        assert search(session, f"ferry {here.date()}", here).found
        assert not search(session, f"ferry {other.date()}", here).found
        assert say(find(session, number, here.tzinfo or UTC).where) == f"opened on {here.date()}"


def test_donors_are_listed_by_words_kind_and_what_their_cells_want(session: Session, volunteer: Actor) -> None:
    laptop = open_donor(session, volunteer, description="Ferry ticket printer")
    vape = open_donor(session, volunteer, kind="vape-single-use", description="Pier")

    def listed(**wanted: Any) -> list[str]:
        return [donor.number for donor, _ in listed_donors(session, DonorFilter(**wanted))[0]]

    assert listed() == [vape.number, laptop.number]
    assert listed(text="printer") == listed(kind="laptop") == listed(before=vape.number) == [laptop.number]
    assert listed(has_work=True) == [vape.number, laptop.number]
    assert listed(has_work=False) == []
