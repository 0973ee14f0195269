"""A whole evening on a slow line, every answer 400 ms late: what is stored at its end is what was typed and logged."""

from __future__ import annotations

import re
from datetime import UTC, datetime

import pytest
from playwright.sync_api import FilePayload, Page, expect
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session

from tests.browser.conftest import be_late, waits_for_server
from tests.support.benchwork import well_planned
from tests.support.logs import csv_of, true_discharge_mah, whole_run
from zembric.models import CellRow, InspectionEntry, PackCell, Person, ReadingEntry, StepEntry
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.operations.packing import packs

LATE_MS = 400
KEY_MS = 40
VOLTS = [f"3.{60 + index}" for index in range(11)]


def test_what_a_whole_evening_types_is_what_is_stored(page: Page, engine: Engine, address: str) -> None:
    be_late(page, LATE_MS)
    numbers = _open_a_donor_of_twelve(page, address)
    dangerous, *others = numbers
    _walk_the_tray(page)
    logged, by_hand, estimated = others[:3], others[3], others[4]
    for index, number in enumerate(logged):
        _keep_a_log(page, address, number, index)
    page.goto(f"{address}/bench")
    _charge(page, by_hand, "4.20")
    _charge(page, estimated, "4.19")
    _capacity_as_shown(page, by_hand, "2310")
    _resistance_from_two_voltages(page, by_hand)
    _capacity_by_a_clock(page, estimated)
    for number in (*logged, by_hand):
        _store(page, number)
    waits_for_server(page, 0)
    _let_days_pass(engine)
    _measure_the_shelf(page, address)
    pack = _match_keep_and_pick(page, address, (*logged, by_hand))
    _plan_well(engine, pack)
    page.reload()
    expect(page.get_by_text("What it is built from was changed")).to_be_visible()
    page.get_by_role("button", name="It is built").click()
    expect(page.get_by_role("listitem").filter(has_text="Built").first).to_have_attribute("aria-current", "step")

    with unit_of_work(engine) as session:
        assert _found(session) == {number: (["swollen"] if number == dangerous else []) for number in numbers}
        volts = {number: [float(value)] for number, value in zip(others, VOLTS, strict=True)}
        for at, number in enumerate((*logged, by_hand)):
            volts[number].append(round(3.79 - at / 1000, 3))
        assert _values(session, "voltage") == volts
        logs = pytest.approx(true_discharge_mah(whole_run()), rel=0.01)
        assert _values(session, "capacity") == {
            **{number: [logs] for number in logged}, by_hand: [2310.0], estimated: [pytest.approx(3600 / 8.2 * 5)],
        }  # fmt: skip
        assert _values(session, "resistance")[by_hand] == [pytest.approx(2700 * 0.1 / 3.8)]
        assert _charges(session)[by_hand] == [4.2, 3.8]
        assert _charges(session)[estimated] == [4.19]
        cells = session.scalars(select(CellRow.number).join(PackCell, PackCell.cell_id == CellRow.id)).all()
        assert (sorted(cells), pack[0]) == (sorted((*logged, by_hand)), "P")


def _open_a_donor_of_twelve(page: Page, address: str) -> list[str]:
    page.goto(f"{address}/open")
    page.get_by_role("textbox", name="How many cells?").fill("12")
    page.get_by_label("Rated, from a data sheet").fill("2600")
    page.get_by_role("button", name="Number these 12 cells").press("Enter")
    tapes = page.get_by_role("figure", name="Tray 1").get_by_role("link")
    expect(tapes).to_have_count(12)
    return tapes.all_inner_texts()


def _walk_the_tray(page: Page) -> None:
    """The first is swollen; the others are typed one after the other, whatever the server says meanwhile."""
    page.get_by_role("link", name="Look at: 12").click()
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    for key in ("s", "Enter", "Enter"):
        page.keyboard.press(key)
    page.get_by_role("button", name="It lies in the fire-safe box").click()
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    for value in VOLTS:
        page.keyboard.type(value, delay=KEY_MS)
        page.keyboard.press("Enter", delay=KEY_MS)
    expect(page.get_by_text("Every cell of this tray was looked at and measured.")).to_be_visible()


def _keep_a_log(page: Page, address: str, number: str, index: int) -> None:
    page.goto(f"{address}/logs")
    log = csv_of(whole_run()[index:]).encode()
    page.get_by_label("Choose a file").set_input_files(
        FilePayload(name=f"slot {index}.csv", mimeType="text/csv", buffer=log)
    )
    page.get_by_label("Keep it for cell").fill(number)
    page.keyboard.press("Enter")
    expect(page.get_by_text(f"Kept for cell {number}.")).to_be_visible()


def _open(page: Page, number: str) -> None:
    expect(page.get_by_label("Cell number")).to_be_focused()
    page.keyboard.type(number, delay=KEY_MS)
    page.keyboard.press("Enter")


def _charge(page: Page, number: str, end_v: str) -> None:
    _open(page, number)
    expect(page.get_by_label("Charged; ended at")).to_be_focused()
    page.keyboard.type(end_v, delay=KEY_MS)
    page.keyboard.press("Enter")


