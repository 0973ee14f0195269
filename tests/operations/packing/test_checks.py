"""A pack's plan as it is kept: parts, what stops it, what a coordinator lets pass, and what would be otherwise."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, build, keep, move, open_donor, shelf_of, well_planned
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError, NotAllowedError
from zembric.core.pack.parts import TypedPart
from zembric.demo.hands import prove
from zembric.models import Pack
from zembric.operations import donors
from zembric.operations.actors import Actor
from zembric.operations.packing import packs, plans
from zembric.operations.packing.cards import card_of, pack_label_of
from zembric.operations.packing.checks import WhatIf, check_pack, open_stops
from zembric.operations.packing.parts import PartToKeep

FIVE = [2500, 2450, 2400, 2350, 2300]


@pytest.fixture
def pack(session: Session, volunteer: Actor) -> Pack:
    shelf_of(session, volunteer, FIVE)
    return keep(session, volunteer)


def planned(session: Session, who: Actor, pack: Pack, **changed: dict[str, str]) -> Pack:
    """Planned well but for some figures, and a promise if one is given."""
    parts = [
        replace(each, part=replace(each.part, values={**each.part.values, **changed.pop(each.part.kind, {})}))
        for each in well_planned(pack.series)
    ]
    parts += [PartToKeep(TypedPart(kind, values)) for kind, values in changed.items()]  # type: ignore[arg-type]
    return packs.set_parts(session, who, pack.number, parts, pack.version, at(2))


def stops(session: Session, pack: Pack) -> list[str]:
    return [line.id for line in open_stops(session, pack, at(2))]


def test_a_pack_of_which_nobody_said_what_stops_it_is_not_built(session: Session, volunteer: Actor, pack: Pack) -> None:
    for group in pack.groups:
        for member in group.cells:
            plans.pick_cell(session, volunteer, pack.number, member.cell.number, at(2))
    with pytest.raises(ConflictError, match="A low cut-off"):
        move(session, volunteer, pack, "built", at(3))
    planned(session, volunteer, pack)
    assert move(session, volunteer, pack, "built", at(3)).state == "built"


def test_a_waiver_of_a_coordinator_holds_as_long_as_the_line_reads_the_same(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack
) -> None:
    planned(session, volunteer, pack, promise={"hours": "90", "leaves": "by-hand"})
    assert stops(session, pack) == ["promise-hours"]
    with pytest.raises(NotAllowedError):
        packs.waive_check(session, volunteer, pack.number, "promise-hours", "they know", at(2))
    with pytest.raises(BadInputError):
        packs.waive_check(session, coordinator, pack.number, "promise-hours", " ", at(2))
    packs.waive_check(session, coordinator, pack.number, "promise-hours", "they know that it runs a day", at(2))
    assert stops(session, pack) == []
    planned(session, volunteer, pack, promise={"hours": "95", "leaves": "by-hand"})
    assert stops(session, pack) == ["promise-hours"]
    (lapsed,) = check_pack(session, pack, at(2)).lapsed
    assert (lapsed.why, lapsed.by_id) == ("they know that it runs a day", coordinator.person_id)


@pytest.mark.parametrize(
    ("changed", "check", "words"),
    [
        ({"board": {"balance": "none"}}, "balance", "never waived"),
        ({"charger": {"full_v": "12.6"}}, "charger-full", "never waived"),
        ({}, "fuse", "stops nothing"),
    ],
)
def test_what_protects_people_and_what_stops_nothing_is_not_waived(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack, changed: dict[str, dict[str, str]], check: str, words: str
) -> None:  # fmt: skip
    planned(session, volunteer, pack, **changed)
    with pytest.raises(ConflictError, match=words):
        packs.waive_check(session, coordinator, pack.number, check, "nobody minds", at(2))


def test_a_built_pack_whose_parts_no_longer_do_is_not_given_out(session: Session, volunteer: Actor, pack: Pack) -> None:
    build(session, volunteer, pack, at(3))
    prove(session, volunteer, pack.number, at(4))
    planned(session, volunteer, pack, board={"over_v": "4.4"})
    with pytest.raises(ConflictError, match="The board's upper limit"):
        move(session, volunteer, pack, "given-out", at(4), given_to="the harbour, door 3")


def test_of_two_who_change_the_parts_at_once_the_second_is_told(session: Session, volunteer: Actor, pack: Pack) -> None:
    seen = pack.version
    planned(session, volunteer, pack)
    with pytest.raises(ChangedMeanwhileError):
        packs.set_parts(session, volunteer, pack.number, [], seen, at(2))
    assert len(pack.parts) == 5


def test_a_donors_part_is_in_one_pack_and_gone_when_that_is_built_and_here_again_when_it_is_taken_apart(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    part = donors.keep_part(session, volunteer, open_donor(session, volunteer).number, "switch", "rocker", at(1))
    switch = PartToKeep(TypedPart("switch", {"most_a": "3"}, "rocker"), part.id)
    packs.set_parts(session, volunteer, pack.number, [*well_planned(2), switch], pack.version, at(2))
    shelf_of(session, volunteer, FIVE)
    other = keep(session, volunteer, purpose="tide gauge")
    with pytest.raises(ConflictError, match=pack.number):
        packs.set_parts(session, volunteer, other.number, [switch], other.version, at(2))
    for group in pack.groups:
        for member in group.cells:
            plans.pick_cell(session, volunteer, pack.number, member.cell.number, at(3))
    move(session, volunteer, pack, "built", at(3))
    assert part.gone_why == pack.number
    move(session, volunteer, pack, "taken-apart", at(4))
    assert part.gone_at is None


# --- On paper --------------------------------------------------------------------------------------------------------


def hours(session: Session, pack: Pack, **asked: object) -> float:
    runs = check_pack(session, pack, at(2), WhatIf(**asked)).checked.runs  # type: ignore[arg-type]
    assert runs is not None
    return runs.paper.lasts_s / 3600


def test_a_plan_is_run_with_what_its_cells_hold_and_looked_at_otherwise(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    planned(session, volunteer, pack)
    sums = [sum(member.capacity_mah for member in group.cells) for group in pack.groups]
    usual = hours(session, pack)
    assert 0.95 * min(sums) / 200 < usual < min(sums) / 200
    assert hours(session, pack, quick=True) == pytest.approx(usual, rel=2e-3)
    assert hours(session, pack, load_kind="current", load="400 mA") == pytest.approx(usual / 2, rel=0.02)
    weakest = pack.groups[sums.index(min(sums))].cells[0].cell.number
    assert hours(session, pack, exchanges={weakest: None}) < 0.6 * usual
    with pytest.raises(BadInputError) as refused:
        hours(session, pack, load_kind="power", load="much")
    assert refused.value.field == "load"
    for wrong in ({"1999": None}, {weakest: weakest}):
        with pytest.raises(BadInputError) as refused:
            hours(session, pack, exchanges=wrong)
        assert refused.value.field == "exchanges"


def test_a_cell_that_comes_into_a_run_brings_what_it_holds(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, [*FIVE, 1900])
    pack = planned(session, volunteer, keep(session, volunteer))
    inside = [member.cell.number for group in pack.groups for member in group.cells]
    assert shelf[-1] not in inside
    assert hours(session, pack, exchanges={inside[0]: shelf[-1]}) < 0.95 * hours(session, pack)


def test_a_colder_converter_makes_it_shorter(session: Session, volunteer: Actor, pack: Pack) -> None:
    planned(
        session, volunteer, pack, converter={"converter_kind": "step-down", "out_v": "5", "least_in_v": "5.5"}
    )  # fmt: skip
    assert hours(session, pack, colder_pct=10) == pytest.approx(0.9 * hours(session, pack), rel=0.01)


def test_a_card_goes_with_a_pack_that_is_built_and_sound(session: Session, volunteer: Actor, pack: Pack) -> None:
    with pytest.raises(ConflictError, match="planned"):
        card_of(session, pack.number, at(3))
    build(session, volunteer, pack, at(3))
    card = card_of(session, pack.number, at(3))
    assert (card.number, card.purpose) == (pack.number, pack.purpose)
    assert card.left
    assert pack_label_of(session, pack.number, at(3)).number == pack.number
    packs.stop_pack(session, volunteer, pack.number, "it got warm", at(4))
    with pytest.raises(ConflictError, match="sound"):
        card_of(session, pack.number, at(4))
