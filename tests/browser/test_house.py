"""Places, labels, lists, the catalogue and the house rules, as people use them."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option, signed_in
from tests.support.benchwork import numbers_of, open_donor, voltage
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.people import get_person


@pytest.fixture
def coordinator_page(new_context: Callable[..., BrowserContext], address: str) -> Page:
    return signed_in(new_context().new_page(), address, "Coordinator")


def test_a_box_is_made_cells_are_scanned_into_it_and_it_is_counted(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    here, lost, stray = numbers_of(open_donor(session, volunteer, 3))
    session.commit()
    page.goto(f"{address}/places")
    page.get_by_text("Holding box", exact=True).click()
    page.get_by_label("Name").fill("Biscuit tin")
    page.get_by_label("Takes how many cells").fill("2")
    page.get_by_role("button", name="Make it").click()
    page.get_by_role("heading", name="Biscuit tin").wait_for()
    for number in (f"C{here}", lost, stray):
        page.get_by_label("Lies now in Biscuit tin").fill(number)
        page.keyboard.press("Enter")
        if number != stray:
            expect(page.get_by_role("status").filter(has_text=number.removeprefix("C"))).to_contain_text("lies here")
    expect(page.get_by_text("Biscuit tin is full: 2 of 2. Take another box.")).to_be_visible()

    page.get_by_role("radio", name="Count it").click()
    for number in (here, stray):
        page.get_by_label("Seen").fill(number)
        page.keyboard.press("Enter")
        expect(page.get_by_label("Seen")).to_have_value("")
    expect(page.get_by_text(f"Belongs elsewhere: {stray} (Tray 1)")).to_be_visible()
    expect(page.get_by_text(f"Not seen yet: {lost}")).to_be_visible()
    page.get_by_role("button", name="That is all, keep the count").click()
    expect(page.get_by_text(f"Missing at the last count: {lost}")).to_be_visible()
    expect(page.get_by_role("form", name="Change this place")).to_be_hidden()


def test_a_coordinator_renames_a_place_and_the_second_of_two_is_told(
    coordinator_page: Page, new_context: Callable[..., BrowserContext], address: str
) -> None:
    second = signed_in(new_context().new_page(), address, "Coordinator")
    for page in (coordinator_page, second):
        page.goto(f"{address}/places/X101")
        expect(page.get_by_label("Name")).to_have_value("Fire-safe box")
    coordinator_page.get_by_label("Name").fill("Sand bucket")
    coordinator_page.get_by_role("button", name="Change it").click()
    expect(coordinator_page.get_by_role("heading", level=1, name="Sand bucket")).to_be_visible()
    second.get_by_label("Takes how many cells").fill("20")
    second.get_by_role("button", name="Change it").click()
    expect(second.get_by_text("was changed by somebody else")).to_be_visible()


def test_labels_are_made_as_pdf_and_a_second_one_needs_its_reason(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 3))
    session.commit()
    page.goto(f"{address}/labels")
    choose_option(page, "Paper", re.compile("A4, 24"))
    page.get_by_role("button", name="Make 3 labels").click()
    link = page.get_by_role("link", name="Open the PDF")
    answer = page.request.get(address + (link.get_attribute("href") or ""))
    assert (answer.headers["content-type"], answer.body()[:5]) == ("application/pdf", b"%PDF-")
    page.goto(f"{address}/labels?cells={numbers[0]}")
    page.get_by_role("button", name="Make 1 label").click()
    expect(page.get_by_text(f"{numbers[0]} had a label before")).to_be_visible()
    page.get_by_label("Why again?").fill("torn off")
    page.get_by_role("button", name="Make 1 label").click()
    expect(page.get_by_text("“torn off”")).to_be_visible()
    page.goto(f"{address}/cells/{numbers[0]}")
    expect(page.get_by_text("Label printed again")).to_be_visible()


def test_a_list_is_looked_at_mapped_and_taken_in_once(page: Page, address: str) -> None:
    content = b"Cell;Fach;Size;Capacity (mAh)\n1;School laptop;18650;2300\n2;School laptop;18650;lots\n"
    page.goto(f"{address}/lists")
    page.get_by_label("Choose a file").set_input_files({"name": "old.csv", "mimeType": "text/csv", "buffer": content})
    expect(page.get_by_text(re.compile("Line 3, Capacity"))).to_be_visible()
    expect(page.get_by_role("button", name="Take in 2 cells")).to_be_disabled()
    mended = content.replace(b"lots", b"about 2200")
    page.get_by_label("Choose another file").set_input_files(
        {"name": "old.csv", "mimeType": "text/csv", "buffer": mended}
    )
    page.get_by_label("Fach").select_option("Donor")
    expect(page.get_by_role("heading", name="2 cells of 1 donor")).to_be_visible()
    expect(page.get_by_role("cell", name="School laptop").first).to_be_visible()
    page.get_by_role("button", name="Take in 2 cells").click()
    expect(page.get_by_text("2 cells taken in")).to_be_visible()
    page.get_by_label("Choose another file").set_input_files(
        {"name": "again.csv", "mimeType": "text/csv", "buffer": mended}
    )
    expect(page.get_by_text("Taken in again it would double them.")).to_be_visible()
    cells = page.request.get(f"{address}/api/exports/cells.csv").text().splitlines()
    assert len(cells) == 3


def test_any_number_typed_into_the_bar_leads_to_its_thing_and_a_slip_is_told(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    donor = open_donor(session, volunteer)
    session.commit()
    page.goto(f"{address}/shelf")
    find = page.get_by_role("textbox", name="Find a number or words")
    find.fill("12")
    find.press("Enter")
    expect(page.get_by_text("last digit does not fit")).to_be_visible()
    for typed, title in ((donor.number, "school laptop"), (donor.cells[0].number, f"Cell {donor.cells[0].number}")):
        find.fill(typed)
        find.press("Enter")
        expect(page.get_by_role("heading", level=1, name=title)).to_be_visible()


def test_words_typed_into_the_bar_lead_to_donors_and_cells_and_all_donors_stand_in_one_list(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    ferry = open_donor(session, volunteer, description="Ferry ticket printer")
    open_donor(session, volunteer, description="Harbour lamp")
    session.commit()
    page.goto(f"{address}/shelf")
    find = page.get_by_role("textbox", name="Find a number or words")
    find.fill("ferry volunteer")
    find.press("Enter")
    expect(page.get_by_role("region", name="Donors").get_by_role("link", name="Ferry ticket printer")).to_be_visible()
    expect(page.get_by_role("region", name="Cells").get_by_role("link", name=ferry.cells[0].number)).to_be_visible()
    expect(page.get_by_text("Harbour lamp")).to_have_count(0)
    page.goto(f"{address}/donors")
    expect(page.get_by_text("2 donors, the newest first.")).to_be_visible()
    page.get_by_label("Find by words, number").fill("lamp")
    expect(page.get_by_text("1 donor, the newest first.")).to_be_visible()


def test_a_coordinator_extends_the_catalogue_and_a_donor_is_opened_with_it(
    coordinator_page: Page, page: Page, address: str
) -> None:
    coordinator = coordinator_page
    coordinator.goto(f"{address}/catalogue")
    added = coordinator.get_by_role("region", name="Add one")
    for label, value in (
        ("Name on the print", "NW 29"), ("Size", "18650"), ("Rated capacity", "2900"),
        ("Where the sheet came from", "sample sheet"),
    ):  # fmt: skip
        added.get_by_label(label, exact=True).fill(value)
    added.get_by_role("button", name="Add it").click()
    expect(coordinator.get_by_text("18650, 2900 mAh")).to_be_visible()
    coordinator.get_by_role("button", name="Change NW 29").click()
    row = coordinator.get_by_role("listitem").filter(has_text="NW 29")
    row.get_by_label("Rated capacity").fill("2850")
    row.get_by_role("button", name="Keep it").click()
    expect(coordinator.get_by_text("18650, 2850 mAh")).to_be_visible()

    page.goto(f"{address}/open")
    choose_option(page, "Model of the cells, if the print names it", re.compile("NW 29"))
    expect(page.get_by_label("Size", exact=True)).to_be_hidden()
    page.get_by_role("button", name=re.compile("^Number")).click()
    page.get_by_role("figure", name="Tray 1").get_by_role("link").first.click()
    expect(page.get_by_label("Rated")).to_have_value("2850")
    page.goto(f"{address}/catalogue")
    expect(page.get_by_text("NW 29")).to_be_visible()
    expect(page.get_by_role("region", name="Add one")).to_be_hidden()


def test_another_school_is_set_with_its_reason_and_every_cell_judged_by_it(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    now = get_person(session, "Volunteer").created_at
    entries.inspect(session, volunteer, number, [], now)
    voltage(session, volunteer, number, "2.7", now)
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/rules")
    page.get_by_text("Strict", exact=True).last.click()
    page.get_by_role("button", name="See what it would change").click()
    expect(page.get_by_text("1 of 1 cells would get another grade.")).to_be_visible()
    page.get_by_role("button", name="Set, and judge every cell anew").click()
    expect(page.get_by_text("whoever comes next will want to know")).to_be_visible()
    page.get_by_label("Why").fill("nobody has time to supervise")
    page.get_by_role("button", name="Set, and judge every cell anew").click()
    expect(page.get_by_text("Set. 1 cell is judged differently now.")).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Into the out-box").first).to_be_visible()
