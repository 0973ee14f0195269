"""Where people meet a danger on the screen: asked, red, named on the first page."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from playwright.sync_api import Page, expect
from sqlalchemy.orm import Session

from tests.support.benchwork import keep, numbers_of, open_donor, shelf_of, voltage
from zembric.operations import entries, packs
from zembric.operations.actors import Actor


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
