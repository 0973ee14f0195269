"""A tray in one pass: by keyboard, by thumb, by scanner, by camera, and with the server gone in the middle."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path

import pytest
import segno
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.browser.conftest import CHROMIUM_ARGUMENTS, served, sign_in, signed_in, waits_for_server
from tests.support.benchwork import numbers_of, open_donor
from zembric.models import CellRow, InspectionEntry, Place, ReadingEntry
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.database import unit_of_work


@pytest.fixture
def tray_of_20(session: Session, volunteer: Actor) -> tuple[str, list[str]]:
    """A tray's number and its twenty cells in the order of their places."""
    numbers = numbers_of(open_donor(session, volunteer, 20))
    session.commit()
    return session.scalars(select(Place.number).where(Place.kind == "tray")).one(), numbers


def _kept(engine: Engine) -> dict[str, tuple[list[list[str]], list[float]]]:
    """Of each cell everything that was found and measured."""
    with unit_of_work(engine) as session:
        cells = session.execute(select(CellRow.id, CellRow.number)).all()
        looks = session.execute(
            select(InspectionEntry.cell_id, InspectionEntry.findings).order_by(InspectionEntry.id)
        ).all()
        readings = session.execute(select(ReadingEntry.cell_id, ReadingEntry.value).order_by(ReadingEntry.id)).all()
    return {
        number: (
            [found for of, found in looks if of == cell_id],
            [value for of, value in readings if of == cell_id],
        )
        for cell_id, number in cells
    }


def _expect_at(page: Page, number: str) -> None:
    expect(page.get_by_role("button", name=f"cell {number} ")).to_have_attribute("aria-current", "location")
    expect(page.get_by_label("Resting voltage")).to_be_focused()


def test_twenty_cells_by_keyboard_interrupted_and_taken_on_by_somebody_else(
    page: Page,
    new_context: Callable[..., BrowserContext],
    tray_of_20: tuple[str, list[str]],
    engine: Engine,
    address: str,
) -> None:
    tray, numbers = tray_of_20
    page.goto(f"{address}/trays/{tray}")
    for index in range(12):
        _expect_at(page, numbers[index])
        if index == 3:
            page.keyboard.press("w")
            page.keyboard.press("o")
        page.keyboard.type(f"3.{60 + index}")
        page.keyboard.press("Enter")
    _expect_at(page, numbers[12])

    other = signed_in(new_context().new_page(), address, "Coordinator")
    other.goto(f"{address}/trays/{tray}")
    for index in range(12, 20):
        _expect_at(other, numbers[index])
        other.keyboard.type(f"3.{60 + index}")
        other.keyboard.press("Enter")
    expect(other.get_by_text("Every cell of this tray was looked at and measured.")).to_be_visible()
    found: dict[int, list[str]] = {3: ["corroded-ends", "torn-wrap"]}
    assert _kept(engine) == {
        number: ([found.get(index, [])], [round(3.6 + index / 100, 2)]) for index, number in enumerate(numbers)
    }


def test_a_thumb_walks_a_tray_and_a_hazard_takes_no_voltage(
    new_context: Callable[..., BrowserContext], tray_of_20: tuple[str, list[str]], engine: Engine, address: str
) -> None:
    tray, numbers = tray_of_20
    page = signed_in(new_context(390, 844, has_touch=True, is_mobile=True).new_page(), address, "Volunteer")
    page.goto(f"{address}/trays/{tray}")
    for index in range(3):
        expect(page.get_by_text(numbers[index], exact=True).first).to_be_visible()
        page.get_by_label("Resting voltage").fill(f"3,7{index}")
        page.get_by_role("button", name="Nothing found, keep the voltage").tap()
        expect(page.get_by_text(f"3,7{index} V, kept")).to_be_visible()
    page.get_by_text("Punctured").tap()
    expect(page.get_by_label("Resting voltage")).to_be_hidden()
    page.get_by_role("button", name="Dangerous: into the fire-safe box").tap()
    page.get_by_role("button", name="It lies in the fire-safe box").tap()
    expect(page.get_by_text(numbers[4], exact=True).first).to_be_visible()
    # Its siblings are looked at once more, those that were done already too.
    expect(page.get_by_role("button", name=f"cell {numbers[0]} to look at")).to_be_visible()
    assert page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth")
    kept = _kept(engine)
    assert [kept[number] for number in numbers[2:5]] == [([[]], [3.72]), ([["punctured"]], []), ([], [])]


