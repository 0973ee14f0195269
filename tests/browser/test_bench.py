"""The bench: fast by keyboard, usable by thumb, and nothing typed is lost."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import datetime

from playwright.sync_api import BrowserContext, Page, Route, expect
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option, follow, signed_in, waits_for_server
from tests.support.benchwork import at, numbers_of, open_donor, shelf_of, voltage
from zembric.models import CellRow, Donor, InspectionEntry, Place, ReadingEntry
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, taking_back
from zembric.operations.cells import stories
from zembric.operations.cells.stories import get_cell
from zembric.operations.database import unit_of_work
from zembric.operations.known.entries import entries_of


def _looked_at(session: Session, who: Actor, count: int) -> list[str]:
    """Cells that need a voltage next."""
    numbers = numbers_of(open_donor(session, who, count))
    for number in numbers:
        entries.inspect(session, who, number, [], _start(session))
    session.commit()
    return numbers


def _start(session: Session) -> datetime:
    return people.get_person(session, "Volunteer").created_at


def _voltages(engine: Engine, numbers: list[str]) -> list[list[float]]:
    with unit_of_work(engine) as session:
        told = [stories.cell_story(session, number, _start(session)) for number in numbers]
        return [[entry.value for entry in story.entries if isinstance(entry, ReadingEntry)] for story in told]


def test_ten_voltages_need_no_key_besides_digits_separator_and_enter(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    numbers = _looked_at(session, volunteer, 10)
    page.goto(f"{address}/bench?step=measure-voltage")
    for index in range(10):
        expect(page.get_by_label("Resting voltage")).to_be_focused()
        expect(page.get_by_text(numbers[index], exact=True).first).to_be_visible()
        for key in f"3,{60 + index}":
            page.keyboard.press(key)
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"3,{60 + index} V, kept")).to_be_visible()
    assert _voltages(engine, numbers) == [[3.6 + index / 100] for index in range(10)]


def test_enter_starts_the_first_step_from_the_evening(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    """Two cells of one tray: one to look at, which comes first and is done in its tray, one to measure."""
    donor = open_donor(session, volunteer, 2)
    entries.inspect(session, volunteer, donor.cells[0].number, [], _start(session))
    session.commit()
    page.goto(address)
    tray = page.get_by_role("region", name="By tray").get_by_role("listitem")
    expect(tray).to_have_text("Tray 11Look at1Measure voltage")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/trays/"))
    expect(page.get_by_role("heading", name="Tray 1")).to_be_visible()


def test_number_and_value_from_the_same_keypad(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    numbers = _looked_at(session, volunteer, 3)
    page.goto(address)
    page.get_by_role("link", name="Bench").click()
    for number in reversed(numbers):
        expect(page.get_by_label("Cell number")).to_be_focused()
        page.keyboard.type(number)
        page.keyboard.press("Enter")
        expect(page.get_by_label("Resting voltage")).to_be_focused()
        page.keyboard.type("3.7")
        page.keyboard.press("Enter")
    expect(page.get_by_text("Charge at 0.5 A")).to_be_hidden()
    expect(page.get_by_text("Charge at 1.3 A")).to_be_visible()
    waits_for_server(page, 0)
    assert _voltages(engine, numbers) == [[3.7]] * 3


def test_a_slip_is_offered_mended_and_an_odd_value_asked_once(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    numbers = _looked_at(session, volunteer, 1)
    page.goto(f"{address}/bench/{numbers[0]}")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    page.keyboard.type("410")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Enter takes 4.10 V")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_text("4.10 V, kept")).to_be_visible()
    page.goto(f"{address}/bench/{numbers[0]}")
    expect(page.get_by_role("radio", name="Look", exact=True)).to_be_visible()
    page.get_by_role("radio", name="Voltage").press("Enter")
    page.get_by_label("Resting voltage").fill("3.71")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Enter once more keeps 3.71")).to_be_visible()
    assert _voltages(engine, numbers) == [[4.1]]
    page.keyboard.press("Enter")
    expect(page.get_by_text("3.71 V, kept")).to_be_visible()
    assert _voltages(engine, numbers) == [[4.1, 3.71]]


def test_an_end_below_full_is_told_before_it_is_kept(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    (number,) = _looked_at(session, volunteer, 1)
    voltage(session, volunteer, number, "3.70", _start(session))
    session.commit()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Charged; ended at").fill("4.10")
    expect(page.get_by_text("It counts as full, and the cell says so.")).to_be_visible()
    page.get_by_label("Charged; ended at").fill("4,02")
    expect(page.get_by_text("It ended at 4.02 V: that is not full (4.20 V).")).to_be_visible()


def test_the_shelf_box_that_was_chosen_stays_and_a_full_one_is_not_offered(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, [2400, 2300])
    session.add(Place(number="X909", name="Small box", kind="shelf-box", capacity=1))
    for number in numbers:
        cell = get_cell(session, number)
        taking_back.withdraw(session, volunteer, number, entries_of(session, cell.id)[-1].id, at(3))
        cell.place_id = None
    session.commit()
    page.goto(f"{address}/bench/{numbers[0]}")
    choose_option(page, "Which box", "Small box")
    page.get_by_role("button", name=f"{numbers[0]} lies in small box").click()
    expect(page.get_by_text("On the shelf, kept.")).to_be_visible()
    page.goto(f"{address}/bench/{numbers[1]}")
    expect(page.get_by_text("Small box is full now.")).to_be_visible()
    expect(
        page.get_by_role("button", name=re.compile(f"^{numbers[1]} lies in (Shelf box 1|Other box)"))
    ).to_be_visible()


def test_undo_brings_the_cell_back(page: Page, session: Session, volunteer: Actor, address: str) -> None:
    numbers = _looked_at(session, volunteer, 2)
    page.goto(f"{address}/bench?step=measure-voltage")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    page.keyboard.type("1.2")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Into the out-box").first).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_text("2 to go")).to_be_visible()
    page.goto(f"{address}/cells/{numbers[0]}")
    expect(page.get_by_text("taken back")).to_be_visible()


def test_without_connection_nothing_typed_is_lost_and_nothing_doubled(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    numbers = _looked_at(session, volunteer, 1)
    page.goto(f"{address}/bench/{numbers[0]}")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    page.keyboard.type("3.71")
    # The entry reaches the server, only its answer gets lost on the way back.
    tries: list[str] = []

    def lose_the_answer(route: Route) -> None:
        tries.append(route.request.url)
        if len(tries) == 1:
            route.fetch()
        route.abort()

    page.context.route("**/readings", lose_the_answer)
    page.keyboard.press("Enter")
    waiting = page.get_by_role("complementary", name="Not on the server yet")
    expect(waiting.get_by_text("1 entry waits in this browser")).to_be_visible()
    page.reload()
    expect(waiting.get_by_text("1 entry waits in this browser")).to_be_visible()
    page.context.unroute_all(behavior="ignoreErrors")
    waiting.get_by_role("button", name="Try now").click()
    expect(waiting).to_be_hidden()
    assert _voltages(engine, numbers) == [[3.71]]


def test_a_thumb_looks_measures_and_reports_a_hazard_at_390_px(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 2))
    session.commit()
    page = signed_in(new_context(390, 844, has_touch=True, is_mobile=True).new_page(), address, "Volunteer")
    page.goto(f"{address}/bench?step=inspect")
    page.get_by_text("Leaking or sweet smell").tap()
    page.get_by_role("button", name="Dangerous: into the fire-safe box").tap()
    page.get_by_role("button", name="It lies in the fire-safe box").tap()
    page.get_by_role("button", name="Nothing found").tap()
    # A cell that comes to an empty pass waits for somebody to go on.
    expect(page.get_by_role("heading", name="That was the last one.")).to_be_visible()
    page.goto(f"{address}/bench?step=measure-voltage")
    page.get_by_label("Resting voltage").fill("3,68")
    page.get_by_role("button", name="Keep it").tap()
    expect(page.get_by_text("3,68 V, kept")).to_be_in_viewport()
    donor = session.scalars(select(Donor.number)).one()
    places = session.scalars(select(Place.number)).all()
    for path in (
        "/", "/open", "/bench", f"/cells/{numbers[0]}", f"/donors/{donor}", "/shelf", "/match", "/packs", "/out-box", "/more",
        "/places", "/labels", "/lists", "/parts", "/catalogue", "/rules", *(f"/places/{number}" for number in places),
    ):  # fmt: skip
        follow(page, path)
        assert page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth"), path


def test_a_cell_that_somebody_else_did_stays_under_the_thumb_until_it_goes_on(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    first, second, third = numbers_of(open_donor(session, volunteer, 3))
    session.commit()
    page.goto(f"{address}/bench?step=inspect")
    nothing_found = page.get_by_role("button", name="Nothing found")
    expect(nothing_found).to_be_visible()
    entries.inspect(session, volunteer, second, [], at(minutes=1))
    session.commit()
    nothing_found.click()
    expect(page.get_by_text("Somebody else did this one meanwhile")).to_be_visible()
    expect(page.get_by_text("2 to go")).to_be_visible()
    page.get_by_role("button", name="Go on to the next").click()
    expect(page.get_by_text("the last one")).to_be_visible()
    nothing_found.click()
    expect(page.get_by_text("That was the last one.")).to_be_visible()
    waits_for_server(page, 0)
    looked_at = select(CellRow.number).join(InspectionEntry, InspectionEntry.cell_id == CellRow.id)
    assert sorted(session.scalars(looked_at)) == [first, second, third]


def test_what_others_bring_after_the_end_of_a_pass_waits_until_somebody_goes_on(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    (number,) = numbers_of(open_donor(session, volunteer, 1))
    session.commit()
    page.goto(f"{address}/bench?step=measure-voltage")
    expect(page.get_by_text("No cell needs this now.")).to_be_visible()
    entries.inspect(session, volunteer, number, [], at(minutes=1))
    session.commit()
    expect(page.get_by_text("One more needs this now.")).to_be_visible()
    expect(page.get_by_label("Resting voltage")).to_have_count(0)
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_label("Resting voltage")).to_be_visible()


def test_the_second_of_two_editors_is_told_and_keeps_what_was_typed(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    session.commit()
    first, second = (signed_in(new_context().new_page(), address, "Coordinator") for _ in range(2))
    for page in (first, second):
        page.goto(f"{address}/cells/{number}")
        expect(page.get_by_label("Rated")).to_have_value("2600")
    first.get_by_label("Rated").fill("2500")
    first.get_by_role("button", name="Keep what it is").click()
    expect(first.get_by_text("Kept, and judged anew.")).to_be_visible()
    second.get_by_label("Rated").fill("2800")
    second.get_by_role("button", name="Keep what it is").click()
    expect(second.get_by_text("was changed by somebody else")).to_be_visible()
    expect(second.get_by_label("Rated")).to_have_value("2800")


def test_what_stood_on_paper_is_dated_and_a_slip_among_it_is_struck_out_on_the_cells_page(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    (number,) = _looked_at(session, volunteer, 1)
    page.goto(f"{address}/bench/{number}")
    page.get_by_role("button", name="It stood on paper").click()
    page.get_by_label("Done on").fill("2026-08-02T19:30")
    page.get_by_label("Resting voltage").fill("3.71")
    page.keyboard.press("Enter")
    expect(page.get_by_text("3.71 V, kept")).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    item = page.get_by_role("listitem").filter(has_text="Resting voltage 3.71")
    expect(item.get_by_role("time")).to_contain_text(re.compile("Aug"))
    item.get_by_role("button", name="Strike out").click()
    page.get_by_label("Why is it struck out?").fill("the note was of another cell")
    page.get_by_role("button", name="Strike it out").click()
    expect(page.get_by_text("struck out by Volunteer: “the note was of another cell”")).to_be_visible()
    assert len(_voltages(engine, [number])[0]) == 1
