"""A match in the builder's hands, and what becomes of a plan: kept at once by two, stale, picked."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import BrowserContext, Locator, Page, expect
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option, signed_in
from tests.browser.keyboard import press_on, tab_to
from tests.support.benchwork import at, capacity, keep, shelf_of
from zembric.operations.actors import Actor
from zembric.operations.cells.stories import get_cell
from zembric.operations.packing import wishes

FIVE = [2500, 2450, 2400, 2350, 2300]


def matched(page: Page, address: str) -> None:
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    expect(page.get_by_text("Better is impossible")).to_be_visible()


def weakest(page: Page, capacity_mah: int) -> None:
    expect(page.get_by_role("definition").first).to_have_text(re.compile(f"^{capacity_mah}"))


def plank(page: Page, number: str) -> Locator:
    return page.get_by_role("button", name=re.compile(rf"^{number}\s"))


def cell(page: Page, number: str) -> str:
    """Where a cell stands, as it is said to whoever cannot see it."""
    return (plank(page, number).text_content() or "").split("mΩ, ")[1]


def test_cells_are_swapped_pinned_and_put_back_by_keyboard_with_the_price_told_before(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    first, _, _, _, spare = shelf_of(session, volunteer, FIVE)
    session.commit()
    matched(page, address)
    tab_to(page, f"{first} 2500 mAh")
    page.keyboard.press("Enter")
    expect(plank(page, first)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("ArrowDown")
    expect(page.get_by_text("weakest group −50 mAh, spread +100 mAh")).to_be_visible()
    page.keyboard.press("Enter")
    weakest(page, 4800)
    expect(page.get_by_text("At most 1.0 % better is possible.")).to_be_visible()
    # To the shelf: the last row below the groups.
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    for _ in range(2):
        page.keyboard.press("ArrowUp")
    expect(page.get_by_text(re.compile(rf"{spare}.*is taken up. In the place of"))).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("p")
    expect(page.get_by_role("button", name=re.compile(", pinned$"))).to_have_count(1)
    for _ in range(2):
        page.keyboard.press("Control+z")
    weakest(page, 4850)
    expect(page.get_by_role("button", name=re.compile(", pinned$"))).to_have_count(0)


def test_a_cell_is_dragged_into_anothers_place_and_another_left_out(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    first, _, _, fourth, spare = shelf_of(session, volunteer, FIVE)
    session.commit()
    matched(page, address)
    plank(page, fourth).drag_to(plank(page, spare))
    weakest(page, 4800)
    assert cell(page, fourth) == "on the shelf"
    # Whoever is left out is not matched again until he is let in.
    plank(page, first).click()
    page.get_by_role("button", name="Leave it out").click()
    weakest(page, 4750)
    expect(plank(page, first)).to_have_count(0)
    page.get_by_role("button", name=f"Let {first} take part again").click()
    weakest(page, 4850)


def test_of_two_who_keep_at_once_the_second_takes_the_nearest_replacement_with_one_key(
    page: Page, new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, [2500, 2450, 2400, 2350, 2300, 2290, 2280, 2270])
    session.commit()
    other = signed_in(new_context().new_page(), address, "Coordinator")
    for each in (page, other):
        matched(each, address)
        each.get_by_label("What is it for?").fill("bell of the ferry")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("heading", name="bell of the ferry")).to_be_visible()
    other.get_by_role("button", name="Keep it").click()
    expect(other.get_by_text("can no longer take part")).to_contain_text(f"{numbers[0]} (in a pack)")
    expect(other.get_by_text(f"{numbers[4]} with 2300 mAh instead of")).to_be_visible()
    expect(other.get_by_role("button", name="Take them and keep")).to_be_focused()
    other.keyboard.press("Enter")
    expect(other.get_by_role("heading", name="bell of the ferry")).to_be_visible()


def test_a_stale_plan_says_so_and_is_mended_with_one_exchange(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, FIVE)
    keep(session, volunteer)
    capacity(session, volunteer, numbers[1], "700", at(3), confirmed=True)
    session.commit()
    page.goto(address)
    expect(page.get_by_text("A cell of the plan for gate counter changed since it was made.")).to_be_visible()
    press_on(page, "Mend it")
    told = page.get_by_role("alert", name="This plan is stale")
    expect(told).to_contain_text(f"{numbers[1]} in group")
    expect(told).to_contain_text(f"{numbers[4]} with 2300 mAh from Shelf box 1 instead of {numbers[1]}")
    told.get_by_role("button", name="Exchange 1 cell").click()
    expect(told).to_have_count(0)
    weakest(page, 4700)
    expect(page.get_by_text("Mended, cells exchanged")).to_be_visible()


def test_cells_are_picked_by_scan_and_a_wrong_one_stops_until_it_is_put_back(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    session.commit()
    page = signed_in(new_context(390, 844).new_page(), address, "Volunteer")
    page.goto(f"{address}/packs/{pack.number}/pick")
    field = page.get_by_label("Scan or type the number")
    expect(field).to_be_focused()

    def scan(number: str) -> None:
        page.keyboard.type(f"C{number}")
        page.keyboard.press("Enter")

    scan(numbers[0])
    expect(page.get_by_text("1 of 4 picked")).to_be_visible()
    scan(numbers[4])
    stop = page.get_by_role("alertdialog", name="Wrong cell")
    expect(stop).to_contain_text(f"{numbers[4]} does not belong to this pack. Put it back into Shelf box 1")
    scan(numbers[1])  # kept behind it, as whoever scans may not have looked
    expect(stop).to_be_focused()
    page.keyboard.press("Enter")  # no Enter of a scanner takes it away
    expect(stop).to_be_visible()
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 of 4 picked")).to_be_visible()
    expect(field).to_be_focused()
    scan(numbers[0])
    expect(page.get_by_text("was picked before")).to_be_visible()
    for number in numbers[2:4]:
        scan(number)
    expect(page.get_by_text("All 4 cells are here.")).to_be_visible()
    page.get_by_role("link", name="Go on with the pack").click()
    expect(page.get_by_text("4 of 4 cells picked.")).to_be_visible()


def test_what_the_shelf_cannot_meet_becomes_a_wish_that_the_first_page_tells_of(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, FIVE[:3])
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    expect(page.get_by_text("4 cells are needed and 3 may take part")).to_be_visible()
    page.get_by_label("What is it for?").fill("lamp of the quay")
    page.get_by_role("button", name="Keep as a wish").click()
    page.get_by_role("link", name="See the wishes").click()
    expect(page.get_by_role("region", name="Collecting")).to_contain_text("3 of 4")
    shelf_of(session, volunteer, [2460, 2440, 2430, 2420])
    session.commit()
    page.goto(address)
    expect(page.get_by_text("The cells for lamp of the quay are on the shelf now.")).to_be_visible()
    press_on(page, "Match it")
    expect(page.get_by_text("The wish “lamp of the quay” can be met now.")).to_be_visible()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("heading", name="lamp of the quay")).to_be_visible()
    assert wishes.open_wishes(session) == []


def test_two_packs_are_matched_from_one_shelf_and_both_kept(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("radio", name="Several packs").click()
    page.get_by_role("button", name="Decrease Groups in series").click()
    for _ in range(2):
        page.get_by_role("button", name="Add 1S2P").click()
    page.get_by_role("button", name="Match all 2").click()
    for place, purpose in ((1, "first lamp"), (2, "second lamp")):
        pack = page.get_by_role("region", name=f"Pack {place}", exact=True)
        pack.get_by_label("What is it for?").fill(purpose)
        pack.get_by_role("button", name="Keep it").click()
        expect(pack.get_by_text(f", {purpose}.")).to_be_visible()
    page.goto(f"{address}/packs")
    expect(page.get_by_role("link", name="second lamp")).to_be_visible()


def test_a_choice_is_held_and_compared_with_another(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, FIVE)
    session.commit()
    matched(page, address)
    page.get_by_role("button", name="Hold this to compare").click()
    plank(page, numbers[3]).click()
    plank(page, numbers[4]).click()
    compared = page.get_by_role("region", name="Compared")
    expect(compared.get_by_role("row", name="Weakest group")).to_contain_text("4850 mAh4800 mAh")
    expect(compared).to_contain_text("1 cell is another.")
    compared.get_by_role("button", name="Lay the held one again").click()
    weakest(page, 4850)


def test_the_empty_pack_is_grown_by_its_edges_and_by_the_figures_on_its_measures(page: Page, address: str) -> None:
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Increase Groups in series").click()
    expect(page.get_by_text("in series, 12.6 V full")).to_be_visible()
    page.get_by_role("textbox", name="Cells in parallel").fill("4")
    page.keyboard.press("Tab")
    expect(page.get_by_role("img", name="An empty pack of 3 in series and 4 in parallel")).to_be_visible()
    edge = page.get_by_role("button", name="Increase Cells in parallel").locator("xpath=..")
    box = edge.bounding_box()
    assert box
    page.mouse.move(box["x"] + 6, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + 6, box["y"] + box["height"] / 2 - 300, steps=6)
    page.mouse.up()
    expect(page.get_by_role("button", name="Match 3S1P: 3 cells")).to_be_visible()


def test_two_cells_in_hand_are_matched_side_by_side(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, FIVE)
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_label("Cells in hand").fill(f"{numbers[3]} {numbers[4]}")
    page.get_by_role("button", name="All side by side: 1S2P").click()
    page.get_by_role("button", name="Match 1S2P: 2 cells").click()
    weakest(page, 4650)
    assert {plank(page, number).count() for number in numbers[:3]} == {0}
    assert {plank(page, number).count() for number in numbers[3:]} == {1}


def test_a_match_says_which_cells_are_left_out_for_want_of_a_size(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = shelf_of(session, volunteer, FIVE)
    for number in numbers[:2]:
        get_cell(session, number).size_code = None
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    expect(
        page.get_by_text(
            f"2 without a size: lay a caliper on it and say so on its page ({numbers[0]} and {numbers[1]})"
        )
    ).to_be_visible()


def test_a_device_behind_a_step_up_is_asked_for_by_its_own_volts(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, FIVE)
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("radio", name="What it is for").click()
    choose_option(page, "What stands between pack and device?", "A step-up to higher volts")
    page.get_by_label("Volts behind it").fill("5")
    page.get_by_role("radio", name="Current").click()
    page.get_by_label("Current", exact=True).fill("800")
    page.get_by_label("For", exact=True).fill("2")
    page.get_by_role("button", name="What would do?").click()
    expect(page.get_by_role("heading", name="1S2P")).to_be_visible()
    expect(page.get_by_text("5 V x 0.8 A at the output / 0.88 = 4.55 W from the cells")).to_be_visible()
    expect(page.get_by_text("One group wants a low cut-off too")).to_be_visible()