def test_a_server_that_stops_in_the_middle_loses_nothing_and_doubles_nothing(
    new_context: Callable[..., BrowserContext],
    tray_of_20: tuple[str, list[str]],
    engine: Engine,
    session: Session,
    coordinator: Actor,
    tmp_path: Path,
) -> None:
    tray, numbers = tray_of_20
    with served(engine, tmp_path) as address:
        page = signed_in(new_context().new_page(), address, "Volunteer")
        page.goto(f"{address}/trays/{tray}")
        _expect_at(page, numbers[0])
        page.keyboard.type("3.60")
        page.keyboard.press("Enter")
        _expect_at(page, numbers[1])
        expect(page.get_by_text("3.60 V, kept")).to_be_visible()
    for index in (1, 2, 3):
        page.keyboard.type(f"3.{60 + index}")
        page.keyboard.press("Enter")
        expect(
            page.get_by_text(f"{index} {'entry waits' if index == 1 else 'entries wait'} in this browser")
        ).to_be_visible()
        _expect_at(page, numbers[index + 1])
    # Meanwhile somebody at another table finds that one of them leaks.
    entries.inspect(session, coordinator, numbers[2], ["leaking"], _now(engine))
    session.commit()
    with served(engine, tmp_path, port=int(address.rsplit(":", 1)[1])):
        page.reload()
        refused = page.get_by_role("complementary", name="Not on the server yet")
        expect(refused.get_by_text("is a hazard")).to_be_visible()
        expect(refused.get_by_text("Nothing found, 3.62 V")).to_be_visible()
        waits_for_server(page, 1)
        kept = _kept(engine)
        assert [kept[number] for number in numbers[:5]] == [
            ([[]], [3.6]), ([[]], [3.61]), ([["leaking"]], []), ([[]], [3.63]), ([], []),
        ]  # fmt: skip
        refused.get_by_role("button", name="Let it go").click()
        expect(refused).to_be_hidden()


def test_what_reads_below_zero_is_asked_about_and_kept_with_its_cause(
    page: Page, tray_of_20: tuple[str, list[str]], engine: Engine, address: str
) -> None:
    tray, numbers = tray_of_20
    page.goto(f"{address}/trays/{tray}")
    _expect_at(page, numbers[0])
    page.keyboard.type("-3.7")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Its can is plus").click()
    _expect_at(page, numbers[1])
    expect(page.get_by_text("-3.7 V, kept")).to_be_visible()
    assert _kept(engine)[numbers[0]] == ([[]], [3.7])
    with unit_of_work(engine) as session:
        assert session.scalars(select(CellRow.plus_end).where(CellRow.number == numbers[0])).one() == "can"


def test_a_scanner_in_the_hand_jumps_to_its_cell(page: Page, tray_of_20: tuple[str, list[str]], address: str) -> None:
    tray, numbers = tray_of_20
    page.goto(f"{address}/trays/{tray}")
    _expect_at(page, numbers[0])
    page.keyboard.type(f"C{numbers[13]}")
    page.keyboard.press("Enter")
    _expect_at(page, numbers[13])
    expect(page.get_by_label("Resting voltage")).to_have_value("")
    page.keyboard.type("C1111111")
    page.keyboard.press("Enter")
    expect(page.get_by_text("cannot be right: its last digit does not fit")).to_be_visible()


@pytest.fixture
def filming_browser(playwright: Playwright, tmp_path: Path, tray_of_20: tuple[str, list[str]]) -> Iterator[Browser]:
    """A browser whose camera shows the label of the eighth cell."""
    code = io.BytesIO()
    segno.make(f"C{tray_of_20[1][7]}", error="m").save(code, kind="png", scale=12, border=6)
    label = Image.open(code).convert("RGB")
    picture = Image.new("RGB", (640, 480), "#9aa")
    picture.paste(label.resize((300, 300)), (170, 90))
    frame = io.BytesIO()
    picture.save(frame, "JPEG", quality=92)
    film = tmp_path / "label.mjpeg"
    film.write_bytes(frame.getvalue() * 5)
    arguments = [
        *CHROMIUM_ARGUMENTS, "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-video-capture={film}",
    ]  # fmt: skip
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=arguments)
    yield browser
    browser.close()


def test_the_camera_finds_the_cell_of_a_label(
    filming_browser: Browser, tray_of_20: tuple[str, list[str]], address: str
) -> None:
    context = filming_browser.new_context(permissions=["camera"])
    page = sign_in(context.new_page(), address, "Volunteer")
    page.get_by_role("button", name="Scan a label").click()
    expect(page.get_by_role("heading", name=f"Cell {tray_of_20[1][7]}")).to_be_visible()
    context.close()


def _now(engine: Engine) -> datetime:
    with unit_of_work(engine) as session:
        return session.scalars(select(InspectionEntry.recorded_at).order_by(InspectionEntry.id.desc()).limit(1)).one()
