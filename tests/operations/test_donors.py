"""Donors: what is turned away, what they tell, their parts and photos, and a pack that is still joined."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from sqlalchemy.orm import Session

from tests.support.benchwork import at, capacity, numbers_of, open_donor, voltage
from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotAllowedError,
)
from zembric.core.identify.donor_kinds import NOT_FOR_THIS_TABLE
from zembric.models import Donor
from zembric.operations import donors
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.bench.benchside import at_the_bench, tray_pass
from zembric.operations.cells import photos
from zembric.operations.cells.in_place import charge_current_of
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.known import catalogue
from zembric.wording import say

MODEL = {
    "name": "NW 29", "size_code": "18650", "family": "layered-oxide", "full_v": None, "rated_capacity_mah": 2900,
    "cut_off_v": 2.5, "most_charge_ma": 1000, "most_discharge_ma": 5800, "source": "sample sheet", "sheet_date": None,
}  # fmt: skip


@pytest.mark.parametrize("kind", NOT_FOR_THIS_TABLE)
def test_what_is_not_for_this_table_is_turned_away_with_where_to_go(
    session: Session, volunteer: Actor, kind: str
) -> None:
    with pytest.raises(DangerError) as refused:
        open_donor(session, volunteer, kind=kind)
    assert say(NOT_FOR_THIS_TABLE[kind].instead) in str(refused.value)


def test_a_model_brings_its_sheet_and_caps_the_charge(session: Session, volunteer: Actor, coordinator: Actor) -> None:
    model = catalogue.add_row(session, coordinator, "models", MODEL, at())
    cell = open_donor(
        session, volunteer, size_code=None, family=None, rated_capacity_mah=None, model_id=model.id
    ).cells[0]
    assert (cell.size_code, cell.family, cell.rated_capacity_mah) == ("18650", "layered-oxide", 2900)
    assert at_the_bench(session, cell.number, at()).charge.current_ma == 1000


def test_a_new_tray_of_the_wanted_size_is_taken_and_what_fits_nowhere_is_refused(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    size = catalogue.add_row(session, coordinator, "tray-sizes", {"name": "Tin", "rows": 1, "columns": 3}, at())
    donor = open_donor(session, volunteer, 3, tray_size_id=size.id)
    place = donor.cells[0].place
    assert place
    assert (place.rows, place.columns, [cell.slot for cell in donor.cells]) == (1, 3, [1, 2, 3])
    with pytest.raises(BadInputError, match="No tray here has 4 places") as refused:
        open_donor(session, volunteer, 4, tray_size_id=size.id)
    assert refused.value.field == "cells"


def test_clues_are_kept_field_by_field_and_the_second_of_two_is_told(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 4)
    seen = donor.version
    donors.set_clues(session, volunteer, donor.number, seen, {"symptom": "dead", "claimed_v": 14.4}, at(1))
    donors.set_clues(session, volunteer, donor.number, donor.version, {"converter": "step-up"}, at(1))
    assert (donor.symptom, donor.claimed_v, donor.converter) == ("dead", 14.4, "step-up")
    with pytest.raises(ChangedMeanwhileError):
        donors.set_clues(session, volunteer, donor.number, seen, {"symptom": "unused"}, at(2))


@pytest.mark.parametrize(
    ("clues", "field"),
    [
        ({"symptom": "haunted"}, "symptom"),
        ({"claimed_v": 0}, "claimed_v"),
        ({"claimed_wh": 1e9}, "claimed_wh"),
        ({"ran_min": 10, "runs_now_min": 20}, "ran_min"),
        ({"protection_cut_off_v": 3, "protection_release_v": 2.9}, "protection_release_v"),
        ({"charger_r1_ohm": -1}, "charger_r1_ohm"),
    ],
)
def test_a_clue_that_cannot_be_is_refused_at_its_field(
    session: Session, volunteer: Actor, clues: dict[str, Any], field: str
) -> None:
    donor = open_donor(session, volunteer)
    with pytest.raises(BadInputError) as refused:
        donors.set_clues(session, volunteer, donor.number, donor.version, clues, at(1))
    assert refused.value.field == field


def test_a_refused_figure_is_told_with_its_unit_and_what_could_be(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer)
    for clues, says in (
        ({"claimed_v": 120}, "120 V cannot be: .* 100 V at most"),
        ({"charger_r1_ohm": -1}, "-1 Ω cannot"),
    ):
        with pytest.raises(BadInputError, match=says):
            donors.set_clues(session, volunteer, donor.number, donor.version, clues, at(1))


def test_a_cell_that_is_charged_in_place_is_held_against_its_own_board(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, kind="light", rated_capacity_mah=600)
    board = {"charged_in": "holder", "charger_kind": "linear", "charger_k_v": 1000, "charger_r1_ohm": 2000}
    donors.set_clues(session, volunteer, donor.number, donor.version, board, at(1))
    assert charge_current_of(donor) == 500
    number = numbers_of(donor)[0]
    entries.inspect(session, volunteer, number, [], at(2))
    capacity(session, volunteer, number, "400", at(3), started_full=True, current_ma="100")
    advice = at_the_bench(session, number, at(4)).in_place
    assert advice
    assert advice.is_refused
    assert "do not charge it in place" in say(advice.said)


def test_a_board_that_is_stronger_than_any_cell_of_the_size_is_refused_before_anything_is_measured(
    session: Session, volunteer: Actor
) -> None:
    donor = open_donor(session, volunteer, kind="light", size_code="13350", rated_capacity_mah=None)
    board = {"charged_in": "device", "charger_kind": "linear", "charger_k_v": 1200, "charger_r1_ohm": 900}
    with pytest.raises(DangerError, match="the largest cell of this size takes") as refused:
        donors.set_clues(session, volunteer, donor.number, donor.version, board, at(1))
    assert (refused.value.code, refused.value.field) == ("board-too-strong", "charged_in")


def test_open_ends_stand_on_the_tray_until_somebody_says_taped_and_the_first_to_say_so_stands(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    donor = open_donor(session, volunteer, 2)
    tray = donor.cells[0].place
    assert tray
    assert [each.number for each in tray_pass(session, tray, at()).untaped] == [donor.number]
    donors.say_taped(session, volunteer, donor.number, at(1))
    donors.say_taped(session, coordinator, donor.number, at(2))
    assert (donor.taped_at, donor.taped_by_id) == (at(1), volunteer.person_id)
    assert tray_pass(session, tray, at(1)).untaped == ()


def test_the_groups_of_a_joined_pack_are_kept_and_known_at_each_cell(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 6)
    with pytest.raises(BadInputError, match="2 groups of 2 are 4 cells; this donor has 6"):
        donors.log_groups(session, volunteer, donor.number, 2, ["3.7", "3.7"], at(1))
    with pytest.raises(BadInputError, match="Group 2:") as refused:
        donors.log_groups(session, volunteer, donor.number, 2, ["3.7", "37", "3.7"], at(1))
    assert (refused.value.field, refused.value.suggestion) == ("voltages.1", "3.70")
    donors.log_groups(session, volunteer, donor.number, 2, ["3,71", "3.20", "3.70"], at(1))
    assert [cell.group_number for cell in donor.cells] == [1, 1, 2, 2, 3, 3]
    assert at_the_bench(session, numbers_of(donor)[2], at(1)).group_v == 3.2


def test_a_part_is_kept_and_taken_once(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer)
    part = donors.keep_part(session, volunteer, donor.number, "charger-board", "5 V, 1 A", at(1))
    assert [kept.id for kept, _ in donors.parts_of(session)] == [part.id]
    with pytest.raises(BadInputError):
        donors.take_part(session, volunteer, part.id, "", at(2))
    donors.take_part(session, volunteer, part.id, "into the reading lamp", at(2))
    with pytest.raises(ConflictError):
        donors.take_part(session, volunteer, part.id, "into another one", at(3))
    assert donors.parts_of(session) == []


def test_a_hazard_flags_its_siblings_for_a_second_look_and_a_look_settles_it(
    session: Session, volunteer: Actor
) -> None:
    one, sibling, out = numbers_of(open_donor(session, volunteer, 3))
    for number in (sibling, out):
        entries.inspect(session, volunteer, number, [], at(minutes=1))
    voltage(session, volunteer, out, "1.2", at(minutes=2))
    entries.inspect(session, volunteer, one, ["leaking"], at(minutes=5))
    side = at_the_bench(session, sibling, at(minutes=6))
    assert (side.listed.step, say(side.prompts[0].said)) == (
        "inspect",
        f"Its sibling {one} was found leaking. Is this one?",
    )
    assert at_the_bench(session, out, at(minutes=6)).listed.step == "out-box"
    entries.inspect(session, volunteer, sibling, [], at(minutes=7))
    assert at_the_bench(session, sibling, at(minutes=8)).listed.step == "measure-voltage"


@pytest.mark.parametrize(("who", "step"), [("volunteer", "measure-voltage"), ("coordinator", "inspect")])
def test_a_look_that_overtook_the_hazard_counts_for_whoever_found_it_alone(
    session: Session, volunteer: Actor, request: pytest.FixtureRequest, who: str, step: str
) -> None:
    one, sibling = numbers_of(open_donor(session, volunteer, 2))
    entries.inspect(session, request.getfixturevalue(who), sibling, [], at(minutes=2))
    entries.inspect(session, volunteer, one, ["leaking"], at(minutes=3), typed_at=at(minutes=1))
    assert at_the_bench(session, sibling, at(minutes=4)).listed.step == step


def _picture(size: tuple[int, int] = (2400, 1200), fmt: str = "JPEG", **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, "#204060").save(out, fmt, **more)
    return out.getvalue()


def test_a_photo_is_made_small_upright_and_stripped_of_place_and_device(
    session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "a phone"  # lies on its side; made by
    exif.get_ifd(0x8825)[1] = "N"  # a place on earth
    store = PhotoStore(tmp_path)
    donor = open_donor(session, volunteer)
    photo = photos.add_photo(session, store, volunteer, _picture(exif=exif), at(1), donor)
    kept = store.read(photo.sha256)
    with Image.open(io.BytesIO(kept)) as picture:
        assert (picture.size, dict(picture.getexif())) == ((800, 1600), {})
    assert b"a phone" not in kept
    again = photos.add_photo(session, store, volunteer, _picture(exif=exif), at(2), donor)
    assert again.sha256 == photo.sha256
    assert len(list(tmp_path.rglob("*.jpg"))) == 1


@pytest.mark.parametrize(
    "upload", [b"", b"not a picture", _picture()[:400], _picture((50, 50), "GIF"), b"<svg xmlns='http://www.w3.org/2000/svg'/>"]
)  # fmt: skip
def test_what_is_no_picture_is_refused_and_nothing_is_left(
    session: Session, volunteer: Actor, tmp_path: Path, upload: bytes
) -> None:
    donor: Donor = open_donor(session, volunteer)
    with pytest.raises(BadInputError):
        photos.add_photo(session, PhotoStore(tmp_path), volunteer, upload, at(1), donor)
    assert list(tmp_path.iterdir()) == []


def test_the_catalogue_is_extended_by_coordinators_only_and_never_silently_overwritten(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    with pytest.raises(NotAllowedError):
        catalogue.add_row(session, volunteer, "models", MODEL, at())
    model = catalogue.add_row(session, coordinator, "models", MODEL, at())
    with pytest.raises(BadInputError, match="already"):
        catalogue.add_row(session, coordinator, "models", MODEL, at())
    seen = model.version
    catalogue.change_row(
        session, coordinator, "models", str(model.id), seen, MODEL | {"rated_capacity_mah": 2850}, at(1)
    )
    with pytest.raises(ChangedMeanwhileError):
        catalogue.change_row(session, coordinator, "models", str(model.id), seen, MODEL, at(2))
    for wrong, field in (
        ({"source": " "}, "source"),
        ({"size_code": "18-50"}, "size_code"),
        ({"full_v": 4.4}, "full_v"),
    ):
        with pytest.raises(BadInputError) as refused:
            catalogue.add_row(session, coordinator, "models", MODEL | {"name": "NW 30"} | wrong, at())
        assert refused.value.field == field
