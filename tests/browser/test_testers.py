"""The testers in the browser: from slot to shelf with nobody typing, alarms on a second device, and the evening planned."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.browser.conftest import sign_in, signed_in
from tests.support.testers import StandInAtHand, running, slot_numbers, standing_in, step_of, until, vape_cells, wire_up
from tests.support.worker import work_off_the_queue
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.operations.measuring.log_traces import LogStore

RUN_MS = 90_000


@pytest.fixture
def standin(engine: Engine) -> Iterator[StandInAtHand]:
    with standing_in(1200) as standin, running(engine):
        yield standin
        assert standin.violations() == "none"


@pytest.fixture
def table(
    session: Session, coordinator: Actor, volunteer: Actor, standin: StandInAtHand
) -> tuple[list[str], list[str]]:
    """Numbers of slots, and of cells that wait for one."""
    wire_up(session, coordinator, standin.port, datetime.now(UTC))
    cells = vape_cells(session, volunteer, 2)
    session.commit()
    return slot_numbers(session), cells


def put_in(page: Page, address: str, slot: str, cell: str) -> None:
    page.goto(f"{address}/table")
    # The other way round than it is asked for: both have their letters.
    page.get_by_label("Scan the slot").fill(f"C{cell}")
    page.get_by_label("and the cell").fill(slot)
    page.keyboard.press("Enter")


def begin(page: Page, address: str, slot: str, cell: str, program: str = "Whole cycle") -> None:
    put_in(page, address, slot, cell)
    if program != "Whole cycle":
        page.get_by_role("button", name="Something else").click()
    page.get_by_role("button", name=re.compile(f"^{program}")).click()
    expect(page.get_by_role("button", name="Stop it now")).to_be_visible()


def test_two_cells_from_slot_to_shelf_with_nobody_typing(
    page: Page, address: str, table: tuple[list[str], list[str]], engine: Engine, tmp_path: Path
) -> None:
    places, cells = table
    for place, cell in zip(places, cells, strict=False):
        begin(page, address, place, cell)
    page.goto(f"{address}/table")
    done = page.get_by_text("Whole cycle: Done")
    expect(done).to_have_count(2, timeout=RUN_MS)
    work_off_the_queue(engine, LogStore(tmp_path / "logs"))
    with unit_of_work(engine) as session:
        assert [step_of(session, cell) for cell in cells] == ["shelve", "shelve"]
    page.reload()
    expect(page.get_by_text("Entered and judged.")).to_have_count(2)


def test_a_hot_cell_stops_and_takes_over_the_screen_of_a_second_device(
    new_context: Callable[..., BrowserContext],
    page: Page,
    address: str,
    table: tuple[list[str], list[str]],
    standin: StandInAtHand,
) -> None:
    places, cells = table
    phone = sign_in(new_context(390, 844).new_page(), address, "Coordinator")
    begin(page, address, places[0], cells[0], "Charge")
    expect(page.get_by_text(re.compile("Charge: charges"))).to_be_visible()
    standin.say("CHAN1:FAULT hot")
    alarm = phone.get_by_role("alertdialog")
    expect(alarm.get_by_role("heading", name="Too hot")).to_be_visible()
    until(lambda: phone.title().startswith("! Too hot"))
    alarm.get_by_role("button", name="I see to it").click()
    expect(alarm).to_have_count(0)
    expect(page.get_by_text("Charge: Stopped")).to_be_visible()
    expect(page.get_by_role("alertdialog")).to_have_count(0)


def test_a_lost_contact_is_said_and_goes_on_when_it_is_back(
    page: Page, address: str, table: tuple[list[str], list[str]], standin: StandInAtHand
) -> None:
    places, cells = table
    standin.say("SPEED 20")
    begin(page, address, places[0], cells[0], "Charge")
    expect(page.get_by_text(re.compile("Charge: charges"))).to_be_visible()
    standin.say("CHAN1:FAULT contact")
    expect(page.get_by_text("Charge: Waits for contact")).to_be_visible()
    expect(page.get_by_role("alert").filter(has_text="Contact lost")).to_be_visible()
    standin.say("CHAN1:FAULT none")
    expect(page.get_by_text(re.compile("Charge: charges"))).to_be_visible()


def test_another_cell_in_the_slot_than_the_scanned_one_is_not_begun(
    page: Page, address: str, table: tuple[list[str], list[str]], standin: StandInAtHand
) -> None:
    places, cells = table
    standin.say("SPEED 20")
    begin(page, address, places[0], cells[0], "Charge")
    expect(page.get_by_text(re.compile("Charge: charges"))).to_be_visible()
    page.get_by_role("button", name="Stop it now").click()
    expect(page.get_by_text("Charge: Stopped")).to_be_visible()
    standin.say("CHAN1:CELL 9,4.05,500")
    page.get_by_role("button", name="Something else").click()
    page.get_by_role("button", name=re.compile("^Charge")).click()
    expect(page.get_by_role("alert").filter(has_text="Is it the cell that was scanned?").first).to_be_visible()


def in_hours(hours: float) -> str:
    """The time of day then, as somebody types it."""
    return f"{datetime.now(UTC).astimezone() + timedelta(hours=hours):%H:%M}"


def test_an_evening_is_planned_followed_and_planned_anew(
    page: Page, address: str, table: tuple[list[str], list[str]]
) -> None:
    _, cells = table
    page.goto(f"{address}/evening")
    for label in ("Until when are people here?", "until"):
        page.get_by_label(label, exact=True).fill(in_hours(8))
    page.get_by_label("Promised to a visitor for tonight").fill(cells[1])
    page.get_by_role("button", name="Plan it").click()
    expect(page.get_by_text("2 of 2 can be finished tonight")).to_be_visible()
    page.goto(address)
    strip = page.get_by_role("region", name="Next on the testers")
    expect(strip.get_by_text("Charge")).to_be_visible()
    strip.get_by_role("link", name="The evening").click()
    page.get_by_role("button", name="Somebody comes, leaves, a promise").click()
    for label in ("Until when are people here?", "until"):
        page.get_by_label(label, exact=True).fill(in_hours(1))
    page.get_by_role("button", name="Plan it anew").click()
    expect(page.get_by_text("0 of 2 can be finished tonight")).to_be_visible()
    expect(page.get_by_role("region", name="What changed")).to_contain_text("2 are not finished tonight any more")


def test_after_the_evening_nothing_is_begun_and_nobody_goes_home_from_what_runs(
    page: Page, address: str, table: tuple[list[str], list[str]], engine: Engine, standin: StandInAtHand
) -> None:
    (place, *_), (cell, _) = table
    standin.say("SPEED 20")
    page.goto(f"{address}/evening")
    page.get_by_role("button", name="Plan it").click()
    expect(page.get_by_text("can be finished tonight")).to_be_visible()
    begin(page, address, place, cell, "Charge")
    with engine.begin() as connection:
        connection.execute(
            text("UPDATE evening SET ends_at = now() - interval '5 min', starts_at = now() - interval '3 h'")
        )
    page.goto(address)
    strip = page.get_by_role("region", name="Next on the testers")
    expect(strip).to_contain_text("One cell runs yet.")
    strip.get_by_role("link", name="The evening").click()
    expect(page.get_by_text("1 cell runs yet. Who is still here?")).to_be_visible()
    page.get_by_role("button", name="Everybody goes home").click()
    expect(page.get_by_role("alert")).to_contain_text(f"Cell {cell} runs in {place} yet.")
    page.get_by_role("button", name="We stay longer").click()
    page.get_by_role("button", name="Plan it anew").click()
    expect(page.get_by_text("can be finished tonight")).to_be_visible()


def test_the_wall_shows_what_runs_and_has_nothing_to_touch(
    page: Page, address: str, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    begin(page, address, places[0], cells[0], "Charge")
    page.goto(f"{address}/wall")
    expect(page.get_by_text(cells[0])).to_be_visible()
    expect(page.get_by_text(re.compile(r"^\d\.\d\d"))).to_be_visible()
    assert page.get_by_role("button").count() + page.get_by_role("link").count() == 0


def test_an_instrument_is_tried_out_line_by_line(
    new_context: Callable[..., BrowserContext], address: str, table: tuple[list[str], list[str]]
) -> None:
    page = signed_in(new_context().new_page(), address, "Coordinator")
    page.goto(f"{address}/testers")
    page.get_by_role("button", name="Change, try out").click()
    page.get_by_label("A line", exact=True).fill("CHAN1:MEAS?")
    page.get_by_role("button", name="Send").click()
    expect(page.get_by_role("region", name="Try it out").get_by_text(re.compile(r"^\d+\.\d+,0\.01"))).to_be_visible()
