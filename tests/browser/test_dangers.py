"""Where people meet a danger on the screen: asked, red, named on the first page."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy.orm import Session

from tests.browser.conftest import signed_in
from tests.support.benchwork import TWO_BY_TWO, at, keep, numbers_of, open_donor, shelf_of, to_the_shelf, voltage
from zembric.core.errors import NotAllowedError
from zembric.core.house.rules import HouseRules
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.cells.packed import members_of
from zembric.operations.house import rules
from zembric.operations.packing import packs


def now() -> datetime:
    return datetime.now(UTC) - timedelta(minutes=5)


def test_a_charge_that_went_too_far_is_asked_about_and_written_down(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], now())
    voltage(session, volunteer, number, "3.71", now())
    session.commit()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Charged; ended at").fill("4.45")
    page.get_by_role("button", name="Keep the charge").click()
    page.get_by_role("button", name="It happened: write it down").click()
    expect(page.get_by_text("fire-safe box").first).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Charged, ended at 4.45 V")).to_be_visible()


def test_a_stopped_pack_is_named_on_the_first_page_with_who_has_it(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = keep(session, volunteer)
    pack.state, pack.given_to = "given-out", "Quill, at the mill door"
    packs.stop_pack(session, volunteer, pack.number, "it got warm in its case", now())
    session.commit()
    page.goto(address)
    expect(page.get_by_text("Call them now: a pack that is out was stopped.")).to_be_visible()
    expect(page.get_by_text("Quill, at the mill door")).to_be_visible()
    page.get_by_role("link", name="Open the pack").click()
    expect(page.get_by_text("This pack is stopped. Nobody uses or charges it.")).to_be_visible()


def test_a_sum_beyond_what_a_wire_stands_is_red_with_its_limit(page: Page, address: str) -> None:
    page.goto(f"{address}/sums/wire")
    page.get_by_label("Current").fill("25")
    expect(page.get_by_text("25 A is more than a wire like this stands (7.5 A)")).to_be_visible()


@pytest.fixture
def coordinator_page(new_context: Callable[..., BrowserContext], address: str) -> Page:
    return signed_in(new_context().new_page(), address, "Coordinator")


def shelf_with_a_marked_cell(session: Session, volunteer: Actor, coordinator: Actor) -> str:
    """One of four was found at 1.7 V, woken under a thrifty house, allowed to go on; all are measured and shelved."""
    rules.set_rules(
        session,
        coordinator,
        1,
        HouseRules(0, "thrifty", "health", switches={"pack-models": "near"}),
        "little comes in",
        at(),
    )
    (number,) = numbers_of(open_donor(session, volunteer))
    entries.inspect(session, volunteer, number, [], at(minutes=1))
    voltage(session, volunteer, number, "1.7", at(minutes=2))
    entries.recover(session, volunteer, number, "passed", at(minutes=30))
    voltage(session, volunteer, number, "3.10", at(hours=2))
    entries.decide(session, coordinator, number, "recovery-mark", "go-on", "it holds what it was given", at(hours=2.5))
    to_the_shelf(session, volunteer, number, 2400, found=False)
    shelf_of(session, volunteer, [2350, 2300, 2250])
    return number


def test_a_marked_cell_gets_into_a_pack_only_with_a_coordinators_yes_for_that_pack(
    coordinator_page: Page, session: Session, volunteer: Actor, coordinator: Actor, address: str
) -> None:
    marked = shelf_with_a_marked_cell(session, volunteer, coordinator)
    request = replace(TWO_BY_TWO, marked_allowed=(marked,))
    with pytest.raises(NotAllowedError, match="mark for life"):
        keep(session, volunteer, request)
    pack = keep(session, coordinator, request)
    for member in members_of(pack):
        member.mark_allowed_by_id = None
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/packs/{pack.number}")
    expect(page.get_by_text(f"{marked} carries a mark for life: recovered from very low.")).to_be_visible()
    page.get_by_label("Why it may stand in this pack").fill("a lamp in our own room")
    page.get_by_role("button", name=f"Yes to {marked}, for this pack").click()
    expect(page.get_by_text("“a lamp in our own room”")).to_be_visible()
    expect(page.get_by_text(f"{marked} carries a mark for life: recovered from very low.")).to_be_hidden()


def test_a_house_value_is_changed_in_the_rules_and_holds_at_the_next_entry(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    """250 mA where 500 mA is usual for an 18650 of unknown capacity."""
    (number,) = numbers_of(open_donor(session, volunteer, rated_capacity_mah=None))
    entries.inspect(session, volunteer, number, [], now())
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/rules")
    page.get_by_role("button", name="Charging and resting").click()
    page.get_by_role("textbox", name="Charge current of an 18650 or larger of unknown capacity").fill("250")
    page.get_by_role("button", name="See what it would change").click()
    page.get_by_role("textbox", name="Why", exact=True).fill("our modules are weak")
    page.get_by_role("button", name="Set, and judge every cell anew").click()
    expect(page.get_by_text("our modules are weak")).to_be_visible()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Resting voltage").fill("3.71")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile(r"Charge at 0\.25\sA")).first).to_be_visible()


def test_a_rated_value_that_hardly_fits_is_asked_about_before_cells_are_numbered(page: Page, address: str) -> None:
    page.goto(f"{address}/open")
    page.get_by_role("textbox", name="How many cells?").fill("2")
    page.get_by_label("Rated, from a data sheet").fill("3900")
    page.get_by_role("button", name="Number these 2 cells").click()
    expect(page.get_by_text("is more than such a cell usually holds")).to_be_visible()
    page.get_by_label("Rated, from a data sheet").fill("39000")
    page.get_by_role("button", name="Number these 2 cells").click()
    expect(page.get_by_text("rated cannot be")).to_be_visible()
    page.get_by_label("Rated, from a data sheet").fill("3900")
    page.get_by_role("button", name="Number these 2 cells").click()
    page.get_by_role("button", name="The sheet says so: number these 2 cells").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Laptop pack")
