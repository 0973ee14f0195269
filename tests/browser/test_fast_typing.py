"""Hands that do not wait: typed at a person's speed, every answer of the server late, the server gone in the middle."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.browser.conftest import be_late, served, signed_in, waits_for_server
from tests.support.benchwork import keep, numbers_of, open_donor, shelf_of
from zembric.models import CellRow, PackCell, Place, ReadingEntry
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.database import unit_of_work

KEY_MS = 80
LATE_MS = 2_500
TEN = [f"3.{60 + index}" for index in range(10)]


def type_on(page: Page, *lines: str) -> None:
    for line in lines:
        page.keyboard.type(line, delay=KEY_MS)
        page.keyboard.press("Enter", delay=KEY_MS)


@pytest.fixture
def ten(session: Session, volunteer: Actor) -> list[str]:
    """Ten cells of one donor in a tray, looked at, to be measured."""
    numbers = numbers_of(open_donor(session, volunteer, 10))
    opened_at = people.get_person(session, "Volunteer").created_at
    for number in numbers:
        entries.inspect(session, volunteer, number, [], opened_at)
    session.commit()
    return numbers


def volts_kept(engine: Engine) -> dict[str, list[float]]:
    """Of each cell that was measured, every voltage that is stored."""
    with unit_of_work(engine) as session:
        query = select(CellRow.number, ReadingEntry.value).join(ReadingEntry, ReadingEntry.cell_id == CellRow.id)
        kept: dict[str, list[float]] = {}
        for number, value in session.execute(query.order_by(ReadingEntry.id)):
            kept.setdefault(number, []).append(value)
        return kept


def as_typed(numbers: list[str], values: list[str] = TEN) -> dict[str, list[float]]:
    return {number: [float(value)] for number, value in zip(numbers, values, strict=True)}


def test_ten_voltages_typed_ahead_of_the_server_lie_on_their_cells_in_a_tray(
    page: Page, session: Session, ten: list[str], engine: Engine, address: str
) -> None:
    page.goto(f"{address}/trays/{session.scalars(select(Place.number).where(Place.kind == 'tray')).one()}")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    be_late(page, LATE_MS)
    type_on(page, *TEN)
    expect(page.get_by_text("Every cell of this tray was looked at and measured.")).to_be_visible()
    assert volts_kept(engine) == as_typed(ten)


def test_ten_numbers_with_their_voltages_are_typed_ahead_of_the_server_at_the_bench(
    page: Page, ten: list[str], engine: Engine, address: str
) -> None:
    page.goto(f"{address}/bench")
    expect(page.get_by_label("Cell number")).to_be_focused()
    be_late(page, LATE_MS)
    type_on(page, *(line for pair in zip(reversed(ten), TEN, strict=True) for line in pair))
    be_late(page, 0)
    expect(page.get_by_text("3.69 V, kept")).to_be_visible()
    assert volts_kept(engine) == as_typed(ten[::-1])


def test_a_voltage_typed_for_a_wrong_number_is_kept_and_goes_to_the_right_one(
    page: Page, ten: list[str], engine: Engine, address: str
) -> None:
    page.goto(f"{address}/bench")
    expect(page.get_by_label("Cell number")).to_be_focused()
    be_late(page, 400)  # the number is found wrong while its voltage is being typed
    type_on(page, "9999", "3.71")
    be_late(page, 0)
    page.get_by_role("button", name="Type it again").click()
    expect(page.get_by_label("Resting voltage")).to_have_value("3.71")
    page.get_by_label("Cell number").fill(ten[0])
    page.keyboard.press("Enter")
    expect(page.get_by_label("Resting voltage")).to_have_value("3.71")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_text("3.71 V, kept")).to_be_visible()
    assert volts_kept(engine) == {ten[0]: [3.71]}


def test_in_a_pass_a_slip_a_late_doubt_and_a_danger_leave_every_other_voltage_where_it_belongs(
    page: Page, ten: list[str], engine: Engine, address: str
) -> None:
    page.goto(f"{address}/bench?step=measure-voltage")
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    be_late(page, LATE_MS)
    type_on(page, *TEN[:3], "371", *TEN[4:6], "4.6", *TEN[7:])
    be_late(page, 0)
    danger = page.get_by_role("alertdialog")
    expect(danger).to_contain_text(ten[6])
    page.keyboard.press("Enter")  # whoever types on does not take the danger away
    danger.get_by_role("button", name="It lies in the fire-safe box").click()
    expect(page.get_by_text("That was the last one.")).to_be_visible()
    came_back = page.get_by_role("status").filter(has_text="371 V, typed")
    came_back.get_by_role("button", name="Take 3.71").click()
    expect(came_back).to_be_hidden()
    waits_for_server(page, 0)
    wanted = [*TEN[:3], "3.71", *TEN[4:6], "4.6", *TEN[7:]]
    assert volts_kept(engine) == as_typed(ten, wanted)


def test_with_the_server_gone_in_the_middle_ten_of_ten_are_kept(
    new_context: Callable[..., BrowserContext], session: Session, ten: list[str], engine: Engine, tmp_path: Path
) -> None:
    tray = session.scalars(select(Place.number).where(Place.kind == "tray")).one()
    with served(engine, tmp_path) as address:
        page = signed_in(new_context().new_page(), address, "Volunteer")
        page.goto(f"{address}/trays/{tray}")
        expect(page.get_by_label("Resting voltage")).to_be_focused()
        type_on(page, *TEN[:4])
    type_on(page, *TEN[4:])
    expect(page.get_by_text("wait in this browser").first).to_be_visible()
    with served(engine, tmp_path, port=int(address.rsplit(":", 1)[1])):
        page.get_by_role("button", name="Try now").click()
        expect(page.get_by_text("Every cell of this tray was looked at and measured.")).to_be_visible()
    assert volts_kept(engine) == as_typed(ten)


def test_a_scanner_that_does_not_wait_picks_every_cell_and_a_wrong_one_stops_it_all_the_same(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    *numbers, wrong = shelf_of(session, volunteer, [2500, 2450, 2400, 2350, 2300])
    pack = keep(session, volunteer)
    session.commit()
    page.goto(f"{address}/packs/{pack.number}/pick")
    expect(page.get_by_label("Scan or type the number")).to_be_focused()
    be_late(page, LATE_MS)
    type_on(page, f"C{numbers[0]}", f"C{wrong}", *(f"C{number}" for number in numbers[1:]))
    be_late(page, 0)
    page.get_by_role("button", name="It is back in its place").click()
    expect(page.get_by_text("All 4 cells are here.")).to_be_visible()
    page.get_by_role("link", name="Go on with the pack").click()
    expect(page.get_by_text("4 of 4 cells picked.")).to_be_visible()
    session.rollback()
    picked = session.scalars(select(PackCell.cell_id).where(PackCell.picked_at.is_not(None))).all()
    assert len(picked) == 4


def test_a_stock_take_counts_every_scan_however_late_the_answers_are(
    page: Page, session: Session, ten: list[str], address: str
) -> None:
    tray = session.scalars(select(Place.number).where(Place.kind == "tray")).one()
    page.goto(f"{address}/places/{tray}")
    page.get_by_role("radio", name="Count it").click()
    page.get_by_label("Seen").focus()
    be_late(page, LATE_MS)
    type_on(page, *(f"C{number}" for number in ten[:4]), "9999", *ten[4:9])
    be_late(page, 0)
    expect(page.get_by_text(f"Not seen yet: {ten[9]}")).to_be_visible()
    unknown = page.get_by_role("status").filter(has_text="9999")
    unknown.get_by_role("button", name="Let it go").click()
    page.get_by_role("button", name="That is all, keep the count").click()
    expect(page.get_by_text("Counted: 9 here, 1 missing, 0 from elsewhere.")).to_be_visible()
