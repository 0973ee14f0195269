"""Bad Wi-Fi: pages open without the network, what is typed there is kept and sent once, and a new version is offered."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import BrowserContext, Page, Playwright, expect
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from tests.browser.conftest import CHROMIUM_ARGUMENTS, served, sign_in, wait_until, waits_for_server
from tests.support.benchwork import keep, numbers_of, open_donor, shelf_of
from zembric.models import Place, ReadingEntry
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.paths import FRONTEND_DIST

OPENS_ALONE = """async () => {
    await navigator.serviceWorker.ready;
    return (await (await caches.open("zembric-pages")).keys()).length === 1;
}"""


def until_it_opens_alone(page: Page) -> None:
    wait_until(page, OPENS_ALONE)


def test_the_bench_opens_without_the_network_and_what_is_typed_there_is_sent_once(
    new_context: Callable[..., BrowserContext], engine: Engine, session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], datetime.now(UTC))
    session.commit()
    with served(engine, tmp_path / "photos") as address:
        page = sign_in(new_context(service_workers="allow").new_page(), address, "Volunteer")
        page.goto(f"{address}/bench/{number}")
        expect(page.get_by_label("Resting voltage")).to_be_visible()
        until_it_opens_alone(page)
        page.reload()
    page.reload()
    expect(page.get_by_text("No connection.").first).to_be_visible()
    page.get_by_label("Resting voltage").fill("3.71")
    page.keyboard.press("Enter")
    waits_for_server(page, 1)
    page.reload()
    expect(page.get_by_text("1 entry waits in this browser")).to_be_visible()
    other = page.context.new_page()
    other.goto(f"{address}/bench/{number}")
    with served(engine, tmp_path / "photos", int(address.rsplit(":", 1)[1])):
        page.evaluate("window.dispatchEvent(new Event('online'))")
        for each in (page, other):
            expect(each.get_by_text("1 entry waits in this browser")).to_be_hidden(timeout=45_000)
        expect(page.get_by_text("No connection.")).to_have_count(0, timeout=30_000)
        waits_for_server(page, 0)
        page.close()
        other.close()
    session.rollback()
    assert session.scalar(select(func.count()).where(ReadingEntry.quantity == "voltage")) == 1


def test_a_tray_goes_on_without_the_network_after_the_browser_was_closed(
    playwright: Playwright, engine: Engine, session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    number = numbers_of(open_donor(session, volunteer, 3))[0]
    tray = session.scalars(select(Place.number).where(Place.kind == "tray")).one()
    session.commit()

    def browser() -> BrowserContext:
        return playwright.chromium.launch_persistent_context(
            tmp_path / "browser",
            executable_path="/usr/bin/chromium-headless-shell",
            args=CHROMIUM_ARGUMENTS,
            locale="en-GB",
        )

    with served(engine, tmp_path / "photos") as address:
        tablet = browser()
        page = sign_in(tablet.new_page(), address, "Volunteer")
        page.goto(f"{address}/trays/{tray}")
        expect(page.get_by_role("button", name=f"cell {number} ")).to_be_visible()
        until_it_opens_alone(page)
        tablet.close()
    tablet = browser()
    page = tablet.new_page()
    page.goto(f"{address}/trays/{tray}")
    expect(page.get_by_text("No connection.").first).to_be_visible()
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    page.keyboard.type("3.60")
    page.keyboard.press("Enter")
    waits_for_server(page, 1)
    tablet.close()
    with served(engine, tmp_path / "photos", int(address.rsplit(":", 1)[1])):
        tablet = browser()
        page = tablet.new_page()
        page.goto(f"{address}/trays/{tray}")
        waits_for_server(page, 0)
        tablet.close()
    session.rollback()
    assert session.scalars(select(ReadingEntry.value)).all() == [3.6]


def test_cells_are_picked_without_the_network(
    new_context: Callable[..., BrowserContext], engine: Engine, session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    numbers = shelf_of(session, volunteer, [2500, 2450, 2400, 2350, 2300])
    pack = keep(session, volunteer)
    session.commit()
    with served(engine, tmp_path / "photos") as address:
        page = sign_in(new_context(390, 844, service_workers="allow").new_page(), address, "Volunteer")
        page.goto(f"{address}/packs/{pack.number}/pick")
        expect(page.get_by_label("Scan or type the number")).to_be_focused()
        until_it_opens_alone(page)
    page.reload()
    expect(page.get_by_text("No connection.").first).to_be_visible()
    page.get_by_label("Scan or type the number").fill(f"C{numbers[0]}")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 of 4 picked")).to_be_visible()
    page.get_by_label("Scan or type the number").fill(f"C{numbers[4]}")
    page.keyboard.press("Enter")
    stop = page.get_by_role("alertdialog", name="Wrong cell")
    expect(stop).to_contain_text(f"{numbers[4]} does not belong to this pack.")
    stop.get_by_role("button", name="It is back in its place").click()
    waits_for_server(page, 1)
    with served(engine, tmp_path / "photos", int(address.rsplit(":", 1)[1])):
        page.evaluate("window.dispatchEvent(new Event('online'))")
        waits_for_server(page, 0)
        page.reload()
        expect(page.get_by_text("1 of 4 picked")).to_be_visible()
        expect(page.get_by_text("No connection.")).to_have_count(0, timeout=30_000)
        page.close()


def test_a_new_version_is_offered_and_comes_when_somebody_takes_it(
    new_context: Callable[..., BrowserContext], engine: Engine, tmp_path: Path
) -> None:
    dist = tmp_path / "dist"
    shutil.copytree(FRONTEND_DIST, dist)
    with served(engine, tmp_path / "photos", dist=dist) as address:
        page = sign_in(new_context(service_workers="allow").new_page(), address, "Volunteer")
        until_it_opens_alone(page)
        page.reload()
        page.wait_for_function("() => navigator.serviceWorker.controller !== null")
        with (dist / "sw.js").open("a", encoding="utf-8") as file:
            file.write("\n// the next version\n")
        page.evaluate("window.stays = true")
        expect(page.get_by_text("A new version of Zembric is here.")).to_be_visible(timeout=60_000)
        assert page.evaluate("window.stays")
        page.get_by_role("button", name="Take it now").click()
        page.wait_for_function("() => window.stays === undefined")
        expect(page.get_by_role("heading", name="What is next")).to_be_visible()
        page.close()


def test_a_page_that_cannot_be_fetched_says_so_in_its_place_and_comes_when_asked_again(
    page: Page, address: str
) -> None:
    page.route("**/assets/MatchPage*", lambda route: route.abort())
    page.goto(address)
    page.get_by_role("link", name="Match", exact=True).click()
    expect(page.get_by_role("heading", name="This page could not be fetched")).to_be_visible()
    page.get_by_role("link", name="Shelf", exact=True).click()
    expect(page.get_by_role("heading", level=1, name="Shelf")).to_be_visible()
    page.get_by_role("link", name="Match", exact=True).click()
    expect(page.get_by_role("heading", name="This page could not be fetched")).to_be_visible()
    page.unroute("**/assets/MatchPage*")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", level=1, name="Match")).to_be_visible()
