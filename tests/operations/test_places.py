"""Places: moving by scanning, what may lie where, counting, and labels on record."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, keep, numbers_of, open_donor, shelf_of, voltage
from zembric.core.errors import BadInputError, ConflictError, DangerError, NotFoundError
from zembric.core.identify.numbering import make_number
from zembric.models import Place
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, whereabouts
from zembric.operations.cells.lookup import find
from zembric.operations.cells.stories import cell_story
from zembric.operations.papers import labels
from zembric.operations.places import (
    PlaceToMake,
    count_stock,
    last_stock_take,
    make_place,
    place_by_number,
    place_of_kind,
    take_stock,
)
from zembric.wording import say


def _box(session: Session, who: Actor, kind: str = "holding-box", capacity: int | None = None) -> Place:
    return make_place(session, who, PlaceToMake(f"A {kind} of {capacity}", kind, capacity=capacity), at())


def test_a_cell_is_laid_where_its_label_and_the_places_were_scanned(session: Session, volunteer: Actor) -> None:
    one, other = numbers_of(open_donor(session, volunteer, 2))
    box = _box(session, volunteer)
    whereabouts.lay_into(session, volunteer, f"C{one}", place_by_number(session, box.number.lower()), None, at(1))
    assert say(find(session, one).where) == box.name
    tray = make_place(session, volunteer, PlaceToMake("Cigar box", "tray", 2, 3), at())
    whereabouts.lay_into(session, volunteer, one, tray, 5, at(1))
    assert say(find(session, one).where) == "Cigar box, place 5"
    with pytest.raises(ConflictError, match="Free: 1, 2, 3, 4 and 6"):
        whereabouts.lay_into(session, volunteer, other, tray, 5, at(1))
    whereabouts.lay_into(session, volunteer, other, tray, None, at(1))
    assert say(find(session, other).where) == "Cigar box, place 1"


def test_a_full_box_takes_no_more(session: Session, volunteer: Actor) -> None:
    one, other = numbers_of(open_donor(session, volunteer, 2))
    box = _box(session, volunteer, capacity=1)
    whereabouts.lay_into(session, volunteer, one, box, None, at(1))
    whereabouts.lay_into(session, volunteer, one, box, None, at(1))
    with pytest.raises(ConflictError, match="is full: 1 of 1"):
        whereabouts.lay_into(session, volunteer, other, box, None, at(1))


@pytest.mark.parametrize(
    ("kind", "says"),
    [("holding-box", "is a hazard"), ("shelf-box", "is a hazard"), ("out-box", "is a hazard")],
)
def test_a_hazard_leaves_the_fire_safe_box_for_no_other_place(
    session: Session, volunteer: Actor, kind: str, says: str
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, ["swollen"], at())
    with pytest.raises(DangerError, match=says):
        whereabouts.lay_into(session, volunteer, number, _box(session, volunteer, kind), None, at(1))
    assert say(find(session, number).where) == "Fire-safe box"


def test_what_is_out_goes_out_and_what_is_not_graded_not_onto_the_shelf(session: Session, volunteer: Actor) -> None:
    low, new = numbers_of(open_donor(session, volunteer, 2))
    entries.inspect(session, volunteer, low, [], at())
    voltage(session, volunteer, low, "1.2", at(minutes=1))
    shelf = place_of_kind(session, "shelf-box")
    with pytest.raises(DangerError, match="goes into the out-box"):
        whereabouts.lay_into(session, volunteer, low, shelf, None, at(1))
    with pytest.raises(ConflictError, match="not graded yet"):
        whereabouts.lay_into(session, volunteer, new, shelf, None, at(1))
    with pytest.raises(ConflictError, match="is not out"):
        whereabouts.lay_into(session, volunteer, new, place_of_kind(session, "out-box"), None, at(1))
    whereabouts.lay_into(session, volunteer, low, place_of_kind(session, "out-box"), None, at(1))
    assert say(find(session, low).where) == "Out-box"


def test_a_cell_of_a_pack_is_found_there_and_not_moved(session: Session, volunteer: Actor) -> None:
    numbers = shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = keep(session, volunteer)
    assert say(find(session, numbers[0]).where) == f"in pack {pack.number}"
    with pytest.raises(ConflictError, match=f"belongs to pack {pack.number}"):
        whereabouts.lay_into(session, volunteer, numbers[0], _box(session, volunteer), None, at(3))


def test_a_cell_in_a_device_is_known_there_until_it_is_laid_down_again(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    whereabouts.put_into_use(session, volunteer, number, "reading lamp", at(1))
    assert say(find(session, number).where) == "in use in reading lamp"
    assert cell_story(session, number, at(1)).listed.step == "in-use"
    whereabouts.lay_into(session, volunteer, number, _box(session, volunteer), None, at(2))
    assert cell_story(session, number, at(2)).listed.step == "inspect"


def test_a_count_names_the_missing_and_the_misplaced_and_moves_nothing(session: Session, volunteer: Actor) -> None:
    here, lost = shelf_of(session, volunteer, [2500, 2400])
    stray = numbers_of(open_donor(session, volunteer))[0]
    shelf = place_of_kind(session, "shelf-box")
    before = say(find(session, stray).where)
    counted = take_stock(session, volunteer, shelf, [here, f"C{stray}", here], at(5))
    assert [[cell.number for cell in group] for group in (counted.here, counted.missing, counted.misplaced)] == [
        [here], [lost], [stray],
    ]  # fmt: skip
    assert say(find(session, stray).where) == before
    kept = last_stock_take(session, shelf)
    assert kept
    assert (kept.missing, kept.misplaced) == ([lost], [stray])


def test_what_is_no_cell_is_named_in_a_count_and_stops_only_the_keeping_of_it(
    session: Session, volunteer: Actor
) -> None:
    (here,) = shelf_of(session, volunteer, [2500])
    shelf, nobody = place_of_kind(session, "shelf-box"), make_number("cell", 99_999)
    counted = count_stock(session, shelf, [nobody, "12", here])
    assert ([cell.number for cell in counted.here], [typed for typed, _ in counted.unknown]) == ([here], ["12", nobody])
    with pytest.raises(NotFoundError):
        take_stock(session, volunteer, shelf, [here, nobody], at(5))


@pytest.mark.parametrize(
    ("wanted", "field"),
    [
        (PlaceToMake("fire-safe BOX", "shelf-box"), "name"),
        (PlaceToMake("", "shelf-box"), "name"),
        (PlaceToMake("Blue", "drawer"), "kind"),
        (PlaceToMake("Blue", "tray"), "rows"),
        (PlaceToMake("Blue", "shelf-box", 2, 3), "rows"),
        (PlaceToMake("Blue", "shelf-box", capacity=0), "capacity"),
    ],
)
def test_a_place_that_cannot_be_is_refused_at_its_field(
    session: Session, volunteer: Actor, wanted: PlaceToMake, field: str
) -> None:
    with pytest.raises(BadInputError) as refused:
        make_place(session, volunteer, wanted, at())
    assert refused.value.field == field


def test_everything_that_has_a_number_is_found_by_it(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer)
    tray = donor.cells[0].place
    assert tray
    found = {find(session, number).thing for number in (donor.cells[0].number, donor.number, tray.number, "X101")}
    assert found == {"cell", "donor", "tray", "box"}
    with pytest.raises(NotFoundError, match="another cafe"):
        find(session, make_number("pack", 9999))


def test_a_second_label_needs_its_reason_and_both_stand_in_the_cells_story(session: Session, volunteer: Actor) -> None:
    one, other = numbers_of(open_donor(session, volunteer, 2))
    labels.record_print(session, volunteer, "a4-65", [one], 1, None, at(1))
    assert labels.unlabelled_cells(session) == [other]
    with pytest.raises(BadInputError, match=f"{one} had a label before") as refused:
        labels.record_print(session, volunteer, "a4-65", [one, other], 1, None, at(2))
    assert refused.value.field == "why"
    again = labels.record_print(session, volunteer, "a4-65", [one, other], 1, "torn off", at(2))
    assert (again.again, labels.unlabelled_cells(session)) == ([one], [])
    happened = [h.what for h in cell_story(session, one, at(3)).happenings if h.what.startswith("label")]
    assert happened == ["label-printed", "label-printed-again"]