def _choose(page: Page, number: str, mode: str) -> None:
    _open(page, number)
    expect(page.get_by_role("radio", name="Look", exact=True)).to_be_visible()
    page.get_by_role("radio", name=mode, exact=True).click()


def _capacity_as_shown(page: Page, number: str, capacity: str) -> None:
    _choose(page, number, "Capacity")
    page.get_by_role("textbox", name="Capacity").fill(capacity)
    page.keyboard.press("Enter")


def _resistance_from_two_voltages(page: Page, number: str) -> None:
    _choose(page, number, "Resistance")
    page.get_by_role("radio", name="Work it out").click()
    page.get_by_label("At rest").fill("3,900")
    page.get_by_label("With the resistor on").fill("3,800")
    page.get_by_role("textbox", name="Resistor", exact=True).fill("2,7")
    page.get_by_role("radiogroup", name="Is a charger still connected?").get_by_text("No").click()
    page.get_by_role("button", name="Keep it").click()


def _capacity_by_a_clock(page: Page, number: str) -> None:
    _choose(page, number, "Capacity")
    page.get_by_role("radio", name="Work it out").click()
    page.get_by_role("button", name=re.compile("With")).first.click()
    page.get_by_role("option", name="Resistor and a clock").click()
    page.get_by_label("Mean voltage under load").fill("3,6")
    page.get_by_role("textbox", name="Resistor, leads included").fill("8,2")
    page.get_by_label("How long it ran").fill("300")
    for asked in page.get_by_role("radiogroup").filter(has=page.get_by_text("Yes", exact=True)).all():
        asked.get_by_text("Yes", exact=True).click()
    page.get_by_role("button", name="Keep it").click()


def _store(page: Page, number: str) -> None:
    """To storage, and onto the shelf."""
    _charge(page, number, "3.80")
    _open(page, number)
    page.get_by_role("button", name=re.compile(f"{number} lies in")).click()


def _let_days_pass(engine: Engine) -> None:
    """Everything so far was two days ago."""
    with engine.begin() as connection:
        connection.execute(text("ALTER TABLE entry DISABLE TRIGGER append_only"))
        connection.execute(text("UPDATE donor SET opened_at = opened_at - interval '2 days'"))
        connection.execute(text("UPDATE entry SET at = at - interval '2 days'"))
        connection.execute(text("ALTER TABLE entry ENABLE TRIGGER append_only"))


def _measure_the_shelf(page: Page, address: str) -> None:
    page.goto(f"{address}/places")
    page.get_by_role("link", name="Shelf box 1").click()
    page.get_by_role("link", name="Measure all voltages again").click()
    expect(page.get_by_label("Resting voltage")).to_be_focused()
    for at in range(4):
        page.keyboard.type(f"{3.79 - at / 1000:.3f}", delay=KEY_MS)
        page.keyboard.press("Enter", delay=KEY_MS)
    expect(page.get_by_text("That was the last one.")).to_be_visible()
    waits_for_server(page, 0)


def _match_keep_and_pick(page: Page, address: str, cells: tuple[str, ...]) -> str:
    page.goto(f"{address}/match")
    page.get_by_role("button", name="Match 2S2P").click()
    page.get_by_label("What is it for?").fill("gate counter")
    page.get_by_role("button", name="Keep it").click()
    page.get_by_role("link", name="Pick the cells").click()
    pack = page.url.split("/packs/")[1].split("/")[0]
    expect(page.get_by_label("Scan or type the number")).to_be_focused()
    for number in cells:
        page.keyboard.type(f"C{number}", delay=KEY_MS)
        page.keyboard.press("Enter", delay=KEY_MS)
    expect(page.get_by_text("All 4 cells are here.")).to_be_visible()
    waits_for_server(page, 0)
    page.get_by_role("link", name="Go on with the pack").click()
    return pack


def _plan_well(engine: Engine, pack: str) -> None:
    """Somebody else says meanwhile what it is built from."""
    with unit_of_work(engine) as session:
        them = session.scalars(select(Person).where(Person.name == "Coordinator")).one()
        version = packs.get_pack(session, pack).version
        packs.set_parts(
            session, Actor(them.id, them.name, "coordinator"), pack, well_planned(2), version, datetime.now(UTC)
        )


def _found(session: Session) -> dict[str, list[str]]:
    query = select(CellRow.number, InspectionEntry.findings).join(
        InspectionEntry, InspectionEntry.cell_id == CellRow.id
    )
    return {number: list(findings) for number, findings in session.execute(query)}


def _values(session: Session, quantity: str) -> dict[str, list[float]]:
    query = select(CellRow.number, ReadingEntry.value).join(ReadingEntry, ReadingEntry.cell_id == CellRow.id)
    stored: dict[str, list[float]] = {}
    for number, value in session.execute(query.where(ReadingEntry.quantity == quantity).order_by(ReadingEntry.id)):
        stored.setdefault(number, []).append(value)
    return stored


def _charges(session: Session) -> dict[str, list[float]]:
    query = select(CellRow.number, StepEntry.details).join(StepEntry, StepEntry.cell_id == CellRow.id)
    stored: dict[str, list[float]] = {}
    for number, details in session.execute(query.where(StepEntry.step == "charge").order_by(StepEntry.id)):
        stored.setdefault(number, []).append(details["end_v"])
    return stored
