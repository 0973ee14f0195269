"""The first table of the evening: a dead device becomes cells that are known for what they are."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, Response, expect
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.browser.conftest import choose_option
from tests.support.benchwork import at, numbers_of, open_donor, voltage
from zembric.demo.picture import draw_pack
from zembric.models import CellRow, Donor
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.database import unit_of_work


@pytest.fixture
def donor(session: Session, volunteer: Actor) -> Donor:
    """Four cells of a laptop pack that nobody looked at yet."""
    donor = open_donor(session, volunteer, 4)
    session.commit()
    return donor


def test_what_to_expect_and_how_to_open_it_stands_beside_the_kind_and_some_are_turned_away(
    page: Page, address: str
) -> None:
    page.goto(f"{address}/open")
    page.get_by_text("Vape, single use").click()
    about = page.get_by_role("region", name="About: Vape, single use")
    expect(about.get_by_role("heading", name="While you open it")).to_be_visible()
    expect(about).to_contain_text("1 cell")
    page.get_by_text("E-bike", exact=True).click()
    expect(page.get_by_role("heading", name="E-bike: not for this table")).to_be_visible()
    expect(page.get_by_text("a licensed workshop repairs it")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Number"))).to_be_hidden()


def test_an_ambiguous_size_is_asked_and_a_claim_is_drawn_against_what_fits(page: Page, address: str) -> None:
    page.goto(f"{address}/open")
    page.get_by_text("Toy or drone").click()
    page.get_by_label("Size", exact=True).fill("1055275")
    expect(page.get_by_text("Hold a ruler to it; likeliest:")).to_be_visible()
    page.get_by_label("Size", exact=True).fill("603048")
    choose_option(page, "Chemistry", "Layered oxide")
    page.get_by_label("Claimed on the cell").fill("3500")
    expect(page.get_by_role("figure", name="Claim of 3500 mAh: impossible")).to_be_visible()
    page.get_by_label("Claimed on the cell").fill("900")
    expect(page.get_by_role("figure", name="Claim of 900 mAh: believable")).to_be_visible()


def test_a_slip_while_opening_keeps_everything_that_was_typed(page: Page, engine: Engine, address: str) -> None:
    page.goto(f"{address}/open")
    page.get_by_label("In your words").fill("school laptop")
    page.get_by_label("Size", exact=True).fill("18-50")
    page.get_by_role("button", name=re.compile("^Number")).click()
    expect(page.get_by_text('"18-50" is not a size code')).to_be_visible()
    expect(page.get_by_label("In your words")).to_have_value("school laptop")
    with unit_of_work(engine) as session:
        assert session.scalars(select(Donor.id)).all() == []
    page.get_by_label("Size", exact=True).fill("18650")
    page.get_by_role("button", name=re.compile("^Number")).click()
    expect(page.get_by_role("heading", name="school laptop")).to_be_visible()


def test_what_a_donor_tells_is_turned_into_what_to_expect_of_its_cells(page: Page, donor: Donor, address: str) -> None:
    page.goto(f"{address}/donors/{donor.number}")
    page.get_by_text("Runs short", exact=True).click()
    page.get_by_label("Ran when it was new").fill("180")
    page.get_by_label("Runs now").fill("20")
    page.get_by_label("Voltage", exact=True).fill("14,4")
    page.get_by_label("Energy").fill("37.4")
    choose_option(page, "Charger", "Linear, with a resistor")
    page.get_by_label("Its constant K").fill("1000")
    page.get_by_label("Programming resistor").fill("2000")
    page.get_by_role("button", name="Keep what it tells").click()
    expect(page.get_by_text("20 min of 3.0 h are 11 %")).to_be_visible()
    expect(page.get_by_text("4S1P")).to_be_visible()
    expect(page.get_by_text("2597 mAh")).to_be_visible()
    expect(page.get_by_text("500 mA", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_label("Ran when it was new")).to_have_value("180")


def test_the_weak_group_of_a_joined_pack_stands_out_before_anything_is_cut(
    page: Page, donor: Donor, address: str
) -> None:
    page.goto(f"{address}/donors/{donor.number}")
    groups = page.get_by_role("region", name="Groups of the joined pack")
    groups.get_by_role("radio", name="2").click()
    numbers = numbers_of(donor)
    for pair in (numbers[:2], numbers[2:]):
        expect(groups.get_by_text(", ".join(pair))).to_be_visible()
    groups.get_by_label("Group 1").fill("3,71")
    groups.get_by_label("Group 2").fill("37")
    groups.get_by_role("button", name="Keep these 2 voltages").click()
    expect(groups.get_by_text("Group 2: 37 V cannot be")).to_be_visible()
    groups.get_by_label("Group 2").fill("2.90")
    groups.get_by_role("button", name="Keep these 2 voltages").click()
    expect(groups.get_by_text("Group 2 stands below the others")).to_be_visible()


def test_cells_out_of_many_devices_are_shown_beside_one_another_and_none_is_blamed(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 3, kind="vape-single-use"))
    for number, volts in zip(numbers, ("3.90", "3.85", "3.20"), strict=True):
        entries.inspect(session, volunteer, number, [], at(1))
        voltage(session, volunteer, number, volts, at(2))
    session.commit()
    page.goto(f"{address}/cells/{numbers[2]}")
    expect(page.get_by_text("What they read says nothing about this one")).to_be_visible()
    expect(page.get_by_text("below its siblings")).to_have_count(0)


def test_taped_parts_and_a_photo(page: Page, donor: Donor, address: str, tmp_path: Path) -> None:
    photo = tmp_path / "pack.png"
    photo.write_bytes(draw_pack(4))
    page.goto(f"{address}/donors/{donor.number}")
    page.get_by_role("button", name="All taped").click()
    expect(page.get_by_text("Open ends taped, said Volunteer")).to_be_visible()
    page.get_by_label("Which one").fill("5 V, 1 A")
    page.get_by_role("button", name="Keep this part").click()
    expect(page.get_by_text("Charger board, 5 V, 1 A")).to_be_visible()
    page.get_by_label("Add a photo").set_input_files(photo)
    taken = page.get_by_role("img", name=re.compile("^Taken"))
    expect(taken).to_be_visible()
    assert taken.evaluate("async image => { await image.decode(); return image.naturalWidth }") == 1200
    page.get_by_label("Add a photo").set_input_files(
        {"name": "letter.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    )
    expect(page.get_by_text("This is no picture that can be read")).to_be_visible()


def test_what_a_cell_is_is_set_for_it_and_its_siblings_with_a_picture_of_its_plus_end(
    page: Page, donor: Donor, engine: Engine, address: str
) -> None:
    page.goto(f"{address}/cells/{numbers_of(donor)[0]}")
    page.get_by_text("Flat metal can").click()
    expect(page.get_by_role("img", name="Plus: can")).to_be_visible()
    choose_option(page, "Protected", "Only by the donor's board")
    page.get_by_text("Stub of a strip").click()
    page.get_by_label("Mass").fill("45,5")
    page.get_by_text("The same for its siblings").click()
    page.get_by_role("button", name="Keep what it is").click()
    expect(page.get_by_text("Kept, and judged anew.")).to_be_visible()
    expect(page.get_by_text("Take the stub off flush")).to_be_visible()
    with unit_of_work(engine) as session:
        known = session.execute(
            select(CellRow.build, CellRow.protection, CellRow.terminals, CellRow.mass_g).order_by(CellRow.id)
        )
        assert [tuple(row) for row in known] == [
            ("flat-can", "donor-board", "stub", 45.5), *[("flat-can", "donor-board", None, None)] * 3,
        ]  # fmt: skip


def _is_entry(response: Response) -> bool:
    return response.request.method == "POST" and "/api/cells/" in response.url


def test_a_cell_that_reads_nothing_is_led_to_its_voltage_before_it_is_out(
    page: Page, donor: Donor, address: str
) -> None:
    number = numbers_of(donor)[0]
    page.goto(f"{address}/bench/{number}")
    with page.expect_response(_is_entry):  # going on before the answer would break it off
        page.get_by_role("button", name="Nothing found").click()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Resting voltage").fill("0")
    with page.expect_response(_is_entry):  # going on before the answer would break it off
        page.get_by_role("button", name="Keep it").click()
    page.goto(f"{address}/bench/{number}")
    expect(page.get_by_text("Is a protection board asleep?")).to_be_visible()
    page.get_by_label("Resting voltage").fill("0.01")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Tape both ends and put it into the out-box.")).to_be_visible()


def test_right_after_a_charge_the_state_of_a_voltage_is_asked_and_only_then(
    page: Page, donor: Donor, address: str
) -> None:
    number = numbers_of(donor)[0]
    page.goto(f"{address}/trays/{_tray(donor)}")
    page.get_by_label("Resting voltage").fill("3.70")
    page.keyboard.press("Enter")
    expect(page.get_by_text("3.70 V, kept")).to_be_visible()
    page.goto(f"{address}/bench/{number}")
    page.get_by_label("Charged; ended at").fill("4.20")
    with page.expect_response(_is_entry):  # going on before the answer would break it off
        page.get_by_role("button", name="Keep the charge").click()
    page.goto(f"{address}/bench/{number}")
    page.get_by_role("radio", name="Voltage").click()
    expect(page.get_by_text("In which state is this voltage?")).to_be_visible()
    page.get_by_label("Voltage", exact=True).fill("4.18")
    with page.expect_response(_is_entry):  # going on before the answer would break it off
        page.get_by_role("button", name="Keep it").click()
    page.goto(f"{address}/cells/{number}")
    expect(page.get_by_text("Voltage, just off the charger, 4.18 V")).to_be_visible()


def _tray(donor: Donor) -> str:
    place = donor.cells[0].place
    assert place
    return place.number


def test_calipers_are_enough_for_a_size_and_the_nearest_usual_one_is_offered(
    page: Page, session: Session, volunteer: Actor, address: str
) -> None:
    first, sibling = open_donor(session, volunteer, 2, size_code=None, rated_capacity_mah=None).cells
    session.commit()
    page.goto(f"{address}/cells/{first.number}")
    page.get_by_label("Width, or across").fill("13,2")
    page.get_by_label("Length").fill("35.1")
    expect(page.get_by_role("button", name="Call it 13350, the nearest usual size")).to_be_visible()
    page.get_by_text("The same for its siblings").click()
    page.get_by_role("button", name="Keep what it is").click()
    expect(page.get_by_text("Kept, and judged anew.")).to_be_visible()
    for cell in (first, sibling):
        session.refresh(cell)
    assert {first.size_code, sibling.size_code} == {"13.2 x 35.1"}
