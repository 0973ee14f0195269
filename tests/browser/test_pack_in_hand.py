"""The pack in hand: drawn, built step by step, proved, out, back with 'half as long', mended; and a donor called back."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.browser.conftest import be_late, choose_option, signed_in
from tests.support.benchwork import TWO_BY_TWO, at, give_out, keep, move, shelf_of, voltage, well_planned
from zembric.demo.hands import go_through, prove
from zembric.models import CellRow, Donor, Pack
from zembric.operations.actors import Actor
from zembric.operations.packing import outside, packs, plans
from zembric.operations.packing.layouts import keep_layout, propose_layouts

NINE = [2500, 2490, 2480, 2470, 2460, 2450, 2440, 2430, 2420]
#: Steps of today want resting voltages of today.
RESTED = "3.80"


@pytest.fixture
def pack(session: Session, volunteer: Actor) -> Pack:
    """A 4S2P of which every cell was picked, and nothing stands in the way but its drawing."""
    shelf_of(session, volunteer, NINE)
    pack = keep(session, volunteer, replace(TWO_BY_TWO, series=4), "weir gauge")
    packs.set_parts(session, volunteer, pack.number, well_planned(4), pack.version, at(2))
    for group in pack.groups:
        for member in group.cells:
            plans.pick_cell(session, volunteer, pack.number, member.cell.number, at(2))
    session.commit()
    return pack


def rested_today(session: Session, who: Actor, pack: Pack) -> None:
    for group in pack.groups:
        for member in group.cells:
            voltage(session, who, member.cell.number, RESTED, datetime.now(UTC), confirmed=True)
    session.commit()


def built(session: Session, who: Actor, pack: Pack) -> Pack:
    return move(session, who, pack, "built", at(3))


def test_a_pack_is_drawn_moved_by_hand_and_its_checks_stop_it_until_it_is_right(
    page: Page, session: Session, pack: Pack, address: str
) -> None:
    page.goto(f"{address}/packs/{pack.number}/layout")
    expect(page.get_by_role("heading", name="1 line stops it.")).to_be_visible()
    above = page.get_by_role("group", name="From above")
    cells = above.get_by_role("button")
    expect(cells).to_have_count(8)
    # Turned over by a key it has a pole that nothing reaches.
    cells.first.focus()
    page.keyboard.press("t")
    expect(page.get_by_role("listitem", name="Poles and strips")).to_contain_text("Stop")
    page.keyboard.press("t")
    expect(page.get_by_role("listitem", name="Poles and strips")).to_contain_text("Holds")
    # Dragged onto another it changes places with it; a cell of the first group among the last breaks its strip.
    first, last = cells.first.bounding_box(), cells.last.bounding_box()
    assert first
    assert last
    page.mouse.move(first["x"] + first["width"] / 2, first["y"] + first["height"] / 2)
    page.mouse.down()
    page.mouse.move(last["x"] + last["width"] / 2, last["y"] + last["height"] / 2, steps=4)
    page.mouse.up()
    expect(page.get_by_role("listitem", name="Poles and strips")).to_contain_text("Stop")
    page.get_by_role("button", name=re.compile("In rows")).first.click()
    page.get_by_text("Fish paper or a spacer").click()
    expect(page.get_by_role("heading", name="It can be built like this.")).to_be_visible()
    page.get_by_role("button", name="Keep this layout").click()
    expect(page.get_by_role("button", name="This layout is kept")).to_be_visible()
    # Whoever goes on before the pack is fetched again has changed it, nobody else.
    be_late(page, 800)
    for _ in range(2):
        page.get_by_text("Fish paper or a spacer").click()
        page.get_by_role("button", name="Keep this layout").click()
        expect(page.get_by_role("button", name="This layout is kept")).to_be_visible()
    be_late(page, 0)
    for name in ("Both faces, true size (PDF)", "Holder plate (DXF)"):
        link = page.get_by_role("link", name=name).get_attribute("href")
        assert page.request.get(f"{address}{link}").ok
    page.get_by_label("Case, inside: length").fill("40")
    page.get_by_label("width", exact=True).fill("30")
    page.get_by_label("height", exact=True).fill("70")
    page.get_by_role("button", name="Propose").click()
    expect(page.get_by_text("Nothing fits into this case")).to_be_visible()


def test_a_wrong_tap_stops_the_build_and_it_goes_on_on_another_phone(
    page: Page, new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, coordinator: Actor, pack: Pack, address: str
) -> None:  # fmt: skip
    layout = replace(propose_layouts(session, pack, None)[0].layout, has_spacers=True)
    keep_layout(session, volunteer, pack, layout, pack.version, at(3))
    rested_today(session, volunteer, pack)
    page.goto(f"{address}/packs/{pack.number}/build")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("heading", name="Insulate")).to_be_visible()
    go_through(session, volunteer, pack.number, "build", datetime.now(UTC), until="tap-2")
    session.commit()
    page.reload()
    page.get_by_label("Tap 2 against minus").fill("11.4")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("that is what tap 3 should read")
    theirs = signed_in(new_context().new_page(), address, "Coordinator")
    theirs.set_viewport_size({"width": 390, "height": 844})
    theirs.goto(f"{address}/packs/{pack.number}/build")
    expect(theirs.get_by_role("alert")).to_contain_text("Volunteer measured 11.40")
    theirs.get_by_label("Tap 2 against minus").fill("7,60")
    theirs.keyboard.press("Enter")
    expect(theirs.get_by_role("heading", name="Balance lead 3")).to_be_visible()
    sheet = theirs.request.get(f"{address}/api/packs/{pack.number}/build-sheet.pdf")
    assert sheet.ok


def test_a_joint_too_high_is_named_and_a_proved_pack_goes_out_with_its_papers_and_page(
    page: Page, new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, pack: Pack, address: str
) -> None:
    built(session, volunteer, pack)
    prove(session, volunteer, pack.number, at(3), until="load")
    session.commit()
    page.goto(f"{address}/packs/{pack.number}/prove")
    figures = {"Current": "4", "Warmest cell": "30"}
    for group in range(1, 5):
        figures |= {f"Group {group} before": "4.20", f"Group {group} under load": "4.10"}
    for label, value in (figures | {"Group 3 under load": "3.60"}).items():
        page.get_by_label(label, exact=True).fill(value)
    page.get_by_role("button", name="Next").click()
    expect(page.get_by_role("alert")).to_contain_text(re.compile("Group 3 sags.*measure from cell to strip in group 3"))
    page.get_by_role("button", name="Nothing comes out of it").click()
    page.get_by_role("button", name="Yes", exact=True).click()
    expect(page.get_by_text("What does the meter say at the pack's own poles")).to_be_visible()
    prove(session, volunteer, pack.number, at(4))
    session.commit()
    page.goto(f"{address}/packs/{pack.number}")
    page.get_by_label("What it does there").fill("counts the water")
    page.get_by_role("button", name="Give it out").click()
    expect(page.get_by_role("listitem").filter(has_text="Given out").first).to_have_attribute("aria-current", "step")
    page.get_by_role("button", name="A page for whoever has it").click()
    page.get_by_role("button", name="Open its page").click()
    link = page.locator('a[href*="/p/"]')
    expect(link).to_be_visible()
    for paper in ("Visitor's card (PDF)", "Label for the pack, 100 × 60 mm"):
        assert page.request.get(f"{address}{page.get_by_role('link', name=paper).get_attribute('href')}").ok
    stranger = new_context().new_page()
    answer = stranger.goto(link.get_attribute("href") or "")
    assert answer
    assert "noindex" in answer.headers["x-robots-tag"]
    expect(stranger.get_by_role("heading", name="weir gauge")).to_be_visible()
    expect(stranger.get_by_text("Proved on")).to_be_visible()
    page.get_by_role("button", name="Take the page back").click()
    expect(link).to_have_count(0)
    stranger.reload()
    expect(stranger.get_by_role("alert")).to_contain_text("no such page")


def test_half_as_long_comes_back_one_group_is_mended_and_it_goes_out_again(
    page: Page, session: Session, volunteer: Actor, pack: Pack, address: str
) -> None:
    give_out(session, volunteer, built(session, volunteer, pack), at(4))
    move(session, volunteer, pack, "back", at(64))
    bad, stays = (member.cell.number for member in pack.groups[1].cells)
    inside = {member.cell.number for group in pack.groups for member in group.cells}
    session.commit()
    page.goto(f"{address}/packs/{pack.number}")
    came_back = page.get_by_role("region", name="It came back")
    came_back.get_by_label("What is wrong").fill("it runs half as long")
    for group, volts in enumerate(("3.80", "3.55", "3.81", "3.80"), start=1):
        came_back.get_by_label(f"Group {group}", exact=True).fill(volts)
    came_back.get_by_role("button", name="What does that say?").click()
    expect(came_back).to_contain_text("Group 2 reads 3.55")
    expect(came_back).to_contain_text("When it was proved")
    # Both are brought to one voltage: what stays of its group, and what may come.
    rested = datetime.now(UTC)
    for number in session.scalars(select(CellRow.number).where(CellRow.number != bad)):
        if number == stays or number not in inside:
            voltage(session, volunteer, number, RESTED, rested, confirmed=True)
    session.commit()
    came_back.get_by_role("button", name="Exchange cells").click()
    choose_option(page, "The bad cell of group 2", bad)
    came_back.get_by_role("button", name=f"It comes for {bad}").first.click()
    expect(page.get_by_role("region", name="Pack of 4 groups in series")).not_to_contain_text(bad)
    session.expire_all()
    prove(session, volunteer, pack.number, at(300))
    session.commit()
    page.reload()
    page.get_by_role("button", name="Give it out").click()
    expect(page.get_by_role("listitem").filter(has_text="Given out").first).to_have_attribute("aria-current", "step")


def test_a_donor_is_called_back_and_stands_on_the_first_page_until_it_is_settled(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, coordinator: Actor, pack: Pack, address: str
) -> None:  # fmt: skip
    give_out(session, volunteer, built(session, volunteer, pack), at(4))
    outside.report_use(session, volunteer, pack.number, outside.TypedReport("fine", hours="9"), at(20))
    donor = session.scalar(select(Donor.number)) or ""
    session.commit()
    page = signed_in(new_context().new_page(), address, "Coordinator")
    page.goto(f"{address}/recalls")
    page.get_by_label("What to look for").fill(donor)
    page.get_by_role("button", name="Look", exact=True).click()
    found = page.get_by_role("region", name="Packs found")
    expect(found).to_contain_text("weir gauge")
    found.get_by_label("What is wrong").fill("Their wrap melts")
    found.get_by_role("button", name="Call them back").click()
    expect(page.get_by_text("They stand on the first page")).to_be_visible()
    page.goto(address)
    home = page.get_by_role("region", name="Called back")
    expect(home).to_contain_text("the duck pond's keeper")
    assert page.request.get(f"{address}{home.get_by_role('link', name='Letter (PDF)').get_attribute('href')}").ok
    home.get_by_role("button", name="It is settled").click()
    home.get_by_label("What became of").fill("brought back on Friday")
    home.get_by_role("button", name="Settled", exact=True).click()
    expect(home).to_have_count(0)
