"""What a coordinator and a builder do: decide, correct, filter, match against each other, hand over."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import update
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option, sign_in, signed_in, wait_until
from tests.support.benchwork import at, keep, numbers_of, open_donor, shelf_of, voltage
from tests.support.people import PASSWORD
from zembric.models import SignIn
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.places import PlaceToMake, make_place


@pytest.fixture
def coordinator_page(new_context: Callable[..., BrowserContext], address: str) -> Page:
    return signed_in(new_context().new_page(), address, "Coordinator")


def _now() -> datetime:
    return datetime.now(UTC) - timedelta(minutes=5)


def test_over_voltage_is_decided_with_a_reason(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], _now())
    voltage(session, volunteer, number, "4.31", _now())
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/bench?step=decide")
    expect(page.get_by_text("above full (4.20 V) by more than 0.05 V").first).to_be_visible()
    page.get_by_role("button", name="It may go on").click()
    expect(page.get_by_text("Say why in a few words")).to_be_visible()
    page.get_by_label("Why").fill("charger was set to 4.35, cell is cool")
    page.get_by_role("button", name="It may go on").click()
    expect(page.get_by_role("status").filter(has_text=number)).to_contain_text("Decided, kept")
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("A coordinator decided: it may go on")).to_be_visible()
    expect(page.get_by_text("“charger was set to 4.35, cell is cool”")).to_be_visible()


def test_a_recovery_goes_on_across_people_and_reloads_and_warmth_ends_it(
    page: Page, new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], _now())
    voltage(session, volunteer, number, "2.60", _now())
    session.commit()
    page.goto(f"{address}/bench/{number}")
    expect(page.get_by_text("Somebody awake beside it, never overnight.")).to_be_visible()
    page.get_by_label("Current that is set").fill("900")
    page.get_by_role("button", name="start the clock").click()
    expect(page.get_by_text("900 mA is too much for a cell found this low: 260 mA at most.")).to_be_visible()
    page.get_by_label("Current that is set").fill("250")
    page.get_by_label("Cell's temperature").fill("20")
    page.get_by_role("button", name="start the clock").click()
    expect(page.get_by_role("timer", name="Recovery")).to_contain_text("Next look in 14:")

    # Somebody else takes it on, from the hint on the first page.
    other = sign_in(new_context().new_page(), address, "Coordinator")
    other.get_by_role("status").filter(has_text="Recovery runs.").get_by_role("link", name=number).click()
    expect(other.get_by_text("by Volunteer with 250 mA.")).to_be_visible()
    page.get_by_label("Voltage now").fill("3.02")
    other.get_by_label("Voltage now").fill("2,85")
    other.get_by_role("button", name="Keep this look").click()
    expect(other.get_by_role("list", name="Looks so far").get_by_text("2.85 V")).to_be_visible()
    # The look of the other comes here under somebody's hands.
    come_back = "window.dispatchEvent(new Event('visibilitychange'))"
    wait_until(page, f"async () => {{ {come_back}; return document.body.innerText.includes('2.85 V'); }}")
    expect(page.get_by_label("Voltage now")).to_have_value("3.02")
    page.reload()
    page.get_by_label("Voltage now").fill("3.02")
    page.get_by_label("Cell's temperature").fill("33")
    page.get_by_role("button", name="Keep this look").click()
    expect(page.get_by_text("A cell that did not come back is never tried again.")).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("It warmed by 13 K while it was brought up")).to_be_visible()


def test_a_volunteer_is_told_that_a_coordinator_decides(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer, family=None))[0]
    entries.inspect(session, volunteer, number, [], _now())
    voltage(session, volunteer, number, "3.70", _now())
    session.commit()
    page.goto(f"{address}/bench/{number}")
    expect(page.get_by_text("A coordinator decides on this one.")).to_be_visible()


def test_saying_what_a_cell_is_lets_it_go_on(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer, family=None))[0]
    entries.inspect(session, volunteer, number, [], _now())
    voltage(session, volunteer, number, "3.30", _now())
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/bench/{number}")
    page.get_by_role("link", name="Say what it is").click()
    # By key: on a slow machine the page may still move under a pointer that is pressed.
    page.get_by_role("button", name="Not known Chemistry").press("Enter")
    page.get_by_role("option", name="Iron phosphate").click()
    page.get_by_role("button", name="Keep what it is").click()
    expect(page.get_by_text("2600 mAh rated cannot be")).to_be_visible()
    page.get_by_label("Rated", exact=True).fill("1500")
    page.get_by_role("button", name="Keep what it is").click()
    expect(page.get_by_text("Kept, and judged anew.")).to_be_visible()
    expect(page.get_by_text("to 3.60 V and its end. Stay with it.")).to_be_visible()


def test_a_reading_is_corrected_with_its_ground_and_the_old_one_stays(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], _now())
    voltage(session, volunteer, number, "1.73", _now())
    session.commit()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Out", exact=True).first).to_be_visible()
    page.get_by_role("button", name="Correct").click()
    page.get_by_label("Right value").fill("3,71")
    page.get_by_label("Why").fill("digits swapped")
    page.get_by_role("button", name="Keep the correction").click()
    expect(page.get_by_text("Resting voltage 3.71 V")).to_be_visible()
    expect(page.get_by_text("Resting voltage 1.73 V")).to_be_visible()
    expect(page.get_by_text("corrected later")).to_be_visible()
    expect(page.get_by_text("Not yet").first).to_be_visible()


def test_a_filtered_shelf_stands_in_the_address(page: Page, session: Session, volunteer: Actor, address: str) -> None:
    strong, gentle = shelf_of(session, volunteer, [2300, 1500])
    session.commit()
    page.goto(f"{address}/shelf")
    table = page.get_by_role("region", name="Cells")
    expect(table.get_by_role("row")).to_have_count(3)
    page.get_by_text("Gentle", exact=True).first.click()
    expect(table.get_by_role("row")).to_have_count(2)
    expect(table.get_by_text(gentle)).to_be_visible()
    page.reload()
    expect(table.get_by_role("row")).to_have_count(2)
    page.goto(f"{address}/shelf?grade=out")
    expect(page.get_by_text("No cell fits.")).to_be_visible()
    page.get_by_role("link", name="Show the whole shelf").click()
    expect(table.get_by_text(strong)).to_be_visible()


def test_of_two_who_match_the_same_cells_the_second_is_told_and_matches_again(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350, 2300, 2290, 2280, 2270])
    session.commit()
    first, second = (signed_in(new_context().new_page(), address, "Volunteer") for _ in range(2))
    for page in (first, second):
        page.goto(f"{address}/match")
        page.get_by_role("button", name="Match 2S2P").click()
        expect(page.get_by_text("4850").first).to_be_visible()
        page.get_by_label("What is it for?").fill("bird house camera")
    first.get_by_role("button", name="Keep it, reserve the cells").click()
    expect(first.get_by_role("heading", name="bird house camera")).to_be_visible()
    second.get_by_role("button", name="Keep it, reserve the cells").click()
    expect(second.get_by_text("These cells can no longer take part")).to_be_visible()
    second.get_by_role("button", name="Match again with what is left").click()
    expect(second.get_by_text("4570").first).to_be_visible()


def test_a_plan_is_dropped_and_a_match_says_what_is_missing(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = keep(session, volunteer)
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    expect(page.get_by_text("0 may take part; 4 are missing. Left out: 4 in a pack")).to_be_visible()
    page.goto(f"{address}/packs/{pack.number}")
    # The page has settled: what arrives above a button moves it away from under a press.
    expect(page.get_by_role("button", name="Say it: what it feeds")).to_be_visible()
    page.get_by_role("button", name="Drop the plan").click()
    expect(page.get_by_text("its cells are free again")).to_be_visible()
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    expect(page.get_by_text("Proven bound")).to_be_visible()


def test_the_recycler_takes_a_box_only_when_every_end_is_taped(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, ["burnt"], _now())
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/out-box")
    taken = page.get_by_role("button", name="The recycler took it")
    expect(taken).to_be_disabled()
    page.get_by_text("Both ends of every cell are taped").click()
    taken.click()
    expect(page.get_by_text("1 cell went to the recycler")).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Went to the recycler").first).to_be_visible()
    expect(page.get_by_text("Found: burnt")).to_be_visible()


def test_a_session_that_ended_keeps_what_was_typed(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], _now())
    session.commit()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Resting voltage").fill("3.71")
    session.execute(update(SignIn).values(ended_at=_now()))
    session.commit()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("You were signed out meanwhile.").first).to_be_visible()
    sign_in(page.context.new_page(), address, "Volunteer", PASSWORD)
    expect(page.get_by_text("1 entry waits in this browser")).to_be_hidden()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Resting voltage 3.71 V")).to_be_visible()


def test_light_and_dark_are_remembered(page: Page, address: str) -> None:
    page.goto(address)
    before = page.evaluate("() => getComputedStyle(document.body).backgroundColor")
    page.get_by_role("button", name="Dark").click()
    page.reload()
    expect(page.get_by_role("button", name="Light")).to_be_visible()
    assert page.evaluate("() => getComputedStyle(document.body).backgroundColor") != before


def test_cells_are_chosen_on_the_map_of_the_shelf_by_hand_and_by_typing_and_moved_together(
    page: Page, session: Session, volunteer: Actor, coordinator: Actor, address: str
) -> None:
    """Three strong cells and one of 1400 mAh; the stretch stands in the address, and the table follows it."""
    shelf_of(session, volunteer, [2300, 2310, 2320, 1400])
    box = make_place(session, coordinator, PlaceToMake("Second box", "shelf-box", capacity=40), at(3))
    session.commit()
    page.goto(f"{address}/shelf")
    expect(page.get_by_text("4 of 4 cells shown")).to_be_visible()
    canvas = page.get_by_role("img", name="Capacity against resistance of 4 cells")
    area = canvas.bounding_box()
    assert area is not None
    # Hovering waits until the map lies still, well within it: fonts that come later may still move it a little.
    canvas.hover(position={"x": 0.6 * area["width"], "y": 60})
    page.mouse.down()
    canvas.hover(position={"x": area["width"] - 5, "y": area["height"] - 40})
    page.mouse.up()
    expect(page.get_by_text("3 of 4 cells chosen")).to_be_visible()
    expect(page.get_by_role("row")).to_have_count(4)
    page.get_by_label("Capacity from").fill("2305")
    expect(page.get_by_text("2 of 4 cells chosen")).to_be_visible()
    page.reload()
    expect(page.get_by_text("2 of 4 cells chosen")).to_be_visible()
    page.get_by_role("link", name="Side by side").click()
    expect(page.get_by_text("2310 mAh")).to_be_visible()
    expect(page.get_by_text("2320 mAh")).to_be_visible()
    page.go_back()
    page.get_by_role("button", name="Move these 2 into another place").click()
    page.get_by_label("Into which place").fill(box.number)
    page.get_by_role("button", name="Move them").click()
    expect(page.get_by_text("2 cells lie there now.")).to_be_visible()
    expect(page.get_by_role("cell", name="Second box")).to_have_count(2)


def test_a_coordinator_supposes_judges_otherwise_and_takes_it_back(
    coordinator_page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    (number,) = shelf_of(session, volunteer, [2300])
    session.commit()
    page = coordinator_page
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Usual loads: lights, radios, boxes.")).to_be_visible()
    page.get_by_role("button", name="What if?").click()
    choose_option(page, "One more reading", "Capacity")
    page.get_by_label("It reads").fill("1400")
    expect(page.get_by_text("1400 mAh of 2600 mAh rated is 53.8 %")).to_be_visible()
    page.get_by_role("button", name="I judge otherwise").click()
    page.get_by_label("Because").fill("its wrap is brittle")
    page.get_by_role("button", name="Judge it so").click()
    expect(
        page.get_by_text("A coordinator judged otherwise: Gentle (its wrap is brittle). The rules say Strong.")
    ).to_be_visible()
    page.get_by_label("Because").fill("wrapped anew")
    page.get_by_role("button", name="Take my judgement back").click()
    expect(page.get_by_text("A coordinator took their own judgement back")).to_be_visible()
    expect(page.get_by_text("The rules say Strong.")).to_have_count(0)
