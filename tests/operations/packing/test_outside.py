"""Packs out of the house: told of, forgotten on request, back and mended, called back, read of, taken in from elsewhere."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pypdfium2
import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.support.benchwork import at, build, give_out, keep, move, shelf_of, voltage
from zembric.core.errors import BadInputError, ConflictError, DangerError, NotAllowedError, NotFoundError
from zembric.demo.hands import prove
from zembric.models import AnsweredRequest, CellRow, Donor, Happening, Pack
from zembric.operations.actors import Actor
from zembric.operations.packing import outside, recalls, taken_in
from zembric.operations.packing.acts import proved_before
from zembric.operations.packing.handwork import proving_of
from zembric.operations.packing.layouts import cells_by_key
from zembric.operations.packing.mending import mend_back, mend_ways
from zembric.operations.packing.outside import TypedReport, TypedReturn
from zembric.operations.packing.packs import refusals_to_move
from zembric.operations.packing.public import promises, public_pack
from zembric.prints.letters import recall_letter_pdf

FIVE = [2500, 2450, 2400, 2350, 2300]
OLD = taken_in.PackToTakeIn(
    "Bell of the ferry", 2, 1, "layered-oxide", "18650", "2000", ("3.80", "3.81"), looked_at=True
)


@pytest.fixture
def pack(session: Session, volunteer: Actor) -> Pack:
    """Given out."""
    shelf_of(session, volunteer, FIVE)
    return give_out(session, volunteer, build(session, volunteer, keep(session, volunteer), at(3)), at(4))


@pytest.fixture
def joined(session: Session, volunteer: Actor) -> Pack:
    """Built, and still here."""
    shelf_of(session, volunteer, FIVE)
    return build(session, volunteer, keep(session, volunteer), at(3))


def back(session: Session, who: Actor, pack: Pack) -> Pack:
    return move(session, who, pack, "back", at(60))


# --- Given out -------------------------------------------------------------------------------------------------------


def test_what_is_told_of_a_pack_stands_beside_what_was_worked_out(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    assert promises(session) is None
    outside.report_use(session, volunteer, pack.number, TypedReport("fine", hours="12", weeks="6"), at(20))
    outside.report_use(session, volunteer, pack.number, TypedReport("", hours="11,5"), at(30))
    answer = promises(session)
    assert answer is not None
    assert [promise.told_h for promise in answer.promises] == [11.5]
    with pytest.raises(BadInputError):
        outside.report_use(session, volunteer, pack.number, TypedReport(" "), at(30))


def test_who_has_a_pack_is_not_asked_for_and_is_forgotten_on_request(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    assert "duck pond" in (pack.given_to or "")
    outside.forget_holder(session, volunteer, pack.number, at(5))
    forgotten = (pack.given_to, pack.state)
    assert forgotten == (None, "given-out")


def test_forgetting_reaches_the_answers_that_are_kept(session: Session, volunteer: Actor, pack: Pack) -> None:
    answers = [
        {"number": pack.number},
        {"packs": [{"number": pack.number}]},
        {"recalls": [{"number": pack.number}]},
        {"number": "P999"},
    ]
    for key, answer in enumerate(answers):
        kept = AnsweredRequest(
            person_id=volunteer.person_id, key=f"key-of-{key}", request_hash="x", status=200, answer=answer, at=at(5)
        )
        session.add(kept)
    session.flush()
    outside.forget_holder(session, volunteer, pack.number, at(6))
    assert session.scalars(select(AnsweredRequest.answer)).all() == [{"number": "P999"}]


def test_a_page_is_read_by_its_address_alone_until_it_is_withdrawn(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    page = outside.open_page(session, volunteer, pack.number, at(5))
    assert outside.open_page(session, volunteer, pack.number, at(6)).token == page.token
    told = public_pack(session, page.token, at(6))
    assert told.card.number == pack.number
    assert len(page.token) >= 32
    outside.withdraw_page(session, volunteer, pack.number, at(7))
    with pytest.raises(NotFoundError):
        public_pack(session, page.token, at(8))
    assert outside.open_page(session, volunteer, pack.number, at(9)).token != page.token


# --- Back ------------------------------------------------------------------------------------------------------------


def test_one_cell_of_a_pack_that_came_back_is_exchanged_for_the_best_of_the_shelf(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    back(session, volunteer, pack)
    assert set(proved_before(session, pack)) >= {"groups", "charge", "run", "energy"}
    _, found = outside.take_back(
        session, volunteer, pack.number, TypedReturn("half as long", (), ("3.80", "3.60")), at(61)
    )
    assert [each.group for each in found] == [2]
    outside.decide_return(session, volunteer, pack.number, "replace", at(61))
    out, stays = cells_by_key(pack)[2, 1], cells_by_key(pack)[2, 2]
    ways = mend_ways(session, pack, out.number, at(61))
    assert ways.ways
    comes = ways.ways[0].number
    # Old readings first, then one that is too far from its group: neither is joined.
    with pytest.raises(ConflictError, match="older than"):
        mend_back(session, volunteer, pack.number, out.number, comes, at(61))
    voltage(session, volunteer, comes, "3.80", at(61), confirmed=True)
    with pytest.raises(ConflictError, match=r"0\.20.*apart"):
        mend_back(session, volunteer, pack.number, out.number, comes, at(61))
    voltage(session, volunteer, stays.number, "3.79", at(61), confirmed=True)
    mend_back(session, volunteer, pack.number, out.number, comes, at(61))
    assert cells_by_key(pack)[2, 1].number == comes
    assert out.judgement
    assert out.judgement.next_step == "inspect"
    assert out.place
    assert out.place.kind == "holding-box"
    assert proving_of(session, pack, at(62)).next_key == "groups"
    prove(session, volunteer, pack.number, at(62))
    assert move(session, volunteer, pack, "given-out", at(63)).state == "given-out"


def test_what_is_dangerous_stops_the_pack_and_it_only_goes_apart(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    back(session, volunteer, pack)
    outside.take_back(session, volunteer, pack.number, TypedReturn("", ("swollen",)), at(61))
    assert pack.stopped_at == at(61)
    with pytest.raises(ConflictError, match="only goes apart"):
        outside.decide_return(session, volunteer, pack.number, "again", at(61))
    outside.decide_return(session, volunteer, pack.number, "retire", at(61))


def test_a_return_is_told_in_full_or_not_at_all(session: Session, volunteer: Actor, pack: Pack) -> None:
    with pytest.raises(ConflictError, match="did not come back"):
        outside.take_back(session, volunteer, pack.number, TypedReturn("broken"), at(60))
    back(session, volunteer, pack)
    with pytest.raises(BadInputError):
        outside.take_back(session, volunteer, pack.number, TypedReturn(""), at(61))
    with pytest.raises(BadInputError, match="all 2 groups"):
        outside.take_back(session, volunteer, pack.number, TypedReturn("", (), ("3.8",)), at(61))
    with pytest.raises(BadInputError, match="point in the wrong place"):
        outside.take_back(session, volunteer, pack.number, TypedReturn("", (), ("3.8", "38.0")), at(61))
    assert pack.stopped_at is None
    with pytest.raises(ConflictError, match="First what is wrong"):
        outside.decide_return(session, volunteer, pack.number, "again", at(61))


def test_a_cell_taken_out_knows_what_the_pack_did_to_it(session: Session, volunteer: Actor, pack: Pack) -> None:
    back(session, volunteer, pack)
    outside.take_back(session, volunteer, pack.number, TypedReturn("", (), ("3.80", "3.78")), at(61))
    cell = cells_by_key(pack)[2, 1]
    move(session, volunteer, pack, "taken-apart", at(63))
    told = session.scalar(select(Happening).where(Happening.cell_id == cell.id, Happening.what == "pack-taken-apart"))
    assert told
    assert {key: told.details[key] for key in ("group", "days", "group_v")} == {"group": 2, "days": 60, "group_v": 3.78}
    assert 0 < told.details["peak_a"] < 0.2


# --- Called back -----------------------------------------------------------------------------------------------------


def test_a_donor_is_called_back_until_each_of_its_packs_is_settled(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack
) -> None:
    donor = session.scalar(select(Donor))
    assert donor
    asked = recalls.Asked("donor", donor.number)
    (used,) = recalls.where_used(session, asked)
    assert (used.pack.number, len(used.cells)) == (pack.number, 4)
    with pytest.raises(NotAllowedError):
        recalls.call_back(session, volunteer, asked, "The wrap melts", "Bring it back", at(70))
    recall = recalls.call_back(session, coordinator, asked, "The wrap melts", "Bring it back", at(70))
    assert [each.pack.number for each in recalls.open_recalls(session)] == [pack.number]
    page = outside.open_page(session, volunteer, pack.number, at(70))
    assert public_pack(session, page.token, at(70)).notices == ("Bring it back",)
    letter = pypdfium2.PdfDocument(recall_letter_pdf(recall.packs[0]))
    text = letter[0].get_textpage().get_text_range()
    letter.close()
    assert "The wrap melts" in text
    assert pack.number in text
    assert "called-back" in [each.code for each in refusals_to_move(session, pack, "given-out", at(71))]
    recalls.settle(session, volunteer, recall.packs[0].id, "brought back on Friday", at(71))
    assert recalls.open_recalls(session) == []
    assert "called-back" not in [each.code for each in refusals_to_move(session, pack, "given-out", at(71))]


@pytest.mark.parametrize(
    ("about", "text", "finds"),
    [
        ("model", "18650", True), ("model", "21700", False), ("volunteer", "volun", True), ("volunteer", "nobody", False),
        ("part", "lamp", False), ("batch", "no such thing", False),
    ],
)  # fmt: skip
def test_packs_are_found_by_what_is_known_of_their_cells(
    session: Session, joined: Pack, about: str, text: str, finds: bool
) -> None:
    asked = recalls.Asked(about, text)  # type: ignore[arg-type]
    assert (joined.number in [each.pack.number for each in recalls.where_used(session, asked)]) == finds


@pytest.mark.usefixtures("joined")
def test_packs_are_found_by_the_day_they_were_made(session: Session, coordinator: Actor) -> None:
    day = at(2).date()
    assert recalls.where_used(session, recalls.Asked("made-on", since=day))
    assert not recalls.where_used(session, recalls.Asked("made-on", since=at(30).date()))
    assert not recalls.where_used(session, recalls.Asked("made-on", since=day, utc_offset_min=14 * 60))
    for nothing in (recalls.Asked("made-on"), recalls.Asked("batch", "%%"), recalls.Asked("made-on", since=date.max)):
        with pytest.raises(BadInputError):
            recalls.where_used(session, nothing)
    with pytest.raises(ConflictError, match="nothing to call back"):
        recalls.call_back(session, coordinator, recalls.Asked("made-on", since=at(30).date()), "why", "tell", at(70))


# --- From elsewhere --------------------------------------------------------------------------------------------------


def test_a_pack_from_elsewhere_is_taken_in_as_one_that_came_back(session: Session, volunteer: Actor) -> None:
    pack = taken_in.take_in(session, volunteer, OLD, at(1))
    assert (pack.state, pack.series, pack.parallel) == ("back", 2, 1)
    cells = [member.cell for group in pack.groups for member in group.cells]
    assert len({cell.number for cell in cells}) == 2
    assert {cell.place for cell in cells} == {None}
    assert proving_of(session, pack, at(1)).next_key == "groups"


@pytest.mark.parametrize(
    ("changed", "error"),
    [
        ({"looked_at": False}, DangerError), ({"family": "primary"}, BadInputError), ({"capacity_mah": "0"}, BadInputError),
        ({"group_volts": ("3.8",)}, BadInputError), ({"series": 41}, BadInputError), ({"purpose": " "}, BadInputError),
        ({"series": 8, "group_volts": ("3.8",) * 8}, NotAllowedError),
    ],
)  # fmt: skip
def test_what_cannot_be_taken_in_leaves_nothing_behind(
    session: Session, volunteer: Actor, changed: dict[str, object], error: type[Exception]
) -> None:
    with pytest.raises(error):
        taken_in.take_in(session, volunteer, replace(OLD, **changed), at(1))  # type: ignore[arg-type]
    assert session.scalar(select(Pack.id)) is None
    assert session.scalar(select(CellRow.id)) is None
