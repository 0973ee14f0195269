"""The pack on paper: a promise that fails and is mended, what cannot be waived and what is for ever, joining, another cell."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import BrowserContext, Locator, Page, expect
from sqlalchemy.orm import Session

from tests.browser.conftest import be_late, choose_option, signed_in
from tests.support.benchwork import at, keep, shelf_of, well_planned
from zembric.core.pack.parts import TypedPart
from zembric.models import Pack
from zembric.operations.actors import Actor
from zembric.operations.packing import packs
from zembric.operations.packing.parts import PartToKeep

FOUR = [2500, 2450, 2400, 2350]


def planned(session: Session, who: Actor, *more: PartToKeep, leave_out: tuple[str, ...] = ()) -> Pack:
    shelf_of(session, who, FOUR)
    pack = keep(session, who)
    parts = [each for each in well_planned(2) if each.part.kind not in leave_out]
    packs.set_parts(session, who, pack.number, [*parts, *more], pack.version, at(2))
    session.commit()
    return pack


def line(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name="Checks").get_by_role("listitem", name=name, exact=True)


def put_in(page: Page, part: str, fields: dict[str, str], *, first: str = "Say it") -> None:
    page.get_by_role("button", name=f"{first}: {part}").click()
    form = page.get_by_role("region", name="What it is built from").locator("form")
    for label, value in fields.items():
        form.get_by_label(label, exact=True).fill(value)
    form.get_by_role("button", name=re.compile("Put it in|Keep it")).click()
    expect(form).to_have_count(0)


def test_from_a_need_to_a_checked_plan_whose_promise_fails_and_is_mended(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf_of(session, volunteer, FOUR)
    session.commit()
    page.goto(f"{address}/match")
    page.get_by_role("radio", name="What it is for").click()
    page.get_by_label("Runs from").fill("5.8")
    page.get_by_role("textbox", name="up to").fill("8.6")
    page.get_by_label("Power").last.fill("3")
    page.get_by_label("For", exact=True).fill("4")
    page.get_by_role("button", name="What would do?").click()
    page.get_by_role("button", name=re.compile("^Match 2 of")).click()
    page.get_by_label("What is it for?").fill("metronome rack")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("heading", name=re.compile("checks stop it"))).to_be_visible()
    page.get_by_role("button", name=re.compile("lines hold")).click()
    expect(line(page, "The promised hours")).to_contain_text("Promised 4.0 h")
    put_in(page, "what was promised", {"It runs": "99"}, first="Change")
    expect(line(page, "The promised hours")).to_contain_text("Stop")
    expect(page.get_by_role("link", name="its checks")).to_be_visible()
    put_in(page, "what was promised", {"It runs": "2"}, first="Change")
    expect(line(page, "The promised hours")).to_contain_text("Holds")
    # What the charger does nobody said yet.
    put_in(page, "charger", {"Charges up to": "8.4", "Current": "500", "Its supply gives": "12"})
    expect(line(page, "The charger")).to_have_count(0)


def test_what_protects_people_nobody_lets_pass_until_it_is_mended(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, coordinator: Actor, address: str
) -> None:
    pack = planned(session, volunteer, leave_out=("board",))
    page = signed_in(new_context().new_page(), address, "Coordinator")
    page.goto(f"{address}/packs/{pack.number}")
    balance = line(page, "Balance of the groups")
    expect(balance).to_contain_text("Nobody lets this pass.")
    expect(balance.get_by_role("button")).to_have_count(0)
    page.get_by_role("button", name="Say it: board").click()
    choose_option(page, "Take it from", "Board for two groups, 8 A, bleeds")
    page.get_by_role("button", name="Put it in").click()
    expect(balance).to_have_count(0)
    expect(page.get_by_role("heading", name="Nothing stops it.")).to_be_visible()


def test_a_waiver_stands_on_the_page_with_its_reason_for_ever(
    new_context: Callable[..., BrowserContext], page: Page, session: Session, volunteer: Actor, coordinator: Actor, address: str
) -> None:  # fmt: skip
    promise = PartToKeep(TypedPart("promise", {"hours": "90", "leaves": "by-hand"}))
    pack = planned(session, volunteer, promise)
    page.goto(f"{address}/packs/{pack.number}")
    expect(line(page, "The promised hours")).to_contain_text("A coordinator may let it pass")
    theirs = signed_in(new_context().new_page(), address, "Coordinator")
    theirs.goto(f"{address}/packs/{pack.number}")
    theirs.get_by_role("button", name="Let it pass, with a reason").click()
    theirs.get_by_label("Why may it pass").fill("the choir knows that it lasts one evening")
    theirs.get_by_role("button", name="Let it pass", exact=True).click()
    expect(line(theirs, "The promised hours")).to_contain_text("Let pass by Coordinator")
    page.reload()
    expect(line(page, "The promised hours")).to_contain_text("Let pass by Coordinator")
    put_in(page, "what was promised", {"It runs": "80"}, first="Change")
    expect(line(page, "The promised hours")).to_contain_text("A coordinator may let it pass")
    page.get_by_role("button", name="1 earlier waivers hold no more").click()
    expect(page.get_by_text("“the choir knows that it lasts one evening”").first).to_be_visible()
    expect(page.get_by_text(re.compile("let a check pass.*Coordinator.*one evening"))).to_be_visible()


def test_all_are_measured_before_joining_and_three_ways_are_laid_side_by_side(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    pack = planned(session, volunteer)
    page.goto(f"{address}/packs/{pack.number}")
    joining = page.get_by_role("region", name="Joining")
    expect(joining).to_contain_text("Measure all before joining.")
    joining.get_by_role("link", name="Measure all before joining").click()
    for volts in ("3.71", "3,80", "3.80", "3.81"):
        expect(page.get_by_label(re.compile("^Voltage of"))).to_be_focused()
        page.keyboard.type(volts)
        page.keyboard.press("Enter")
    expect(page.get_by_text("All 4 were measured.")).to_be_visible()
    expect(page.get_by_text("They lie 0.10 V apart.")).to_be_visible()
    page.get_by_role("link", name="Go on with the pack").click()
    expect(joining).to_contain_text("They may not be joined yet.")
    for way in ("All to full by charger", "Through resistors", "One by one"):
        expect(joining.get_by_role("listitem", name=way)).to_be_visible()
    expect(joining.get_by_text("do this")).to_have_count(1)
    expect(joining.get_by_role("slider", name="Voltages coming together")).to_be_visible()


def test_a_load_is_tried_and_the_run_is_walked_along_by_keys(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    pack = planned(session, volunteer)
    page.goto(f"{address}/packs/{pack.number}")
    paper = page.get_by_role("region", name="On paper")
    expect(paper.get_by_text("At the end:")).to_be_visible()
    paper.get_by_role("slider", name="Voltage of the groups over the run").press("Home")
    expect(paper.get_by_text("At the first moment:")).to_be_visible()
    before = paper.get_by_text(re.compile(r"in nine of ten cases"))
    expect(before).to_be_visible()
    paper.get_by_role("button", name=re.compile("What if")).click()
    paper.get_by_text("Milliamperes").click()
    paper.get_by_label("Another load", exact=True).fill("400")
    expect(paper.get_by_text(re.compile("instead of"))).to_be_visible()
    paper.get_by_label("Another load", exact=True).fill("much")
    expect(paper.get_by_role("alert").first).to_contain_text("much")
    expect(paper.get_by_label("Another load", exact=True)).to_have_value("much")


def test_a_poor_device_is_offered_the_cell_that_runs_longest(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    shelf = shelf_of(session, volunteer, FOUR)
    session.commit()
    page.goto(f"{address}/recell")
    page.get_by_label("Size of the old cell").fill("18650")
    page.get_by_label("It held, when it was new").fill("1250")
    page.get_by_label("The device takes, in the mean").fill("100")
    page.get_by_role("button", name="What fits?").click()
    found = page.get_by_role("region", name="What fits")
    expect(found).to_contain_text("25.0 h")
    expect(found.get_by_role("link").first).to_have_text(shelf[0])
    expect(found.get_by_role("list", name="What must not be done")).to_contain_text("Never by the colour of the leads")
    page.get_by_text("In the place of alkaline, nickel or lead").click()
    expect(page.get_by_role("heading", name=re.compile("100 % of its charge"))).to_be_visible()


def test_parts_are_put_in_one_after_another_faster_than_the_server_answers(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    pack = planned(session, volunteer, leave_out=("fuse", "cell-fuses"))
    page.goto(f"{address}/packs/{pack.number}")
    expect(page.get_by_role("heading", name=re.compile("stop it"))).to_be_visible()
    be_late(page, 400)
    put_in(page, "main fuse", {"Rated for": "0.4"})
    put_in(page, "fuse of each cell", {"Rated for": "2"})
    page.get_by_role("button", name="Take out: main fuse").click()
    page.get_by_role("button", name="Take out: fuse of each cell").click()
    for part in ("main fuse", "fuse of each cell"):
        expect(page.get_by_role("button", name=f"Say it: {part}")).to_be_visible()


def test_what_somebody_typed_is_kept_beside_what_another_changed_meanwhile(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    pack = planned(session, volunteer, leave_out=("fuse",))
    page.goto(f"{address}/packs/{pack.number}")
    page.get_by_role("button", name="Say it: main fuse").click()
    switch = PartToKeep(TypedPart("switch", {"most_a": "3"}))
    others = [PartToKeep(TypedPart(part.kind, part.figures)) for part in pack.parts]  # type: ignore[arg-type]
    packs.set_parts(session, volunteer, pack.number, [*others, switch], pack.version, at(2))
    session.commit()
    form = page.get_by_role("region", name="What it is built from").locator("form")
    form.get_by_label("Rated for", exact=True).fill("0.4")
    form.get_by_role("button", name="Put it in").click()
    expect(page.get_by_role("button", name="Change: switch")).to_be_visible()
    expect(form.get_by_label("Rated for", exact=True)).to_have_value("0.4")
    form.get_by_role("button", name="Put it in").click()
    for part in ("switch", "main fuse"):
        expect(page.get_by_role("button", name=f"Change: {part}")).to_be_visible()
