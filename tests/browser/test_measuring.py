"""Measuring by hand and by log, as a volunteer does it."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import BrowserContext, FilePayload, Page, expect
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option, signed_in
from tests.support.benchwork import charge, numbers_of, open_donor
from tests.support.logs import csv_of, one_discharge, whole_run
from zembric.models import ReadingEntry
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells.stories import get_cell
from zembric.operations.database import unit_of_work
from zembric.operations.known import instruments
from zembric.operations.known.instruments import TypedInstrument
from zembric.operations.measuring import methods
from zembric.operations.measuring.methods import TypedMeasurement


def looked_at(session: Session, who: Actor, count: int = 1, days_ago: float = 2) -> list[str]:
    """Cells that were inspected and measured some time ago."""
    now = datetime.now(UTC)
    numbers = numbers_of(open_donor(session, who, count))
    for number in numbers:
        entries.inspect(session, who, number, [], now - timedelta(days=days_ago))
        entries.measure(session, who, number, TypedReading("voltage", "3.70", "meter"), now - timedelta(days=days_ago))
    session.commit()
    return numbers


def log_file(text: str, name: str = "slot 1.csv") -> FilePayload:
    return {"name": name, "mimeType": "text/csv", "buffer": text.encode()}


def readings(engine: Engine) -> dict[str, float]:
    with unit_of_work(engine) as session:
        return {row.method: row.value for row in session.scalars(select(ReadingEntry)) if row.method != "meter"}


def test_a_log_is_dropped_and_its_cell_graded_from_it(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    """The curve gives capacity and resistance; kept for the cell they make its grade."""
    (number,) = looked_at(session, volunteer)
    page.goto(f"{address}/logs")
    page.get_by_label("Choose a file").set_input_files(log_file(csv_of(whole_run())))
    expect(page.get_by_text(re.compile(r"^23\d\d mAh$"))).to_be_visible()
    expect(page.get_by_text("down to 3.00 V at 1000 mA, complete")).to_be_visible()
    curve = page.get_by_role("slider", name="Voltage over time")
    curve.press("Home")
    curve.press("ArrowRight")
    expect(curve).to_have_attribute("aria-valuetext", re.compile(r"minutes 0\.1: .*3\.600 V"))
    curve.press("+")
    expect(page.get_by_role("button", name="The whole again")).to_be_visible()
    curve.press("End")
    expect(curve).not_to_have_attribute("aria-valuetext", re.compile(r"3\.0\d\d V"))
    curve.press("0")
    expect(page.get_by_role("button", name="The whole again")).to_have_count(0)
    page.get_by_label("Keep it for cell").fill(number)
    page.keyboard.press("Enter")
    expect(page.get_by_text(f"Kept for cell {number}.")).to_be_visible()
    expect(page.get_by_text("Strong", exact=True)).to_be_visible()
    assert set(readings(engine)) == {"trace", "dc-10s"}
    page.get_by_role("link", name=number).click()
    page.get_by_role("link", name="slot 1.csv").click()
    expect(page.get_by_text("This is kept for cell")).to_be_visible()


def test_a_pasted_log_without_names_asks_once_and_the_next_one_does_not(page: Page, address: str) -> None:
    page.goto(f"{address}/logs")
    # As much as a person would paste; the last row stands at the cut-off.
    rows = one_discharge()[::-8][::-1]
    page.get_by_label("Or paste lines").fill(csv_of(rows, "{t:.0f}\t{vm:.0f}\t{im:.0f}", None))
    page.get_by_role("button", name="Read what was pasted").click()
    expect(page.get_by_text("its columns are 1: time, 2: voltage and 3: current")).to_be_visible()
    page.get_by_text("Read the next file of this kind the same way").click()
    page.get_by_role("button", name="Yes, read it so").click()
    expect(page.get_by_text("complete")).to_be_visible()
    page.goto(f"{address}/logs")
    page.get_by_label("Or paste lines").fill(csv_of(rows[3:], "{t:.0f}\t{vm:.0f}\t{im:.0f}", None))
    page.get_by_role("button", name="Read what was pasted").click()
    expect(page.get_by_role("slider", name="Voltage over time")).to_be_visible()
    expect(page.get_by_role("button", name="Forget what is remembered for logs like this")).to_be_visible()


def test_a_refused_log_says_why_and_is_read_once_the_resistor_is_said(page: Page, address: str) -> None:
    page.goto(f"{address}/logs")
    page.get_by_label("Choose a file").set_input_files(log_file("The cell was fine.\n", "notes.txt"))
    expect(page.get_by_role("alert")).to_contain_text("No rows of numbers were found")
    page.goto(f"{address}/logs")
    only_volts = csv_of(one_discharge(), "{t:.1f},{v:.4f}", "time (s),voltage (V)")
    page.get_by_label("Choose a file").set_input_files(log_file(only_volts))
    expect(page.get_by_role("alert")).to_contain_text("There is no column of currents")
    page.get_by_label("It was emptied through").fill("4,0")
    page.get_by_role("button", name="Read it so").click()
    expect(page.get_by_text("complete")).to_be_visible()


def test_a_resistance_from_two_voltages_asks_for_the_charger_and_shows_its_doubt(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    (number,) = looked_at(session, volunteer)
    page.goto(f"{address}/bench/{number}")
    page.get_by_role("radio", name="Resistance").click()
    page.get_by_role("radio", name="Work it out").click()
    page.get_by_label("At rest").fill("3,920")
    page.get_by_label("With the resistor on").fill("3,800")
    asked = page.get_by_role("radiogroup", name="Is a charger still connected?")
    asked.get_by_text("Yes").click()
    expect(page.get_by_text("With a charger connected this measures the charger.")).to_be_visible()
    expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
    asked.get_by_text("No").click()
    expect(page.get_by_text("2.7 Ω × (3.92 - 3.8) V / 3.8 V = 85.3 mΩ")).to_be_visible()
    expect(page.get_by_text("Limited by the meter's last digit (10 mV).")).to_be_visible()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("A figure worked out, kept")).to_be_visible()
    assert readings(engine) == {"dc-10s": pytest.approx(2700 * 0.12 / 3.8)}


def test_a_rest_over_three_weeks_is_drawn_with_what_counts(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    """The reading within a day of the charge is left out; the last one is typed today at the bench."""
    now = datetime.now(UTC)
    (number,) = looked_at(session, volunteer, days_ago=23)
    fine = instruments.add_instrument(
        session, volunteer, TypedInstrument("Fine meter", "voltmeter", "0.001"), now
    ).number
    charge(session, volunteer, number, "4.20", now - timedelta(days=22))
    for days, value in ((21.8, "4.190"), (20, "4.180"), (13, "4.159"), (6, "4.138")):
        typed = TypedReading("voltage", value, "meter", confirmed=True, instrument=fine)
        entries.measure(session, volunteer, number, typed, now - timedelta(days=days))
    session.commit()
    page.goto(f"{address}/bench/{number}")
    page.get_by_role("radio", name="Voltage").click()
    choose_option(page, "Instrument", "Fine meter")
    page.get_by_label("Resting voltage").fill("4.120")
    page.keyboard.press("Enter")
    expect(page.get_by_text("4.120 V, kept")).to_be_visible()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("It loses some: watch it")).to_be_visible()
    expect(page.get_by_text(re.compile(r"^3\.0\d ± 0\.0\d\smV a day over 4 readings"))).to_be_visible()
    expect(page.get_by_text("1 of 5 left out")).to_be_visible()


def test_two_testers_are_compared_and_one_is_corrected_and_let_go_again(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    now = datetime.now(UTC)
    numbers = looked_at(session, volunteer, 5)
    left, right = (
        instruments.add_instrument(session, volunteer, TypedInstrument(name, "tester"), now).number for name in ("Left tester", "Right tester")
    )  # fmt: skip
    for place, number in enumerate(numbers):
        for tester, mah in ((left, 1800 + 100 * place), (right, (1800 + 100 * place) * (1.04 + 0.001 * place))):
            typed = TypedMeasurement(
                "tester", {"value_mah": f"{mah:.0f}", "current_ma": "1000"}, {"started_full": "yes", "ran_out": "yes"}, tester, confirmed=True
            )  # fmt: skip
            methods.keep_measurement(session, volunteer, number, typed, now - timedelta(hours=1))
    session.commit()
    page = signed_in(new_context().new_page(), address, "Coordinator")
    page.goto(f"{address}/instruments")
    expect(page.get_by_text("Right tester reads more than Left tester; that is more than chance.")).to_be_visible()
    page.get_by_role("button", name="Correct Right tester").click()
    expect(page.get_by_text(re.compile(r"Its readings are multiplied by 0\.9\d+"))).to_be_visible()
    page.get_by_role("button", name="And what it measured before?").click()
    expect(page.get_by_text("5 earlier readings of 5 cells")).to_be_visible()
    page.get_by_role("button", name="Correct these too").click()
    expect(page.get_by_text("5 earlier readings were corrected afterwards")).to_be_visible()
    page.get_by_role("button", name="As they were shown again").click()
    expect(page.get_by_text("5 earlier readings of 5 cells")).to_be_visible()
    page.get_by_role("button", name="End it").click()
    expect(page.get_by_text("Was corrected:")).to_be_visible()


def test_a_box_is_measured_again_cell_by_cell(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    numbers = looked_at(session, volunteer, 3)
    page.goto(f"{address}/bench?place={_place_of(engine, numbers[0])}")
    for place, number in enumerate(numbers):
        expect(page.get_by_text(number, exact=True).first).to_be_visible()
        expect(page.get_by_label("Resting voltage")).to_be_focused()
        page.keyboard.type(f"3.7{place}")
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"3.7{place} V, kept")).to_be_visible()
    expect(page.get_by_text("That was the last one.")).to_be_visible()


def _place_of(engine: Engine, number: str) -> int:
    with unit_of_work(engine) as session:
        place_id = get_cell(session, number).place_id
        assert place_id is not None
        return place_id


def test_a_sum_answers_as_it_is_typed_and_its_address_carries_it(page: Page, address: str) -> None:
    page.goto(f"{address}/more")
    page.get_by_role("link", name="Bench sums").click()
    page.get_by_role("link", name="Load resistor").click()
    expect(page.get_by_text("0.538 A", exact=True)).to_be_visible()
    page.get_by_role("textbox", name="Load resistor").fill("3,9")
    expect(page.get_by_text("0.857 A", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_text("0.857 A", exact=True)).to_be_visible()
    page.get_by_role("textbox", name="Load resistor").fill("0")
    expect(page.get_by_text("it must be above zero")).to_be_visible()


def test_a_sum_is_found_from_the_thing_that_lies_on_the_bench(page: Page, address: str) -> None:
    page.goto(f"{address}/sums")
    page.get_by_role("listitem").filter(has_text="A charging module").get_by_role(
        "link", name="suit a small cell"
    ).click()
    expect(page.get_by_text("1000 mA / 550 mAh = 1.82 C")).to_be_visible()
    expect(page.get_by_text("more than any such cell takes")).to_be_visible()
    page.get_by_label("What the cell holds").fill("-5")
    expect(page.get_by_text("-5 for what the cell holds [mAh]: it must be above zero.")).to_be_visible()
    page.get_by_role("link", name="A cell that rests").click()
    expect(page.get_by_text("Holds its charge")).to_be_visible()


def test_any_run_is_found_and_laid_over_another_and_asked_whether_it_was_full(
    page: Page, session: Session, volunteer: Actor, engine: Engine, address: str
) -> None:
    (number,) = looked_at(session, volunteer)
    for name, rows in (("slot 1.csv", one_discharge()), ("slot 2.csv", one_discharge()[2:])):
        page.goto(f"{address}/logs")
        page.get_by_label("Choose a file").set_input_files(log_file(csv_of(rows), name))
        expect(page.get_by_role("heading", name=name)).to_be_visible()
    page.get_by_text("Lay another run over it").click()
    page.get_by_label("Of which cell or file?").fill("slot 1")
    page.get_by_role("checkbox", name="slot 1.csv").check(force=True)
    expect(page.get_by_role("listitem").filter(has_text="slot 1.csv")).to_be_visible()
    page.get_by_label("Keep it for cell").fill(number)
    expect(page.get_by_text("First say whether it was full.")).to_be_visible()
    page.get_by_text("Nobody knows").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text(f"Kept for cell {number}.")).to_be_visible()
    with unit_of_work(engine) as later:
        kept = later.scalars(select(ReadingEntry).where(ReadingEntry.method == "trace")).one()
        assert "started_full" not in kept.conditions
    page.goto(f"{address}/logs")
    page.get_by_label("Find by file or cell").fill(number)
    expect(page.get_by_text("1 log, the newest first.")).to_be_visible()
